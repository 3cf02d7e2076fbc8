"""What a network is made of, and what a solver returns."""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum
from functools import cached_property
from types import MappingProxyType
from typing import Any, ClassVar, NamedTuple, Protocol

import numpy as np

from fuente.errors import SpecError
from fuente.network.level_curve import LevelCurve, Walls

NO_FLOW = (0.0, 0.0, 0.0)  # what laws return where nothing can move
FLOOR = "floor"  # the cell that takes what is spilled
NOTHING: Mapping[str, float] = MappingProxyType({})


@dataclass(frozen=True)
class Cell:
    """A volume with a free surface. Floor and rim in m above the room's floor.

    A sink only takes water; one that is a source gives it too, and its volume then counts below zero.
    """

    id: str
    name: str
    floor: float
    rim: float
    curve: LevelCurve
    sink: bool = False
    owner: str = ""  # id of the tank or device that it is part of
    source: bool = False
    open_area: float = 0.0  # m² of water that is open to the room's air, less covers
    temperature: float = 25.0  # °C of its water
    cover: float = 0.0  # share of its plan that is covered
    walls: Walls | None = None  # towards the room; None where its water meets only other water
    living: float = 0.0  # m² of media and foam that its water passes, by the rules that hold there
    lid: float | None = None  # m where a closed vessel ends: its level is then its head, and over the lid pressure


class WayKind(StrEnum):
    """What a way of water is, for whoever counts or changes ways of a kind."""

    WEIR = "weir"
    BAFFLE = "baffle"  # over a baffle in a vessel
    GAP = "gap"  # under one
    BYPASS = "bypass"  # over or round what should be gone through
    PAD = "pad"  # through foam, felt, a bed, a screen
    FILM = "film"  # down a packing
    DRIPS = "drips"
    DRAIN = "drain"
    HEADER = "header"
    JOIN = "join"
    PIPE = "pipe"
    SIPHON = "siphon"
    PUMP = "pump"  # what keeps the system turning
    FEED_PUMP = "feed-pump"  # a filter's own, between two waters
    INNER_PUMP = "inner-pump"  # a filter's own, within its tank
    LOOP_PUMP = "loop-pump"
    LIFT = "lift"
    MAIN = "main"  # a manifold's own pipes
    BRANCH = "branch"
    LOOP = "loop"
    AIR = "air"
    TOP_UP = "top-up"
    WASTE = "waste"
    SPILL = "spill"
    HOSE = "hose"

    @property
    def driven(self) -> bool:
        """Whether a machine moves water along it."""
        return self in _DRIVEN

    @property
    def slow(self) -> bool:
        """Whether it matters over hours and not over minutes: fresh water and waste."""
        return self in (WayKind.TOP_UP, WayKind.WASTE)


_DRIVEN = frozenset({WayKind.LIFT, WayKind.INNER_PUMP, WayKind.FEED_PUMP, WayKind.PUMP, WayKind.BRANCH})


class Law(Protocol):
    """How a link moves water."""

    def flow(self, a: float, b: float) -> tuple[float, float, float]:
        """Flow in m³/s from the first cell to the second at their levels in m, and its derivatives by both."""
        ...


class Piped:
    """A law of a way that holds water itself, as pipes do. What it holds comes down to the second cell where it
    drains, or to the first where ``back``.
    """

    back: ClassVar[bool] = False

    def held(self, a: float, b: float) -> tuple[float, float, float]:
        """Water in it in m³ at the levels in m, and its slopes by both, m²."""
        raise NotImplementedError


@dataclass(frozen=True)
class Link:
    """Water's way between two cells, positive from a to b."""

    id: str
    name: str
    a: str
    b: str
    law: Law
    kind: WayKind = WayKind.WEIR
    owner: str = ""
    serves: str = ""  # id of the tank that it drains
    spare: bool = False  # whether it stays dry until others fail
    one_out: Law | None = None  # what is left of it while one of its pads is out to be rinsed; None for a single one


@dataclass(frozen=True)
class Way:
    """A way of water that has an id, a name and a kind: a link, or a duct of a group."""

    id: str
    name: str
    a: str
    b: str
    kind: WayKind
    owner: str


class Group(Protocol):
    """Water's ways that must be solved together, as a manifold's pipes under pressure, between several cells."""

    @property
    def cells(self) -> tuple[str, ...]:
        """Ids of the cells that it joins."""
        ...

    @property
    def pairs(self) -> tuple[tuple[str, str], ...]:
        """Cells between which it moves water."""
        ...

    @property
    def forks(self) -> bool:
        """Whether water in it can go more than one way, so that rest depends on the way there."""
        ...

    @property
    def ways(self) -> tuple[Way, ...]:
        """Its inner ways, whose flows are reported."""
        ...

    def scratch(self, flows: Mapping[str, float]) -> Any:
        """What one solver remembers from one state to the next; flows m³/s by way id are the first guess."""
        ...

    def exchange(self, levels: Sequence[float], scratch: Any = None) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """At the cells' levels (n,) in m: what each cell gains (n,) m³/s, its derivatives (n, n), the ways' flows."""
        ...

    def heads(self, levels: Sequence[float], flows: Mapping[str, float] = NOTHING) -> Mapping[str, float]:
        """Head in m at its inner nodes at the cells' levels in m; flows as for scratch."""
        ...

    def held(self, levels: Sequence[float]) -> GroupHeld | None:
        """Water in its pipes at the cells' levels in m; None where it has none."""
        ...


class GroupHeld(NamedTuple):
    """Water in a group's pipes: m³ by the cell to which it comes down (n,), slopes by the cells' levels (n, n), m³ by
    way (ways,).
    """

    by_cell: np.ndarray
    slopes: np.ndarray
    by_way: np.ndarray


class Curves(NamedTuple):
    """Level curves piece by piece: each cell's first row, levels in m at which the next piece begins, and of every
    piece the level and the volume at its foot, and its area.
    """

    row: np.ndarray
    inner: np.ndarray | None
    foot: np.ndarray
    volume: np.ndarray
    area: np.ndarray


@dataclass(frozen=True)
class Network:
    """Cells and links, groups of links, and the levels that the builder marked (cell id → m)."""

    cells: tuple[Cell, ...]
    links: tuple[Link, ...]
    marks: Mapping[str, float] = field(default_factory=dict)
    groups: tuple[Group, ...] = ()

    def __post_init__(self) -> None:
        ids = [cell.id for cell in self.cells]
        if len(set(ids)) != len(ids):
            raise SpecError("Two chambers have the same id.")
        for link in self.links:
            if link.a not in self.index or link.b not in self.index:
                raise SpecError(f"“{link.name}” leads to a place that does not exist.")
        for group in self.groups:
            if any(cell not in self.index for cell in group.cells):
                raise SpecError("A manifold leads to a place that does not exist.")

    @cached_property
    def index(self) -> dict[str, int]:
        """Cell id → position."""
        return {cell.id: i for i, cell in enumerate(self.cells)}

    @cached_property
    def ends(self) -> list[tuple[Law, int, int]]:
        """Each link's law and the positions of its cells."""
        return [(link.law, self.index[link.a], self.index[link.b]) for link in self.links]

    @cached_property
    def piped(self) -> list[tuple[Piped, int, int, int, int]]:
        """Links that hold water: law, positions of its cells, of the one that it comes down to, and its own. What a
        sink would get is not followed.
        """
        found: list[tuple[Piped, int, int, int, int]] = []
        for i, (law, a, b) in enumerate(self.ends):
            if isinstance(law, Piped):
                to = a if law.back else b
                if not self.cells[to].sink:
                    found.append((law, a, b, to, i))
        return found

    @cached_property
    def way_ids(self) -> list[str]:
        """Ids of all ways, in the order of ``ways``."""
        return [k.id for k in self.links] + [way.id for group in self.groups for way in group.ways]

    @cached_property
    def ways(self) -> tuple[Way, ...]:
        """All ways of water: links, then the ducts of groups."""
        own = tuple(Way(k.id, k.name, k.a, k.b, k.kind, k.owner) for k in self.links)
        return own + tuple(way for group in self.groups for way in group.ways)

    @cached_property
    def way_ends(self) -> np.ndarray:
        """Where each way begins and ends, (ways, 2): positions of cells, and beyond them of the places where pipes
        meet.
        """
        place = dict(self.index)
        ends = [place.setdefault(key, len(place)) for way in self.ways for key in (way.a, way.b)]
        return np.array(ends, dtype=np.intp).reshape(-1, 2)

    @cached_property
    def curves(self) -> Curves:
        """The cells' level curves piece by piece, as arrays."""
        curves = [cell.curve for cell in self.cells]
        most = max((len(c.levels) for c in curves), default=2) - 1
        inner = np.full((len(curves), most - 1), np.inf)
        foot, volume, area = (np.zeros((len(curves), most)) for _ in range(3))
        for i, c in enumerate(curves):
            n = len(c.levels) - 1
            inner[i, : n - 1] = c.levels[1:-1]
            foot[i, :n], volume[i, :n] = c.levels[:-1], c.volumes[:-1]
            area[i, :n] = [
                (w - v) / (b - a)
                for (a, b), (v, w) in zip(itertools.pairwise(c.levels), itertools.pairwise(c.volumes), strict=True)
            ]
        row = np.arange(len(curves)) * most
        return Curves(row, inner if most > 1 else None, foot.ravel(), volume.ravel(), area.ravel())

    def cell(self, cell_id: str) -> Cell:
        """The cell with an id."""
        return self.cells[self.index[cell_id]]

    @cached_property
    def _links(self) -> dict[str, Link]:
        return {link.id: link for link in self.links}

    def link(self, link_id: str) -> Link:
        """The link with an id."""
        return self._links[link_id]

    def like(
        self,
        links: Iterable[Link] | None = None,
        marks: Mapping[str, float] | None = None,
        groups: Iterable[Group] | None = None,
        more: Iterable[Cell] = (),
    ) -> Network:
        """The same with other links, marks or groups, and with more cells."""
        cells = (*self.cells, *more)
        made = Network(
            cells,
            self.links if links is None else tuple(links),
            self.marks if marks is None else marks,
            self.groups if groups is None else tuple(groups),
        )
        if len(cells) == len(self.cells):
            made.__dict__["curves"] = self.curves  # of the same cells
        return made

    def replace_links(self, change: Mapping[str, Law | None], extra: Iterable[Link] = ()) -> Network:
        """The same network with some laws changed (None takes the link out) and links added."""
        kept = []
        for link in self.links:
            law = change.get(link.id, link.law)
            if law is link.law:
                kept.append(link)
            elif law is not None:
                kept.append(replace(link, law=law))
        return self.like(links=(*kept, *extra))


@dataclass(frozen=True)
class Solution:
    """Levels m, volumes m³ by cell; flows m³/s by link; how far the water's balance is off."""

    network: Network
    level: Mapping[str, float]
    volume: Mapping[str, float]
    flow: Mapping[str, float]
    imbalance: float  # m³/s, the greatest of any cell that should stand still
    iterations: int = 0
    held: Mapping[str, float] = field(default_factory=dict)  # m³ by way, of pipes that hold water
    piped: Mapping[str, float] = field(default_factory=dict)  # m³ of it by the cell to which it comes down

    def depth(self, cell_id: str) -> float:
        """Water depth in m over the cell's floor."""
        return self.level[cell_id] - self.network.cell(cell_id).floor

    def freeboard(self, cell_id: str) -> float:
        """Distance in m from the water up to the rim."""
        return self.network.cell(cell_id).rim - self.level[cell_id]

    @cached_property
    def total(self) -> float:
        """All water in m³, what is in pipes and what is spilled included."""
        return sum(self.volume.values()) + sum(self.held.values())

    @cached_property
    def held_by_owner(self) -> dict[str, float]:
        """Water in the pipes of each device, m³."""
        found: dict[str, float] = {}
        for way in self.network.ways:
            if way.id in self.held:
                found[way.owner] = found.get(way.owner, 0.0) + self.held[way.id]
        return found

    @property
    def spilled(self) -> float:
        """Water on the floor, m³."""
        return self.volume.get(FLOOR, 0.0)

    @cached_property
    def spilling(self) -> dict[str, float]:
        """Links that put water on the floor now, m³/s."""
        return {k.id: self.flow[k.id] for k in self.network.links if k.b == FLOOR and self.flow[k.id] > 1e-9}

    def kind_flow(self, kind: WayKind | str) -> float:
        """Total flow in m³/s through ways of a kind."""
        flow = self.flow
        total = sum(flow[k.id] for k in self.network.links if k.kind == kind)
        return total + sum(flow[w.id] for group in self.network.groups for w in group.ways if w.kind == kind)
