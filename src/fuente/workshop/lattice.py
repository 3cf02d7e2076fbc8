"""Equal pads out of a sheet: how many, and how they lie.

Rows one way, rows the other way, and both mixed by cuts from edge to edge, which a recursion over all places where a
cut can be of use finds exactly; beyond that five blocks round a middle, which a knife can cut and a saw cannot. Widths
are such that whole pads fill them: no other cut can give more (Herz 1972).
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cache, lru_cache

from fuente.errors import EntryError
from fuente.workshop.sheet_cuts import Rect

FINE = 1e-9  # m
_MOST = 2000  # pads of a sheet
_EXACT = 200  # pads up to which every place of a cut is tried
_FIVE = 150  # pads up to which five blocks are looked through


@dataclass(frozen=True)
class Pads:
    """Equal pads on one sheet, m."""

    sheet: tuple[float, float]
    pad: tuple[float, float]
    laid: tuple[Rect, ...]

    @property
    def count(self) -> int:
        """How many."""
        return len(self.laid)

    @property
    def waste(self) -> float:
        """Share of the sheet that is no pad."""
        return 1.0 - self.count * self.pad[0] * self.pad[1] / (self.sheet[0] * self.sheet[1])

    @property
    def bound(self) -> int:
        """What area alone would allow."""
        return int(self.sheet[0] * self.sheet[1] / (self.pad[0] * self.pad[1]) + 1e-9)


def pads_from(
    length: float, width: float, pad_length: float, pad_width: float, kerf: float = 0.0, turns: bool = True
) -> Pads:
    """The most pads out of a sheet; all in m. ``kerf`` is lost between two pads; ``turns`` lets them lie either way.

    Exact among layouts by cuts from edge to edge, up to some 200 pads; five blocks round a middle besides, up to 150.

    >>> pads_from(1.0, 0.5, 0.38, 0.24).count  # two columns of two, and one turned beside them
    5
    """
    if min(length, width, pad_length, pad_width) <= 0 or kerf < 0:
        raise EntryError("Sheets and pads need a length and a width.")
    if (length + kerf) * (width + kerf) / ((pad_length + kerf) * (pad_width + kerf)) > _MOST:
        raise EntryError(f"More than {_MOST} pads from one sheet are not counted one by one; take a smaller sheet.")
    # With a kerf on two sides of every pad and of the sheet, pads lie edge to edge.
    scale = 1e6  # whole micrometres, so that equal sizes are equal
    a, b = round((pad_length + kerf) * scale), round((pad_width + kerf) * scale)
    whole = round((length + kerf) * scale), round((width + kerf) * scale)
    laid = _Sheet(a, b, turns, whole[0] * whole[1] > _EXACT * a * b).laid(*whole)
    rects = tuple(Rect(x / scale, y / scale, u / scale - kerf, v / scale - kerf) for x, y, u, v in laid)
    return Pads((length, width), (pad_length, pad_width), rects)


_Laid = tuple[int, int, int, int]


class _Sheet:
    """Pads of a by b in whole micrometres."""

    def __init__(self, a: int, b: int, turns: bool, many: bool):
        self.a, self.b, self.turns, self.many = a, b, turns, many
        self.most = lru_cache(maxsize=None)(self._most)

    def laid(self, length: int, width: int) -> Iterator[_Laid]:
        """The best layout: pads by their corner and sizes."""
        count, _ = self.most(*self._normal(length, width))
        if count <= _FIVE and count < length * width // (self.a * self.b) and self.turns:
            five = self._five(length, width, count)
            if five is not None:
                yield from five
                return
        yield from self._built(length, width, 0, 0)

    def _normal(self, length: int, width: int) -> tuple[int, int]:
        """Sizes down to what whole pads fill."""
        xs, ys = self._points(length), self._points(width, upright=True)
        return xs[-1], ys[-1]

    @cache  # noqa: B019 - lives as long as one call of pads_from
    def _points(self, size: int, upright: bool = False) -> tuple[int, ...]:
        """All sums of pad sides up to a size, 0 among them."""
        if not self.turns:
            side = self.b if upright else self.a
            return tuple(range(0, size + 1, side))
        return tuple(
            sorted(
                {
                    i * self.a + j * self.b
                    for i in range(size // self.a + 1)
                    for j in range((size - i * self.a) // self.b + 1)
                }
            )
        )

    def _most(self, length: int, width: int) -> tuple[int, tuple[str, int]]:
        """Most pads by cuts from edge to edge, and the first of them."""
        best, how = 0, ("", 0)
        ways = ((self.a, self.b), (self.b, self.a)) if self.turns else ((self.a, self.b),)
        for u, v in ways:
            count = (length // u) * (width // v)
            if count > best:
                best, how = count, ("rows", u)
        bound = length * width // (self.a * self.b)
        for upright, size in ((True, length), (False, width)):
            for at in self._places(size // 2, not upright):
                if best >= bound:
                    return best, how
                if at == 0:
                    continue
                first = (at, width) if upright else (length, at)
                second = (length - at, width) if upright else (length, width - at)
                count = self.most(*self._normal(*first))[0] + self.most(*self._normal(*second))[0]
                if count > best:
                    best, how = count, ("upright" if upright else "level", at)
        return best, how

    def _places(self, size: int, upright: bool) -> Sequence[int]:
        """Where a cut may help: after any whole pads; of very many only after pads that lie one way."""
        if not self.many or not self.turns:
            return self._points(size, upright)
        return sorted({*range(0, size + 1, self.a), *range(0, size + 1, self.b)})

    def _built(self, length: int, width: int, x: int, y: int) -> Iterator[_Laid]:
        length, width = self._normal(length, width)
        count, (kind, at) = self.most(length, width)
        if not count:
            return
        if kind == "rows":
            v = self.b if at == self.a else self.a
            for i, j in itertools.product(range(length // at), range(width // v)):
                yield x + i * at, y + j * v, at, v
        elif kind == "upright":
            yield from self._built(at, width, x, y)
            yield from self._built(length - at, width, x + at, y)
        else:
            yield from self._built(length, at, x, y)
            yield from self._built(length, width - at, x, y + at)

    def _five(self, length: int, width: int, count: int) -> list[_Laid] | None:
        """Four blocks round a fifth where that holds more; each of them by cuts from edge to edge."""
        xs, ys = self._points(length), self._points(width, upright=True)
        if len(xs) ** 2 * len(ys) ** 2 > 4e5:
            return None
        best: tuple[int, int, int, int] | None = None
        for x1, x2 in itertools.combinations(xs[1:], 2):
            for y1, y2 in itertools.combinations(ys[1:], 2):
                sizes = ((x1, y2), (length - x1, y1), (x2 - x1, y2 - y1), (x2, width - y2), (length - x2, width - y1))
                if sum(u * v // (self.a * self.b) for u, v in sizes) <= count:
                    continue
                found = sum(self.most(*self._normal(u, v))[0] for u, v in sizes)
                if found > count:
                    count, best = found, (x1, x2, y1, y2)
        if best is None:
            return None
        x1, x2, y1, y2 = best
        blocks = (
            (x1, y2, 0, 0),
            (length - x1, y1, x1, 0),
            (x2 - x1, y2 - y1, x1, y1),
            (x2, width - y2, 0, y2),
            (length - x2, width - y1, x2, y1),
        )
        return [laid for block in blocks for laid in self._built(*block)]


def sheets_for(count: int, pads: Pads) -> int:
    """Sheets for so many pads. Raises EntryError where a pad is larger than the sheet."""
    if not pads.count:
        raise EntryError("The pad is larger than the sheet.")
    return math.ceil(count / pads.count)
