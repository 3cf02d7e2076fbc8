"""Pieces of pipe, tube and profile out of the lengths that are sold, leftovers first."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from fuente.errors import EntryError
from fuente.halting import step

FINE = 1e-9  # m
_NODES = 20_000  # of the exact search, before the quick answer has to do


@dataclass(frozen=True)
class Bar:
    """One length as it is cut, m: its pieces in order, by key and length; ``own`` is a leftover of the builder's."""

    length: float
    pieces: tuple[tuple[str, float], ...]
    kerf: float
    own: bool = False

    @property
    def rest(self) -> float:
        """What is left over, m; the last cut takes its kerf too, unless it ends there."""
        used = sum(length for _, length in self.pieces)
        return max(self.length - used - self.kerf * len(self.pieces), 0.0)


@dataclass(frozen=True)
class Lengths:
    """All lengths of one pipe, and what is longer than any."""

    bars: tuple[Bar, ...] = ()
    unfit: tuple[tuple[str, float], ...] = ()

    @property
    def bought(self) -> int:
        """Lengths to buy."""
        return sum(not bar.own for bar in self.bars)


def cut_lengths(
    pieces: Sequence[tuple[str, float]], sold: float, leftovers: Sequence[float] = (), kerf: float = 0.002
) -> Lengths:
    """As few bought lengths as possible, all in m: leftovers take what fits them best, the rest is packed; fewest by
    a bounded exact search, else by first fit of the longest first (at most 11/9 of the fewest, Johnson 1973).
    """
    if sold <= 0 or kerf < 0 or any(length <= 0 for _, length in pieces):
        raise EntryError("Lengths are more than nothing.")
    rest = sorted(pieces, key=lambda p: -p[1])
    bars: list[Bar] = []
    for own in sorted(leftovers):
        taken = _fullest(rest, own, kerf)
        if taken:
            bars.append(Bar(own, tuple(taken), kerf, True))
            for piece in taken:
                rest.remove(piece)
    unfit = tuple(p for p in rest if p[1] > sold + FINE)
    rest = [p for p in rest if p[1] <= sold + FINE]
    packed = _packed(rest, sold, kerf)
    bars += [Bar(sold, tuple(bar), kerf) for bar in packed]
    return Lengths(tuple(bars), unfit)


def _needs(pieces: Sequence[tuple[str, float]], kerf: float) -> float:
    return sum(length for _, length in pieces) + kerf * max(len(pieces) - 1, 0)


def _fullest(pieces: list[tuple[str, float]], room: float, kerf: float) -> list[tuple[str, float]]:
    """The pieces that fill a leftover best: sums by whole millimetres."""
    reach: dict[int, list[tuple[str, float]]] = {0: []}
    for piece in pieces:
        step()
        for taken in list(reach.values()):
            more = [*taken, piece]
            needs = _needs(more, kerf)
            key = round(needs * 1000)
            if needs <= room + FINE and key not in reach and len(reach) < 20_000:
                reach[key] = more
    return reach[max(reach)]


def _packed(pieces: list[tuple[str, float]], sold: float, kerf: float) -> list[list[tuple[str, float]]]:
    """Bins of a length, few of them."""
    best = _first_fit(pieces, sold, kerf)
    least = math.ceil((sum(p[1] for p in pieces) + kerf * len(pieces)) / (sold + kerf) - FINE)
    nodes = 0

    def deeper(at: int, bins: list[list[tuple[str, float]]]) -> None:
        nonlocal best, nodes
        nodes += 1
        if nodes > _NODES or len(bins) >= len(best) or len(best) <= least:
            return
        if at == len(pieces):
            best = [list(b) for b in bins]
            return
        seen = set()
        for k in range(len(bins)):
            needs = round(_needs(bins[k], kerf), 6)
            if needs in seen or _needs([*bins[k], pieces[at]], kerf) > sold + FINE:
                continue
            seen.add(needs)
            bins[k].append(pieces[at])
            deeper(at + 1, bins)
            bins[k].pop()
        bins.append([pieces[at]])
        deeper(at + 1, bins)
        bins.pop()

    if pieces and len(pieces) < 60:
        deeper(0, [])
    return best


def _first_fit(pieces: list[tuple[str, float]], sold: float, kerf: float) -> list[list[tuple[str, float]]]:
    bins: list[list[tuple[str, float]]] = []
    for piece in pieces:
        home = next((b for b in bins if _needs([*b, piece], kerf) <= sold + FINE), None)
        if home is None:
            bins.append([piece])
        else:
            home.append(piece)
    return bins
