"""A sheet as a tree of cuts: pieces, and blocks of what shares a side."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from fuente.workshop.sheet_cuts import FINE, Item


@dataclass(frozen=True, eq=False)
class Block:
    """An item, or two blocks side by side with a cut between them: beside each other where ``upright``, else one over
    the other; each turned by a right angle or not.
    """

    length: float
    width: float
    turns: bool
    item: Item | None = None
    upright: bool = False
    parts: tuple[tuple[Block, bool], ...] = ()

    def sides(self, turned: bool) -> tuple[float, float]:
        """Length and width as it lies."""
        return (self.width, self.length) if turned else (self.length, self.width)


class Piece:
    """A node of a sheet's tree: free, filled by an item, or cut in two."""

    __slots__ = ("cut", "item", "length", "parts", "width", "x", "y")

    def __init__(self, x: float, y: float, length: float, width: float):
        self.x, self.y, self.length, self.width = x, y, length, width
        self.item: tuple[Block, bool] | None = None
        self.cut: tuple[bool, float] | None = None  # upright, where along the piece
        self.parts: tuple[Piece, Piece | None] | None = None

    def split(self, upright: bool, at: float, kerf: float) -> tuple[Piece, Piece | None]:
        """Cut it; the part beyond the kerf may be nothing."""
        if upright:
            rest = self.length - at - kerf
            first = Piece(self.x, self.y, at, self.width)
            second = Piece(self.x + at + kerf, self.y, rest, self.width) if rest > FINE else None
        else:
            rest = self.width - at - kerf
            first = Piece(self.x, self.y, self.length, at)
            second = Piece(self.x, self.y + at + kerf, self.length, rest) if rest > FINE else None
        self.cut, self.parts = (upright, at), (first, second)
        return first, second


def items_of(block: Block) -> Iterator[Item]:
    if block.item is not None:
        yield block.item
    for part, _ in block.parts:
        yield from items_of(part)


def down(piece: Piece, kerf: float) -> Iterator[Piece]:
    """A tree from the first cut on: a piece, then its parts; blocks are parted as they are met."""
    if piece.item is not None and piece.item[0].item is None:
        _part(piece, kerf)
    yield piece
    for part in piece.parts or ():
        if part is not None:
            yield from down(part, kerf)


def _part(piece: Piece, kerf: float) -> None:
    """Cut a block into its two, and trim the smaller of them to its size."""
    assert piece.item is not None
    block, turned = piece.item
    piece.item = None
    upright = block.upright != turned
    halves = [(part, turn != turned) for part, turn in block.parts]
    first, second = piece.split(upright, halves[0][0].sides(halves[0][1])[0 if upright else 1], kerf)
    assert second is not None
    for half, (part, turn) in zip((first, second), halves, strict=True):
        across = part.sides(turn)[1 if upright else 0]
        if (half.width if upright else half.length) - across > FINE:
            half, _ = half.split(not upright, across, kerf)
        half.item = (part, turn)
