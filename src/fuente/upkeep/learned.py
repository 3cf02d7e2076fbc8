"""What the log says: how each place clogs, why less flows, whether heaters and top-ups are as they should be."""

from __future__ import annotations

import datetime
import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from fuente.errors import FuenteError
from fuente.network.laws import Weir
from fuente.network.model import WayKind
from fuente.study.analysis import Analysis
from fuente.upkeep.clogging import Clog, clog
from fuente.upkeep.decline import FLOW, PART, READS, Cause, Moved, causes, moved
from fuente.upkeep.drift import Drift, drift
from fuente.upkeep.entry import Entry
from fuente.upkeep.measures import WORKED
from fuente.upkeep.places import Place, Places, as_new, drop_over, places_of, with_dirt
from fuente.upkeep.topup import Drying, drying, expected_drying
from fuente.upkeep.upkeep_tasks import tasks_of

DAY = 86400.0
READ_T = 0.15  # °C that a thermometer is read to
_RECENT = 60 * DAY
_LEAST = 0.25  # °C: a shift below that is not told


@dataclass(frozen=True)
class Series:
    """Everything that was written of one measure at one place, by its moment: s since 1970 and SI."""

    what: str
    place: str
    rows: tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class Said:
    """A sentence of what the log says: its head, the reason with numbers (slots as in Finding), and what to do;
    ``rank`` is stop, watch or fine.
    """

    key: str
    head: str
    words: str
    values: dict[str, float]
    act: str = ""
    rank: str = "watch"


class Learned:
    """All that is learnt of a design from its log, each thing when it is first asked for."""

    def __init__(self, study: Analysis, entries: Sequence[Entry], today: datetime.datetime):
        self.study, self.entries, self.today = study, list(entries), today
        self.places: Places = places_of(study)
        self._clogs: dict[str, Clog | None] = {}

    # -- series ---------------------------------------------------------------------------------------------------

    def series(self, what: str, place: str) -> Series:
        """Everything of one measure at one place."""
        rows = [
            (e.moment, e.value) for e in self.entries if e.what == what and e.place == place and e.value is not None
        ]
        return Series(what, place, tuple(sorted(rows)))

    def there(self) -> list[tuple[str, str]]:
        """Measures and places with two readings and more, most of them first."""
        count: dict[tuple[str, str], int] = {}
        for e in self.entries:
            if e.value is not None and not _counted(e.what):
                count[(e.what, e.place)] = count.get((e.what, e.place), 0) + 1
        return [key for key, n in sorted(count.items(), key=lambda item: -item[1]) if n >= 2]

    @property
    def begins(self) -> float:
        """When the system was started: as the builder says, else the first entry; s since 1970."""
        started = self.study.system.keeping.started
        first = min((e.moment for e in self.entries), default=self.today.timestamp())
        if started:
            day = datetime.date.fromisoformat(started)
            moment = datetime.datetime(day.year, day.month, day.day, tzinfo=self.today.tzinfo).timestamp()
            return min(moment, first) if moment > first else moment
        return first

    def worked(self, place: Place) -> list[float]:
        """When a place was cleaned or changed, itself or with what it is part of; s since 1970."""
        parts = {place.id}
        for other in self.places.clogging:
            if other.id != place.id and set(place.clogs) <= set(other.clogs):
                parts.add(other.id)
        tasks = {
            f"task {t.id}" for t in tasks_of(self.study) if set(t.clogs) & set(place.clogs) and t.does in WORKED[:2]
        }
        return sorted(
            e.moment
            for e in self.entries
            if (e.what in WORKED[:2] and e.place in parts) or (e.what in WORKED and e.source in tasks)
        )

    # -- clogging -------------------------------------------------------------------------------------------------

    def clog(self, place: Place) -> Clog | None:
        """How a place clogs; None where nothing was read of it."""
        if place.id not in self._clogs:
            rows = self.series("drop", place.id).rows
            clean = drop_over(self.study, place, as_new(self.study))
            self._clogs[place.id] = clog(
                rows,
                self.worked(place),
                self.begins,
                clean,
                limit_of(self.study, place),
                self._usual(place),
                self.today.timestamp(),
                len(rows),
            )
        return self._clogs[place.id]

    def _usual(self, place: Place) -> float:
        """s in which it is thought to be due: its task's."""
        found = [t.interval for t in tasks_of(self.study) if set(t.clogs) & set(place.clogs)]
        return max(found, default=8 * 7 * DAY)

    # -- flow -----------------------------------------------------------------------------------------------------

    def causes(self) -> tuple[list[Cause], float, float]:
        """Why less flows, the likeliest first, with the flow before and now in m³/s; none where it does not."""
        for pump in self.places.pumps:
            rows = self.series("flow", pump.id).rows
            if len(rows) < 2:
                continue
            since = max(rows[-1][0] - _RECENT, rows[len(rows) // 2][0]) if len(rows) > 2 else rows[-1][0]
            first = moved("flow", pump.id, rows, since, _scatter(rows))
            if first is None:
                continue
            seen = [first]
            for place in self.places.clogging:
                late = [v for t, v in self.series("drop", place.id).rows if t >= since]
                found = self.clog(place) if late else None
                if found is not None:
                    sure = math.hypot(READS, PART * late[-1])
                    seen.append(Moved("drop", place.id, float(found.curve[0]), late[-1], sure))
            if first.before - first.now > 1.5 * first.sure:
                return causes(self.study, self.places, seen), first.before, first.now
        return [], 0.0, 0.0

    # -- heaters, water ---------------------------------------------------------------------------------------------

    def drifts(self) -> list[tuple[Place, Drift, float]]:
        """Tanks whose thermometer leaves what the heater is set to, with the setpoint in °C."""
        found = []
        for tank in self.places.tanks:
            rows = self.series("temperature", tank.id).rows
            sets = self.series("setpoint", tank.id).rows
            begins = sets[-1][0] if sets else -math.inf
            system = self.study.system.device(tank.id)
            aim = sets[-1][1] if sets else float(getattr(system, "temperature", 20.0))
            late = [(t, v - aim) for t, v in rows if t >= begins]
            if len(late) < 6:
                continue
            span = max(late[-1][0] - late[0][0], DAY)
            a_year = round(len(late) * 365 * DAY / span)
            made = drift(late, READ_T, min(max(a_year, 12), 8760))
            if made is not None and abs(made.shift) >= _LEAST:
                found.append((tank, made, aim))
        return found

    def drying(self) -> Drying | None:
        """What is topped up against what should dry."""
        rows = [(e.moment, e.value) for e in self.entries if e.what == "topup" and e.value]
        return drying(rows, self.today.timestamp(), expected_drying(self.study)) if len(rows) >= 3 else None


def _counted(what: str) -> bool:
    return what in ("cost", "bought", "used", "died", "arrived", "postponed")


def _scatter(rows: Sequence[tuple[float, float]]) -> float:
    """How far a timed flow lies from the next in the same unit, by how neighbours differ; a hundredth and a half at
    least, the usual where there are few.
    """
    values = np.array([v for _, v in rows])
    middle = float(np.median(values))
    if len(values) < 6:
        return FLOW * middle
    return max(float(np.median(np.abs(np.diff(values)))) / 0.6745 / math.sqrt(2), 0.015 * middle)


def limit_of(study: Analysis, place: Place) -> float:
    """Difference in m at which a place is due: where water runs over its frame, else that of the builder's multiple of
    its clean loss, whichever is less.
    """
    clean = drop_over(study, place, as_new(study))
    if not place.clogs:
        return 2 * clean
    try:
        limit = drop_over(study, place, with_dirt(study, place.clogs, study.system.upkeep.full))
    except FuenteError:
        limit = math.inf
    network = study.network
    low = study.running.level[network.link(place.clogs[-1]).b]
    tops = [
        w.law.crest
        for w in network.links
        if w.kind is WayKind.BYPASS and isinstance(w.law, Weir) and any(w.id.startswith(k + ".") for k in place.clogs)
    ]
    over = min(tops) - low if tops else math.inf
    found = min(limit, over)
    return max(found if math.isfinite(found) else 3 * clean, 1.2 * clean)
