"""The made-up firm Hollin Fell Instruments, and how its workspace is built."""

from datetime import UTC, datetime
from pathlib import Path

from kaustos.demo.scenario import build

__all__ = ["build", "example"]


def example() -> Path:
    """The firm's workspace among the user's data, built when it is not there yet."""
    import platformdirs

    folder = Path(platformdirs.user_data_dir("kaustos"))
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / "example.kaustos"
    if not file.exists():
        build(file, datetime.now(UTC))
    return file
