"""A design with one of its figures off by as much as it is usually wrong: what bands are made of.

Every law is data, so that a doubt goes through all of them: pipes' losses, pumps' heads, foam and media, weirs, tubes
on air. Each is one solve apart; they are independent and add as squares.
"""

from __future__ import annotations

import dataclasses
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

from fuente.hydraulics.airlift import lift_doubt
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.porous import Porous
from fuente.hydraulics.pumps import PumpCurve
from fuente.network.aeration import ATMOSPHERE, Aeration, Lift
from fuente.network.beds import Resistance
from fuente.network.duct import PumpDuct
from fuente.network.ducts import Ducts
from fuente.network.laws import Spill, Weir
from fuente.network.model import Group, Law, Network, Solution
from fuente.network.returning import ReturnLine
from fuente.study.analysis import Analysis
from fuente.study.situation import Situation
from fuente.water.properties import GRAVITY

LOSSES, RATED, MEASURED, MEDIA, WEIRS, AIRLIFT = 0.15, 0.15, 0.05, 0.30, 0.05, 0.25
LEAKS = 3.0  # times what a check valve is said to leak
GEOMETRY = 1.4e-3  # m: a level and a rim each right to a millimetre
_USUAL = 1.0  # m/s at which a pipe's friction is compared with its fittings


@dataclass(frozen=True)
class Doubt:
    """One figure that is not sure: what it is called, and a design's data with it off."""

    name: str
    off: Callable[[Any], Any]


def _lossy(value: Any) -> Any:
    """A pipe that loses more: the share of its friction stands with its fittings, so that it holds what it held."""
    if not isinstance(value, Pipe):
        return value
    friction = value.friction(value.area * _USUAL) * value.length / value.bore
    return replace(value, k=value.k + LOSSES * (value.k + friction))


def _weak(value: Any) -> Any:
    if not isinstance(value, PumpCurve):
        return value
    return replace(value, wear=value.wear * (1 - (MEASURED if value.points else RATED)))


def _tight(value: Any) -> Any:
    if isinstance(value, Porous):
        return value.dirty(1 + MEDIA)
    if isinstance(value, Resistance):
        return replace(value, straight=value.straight * (1 + MEDIA), square=value.square * (1 + MEDIA))
    return value


def _leaky(value: Any) -> Any:
    """A valve that lets three times as much back; pumps of a manifold are a group's: see _group."""
    if not isinstance(value, ReturnLine) or not value.valve or value.leak <= 0:
        return value
    return replace(value, leak=min(LEAKS * value.leak, 1.0))


def _short(value: Any) -> Any:
    return replace(value, length=value.length * (1 - WEIRS)) if isinstance(value, Weir) else value


DOUBTS = (
    Doubt("losses of pipes", _lossy),
    Doubt("the pump's curve", _weak),
    Doubt("foam and media", _tight),
    Doubt("weirs", _short),
    Doubt("a check valve's leak", _leaky),
    Doubt("the airlift", lambda value: value),  # a group of its own: see _lifting
)


def _through(value: Any, off: Callable[[Any], Any]) -> Any:
    """A law with all that is doubted in it put off, however deep."""
    made = off(value)
    if made is not value:
        return made
    if isinstance(value, tuple) and not hasattr(value, "_fields"):
        parts = tuple(_through(each, off) for each in value)
        return value if all(a is b for a, b in zip(parts, value, strict=True)) else parts
    if isinstance(value, tuple):
        fields = {name: _through(getattr(value, name), off) for name in value._fields}  # type: ignore[attr-defined]
        same = all(fields[name] is getattr(value, name) for name in fields)
        return value if same else value._replace(**fields)  # type: ignore[attr-defined]
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        changed = {}
        for field in dataclasses.fields(value):
            part = getattr(value, field.name)
            if field.init and (new := _through(part, off)) is not part:
                changed[field.name] = new
        return replace(value, **changed) if changed else value
    return value


def _group(group: Group, doubt: Doubt, running: Solution | None) -> Group:
    if isinstance(group, Ducts):
        change = {}
        for duct in group.ducts:
            own: dict[str, object] = {}
            if (pipe := doubt.off(duct.pipe)) is not duct.pipe:
                own["pipe"] = pipe
            if isinstance(duct, PumpDuct) and (curve := doubt.off(duct.curve)) is not duct.curve:
                own["curve"] = curve
            if isinstance(duct, PumpDuct) and doubt.off is _leaky and duct.valve and duct.leak > 0:
                own["leak"] = min(LEAKS * duct.leak, 1.0)
            if own:
                change[duct.id] = own
        return group.changed(change) if change else group
    if isinstance(group, Aeration) and doubt.name == DOUBTS[-1].name:
        return _lifting(group, running)
    return group


def _lifting(group: Aeration, running: Solution | None) -> Aeration:
    """Tubes that lift less on the same air: a quarter, or what two models part by as it runs."""
    drops = []
    for drop in group.supply.drops:
        off = AIRLIFT if running is None else _lift_off(group, drop.lift, running)
        drops.append(replace(drop, lift=replace(drop.lift, yields=1 - off)))
    return group.changed(drops=tuple(drops))


def _lift_off(group: Aeration, lift: Lift, running: Solution) -> float:
    long = lift.outlet - lift.injector
    sunk = min(running.level[lift.a] - lift.injector, long)
    air = running.flow.get(f"{group.supply.id}.{lift.id}", 0.0)
    if lift.bubbly or not lift.count or sunk <= 0 or air <= 0:
        return AIRLIFT
    mean = 1 + group.supply.water.density * GRAVITY * sunk / 2 / ATMOSPHERE
    return lift_doubt(lift.bore, long, sunk, air / mean / lift.count, lift.k)


def _network(network: Network, doubt: Doubt, running: Solution | None) -> Network:
    change: dict[str, Law | None] = {}
    for link in network.links:
        if isinstance(link.law, Spill):
            continue
        law = _through(link.law, doubt.off)
        if law is not link.law:
            change[link.id] = law
    groups = tuple(_group(g, doubt, running) for g in network.groups)
    same = not change and all(a is b for a, b in zip(groups, network.groups, strict=True))
    return network if same else network.replace_links(change).like(groups=groups)


def doubted(study: Analysis, doubt: Doubt) -> Analysis | None:
    """The same design with one doubt; None where nothing in it is doubted so."""
    case = study.try_situation("running")
    running = case.solution if isinstance(case, Situation) else None
    whole = _network(study.whole, doubt, running)
    if whole is study.whole:
        return None
    made = Analysis(study.system, study)
    made.whole, made.network = whole, _network(study.network, doubt, running)
    return made
