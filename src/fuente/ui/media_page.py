"""Media & load: what each tank makes, what carries it, media side by side, and the schools that the system follows."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from fuente.devices.pieces import Medium
from fuente.document.media import OwnMedium, uses_of
from fuente.errors import FuenteError
from fuente.life.compare import Compared, compare
from fuente.life.load import ammonia_made
from fuente.session import own_library
from fuente.study.amounts import amounts
from fuente.study.carries import carries
from fuente.study.loads import Load, loads
from fuente.ui import theme
from fuente.ui.amounts_table import AmountsTable, explained
from fuente.ui.carries_table import CarriesTable
from fuente.ui.fields import ChoiceBox, QuantityEdit
from fuente.ui.grid import Cell, Grid, Line
from fuente.ui.label import Label
from fuente.ui.life_view import LifeView
from fuente.ui.load_table import LoadTable
from fuente.ui.own_media import OwnMediumDialog
from fuente.ui.schools_panel import SchoolsPanel
from fuente.ui.stage_page import StagePage
from fuente.ui.used_table import UsedTable
from fuente.ui.workspace import Workspace
from fuente.units import UnitSystem, shown, unit_size
from fuente.workshop.room import room_of

VIEWS = ("life", "load")
SPARE = 1.5  # times what the load needs, for which media is compared
_MEDIA = ("Media", "Volume", "Cost of it", "Per litre", "Per m²", "Rinsing", "Wet", "Bags", "Mature")
_MEDIA_US = ("Media", "Volume", "Cost of it", "Per gallon", "Per ft²", "Rinsing", "Wet", "Bags", "Mature")


class MediaPage(StagePage):
    """Schools at the left; load above media at the right."""

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._library: tuple[OwnMedium, ...] = ()
        self._catalogue = workspace.system.catalogue
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        self.pages = QStackedWidget(self)
        whole.addWidget(self.pages, 1)
        self.life = LifeView(workspace, self.pages)
        self.life.other_wanted.connect(lambda: self.view("load"))
        self.pages.addWidget(self.life)
        there = QWidget(self.pages)
        self.pages.addWidget(there)
        row = QHBoxLayout(there)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.schools = SchoolsPanel(workspace, there)
        row.addWidget(self.schools)
        line = QFrame(there)
        line.setFixedWidth(1)
        line.setStyleSheet(f"background: {theme.current().rule}; max-height: 16777215px;")
        row.addWidget(line)
        right = QWidget(there)
        right.setObjectName("ground")
        right.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(right)
        column.setContentsMargins(theme.px(20), theme.px(14), theme.px(20), theme.px(14))
        column.setSpacing(theme.px(6))
        self._loads(column)
        self._side_by_side(column)
        row.addWidget(right, 1)
        workspace.changed.connect(self.follow)
        self.view("life")

    def view(self, key: str) -> None:
        """To the living water, or to load and media."""
        self.pages.setCurrentIndex(VIEWS.index(key))
        if key == "load":
            self.refresh()

    # -- load -----------------------------------------------------------------------------------------------------

    def _loads(self, column: QVBoxLayout) -> None:
        top = QHBoxLayout()
        head = Label("What each tank makes, and what carries it")
        head.setObjectName("heading")
        top.addWidget(head, 1)
        self.to_life = QPushButton("Living water")
        self.to_life.setObjectName("link")
        self.to_life.setToolTip("Weeks of ammonia, nitrite, nitrate, oxygen and warmth, and what sets the pace.")
        self.to_life.clicked.connect(lambda: self.view("life"))
        top.addWidget(self.to_life)
        column.addLayout(top)
        self.load_words = Label()
        self.load_words.setObjectName("subheading")
        self.load_words.setWordWrap(True)
        column.addWidget(self.load_words)
        self.error = Label()
        self.error.setObjectName("error")
        self.error.setWordWrap(True)
        self.error.hide()
        column.addWidget(self.error)
        self.load_table = LoadTable(self.workspace, column.parentWidget())
        self.load_table.said.connect(self._say)
        column.addWidget(self.load_table, 2)
        self.carries = CarriesTable(self.workspace, column.parentWidget())
        column.addWidget(self.carries, 2)

    def _say(self, sentence: str) -> None:
        self.error.setText(sentence)
        self.error.setVisible(bool(sentence))

    # -- media ----------------------------------------------------------------------------------------------------

    def _side_by_side(self, column: QVBoxLayout) -> None:
        self.what = ChoiceBox(((0, "media to live on"), (1, "foam, floss and chemical"), (2, "rules for how much")), 0)
        self.what.setAccessibleName("What is compared")
        self.what.chosen.connect(self._turn)
        self.what.setMinimumContentsLength(21)
        head = Label("Media side by side")
        head.setObjectName("heading")
        column.addSpacing(theme.px(8))
        title = QHBoxLayout()
        title.addWidget(head)
        title.addStretch(1)
        title.addWidget(self.what)
        column.addLayout(title)
        row = QHBoxLayout()
        row.setSpacing(theme.px(8))
        self.media_words = Label()
        self.media_words.setObjectName("subheading")
        self.media_words.setWordWrap(True)
        row.addWidget(self.media_words, 1)
        self._asked: list[QWidget] = [Label("for"), Label("heaviest bag")]
        row.addWidget(self._asked[0])
        self.whose = ChoiceBox((("", "every tank"),), "")
        self.whose.setAccessibleName("For which tank")
        self.whose.chosen.connect(lambda _: self.refresh())
        row.addWidget(self.whose)
        row.addWidget(self._asked[1])
        self.lift = QuantityEdit("mass", 10.0, self.workspace.units)
        self.lift.setAccessibleName("A bag weighs at most")
        self.lift.setFixedWidth(theme.px(84))
        self.lift.committed.connect(self._lifted)
        self.lift.failed.connect(self._say)
        self.lift_limit = 10.0
        row.addWidget(self.lift)
        self._asked += [self.whose, self.lift]
        column.addLayout(row)
        self.tables = QStackedWidget(column.parentWidget())
        self.media_table = Grid(_MEDIA, "Media side by side", range(1, len(_MEDIA)), 4, self.tables)
        self.media_table.fits(theme.px(62))
        self.media_table.chosen.connect(self._show_buttons)
        self.media_table.doubleClicked.connect(lambda _: self._change())
        self.used_table = UsedTable(self.workspace.units, self.tables)
        self.tables.addWidget(self.media_table)
        self.tables.addWidget(self.used_table)
        self.amounts_table = AmountsTable(self.tables)
        self.tables.addWidget(self.amounts_table)
        column.addWidget(self.tables, 3)
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

    def _turn(self, which: int) -> None:
        """To the other table."""
        self.what.show_value(which)
        self.tables.setCurrentIndex(which)
        for widget in self._asked:
            widget.setVisible(which != 2)  # rules are for all tanks, and lift nothing
        self.refresh()

    def kept(self) -> dict[str, Any]:
        """What is compared, for whom, and the heaviest bag."""
        return {
            "what": self.what.value(),
            "whose": self.whose.value(),
            "lift": self.lift_limit,
            "view": VIEWS[self.pages.currentIndex()],
            "life": self.life.kept(),
        }

    def resume(self, kept: dict[str, Any]) -> None:
        """The same comparison."""
        if kept:
            self._turn(kept["what"])
            if kept["whose"] in {t.id for t in self.workspace.system.tanks}:
                self.whose.show_value(kept["whose"])
            self._lifted(kept["lift"])
            self.life.resume(kept["life"])
            self.view(kept["view"])

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
            f"To carry {shown(surface, 'area', units)}, half more than the feed wants, {words}. {self._in_money()}"
            " Bold is in use."
            if need
            else (
                f"No feed is known, so each is compared for {shown(1.0, 'area', units)}, {words}. {self._in_money()}"
                " Bold is in use."
            )
        )
        self._library = own_library.all_own()
        self._catalogue = system.catalogue.with_own(m.medium() for m in self._library)
        lines = [compare(each, surface, self.lift_limit, core) for each in self._catalogue.media.values()]
        used = {p.medium for p in room_of(self.workspace.analysis).bill.pieces if isinstance(p, Medium)}
        self.media_table.rows.name_columns(_MEDIA_US if units == UnitSystem.US else _MEDIA)
        self.media_table.show_lines([_compared(line, units, line.medium.id in used) for line in lines])
        self._show_buttons()

    def _chosen_id(self) -> str:
        return str(self.media_table.current() or "")

    def _chosen_own(self) -> OwnMedium | None:
        key = self._chosen_id()
        return next((m for m in (*self.workspace.system.media, *self._library) if m.id == key), None)

    def _in_money(self) -> str:
        return f"Cost in {self.workspace.system.shop.currency or 'your money'}."

    def _show_buttons(self) -> None:
        own = self._chosen_own()
        here = self.tables.currentIndex() == 0
        for button in (self.add, self.change, self.remove):
            button.setVisible(here)
        self.change.setEnabled(own is not None)
        held = own is not None and bool(uses_of(self.workspace.system, own.id))
        self.remove.setEnabled(own is not None and not held)
        self.remove.setToolTip("A filter holds it." if held else "" if own else "Fuente's own media stay.")
        self.change.setToolTip("" if own else "Fuente's own media stay as they are; add your own with other figures.")

    def _add(self) -> None:
        start = OwnMedium()
        key = self._chosen_id()
        if key:
            m = self._catalogue.medium(key)
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
        return self.workspace.session.own.keep(made)

    def _change(self) -> None:
        own = self._chosen_own()
        if own is None:
            return
        dialog = OwnMediumDialog(own, self.workspace.units, f"Change {own.name}", self)
        if dialog.exec() and dialog.made is not None and dialog.made.id != own.id:
            self.workspace.session.own.change(own, dialog.made)

    def _remove(self) -> None:
        own = self._chosen_own()
        if own is None:
            return
        self.workspace.session.own.remove(own)

    # -- all ------------------------------------------------------------------------------------------------------

    def refresh(self) -> None:
        """Follow the workspace: the living water does so by itself, load and media while they are seen."""
        if self.pages.currentIndex() != VIEWS.index("load"):
            return
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
        self.load_table.fill(found)
        self._fill_media(found)
        try:
            self.carries.fill(carries(self.workspace.analysis))
        except FuenteError:
            self.carries.fill(())
        whose = self.whose.value()
        waters = [t.id for t in system.tanks if not whose or t.id == whose]
        water = sum(self.workspace.situation.solution.volume[t] for t in waters)
        self.used_table.fill(water, units)
        try:
            rules = amounts(self.workspace.analysis) if self.tables.currentIndex() == 2 else ()
        except FuenteError:
            rules = ()
        self.amounts_table.fill(rules, units)
        if rules:
            self.media_words.setText(explained(rules, units))
        if self.tables.currentIndex() == 1:
            self.media_words.setText(
                f"Doses for {shown(water, 'volume', units)} of tank water. Foam and floss by the piece that you cut;"
                f" what they catch and how fast is yours to see. {self._in_money()}"
            )


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
        f" {shown(need, 'area', units)} of living surface; there is {shown(have, 'area', units)}. At"
        f" {shown(0.5e-3, 'concentration', units)} of ammonia the pace is set by {' and '.join(sorted(limits))}. ±40 %."
    )
    short = sum(x.have < x.need for x in found if x.nitrogen)
    return words + (
        f" {short} of {len(found)} waters have too little."
        if short and len(found) > 1
        else " It is too little."
        if short
        else ""
    )


def _compared(line: Compared, units: UnitSystem, used: bool) -> Line:
    """A medium's line; bold where the design has it."""
    m = line.medium
    figures = (
        f"{shown(m.surface, 'specific_surface', units)} outside, {shown(m.core, 'specific_surface', units)} claimed"
        f" inside, {100 * m.void:.0f} % void; figures: {m.source}"
    )
    numbers = (
        (shown(line.volume, "volume", units), line.volume),
        (f"{line.cost:.2f}", line.cost),
        (f"{line.per_litre * unit_size('volume', units) * 1000:.2f}", line.per_litre),
        (f"{line.per_area * unit_size('area', units):.2f}", line.per_area),
        (shown(line.minutes * 60, "minutes", units), line.minutes),
        (shown(line.wet, "mass", units), line.wet),
        (str(line.bags), float(line.bags)),
        (f"{m.matures:.0f} weeks", float(m.matures)),
    )
    cells = [Cell(text, number, right=True) for text, number in numbers]
    return Line((Cell(m.name, bold=used, tip=figures), *cells), m.id)
