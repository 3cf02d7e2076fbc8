"""Panels on sheets as values: what is cut, from what, where it lies, in which cuts."""

from __future__ import annotations

import math
from dataclasses import dataclass

FINE = 1e-9  # m
LEAST_OFFCUT = 0.05  # m: what is narrower is waste


@dataclass(frozen=True)
class Item:
    """A rectangle to cut, m; ``turns`` says whether it may lie either way (not with a grain or a flute)."""

    key: str
    length: float
    width: float
    name: str = ""
    turns: bool = True


@dataclass(frozen=True)
class Board:
    """A sheet to cut from, m: its price in any money, and how many there are (None for as many as are needed). A
    leftover of the builder's own costs nothing and is used first.
    """

    key: str
    length: float
    width: float
    price: float = 0.0
    count: int | None = None
    own: bool = False

    @property
    def area(self) -> float:
        """m²."""
        return self.length * self.width


@dataclass(frozen=True)
class Rect:
    """A rectangle on a sheet: its lower left corner and sizes, m."""

    x: float
    y: float
    length: float
    width: float

    @property
    def area(self) -> float:
        """m²."""
        return self.length * self.width


@dataclass(frozen=True)
class Placed:
    """An item where it lies; ``turned`` by a right angle."""

    item: Item
    at: Rect
    turned: bool


@dataclass(frozen=True)
class Cut:
    """A cut through a piece from edge to edge, in the order in which they are made: from one point to another, m."""

    number: int
    start: tuple[float, float]
    end: tuple[float, float]

    @property
    def length(self) -> float:
        """m."""
        return math.hypot(self.end[0] - self.start[0], self.end[1] - self.start[1])


@dataclass(frozen=True)
class Nest:
    """A sheet as it is cut up: what lies on it, its cuts in order, what is left over and worth keeping."""

    board: Board
    placed: tuple[Placed, ...]
    cuts: tuple[Cut, ...]
    offcuts: tuple[Rect, ...]

    @property
    def used(self) -> float:
        """Share of the sheet that becomes panels."""
        return sum(p.at.area for p in self.placed) / self.board.area

    @property
    def waste(self) -> float:
        """Share of the sheet that is neither a panel nor the largest piece that is left over."""
        kept = max((r.area for r in self.offcuts), default=0.0)
        return max(1.0 - self.used - kept / self.board.area, 0.0)


@dataclass(frozen=True)
class Nesting:
    """All sheets of a material, what fits on none, and how many layouts were tried to find it."""

    nests: tuple[Nest, ...] = ()
    unfit: tuple[Item, ...] = ()
    tried: int = 0

    @property
    def price(self) -> float:
        """Of the sheets that are bought, in any money."""
        return sum(n.board.price for n in self.nests)

    @property
    def bought(self) -> float:
        """Area in m² of the sheets that are bought."""
        return sum(n.board.area for n in self.nests if not n.board.own)

    @property
    def worth(self) -> tuple[int, float, float, float]:
        """Less is better: what fits on none, money, bought sheet in m², less the largest piece left over in m²."""
        kept = max((r.area for n in self.nests for r in n.offcuts), default=0.0)
        return len(self.unfit), self.price, self.bought, -kept

    @property
    def area(self) -> float:
        """Area in m² of what is cut."""
        return sum(p.at.area for n in self.nests for p in n.placed)

    @property
    def waste(self) -> float:
        """Share of all sheets that is no panel."""
        whole = sum(n.board.area for n in self.nests)
        return 1.0 - self.area / whole if whole else 0.0

    @property
    def bound(self) -> float:
        """Share that no layout of as few sheets of these sizes could waste less than: that of whole sheets by area."""
        whole = self.area
        sizes = sorted((n.board.area for n in self.nests), reverse=True)
        covered = 0.0
        for size in sizes:
            covered += size
            if covered >= whole - FINE:
                return 1.0 - whole / covered
        return self.waste
