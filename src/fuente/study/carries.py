"""What each filter, and the whole of a water, carries: the feed a day, and animals of the builder's stock.

The inverse of the load page. Every tank is held at the ammonia that is lived with; each cell of a filter is a stirred
reactor on the water that runs through it, so that a filter behind another one sees what that left, and none takes more
than its flow brings. Oxygen is taken to hold: what carries more feed wants more of it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import product
from typing import TYPE_CHECKING

import numpy as np

from fuente.devices import kind_of
from fuente.devices.homes import HomeSpec
from fuente.devices.site import KEPT, OXYGEN, Site
from fuente.life.load import NITROGEN_OF_PROTEIN, areal_rate, live_weight
from fuente.study.sites import sites

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

SURE = 0.4  # the areal rate's own share of doubt, either way
FLOW_BOUND = 0.75  # of what its surface would take of water as the tank's, under which more flow would carry more
_ROUNDS = 200
_CLOSE = 1e-12  # of the ammonia that is lived with


@dataclass(frozen=True)
class Carried:
    """What a device carries in its water, or the whole water (empty ``device``): living surface m² by the rules that
    hold, feed kg/s with its least and most by all rules and ±40 %, animals of the stock (0 where that is not given),
    and whether more flow would carry clearly more.
    """

    device: str
    name: str
    tanks: tuple[str, ...]
    surface: float
    feed: float
    least: float
    most: float
    animals: float
    flow_bound: bool


def carries(analysis: Analysis) -> tuple[Carried, ...]:
    """For each body of water with tanks in it: every filter with living surface, then the whole."""
    return analysis.kept("carries", lambda: _carries(analysis))


def _carries(analysis: Analysis) -> tuple[Carried, ...]:
    system = analysis.system
    tanks = {t.id: t for t in system.tanks}
    rules: list[Mapping[str, Site]] = [analysis.sites]
    rules += [
        sites(system.model_copy(update={"schools": system.schools.model_copy(update={"surface": s, "still": t})}))
        for s, t in product(("outer", "core"), ("strainer", "living"))
    ]
    areas = [_areas(analysis, each) for each in rules]
    found: list[Carried] = []
    for body in analysis.bodies:
        homes = [tanks[c] for c in body if c in tanks]
        if homes and any(cell in body for _, cell in areas[0]):
            found += _of_body(analysis, body, homes, areas)
    return tuple(found)


def carried_by(analysis: Analysis, device_id: str) -> Carried | None:
    """What one device carries; None where nothing lives in it."""
    return next((c for c in carries(analysis) if c.device == device_id), None)


def _areas(analysis: Analysis, at: Mapping[str, Site]) -> dict[tuple[str, str], float]:
    """Living surface in m² by device and cell."""
    found: dict[tuple[str, str], float] = {}
    for device in analysis.system.devices:
        for cell, area in kind_of(device).surfaces(device, at[device.id]):
            found[device.id, cell] = found.get((device.id, cell), 0.0) + area
    return found


def _of_body(
    analysis: Analysis, body: list[str], homes: list[HomeSpec], areas: list[dict[tuple[str, str], float]]
) -> list[Carried]:
    temperature, salinity = min(t.temperature for t in homes), analysis.system.salinity
    fed = [t for t in homes if t.fed > 0] or homes
    of_feed = NITROGEN_OF_PROTEIN * sum(t.protein for t in fed) / len(fed)
    stocked = next((t for t in homes if t.heads > 0), None)
    each = live_weight(stocked.body) * stocked.ration / 86400 if stocked else 0.0
    if of_feed <= 0:
        return []
    inside = set(body)
    rate = areal_rate(KEPT, temperature, OXYGEN, salinity)[0]
    by_rule = []
    for found in areas:
        here = {key: area for key, area in found.items() if key[1] in inside}
        taken = removed(analysis, body, [t.id for t in homes], here, temperature)
        feeds: dict[str, float] = {}
        for (key, _), nitrogen in taken.items():
            feeds[key] = feeds.get(key, 0.0) + nitrogen / of_feed
        by_rule.append(feeds)
    now = by_rule[0]
    made = []
    for device in analysis.system.devices:
        if max((feeds.get(device.id, 0.0) for feeds in by_rule), default=0.0) <= 0:
            continue
        surface = sum(a for (key, cell), a in areas[0].items() if key == device.id and cell in inside)
        spread = [feeds.get(device.id, 0.0) for feeds in by_rule]
        feed = now.get(device.id, 0.0)
        names = tuple(t.id for t in homes)
        bound = feed * of_feed < FLOW_BOUND * surface * rate
        least, most = (1 - SURE) * min(spread), (1 + SURE) * max(spread)
        animals = feed / each if each > 0 else 0.0
        made.append(Carried(device.id, device.title, names, surface, feed, least, most, animals, bound))
    whole = [sum(feeds.values()) for feeds in by_rule]
    made.append(
        Carried(
            "",
            "All of it",
            tuple(t.id for t in homes),
            sum(c.surface for c in made),
            whole[0],
            (1 - SURE) * min(whole),
            (1 + SURE) * max(whole),
            whole[0] / each if each > 0 else 0.0,
            any(c.flow_bound for c in made),
        )
    )
    return made


def removed(
    analysis: Analysis, body: list[str], homes: list[str], areas: Mapping[tuple[str, str], float], temperature: float
) -> dict[tuple[str, str], float]:
    """Ammonia nitrogen in kg/s that each surface takes, by device and cell, with the tanks at what is lived with.

    Cells and forks of pipes are stirred; the rate of a surface is taken as straight through the last round's, round by
    round, which falls onto the solution from above.
    """
    flows = analysis.running.flow
    inside, fixed = set(body), set(homes)
    ways = [(w.a, w.b, flows[w.id]) for w in analysis.network.ways if abs(flows.get(w.id, 0.0)) > 1e-12]
    nodes = inside | {end for a, b, _ in ways for end in (a, b) if end not in analysis.network.index}
    ways = [(a, b, q) if q > 0 else (b, a, -q) for a, b, q in ways]
    free = sorted(nodes - fixed)
    index = {key: i for i, key in enumerate(free)}
    own = np.zeros(len(free))
    for (_, cell), area in areas.items():
        if cell in index:
            own[index[cell]] += area
    matrix, right = np.zeros((len(free), len(free))), np.zeros(len(free))
    for a, b, q in ways:
        if b in index:
            matrix[index[b], index[b]] += q
            if a in index:
                matrix[index[b], index[a]] -= q
            elif a in fixed:
                right[index[b]] += q * KEPT
    matrix[np.diag_indices_from(matrix)] += 1e-18  # water that nothing moves

    def rate(ammonia: float) -> float:
        return areal_rate(ammonia, temperature, OXYGEN, analysis.system.salinity)[0]

    left = np.full(len(free), KEPT)
    for _ in range(_ROUNDS):
        slope = np.array([rate(s) / s if s > 0 else np.inf for s in np.maximum(left, 1e-12)])
        new = np.linalg.solve(matrix + np.diag(own * slope), right)
        done = float(np.abs(new - left).max(initial=0.0)) < _CLOSE * KEPT
        left = np.maximum(new, 0.0)
        if done:
            break
    return {
        (device, cell): area * rate(KEPT if cell in fixed else float(left[index[cell]]))
        for (device, cell), area in areas.items()
        if cell in fixed or cell in index
    }
