"""What the pipes of filters beside a tank show: choices, readings, findings, parts, drawing."""

from __future__ import annotations

import math
import zlib
from collections.abc import Iterable, Sequence

from fuente.catalogue import PIPES, pipe_size
from fuente.devices.base import Change, Choice, Edit, Finding, Path, Rank, Reading
from fuente.devices.filtering import Site, Vessel, choices_of, clogged
from fuente.devices.pieces import ELECTRIC, Fixing, Joint, Parts, Piece, Pipe, note, tool
from fuente.devices.plumbing import (
    QUIET_FALL,
    BesideSpec,
    DrainSpec,
    FeedSpec,
    LineSpec,
    drain_id,
    feed_id,
    flow_in,
    other,
    spare_id,
)
from fuente.devices.pumping import pump_choices, pump_piece, pump_power
from fuente.drawing.primitives import Circle, Drawing, Handle, Label, Point, Polyline, Primitive, box
from fuente.hydraulics.drains import open_channel_capacity
from fuente.network.model import Solution

CEMENT = "Solvent primer and cement: ventilate, wear gloves, no flame."
FAST = 1.2  # m/s in a full pipe: under it it is quiet and keeps some to spare
NEAR_RIM = 0.03  # m


# -- card, findings, parts ----------------------------------------------------------------------------------------


def line_choices(spec: BesideSpec, path: Path, site: Site) -> tuple[Choice, ...]:
    """What the builder decides of the ways in and out: their way and ends in front, the rest folded."""
    ends = tuple((v.id, v.name) for v in site.vessels.values() if v.id != spec.id)
    found: list[Choice] = []
    for end, label, own in (("feed", "Draws from", "source"), ("drain", "Leads to", "into")):
        line = getattr(spec, end)
        found += choices_of(spec, path, f"{end}.way")
        if line.way != "fed":
            found.append(Choice((*path, end, own), label, "choice", getattr(line, own), ends))
    for end, word in (("feed", "in"), ("drain", "out")):
        line = getattr(spec, end)
        if line.way == "fed":
            continue
        if line.way == "pump":
            front, folded = pump_choices(line.pump, (*path, end, "pump"), f"Pump {word}")
            found += front[:2]
            found += [*folded[:3]]
            names = "intake release length bends valve"
        else:
            names = "height count length bends" + (
                " release" if line.way == "fall" else " hold" if line.way == "float" else ""
            )
            names += " spare" if end == "drain" else ""
        found.append(Choice((*path, end, "pipe"), f"Pipe {word}", "choice", line.pipe, pipe_words(), fold=True))
        found += choices_of(spec, path, "", " ".join(f"{end}.{n}" for n in names.split()))
    found += choices_of(spec, path, "", "stand offset dirt name")
    return tuple(found)


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
                    f"Speed in the pipe {word}", speed, "speed", "Under 1.2 m/s it is quiet and keeps some to spare."
                )
            )
    return tuple(found)


def judge_lines(
    spec: BesideSpec, site: Site, solution: Solution, path: Path, cells: Sequence[str]
) -> tuple[Finding, ...]:
    """No flow, falls beyond their open limit, fast pipes, vessels near their rim."""
    found: list[Finding] = [*clogged(spec, path)]
    if flow_in(spec, solution) < 1e-9:
        found.append(
            Finding(
                "filter-still",
                Rank.STOP,
                f"Nothing flows through {spec.name.lower()}.",
                "Its pump does not reach, its water stands under its outlet, or nothing leads to it. What lives in it"
                " dies within hours.",
                spec.id,
            )
        )
    for end, line, key in (("feed", spec.feed, feed_id(spec)), ("drain", spec.drain, drain_id(spec))):
        if key in solution.flow and line.way not in ("pump", "fed"):
            found += _pipe(spec, path, end, line, abs(solution.flow[key]) / line.count)
    return (*found, *_brim(spec, solution, cells))


def _pipe(spec: BesideSpec, path: Path, end: str, line: FeedSpec | DrainSpec, each: float) -> Iterable[Finding]:
    """A pipe that gulps, or in which water loses much; each m³/s is its flow."""
    size = pipe_size(line.pipe)
    more = Edit("Another pipe beside it", (Change((*path, end, "count"), min(line.count + 1, 8)),))
    quiet = QUIET_FALL * open_channel_capacity(size.bore)
    if line.way == "fall" and each > quiet:
        yield Finding(
            "fall-full",
            Rank.CONSIDER,
            f"A pipe of {spec.name.lower()} takes {{each:flow}}; it is quiet up to {{half:flow}}.",
            "Beyond half of what it carries as an open channel a falling pipe gulps and is heard.",
            spec.id,
            {"each": each, "half": quiet},
            "Another pipe",
            more,
        )
    elif line.way != "fall" and each / size.area > FAST:
        yield Finding(
            "pipe-fast",
            Rank.CONSIDER,
            f"Water runs at {{speed:speed}} in a pipe of {spec.name.lower()}.",
            "Level is lost by the square of the speed. Several small bores do the work of one large.",
            spec.id,
            {"speed": each / size.area},
            "Another pipe",
            more,
        )


def _brim(spec: BesideSpec, solution: Solution, cells: Sequence[str]) -> Iterable[Finding]:
    """The first of its vessels that runs near its rim."""
    for key in cells:
        room = solution.freeboard(key)
        if room < NEAR_RIM:
            yield Finding(
                "vessel-brim",
                Rank.FIX,
                f"{solution.network.cell(key).name} runs {{room:length}} under its rim.",
                "A pad that clogs or a leaf in a pipe raises it over the rim. Leave 50 mm at least.",
                spec.id,
                {"room": room},
                "",
                None,
                room - NEAR_RIM,
            )
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
                found.append(tool(f"{owner}.check", "Swing check valve", note("where you reach it"), pipe=line.pipe))
            found.append(tool(f"{owner}.union", "Union", note("so that the pump comes out"), pipe=line.pipe))
        else:
            found += _gravity_parts(spec, owner, line)
        found.append(
            Pipe(
                id=f"{owner}.pipe",
                pipe=line.pipe,
                count=line.count,
                length=line.length,
                notes=(note(word, of=spec.name.lower()),),
            )
        )
        if line.bends:
            bends = line.bends * line.count
            found.append(tool(f"{owner}.bends", "Elbow 90°", note(word), count=bends, pipe=line.pipe))
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
        tool(f"{owner}.tap", "Ball valve and union", part, count=line.count, pipe=line.pipe),
    ]
    if line.way == "float":
        shuts = note("test that it shuts")
        found.append(tool(f"{owner}.float", "Float valve", shuts, count=line.count, pipe=line.pipe))
    return found


# -- drawing ------------------------------------------------------------------------------------------------------


def lines_sketch(
    spec: BesideSpec, site: Site, solution: Solution, path: Path, enters: Point, leaves: Point, own: Drawing
) -> Drawing:
    """A filter with its pipes, m: where water enters and leaves its walls. Falls run behind it, pumps stand in it."""
    behind: list[Primitive] = []
    before: list[Primitive] = []
    grips: list[Handle] = []
    for end, line, key in (("feed", spec.feed, feed_id(spec)), ("drain", spec.drain, drain_id(spec))):
        if line.way == "fed":
            continue
        far = other(site, line.source if isinstance(line, FeedSpec) else line.into, spec.name)
        at = enters if end == "feed" else leaves
        flow = solution.flow.get(key, 0.0)
        if line.way == "pump":
            before += _pumped_sketch(spec, site, line, end, far, at, flow)
            continue
        shapes, start = _fall_sketch(spec, line, end, far, at, flow)
        behind += shapes
        if isinstance(line, DrainSpec) and line.spare > 0:
            higher = line.model_copy(update={"height": line.height + line.spare})
            behind += _fall_sketch(spec, higher, end, far, at, solution.flow.get(spare_id(spec), 0.0))[0]
        grips.append(
            Handle(
                (start[0] * 1000, start[1] * 1000),
                "y",
                (*path, end, "height"),
                line.height,
                0.0,
                3.0,
                f"pipe {'to' if end == 'feed' else 'from'} {spec.name.lower()}",
                "pipe",
                owner=spec.id,
            )
        )
    return Drawing(tuple(behind)) + own + Drawing(tuple(before), tuple(grips))


def _edge(far: Vessel, at: Point) -> tuple[float, float]:
    """The wall of another vessel that faces a point, m, and the way into it: 1 or −1 cm."""
    right = at[0] > (far.left + far.right) / 2
    return (far.right, -0.01) if right else (far.left, 0.01)


def _pumped_sketch(
    spec: BesideSpec, site: Site, line: LineSpec, end: str, far: Vessel, at: Point, flow: float
) -> list[Primitive]:
    """A pump with its pipe over everything."""
    edge, inward = _edge(far, at)
    tops = max(v.rim for v in site.vessels.values())
    start = (
        (edge + 6 * inward, far.floor + line.intake + 0.01) if end == "feed" else (at[0], at[1] + line.intake + 0.01)
    )
    goal = (at[0], at[1] + line.release) if end == "feed" else (edge + 6 * inward, far.floor + line.release)
    high = max(tops + 0.1 + (_lane(spec.id) % 3) * 0.05, goal[1] + 0.06)
    style = "pipe-pumped" if flow > 5e-7 else "pipe-back" if flow < -5e-7 else "pipe-still"
    wide = pipe_size(line.pipe).outside * 1000
    shapes: list[Primitive] = [
        Polyline(_mm((start, (start[0], high), (goal[0], high), goal)), style, spec.id, wide),
        Circle((start[0] * 1000, start[1] * 1000), 38.0, "pump", spec.id),
    ]
    if flow > 5e-7:
        middle = ((start[0] + goal[0]) * 500, high * 1000 + 0.5 * wide)
        shapes.append(Label(middle, "{q:flow}", "label-pumped", values=(("q", flow),), owner=spec.id, side=1))
    return shapes


def _fall_sketch(
    spec: BesideSpec, line: LineSpec, end: str, far: Vessel, at: Point, flow: float
) -> tuple[list[Primitive], Point]:
    """A pipe that falls or lies under water, and where it starts, m."""
    edge, inward = _edge(far, at)
    way = getattr(line, "way", "level")
    wide = pipe_size(line.pipe).outside * 1000
    y = (far.floor if end == "feed" else at[1]) + line.height
    start = (edge + 3 * inward, y) if end == "feed" else (at[0], y)
    if way == "fall":
        goal = (at[0], at[1] + line.release) if end == "feed" else (edge + 6 * inward, far.floor + line.release)
        points: tuple[Point, ...] = (start, (goal[0], y), goal)
    else:
        goal = (at[0], y) if end == "feed" else (edge + 3 * inward, y)
        points = (start, goal)
    shapes: list[Primitive] = [Polyline(_mm(points), "pipe-fall" if abs(flow) > 5e-7 else "pipe-dry", spec.id, wide)]
    run = abs(points[1][0] - points[0][0]) * 1000
    if abs(flow) > 5e-7:
        middle = ((points[0][0] + points[1][0]) * 500, y * 1000 + (wide if end == "feed" else -wide) / 2)
        shapes.append(
            Label(
                middle,
                "{q:flow}",
                "label-fall",
                values=(("q", abs(flow)),),
                owner=spec.id,
                room=run,
                side=1 if end == "feed" else -1,
            )
        )
    return shapes, start


def _lane(key: str) -> int:
    """A fixed number for a name, so that two pumps' pipes do not lie on each other."""
    return zlib.crc32(key.encode())


def _mm(points: Sequence[Point]) -> tuple[Point, ...]:
    return tuple((x * 1000, y * 1000) for x, y in points)


def vessel_sketch(
    x0: float, x1: float, floor: float, rim: float, level: float, owner: str, wall: str = "drum", thick: float = 5.0
) -> list[Primitive]:
    """An open vessel in section with its water; sizes in m, the wall in mm."""
    a, b, low, high = x0 * 1000, x1 * 1000, floor * 1000, rim * 1000
    shapes: list[Primitive] = []
    top = min(level * 1000, high)
    if top > low + 0.5:
        shapes += [box(a, low, b, top, "water", owner), Polyline(((a, top), (b, top)), "surface", owner)]
    shapes += [
        box(a - thick, low - thick, b + thick, low, wall, owner),
        box(a - thick, low, a, high, wall, owner),
        box(b, low, b + thick, high, wall, owner),
    ]
    return shapes
