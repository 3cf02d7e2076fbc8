"""Pumps, pipe, valves and outlets of a manifold."""

from __future__ import annotations

import itertools
from collections import Counter

from fuente.catalogue import fitting, pipe_size
from fuente.devices.manifold.spec import LOOP_NAMES, Feeder, Manifold
from fuente.devices.pieces import ELECTRIC, Parts, Piece, Pipe, fittings_of, note, tool
from fuente.devices.pumping import pump_piece
from fuente.devices.site import Site
from fuente.network.model import Solution


def parts(spec: Manifold, site: Site, solution: Solution) -> Parts:
    """In the order of the water, equal pieces together."""
    found: list[Piece] = []
    for f in spec.feeders:
        found += _feeder(spec, f, site.vessels[f.source].floor)
    climb = sum(abs(b.height - a.height) for a, b in itertools.pairwise(spec.rows))
    if climb:
        between = (note("riser between rows"),)
        found.append(Pipe(id=f"{spec.id}.riser", pipe=spec.riser, length=climb, notes=between))
    found += _branches(spec)
    for loop in spec.loops:
        name = note(LOOP_NAMES[loop.kind].lower())
        found.append(Pipe(id=f"{spec.id}.{loop.id}", pipe=loop.pipe, length=loop.length, notes=(name,)))
        found.append(tool(f"{spec.id}.{loop.id}.valve", "Ball valve", name, pipe=loop.pipe))
    return Parts(tuple(found), (ELECTRIC,))


def _feeder(spec: Manifold, f: Feeder, floor: float) -> list[Piece]:
    """A pump with its pipe up to the first row; floor is its filter's, m."""
    owner = f"{spec.id}.{f.id}"
    rise = max(spec.rows[0].height - floor, 0.0) + f.run
    found: list[Piece] = [
        pump_piece(owner, f.pump, count=f.pump.stages),
        Pipe(id=f"{owner}.rise", pipe=f.pipe, length=rise, notes=(note("pump to manifold"),)),
        *fittings_of(owner, f.fittings, f.pipe, note("pump")),
    ]
    if f.valve != "none":
        second = note("the second line behind the air holes; fit it where you can reach it")
        found.append(tool(f"{owner}.valve", fitting(f.valve).name, second, pipe=f.pipe, fits=f.valve))
    return found


def _branches(spec: Manifold) -> list[Piece]:
    """Rows, tees, valves, hoses and bars of all branches, each size once; runs summed in whole millimetres."""
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
    together, branches = (note("rows, together"),), (note("branches, together"),)
    names = {p: pipe_size(p).name for p in (*rows, *hoses)}
    return [
        *(Pipe(id=f"{spec.id}.row.{p}", pipe=p, length=mm / 1000, run="", notes=together) for p, mm in rows.items()),
        *(
            tool(f"{spec.id}.tee.{a}.{b}", f"Tee, {names[a]} to {names[b]}", note("branches"), count=n)
            for (a, b), n in tees.items()
        ),
        *(tool(f"{spec.id}.valve.{p}", "Ball valve", note("one a branch"), count=n, pipe=p) for p, n in valves.items()),
        *(Pipe(id=f"{spec.id}.hose.{p}", form="", pipe=p, length=mm / 1000, notes=branches) for p, mm in hoses.items()),
        *(
            Pipe(
                id=f"{spec.id}.bar.{p}.{n}",
                form="Spray bar",
                pipe=p,
                count=count,
                holes=n,
                hole_bore=d,
                notes=(note("end closed"),),
            )
            for (p, n, d), count in bars.items()
        ),
    ]
