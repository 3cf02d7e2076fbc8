"""What Copy puts on the clipboard: a row, a table, a card, a finding, a drawing."""

from __future__ import annotations

from PySide6.QtCore import QBuffer, QIODevice, QMimeData, QPoint, Qt
from PySide6.QtGui import QGuiApplication, QImage, QPainter
from PySide6.QtSvg import QSvgGenerator
from PySide6.QtWidgets import QLabel, QLineEdit, QPlainTextEdit, QTableView, QWidget


def row_words(table: QTableView, row: int) -> str:
    """A row's cells parted by tabs, as a spreadsheet pastes them."""
    model = table.model()
    return "\t".join(str(model.data(model.index(row, column)) or "") for column in range(model.columnCount()))


def copied(words: str) -> bool:
    """Words onto the clipboard; whether there were any."""
    if words:
        QGuiApplication.clipboard().setText(words)
    return bool(words)


def copy_here(window: QWidget) -> str:
    """Copy what has the focus, or what it stands in; what was copied, in a word, and empty where nothing was."""
    widget: QWidget | None = window.focusWidget()
    if isinstance(widget, QLineEdit | QPlainTextEdit):
        widget.copy()
        return "Selection"
    if isinstance(widget, QLabel) and widget.hasSelectedText():
        return "Selection" if copied(widget.selectedText()) else ""
    while widget is not None:
        if isinstance(widget, QTableView):
            chosen = widget.selectionModel().selectedIndexes()
            return "Row" if chosen and copied(row_words(widget, chosen[0].row())) else ""
        offers = getattr(widget, "copied_words", None)
        if offers is not None:
            what, words = offers()
            return str(what) if copied(words) else ""
        if hasattr(widget, "draws_itself"):
            copy_picture(widget)
            return "Drawing"
        widget = widget.parentWidget()
    return ""


def copy_table(window: QWidget) -> str:
    """Copy all rows of the table that has the focus, with its heads."""
    widget: QWidget | None = window.focusWidget()
    while widget is not None:
        if isinstance(widget, QTableView):
            model = widget.model()
            heads = [model.headerData(c, Qt.Orientation.Horizontal) for c in range(model.columnCount())]
            rows = (row_words(widget, row) for row in range(model.rowCount()))
            return "Table" if copied("\n".join(["\t".join(str(h or "") for h in heads), *rows])) else ""
        widget = widget.parentWidget()
    return ""


def copy_picture(widget: QWidget) -> None:
    """A drawing as SVG and as a picture: who pastes takes what it can."""
    data = QMimeData()
    held = QBuffer()
    held.open(QIODevice.OpenModeFlag.WriteOnly)
    made = QSvgGenerator()
    made.setOutputDevice(held)
    made.setSize(widget.size())
    made.setViewBox(widget.rect())
    made.setTitle(widget.accessibleName())
    painter = QPainter(made)
    widget.render(painter, QPoint(0, 0))
    painter.end()
    data.setData("image/svg+xml", held.data())
    picture = QImage(widget.size() * 2, QImage.Format.Format_ARGB32)
    picture.setDevicePixelRatio(2.0)
    widget.render(picture)
    data.setImageData(picture)
    QGuiApplication.clipboard().setMimeData(data)
