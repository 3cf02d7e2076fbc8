"""Rules of heaters, wherever they stand: stuck on, dead, too weak, laid bare."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.base import Finding, Rank
from fuente.devices.contract import FALL
from fuente.study.analysis import Analysis
from fuente.study.warmth import heaters, warmth

HOTTER = 5.0  # K over what is kept that one heater may carry it to
BARE = 0.06  # m of water, about what a heater that lies needs to stay covered
_LOWER = 0.02  # m by which the water must fall before a situation lays anything bare


def of_bodies(analysis: Analysis) -> Iterable[Finding]:
    """One heater stuck on, one dead, and all too weak for the coldest room."""
    for body in analysis.bodies:
        warm = warmth(analysis, body)
        if warm is None:
            continue
        owner = heaters(analysis, body)[0].station
        kept = {"target": warm.kept}
        if warm.one_stuck > warm.kept + HOTTER:
            yield Finding(
                "heater-stuck",
                Rank.CONSIDER,
                f"One heater stuck on carries the water to {{hot:temperature}}; you keep {{target:temperature}},"
                f" {warm.count} fitted.",
                "More and smaller heaters fail more gracefully. Estimate from walls and surface, ±30 %.",
                owner,
                {"hot": warm.one_stuck, **kept},
                margin=HOTTER - (warm.one_stuck - warm.kept),
            )
        if warm.reached < warm.kept - 0.5:
            yield Finding(
                "heater-small",
                Rank.CONSIDER,
                "In the coldest room the heaters reach {cold:temperature}; you keep {target:temperature}.",
                "Heat lost through walls and surface against heater and pump watts; ±30 %.",
                owner,
                {"cold": warm.reached, **kept},
                margin=warm.reached - (warm.kept - 0.5),
            )
        elif warm.one_dead < warm.kept - FALL:
            late = " With all dead it has fallen to {fallen:temperature} after {hours:hours}."
            yield Finding(
                "heater-one-dead",
                Rank.CONSIDER,
                "With one heater dead the water falls to {cold:temperature} in the coldest room; you keep"
                " {target:temperature}.",
                "Two that carry the water alone, or a spare at home, and a thermometer that somebody reads."
                + (late if warm.hours < 1e4 else ""),
                owner,
                {"cold": warm.one_dead, "hours": warm.hours * 3600, "fallen": warm.kept - FALL, **kept},
                margin=warm.one_dead - (warm.kept - FALL),
            )


SITUATIONS = (
    ("drain_blocked", "With the drain blocked"),
    ("evaporated", "When the water has evaporated"),
    ("cleaning", "Cleaning"),
)


def laid_bare(analysis: Analysis) -> Iterable[Finding]:
    """Heaters that a situation leaves without water round them, where their own vessel does not tell it."""
    places = [h for d in analysis.system.devices for h in d.heated()]
    names, tanks = set(analysis.names()), {t.id for t in analysis.system.tanks}
    for heater in places:
        now = analysis.running.depth(heater.cell)
        for name, words in SITUATIONS:
            if name not in names or (name != "drain_blocked" and heater.cell not in tanks):
                continue
            case = analysis.try_situation(name)
            if isinstance(case, Exception):
                continue
            depth = case.solution.depth(heater.cell)
            if depth < BARE and now - depth > _LOWER:
                yield Finding(
                    "heater-bare",
                    Rank.FIX,
                    f"{words} {{depth:level}} of water are left round the heaters of {heater.where.lower()}.",
                    "A heater out of water cracks or burns. Stand it where a crest keeps the water, or lower.",
                    heater.station,
                    {"depth": max(depth, 0.0)},
                    margin=depth - BARE,
                )
                break


RULES = (of_bodies, laid_bare)
