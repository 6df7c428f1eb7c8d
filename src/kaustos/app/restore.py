"""Puts the state of a backup in the place of a workspace; the state before is kept beside it."""

import shutil
import tempfile
from datetime import datetime
from pathlib import Path

from kaustos.core.errors import KaustosError
from kaustos.store import Store


def restore(file: Path, backup: Path, now: datetime) -> Path:
    """Bring a closed workspace to the state of a backup; the file that keeps the state before."""
    if backup.exists() and file.exists() and backup.samefile(file):
        raise KaustosError(f"{backup.name} is the workspace itself; choose a copy of it.")
    with tempfile.TemporaryDirectory(prefix="kaustos-restore-") as folder:
        checked = Path(folder) / "checked.kaustos"
        try:
            shutil.copyfile(backup, checked)
        except OSError as error:
            raise KaustosError(f"{backup.name}: cannot be read: {error.strerror}") from error
        source = Store(checked, write=True)  # a backup of an older layout is brought up to date in the scratch copy
        try:
            kept = file.with_name(f"{file.name}.before-restore-{now:%Y%m%d-%H%M%S}")
            if file.exists():
                present = Store(file, write=True)
                try:
                    present.copy_to(kept)
                finally:
                    present.close()
            source.copy_to(file)
        finally:
            source.close()
    return kept
