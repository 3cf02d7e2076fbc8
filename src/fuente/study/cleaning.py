"""What is carried when one chamber is pumped out."""

from __future__ import annotations

from typing import TYPE_CHECKING

from fuente.devices.base import Rank, Verdict
from fuente.devices.sump import network as sump_network
from fuente.devices.sump.spec import Chamber
from fuente.network import Cell, LevelCurve, Link, Network, Solution
from fuente.network.laws import Gap
from fuente.study.situation import TITLES, Situation

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

BUCKET = "bucket"


def cleaning(analysis: Analysis) -> Situation:
    """One chamber pumped into a bucket, everything standing: what is carried, and what falls with it."""
    chamber = analysis.cleaned()
    off = analysis.standing(0.0)
    rest = analysis.situation("power_cut").solution
    cells = sump_network.cell_ids(analysis.sump, chamber)
    bucket = Cell(BUCKET, "The bucket", -1000.0, -999.0, LevelCurve.prism(-1000.0, -999.0, 1e4), sink=True)
    hoses = [
        Link(f"{BUCKET}.{cell}", "Hose to the bucket", cell, BUCKET, Gap(off.cell(cell).floor, 0.05, 0.01), "hose")
        for cell in cells
    ]
    emptied = Network((*off.cells, bucket), (*off.links, *hoses), off.marks, off.groups)
    solution = analysis.settled("cleaning", emptied, rest.level)
    carried = solution.volume[BUCKET]
    own = sum(rest.volume[c] for c in cells)
    others = [c for c in analysis.sump.chambers if c.id != chamber.id and _fell(analysis, c, rest, solution)]
    numbers = {"carried": carried, "own": own, "others": float(len(others))}
    if not others:
        verdict = Verdict("{carried:volume}, apart", numbers)
    else:
        verdict = Verdict(
            "{carried:volume}, " + ("1 other falls" if len(others) == 1 else f"{len(others)} others fall"),
            numbers,
            Rank.CONSIDER,
        )
    return Situation("cleaning", TITLES["cleaning"], solution, verdict, numbers)


def _fell(analysis: Analysis, chamber: Chamber, before: Solution, after: Solution) -> bool:
    cells = sump_network.cell_ids(analysis.sump, chamber)
    return any(before.level[c] - after.level[c] > 0.02 for c in cells)
