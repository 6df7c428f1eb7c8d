"""What the program remembers of its last use: the workspaces opened lately, and how the window stood."""

import json
import os
from pathlib import Path

import attrs

KEPT = 12


@attrs.frozen(kw_only=True)
class LastUse:
    """Recent workspaces, the latest first, and the window's state as Qt writes it."""

    recent: tuple[str, ...] = ()
    window: str = ""

    def opened(self, file: Path) -> "LastUse":
        """The same with a workspace as the latest."""
        name = str(file.absolute())
        return attrs.evolve(self, recent=(name, *(each for each in self.recent if each != name))[:KEPT])


def last_use_file() -> Path:
    """Where it is kept."""
    import platformdirs

    return Path(platformdirs.user_state_dir("kaustos")) / "last-use.json"


def load_last_use(file: Path) -> LastUse:
    """What is remembered; nothing where the file is missing or cannot be read: it is a convenience."""
    try:
        found = json.loads(file.read_text(encoding="utf-8"))
        return LastUse(
            recent=tuple(str(each) for each in found.get("recent", []))[:KEPT], window=str(found.get("window", ""))
        )
    except (OSError, ValueError, AttributeError, TypeError):
        return LastUse()


def save_last_use(file: Path, use: LastUse) -> None:
    """Write it whole or not at all."""
    file.parent.mkdir(parents=True, exist_ok=True)
    scratch = file.with_suffix(".new")
    scratch.write_text(json.dumps(attrs.asdict(use), ensure_ascii=False), encoding="utf-8")
    os.replace(scratch, file)
