"""Results as plain data by documented names, SI floats: what the command line writes as JSON."""

from __future__ import annotations

import json
import math
from typing import TYPE_CHECKING, Any

from fuente.units import QUANTITIES, UnitSystem

if TYPE_CHECKING:  # a quick answer must not wait for the solvers
    from fuente.answers.question import Answer
    from fuente.devices.base import Finding
    from fuente.study.air_hours import AirHours
    from fuente.study.limits import Limits
    from fuente.study.situation import Situation
    from fuente.study.trials import TrialResult
    from fuente.study.weeks import Weeks
    from fuente.study.wet_test import WetTest


def as_json(data: Any, indent: int | None = None) -> str:
    """JSON text of plain data; what has no end or no value is null, as JSON has no word for it."""

    def finite(value: Any) -> Any:
        if isinstance(value, dict):
            return {key: finite(each) for key, each in value.items()}
        if isinstance(value, list | tuple):
            return [finite(each) for each in value]
        return None if isinstance(value, float) and not math.isfinite(value) else value

    return json.dumps(finite(data), ensure_ascii=False, allow_nan=False, indent=indent)


def described(each: Answer) -> dict[str, Any]:
    """A quick answer: what it asks and what it says."""

    def unit(quantity: str) -> str:
        return QUANTITIES[quantity].si if quantity in QUANTITIES else ""

    return {
        "name": each.name,
        "title": each.title,
        "doc": each.doc,
        "inputs": [
            {
                "name": i.name,
                "quantity": i.quantity,
                "unit": unit(i.quantity),
                "label": i.label,
                "default": i.default,
                "options": list(i.options),
                "optional": i.optional or i.default is not None,
            }
            for i in each.inputs
        ],
        "outputs": [{"name": o.name, "unit": o.unit, "label": o.label} for o in each.outputs],
    }


def solved(case: Situation) -> dict[str, Any]:
    """A situation as plain data: SI floats by documented names."""
    s = case.solution
    return {
        "situation": case.name.replace("_", "-"),
        "verdict": case.verdict.filled(UnitSystem.METRIC),
        "rank": case.verdict.rank.word.lower() if case.verdict.rank is not None else None,
        "numbers": dict(case.numbers),
        "total": s.total,
        "pipes": sum(s.held.values()),
        "spilled": s.spilled,
        "imbalance": s.imbalance,
        "cells": [
            {
                "id": c.id,
                "name": c.name,
                "owner": c.owner,
                "floor": c.floor,
                "rim": c.rim,
                "level": s.level[c.id],
                "depth": s.depth(c.id),
                "volume": s.volume[c.id],
                "freeboard": s.freeboard(c.id),
                **({} if c.lid is None else {"pressure": s.level[c.id] - c.lid}),
            }
            for c in s.network.cells
            if not c.sink
        ],
        "links": [
            {
                "id": k.id,
                "name": k.name,
                "kind": k.kind,
                "from": k.a,
                "to": k.b,
                "flow": s.flow[k.id],
                "holds": s.held.get(k.id, 0.0),
            }
            for k in s.network.ways
        ],
        "heads": {
            node: head
            for group in s.network.groups
            for node, head in group.heads([s.level[c] for c in group.cells], s.flow).items()
        },
    }


def finding(f: Finding, units: UnitSystem) -> dict[str, Any]:
    """A judgement."""
    return {
        "code": f.code,
        "rank": f.rank.word.lower(),
        "text": f.filled(units),
        "why": f.reason(units),
        "owner": f.owner,
        "values": dict(f.values),
        "action": f.offer(units) or None,
    }


def tested(test: WetTest, units: UnitSystem) -> dict[str, Any]:
    """A wet test: its faults, levels and flows in time, peaks, and what became of the water."""
    h = test.history
    cells = [c for c in h.network.cells if not c.sink]
    return {
        "faults": [{"kind": f.kind, "time": f.time, "value": f.value} for f in test.faults],
        "verdict": test.verdict.filled(units),
        "rank": test.verdict.rank.word.lower() if test.verdict.rank is not None else None,
        "time": h.times.tolist(),
        "levels": {c.id: h.level(c.id).tolist() for c in cells},
        "flows": {key: h.flow(key).tolist() for key in h.link_ids},
        "peaks": {
            c.id: {"level": h.peak(c.id)[0], "time": h.peak(c.id)[1], "margin": c.rim - h.peak(c.id)[0]} for c in cells
        },
        "total": float(h.volumes[0].sum()),
        "conservation": float(abs(h.volumes.sum(axis=1) - h.volumes[0].sum()).max()),
        "spilled": test.spilled,
        "sump_margin": test.sump_margin,
        "tank_margin": test.tank_margin,
        "still": test.still,
    }


def tried(r: TrialResult, units: UnitSystem) -> dict[str, Any]:
    """A trial."""
    return {
        "id": r.trial.id,
        "title": r.trial.title,
        "passed": r.passed,
        "verdict": r.test.verdict.filled(units),
        "reads": r.trial.reads,
        "expected": r.expected,
        "where": r.rest.cell,
        "peak": r.peak,
        "sump_margin": r.test.sump_margin,
        "tank_margin": r.test.tank_margin,
        "spilled": r.test.spilled,
        "still": r.test.still,
        "oxygen": None if r.breath is None else breath(r.breath),
    }


def breath(air: AirHours) -> dict[str, Any]:
    """Hours of oxygen in a power cut, null where they are more than were followed; the limit in kg/m³."""
    rank = air.rank.word.lower() if air.rank is not None else None
    return {
        "tank": air.tank,
        "limit": air.limit,
        "hours": air.usual,
        "early": air.poor,
        "late": air.good,
        "lowest": air.low,
        "rank": rank,
    }


def living(made: Weeks, limits: Limits | None) -> dict[str, Any]:
    """Weeks of living water: times in s, by cell what it carries, kg/m³ (nitrogen as nitrogen) and °C, by place how far
    both groups of bacteria have grown (of a full film); what limits and what is carried, kg/s.
    """
    from fuente.life.inputs import (
        CARRIED,
        SUMS,
    )

    water, reactor = made.water, made.water.living
    cells = {
        key: {name: reactor.of(made.values, k)[:, i].tolist() for k, name in enumerate(CARRIED)}
        | {"ph": reactor.ph(made.values)[:, i].tolist(), "volume": float(water.water.volumes[i])}
        for i, key in enumerate(water.water.ids)
    }
    grown = made.values[:, reactor.grown_a], made.values[:, reactor.grown_n]
    places = []
    for p, place in enumerate(water.places):
        row: dict[str, Any] = {
            "id": place.id,
            "device": place.device,
            "cell": place.cell,
            "area": place.area,
            "ammonia_oxidisers": grown[0][:, p].tolist(),
            "nitrite_oxidisers": grown[1][:, p].tolist(),
        }
        if limits is not None:
            pace = limits.paces[p]
            row |= {"limit": pace.limit, "used": pace.used, "now": pace.now, "most": pace.most}
            row["gains"] = dict(pace.gains)
        places.append(row)
    return {
        "start": made.start.way,
        "situation": made.water.situation.name,
        "times": made.times.tolist(),
        "cells": cells,
        "places": places,
        "sums": {name: reactor.sum_of(made.values, name).tolist() for name in SUMS},
        "doses": [{"time": when, "nitrogen": dict(by_tank)} for when, by_tank in made.doses],
        "changes": list(made.changes),
        "ready": made.ready,
        "feed": water.fed,
        "carries": None
        if limits is None
        else {
            "feed": limits.carries.feed,
            "tank": limits.carries.tank,
            "what": limits.carries.what,
            "alkalinity_lasts": limits.alkalinity_lasts,
        },
    }
