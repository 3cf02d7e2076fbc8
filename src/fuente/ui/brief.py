"""Brief: the tank, the room under it and the wishes; Fuente lays out filters and the builder takes one."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QProgressBar,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from fuente.demo.starter import starter
from fuente.devices.base import Change, Edit
from fuente.devices.recipes.sump_system import ROLE_NAMES, Wishes, can_lay_out, in_its_place, wishes_of
from fuente.errors import FuenteError
from fuente.findings.layout import Layout, proposals
from fuente.ui import theme
from fuente.ui.composed_fields import DimensionsEdit
from fuente.ui.fields import ChoiceBox, CountEdit, QuantityEdit, TextEdit
from fuente.ui.jobs import Job
from fuente.ui.proposal_card import ProposalCard
from fuente.ui.rack_form import RackForm
from fuente.ui.workspace import Workspace

ROLES = ("inlet", "clean_out", "socks", "foam", "media", "moving_bed", "plants", "heater", "trap")
# Numbers of the form: label, field, quantity.
WATER = (
    ("Walls", "thickness", "length"),
    ("Underside above the floor", "stand", "length"),
    ("Gravel and rock", "gravel", "volume"),
    ("Water temperature", "temperature", "temperature"),
    ("Covered share", "cover", "fraction"),
)
STOCK = (
    ("Dry feed, if you know it", "feed", "feed"),
    ("Else: how many animals", "heads", "number"),
    ("Length of each", "body", "length"),
    ("Fed a day, of their weight", "ration", "percent"),
    ("Protein in it", "protein", "fraction"),
)
SPACE = (
    ("Hand room over the sump", "service", "length"),
    ("Coldest room", "coldest", "temperature"),
    ("Usual room", "air", "temperature"),
)
WISHES = (
    ("Turnover", "turnover", "per_hour"),
    ("Freeboard left after a power cut", "margin", "length"),
    ("Heaviest load you lift", "lift", "mass"),
    ("Price of a kilowatt-hour", "price", "number"),
)


class BriefPage(QWidget):
    """The form at the left, proposals at the right."""

    layout_taken = Signal()
    gallery_wanted = Signal(str)  # id of the tank

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._fields: list[tuple[Any, Any]] = []  # widget, reader
        self._job: Job | None = None
        self.layouts: list[Layout] = []
        self._tank = 0  # position of the tank that the form shows
        self._count = len(workspace.system.tanks)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.form = QScrollArea()
        self.form.setWidgetResizable(True)
        self.form.setFixedWidth(theme.px(436))
        self.form.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.form.setWidget(self._form())
        left = QVBoxLayout()
        left.setContentsMargins(0, 0, 0, 0)
        left.setSpacing(0)
        left.addWidget(self.form, 1)
        left.addWidget(self._launch())
        row.addLayout(left)
        line = QFrame()
        line.setObjectName("rule")
        line.setFixedWidth(1)
        line.setStyleSheet(f"background: {theme.current().rule}; max-height: 16777215px;")
        row.addWidget(line)
        self.right = QScrollArea()
        self.right.setWidgetResizable(True)
        self.right.setObjectName("ground")
        self.right.setStyleSheet(f"QScrollArea#ground {{ background: {theme.current().ground}; }}")
        row.addWidget(self.right, 1)
        workspace.changed.connect(self.refresh)
        self._show_empty()
        self.refresh()

    # -- the form -------------------------------------------------------------------------------------------------

    def _form(self) -> QWidget:
        page = QWidget()
        page.setObjectName("panel")
        column = QVBoxLayout(page)
        column.setContentsMargins(theme.px(16), theme.px(12), theme.px(16), theme.px(16))
        column.setSpacing(theme.px(4))
        self.error = QLabel()
        self.error.setObjectName("error")
        self.error.setWordWrap(True)
        self.error.hide()
        column.addWidget(self.error)
        self._about_tank(column)
        space = ("space",)
        column.addWidget(_head("The space under it"))
        grid = _grid(column)
        self._dimensions(grid, "Opening, length × depth × height", space, ("length", "depth", "height"))
        self._numbers(grid, space, SPACE)
        column.addWidget(_head("What you want"))
        grid = _grid(column)
        self._numbers(grid, space, WISHES)
        quiet = ChoiceBox(((True, "quiet"), (False, "may be heard")), self.workspace.system.space.quiet)
        quiet.chosen.connect(lambda v: self._send("Set drain noise", (*space, "quiet"), v))
        self._place(grid, "The drain", quiet, lambda: quiet.show_value(self.workspace.system.space.quiet))
        column.addWidget(_head("Chambers, along the water"))
        self._chambers(column)
        column.addStretch(1)
        return page

    def _about_tank(self, column: QVBoxLayout) -> None:
        """The design's name, which tank it is about, and that tank."""
        tanks = self.workspace.system.tanks
        tank = tanks[self._tank].path
        if len(tanks) == 1:
            column.addWidget(_head("The tank"))
        grid = _grid(column)
        self._text(grid, "Called", ("name",))
        self._text(grid, "Place", ("place",))
        if len(tanks) > 1:
            column.addWidget(_head(f"One of {len(tanks)} tanks"))
            grid = _grid(column)
            which = ChoiceBox(tuple((i, t.name) for i, t in enumerate(tanks)), self._tank)
            which.chosen.connect(self.show_tank)
            which.setObjectName("which-tank")
            self._place(grid, "Which", which, lambda: which.show_value(self._tank), 232)
            self._text(grid, "Its name", (*tank, "name"))
        self._dimensions(grid, "Outside, length × width × height", tank, ("length", "width", "height"))
        self._numbers(grid, tank, WATER)
        self._text(grid, "Who lives there", (*tank, "stock"))
        self._numbers(grid, tank, STOCK)

    def _numbers(self, grid: QGridLayout, base: tuple[Any, ...], rows: tuple[tuple[str, str, str], ...]) -> None:
        for label, field, quantity in rows:
            self._number(grid, label, (*base, field), quantity)

    def _chambers(self, column: QVBoxLayout) -> None:
        """Which chambers a sump shall have, and its heaters."""
        wishes = wishes_of(self.workspace.system.devices) or wishes_of(starter().devices)
        assert wishes is not None
        boxes = QGridLayout()
        boxes.setHorizontalSpacing(theme.px(12))
        boxes.setVerticalSpacing(theme.px(4))
        self.roles: dict[str, QCheckBox] = {}
        for i, role in enumerate(ROLES):
            box = QCheckBox(ROLE_NAMES[role])
            box.setChecked(role in wishes.roles)
            boxes.addWidget(box, i % 5, i // 5)
            self.roles[role] = box
        last = QCheckBox("Pump chamber, always last")
        last.setChecked(True)
        last.setEnabled(False)
        boxes.addWidget(last, 4, 1)
        column.addLayout(boxes)
        grid = _grid(column)
        self.heaters = CountEdit(wishes.heaters, self.workspace.units)
        self.watts = QuantityEdit("power", wishes.heater_watts, self.workspace.units)
        for edit, label in ((self.heaters, "Heaters in it"), (self.watts, "Each heater")):
            edit.nudged.connect(lambda v, e=edit: e.show_value(max(0.0, v), self.workspace.units))
            edit.failed.connect(self._say)
            self._place(grid, label, edit, lambda: None)

    def show_tank(self, index: int) -> None:
        """Another tank in the form."""
        self._tank = index
        self._count = len(self.workspace.system.tanks)
        self._fields = []
        old = self.form.takeWidget()
        if old is not None:
            old.deleteLater()
        self.form.setWidget(self._form())

    def _launch(self) -> QWidget:
        """The button stays in sight under the form."""
        holder = QWidget()
        column = QVBoxLayout(holder)
        column.setContentsMargins(theme.px(16), theme.px(8), theme.px(16), theme.px(12))
        self.go = QPushButton("Lay it out for me")
        self.go.setObjectName("primary")
        self.go.clicked.connect(self.propose)
        column.addWidget(self.go)
        row = QHBoxLayout()
        self.pick = QPushButton("Pick a filter …")
        self.pick.setToolTip("Every kind of filter as a picture of your own tank (Ctrl+Shift+F)")
        self.pick.clicked.connect(lambda: self.gallery_wanted.emit(self.workspace.system.tanks[self._tank].id))
        row.addWidget(self.pick)
        self.rack = QPushButton("Put up a rack …")
        self.rack.clicked.connect(self.enter_rack)
        row.addWidget(self.rack)
        column.addLayout(row)
        self.progress = QProgressBar()
        self.progress.setTextVisible(False)
        self.progress.setFixedHeight(theme.px(6))
        self.progress.hide()
        column.addWidget(self.progress)
        return holder

    def _place(self, grid: QGridLayout, label: str, field: QWidget, follow: Any, wide: int = 158) -> None:
        row = grid.rowCount()
        text = QLabel(label)
        text.setStyleSheet(f"color: {theme.current().muted};")
        text.setWordWrap(True)
        text.setBuddy(field)
        field.setAccessibleName(label)
        field.setFixedWidth(theme.px(wide))
        grid.addWidget(text, row, 0)
        grid.addWidget(field, row, 1, Qt.AlignmentFlag.AlignRight)
        self._fields.append((field, follow))

    def _value(self, path: tuple[Any, ...]) -> Any:
        from fuente.document.system import value_at

        return value_at(self.workspace.system, path)

    def _number(self, grid: QGridLayout, label: str, path: tuple[Any, ...], quantity: str) -> None:
        whole = path[-1] == "heads"
        edit = (
            CountEdit(self._value(path), self.workspace.units)
            if whole
            else QuantityEdit(quantity, self._value(path), self.workspace.units)
        )
        name = f"Set {label[:1].lower()}{label[1:]}"
        edit.committed.connect(lambda v: self._send(name, path, round(v) if whole else v))
        edit.nudged.connect(lambda v: self._send(name, path, round(v) if whole else v, "nudge " + str(path)))
        edit.failed.connect(self._say)
        edit.setObjectName("field-" + "-".join(map(str, path)))
        self._place(grid, label, edit, lambda: edit.show_value(self._value(path), self.workspace.units))

    def _text(self, grid: QGridLayout, label: str, path: tuple[Any, ...]) -> None:
        edit = TextEdit(self._value(path))
        edit.setCursorPosition(0)
        edit.committed.connect(lambda v: self._send(f"Set {label[:1].lower()}{label[1:]}", path, v))
        self._place(grid, label, edit, lambda: edit.show_value(self._value(path)), 232)

    def _dimensions(self, grid: QGridLayout, label: str, base: tuple[Any, ...], names: tuple[str, str, str]) -> None:
        def now() -> tuple[float, float, float]:
            a, b, c = (self._value((*base, n)) for n in names)
            return a, b, c

        edit = DimensionsEdit(now(), self.workspace.units)
        edit.setObjectName("sizes-" + "-".join(map(str, base)))

        def take(sizes: tuple[float, ...]) -> None:
            self._say("")
            changes = tuple(Change((*base, n), v) for n, v in zip(names, sizes, strict=True))
            self.workspace.edit(Edit("Set " + label.split(",")[0].lower() + " sizes", changes))

        edit.committed.connect(take)
        edit.failed.connect(self._say)
        self._place(grid, label, edit, lambda: edit.show_value(now(), self.workspace.units), 200)

    def _send(self, name: str, path: tuple[Any, ...], value: Any, merge: str = "") -> None:
        self._say("")
        self.workspace.edit(Edit(name, (Change(path, value),)), merge)

    def _say(self, sentence: str) -> None:
        self.error.setText(sentence)
        self.error.setVisible(bool(sentence))
        if sentence:
            self.form.ensureWidgetVisible(self.error)

    def refresh(self) -> None:
        """Follow the workspace."""
        if len(self.workspace.system.tanks) != self._count:
            self.show_tank(min(self._tank, len(self.workspace.system.tanks) - 1))
        for _, follow in self._fields:
            follow()
        one = can_lay_out(self.workspace.system.devices)
        self.go.setEnabled(one)
        sump = self.workspace.analysis.has_sump
        self.rack.setEnabled(sump)
        self.rack.setToolTip("" if sump else "A rack drains into a sump: take a layout with one first.")
        self.go.setToolTip(
            "" if one else "Fuente lays out a sump for one tank; a rack keeps the filters that it stands on."
        )

    # -- proposals ------------------------------------------------------------------------------------------------

    def arguments(self) -> tuple[Any, ...]:
        """Tank, space and wishes as they stand in the form."""
        s = self.workspace.system
        roles = tuple(r for r in ROLES if self.roles[r].isChecked())
        wishes = Wishes(roles, max(0, round(self.heaters.value())), self.watts.value(), s.name, s.place, s.units)  # type: ignore[arg-type]
        return s.tanks[0], s.space, wishes

    def propose(self) -> None:
        """Start laying out, or stop it."""
        if self._job is not None:
            self._job.stopped = True
            self._finish()
            return
        self._say("")
        tank, space, wishes = self.arguments()
        job = Job(lambda tell: proposals(tank, space, wishes, tell), self)
        job.hear(self._show, self._failed, lambda share: self.progress.setValue(round(share * 100)))
        self._job = job
        self.go.setText("Stop")
        self.progress.setValue(0)
        self.progress.show()
        job.start()

    def propose_now(self) -> None:
        """Lay out at once, without the thread: for scripts and pictures."""
        try:
            self._show(proposals(*self.arguments()))
        except FuenteError as error:
            self._failed(str(error))

    def enter_rack(self) -> None:
        """The form for a rack, beside the brief."""
        if not self.workspace.analysis.has_sump:
            self._say("A rack drains into a sump: take a layout with one first.")
            return
        form = RackForm(self.workspace)
        form.taken.connect(self.layout_taken)
        self.right.setWidget(form)
        form.fields["rows"].setFocus()

    def _finish(self) -> None:
        self._job = None
        self.go.setText("Lay it out for me")
        self.progress.hide()

    def _failed(self, sentence: str) -> None:
        self._finish()
        self._say(sentence)

    def _show_empty(self) -> None:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(theme.px(40), theme.px(48), theme.px(40), theme.px(40))
        head = QLabel("Nothing laid out yet")
        head.setObjectName("heading")
        words = QLabel(
            "Set the tank and the space under it, then pick a filter from pictures of it. For a sump, tick the chambers"
            " that you want and press “Lay it out for me”: Fuente proposes sizes, baffles, drains and a pump, solves"
            " each proposal like any design, and says which wish it cannot meet and by how much. Your design stays as"
            " it is until you take one."
        )
        words.setWordWrap(True)
        column.addWidget(head)
        column.addWidget(words)
        column.addStretch(1)
        self.right.setWidget(page)

    def _show(self, found: list[Layout]) -> None:
        self._finish()
        self.layouts = found
        page = QWidget()
        page.setObjectName("ground")
        column = QVBoxLayout(page)
        column.setContentsMargins(theme.px(20), theme.px(14), theme.px(20), theme.px(14))
        column.setSpacing(theme.px(10))
        head = QLabel("Proposals, each solved and judged")
        head.setObjectName("section")
        column.addWidget(head)
        for layout in sorted(found, key=lambda each: len(each.unmet)):
            card = ProposalCard(layout, self.workspace.units)
            card.take.clicked.connect(lambda _=False, chosen=layout: self._take(chosen))
            column.addWidget(card)
        column.addStretch(1)
        self.right.setWidget(page)

    def _take(self, layout: Layout) -> None:
        changes = in_its_place(self.workspace.system.devices, layout.system.devices)
        if self.workspace.edit(Edit(f"Take layout “{layout.title.lower()}”", changes)):
            self.layout_taken.emit()


def _head(words: str) -> QLabel:
    label = QLabel(words)
    label.setObjectName("section")
    label.setContentsMargins(0, theme.px(8), 0, 0)
    return label


def _grid(column: QVBoxLayout) -> QGridLayout:
    grid = QGridLayout()
    grid.setColumnStretch(0, 1)
    grid.setHorizontalSpacing(theme.px(10))
    grid.setVerticalSpacing(theme.px(4))
    column.addLayout(grid)
    return grid
