"""Makes the program known to the user's desktop: entry, icon and the type of its files."""

import shutil
import subprocess
from pathlib import Path

ASSETS = Path(__file__).parents[1] / "assets"
FILES = (  # asset, place below the user's data folder
    ("desktop/kaustos.desktop", "applications/kaustos.desktop"),
    ("desktop/kaustos.xml", "mime/packages/kaustos.xml"),
    ("icons/kaustos.svg", "icons/hicolor/scalable/apps/kaustos.svg"),
)
UPDATES = (("update-mime-database", "mime"), ("update-desktop-database", "applications"))


def install(data_folder: Path) -> tuple[Path, ...]:
    """Copy the files where desktops look for them; what was written."""
    written = []
    for asset, place in FILES:
        target = data_folder / place
        target.parent.mkdir(parents=True, exist_ok=True)
        shutil.copyfile(ASSETS / asset, target)
        written.append(target)
    for tool, folder in UPDATES:
        if shutil.which(tool):
            subprocess.run([tool, str(data_folder / folder)], check=False, capture_output=True)
    return tuple(written)
