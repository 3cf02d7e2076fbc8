"""Pumps, pipe, valves and outlets of a manifold."""

from __future__ import annotations

from collections import Counter

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Part, Parts
from fuente.devices.contract import Site
from fuente.devices.manifold.spec import LOOP_NAMES, Manifold
from fuente.network.model import Solution

CAUTION = (
    "Electricity near water: residual-current protection, drip loops; local codes and a licensed electrician decide."
)


def parts(spec: Manifold, site: Site, solution: Solution) -> Parts:
    """In the order of the water, equal pieces together; floors are the pumps' filters' floors in m."""
    floors = {key: v.floor for key, v in site.vessels.items()}
    found: list[Part] = []
    for f in spec.feeders:
        size = pipe_size(f.pipe)
        box = {"h": f.pump.max_head, "q": f.pump.max_flow}
        found.append(
            Part(
                f"{spec.id}.{f.id}",
                f.pump.name,
                f.pump.stages,
                "piece",
                "Equipment",
                "{h:head} at no flow, {q:flow} at no head",
                f"{f.pump.watts:.0f} W",
                box,
            )
        )
        rise = max(spec.rows[0].height - floors[f.source], 0.0) + f.run
        found.append(
            Part(
                f"{spec.id}.{f.id}.rise",
                f"Pipe, {size.name}",
                1,
                "piece",
                "Pipe",
                "{l:run}",
                "pump to manifold",
                {"l": rise},
            )
        )
        for each in f.fittings:
            if each.count:
                name = f"{fitting(each.kind).name}, {size.name}"
                found.append(Part(f"{spec.id}.{f.id}.{each.kind}", name, each.count, "piece", "Fittings", "", "pump"))
        if f.valve != "none":
            name = f"{fitting(f.valve).name}, {size.name}"
            note = "the second line behind the air holes; fit it where you can reach it"
            found.append(Part(f"{spec.id}.{f.id}.valve", name, 1, "piece", "Fittings", "", note))
    riser = pipe_size(spec.riser)
    length = sum(abs(b.height - a.height) for a, b in zip(spec.rows, spec.rows[1:], strict=False))
    if length:
        found.append(
            Part(
                f"{spec.id}.riser",
                f"Pipe, {riser.name}",
                1,
                "piece",
                "Pipe",
                "{l:run}",
                "riser between rows",
                {"l": length},
            )
        )
    found += _branches(spec)
    for loop in spec.loops:
        size = pipe_size(loop.pipe)
        name = LOOP_NAMES[loop.kind]
        found.append(
            Part(
                f"{spec.id}.{loop.id}",
                f"Pipe, {size.name}",
                1,
                "piece",
                "Pipe",
                "{l:run}",
                name.lower(),
                {"l": loop.length},
            )
        )
        found.append(
            Part(f"{spec.id}.{loop.id}.valve", f"Ball valve, {size.name}", 1, "piece", "Fittings", "", name.lower())
        )
    return Parts((), tuple(found), (CAUTION,))


def _branches(spec: Manifold) -> list[Part]:
    rows: Counter[str] = Counter()
    hoses: Counter[str] = Counter()
    valves: Counter[str] = Counter()
    tees: Counter[tuple[str, str]] = Counter()
    bars: Counter[tuple[str, int, float]] = Counter()
    for row in spec.rows:
        rows[row.pipe] += round((row.lead + sum(b.spacing for b in row.branches)) * 1000)
        for b in row.branches:
            hoses[b.pipe] += round(b.length * 1000)
            valves[b.pipe] += 1
            tees[(row.pipe, b.pipe)] += 1
            if b.form == "bar":
                bars[(b.pipe, b.holes, b.hole_bore)] += 1
    found = [
        Part(
            f"{spec.id}.row.{p}",
            f"Pipe, {pipe_size(p).name}",
            1,
            "piece",
            "Pipe",
            "{l:run}",
            "rows, together",
            {"l": mm / 1000},
        )
        for p, mm in rows.items()
    ]
    found += [
        Part(
            f"{spec.id}.tee.{a}.{b}",
            f"Tee, {pipe_size(a).name} to {pipe_size(b).name}",
            n,
            "piece",
            "Fittings",
            "",
            "branches",
        )
        for (a, b), n in tees.items()
    ]
    found += [
        Part(f"{spec.id}.valve.{p}", f"Ball valve, {pipe_size(p).name}", n, "piece", "Fittings", "", "one a branch")
        for p, n in valves.items()
    ]
    found += [
        Part(
            f"{spec.id}.hose.{p}",
            pipe_size(p).name.capitalize(),
            1,
            "piece",
            "Pipe",
            "{l:run}",
            "branches, together",
            {"l": mm / 1000},
        )
        for p, mm in hoses.items()
    ]
    found += [
        Part(
            f"{spec.id}.bar.{p}.{n}",
            f"Spray bar, {pipe_size(p).name}",
            count,
            "piece",
            "Pipe",
            "{n:number} holes of {d:fine_length}",
            "end closed",
            {"n": n, "d": d},
        )
        for (p, n, d), count in bars.items()
    ]
    return found
