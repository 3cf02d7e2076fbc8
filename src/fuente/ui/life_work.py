"""What the view of living water has worked out: what is carried, and the chart that is shown."""

from __future__ import annotations

from collections.abc import Callable

from fuente.session.log_book import tests_of
from fuente.shown.carrying import Carries, carrying
from fuente.shown.long_charts import dose, year
from fuente.shown.water_charts import Chart, nitrate, power_cut, starting, warmth
from fuente.study.analysis import Analysis
from fuente.ui.workspace import Workspace

CHARTS = {
    "start": "Starting up",
    "year": "A year",
    "nitrate": "Nitrate",
    "cut": "Power cut",
    "warmth": "Warmth",
    "dose": "A dose",
}


def work_of(
    workspace: Workspace, tank: str, which: str, amount: float
) -> tuple[Callable[[Analysis], Carries], Callable[[Analysis], Chart]]:
    """Both, for a thread of the pool; a dose takes an amount, kg."""
    units = workspace.units
    tests = workspace.record.tests_of(tank)
    if workspace.system.keeping.started:  # by which a day of the log is a day of the start
        tests = tests_of(workspace.book.entries, tank, tests)
    makers: dict[str, Callable[[Analysis], Chart]] = {
        "start": lambda a: starting(a, tank, units, tests),
        "nitrate": lambda a: nitrate(a, tank, units),
        "cut": lambda a: power_cut(a, tank, units),
        "warmth": lambda a: warmth(a, tank, units),
        "year": lambda a: year(a, tank, units),
        "dose": lambda a: dose(a, tank, amount, units),
    }
    make, dosed = makers[which], amount if which == "dose" else None
    # Of one design a chart is worked out once: turning back to it is instant.
    key = f"chart {which} of {tank} in {units}, {dosed}, {tests}"
    return (lambda a: carrying(a, units)), (lambda a: a.kept(key, lambda: make(a)))
