"""Why less flows than before: which numbers moved, against what the network says each cause would move.

A worn pump or a furred pipe takes flow and leaves the pads' differences falling with it; a clogged pad raises its own
difference, and takes flow only where the pump has to push through it. Each cause is put into the network in several
sizes, and the one that fits what was measured best is told, with how likely it is beside the others.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from fuente.errors import FuenteError
from fuente.network.model import Solution
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.faults import KINDS
from fuente.upkeep.places import Place, Places, as_new, drop_over, with_dirt

FLOW = 0.04  # of a flow by the bucket
PART, READS = 0.08, 1.0e-3  # of a difference of levels, and m
_WEAR = (0.97, 0.94, 0.9, 0.85, 0.8, 0.7, 0.6, 0.5)  # of the pump's head that is left
_DIRT = (1.2, 1.5, 2.0, 3.0, 4.5, 7.0, 11.0, 18.0)  # times the clean loss
_MOST_PADS = 8  # places that are looked at
_BESIDE = 4.0  # squares of standard errors: one in eight that a pad clogs just meanwhile
_FINE = 90  # sizes that are looked at between those that are solved
_SEEN = 1.5  # standard errors that a number must have moved at all


@dataclass(frozen=True)
class Moved:
    """A number then and now: ``flow`` of a pump in m³/s or ``drop`` across a place in m, with its standard error in the
    same unit.
    """

    what: str
    place: str
    before: float
    now: float
    sure: float


@dataclass(frozen=True)
class Cause:
    """A cause: ``pump`` or a place that clogs, how large (the share of head that is left, times the clean loss), how
    likely beside the others, and what it would have moved.
    """

    kind: str
    place: str
    size: float
    likely: float
    expected: Mapping[tuple[str, str], float]


def moved(what: str, place: str, rows: Sequence[tuple[float, float]], since: float, scatter: float) -> Moved | None:
    """What was written since a moment against the last rows before it; None where one of both is missing. ``scatter``
    is the standard error of one value, in its own unit.
    """
    before = [v for t, v in rows if t < since][-5:]
    now = [v for t, v in rows if t >= since][-3:]
    if not before or not now:
        return None
    a, b = float(np.median(before)), float(np.median(now))
    error = scatter * math.sqrt(1 / len(before) + 1 / len(now))
    return Moved(what, place, a, b, error)


def causes(study: Analysis, places: Places, seen: Sequence[Moved]) -> list[Cause]:
    """All causes that could have moved what was seen, the likeliest first; none where nothing moved."""
    if not any(abs(m.now - m.before) > _SEEN * m.sure for m in seen):
        return []
    usual = as_new(study)
    tried: list[tuple[str, str, float, Solution]] = []
    if KINDS["pump-wear"].applies(study):
        tried += _tried(study, "pump", "", _WEAR)
    for place in places.clogging[:_MOST_PADS]:
        part = any(o is not place and set(place.clogs) < set(o.clogs) for o in places.clogging)
        if part and place.id not in {m.place for m in seen}:
            continue  # a single pad, of which nothing was read by itself
        tried += _tried(study, "clog", place.id, _DIRT, place)
    best: dict[tuple[str, str], tuple[float, float, Mapping[tuple[str, str], float]]] = {}
    for kind, where in dict.fromkeys((k, w) for k, w, _, _ in tried):
        sizes, expected = _between(
            [1.0, *(size for k, w, size, _ in tried if (k, w) == (kind, where))],
            [usual, *(solution for k, w, _, solution in tried if (k, w) == (kind, where))],
            seen,
            lambda m, s: _value(study, places, m, s),
        )
        off = np.zeros(len(sizes))
        for n, m in enumerate(seen):
            away = (m.now - m.before - expected[:, n]) / max(m.sure, 1e-12)
            # Pads clog by themselves meanwhile: what rose more than a cause explains speaks against it no more than
            # such a chance does.
            free = m.what == "drop" and m.place != where
            off += np.where(free & (away > 0), np.minimum(away**2, _BESIDE), away**2)
        k = int(off.argmin())
        told = {(m.what, m.place): m.before + float(expected[k, n]) for n, m in enumerate(seen)}
        best[(kind, where)] = float(off[k]), float(sizes[k]), told
    if not best:
        return []
    least = min(off for off, _, _ in best.values())
    weights = {key: math.exp(-(off - least) / 2) for key, (off, _, _) in best.items()}
    whole = sum(weights.values())
    found = [
        Cause(kind, where, best[(kind, where)][1], weights[(kind, where)] / whole, best[(kind, where)][2])
        for kind, where in best
    ]
    return sorted(found, key=lambda c: -c.likely)


def _tried(
    study: Analysis, kind: str, where: str, sizes: Sequence[float], place: Place | None = None
) -> list[tuple[str, str, float, Solution]]:
    found = []
    for size in sizes:
        try:
            if place is None:
                made = with_dirt(study, (), 1.0, (Fault("pump-wear", value=size),))
            else:
                made = with_dirt(study, place.clogs, size)
        except FuenteError:
            break
        found.append((kind, where, size, made))
    return found


def _between(
    sizes: Sequence[float],
    solutions: Sequence[Solution],
    seen: Sequence[Moved],
    value: Callable[[Moved, Solution], float],
) -> tuple[np.ndarray, np.ndarray]:
    """By how much each number moves, (sizes, numbers), at finely spaced sizes between those that were solved: by their
    logarithms, along straight lines. A flow moves as a share of what it was.
    """
    logs = np.log(np.array(sizes))
    order = np.argsort(logs)
    fine = np.linspace(logs.min(), logs.max(), _FINE)
    columns = []
    for m in seen:
        rows = np.array([value(m, s) for s in solutions])
        first = rows[0]
        moves = m.before * (rows / first - 1.0) if m.what == "flow" and first > 1e-9 else rows - first
        columns.append(np.interp(fine, logs[order], moves[order]))
    return np.exp(fine), np.column_stack(columns) if columns else np.zeros((_FINE, 0))


def _value(study: Analysis, places: Places, seen: Moved, solution: Solution) -> float:
    place = places.by_id(seen.place)
    if place is None:
        return 0.0
    if seen.what == "flow":
        return abs(solution.flow.get(place.pump, 0.0))
    return drop_over(study, place, solution)
