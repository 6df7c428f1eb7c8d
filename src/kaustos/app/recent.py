"""What the program remembers of its last use: the workspaces opened lately, and how the window stood."""

import json
from pathlib import Path

import attrs

from kaustos.core.errors import KaustosError
from kaustos.disk import read_text, write_whole

KEPT = 12
LARGEST = 200_000  # bytes


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
        found = json.loads(read_text(file, LARGEST))
        return LastUse(
            recent=tuple(str(each) for each in found.get("recent", []))[:KEPT], window=str(found.get("window", ""))
        )
    except (KaustosError, ValueError, AttributeError, TypeError, RecursionError):
        return LastUse()


def save_last_use(file: Path, use: LastUse) -> None:
    """Write it whole or not at all."""
    file.parent.mkdir(parents=True, exist_ok=True)
    write_whole(file, json.dumps(attrs.asdict(use)))  # names that are no text are spelled as escapes
