"""The stations along the water: the navigation of the Water path."""

from __future__ import annotations

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetrics, QPainter, QPen
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QStyle, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from fuente.devices.base import Finding, Rank, Station
from fuente.ui import glyphs, theme
from fuente.units import UnitSystem, fill

_STATION = Qt.ItemDataRole.UserRole
_RANK = Qt.ItemDataRole.UserRole + 1
_UNITS = Qt.ItemDataRole.UserRole + 2


class StationList(QListWidget):
    """Rows of station, headline number, and bar of used against available."""

    picked = Signal(str)

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.setObjectName("panel")
        self.setStyleSheet("QListWidget { border: none; background: transparent; outline: none; }")
        self.setItemDelegate(_Row(self))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.setAccessibleName("Stations along the water")
        self.currentRowChanged.connect(self._chosen)

    def show_stations(
        self, stations: tuple[Station, ...], findings: tuple[Finding, ...], selected: str, units: UnitSystem
    ) -> None:
        """Follow the analysis; rows are kept where the stations are the same."""
        self.blockSignals(True)
        if [s.id for s in stations] != [self.item(i).data(_STATION).id for i in range(self.count())]:
            self.clear()
            for _ in stations:
                self.addItem(QListWidgetItem())
        for i, station in enumerate(stations):
            item = self.item(i)
            rank = min((f.rank for f in findings if f.owner == station.id), default=None)
            item.setData(_STATION, station)
            item.setData(_RANK, rank)
            item.setData(_UNITS, units)
            words = fill(station.headline, station.values, units)
            state = f", {rank.word}" if rank is not None else ""
            item.setText(f"{station.name}: {words}{state}")
            if station.id == selected:
                self.setCurrentRow(i)
        self.blockSignals(False)
        self.viewport().update()

    def _chosen(self, row: int) -> None:
        if row >= 0:
            self.picked.emit(self.item(row).data(_STATION).id)

    def sizeHint(self) -> QSize:
        """Narrow."""
        return QSize(theme.px(250), theme.px(400))


class _Row(QStyledItemDelegate):
    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        station: Station | None = index.data(_STATION)
        if station is None:  # a row between being made and being filled
            return QSize(100, theme.px(44))
        line = QFontMetrics(theme.font(13)).height()
        return QSize(
            100, line + QFontMetrics(theme.font(12)).height() + theme.px(22 if station.used is not None else 14)
        )

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        station: Station | None = index.data(_STATION)
        if station is None:
            return
        rank: Rank | None = index.data(_RANK)
        units: UnitSystem = index.data(_UNITS)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(option.rect)
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        if chosen:
            painter.fillRect(box, theme.color("chosen"))
        if chosen and option.state & QStyle.StateFlag.State_HasFocus:
            painter.setPen(QPen(theme.color("accent"), 1.5))
            painter.drawRect(box.adjusted(1, 1, -2, -2))
        x = box.x() + theme.px(24)
        middle = box.y() + theme.px(18)
        count = index.model().rowCount()
        painter.setPen(QPen(theme.color("pumped" if station.pumped else "fall"), 2.5))
        if index.row():
            painter.drawLine(QPointF(x, box.top()), QPointF(x, middle - theme.px(12)))
        if index.row() < count - 1:
            painter.drawLine(QPointF(x, middle + theme.px(12)), QPointF(x, box.bottom()))
        tone = "pumped" if station.pumped else "surface"
        glyphs.paint(
            painter,
            station.glyph,
            QRectF(x - theme.px(10), middle - theme.px(10), theme.px(20), theme.px(20)),
            theme.color(tone),
        )
        left = box.x() + theme.px(46)
        width = box.right() - left - theme.px(12)
        painter.setFont(theme.font(13, theme.BOLD if chosen else theme.MEDIUM))
        fm = painter.fontMetrics()
        room = width - (theme.px(20) if rank is not None else 0)
        painter.setPen(theme.color("ink"))
        y = box.y() + theme.px(6)
        name = fm.elidedText(station.name, Qt.TextElideMode.ElideRight, int(room))
        painter.drawText(QRectF(left, y, room, fm.height()), Qt.AlignmentFlag.AlignLeft, name)
        if rank is not None:
            colour = theme.color(("stop", "pumped", "accent")[rank])
            glyphs.paint_rank(
                painter, rank, QPointF(box.right() - theme.px(18), y + fm.height() / 2), theme.px(8), colour
            )
        y += fm.height() + theme.px(1)
        painter.setFont(theme.font(12))
        fm = painter.fontMetrics()
        painter.setPen(theme.color("muted"))
        words = fm.elidedText(fill(station.headline, station.values, units), Qt.TextElideMode.ElideRight, int(width))
        painter.drawText(QRectF(left, y, width, fm.height()), Qt.AlignmentFlag.AlignLeft, words)
        if station.used is not None:
            y += fm.height() + theme.px(4)
            bar = QRectF(left, y, width * 0.86, theme.px(4))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("rule"))
            painter.drawRoundedRect(bar, 2, 2)
            tone = "stop" if station.used >= 0.97 else "caution" if station.used > 0.8 else "accent"
            painter.setBrush(theme.color(tone))
            painter.drawRoundedRect(QRectF(bar.x(), bar.y(), max(bar.width() * station.used, 3), bar.height()), 2, 2)
        painter.restore()
