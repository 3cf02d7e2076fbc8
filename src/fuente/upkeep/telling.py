"""What the log says, in sentences, and its trends as lines to draw: points and fit together."""

from __future__ import annotations

import datetime
import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

import numpy as np

from fuente.one_line import within
from fuente.units import UnitSystem, shown, unit_label, unit_size
from fuente.upkeep.alarms import Alarm, alarms, free_ammonia
from fuente.upkeep.clogging import Clog, curve_of
from fuente.upkeep.learned import Learned
from fuente.upkeep.measures import MEASURES, MG
from fuente.upkeep.places import Place
from fuente.upkeep.topup import SURE
from fuente.upkeep.typed_line import concentration

DAY = 86400.0
_Turn = Callable[[float], float]  # from SI to what is shown
_FIRST = ("drop", "flow", "nitrate", "ammonia", "nitrite", "temperature", "topup", "ph")
_AT_MOST = 40 * DAY


@dataclass(frozen=True)
class Told:
    """A sentence of the log: what is so, why, what to do, and its rank: ``stop``, ``watch`` or ``fine``. ``put`` is
    what the design could learn of it: a device, and the share of its pump's head that is left.
    """

    key: str
    head: str
    why: str
    act: str
    rank: str
    put: tuple[str, float] | None = None


@dataclass(frozen=True)
class Trend:
    """One measure at one place, in the units that are shown: readings (s since 1970, value, whether odd), curves, a
    band, a limit, marks of what was done, today, and the day that is foreseen.
    """

    title: str
    up: str
    points: tuple[tuple[float, float, bool], ...]
    curves: tuple[tuple[np.ndarray, np.ndarray], ...] = ()
    band: tuple[np.ndarray, np.ndarray, np.ndarray] | None = None
    limit: tuple[float, str] | None = None
    marks: tuple[tuple[float, str], ...] = ()
    due: tuple[float, str] | None = None
    today: float = 0.0
    says: str = ""
    ids: tuple[int, ...] = field(default=())

    def as_csv(self) -> str:
        """Its readings and its last curve, as a table."""
        rows = [f"when,{self.title.replace(',', ' ')} {self.up},odd"]
        for moment, value, odd in self.points:
            when = datetime.datetime.fromtimestamp(moment, datetime.UTC).isoformat(timespec="minutes")
            rows.append(f"{when},{value:.6g},{int(odd)}")
        return "\n".join(rows) + "\n"


def chips(learned: Learned) -> list[tuple[str, str]]:
    """Trends that there are: keys and short names, what matters most first."""
    found = []
    several = len(learned.places.tanks) > 1
    for what, place in learned.there():
        name = MEASURES[what].name if what in MEASURES else what
        where = learned.places.name(place) if place else ""
        if what == "drop":
            label = where
        elif (what in ("flow", "power") and len(learned.places.pumps) > 1) or (several and place):
            label = f"{name}, {where}"
        else:
            label = {"flow": "Real flow"}.get(what, name)
        order = _FIRST.index(what) if what in _FIRST else len(_FIRST)
        if what not in ("setpoint", "fed", "change"):
            found.append((order, -len(learned.series(what, place).rows), f"{what}@{place}", label))
    return [(key, label) for _, _, key, label in sorted(found, key=lambda row: (row[0], row[1]))]


def trend(learned: Learned, key: str, units: UnitSystem) -> Trend | None:
    """One of them; None where nothing of it was written."""
    what, _, place = key.partition("@")
    rows = learned.series(what, place).rows
    measure = MEASURES.get(what)
    if not rows or measure is None:
        return None
    size, up = _scale(what, measure.quantity, units)
    where = learned.places.by_id(place)
    name = f"{measure.name}, {learned.places.name(place)}" if place else measure.name
    today = learned.today.timestamp()
    turn = _turn(measure.quantity, size, units)
    if what == "drop" and where is not None:
        return _clogging(learned, where, name, up, turn, today, units)
    values = [turn(v) for _, v in rows]
    odd = _odd(np.array(values))
    points = tuple((t, v, bool(o)) for (t, _), v, o in zip(rows, values, odd, strict=True))
    curves = (_smooth(points),) if len(points) >= 4 else ()
    limit: tuple[float, str] | None = None
    marks: tuple[tuple[float, str], ...] = ()
    keeping = learned.study.system.keeping
    limits = {
        "nitrate": (keeping.nitrate_limit, "your limit"),
        "nitrite": (keeping.nitrite_limit, "your limit"),
        "ammonia": (keeping.ammonia_limit, "your limit"),
        "oxygen": (keeping.oxygen_limit, "at least"),
    }
    if what in limits:
        value, words = limits[what]
        limit = (turn(value), f"{words}: {concentration(value)}")
    if what == "temperature":
        sets = learned.series("setpoint", place).rows
        if sets:
            limit = (turn(sets[-1][1]), f"set to {shown(sets[-1][1], 'temperature', units)}")
    if what == "flow" and where is not None and where.pump:
        design = abs(learned.study.running.flow.get(where.pump, 0.0))
        limit = (turn(design), f"by the design: {shown(design, 'flow', units)}")
    if what in ("nitrate", "nitrite", "ammonia"):
        mine = [e for e in learned.entries if e.what == "change" and e.place == place]
        marks = tuple((e.moment, "") for e in mine)
    return Trend(name, up, points, curves, None, limit, marks, None, today, _said_of(name, points, up))


def _clogging(
    learned: Learned, where: Place, name: str, up: str, turn: _Turn, today: float, units: UnitSystem
) -> Trend:
    rows = learned.series("drop", where.id).rows
    made = learned.clog(where)
    if made is None:
        return Trend(name, up, tuple((t, turn(v), False) for t, v in rows), today=today)
    odd = {float(t): bool(o) for s in made.stretches for t, o in zip(s.times, s.odd, strict=True)}
    points = tuple((t, turn(v), odd.get(t, False)) for t, v in rows)
    curves = [curve_of(s, made) for s in made.stretches[:-1] if s.times.size]
    until = made.at <= today
    curves.append((made.at[until], made.curve[until]))
    curves = [(at, np.array([turn(v) for v in y])) for at, y in curves if at.size]
    late = made.at >= today - 3 * DAY
    band = None
    if late.any():
        least, most = ([turn(v) for v in side[late]] for side in (made.low, made.high))
        band = (made.at[late], np.array(least), np.array(most))
    due = None
    if made.due is not None and made.due < today + 2 * 365 * DAY:
        due = (made.due, _clean_by(made, learned))
    limit = (turn(made.limit), f"due at {shown(made.limit, 'level', units)}")
    marks = tuple((c, "cleaned") for c in learned.worked(where) if c > rows[0][0] - 5 * DAY)
    ahead = due[1][:1].upper() + due[1][1:] + "." if due else "No day is foreseen yet."
    says = f"{name}: {len(points)} readings. {ahead}"
    flagged = sum(o for _, _, o in points)
    if flagged:
        says += (
            f" {flagged} reading{'s' if flagged > 1 else ''} fit{'' if flagged > 1 else 's'} nothing near; still shown."
        )
    return Trend(name, up, points, tuple(curves), band, limit, marks, due, today, says)


def _clean_by(made: Clog, learned: Learned) -> str:
    def day(moment: float | None) -> str:
        if moment is None:
            return "later"
        found = datetime.datetime.fromtimestamp(moment, learned.today.tzinfo)
        return f"{found.day} {found:%b}"

    return f"clean by {day(made.due)} ({day(made.early)} to {day(made.late)})"


def _scale(what: str, quantity: str, units: UnitSystem) -> tuple[float, str]:
    if quantity == "concentration":
        return MG, "mg/L"
    if quantity == "number":
        return 1.0, ""
    return unit_size(quantity, units), unit_label(quantity, units)


def _turn(quantity: str, size: float, units: UnitSystem) -> _Turn:
    if quantity == "temperature" and units is UnitSystem.US:
        return lambda v: v * 9 / 5 + 32
    return lambda v: v / size


def _odd(values: np.ndarray) -> np.ndarray:
    """Readings that lie far from those about them: five times the usual scatter from the middle of seven."""
    n = len(values)
    if n < 7:
        return np.zeros(n, dtype=bool)
    padded = np.concatenate((values[2::-1], values, values[:-4:-1]))
    middle = np.median(np.lib.stride_tricks.sliding_window_view(padded, 7), axis=1)
    away = np.abs(values - middle)
    usual = max(float(np.median(away)) / 0.6745, 0.02 * float(np.median(np.abs(values))), 1e-9)
    found: np.ndarray = away > 5 * usual
    return found


def _smooth(points: Sequence[tuple[float, float, bool]]) -> tuple[np.ndarray, np.ndarray]:
    """A running line through the readings, of a fifth of them each, near ones counting more."""
    times = np.array([t for t, _, odd in points if not odd])
    values = np.array([v for _, v, odd in points if not odd])
    if times.size < 3:
        return times, values
    at = np.linspace(times[0], times[-1], 80)
    width = max((times[-1] - times[0]) / 6, 3 * DAY)
    away = times[None, :] - at[:, None]
    w = np.exp(-0.5 * (away / (width / 2)) ** 2) + 1e-12
    # A straight line by weighted least squares about each moment; its height there.
    s0, s1, s2 = w.sum(axis=1), (w * away).sum(axis=1), (w * away**2).sum(axis=1)
    t0, t1 = w @ values, (w * away) @ values
    return at, (s2 * t0 - s1 * t1) / np.maximum(s0 * s2 - s1**2, 1e-12 * s0 * s2)


def _said_of(name: str, points: Sequence[tuple[float, float, bool]], up: str) -> str:
    last = points[-1][1]
    odd = sum(o for _, _, o in points)
    more = (
        f" {odd} of them stand{'' if odd > 1 else 's'} apart and {'are' if odd > 1 else 'is'} still shown."
        if odd
        else ""
    )
    return f"{name}: {len(points)} readings, the last {last:.3g} {up}.{more}".replace(" .", ".")


# -- sentences --------------------------------------------------------------------------------------------------------


def told(learned: Learned, units: UnitSystem) -> list[Told]:
    """What the log says, the worst first; that all is well where it is."""
    found = [_alarm(a, learned) for a in alarms(learned.study, learned.entries, learned.today.timestamp(), units)]
    found += _decline(learned, units)
    found += _drifts(learned, units)
    found += _drying(learned, units)
    rest = _fine(learned)
    if rest is not None and not any(t.key.startswith("alarm") for t in found):
        found.append(rest)
    order = {"stop": 0, "watch": 1, "fine": 2}
    return sorted(found, key=lambda t: order[t.rank])


def _alarm(alarm: Alarm, learned: Learned) -> Told:
    where = f"{learned.places.name(alarm.tank)}: " if len(learned.places.tanks) > 1 else ""
    return Told(f"alarm.{alarm.tank}.{alarm.head}", f"{where}{alarm.head}", alarm.why, alarm.act, alarm.rank)


def _decline(learned: Learned, units: UnitSystem) -> list[Told]:
    found, before, now = learned.causes()
    if not found:
        return []
    first = found[0]
    less = f"{100 * (1 - now / before):.0f} %"
    numbers = f"Real flow fell {less}, from {shown(before, 'flow', units)} to {shown(now, 'flow', units)}"
    sure = f"{_of_ten(first.likely)} in 10."
    if first.kind == "pump":
        why = f"{numbers}, and no pad explains it: its head is down to {first.size:.2f} of new, or its pipe is furred."
        act = "Clean strainer and impeller, then time a bucket: if it does not come back, look into the pipe."
        owner = learned.places.pumps[0].id
        share = round(first.size, 2)
        head = "The pump is ageing, not the pads"
        return [Told("decline", head, f"{why} Likely {sure}", act, "watch", (owner, share))]
    name = learned.places.name(first.place)
    why = f"{numbers}. {name} clogged to {first.size:.1f} × its clean loss would do that. Likely {sure}"
    return [Told("decline", f"{name} holds the water back", why, f"Clean {within(name)}, then time a bucket.", "watch")]


def _of_ten(share: float) -> int:
    return min(max(round(10 * share), 1), 9)


def _drifts(learned: Learned, units: UnitSystem) -> list[Told]:
    found = []
    for place, made, aim in learned.drifts():
        since = datetime.datetime.fromtimestamp(made.since, learned.today.tzinfo)
        away = f"{abs(made.shift) * (1.8 if units is UnitSystem.US else 1):.1f} {unit_label('temperature', units)}"
        high = "high" if made.shift > 0 else "low"
        where = f" in {place.name}" if len(learned.places.tanks) > 1 else ""
        act = (
            f"Set it to {shown(aim - made.shift, 'temperature', units)}, or trust a second thermometer first; try"
            " whether it still switches."
        )
        side = "over" if made.shift > 0 else "under"
        why = f"Since about {since.day} {since:%B} the thermometer stands {away} {side} what it is set to."
        found.append(Told(f"drift.{place.id}", f"The heater{where} reads {away} {high}", why, act, "watch"))
    return found


def _drying(learned: Learned, units: UnitSystem) -> list[Told]:
    made = learned.drying()
    if made is None or not (made.leaks or made.rose):
        return []
    now, dries = (shown(flow * DAY, "volume", units) for flow in (made.now, made.expected))
    why = f"{now} a day are topped up; {dries} should dry (±{100 * SURE:.0f} %)."
    if made.before is not None and made.rose:
        why += f" It was {shown(made.before * DAY, 'volume', units)} a day before."
    act = "Look for damp under every bulkhead and joint; mark the level, stop topping up, and read it after a day."
    return [Told("leak", "More goes than dries", why, act, "watch")]


def _fine(learned: Learned) -> Told | None:
    """The last tests, where nothing is wrong."""
    tank = learned.places.tanks[0]
    rows = {k: learned.series(k, tank.id).rows for k in ("ammonia", "nitrite", "ph", "temperature")}
    if not rows["ammonia"] or learned.today.timestamp() - rows["ammonia"][-1][0] > _AT_MOST:
        return None
    ph = rows["ph"][-1][1] if rows["ph"] else 7.5
    warm = rows["temperature"][-1][1] if rows["temperature"] else 20.0
    free = free_ammonia(rows["ammonia"][-1][1], ph, warm, learned.study.system.salinity)
    nitrite = rows["nitrite"][-1][1] if rows["nitrite"] else math.nan
    second = f", nitrite {concentration(nitrite)}" if math.isfinite(nitrite) else ""
    day = datetime.datetime.fromtimestamp(rows["ammonia"][-1][0], learned.today.tzinfo)
    number = f"{free * 1e3:.3f} mg/L"
    return Told(
        "fine", f"Free ammonia {number}{second}", f"By the tests of {day.day} {day:%B}.", "Nothing to do.", "fine"
    )
