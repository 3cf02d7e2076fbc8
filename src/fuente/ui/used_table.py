"""Foam, felt, floss and chemical media side by side: by the litre, by the sheet, by how long they last."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from fuente.catalogue import consumables
from fuente.life.compare import Used, used
from fuente.ui import theme
from fuente.ui.grid import Cell, Grid, Line
from fuente.units import UnitSystem, shown, unit_size

_KINDS = {"foam": "Foam", "felt": "Felt", "floss": "Floss and fleece", "mesh": "Mesh", "chemical": "Chemical media"}


def headings(units: UnitSystem) -> tuple[str, ...]:
    """By the units that are shown."""
    one = "gallon" if units == UnitSystem.US else "litre"
    return ("Used up", "Sold as", "Price", f"Per {one}", f"Surface a {one}", "Lasts", "For this water", "A year")


class UsedTable(Grid):
    """A line for each thing that is used up."""

    def __init__(self, units: UnitSystem, parent: QWidget | None = None):
        super().__init__(headings(units), "Foam, floss and chemical media side by side", range(2, 8), 0, parent)
        self.fits(theme.px(62))

    def fill(self, water: float, units: UnitSystem) -> None:
        """For a tank water in m³."""
        self.rows.name_columns(headings(units))
        self.show_lines([_line(used(each, water), units) for each in consumables()])


def _line(line: Used, units: UnitSystem) -> Line:
    stuff = line.stuff
    one = unit_size("volume", units)
    sold = "by volume"
    if stuff.sheet is not None:
        length, width, thick = (shown(side, "length", units, unit=False) for side in stuff.sheet)
        sold = f"{length} × {width} × {thick} {'in' if units == UnitSystem.US else 'mm'}"
    dose = "–"
    if line.volume > 0:
        dose = f"{shown(line.volume, 'volume', units)}, {shown(line.mass, 'mass', units)}"
    weeks = stuff.life / 604800
    lasts = f"{weeks / 52:.1f} years" if weeks >= 100 else f"{weeks:.0f} week{'s' if weeks >= 1.5 else ''}"
    cells = (
        (f"{stuff.name}", float(list(_KINDS).index(stuff.kind))),
        (sold, 0.0),
        (f"{stuff.cost:.2f}", stuff.cost),
        (f"{line.per_litre * 1000 * one:.2f}", line.per_litre),
        (shown(line.surface * 1000 * one, "area", units) if line.surface else "–", line.surface),
        (lasts, stuff.life),
        (dose, line.volume),
        (f"{line.per_year * (1 if line.volume else 1000 * one):.2f}", line.per_year),
    )
    kept = "gallon" if units == UnitSystem.US else "litre"
    tip = (
        f"{_KINDS[stuff.kind]}; a year of the dose for this water, else of one {kept} kept in use. Figures:"
        f" {stuff.source}, ±50 %."
    )
    return Line(
        tuple(Cell(text, number, right=at > 1, tip=tip if at == 0 else "") for at, (text, number) in enumerate(cells)),
        stuff.id,
    )
