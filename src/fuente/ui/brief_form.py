"""The form of the brief: the tank, who lives there, the room under it, the wishes, and the chambers of a sump."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox, QGridLayout, QLabel, QScrollArea, QVBoxLayout, QWidget

from fuente.devices.base import Change, Edit
from fuente.devices.recipes.sump_system import ROLE_NAMES, Wishes, wishes_of
from fuente.document.system import value_at
from fuente.ui import theme
from fuente.ui.composed_fields import DimensionsEdit
from fuente.ui.fields import ChoiceBox, CountEdit, QuantityEdit, TextEdit
from fuente.ui.label import Label
from fuente.ui.put_in import put_in
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
    ("Or number of animals", "heads", "number"),
    ("Length of each", "body", "length"),
    ("Fed a day, of their weight", "ration", "percent"),
    ("Protein in it", "protein", "fraction"),
)
SPACE = (
    ("Hand room over the sump", "service", "length"),
    ("Coldest room", "coldest", "temperature"),
    ("Warmest room", "warmest", "temperature"),
    ("Usual room", "air", "temperature"),
)
WISHES = (
    ("Turnover", "turnover", "per_hour"),
    ("Freeboard left after a power cut", "margin", "length"),
    ("Heaviest load you lift", "lift", "mass"),
    ("Price of a kilowatt-hour", "price", "number"),
)


class BriefForm(QScrollArea):
    """Fields that follow the document and edit it; what it cannot take it says at the top."""

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.tank = 0  # position of the tank that the form shows
        self._fields: list[tuple[Any, Any]] = []  # widget, what makes it follow
        self._of = [t.id for t in workspace.system.tanks]
        self.setWidgetResizable(True)
        self.setFixedWidth(theme.px(436))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        put_in(self, self._form())

    def refresh(self) -> None:
        """Follow the workspace."""
        if [t.id for t in self.workspace.system.tanks] != self._of:
            self.show_tank(min(self.tank, len(self.workspace.system.tanks) - 1))
        for _, follow in self._fields:
            follow()

    def wishes(self) -> Wishes:
        """Chambers and heaters as they stand in the form."""
        s = self.workspace.system
        roles = tuple(r for r in ROLES if self.roles[r].isChecked())
        return Wishes(roles, max(0, round(self.heaters.value())), self.watts.value(), s.name, s.place, s.units)  # type: ignore[arg-type]

    def _form(self) -> QWidget:
        page = QWidget(self.viewport())
        page.setObjectName("panel")
        column = QVBoxLayout(page)
        column.setContentsMargins(theme.px(16), theme.px(12), theme.px(16), theme.px(16))
        column.setSpacing(theme.px(4))
        self.error = Label()
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
        tank = tanks[self.tank].path
        if len(tanks) == 1:
            column.addWidget(_head("The tank"))
        grid = _grid(column)
        self._text(grid, "Called", ("name",))
        self._text(grid, "Place", ("place",))
        if len(tanks) > 1:
            column.addWidget(_head(f"One of {len(tanks)} tanks"))
            grid = _grid(column)
            which = ChoiceBox(tuple((i, t.name) for i, t in enumerate(tanks)), self.tank)
            which.chosen.connect(self.show_tank)
            which.setObjectName("which-tank")
            self._place(grid, "Which", which, lambda: which.show_value(self.tank), 232)
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
        wishes = wishes_of(self.workspace.system.devices) or Wishes()
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
            edit.failed.connect(self.say)
            self._place(grid, label, edit, lambda: None)

    def show_tank(self, index: int) -> None:
        """Another tank in the form."""
        self.tank = index
        self._of = [t.id for t in self.workspace.system.tanks]
        self._fields = []
        wishes = self.wishes()
        old = self.takeWidget()
        if old is not None:
            old.deleteLater()
        put_in(self, self._form())
        self.show_wishes(wishes)

    def show_wishes(self, wishes: Wishes) -> None:
        """Tick these chambers, and put in these heaters."""
        for role, box in self.roles.items():
            box.setChecked(role in wishes.roles)
        self.heaters.show_value(wishes.heaters, self.workspace.units)
        self.watts.show_value(wishes.heater_watts, self.workspace.units)

    def _place(self, grid: QGridLayout, label: str, field: QWidget, follow: Any, wide: int = 158) -> None:
        row = grid.rowCount()
        text = Label(label)
        text.setStyleSheet(f"color: {theme.current().muted};")
        text.setWordWrap(True)
        text.setBuddy(field)
        field.setAccessibleName(label)
        field.setFixedWidth(theme.px(wide))
        grid.addWidget(text, row, 0)
        grid.addWidget(field, row, 1, Qt.AlignmentFlag.AlignRight)
        self._fields.append((field, follow))

    def _value(self, path: tuple[Any, ...]) -> Any:
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
        edit.failed.connect(self.say)
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
            self.say("")
            changes = tuple(Change((*base, n), v) for n, v in zip(names, sizes, strict=True))
            self.workspace.edit(Edit("Set " + label.split(",")[0].lower() + " sizes", changes))

        edit.committed.connect(take)
        edit.failed.connect(self.say)
        self._place(grid, label, edit, lambda: edit.show_value(now(), self.workspace.units), 244)

    def _send(self, name: str, path: tuple[Any, ...], value: Any, merge: str = "") -> None:
        self.say("")
        self.workspace.edit(Edit(name, (Change(path, value),)), merge)

    def say(self, sentence: str) -> None:
        """What could not be taken; nothing takes it away."""
        self.error.setText(sentence)
        self.error.setVisible(bool(sentence))
        if sentence:
            self.ensureWidgetVisible(self.error)


def _head(words: str) -> QLabel:
    label = Label(words)
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
