"""Rules for how much media, side by side: what each asks for, what there is, and what that carries."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtWidgets import QWidget

from fuente.shown.carrying import feed_words
from fuente.study.amounts import Amount
from fuente.ui import theme
from fuente.ui.grid import Cell, Grid, Line
from fuente.units import UnitSystem, shown

COLUMNS = ("Rule", "Needed", "There", "That much carries, feed", "Finest by coarsest")
_TIP = "By areal rates, from the coarsest to the finest medium that is sold; oxygen must hold. ±40 % besides."


class AmountsTable(Grid):
    """A line for each rule."""

    def __init__(self, parent: QWidget | None = None):
        super().__init__(COLUMNS, "Rules for how much media", range(1, 5), parent=parent)
        self.fits(theme.px(62))

    def fill(self, found: Sequence[Amount], units: UnitSystem) -> None:
        """Show them."""
        self.show_lines([_line(each, units) for each in found])


def explained(found: Sequence[Amount], units: UnitSystem) -> str:
    """Why the rules differ, in a sentence or two."""
    if len(found) < 3:
        return ""
    areal, litres, kilos = found
    one = "gallons" if units == UnitSystem.US else "litres"
    words = (
        f"Only surface knows the feed. A rule by {one} or by weight says the same for every medium, though media differ"
        f" {litres.apart:.0f} and {kilos.apart:.0f} times in surface."
    )
    if areal.wants > 0:
        words += (
            f" Here {shown(areal.there, 'area', units)} is {areal.there / areal.wants:.1f} times what the feed wants."
        )
    return words


def _line(each: Amount, units: UnitSystem) -> Line:
    wants, there = (shown(value, each.quantity, units) for value in (each.wants, each.there))
    mark = "" if each.met else " ◆"
    cells = (
        Cell(each.rule[:1].upper() + each.rule[1:], tip=_TIP),
        Cell(wants, each.wants, right=True),
        Cell(there + mark, each.there, right=True, bold=not each.met, tint="" if each.met else "stop"),
        Cell(f"{feed_words(each.least, units)} to {feed_words(each.most, units)}", each.most, right=True, tip=_TIP),
        Cell(f"{each.apart:.1f} ×", each.apart, right=True),
    )
    return Line(cells, each.rule)
