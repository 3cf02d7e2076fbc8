"""What is said of a start: what to dose, when it holds, what it then carries, and what keeps it alive. No Qt."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import numpy as np

from fuente.errors import FuenteError
from fuente.life.dosing import dose_of
from fuente.life.inputs import TEMPERATURE
from fuente.life.nitrifiers import half_life
from fuente.shown.carrying import concentration, feed_words
from fuente.study.cleaned import at_once
from fuente.study.fitted import Fitted
from fuente.study.limits import Limits
from fuente.study.weeks import DAY, Start, Weeks
from fuente.units import UnitSystem, shown
from fuente.water.properties import free_ammonia_fraction

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

WEEK = 7 * DAY


def start_words(study: Analysis, made: Weeks, fit: Fitted | None, tank: str, units: UnitSystem) -> str:
    """All of it, in a paragraph; ``fit`` as the builder's tests correct it."""
    return _fit_says(fit) + _bucket_says(made, units) + _start_says(study, made, made.start, tank, units)


def in_weeks(seconds: float) -> str:
    """Weeks to a tenth."""
    return f"{seconds / WEEK:.1f}"


def between(made: tuple[Weeks, Weeks, Weeks]) -> str:
    """The band of a start, in brackets: of three that were followed, the second and third are its ends."""
    ends = [w.ready for w in made[1:]]
    if any(e is None for e in ends):
        early = min((e for e in ends if e is not None), default=None)
        return f" ({in_weeks(early)} or later)" if early is not None else ""
    low, high = sorted(float(e) for e in ends if e is not None)
    return f" ({in_weeks(low)} to {in_weeks(high)})"


def _fit_says(fit: Fitted | None) -> str:
    if fit is None:
        return ""
    words = f"Through your tests: {100 * fit.surface:.0f} % of the surface at work, "
    seed = fit.seed
    words += f"{seed:.2g} times the bacteria at first"
    if fit.later is not None and abs(fit.later) > 0.5 * DAY:
        words += f"; {abs(fit.later) / WEEK:.1f} weeks {'later' if fit.later > 0 else 'sooner'} than expected"
    return words + ". "


def _bucket_says(made: Weeks, units: UnitSystem) -> str:
    """What is done before the first day."""
    ahead = made.bucket
    if ahead is None:
        return ""
    warm, held = shown(ahead.temperature, "temperature", units), shown(ahead.volume, "volume", units)
    litres, salt = dose_of(sum(nitrogen for _, nitrogen in ahead.doses))
    doses = (
        f"{len(ahead.doses)} doses, {shown(litres, 'small_volume', units)} of solution or {shown(salt, 'dose', units)}"
    )
    if ahead.ready is None:
        return f"In {held} with air at {warm} the media are not mature within 150 days. "
    days = ahead.ready / DAY
    return (
        f"Ahead, in {held} with air at {warm}: mature after {days:.0f} days ({0.5 * days:.0f} to {1.5 * days:.0f}),"
        f" {doses} of salt in all. A larger bucket, or more ammonia, grows more. "
    )


def _start_says(study: Analysis, made: Weeks, start: Start, tank: str, units: UnitSystem) -> str:
    words = []
    if start.way == "fishless" and made.doses:
        nitrogen = made.doses[0][1].get(tank, 0.0)
        litres, salt = dose_of(nitrogen)
        words.append(
            f"Dose {shown(litres, 'small_volume', units)} of ammonia solution (10 %) or {shown(salt, 'dose', units)} of"
            " ammonium chloride on the first day, and again whenever a quarter is left:"
            f" {len(made.doses)} times in all."
        )
        words.append(_stop_line(made, tank, units))
    if made.ready is None:
        words.append("It does not hold within this time.")
    elif made.ready <= 0:
        words.append("It holds from the first day: ammonia and nitrite stay under your limits.")
    else:
        then = "; test before animals come" if start.way == "fishless" else ""
        words.append(f"It holds after about {in_weeks(made.ready)} weeks{then}.")
        words += _steps_say(study, made, units)
    return " ".join(words)


def _stop_line(made: Weeks, tank: str, units: UnitSystem) -> str:
    """How much of a dose is free at first, and from which pH on bacteria would stand still in it."""
    living = made.water.living
    ph = float(living.ph(made.values[0])[made.water.water.index[tank]])
    warm = float(made.of(TEMPERATURE, tank)[0])
    salinity, stops = made.water.inputs.salinity, made.water.growth.free_n
    share, now = stops / made.start.dose, free_ammonia_fraction(ph, warm, salinity)
    free = made.start.dose * now
    limit = ph + math.log10(share / (1 - share) * (1 - now) / now) if share < 1 else 14.0
    words = f"Free ammonia is then {concentration(free, units)} at pH {ph:.1f} and {shown(warm, 'temperature', units)}"
    if free >= stops:
        return f"{words}: too much for nitrite bacteria; dose less, or lower the pH."
    return f"{words}; do not dose above pH {limit:.1f}." if limit < 9.5 else f"{words}."


def _steps_say(study: Analysis, made: Weeks, units: UnitSystem) -> list[str]:
    """How much may be fed on the day from which it holds, and what keeps that alive while it waits."""
    limits = Limits(study)
    words: list[str] = []
    fed = limits.base.fed
    if fed <= 0 or made.ready is None:
        return words
    day = int(np.searchsorted(made.times, made.ready + 1.0).clip(0, len(made.times) - 1))
    try:
        first = at_once(limits, made.values[day])
    except FuenteError:
        return words
    if first < fed:
        words.append(
            f"Its films then carry {feed_words(first, units)} at once: begin with that, and raise it as tests allow."
        )
    else:
        words.append(f"Its films then carry {feed_words(first, units)} at once, and you feed {feed_words(fed, units)}.")
    if made.start.way == "fishless":
        litres, salt = dose_of(float(limits.base.inputs.ammonia.sum()) * DAY)
        warm = float(limits.living.of(limits.now, TEMPERATURE).mean())
        gone = half_life(warm) / DAY
        words.append(
            f"While it waits, {shown(litres, 'small_volume', units)} of solution or {shown(salt, 'dose', units)} of"
            f" salt a day keep what your feed will want; without any, half is gone after {gone:.0f} days."
        )
    return words
