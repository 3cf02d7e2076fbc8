"""A year of living water, and a dose that spreads and is changed away, as charts. No Qt."""

from __future__ import annotations

from typing import TYPE_CHECKING

from fuente.life.inputs import AMMONIA, NITRATE, NITRITE, OXYGEN
from fuente.life.renewal import NITRATE_ION
from fuente.shown.carrying import concentration
from fuente.shown.water_charts import Chart, Line
from fuente.study.tracer import EVEN, spread_of
from fuente.study.weeks import DAY, start_of, weeks
from fuente.units import UnitSystem, shown, unit_label

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

YEAR = 365.0
_EVERY = 6 * 3600.0
_TENTH = 10.0


def year(study: Analysis, tank: str, units: UnitSystem) -> Chart:
    """From the first day on for a year, started as the design says."""
    keeping = study.system.keeping
    made = weeks(study, YEAR, start_of(keeping), every=_EVERY)
    rows = (
        ("ammonia", "fall", AMMONIA, 1e3),
        ("nitrite", "pumped", NITRITE, 1e3),
        ("nitrate (NO₃) in tens", "living", NITRATE, 1e3 * NITRATE_ION / _TENTH),
        ("oxygen", "air", OXYGEN, 1e3),
    )
    lines = tuple(Line(name, tone, size * made.of(what, tank)) for name, tone, what, size in rows)
    top, low = float(lines[2].values.max()) * _TENTH * 1e-3, float(lines[3].values.min()) * 1e-3
    ready = "It does not hold within the year." if made.ready is None else ""
    if made.ready:
        ready = f"It holds from week {made.ready / DAY / 7:.1f} on."
    words = (
        f"{ready} Nitrate comes to {concentration(top, units)} at most, oxygen falls to {concentration(low, units)}."
        " The feed, the room and the changes are taken to stay as they are."
    )
    return Chart(
        "A year",
        "weeks from the start",
        unit_label("concentration", units),
        made.times / DAY / 7,
        lines,
        words.strip(),
        started=keeping.started,
    )


def dose(study: Analysis, tank: str, amount: float, units: UnitSystem) -> Chart:
    """A dose of something that nothing uses up, put into a tank."""
    found = spread_of(study, tank, amount)
    names = {t.id: t.name for t in study.system.tanks}
    lines = [Line(names[tank], "fall", 1e3 * found.tanks[tank])]
    others = [key for key in found.tanks if key != tank and found.tanks[key].max() > 0]
    if others:
        far = min(others, key=lambda key: float(found.tanks[key][1 : len(found.times) // 4].sum()))
        lines.append(Line(f"{names[far]}, last reached", "pumped", 1e3 * found.tanks[far]))
    lines.append(Line("all that it reaches", "muted", 1e3 * found.whole, dashed=True))
    even = (
        "It is not even before the first change."
        if found.even is None
        else f"Even to {100 * EVEN:.0f} % after {_span(found.even)}."
    )
    share = study.system.keeping.share
    again = f" To hold it, dose {100 * share:.0f} % of that again after each change." if share > 0 else ""
    words = (
        f"{shown(amount, 'dose', units)} makes {concentration(float(found.whole[0]), units)} in all the water that it"
        f" reaches. {even} After four weeks {100 * found.left:.0f} % is left.{again} Chemical media and light take"
        " more."
    )
    return Chart(
        "A dose",
        "days",
        unit_label("concentration", units),
        found.times / DAY,
        tuple(lines),
        words,
    )


def _span(seconds: float) -> str:
    if seconds < 5400:
        return f"{max(seconds / 60, 1):.0f} min"
    return f"{seconds / 3600:.1f} h" if seconds < 2 * DAY else f"{seconds / DAY:.0f} days"
