"""The card of the selected station: big numbers, what can be decided, what follows, and why."""

from __future__ import annotations

from collections.abc import Callable
from html import escape
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QBoxLayout,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from fuente.devices.base import Change, Choice, Edit, Reading, Station
from fuente.devices.grouping import grouped
from fuente.errors import FuenteError
from fuente.ui import theme
from fuente.ui.card_words import offered, reading_text
from fuente.ui.composed_fields import CurveEdit, FittingsButton
from fuente.ui.elided import ElidedButton, ElidedLabel
from fuente.ui.fields import ChoiceBox, CountEdit, QuantityEdit, TextEdit
from fuente.ui.label import Label, RichLabel
from fuente.ui.put_in import put_in
from fuente.units import UnitSystem, fill, shown, unit_label

FEW = 8  # further fields that need no heads


class StationCard(QScrollArea):
    """Rebuilt when another station is shown; otherwise its values follow."""

    duplicate_wanted = Signal(str)
    swap_wanted = Signal(str)  # id of the filter that another kind takes the place of  # id of the station
    edited = Signal(object, str)  # Edit, merge key

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.setObjectName("panel")
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName("Station card")
        self._key: tuple[Any, ...] = ()
        self._unfolded = False
        self._folded_away: Callable[[], None] | None = None  # makes the fields that are
        self._shut: set[str] = set()  # heads whose fields are folded away
        self._open_reading = -1
        self._fields: list[tuple[Choice, QWidget]] = []
        self._readings: list[tuple[QPushButton, QLabel]] = []
        self._tiles: list[tuple[QLabel, QLabel]] = []
        self._error = Label()
        self._station: Station | None = None
        self._units = UnitSystem.METRIC

    def show_station(self, station: Station | None, units: UnitSystem) -> None:
        """Show a station."""
        self._station, self._units = station, units
        if station is None:
            put_in(self, QWidget(self.viewport()))
            self._key = ()
            return
        key = (
            station.id,
            tuple((c.path, c.quantity, c.label, c.options) for c in station.choices),
            units,  # what is offered by size is what is sold there
            len(station.readings),
            bool(station.commands),
            theme.scale(),
            theme.current().name,
        )
        if key != self._key:
            if not self._key or self._key[0] != station.id:
                self._unfolded = False
                self._open_reading = -1
            self._key = key
            self._build(station)
        self._follow(station)

    def copied_words(self) -> tuple[str, str]:
        """The card: its name, its figures, and what was chosen for it."""
        station, units = self._station, self._units
        if station is None:
            return "Card", ""
        rows = [f"{r.label}\t{reading_text(r, units)}" for r in (*station.big, *station.readings)]
        return "Card", "\n".join([station.name, *rows])

    def say(self, sentence: str) -> None:
        """Show what was wrong with an entry, or clear it."""
        self._error.setText(sentence)
        self._error.setVisible(bool(sentence))
        if sentence:
            self.ensureWidgetVisible(self._error)

    # -- building -------------------------------------------------------------------------------------------------

    def _build(self, station: Station) -> None:
        page = QWidget(self.viewport())
        page.setObjectName("panel")
        column = QVBoxLayout(page)
        column.setContentsMargins(theme.px(16), theme.px(16), theme.px(16), theme.px(16))
        column.setSpacing(theme.px(6))
        self._fields, self._readings, self._tiles = [], [], []
        self._folded_away = None
        heading = Label(station.name)
        heading.setObjectName("heading")
        heading.setWordWrap(True)
        head = QHBoxLayout()
        head.addWidget(heading, 1)
        if station.commands:
            head.addWidget(self._commands())
        column.addLayout(head)
        self._note = Label(station.note)
        self._note.setObjectName("subheading")
        self._note.setWordWrap(True)
        column.addWidget(self._note)
        tiles: QBoxLayout = QHBoxLayout() if theme.scale() < 1.3 else QVBoxLayout()  # side by side where both fit
        tiles.setSpacing(min(theme.px(12), 12))
        for _ in station.big:
            tiles.addWidget(self._tile(page))
        column.addLayout(tiles)
        self._error = Label()
        self._error.setObjectName("error")
        self._error.setWordWrap(True)
        self._error.hide()
        column.addWidget(self._error)
        grid = QGridLayout()
        grid.setColumnStretch(0, 1)
        grid.setHorizontalSpacing(theme.px(10))
        grid.setVerticalSpacing(theme.px(5))
        row = 0
        for choice in station.choices:
            if not choice.fold:
                row = self._row(grid, row, choice, page)
        column.addLayout(grid)
        if any(c.fold for c in station.choices):
            self._folded(column, station)
        column.addWidget(_rule())
        for i, reading in enumerate(station.readings):
            column.addLayout(self._reading(i, reading))
        self._why_label = RichLabel()
        self._why_label.setObjectName("why")
        self._why_label.setWordWrap(True)
        self._why_label.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        column.addWidget(self._why_label)
        column.addStretch(1)
        put_in(self, page)

    def _commands(self) -> QPushButton:
        """A menu of what else can be done here."""
        button = QPushButton("Change")
        button.setObjectName("link")
        button.setAccessibleName("Add, move or take out")
        button.setCursor(Qt.CursorShape.PointingHandCursor)

        def does(edit: Edit) -> Callable[[], None]:
            return lambda: self.edited.emit(edit, "")

        def show() -> None:
            menu = QMenu(button)
            for name, edit in self._station.commands() if self._station and self._station.commands else ():
                menu.addAction(name, does(edit))
            if self._station is not None and self._station.many:
                owner = self._station.id
                menu.addAction("Duplicate to tanks of your choice …", lambda: self.duplicate_wanted.emit(owner))
            if self._station is not None and self._station.swaps:
                here = self._station.id
                menu.addAction("Swap for another kind …", lambda: self.swap_wanted.emit(here))
            menu.popup(button.mapToGlobal(button.rect().bottomLeft()))
            self.menu = menu

        button.clicked.connect(show)
        self.commands_button = button
        return button

    def _tile(self, page: QWidget) -> QFrame:
        frame = QFrame(page)
        frame.setObjectName("tile")
        box = QVBoxLayout(frame)
        side = min(theme.px(12), 12)
        box.setContentsMargins(side, theme.px(8), side, theme.px(8))
        box.setSpacing(0)
        number, words = RichLabel(), Label()
        number.setObjectName("big")
        words.setObjectName("quiet")
        words.setWordWrap(True)
        box.addWidget(number)
        box.addWidget(words)
        self._tiles.append((number, words))
        return frame

    def _folded(self, column: QVBoxLayout, station: Station) -> None:
        fold = QPushButton()
        fold.setObjectName("fold")
        fold.setCursor(Qt.CursorShape.PointingHandCursor)
        inner = QWidget(column.parentWidget())
        groups = QVBoxLayout(inner)
        groups.setContentsMargins(0, 0, 0, 0)
        groups.setSpacing(theme.px(4))
        hidden = [c for c in station.choices if c.fold]
        heads = grouped(hidden) if len(hidden) > FEW else [("", hidden)]

        def make() -> None:
            for name, choices in heads:
                self._group(groups, inner, name, choices)

        def turn(open_: bool) -> None:
            self._unfolded = open_
            if open_:
                self._make_folded()
            inner.setVisible(open_)
            fold.setText("Fewer" if open_ else f"{len(hidden)} more")

        def pressed() -> None:
            turn(not self._unfolded)
            if self._station is not None:
                self._follow(self._station)

        fold.clicked.connect(pressed)
        column.addWidget(fold, 0, Qt.AlignmentFlag.AlignLeft)
        column.addWidget(inner)
        self._folded_away = make
        turn(self._unfolded)

    def _make_folded(self) -> None:
        """The fields that are folded away, when they are first asked for: most looks at a card ask for none."""
        make, self._folded_away = self._folded_away, None
        if make is not None:
            make()

    def _group(self, column: QVBoxLayout, inner: QWidget, name: str, choices: list[Choice]) -> None:
        """Fields under their head, which folds them away; as it was left on any card."""
        holder = QWidget(inner)
        grid = QGridLayout(holder)
        grid.setContentsMargins(0, 0, 0, theme.px(4))
        grid.setColumnStretch(0, 1)
        grid.setHorizontalSpacing(theme.px(10))
        grid.setVerticalSpacing(theme.px(5))
        row = 0
        for choice in choices:
            row = self._row(grid, row, choice, holder)
        if name:
            head = QPushButton(inner)
            head.setObjectName("fold")
            head.setCursor(Qt.CursorShape.PointingHandCursor)

            def turn(open_: bool) -> None:
                self._shut.discard(name) if open_ else self._shut.add(name)
                holder.setVisible(open_)
                head.setText(f"{'▾' if open_ else '▸'} {name}" + ("" if open_ else f" · {len(choices)}"))
                head.setAccessibleName(f"{name}: {len(choices)} fields, {'shown' if open_ else 'folded'}")

            head.clicked.connect(lambda: turn(name in self._shut))
            column.addWidget(head, 0, Qt.AlignmentFlag.AlignLeft)
            turn(name not in self._shut)
        column.addWidget(holder)

    def _row(self, grid: QGridLayout, row: int, choice: Choice, within: QWidget) -> int:
        label = Label(choice.label, within)
        label.setWordWrap(True)
        label.setMinimumWidth(theme.px(64))  # its own hint would be wider than its longest word
        label.setStyleSheet(f"color: {theme.current().muted};")
        field = self._field(choice)
        field.setAccessibleName(choice.label)
        field.setObjectName("field-" + "-".join(map(str, choice.path)))
        label.setBuddy(field)
        wide = (164, 180) if choice.quantity == "choice" else (124, 140)
        field.setFixedWidth(
            min(theme.px(wide[0]), wide[1])
        )  # in large text the card stays as wide as the drawing can spare
        grid.addWidget(label, row, 0)
        grid.addWidget(field, row, 1, Qt.AlignmentFlag.AlignRight)
        self._fields.append((choice, field))
        return row + 1

    def _field(self, choice: Choice) -> QWidget:
        name = f"Set {choice.label[:1].lower()}{choice.label[1:]}"

        def send(value: Any, merge: str = "") -> None:
            self.say("")
            current = (
                next((c for c in self._station.choices if c.label == choice.label), choice) if self._station else choice
            )
            try:
                edit = current.make(value) if current.make else Edit(name, (Change(choice.path, value),))
            except FuenteError as error:
                self.say(str(error))
                return
            self.edited.emit(edit, merge)

        if choice.quantity == "choice":
            box = ChoiceBox(offered(choice, self._units), choice.value)
            box.chosen.connect(send)
            return box
        if choice.quantity == "text":
            text = TextEdit(choice.value)
            text.committed.connect(send)
            return text
        if choice.quantity == "fittings":
            button = FittingsButton(choice.value)
            button.committed.connect(send)
            return button
        if choice.quantity == "curve":
            curve = CurveEdit(choice.value, self._units)
            curve.parsed.connect(send)
            curve.on_error = self.say
            return curve
        merge = "nudge " + ".".join(map(str, choice.path))
        if choice.quantity == "count":
            count = CountEdit(choice.value, self._units)
            count.committed.connect(lambda v: send(round(v)))
            count.nudged.connect(lambda v: send(max(0, round(v)), merge))
            count.failed.connect(self.say)
            return count
        edit = QuantityEdit(choice.quantity, choice.value, self._units, choice.step)
        edit.density, edit.plan = choice.density, choice.plan
        edit.committed.connect(send)
        edit.nudged.connect(lambda v: send(v, merge))
        edit.failed.connect(self.say)
        return edit

    def _reading(self, index: int, reading: Reading) -> QVBoxLayout:
        box = QVBoxLayout()
        box.setSpacing(theme.px(2))
        line = QHBoxLayout()
        name = ElidedButton(reading.label)
        name.setObjectName("reading")
        name.setCursor(Qt.CursorShape.PointingHandCursor)
        name.setToolTip("Show why")
        value = ElidedLabel(92)
        value.setObjectName("value")
        value.setAlignment(Qt.AlignmentFlag.AlignRight)
        line.addWidget(name, 1)
        line.addWidget(value)
        box.addLayout(line)
        name.clicked.connect(lambda: self._open(index))
        self._readings.append((name, value))
        return box

    def _open(self, index: int) -> None:
        self._open_reading = -1 if self._open_reading == index else index
        if self._station:
            self._follow(self._station)

    # -- following ------------------------------------------------------------------------------------------------

    def _follow(self, station: Station) -> None:
        units = self._units
        self._note.setText(station.note)
        self._note.setVisible(bool(station.note))
        for (number, words), reading in zip(self._tiles, station.big, strict=True):
            text = reading_text(reading, units)
            unit = unit_label(reading.quantity, units) if reading.quantity else ""
            if unit and text.endswith(unit):
                figure = escape(text[: -len(unit)].strip())
                number.setText(f'{figure} <span style="font-size:{theme.px(13)}px">{escape(unit)}</span>')
            else:
                number.setText(escape(text))
            words.setText(reading.label)
        order = {(*c.path, c.label): c for c in station.choices}
        for old, field in self._fields:
            choice = order.get((*old.path, old.label))
            if choice is None:
                continue
            if isinstance(field, QuantityEdit):
                field.show_value(choice.value, units)
                field.density, field.plan = choice.density, choice.plan
                if choice.plan:
                    much = shown(choice.value * choice.plan, "volume", units)
                    both = "inches or gallons" if units == UnitSystem.US else "millimetres or litres"
                    field.setToolTip(f"{much}; type {both}")
                if choice.density:
                    dry = shown(choice.value * choice.density, "mass", units)
                    both = "gallons or pounds" if units == UnitSystem.US else "litres or kilograms"
                    field.setToolTip(f"{dry} dry; type {both}")
            elif hasattr(field, "show_value"):
                field.show_value(choice.value)
        for i, ((name, value), reading) in enumerate(zip(self._readings, station.readings, strict=True)):
            name.setText(reading.label)
            value.setText(reading_text(reading, units))
            name.setAccessibleDescription(reading_text(reading, units) + ". " + fill(reading.why, {}, units))
            font = name.font()
            font.setUnderline(i == self._open_reading)
            name.setFont(font)
        why = station.why
        if 0 <= self._open_reading < len(station.readings):
            why = station.readings[self._open_reading]
        self._why_label.setVisible(why is not None)
        if why is not None:
            head = f"{why.label}, {reading_text(why, units)}."
            parts = [f"<b>{escape(head)}</b> {escape(fill(why.why, {}, units))}"]
            for word, said in (("From", why.source), ("How sure", why.sure)):
                if said:
                    told = escape(f"{word}: {fill(said, {}, units)}.")
                    parts.append(f"<br><span style='color:{theme.current().muted}'>{told}</span>")
            self._why_label.setText(" ".join(parts))

    def field(self, path: tuple[Any, ...]) -> QWidget | None:
        """The input of a path, for tests and for findings that point at it."""
        found = next((w for c, w in self._fields if c.path == path), None)
        if found is None and self._folded_away is not None and self._station is not None:
            self._make_folded()
            self._follow(self._station)
            return self.field(path)
        return found


def _rule() -> QFrame:
    line = QFrame()
    line.setObjectName("rule")
    line.setFixedHeight(1)
    return line
