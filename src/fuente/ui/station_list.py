"""The stations along the water: the navigation of the Water path."""

from __future__ import annotations

from typing import NamedTuple

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QFontMetrics, QPainter, QPen
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QStyle, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from fuente.devices.base import Finding, Rank, Station
from fuente.ui import glyphs, theme
from fuente.units import UnitSystem, fill

SAY = 200  # ms without a change after which the rows' words are told
_GRAIN = 200  # steps of a bar: what is finer cannot be seen


class Look(NamedTuple):
    """What a row shows of its station: rows are painted again only where this changes."""

    id: str
    name: str
    words: str
    rank: Rank | None
    glyph: str
    pumped: bool
    used: float | None

    @classmethod
    def of(cls, station: Station, rank: Rank | None, units: UnitSystem) -> Look:
        """Of a station with the rank of what is found there."""
        words = fill(station.headline, station.values, units)
        used = None if station.used is None else round(station.used * _GRAIN) / _GRAIN
        return cls(station.id, station.name, words, rank, station.glyph, station.pumped, used)


class StationList(QListWidget):
    """Rows of station, headline number, and bar of used against available."""

    picked = Signal(str)

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.setObjectName("panel")
        self.setStyleSheet("QListWidget { border: none; background: transparent; outline: none; }")
        self.looks: list[Look] = []
        self.setItemDelegate(_Row(self))
        # A view lays itself out anew for every text: those follow once the numbers stand.
        self._told = QTimer(self)
        self._told.setSingleShot(True)
        self._told.setInterval(SAY)
        self._told.timeout.connect(self._say)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.setAccessibleName("Stations along the water")
        self.currentRowChanged.connect(self._chosen)

    def show_stations(
        self, stations: tuple[Station, ...], findings: tuple[Finding, ...], selected: str, units: UnitSystem
    ) -> None:
        """Follow the analysis; rows are kept where the stations are the same, and painted where they look otherwise."""
        worst: dict[str, Rank] = {}
        for f in findings:
            worst[f.owner] = min(f.rank, worst.get(f.owner, f.rank))
        before, looks = self.looks, [Look.of(s, worst.get(s.id), units) for s in stations]
        self.blockSignals(True)
        if [(x.id, x.used is None) for x in before] == [(x.id, x.used is None) for x in looks]:
            self.looks = looks
        else:
            self.clear()
            self.looks = looks
            for _ in stations:
                self.addItem(QListWidgetItem())
            before = []
            self._say()
        for i, look in enumerate(self.looks):
            if look.id == selected and self.currentRow() != i:
                self.setCurrentRow(i)
            if before and before[i] != look:
                self.viewport().update(self.visualItemRect(self.item(i)))
                self._told.start()
        self.blockSignals(False)

    def _say(self) -> None:
        """Give the rows' words to whoever reads the list aloud or types into it."""
        for i, look in enumerate(self.looks):
            state = f", {look.rank.word}" if look.rank is not None else ""
            self.item(i).setText(f"{look.name}: {look.words}{state}")

    def _chosen(self, row: int) -> None:
        if row >= 0:
            self.picked.emit(self.looks[row].id)

    def sizeHint(self) -> QSize:
        """Narrow."""
        return QSize(theme.px(250), theme.px(400))


class _Row(QStyledItemDelegate):
    def __init__(self, rows: StationList):
        super().__init__(rows)
        self.rows = rows

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        if index.row() >= len(self.rows.looks):  # a row between being made and being filled
            return QSize(100, theme.px(44))
        look = self.rows.looks[index.row()]
        line = QFontMetrics(theme.font(13)).height()
        return QSize(100, line + QFontMetrics(theme.font(12)).height() + theme.px(22 if look.used is not None else 14))

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        if index.row() >= len(self.rows.looks):
            return
        look = self.rows.looks[index.row()]
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(option.rect)
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        if chosen:
            painter.fillRect(box, theme.color("chosen"))
        if chosen and option.state & QStyle.StateFlag.State_HasFocus:
            painter.setPen(QPen(theme.color("accent"), 1.5))
            painter.drawRect(box.adjusted(1, 1, -2, -2))
        _paint_way(painter, box, look, index.row() == 0, index.row() == index.model().rowCount() - 1)
        _paint_words(painter, box, look, chosen)
        painter.restore()


def _paint_way(painter: QPainter, box: QRectF, look: Look, first: bool, last: bool) -> None:
    """The water's way from row to row, with the station's glyph on it."""
    x, middle = box.x() + theme.px(24), box.y() + theme.px(18)
    painter.setPen(QPen(theme.color("pumped" if look.pumped else "fall"), 2.5))
    if not first:
        painter.drawLine(QPointF(x, box.top()), QPointF(x, middle - theme.px(12)))
    if not last:
        painter.drawLine(QPointF(x, middle + theme.px(12)), QPointF(x, box.bottom()))
    place = QRectF(x - theme.px(10), middle - theme.px(10), theme.px(20), theme.px(20))
    glyphs.paint(painter, look.glyph, place, theme.color("pumped" if look.pumped else "surface"))


def _paint_words(painter: QPainter, box: QRectF, look: Look, chosen: bool) -> None:
    """Name with the rank of its worst finding, headline, and bar."""
    left = box.x() + theme.px(46)
    width = box.right() - left - theme.px(12)
    painter.setFont(theme.font(13, theme.BOLD if chosen else theme.MEDIUM))
    fm = painter.fontMetrics()
    room = width - (theme.px(20) if look.rank is not None else 0)
    painter.setPen(theme.color("ink"))
    y = box.y() + theme.px(6)
    name = fm.elidedText(look.name, Qt.TextElideMode.ElideRight, int(room))
    painter.drawText(QRectF(left, y, room, fm.height()), Qt.AlignmentFlag.AlignLeft, name)
    if look.rank is not None:
        colour = theme.color(("stop", "pumped", "accent")[look.rank])
        at = QPointF(box.right() - theme.px(18), y + fm.height() / 2)
        glyphs.paint_rank(painter, look.rank, at, theme.px(8), colour)
    y += fm.height() + theme.px(1)
    painter.setFont(theme.font(12))
    fm = painter.fontMetrics()
    painter.setPen(theme.color("muted"))
    words = fm.elidedText(look.words, Qt.TextElideMode.ElideRight, int(width))
    painter.drawText(QRectF(left, y, width, fm.height()), Qt.AlignmentFlag.AlignLeft, words)
    if look.used is not None:
        y += fm.height() + theme.px(4)
        bar = QRectF(left, y, width * 0.86, theme.px(4))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("rule"))
        painter.drawRoundedRect(bar, 2, 2)
        tone = "stop" if look.used >= 0.97 else "caution" if look.used > 0.8 else "accent"
        painter.setBrush(theme.color(tone))
        painter.drawRoundedRect(QRectF(bar.x(), bar.y(), max(bar.width() * look.used, 3), bar.height()), 2, 2)
