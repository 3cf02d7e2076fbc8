"""Media & load: what each tank makes, what carries it, media side by side, and the schools that the system follows."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QFont
from PySide6.QtWidgets import (
    QAbstractItemView,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from fuente.catalogue import MEDIA
from fuente.devices.base import Change, Edit
from fuente.document.media import OwnMedium, uses_of
from fuente.errors import EntryError, FuenteError
from fuente.life.compare import Compared, compare
from fuente.life.load import ammonia_made
from fuente.session import own_library
from fuente.study.loads import Load, loads
from fuente.ui import theme
from fuente.ui.fields import ChoiceBox, QuantityEdit
from fuente.ui.own_media import OwnMediumDialog
from fuente.ui.schools_panel import SchoolsPanel
from fuente.ui.workspace import Workspace
from fuente.units import parse, shown
from fuente.workshop.bill import parts

_SORT = Qt.ItemDataRole.UserRole
SPARE = 1.5  # times what the load needs, for which media is compared
# Columns of the load: heading, field that is typed in, its quantity.
_LOAD = (
    ("Tank", "", ""),
    ("Animals", "heads", "number"),
    ("Each long", "body", "length"),
    ("Fed a day", "ration", "percent"),
    ("Feed", "feed", "feed"),
    ("Protein", "protein", "fraction"),
    ("Ammonia N", "", "feed"),
    ("It wants", "", "area"),
    ("There is", "", "area"),
)
_MEDIA = ("Media", "Litres", "Cost of it", "A litre", "Each m²", "Rinsing", "Wet", "Bags", "Mature")


class _Cell(QTableWidgetItem):
    """A cell that sorts by its number."""

    def __lt__(self, other: QTableWidgetItem) -> bool:
        a, b = self.data(_SORT), other.data(_SORT)
        if isinstance(a, float) and isinstance(b, float):
            return a < b
        return self.text() < other.text()


class MediaPage(QWidget):
    """Schools at the left; load above media at the right."""

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._filling = False
        self._library: tuple[OwnMedium, ...] = ()
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.schools = SchoolsPanel(workspace)
        row.addWidget(self.schools)
        line = QFrame()
        line.setFixedWidth(1)
        line.setStyleSheet(f"background: {theme.current().rule}; max-height: 16777215px;")
        row.addWidget(line)
        right = QWidget()
        right.setObjectName("ground")
        right.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(right)
        column.setContentsMargins(theme.px(20), theme.px(14), theme.px(20), theme.px(14))
        column.setSpacing(theme.px(6))
        self._loads(column)
        self._side_by_side(column)
        row.addWidget(right, 1)
        workspace.changed.connect(self.refresh)
        self.refresh()

    # -- load -----------------------------------------------------------------------------------------------------

    def _loads(self, column: QVBoxLayout) -> None:
        head = QLabel("What each tank makes, and what carries it")
        head.setObjectName("heading")
        column.addWidget(head)
        self.load_words = QLabel()
        self.load_words.setObjectName("subheading")
        self.load_words.setWordWrap(True)
        column.addWidget(self.load_words)
        self.error = QLabel()
        self.error.setObjectName("error")
        self.error.setWordWrap(True)
        self.error.hide()
        column.addWidget(self.error)
        self.load_table = _table([c[0] for c in _LOAD], "Load of each tank")
        self.load_table.setEditTriggers(
            QAbstractItemView.EditTrigger.DoubleClicked
            | QAbstractItemView.EditTrigger.AnyKeyPressed
            | QAbstractItemView.EditTrigger.EditKeyPressed
        )
        self.load_table.itemChanged.connect(self._typed)
        column.addWidget(self.load_table, 2)

    def _typed(self, item: QTableWidgetItem) -> None:
        if self._filling:
            return
        label, field, quantity = _LOAD[item.column()]
        tank = self.workspace.system.tanks[item.row()]
        try:
            value: Any = parse(item.text(), quantity, self.workspace.units)
        except EntryError as error:
            self._say(str(error))
            self.refresh()
            return
        self._say("")
        value = round(value) if field == "heads" else value
        path = (*tank.path, field)
        if not self.workspace.edit(Edit(f"{tank.name}: {label[:1].lower()}{label[1:]}", (Change(path, value),))):
            self.refresh()

    def _say(self, sentence: str) -> None:
        self.error.setText(sentence)
        self.error.setVisible(bool(sentence))

    def _fill_loads(self, found: tuple[Load, ...]) -> None:
        system, units = self.workspace.system, self.workspace.units
        by_tank = {key: load for load in found for key in load.tanks}
        table = self.load_table
        self._filling = True
        table.setRowCount(len(system.tanks))
        for row, tank in enumerate(system.tanks):
            load = by_tank[tank.id]
            made = ammonia_made(tank.fed, tank.protein)
            part = made / load.nitrogen if load.nitrogen else 0.0
            weighed = tank.feed <= 0 and tank.heads > 0
            values: list[tuple[str, bool]] = [
                (f"{tank.name}{' · ' + tank.stock if tank.stock else ''}", False),
                (str(tank.heads), False),
                (shown(tank.body, "length", units), tank.heads == 0),
                (shown(tank.ration, "percent", units), not weighed),
                (shown(tank.fed, "feed", units), weighed),
                (shown(tank.protein, "fraction", units), False),
                (shown(made, "feed", units), False),
                (shown(load.need * part, "area", units), False),
                (shown(load.have * part, "area", units) if load.nitrogen else "–", False),
            ]
            for column, (words, quiet) in enumerate(values):
                item = _Cell(words)
                if not _LOAD[column][1]:
                    item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
                if column:
                    item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
                if quiet:
                    item.setForeground(QColor(theme.current().muted))
                if column == 8 and load.nitrogen and load.have < load.need:
                    item.setForeground(QColor(theme.current().stop))
                if weighed and column == 4:
                    item.setToolTip("By number, length and ration; type the feed where you know it.")
                table.setItem(row, column, item)
        self._filling = False
        rows = len(system.tanks)
        height = (
            table.horizontalHeader().sizeHint().height()
            + table.verticalHeader().defaultSectionSize() * rows
            + theme.px(8)
        )
        table.setMinimumHeight(min(height, theme.px(210)))
        table.setMaximumHeight(height)

    # -- media ----------------------------------------------------------------------------------------------------

    def _side_by_side(self, column: QVBoxLayout) -> None:
        head = QLabel("Media side by side")
        head.setObjectName("heading")
        column.addSpacing(theme.px(8))
        column.addWidget(head)
        row = QHBoxLayout()
        row.setSpacing(theme.px(8))
        self.media_words = QLabel()
        self.media_words.setObjectName("subheading")
        self.media_words.setWordWrap(True)
        row.addWidget(self.media_words, 1)
        row.addWidget(QLabel("for"))
        self.whose = ChoiceBox((("", "every tank"),), "")
        self.whose.setAccessibleName("For which tank")
        self.whose.chosen.connect(lambda _: self.refresh())
        row.addWidget(self.whose)
        row.addWidget(QLabel("in bags up to"))
        self.lift = QuantityEdit("mass", 10.0, self.workspace.units)
        self.lift.setAccessibleName("A bag weighs at most")
        self.lift.setFixedWidth(theme.px(84))
        self.lift.committed.connect(self._lifted)
        self.lift.failed.connect(self._say)
        self.lift_limit = 10.0
        row.addWidget(self.lift)
        column.addLayout(row)
        self.media_table = _table(list(_MEDIA), "Media side by side")
        self.media_table.setSortingEnabled(True)
        self.media_table.sortByColumn(4, Qt.SortOrder.AscendingOrder)
        self.media_table.itemSelectionChanged.connect(self._show_buttons)
        self.media_table.itemDoubleClicked.connect(lambda _: self._change())
        column.addWidget(self.media_table, 3)
        buttons = QGridLayout()
        self.add = QPushButton("Add your own …")
        self.add.clicked.connect(self._add)
        self.change = QPushButton("Change …")
        self.change.clicked.connect(self._change)
        self.remove = QPushButton("Remove")
        self.remove.clicked.connect(self._remove)
        for n, button in enumerate((self.add, self.change, self.remove)):
            buttons.addWidget(button, 0, n)
        buttons.setColumnStretch(3, 1)
        column.addLayout(buttons)

    def _lifted(self, value: float) -> None:
        if value <= 0:
            self._say("A bag must weigh something.")
            self.lift.show_value(self.lift_limit, self.workspace.units)
            return
        self._say("")
        self.lift_limit = value
        self.refresh()

    def _fill_media(self, found: tuple[Load, ...]) -> None:
        system, units = self.workspace.system, self.workspace.units
        tank = self.whose.value()
        need = sum(load.need for load in found if not tank or tank in load.tanks)
        if tank:  # of the water that it shares, its own part
            load = next(each for each in found if tank in each.tanks)
            own = system.tank(tank)
            need = load.need * (ammonia_made(own.fed, own.protein) / load.nitrogen if load.nitrogen else 0.0)
        core = system.schools.surface == "core"
        surface = SPARE * need or 1.0
        words = "with its claimed core" if core else "outer surface alone"
        self.media_words.setText(
            f"To carry {shown(surface, 'area', units)}, half more than the feed wants, {words}. Cost in any money. Bold"
            " is in use."
            if need
            else (
                f"No feed is known, so each is compared for {shown(1.0, 'area', units)}, {words}. Cost in any money."
                " Bold is in use."
            )
        )
        lines: list[Compared] = []
        self._library = own_library.all_own()
        own_ids = {m.id for m in (*system.media, *self._library)}
        for each in MEDIA.values():
            if not each.id.startswith("own-") or each.id in own_ids:
                lines.append(compare(each, surface, self.lift_limit, core))
        used = {p.name for p in parts(self.workspace.analysis).parts}
        table = self.media_table
        chosen = self._chosen_id()
        table.setSortingEnabled(False)
        table.setRowCount(len(lines))
        for row, line in enumerate(lines):
            m = line.medium
            cells: list[tuple[str, float | None]] = [
                (m.name, None),
                (shown(line.volume, "volume", units), line.volume),
                (f"{line.cost:.2f}", line.cost),
                (f"{line.per_litre:.2f}", line.per_litre),
                (f"{line.per_area:.2f}", line.per_area),
                (shown(line.minutes * 60, "minutes", units), line.minutes),
                (shown(line.wet, "mass", units), line.wet),
                (str(line.bags), float(line.bags)),
                (f"{m.matures:.0f} weeks", m.matures),
            ]
            for column, (text, number) in enumerate(cells):
                item = _Cell(text)
                item.setData(_SORT, m.id if column == 0 else number)
                item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable)
                if number is not None:
                    item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
                if column == 0:
                    item.setToolTip(
                        f"{shown(m.surface, 'specific_surface', units)} outside,"
                        f" {shown(m.core, 'specific_surface', units)} claimed inside, {100 * m.void:.0f} % void;"
                        f" figures: {m.source}"
                    )
                if column == 0 and m.name in used:
                    font = QFont(table.font())
                    font.setWeight(QFont.Weight.DemiBold)
                    item.setFont(font)
                table.setItem(row, column, item)
        table.setSortingEnabled(True)
        for row in range(table.rowCount()):
            cell = table.item(row, 0)
            if cell is not None and cell.data(_SORT) == chosen:
                table.selectRow(row)
        self._show_buttons()

    def _chosen_id(self) -> str:
        row = self.media_table.currentRow()
        item = self.media_table.item(row, 0) if row >= 0 and self.media_table.selectedItems() else None
        return str(item.data(_SORT)) if item is not None else ""

    def _chosen_own(self) -> OwnMedium | None:
        key = self._chosen_id()
        return next((m for m in (*self.workspace.system.media, *self._library) if m.id == key), None)

    def _show_buttons(self) -> None:
        own = self._chosen_own()
        self.change.setEnabled(own is not None)
        held = own is not None and bool(uses_of(self.workspace.system, own.id))
        self.remove.setEnabled(own is not None and not held)
        self.remove.setToolTip("A filter holds it." if held else "" if own else "Fuente's own media stay.")
        self.change.setToolTip("" if own else "Fuente's own media stay as they are; add your own with other figures.")

    def _add(self) -> None:
        start = OwnMedium()
        key = self._chosen_id()
        if key:
            m = MEDIA[key]
            start = OwnMedium(
                name=f"My {m.name[:1].lower()}{m.name[1:]}"[:60],
                kind="carrier" if m.kind == "carrier" else "loose",
                surface=m.surface,
                core=m.core,
                void=m.void,
                dry=m.dry,
                size=m.size,
                cost=m.cost,
                cleaning=m.cleaning * 60,
                matures=m.matures * 7 * 86400,
            )
        dialog = OwnMediumDialog(start, self.workspace.units, "Your own medium", self)
        if dialog.exec() and dialog.made is not None:
            self.take(dialog.made)

    def take(self, made: OwnMedium) -> bool:
        """Put a medium into the design."""
        return self.workspace.session.keep_medium(made)

    def _change(self) -> None:
        own = self._chosen_own()
        if own is None:
            return
        dialog = OwnMediumDialog(own, self.workspace.units, f"Change {own.name}", self)
        if dialog.exec() and dialog.made is not None and dialog.made.id != own.id:
            self.workspace.session.change_medium(own, dialog.made)

    def _remove(self) -> None:
        own = self._chosen_own()
        if own is None:
            return
        self.workspace.session.remove_medium(own)

    # -- all ------------------------------------------------------------------------------------------------------

    def refresh(self) -> None:
        """Follow the workspace."""
        system, units = self.workspace.system, self.workspace.units
        options = (("", "every tank"), *((t.id, t.name) for t in system.tanks))
        if len(system.tanks) == 1:
            options = options[1:]
        self.whose.set_options(options, self.whose.value() if self.whose.value() in dict(options) else options[0][0])
        self.lift.show_value(self.lift_limit, units)
        try:
            found = loads(self.workspace.analysis)
        except FuenteError as error:
            self._say(str(error))
            return
        self.load_words.setText(_summary(found, units))
        self._fill_loads(found)
        self._fill_media(found)


def _summary(found: tuple[Load, ...], units: Any) -> str:
    """The whole in a sentence or two."""
    need, have = sum(x.need for x in found), sum(x.have for x in found)
    if not any(x.nitrogen for x in found):
        return (
            "No feed is known yet. Type the feed of a tank, or how many animals of which length; a filter's first"
            " layout takes a light stock until then."
        )
    limits = {x.limit for x in found if x.nitrogen}
    words = (
        f"The feed makes {shown(sum(x.nitrogen for x in found), 'feed', units)} of nitrogen as ammonia and wants"
        f" {shown(need, 'area', units)} of living surface; there is {shown(have, 'area', units)}. At half a milligram"
        f" of ammonia a litre {' and '.join(sorted(limits))} sets the pace. ±40 %."
    )
    short = sum(x.have < x.need for x in found if x.nitrogen)
    return words + (
        f" {short} of {len(found)} waters have too little."
        if short and len(found) > 1
        else " It is too little."
        if short
        else ""
    )


def _table(headings: list[str], name: str) -> QTableWidget:
    table = QTableWidget(0, len(headings))
    table.setHorizontalHeaderLabels(headings)
    table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
    table.setSelectionBehavior(
        QAbstractItemView.SelectionBehavior.SelectItems
        if name.startswith("Load")
        else QAbstractItemView.SelectionBehavior.SelectRows
    )
    table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
    table.verticalHeader().hide()
    table.setShowGrid(False)
    table.setWordWrap(True)
    table.setAccessibleName(name)
    header = table.horizontalHeader()
    header.setMinimumSectionSize(theme.px(62))
    header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
    header.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
    header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
    for column in range(1, len(headings)):
        item = table.horizontalHeaderItem(column)
        if item is not None:
            item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
    return table
