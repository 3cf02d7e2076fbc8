"""Pipe as it is cut: each run of the drawing less what its fittings take off, between them piece by piece.

A run's legs follow each other along the water. A turn stands where two legs meet; turns that are left over stand evenly
spread along the longest leg, for the builder to move. What lies straight in the line (unions, valves) stands at its
beginning, where it is reached, a short nipple from one to the next.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from fuente.catalogue import FITTINGS, pipe_size, socket_depth
from fuente.devices.pieces import Parts, Piece, Pipe, Thing
from fuente.devices.shop import Shop
from fuente.drawing.primitives import Circle, Drawing, Label, Point, Polyline, Primitive

TURNS = frozenset({"elbow", "swept_elbow", "elbow_45", "tee_branch"})
NIPPLE = 0.004  # m between two sockets on one nipple


@dataclass(frozen=True)
class Stop:
    """A fitting in a run: the catalogue's kind, or an end; ``at`` m along the run's middle line; what it takes off each
    side, m.
    """

    kind: str
    at: float
    off: float = 0.0


@dataclass(frozen=True)
class CutPiece:
    """A piece of pipe, m, and the two stops that it joins; ``short`` is what the drawing lacks for it, m."""

    number: int
    length: float
    start: Stop
    end: Stop
    short: float = 0.0


@dataclass(frozen=True)
class Run:
    """One run of pipe as it is cut. ``length`` is the drawing's, along its middle line, m."""

    owner: str
    pipe: str
    count: int
    length: float
    legs: tuple[float, ...]
    stops: tuple[Stop, ...]
    pieces: tuple[CutPiece, ...]
    title: str = ""

    @property
    def sockets(self) -> int:
        """Ends of pipe that are pushed into a socket: what is cemented."""
        return 2 * len(self.pieces)


def runs_of(made: Iterable[tuple[str, Parts]], shop: Shop) -> tuple[Run, ...]:
    """Every run of straight pipe of all devices with their titles, in the order of the list, equal ones counted
    together; hose is no run, nor is what goes by the metre.
    """
    found: dict[tuple[object, ...], Run] = {}
    for title, parts in made:
        rows = _runs(parts.pieces, shop)
        for number, row in enumerate(rows, 1):
            run = replace(row, title=f"{title}, run {number}" if len(rows) > 1 else title)
            key = (run.pipe, tuple(round(leg, 4) for leg in run.legs), tuple(s.kind for s in run.stops))
            same = found.get(key)
            found[key] = run if same is None else replace(same, count=same.count + run.count)
    return tuple(found.values())


def _runs(pieces: Iterable[Piece], shop: Shop) -> list[Run]:
    legs: dict[tuple[str, str], list[Pipe]] = {}
    things: dict[tuple[str, str], list[Thing]] = {}
    for piece in pieces:
        owner = piece.id.rsplit(".", 1)[0]
        if isinstance(piece, Pipe):
            run = owner if piece.run is None else piece.run
            if run and piece.pipe and piece.length > 0 and pipe_size(piece.pipe).family != "hose":
                legs.setdefault((run, piece.pipe), []).append(piece)
        elif isinstance(piece, Thing) and piece.fits and shop.taken_off(piece.fits, piece.pipe) is not None:
            things.setdefault((owner, piece.pipe), []).append(piece)
    found = []
    for (owner, pipe), row in legs.items():
        count = row[0].count
        kinds = [t.fits for t in things.get((owner, pipe), []) for _ in range(max(t.count // count, 1))]
        found.append(cut_run(owner, pipe, [p.length for p in row], kinds, shop, count))
    return found


def cut_run(
    owner: str, pipe: str, legs: Sequence[float], kinds: Sequence[str], shop: Shop | None = None, count: int = 1
) -> Run:
    """The pieces of a run with so many fittings by the catalogue's kinds; legs in m along the middle line.

    The pieces and what the fittings take off add up to the legs.
    """
    shop = shop or Shop()
    size = pipe_size(pipe)
    total = sum(legs)
    turns = [k for k in kinds if k in TURNS]
    straight = [k for k in kinds if k not in TURNS]
    corners = [sum(legs[: i + 1]) for i in range(len(legs) - 1)]
    at_corners, rest = turns[: len(corners)], turns[len(corners) :]
    stops = [Stop(kind, at, _off(kind, pipe, shop)) for kind, at in zip(at_corners, corners, strict=False)]
    longest = max(range(len(legs)), key=lambda i: legs[i])
    begin = sum(legs[:longest])
    nipple = 2 * socket_depth(size) + NIPPLE
    at = 0.0
    first = Stop("end", 0.0)
    for kind in straight:
        off = _off(kind, pipe, shop)
        at += nipple + off
        stops.append(Stop(kind, at, off))
        at += off
    low = max(begin, at)
    room = begin + legs[longest] - low
    for i, kind in enumerate(rest):
        stops.append(Stop(kind, low + room * (i + 1) / (len(rest) + 1), _off(kind, pipe, shop)))
    line = [first, *sorted(stops, key=lambda s: s.at), Stop("end", total)]
    made = []
    for number, (one, other) in enumerate(itertools.pairwise(line), 1):
        length = other.at - other.off - one.at - one.off
        least = sum(socket_depth(size) for s in (one, other) if s.kind != "end")
        made.append(CutPiece(number, max(length, 0.0), one, other, max(least - length, 0.0)))
    return Run(owner, pipe, count, total, tuple(legs), tuple(line), tuple(made))


def _off(kind: str, pipe: str, shop: Shop) -> float:
    return shop.taken_off(kind, pipe) or 0.0


def name_of(kind: str) -> str:
    """How a stop is called."""
    return "end" if kind == "end" else FITTINGS[kind].name.split(",")[0].lower()


def cement(runs: Iterable[Run]) -> tuple[int, float]:
    """Joints to cement, and the cement that they take in m³: a film of 0.3 mm in each socket, and as much again lost.

    Primer is about the same.
    """
    joints, volume = 0, 0.0
    for run in runs:
        size = pipe_size(run.pipe)
        joints += run.sockets * run.count
        volume += run.sockets * run.count * math.pi * size.outside * socket_depth(size) * 0.3e-3 * 2
    return joints, volume


def sketch_of(run: Run) -> Drawing:
    """The run in isometric view, to scale along its legs: its pieces by their numbers, fittings as dots. Which way it
    turns is the builder's; legs go up, aside and back by turns.
    """
    ways: tuple[Point, ...] = ((0.0, 1.0), (0.866, 0.5), (0.866, -0.5), (0.0, -1.0))
    corners = [0.0]
    for leg in run.legs:
        corners.append(corners[-1] + leg)
    turns = sorted({0.0, run.length, *(s.at for s in run.stops if s.kind in TURNS)})
    points: list[tuple[float, Point]] = [(0.0, (0.0, 0.0))]
    for k, (a, b) in enumerate(itertools.pairwise(turns)):
        x, y = points[-1][1]
        dx, dy = ways[k % len(ways)]
        points.append((b, (x + dx * (b - a) * 1000, y + dy * (b - a) * 1000)))

    def place(at: float) -> Point:
        for (a, p), (b, q) in itertools.pairwise(points):
            if at <= b + 1e-9:
                share = (at - a) / (b - a) if b > a else 0.0
                return p[0] + share * (q[0] - p[0]), p[1] + share * (q[1] - p[1])
        return points[-1][1]

    thick = pipe_size(run.pipe).outside * 1000
    shapes: list[Primitive] = [Polyline(tuple(p for _, p in points), "pipe-still", run.owner, thick)]
    for stop in run.stops[1:-1]:
        shapes.append(Circle(place(stop.at), thick * 0.75, "valve"))
    for piece in run.pieces:
        middle = place((piece.start.at + piece.start.off + piece.end.at - piece.end.off) / 2)
        label = Label(
            middle, f"{piece.number}: {{a:length}}", "label-tag", values=(("a", piece.length),), anchor="left"
        )
        shapes.append(label)
    return Drawing(tuple(shapes))
