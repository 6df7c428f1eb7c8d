"""Prints PDF pages by the usual dialog: each page drawn as a picture in the printer's resolution."""

from PySide6.QtCore import QRect, Qt
from PySide6.QtGui import QImage, QPainter
from PySide6.QtPrintSupport import QPrintDialog, QPrinter
from PySide6.QtWidgets import QWidget

DPI = 300


def ask_printer(parent: QWidget, pdf: bytes) -> bool:
    """Show the dialog and print what it says; False where it was left."""
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    dialog = QPrintDialog(printer, parent)
    if dialog.exec() != QPrintDialog.DialogCode.Accepted:
        return False
    print_pages(printer, pdf)
    return True


def print_pages(printer: QPrinter, pdf: bytes) -> int:
    """Draw every page of a PDF onto the printer; how many there were."""
    images = page_images(pdf)
    painter = QPainter(printer)
    for number, image in enumerate(images):
        if number:
            printer.newPage()
        page = painter.viewport()
        size = image.size().scaled(page.size(), Qt.AspectRatioMode.KeepAspectRatio)
        painter.drawImage(QRect(0, 0, size.width(), size.height()), image)
    painter.end()
    return len(images)


def page_images(pdf: bytes) -> list[QImage]:
    """The pages of a PDF as pictures."""
    import pypdfium2

    document = pypdfium2.PdfDocument(pdf)
    try:
        return [_image(page.render(scale=DPI / 72.0)) for page in document]
    finally:
        document.close()


def _image(bitmap) -> QImage:  # type: ignore[no-untyped-def]  # pypdfium2 has no types
    array = bitmap.to_numpy()
    height, width = array.shape[:2]
    return QImage(array.data, width, height, bitmap.stride, QImage.Format.Format_BGR888).copy()
