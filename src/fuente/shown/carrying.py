"""What a living water carries, in rows for a card: as it is, with the largest part out, in a power cut. No Qt."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from fuente.errors import FuenteError
from fuente.life.inputs import (
    AMMONIA,
    NITRITE,
    OXYGEN,
    TEMPERATURE,
)
from fuente.life.renewal import NITRATE_ION
from fuente.study.cleaned import at_once, cleaned
from fuente.study.limits import Limits, Pace, said
from fuente.study.living import Place
from fuente.study.movers import movers
from fuente.study.nitrate import PLANTS, changed, peak, renewal
from fuente.units import UnitSystem, shown, unit_label, unit_size

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

SURE = 0.4  # the areal rate's own share of doubt, either way
_DAY = 86400.0
_RISES = 0.5  # kg/m³ of nitrate, as NO₃, that no water with changes or plants comes to
_OUTS = 2  # filters that are tried without


@dataclass(frozen=True)
class Row:
    """A line of a card; ``bad`` where a limit is passed."""

    label: str
    value: str
    bad: bool = False


@dataclass(frozen=True)
class Carries:
    """All that the card says: two large figures with their words, rows under headings, why, and the paces."""

    big: tuple[tuple[str, str], ...]
    parts: tuple[tuple[str, tuple[Row, ...]], ...]
    why: str
    paces: tuple[Pace, ...]
    sentence: str
    water: tuple[Row, ...]


def carrying(study: Analysis, units: UnitSystem) -> Carries:
    """Worked out; raises FuenteError where nothing is fed, or nothing lives."""
    limits = Limits(study)
    carried, paces = limits.carries, limits.paces
    if not paces:
        raise FuenteError("Nothing lives in this design: it has no media and no foam.")
    fed, keeping = limits.base.fed, study.system.keeping
    top = peak(study)
    low, high = (feed_words(share * carried.feed, units) for share in (1 - SURE, 1 + SURE))
    spread = f"{low.split(' ')[0]} to {high}"
    big = (
        (feed_words(carried.feed, units), f"of feed carried ({spread}), of {shown(fed, 'feed', units)} fed"),
        (concentration(top, units), "nitrate (NO₃) before a change"),
    )
    outs = tuple(
        Row(f"Without {named(study, key)}", feed_words(feed, units), feed < fed)
        for key, feed in _without(study, limits)
    )
    outs += tuple(
        Row(
            f"With {name} out",
            feed_words(feed, units) if feed is not None else "not followed",
            feed is None or feed < fed,
        )
        for name, feed in _stopped(study)
    )
    rinsed = _rinsed(limits, units)
    step = Row("Feed may rise at once to", feed_words(at_once(limits), units))
    lasts = limits.alkalinity_lasts
    buffer = Row("Alkalinity of new water lasts for", feed_words(lasts, units), lasts < fed)
    found = renewal(study)
    changes: tuple[Row, ...] = ()
    if found is not None and not math.isfinite(found.drip):
        changes = (Row("new water has", concentration(keeping.nitrate, units), True),)
    elif found is not None:
        days = keeping.interval / 86400
        changes = (
            Row(
                f"change every {days:.0f} days",
                f"{100 * found.share:.0f} %, {shown(found.share * _tanks(limits), 'volume', units)}"
                if found.share <= 1
                else "more than all of it",
                found.share > keeping.share,
            ),
            Row("or drip", f"{100 * found.drip:.1f} % a day, {shown(found.dripped / 7, 'volume', units)}"),
        )
        if found.plants > 0:
            count = f"{shown(found.plants, 'area', units)}, about {max(found.plants * PLANTS, 1):.0f}"
            changes += (Row("or besides, marsh plants", count),)
    limit = concentration(keeping.nitrate_limit, units)
    parts = (
        ("Feed a day", (step, *outs, *rinsed, buffer)),
        (f"To keep nitrate under {limit}", changes),
        _change_rows(study, units),
    )
    name = study.system.tank(carried.tank).name
    why = (
        f"At that feed {carried.what} stands at your limit in {name}, with films grown to what feeds them. From: areal"
        " rates of 0.9 to 1.2 g/m² a day at 18 °C, two groups of bacteria that grow and die, oxygen by surfaces, falls"
        " and bubbles. How sure: ±40 %."
    )
    return Carries(big, parts, why, paces, _sentence(paces, units), _water(limits, carried.tank, units))


def feed_words(feed: float, units: UnitSystem) -> str:
    """Feed in kg/s to two digits, with its unit."""
    return shown(two_digits(feed * _DAY * 1e3) / _DAY / 1e3, "feed", units)


def two_digits(value: float) -> float:
    """A value to the digits that such a model is sure of.

    >>> two_digits(238.4), two_digits(0.0614)
    (240.0, 0.061)
    """
    if not math.isfinite(value) or value == 0:
        return value
    digits = 1 - math.floor(math.log10(abs(value)))
    return round(value, digits)


def concentration(value: float, units: UnitSystem) -> str:
    """A concentration in kg/m³ to two digits."""
    unit = unit_label("concentration", units)
    found = two_digits(value * 1e3)
    return "unlimited" if not math.isfinite(found) else f"{found:.3g} {unit}"


def held_nitrate(value: float, units: UnitSystem) -> str:
    """Nitrate in the long run; where nothing takes it, it never comes to stand."""
    return "keeps rising" if value > _RISES else concentration(value, units)


def named(study: Analysis, device_id: str) -> str:
    """A device as a row calls it: with its tank, where there are several."""
    device, tanks = study.system.device(device_id), {t.id: t.name for t in study.system.tanks}
    return f"{device.title}, {tanks[device.home]}" if len(tanks) > 1 and device.home in tanks else device.title


def _tanks(limits: Limits) -> float:
    return sum(float(limits.base.water.volumes[k]) for k in limits.base.tanks.values())


def _without(study: Analysis, limits: Limits) -> list[tuple[str, float]]:
    """The parts that do most of the work, each out in turn: what the others carry."""
    by_device: dict[str, float] = {}
    for pace in limits.paces:
        by_device[pace.place.device] = by_device.get(pace.place.device, 0.0) + pace.share
    ranked = sorted(by_device, key=lambda key: -by_device[key])
    found = []
    for key in ranked[:_OUTS] if len(ranked) > 1 else []:
        try:
            found.append((key, Limits(study, without=(key,)).carries.feed))
        except FuenteError:
            continue
    return found


def _change_rows(study: Analysis, units: UnitSystem) -> tuple[str, tuple[Row, ...]]:
    """What each change does, and what a year of them takes."""
    try:
        found = changed(study)
    except FuenteError:
        found = None
    title = "What each change does"
    if found is None:
        return title, ()
    rows = []
    if abs(found.cools) > 0.05:
        size = abs(found.cools) / unit_size("temperature", units)
        word = "cools" if found.cools > 0 else "warms"
        rows.append(Row(f"{word} the tanks by", f"{size:.1f} {unit_label('temperature', units)}"))
    rows.append(Row("alkalinity then", concentration(found.alkalinity, units)))
    if found.salt > 0:
        rows.append(Row("wants salt", shown(found.salt, "mass", units)))
    rows.append(Row("a year: water", shown(found.water, "volume", units)))
    rows.append(Row("heat for it", shown(found.heat, "energy", units)))
    rows.append(Row("both cost", study.system.shop.in_money(two_digits(found.money))))
    return title, tuple(rows)


def _stopped(study: Analysis) -> list[tuple[str, float | None]]:
    """Each of the pumps and air pumps out, where there are several: what is carried till it runs again; None where no
    such feed is found.
    """
    found: list[tuple[str, float | None]] = []
    every = movers(study)
    for owner in list(dict.fromkeys(m.owner for m in every))[:_OUTS] if len(every) > 1 else []:
        name = study.system.device(owner).title
        one = name if sum(m.owner == owner for m in every) == 1 else f"one pump of {name}"
        try:
            found.append((one, Limits(study, "pump_out", about=owner).carries.feed))
        except FuenteError:
            found.append((one, None))
    return found


def _rinsed(limits: Limits, units: UnitSystem) -> tuple[Row, ...]:
    """The two largest places cleaned on one day."""
    try:
        found = cleaned(limits)
    except FuenteError:
        return ()
    keeping = limits.study.system.keeping
    head = "Right after the two largest are rinsed" if len(found.places) > 1 else "Right after it is rinsed"
    rows = [Row(head, feed_words(found.feed, units), found.feed < limits.base.fed)]
    for name, value, day, limit in (
        ("ammonia", found.ammonia, found.ammonia_day, keeping.ammonia_limit),
        ("nitrite", found.nitrite, found.nitrite_day, keeping.nitrite_limit),
    ):
        rows.append(Row(f"then {name} up to", f"{concentration(value, units)}, day {max(day, 1):.0f}", value > limit))
    if found.over > 0:
        days = "over 6 weeks" if found.over > 41 else f"{max(found.over, 1):.0f} days"
        rows.append(Row("over your limits for", days, True))
    return tuple(rows)


def cleaned_words(study: Analysis, places: Sequence[Place], units: UnitSystem) -> str:
    """What some places cleaned on one day leave, in a sentence. Raises SolveError where no state is found."""
    found = cleaned(Limits(study), tuple(p.id for p in places))
    names = " and ".join(p.title for p in places) if len(places) < 4 else f"{len(places)} places"
    over = f"; over your limits for {max(found.over, 1):.0f} days" if found.over > 0 else ""
    return (
        f"{names} cleaned on one day: the rest carries {feed_words(found.feed, units)} at once; at your usual feed"
        f" ammonia goes up to {concentration(found.ammonia, units)} on day {max(found.ammonia_day, 1):.0f}, nitrite to"
        f" {concentration(found.nitrite, units)} on day {max(found.nitrite_day, 1):.0f}{over}."
    )


def _sentence(paces: tuple[Pace, ...], units: UnitSystem) -> str:
    """Of all places together: of the one that does most."""
    most = max(paces, key=lambda p: p.share)
    words = said(most, units)
    return f"{most.place.title}: {words[:1].lower()}{words[1:]}"


def _water(limits: Limits, tank: str, units: UnitSystem) -> tuple[Row, ...]:
    """What stands in a tank in the long run, changes spread over time."""
    living, y, k = limits.living, limits.now, limits.base.tanks[tank]
    keeping = limits.study.system.keeping
    ammonia, nitrite, oxygen = (float(living.of(y, what)[k]) for what in (AMMONIA, NITRITE, OXYGEN))
    nitrate = NITRATE_ION * float(living.of(y, 2)[k])
    return (
        Row("Ammonia (N)", concentration(ammonia, units), ammonia > keeping.ammonia_limit),
        Row("Nitrite (N)", concentration(nitrite, units), nitrite > keeping.nitrite_limit),
        Row("Nitrate (NO₃)", held_nitrate(nitrate, units), nitrate > keeping.nitrate_limit),
        Row("Oxygen", concentration(oxygen, units), oxygen < keeping.oxygen_limit),
        Row("Temperature", shown(float(living.of(y, TEMPERATURE)[k]), "temperature", units)),
    )
