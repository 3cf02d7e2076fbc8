"""What the pipes of filters beside a tank show: choices, readings, findings, parts, drawing."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace

from fuente.catalogue import PIPES, pipe_size
from fuente.devices.base import Change, Choice, Edit, Finding, Path, Rank, Reading
from fuente.devices.beside import BesideSpec, DrainSpec, FeedSpec
from fuente.devices.filtering import Site, choices_of, clogged
from fuente.devices.options import chamber_choice
from fuente.devices.pieces import ELECTRIC, Fixing, Joint, Parts, Piece, Pipe, note, tool
from fuente.devices.plumbing import (
    QUIET_FALL,
    drain_id,
    feed_id,
    flow_in,
)
from fuente.devices.plumbing_remedies import more_out, offered
from fuente.devices.pocket_shown import starved
from fuente.devices.pumping import pump_choices, pump_piece, pump_power
from fuente.hydraulics.drains import open_channel_capacity
from fuente.network.model import Solution
from fuente.one_line import within

CEMENT = "Solvent primer and cement: ventilate, wear gloves, no flame."
FAST = 1.2  # m/s in a full pipe: under it it is quiet and keeps some to spare
NEAR_RIM = 0.03  # m


def line_choices(spec: BesideSpec, path: Path, site: Site) -> tuple[Choice, ...]:
    """What the builder decides of the ways in and out: their way and ends in front, the rest folded."""
    ends = tuple((v.id, v.name) for v in site.vessels.values() if v.id != spec.id)
    found: list[Choice] = []
    for end, label, own in (("feed", "Draws from", "source"), ("drain", "Leads to", "into")):
        line = getattr(spec, end)
        found += choices_of(spec, path, f"{end}.way")
        if line.way != "fed":
            found.append(
                Choice((*path, end, own), label, "choice", getattr(line, own), ends, make=_leads(spec, end, own))
            )
            if end == "drain":
                inner = (*path, end)
                found += chamber_choice(
                    inner, site, spec.drain.into, spec.drain.chamber, "In which chamber", "its first"
                )
    for end, word in (("feed", "in"), ("drain", "out")):
        line = getattr(spec, end)
        if line.way == "fed":
            continue
        if line.way == "pump":
            front, folded = pump_choices(line.pump, (*path, end, "pump"), f"Pump {word}")
            found += front[:2]
            found += [*folded[:3]]
            names = "intake release length bends valve"
        elif line.way == "air":
            names = "count bends release"
            deep = choices_of(spec, path, "", f"{end}.intake")
            found += [replace(c, label="Air enters above the floor it stands on") for c in deep]
        else:
            names = "height count length bends" + (
                " release" if line.way == "fall" else " hold" if line.way == "float" else ""
            )
            names += " spare" if end == "drain" else ""
        found.append(Choice((*path, end, "pipe"), f"Pipe {word}", "choice", line.pipe, pipe_words(), fold=True))
        found += choices_of(spec, path, "", " ".join(f"{end}.{n}" for n in names.split()))
    found += choices_of(spec, path, "", "stand offset dirt name")
    return tuple(found)


def _leads(spec: BesideSpec, end: str, own: str) -> Callable[[str], Edit] | None:
    """Another water, and no chamber of the one before."""
    if end != "drain" or not spec.drain.chamber:
        return None
    where = (*spec.path, end)
    return lambda to: Edit("Lead it elsewhere", (Change((*where, own), to), Change((*where, "chamber"), "")))


def pipe_words() -> tuple[tuple[str, str], ...]:
    """Pipes of the catalogue for a choice."""
    return tuple((p.id, p.name) for p in PIPES.values())


def line_readings(spec: BesideSpec, site: Site, solution: Solution) -> tuple[Reading, ...]:
    """Turnover by it, and what its pumps draw."""
    flow = flow_in(spec, solution)
    volume = solution.volume[site.tank.id]
    found = [Reading("Turnover by it", flow / volume if volume else 0.0, "per_hour", "Its flow over the tank's water.")]
    watts = sum(pump_power(line.pump) for line in (spec.feed, spec.drain) if line.way == "pump")
    if watts:
        found.append(Reading("Its pumps draw", watts, "power", "Watts on the box by the cube of the speed."))
    for line, key, word in ((spec.feed, feed_id(spec), "in"), (spec.drain, drain_id(spec), "out")):
        if line.way in ("level", "fall", "float") and key in solution.flow:
            speed = abs(solution.flow[key]) / line.count / (math.pi / 4 * pipe_size(line.pipe).bore ** 2)
            found.append(
                Reading(
                    f"Speed in the pipe {word}",
                    speed,
                    "speed",
                    "Under {1.2:speed} it is quiet, with some to spare.",
                )
            )
    return tuple(found)


def judge_lines(
    spec: BesideSpec, site: Site, solution: Solution, path: Path, cells: Sequence[str]
) -> tuple[Finding, ...]:
    """No flow, falls beyond their open limit, fast pipes, vessels near their rim."""
    found: list[Finding] = [*clogged(spec, path)]
    dry = spec.feed.way == "air" and spec.id in site.drops and _riser_air(spec, solution) <= 1e-9
    if dry:
        found.append(starved(spec))
    elif flow_in(spec, solution) < 1e-9:
        found.append(
            Finding(
                "filter-still",
                Rank.STOP,
                f"Nothing flows through {within(spec.name)}.",
                "Its pump or its air does not lift so high, its water stands under its outlet, or nothing leads to it."
                " What lives in it dies within hours.",
                spec.id,
            )
        )
    if spec.feed.way == "air" and spec.id not in site.drops:
        found.append(
            Finding(
                "no-air",
                Rank.STOP,
                f"No air line leads to {within(spec.name)}.",
                "Without air its airlift stands still, and what lives in it dies within hours. Add a drop to an air"
                " pump.",
                spec.id,
            )
        )
    for end, line, key in (("feed", spec.feed, feed_id(spec)), ("drain", spec.drain, drain_id(spec))):
        if key in solution.flow and line.way not in ("pump", "air", "fed"):
            found += _pipe(spec, path, end, line, abs(solution.flow[key]) / line.count)
    return (*found, *_brim(spec, solution, cells))


def _riser_air(spec: BesideSpec, solution: Solution) -> float:
    return sum(q for key, q in solution.flow.items() if key.endswith(f".{feed_id(spec)}"))


def _pipe(spec: BesideSpec, path: Path, end: str, line: FeedSpec | DrainSpec, each: float) -> Iterable[Finding]:
    """A pipe that gulps, or in which water loses much; each m³/s is its flow."""
    size = pipe_size(line.pipe)
    more = Edit("Another pipe beside it", (Change((*path, end, "count"), min(line.count + 1, 8)),))
    quiet = QUIET_FALL * open_channel_capacity(size.bore)
    if line.way == "fall" and each > quiet:
        yield Finding(
            "fall-full",
            Rank.CONSIDER,
            f"A pipe of {within(spec.name)} takes {{each:flow}}; it is quiet up to {{half:flow}}.",
            "Beyond half of what it carries as an open channel a falling pipe gulps and is heard.",
            spec.id,
            {"each": each, "half": quiet},
            "Another pipe",
            more,
            quiet - each,
        )
    elif line.way != "fall" and each / size.area > FAST:
        yield Finding(
            "pipe-fast",
            Rank.CONSIDER,
            f"Water runs at {{speed:speed}} in a pipe of {within(spec.name)}.",
            "Head loss rises with the square of the velocity. Several small bores do the work of one large.",
            spec.id,
            {"speed": each / size.area},
            "Another pipe",
            more,
            FAST - each / size.area,
        )


def _brim(spec: BesideSpec, solution: Solution, cells: Sequence[str]) -> Iterable[Finding]:
    """The first of its vessels that runs near its rim."""
    for key in cells:
        room = solution.freeboard(key)
        if room < NEAR_RIM:
            found = Finding(
                "vessel-brim",
                Rank.FIX,
                f"{solution.network.cell(key).name} runs {{room:level}} under its rim.",
                "A pad that clogs or a leaf in a pipe raises it over the rim. Leave {0.05:length} at least.",
                spec.id,
                {"room": room},
                margin=room - NEAR_RIM,
            )
            yield offered(found, more_out(spec, solution))
            return


def line_parts(spec: BesideSpec, site: Site) -> Parts:
    """Pipes, bulkheads, bends, pumps of the ways in and out."""
    found: list[Piece] = []
    cautions: list[str] = [CEMENT]
    for end, word, line in (("feed", "in", spec.feed), ("drain", "out", spec.drain)):
        if line.way == "fed":
            continue
        owner = f"{spec.id}.{end}"
        if line.way == "pump":
            cautions.append(ELECTRIC)
            found.append(pump_piece(f"{owner}.pump", line.pump))
            if line.valve:
                found.append(
                    tool(
                        f"{owner}.check",
                        "Swing check valve",
                        note("where you reach it"),
                        pipe=line.pipe,
                        fits="swing_check",
                    )
                )
            found.append(
                tool(f"{owner}.union", "Union", note("so that the pump comes out"), pipe=line.pipe, fits="union")
            )
        elif line.way == "air":
            foot = note("an airline into its foot")
            found.append(tool(f"{owner}.injector", "Air inlet of the riser", foot, count=line.count, pipe=line.pipe))
        else:
            found += _gravity_parts(spec, owner, line)
        found.append(
            Pipe(
                id=f"{owner}.pipe",
                pipe=line.pipe,
                count=line.count,
                length=line.length,
                notes=(note(word, of=within(spec.name)),),
            )
        )
        if line.bends:
            bends = line.bends * line.count
            found.append(tool(f"{owner}.bends", "Elbow 90°", note(word), count=bends, pipe=line.pipe, fits="elbow"))
    return Parts(tuple(found), tuple(dict.fromkeys(cautions)))


def _gravity_parts(spec: BesideSpec, owner: str, line: FeedSpec | DrainSpec) -> list[Piece]:
    """The bulkheads of a pipe that falls or lies under water, its tap, and the float that shuts it."""
    far, leaves = (line.source, line.source) if isinstance(line, FeedSpec) else (line.into, spec.id)
    walls = (spec.id, far) if line.way == "level" else (leaves,)
    part = note("to part it without emptying the tank")
    found: list[Piece] = [
        Joint(
            id=f"{owner}.bulkhead",
            fixing=Fixing.BULKHEAD,
            pipe=line.pipe,
            between=walls,
            count=line.count * len(walls),
        ),
        tool(f"{owner}.tap", "Ball valve and union", part, count=line.count, pipe=line.pipe, fits="ball_valve"),
    ]
    if line.way == "float":
        shuts = note("test that it shuts")
        found.append(tool(f"{owner}.float", "Float valve", shuts, count=line.count, pipe=line.pipe))
    return found
