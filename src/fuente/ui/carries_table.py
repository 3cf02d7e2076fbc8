"""What each filter carries: the feed a day, by the rule that holds and by all, and animals of the stock."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtWidgets import QWidget

from fuente.study.carries import Carried
from fuente.ui import theme
from fuente.ui.grid import Cell, Grid, Line
from fuente.ui.workspace import Workspace
from fuente.units import UnitSystem, shown

COLUMNS = ("What carries", "Surface", "Carries, feed", "by all rules", "of your animals", "Held by")
_FLOW = "its flow sets the pace"


class CarriesTable(Grid):
    """A line for each filter, and for all that share a water."""

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(COLUMNS, "What each filter carries", range(1, 5), parent=parent)
        self.workspace = workspace
        self.fits(theme.px(62))

    def fill(self, found: Sequence[Carried]) -> None:
        """Show what was found; one filter alone is all of it."""
        alone = {c.tanks for c in found if not c.device and sum(o.tanks == c.tanks for o in found) == 2}
        waters = len({c.tanks for c in found})
        names = {t.id: t.name for t in self.workspace.system.tanks}
        lines = [
            _line(c, self.workspace.units, f" · {names[c.tanks[0]]}" if waters > 1 and len(c.tanks) == 1 else "")
            for c in found
            if c.device or c.tanks not in alone
        ]
        self.show_lines(lines)
        head, line = self.horizontalHeader().sizeHint().height(), self.verticalHeader().defaultSectionSize()
        height = head + line * len(lines) + theme.px(8)
        self.setMinimumHeight(min(height, theme.px(58)))
        self.setMaximumHeight(height)
        self.setVisible(bool(lines))


def _about(feed: float, units: UnitSystem) -> str:
    """A feed in kg/s with the two figures that the model is good for."""
    return shown(float(f"{feed:.1e}"), "feed", units)


def _line(c: Carried, units: UnitSystem, of: str) -> Line:
    where = of if c.device or len(c.tanks) < 2 else f", {len(c.tanks)} tanks"
    spread = f"{_about(c.least, units)} to {_about(c.most, units)}"
    tip = (
        "Feed whose ammonia its surface takes at the ammonia that you live with, and no more than its flow brings. By"
        " all rules: outer surface or with the claimed core, standing carriers or not, each ±40 %. Oxygen must hold."
    )
    cells = (
        Cell(c.name + where, bold=not c.device, tip=tip),
        Cell(shown(c.surface, "area", units), c.surface, right=True),
        Cell(_about(c.feed, units), c.feed, right=True, bold=not c.device, tip=tip),
        Cell(spread, c.most, right=True, tip=tip),
        Cell(f"{float(f'{c.animals:.1e}'):.0f}" if c.animals >= 0.5 else "–", c.animals, right=True),
        Cell(_FLOW if c.flow_bound and c.device else "", tint="muted"),
    )
    return Line(cells, c.device or f"all of {c.tanks[0]}")
