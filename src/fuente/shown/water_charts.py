"""Charts of living water as plain data: lines with their bands, marks, and what they say in a sentence. No Qt."""

from __future__ import annotations

import csv
import datetime
import io
from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from fuente.document.record import Tested
from fuente.life.inputs import (
    AMMONIA,
    NITRATE,
    NITRITE,
    OXYGEN,
)
from fuente.life.renewal import NITRATE_ION
from fuente.shown.carrying import concentration, two_digits
from fuente.shown.start_plan import PlanDay, plan
from fuente.shown.start_words import between, in_weeks, start_words
from fuente.study.air_hours import FOLLOWED, followed, under
from fuente.study.fitted import Seen, fitted
from fuente.study.nitrate import PLANTS, peak, renewal
from fuente.study.warm_days import BLOWN, DANGER, WARM, chiller, warm_days
from fuente.study.weeks import DAY, Start, spread, start_of, weeks
from fuente.units import UnitSystem, shown, unit_label, unit_size

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

WEEK, HOUR = 7 * DAY, 3600.0
_TENTH = 10.0
_TONES = {
    "coldest room": "accent",
    "one stuck on": "stop",
    "as one large, stuck on": "stop",
    "as two small, one stuck on": "stop",
    "one dead, coldest room": "pumped",
    "all dead, coldest room": "fall",
    WARM: "living",
    BLOWN: "living",
}


@dataclass(frozen=True)
class Line:
    """A line: its name, its tone by role, values over the chart's times, and where given the least and the most that
    they could be.
    """

    name: str
    tone: str
    values: np.ndarray
    least: np.ndarray | None = None
    most: np.ndarray | None = None
    dashed: bool = False


@dataclass(frozen=True)
class Points:
    """What tests read: tone by role, times and values as the chart's."""

    tone: str
    times: tuple[float, ...]
    values: tuple[float, ...]


@dataclass(frozen=True)
class Chart:
    """Lines over times. ``times`` in the unit of ``across``; values in that of ``up``. ``marks`` are times of doses,
    ``uprights`` (time, words) of what happens then, ``level`` (value, words) a limit; ``says`` a sentence about it.
    """

    title: str
    across: str
    up: str
    times: np.ndarray
    lines: tuple[Line, ...]
    says: str
    marks: tuple[float, ...] = ()
    marked: str = ""
    uprights: tuple[tuple[float, str], ...] = ()
    level: tuple[float, str] | None = None
    points: tuple[Points, ...] = ()
    plan: tuple[PlanDay, ...] = ()
    started: str = ""

    def as_csv(self) -> str:
        """A table of it: time, then every line with its band."""
        out = io.StringIO()
        writer = csv.writer(out)
        head, columns = [self.across], [self.times]
        for line in self.lines:
            head.append(f"{line.name}, {self.up}")
            columns.append(line.values)
            for name, values in (("least", line.least), ("most", line.most)):
                if values is not None:
                    head.append(f"{line.name}, {name}, {self.up}")
                    columns.append(values)
        writer.writerow(head)
        writer.writerows([f"{v:.6g}" for v in row] for row in zip(*columns, strict=True))
        return out.getvalue()


def starting(study: Analysis, tank: str, units: UnitSystem, tests: Sequence[Tested] = (), days: float = 84.0) -> Chart:
    """Ammonia, nitrite and nitrate from the first day, started as the design says; with the builder's ``tests``, and
    then through them.
    """
    start = start_of(study.system.keeping)
    seen = since(study.system.keeping.started, tests)
    fit = fitted(study, tank, seen, start, days) if seen else None
    made = spread(study, days, start) if fit is None else (fit.made, fit.made, fit.made)
    usual = made[0]
    lines = []
    for what, name, tone, size in (
        (AMMONIA, "ammonia", "fall", 1.0),
        (NITRITE, "nitrite", "pumped", 1.0),
        (NITRATE, "nitrate (NO₃) in tens", "living", NITRATE_ION / _TENTH),
    ):
        each = [w.of(what, tank) * size * 1e3 for w in made]
        if fit is not None or (what == AMMONIA and len(usual.doses) > 1):  # doses on other days would only hatch it
            lines.append(Line(name, tone, each[0]))
        else:
            lines.append(Line(name, tone, each[0], np.minimum.reduce(each), np.maximum.reduce(each)))
    uprights = []
    if usual.ready is not None and usual.ready > 0:
        band = between(made) if fit is None else ""
        event = "animals" if start.way == "fishless" else "it holds"
        uprights.append((usual.ready / WEEK, f"{event}, {in_weeks(usual.ready)} weeks{band}"))
    doses = tuple(when / WEEK for when, by_tank in usual.doses if tank in by_tank)
    return Chart(
        "Starting up",
        "weeks from the start",
        f"{unit_label('concentration', units)} as nitrogen",
        usual.times / WEEK,
        tuple(lines),
        start_words(study, usual, fit, tank, units),
        doses,
        "dose of ammonia" if doses else "",
        tuple(uprights),
        points=_read(seen),
        plan=plan(study, usual, units),
        started=study.system.keeping.started,
    )


def since(started: str, tests: Sequence[Tested]) -> tuple[Seen, ...]:
    """Tests from the day of the start on, at noon of their day."""
    if not started:
        return ()
    first = datetime.date.fromisoformat(started)
    found = []
    for test in tests:
        days = (datetime.date.fromisoformat(test.date) - first).days
        if days >= 0:
            found.append(Seen((days + 0.5) * DAY, test.ammonia, test.nitrite, test.nitrate))
    return tuple(found)


def _read(seen: Sequence[Seen]) -> tuple[Points, ...]:
    found = []
    for name, tone, size in (("ammonia", "fall", 1e3), ("nitrite", "pumped", 1e3), ("nitrate", "living", 1e3 / _TENTH)):
        pairs = [(s.time / WEEK, getattr(s, name) * size) for s in seen if getattr(s, name) is not None]
        if pairs:
            found.append(Points(tone, tuple(t for t, _ in pairs), tuple(v for _, v in pairs)))
    return tuple(found)


def nitrate(study: Analysis, tank: str, units: UnitSystem, days: float = 168.0) -> Chart:
    """Nitrate between changes."""
    made = weeks(study, days, Start("mature"), every=12 * HOUR)
    keeping = study.system.keeping
    values = made.of(NITRATE, tank) * NITRATE_ION * 1e3
    line = Line("nitrate (NO₃)", "living", values, 0.8 * values, 1.2 * values)
    top = peak(study)
    found = renewal(study)
    words = [f"In the long run it stands at {concentration(top, units)} before a change."]
    if found is not None and np.isfinite(found.share):
        limit = concentration(keeping.nitrate_limit, units)
        batch = f"{100 * min(found.share, 9.99):.0f} % every {keeping.interval / DAY:.0f} days"
        if found.share > 1:
            batch = "more than all of it"
        count = max(found.plants * PLANTS, 1)
        plants = (
            f", or besides {count:.0f} marsh plants on {shown(found.plants, 'area', units)}" if found.plants > 0 else ""
        )
        words.append(
            f"To keep it under {limit}: change {batch}, or drip {100 * found.drip:.1f} % a day"
            f" ({shown(found.dripped / 7, 'volume', units)}){plants}."
        )
    return Chart(
        "Nitrate between changes",
        "weeks",
        unit_label("concentration", units),
        made.times / WEEK,
        (line,),
        " ".join(words),
        level=(keeping.nitrate_limit * 1e3, "your limit"),
    )


def power_cut(study: Analysis, tank: str, units: UnitSystem) -> Chart:
    """Oxygen with everything off: the tanks, and the filters that stand still."""
    usual, poor, good = (followed(study, gas=gas) for gas in (1.0, 0.5, 2.0))
    hours = FOLLOWED
    keeping = study.system.keeping
    rows = [w.of(OXYGEN, tank) * 1e3 for w in (usual, poor, good)]
    name = study.system.tank(tank).name
    lines = [Line(name, "fall", rows[0], np.minimum.reduce(rows), np.maximum.reduce(rows))]
    stations = sorted(usual.water.places, key=lambda p: -p.area)
    seen: set[str] = {tank}
    for place in stations:
        if place.cell not in seen and len(lines) < 4:
            seen.add(place.cell)
            cell = study.network.cell(place.cell)
            standing = usual.of(OXYGEN, place.cell) * 1e3
            lines.append(Line(cell.name, "pumped", standing, dashed=len(lines) > 1))
    after = [under(w, tank, keeping.oxygen_limit) for w in (usual, poor, good)]
    limit = concentration(keeping.oxygen_limit, units)
    if after[0] is None:
        low = concentration(float(rows[0].min()) * 1e-3, units)
        says = f"{name} stays over {limit} for {hours:.0f} hours; it falls to {low}."
    else:
        late = f"{after[2]:.0f}" if after[2] is not None else f"over {hours:.0f}"
        early = f"{after[1]:.0f}" if after[1] is not None else f"{after[0]:.0f}"
        says = f"{name} is under {limit} after {after[0]:.0f} hours ({early} to {late})."
    foul = [
        (line.name, float(usual.times[np.flatnonzero(line.values < 0.5)[0]]) / HOUR)
        for line in lines[1:]
        if (line.values < 0.5).any()
    ]
    if foul:
        first = min(foul, key=lambda f: f[1])
        says += (
            f" {first[0]} has used up its oxygen after {max(first[1], 0.25):.1f} hours: rinse what stood still before"
            " its water goes back to animals."
        )
    return Chart(
        "Oxygen in a power cut",
        "hours",
        unit_label("concentration", units),
        usual.times / HOUR,
        tuple(lines),
        says,
        level=(keeping.oxygen_limit * 1e3, "your limit"),
    )


def warmth(study: Analysis, tank: str, units: UnitSystem) -> Chart:
    """Temperature in every case of heaters and room."""
    cases = warm_days(study)
    size, zero = unit_size("temperature", units), 32.0 if units == UnitSystem.US else 0.0
    lines = tuple(
        Line(
            case.name,
            _TONES.get(case.name, "muted"),
            case.tanks[tank] / size + zero,
            dashed=case.other or case.name == BLOWN,
        )
        for case in cases
    )
    ends = "; ".join(f"{c.name} {shown(float(c.tanks[tank][-1]), 'temperature', units)}" for c in cases)
    off = [(c.name, hours) for c in cases if not c.other and (hours := c.hours_off(tank)) is not None]
    by = f"{DANGER / size:.0f} {unit_label('temperature', units)}"
    words = f"After four days: {ends}."
    if off:
        first = "; ".join(f"{name} {hours:.0f} h" for name, hours in off)
        words += f" {by} off after: {first}."
    watts = chiller(study)
    if watts > 1.0:
        words += f" To keep it in the warmest room takes about {shown(two_digits(watts), 'power', units)} of cooling."
    return Chart(
        "Warmth",
        "hours",
        unit_label("temperature", units),
        cases[0].times / HOUR,
        lines,
        f"{words} ±30 % of how fast it goes.",
    )
