"""Steps of the whole system: pipes, filling, first runs, a day under your eyes."""

from __future__ import annotations

from collections.abc import Iterator

from fuente.devices import kind_of
from fuente.devices.contract import Device
from fuente.devices.pieces import (
    ELECTRIC,
    PLUMBER,
    FirstRun,
    Note,
    note,
)
from fuente.devices.shop import Shop
from fuente.study.analysis import Analysis
from fuente.workshop.piping import CutPiece, Run, name_of
from fuente.workshop.step import DAY, FLOOD, FLOOR, GLUE, Step, title_of


def plumbed(runs: tuple[Run, ...], shop: Shop) -> Iterator[Step]:
    """Every run cut and dry-fitted, then all of it cemented."""
    if not runs:
        return
    for k, run in enumerate(runs):
        act = [note(f"Piece {p.number}: {{l:length}}{_between(p)}", l=p.length) for p in run.pieces]
        times = f", {run.count} of it" if run.count > 1 else ""
        yield Step(
            f"pipe:{run.owner}:dry",
            "Plumbing",
            note(f"cut and dry-fit{times}, {{l:run}}", of=run.title, l=run.length),
            tuple(act),
            note("square cuts, deburred; it reaches without pull; a line across every joint to find it again"),
            (6.0 + 4.0 * len(run.pieces)) * run.count,
            1,
            ("pipe saw or cutter", "deburrer", "marker"),
            shows=f"run.{k}",
        )
    sockets = sum(r.sockets * r.count for r in runs)
    yield Step(
        "pipe:cement",
        "Plumbing",
        Note("Cement the pipes"),
        (
            Note(
                f"{sockets} sockets: primer on both, cement on both, push in and a quarter turn to the marks, hold half"
                " a minute"
            ),
            Note("Not the unions' faces, the valves' inner parts or what must come apart"),
        ),
        note("an even bead round every socket, marks meet"),
        5 + 2.0 * sockets,
        1,
        ("primer", "solvent cement", "cloth"),
        (GLUE, PLUMBER),
        shop.cement,
        "the cement to harden for pressure",
    )


def _between(piece: CutPiece) -> str:
    """What it joins, and what the drawing lacks for it."""
    ends = {piece.start.kind, piece.end.kind}
    words = "" if ends == {"end"} else f", {name_of(piece.start.kind)} to {name_of(piece.end.kind)}"
    return words + (" (too short for its sockets: give the run more room)" if piece.short > 0 else "")


# -- water --------------------------------------------------------------------------------------------------------


def filled(analysis: Analysis) -> Iterator[Step]:
    """Everything in its place, filled to its marks."""
    marks = []
    network = analysis.network
    for cell, level in network.marks.items():
        floor = network.cell(cell).floor
        marks.append(note("{h:length} over its floor", of=network.cell(cell).name, h=level - floor))
    yield Step(
        "all:fill",
        "Everything",
        Note("Fill and mark the levels"),
        (
            Note("Everything in its place, level and carried all over; every plug pulled"),
            note("Fill slowly where the water comes in, and look at every joint on the way"),
            *marks[:8],
        ),
        note("stand still for ten minutes: no level falls"),
        60,
        1,
        ("hose", "tape for marks"),
        (FLOOD, FLOOR),
    )


def _started(device: Device) -> FirstRun:
    """The first start of what has a pump and nothing else to say of it."""
    return FirstRun(
        f"{device.id}.start",
        "Start it low",
        1,
        Note("Plug it in last, with its valve a quarter open where it has one, and stay by it"),
        Note("no joint weeps; every level settles under its rim"),
        15,
    )


def first_runs(analysis: Analysis) -> Iterator[Step]:
    """What every kind wants when water first runs through it, the water's way."""
    found = []
    for device in analysis.ordered:
        kind = kind_of(device)
        if kind.commission:
            found += [(title_of(device), each) for each in kind.commission(device, analysis.sites[device.id])]
        elif device.draws > 0:
            found.append((title_of(device), _started(device)))
    for title, each in sorted(found, key=lambda pair: pair[1].turn):
        yield Step(
            f"{each.id}:first",
            title,
            Note(each.title),
            (each.act,),
            each.check,
            each.minutes,
            cautions=(ELECTRIC, FLOOD),
        )


def watched() -> Step:
    """A day of running, measured beside what was expected."""
    return Step(
        "all:watch",
        "Everything",
        Note("Run it for a day and look"),
        (
            Note(
                "Wet test page: write down the level of each vessel, running and after a power cut, beside what was"
                " expected"
            ),
            Note("Then the water is ready for its start: Media & load has the plan"),
        ),
        note("measured levels within a finger of those expected; dry paper under everything"),
        20,
        1,
        ("paper", "tape measure"),
        (),
        DAY,
        "a day of running under your eyes",
    )
