"""Photos kept with a record, a run's or a lot's: chosen or dropped, and the newest shown."""

from collections.abc import Sequence
from pathlib import Path

import attrs
from PySide6.QtGui import QImage, QPixmap
from PySide6.QtWidgets import QFileDialog, QWidget

from kaustos.app.workspace import LARGEST_ATTACHMENT
from kaustos.core.errors import KaustosError
from kaustos.core.records import Photo, Place
from kaustos.disk import name_of, read_bytes
from kaustos.ui.desk import Desk
from kaustos.ui.look.text import Label

WIDTH = 490


def ask_photo(parent: QWidget) -> Path | None:
    """The photo that the user chooses."""
    name, _ = QFileDialog.getOpenFileName(parent, "Add photo", "", "Photos (*.png *.jpg *.jpeg)")
    return Path(name) if name else None


def keep_photo(desk: Desk, record: Place, file: Path, title: str) -> None:
    """Keep a photo with a record, a run or a lot."""
    photos = attrs.evolve(record, field="photos")
    present = desk.workspace.draft.value(photos)
    assert isinstance(present, tuple), "photos are a list"
    content = read_bytes(file, LARGEST_ATTACHMENT)
    if QImage.fromData(content).isNull():
        raise KaustosError(f"{name_of(file)}: is no picture that can be shown; nothing was kept")
    photo = Photo(sha256=desk.workspace.keep(name_of(file), content), name=name_of(file))
    desk.workspace.draft.set({photos: (*present, photo)}, title=f"{title}: photo {file.name}")


class PhotoLabel(Label):
    """The newest of some photos, the others named."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self._desk = desk
        self.hide()

    def follow(self, photos: Sequence[Photo]) -> None:
        """Show the newest, or nothing."""
        self.setVisible(bool(photos))
        if not photos:
            return
        picture = QPixmap()
        picture.loadFromData(self._desk.workspace.attachment(photos[-1].sha256) or b"")
        if picture.isNull():
            self.setText(f"{photos[-1].name} cannot be shown.")
        else:
            self.setPixmap(picture.scaledToWidth(min(picture.width(), WIDTH)))
        self.setToolTip(", ".join(photo.name for photo in photos))
        self.setAccessibleName(f"Photo {photos[-1].name}")
