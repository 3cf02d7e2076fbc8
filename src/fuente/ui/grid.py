"""A table of the screens: lines of cells as a Qt model, and its view with headings across."""

from __future__ import annotations

from collections.abc import Hashable, Sequence
from dataclasses import dataclass
from typing import Any

from PySide6.QtCore import (
    QAbstractTableModel,
    QModelIndex,
    QPersistentModelIndex,
    QSize,
    QSortFilterProxyModel,
    Qt,
    Signal,
)
from PySide6.QtGui import QKeyEvent, QKeySequence
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableView, QWidget

from fuente.ui import theme
from fuente.ui.copying import copied, row_words
from fuente.ui.heads import HEADS
from fuente.ui.label import tip

SORT = Qt.ItemDataRole.UserRole
_RIGHT = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
_LEFT = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
_NOWHERE = QModelIndex()


@dataclass(frozen=True)
class Cell:
    """What one place of a table shows."""

    text: str
    number: float | None = None  # it sorts by this where it has one
    right: bool = False
    bold: bool = False
    tint: str = ""  # name of a colour of the theme
    tip: str = ""
    typed: bool = False  # whether the builder may type into it


@dataclass(frozen=True)
class Line:
    """A row of cells and what it stands for; one with a single cell is a heading across."""

    cells: tuple[Cell, ...]
    of: Hashable = None

    @property
    def heads(self) -> bool:
        """Whether it is a heading."""
        return len(self.cells) == 1


class GridModel(QAbstractTableModel):
    """Lines as Qt asks for them."""

    typed = Signal(int, int, str)  # row, column, the words that were typed

    def __init__(self, headings: Sequence[str], right: Sequence[int] = (), parent: QWidget | None = None):
        super().__init__(parent)
        self._headings, self._right = tuple(headings), frozenset(right)
        self.lines: tuple[Line, ...] = ()
        self.headless = False

    def show(self, lines: Sequence[Line]) -> bool:
        """Show other lines; whether anything is new."""
        if tuple(lines) == self.lines:
            return False
        self.beginResetModel()
        self.lines = tuple(lines)
        self.endResetModel()
        return True

    def name_columns(self, headings: Sequence[str]) -> None:
        """Other headings over the same columns, as where other units are shown."""
        if tuple(headings) != self._headings:
            self._headings = tuple(headings)
            self.headerDataChanged.emit(Qt.Orientation.Horizontal, 0, len(self._headings) - 1)

    def rowCount(self, parent: QModelIndex | QPersistentModelIndex = _NOWHERE) -> int:
        """Lines."""
        return 0 if parent.isValid() else len(self.lines)

    def columnCount(self, parent: QModelIndex | QPersistentModelIndex = _NOWHERE) -> int:
        """Headings."""
        return 0 if parent.isValid() else len(self._headings)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        """The columns' headings."""
        if orientation != Qt.Orientation.Horizontal:
            return None
        if role == Qt.ItemDataRole.DisplayRole:
            return self._headings[section]
        if role == Qt.ItemDataRole.TextAlignmentRole:
            return _RIGHT if section in self._right else _LEFT
        if role == Qt.ItemDataRole.ToolTipRole:
            return HEADS.get(self._headings[section])
        if role == Qt.ItemDataRole.SizeHintRole and self.headless:
            return QSize(0, 0)  # a column is not to be as wide as words that nobody sees
        return None

    def cell(self, index: QModelIndex | QPersistentModelIndex) -> Cell | None:
        """What stands at a place."""
        if not index.isValid():
            return None
        cells = self.lines[index.row()].cells
        return cells[index.column()] if index.column() < len(cells) else None

    def data(self, index: QModelIndex | QPersistentModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        """A cell's words, looks and number."""
        cell = self.cell(index)
        if cell is None:
            return None
        match role:
            case Qt.ItemDataRole.DisplayRole | Qt.ItemDataRole.EditRole:
                return cell.text
            case Qt.ItemDataRole.ToolTipRole:
                return tip(cell.tip) or None
            case Qt.ItemDataRole.TextAlignmentRole:
                return _RIGHT if cell.right else _LEFT
            case Qt.ItemDataRole.ForegroundRole:
                return theme.color(cell.tint) if cell.tint else None
            case Qt.ItemDataRole.FontRole:
                return theme.font(13, theme.BOLD) if cell.bold else None
            case _ if role == SORT:
                return cell.text if cell.number is None else cell.number
        return None

    def flags(self, index: QModelIndex | QPersistentModelIndex) -> Qt.ItemFlag:
        """Headings are not chosen; typed cells are edited."""
        cell = self.cell(index)
        if cell is None or self.lines[index.row()].heads:
            return Qt.ItemFlag.ItemIsEnabled
        flags = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        return flags | Qt.ItemFlag.ItemIsEditable if cell.typed else flags

    def setData(
        self, index: QModelIndex | QPersistentModelIndex, value: Any, role: int = Qt.ItemDataRole.EditRole
    ) -> bool:
        """Say what was typed; who shows the lines decides what it means."""
        cell = self.cell(index)
        if cell is None or not cell.typed or role != Qt.ItemDataRole.EditRole or str(value) == cell.text:
            return False
        self.typed.emit(index.row(), index.column(), str(value))
        return True


class Grid(QTableView):
    """The view of a GridModel: keyboard, one line chosen, sorted by its numbers where asked."""

    chosen = Signal()

    def __init__(
        self,
        headings: Sequence[str],
        name: str,
        right: Sequence[int] = (),
        sorts: int | None = None,
        parent: QWidget | None = None,
    ):
        super().__init__(parent)
        self.rows = GridModel(headings, right, self)
        self._proxy: QSortFilterProxyModel | None = None
        if sorts is None:
            self.setModel(self.rows)
        else:
            self._proxy = QSortFilterProxyModel(self)
            self._proxy.setSourceModel(self.rows)
            self._proxy.setSortRole(SORT)
            self.setModel(self._proxy)
            self.setSortingEnabled(True)
            self.sortByColumn(sorts, Qt.SortOrder.AscendingOrder)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.verticalHeader().hide()
        self.verticalHeader().setDefaultSectionSize(theme.px(27))
        self.setShowGrid(False)
        self.setAccessibleName(name)
        self.setTabKeyNavigation(False)  # Tab leaves it; the arrows walk in it
        self.horizontalHeader().setDefaultAlignment(_LEFT)
        self.horizontalHeader().setResizeContentsPrecision(40)  # rows looked at; hundreds would take seconds
        self.selectionModel().selectionChanged.connect(lambda *_: self.chosen.emit())

    def types(self) -> None:
        """Let the builder type into cells that are typed, by a double click, F2 or just typing."""
        self.setEditTriggers(
            QAbstractItemView.EditTrigger.DoubleClicked
            | QAbstractItemView.EditTrigger.AnyKeyPressed
            | QAbstractItemView.EditTrigger.EditKeyPressed
        )
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectItems)

    def hide_heads(self) -> None:
        """Rows that say by themselves what their columns are."""
        self.rows.headless = True
        self.horizontalHeader().hide()

    def fits(self, least: int) -> None:
        """Columns as wide as what they hold, the first takes the rest."""
        header = self.horizontalHeader()
        header.setMinimumSectionSize(least)
        header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)

    def show_lines(self, lines: Sequence[Line]) -> None:
        """Show other lines; what was chosen stays so where it is still there."""
        before = self.current()
        if not self.rows.show(lines):
            return
        self.clearSpans()
        for at, line in enumerate(lines):
            if line.heads:
                self.setSpan(at, 0, 1, self.rows.columnCount())
        if before is not None:
            self.choose(before)

    def current(self) -> Hashable:
        """What the chosen line stands for; None where none is chosen."""
        chosen = self.selectionModel().selectedIndexes()
        return self._line(chosen[0]).of if chosen else None

    def choose(self, of: Hashable) -> bool:
        """Choose the line that stands for something; whether there is one."""
        for row in range(self.model().rowCount()):
            if self._line(self.model().index(row, 0)).of == of:
                self.setCurrentIndex(self.model().index(row, 0))
                return True
        return False

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Copying takes the whole row, its cells parted by tabs, as a spreadsheet pastes them."""
        chosen = self.selectionModel().selectedIndexes()
        if event.matches(QKeySequence.StandardKey.Copy) and chosen:
            copied(row_words(self, chosen[0].row()))
            return
        super().keyPressEvent(event)

    def words(self, column: int) -> list[str]:
        """What a column says, from top to bottom, headings left out."""
        found = []
        for row in range(self.model().rowCount()):
            index = self.model().index(row, column)
            if not self._line(index).heads:
                found.append(str(self.model().data(index)))
        return found

    def _line(self, index: QModelIndex) -> Line:
        return self.rows.lines[(self._proxy.mapToSource(index) if self._proxy else index).row()]
