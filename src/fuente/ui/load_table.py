"""The load of each tank, typed where it is known: animals, their length, ration, feed and protein."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from fuente.devices.base import Change, Edit
from fuente.devices.homes import HomeSpec
from fuente.errors import EntryError
from fuente.life.load import ammonia_made
from fuente.study.loads import Load
from fuente.typed import parse
from fuente.ui import theme
from fuente.ui.grid import Cell, Grid, Line
from fuente.ui.workspace import Workspace
from fuente.units import UnitSystem, shown

# Columns: heading, field that is typed in, its quantity.
COLUMNS = (
    ("Tank", "", ""),
    ("Animals", "heads", "number"),
    ("Each long", "body", "length"),
    ("Fed a day", "ration", "percent"),
    ("Feed", "feed", "feed"),
    ("Protein", "protein", "fraction"),
    ("Ammonia N", "", "feed"),
    ("Surface needed", "", "area"),
    ("Surface there", "", "area"),
)


class LoadTable(Grid):
    """A line for each tank; where it is typed, an edit of the design."""

    said = Signal(str)  # why a number was not taken, or nothing

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__([c[0] for c in COLUMNS], "Load of each tank", range(1, len(COLUMNS)), parent=parent)
        self.workspace = workspace
        self.types()
        self.fits(theme.px(62))
        self.rows.typed.connect(self._typed)

    def _typed(self, row: int, column: int, words: str) -> None:
        label, field, quantity = COLUMNS[column]
        tank = self.workspace.system.tanks[row]
        try:
            value: Any = parse(words, quantity, self.workspace.units)
        except EntryError as error:
            self.said.emit(str(error))
            return
        self.said.emit("")
        value = round(value) if field == "heads" else value
        name = f"{tank.name}: {label[:1].lower()}{label[1:]}"
        self.workspace.edit(Edit(name, (Change((*tank.path, field), value),)))

    def fill(self, found: Sequence[Load]) -> None:
        """Show the tanks and what each makes and has."""
        system, units = self.workspace.system, self.workspace.units
        by_tank = {key: load for load in found for key in load.tanks}
        self.show_lines([Line(_cells(tank, by_tank[tank.id], units), tank.id) for tank in system.tanks])
        head, line = self.horizontalHeader().sizeHint().height(), self.verticalHeader().defaultSectionSize()
        height = head + line * len(system.tanks) + theme.px(8)
        self.setMinimumHeight(min(height, theme.px(148)))
        self.setMaximumHeight(height)


def _cells(tank: HomeSpec, load: Load, units: UnitSystem) -> tuple[Cell, ...]:
    """A tank's line: its own part of the water that it shares with others."""
    made = ammonia_made(tank.fed, tank.protein)
    part = made / load.nitrogen if load.nitrogen else 0.0
    weighed = tank.feed <= 0 and tank.heads > 0
    by_length = "By number, length and ration; type the feed where you know it." if weighed else ""
    words = (
        (f"{tank.name}{' · ' + tank.stock if tank.stock else ''}", ""),
        (str(tank.heads), ""),
        (shown(tank.body, "length", units), "muted" if tank.heads == 0 else ""),
        (shown(tank.ration, "percent", units), "" if weighed else "muted"),
        (shown(tank.fed, "feed", units), "muted" if weighed else ""),
        (shown(tank.protein, "fraction", units), ""),
        (shown(made, "feed", units), ""),
        (shown(load.need * part, "area", units), ""),
        (
            shown(load.have * part, "area", units) if load.nitrogen else "–",
            "stop" if load.nitrogen and load.have < load.need else "",
        ),
    )
    return tuple(
        Cell(
            text,
            right=column > 0,
            tint=tint,
            typed=bool(COLUMNS[column][1]),
            tip=by_length if COLUMNS[column][0] == "Feed" else "",
        )
        for column, (text, tint) in enumerate(words)
    )
