"""Drawing primitives. Millimetres; x to the right, y up. Styles are roles; a writer or a theme gives them colours."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import cached_property

Path = tuple[str | int, ...]  # of a value in the document
Point = tuple[float, float]


@dataclass(frozen=True)
class Polyline:
    """A line through points; with a width in mm it is a pipe to scale, without one a thin line."""

    points: tuple[Point, ...]
    style: str
    owner: str = ""
    width: float = 0.0


@dataclass(frozen=True)
class Polygon:
    """A filled shape; of water, ``cell`` is the one that it stands for, where its owner has several."""

    points: tuple[Point, ...]
    style: str
    owner: str = ""
    cell: str = ""


@dataclass(frozen=True)
class Circle:
    """A circle, filled."""

    centre: Point
    radius: float
    style: str
    owner: str = ""


@dataclass(frozen=True)
class Label:
    """Words at a point. ``anchor`` is left, middle or right; ``rotated`` runs upwards.

    Slots such as {level:level} are filled from ``values`` in the shown units.
    """

    at: Point
    text: str
    style: str = "label"
    anchor: str = "middle"
    rotated: bool = False
    values: tuple[tuple[str, float], ...] = ()
    owner: str = ""
    room: float = 0.0  # mm of width within which it should stay, 0 for any
    tall: float = 0.0  # mm of height likewise
    side: int = 0  # 1 stands above its point, clear of it at any scale, −1 under it, 0 on it


@dataclass(frozen=True)
class Dimension:
    """A measured distance between two points, drawn aside; typing on it edits the path. Upright, unless its two points
    stand level.
    """

    start: Point
    end: Point
    value: float  # m
    path: Path | None = None
    aside: float = 0.0  # mm
    owner: str = ""

    @property
    def level(self) -> bool:
        """Whether it runs level."""
        return abs(self.start[1] - self.end[1]) < 1e-9 < abs(self.start[0] - self.end[0])


@dataclass(frozen=True)
class Handle:
    """A point that the builder can drag along an axis ("x" or "y") to edit a value in m at a path.

    value = origin-free: moving by d mm changes the value by ``gain`` · d / 1000; low and high are limits in m.
    ``partner`` is a path that takes the opposite change, as the next chamber's width does.
    """

    at: Point
    axis: str
    path: Path
    value: float
    low: float
    high: float
    name: str  # what it is: "crest of the moving bed"
    verb: str  # "Raise crest" names the edit
    gain: float = 1.0
    partner: tuple[Path, float] | None = None
    owner: str = ""
    quantity: str = "length"
    quiet: bool = False  # drawn by its own shape: it needs no dot, until the pointer is near


Primitive = Polyline | Polygon | Circle | Label | Dimension


@dataclass(frozen=True)
class Drawing:
    """Primitives from back to front, and the handles on them; ``behind`` is what lies behind all that it is joined
    with.
    """

    shapes: tuple[Primitive, ...]
    handles: tuple[Handle, ...] = ()
    behind: tuple[Primitive, ...] = ()

    def __add__(self, other: Drawing) -> Drawing:
        return Drawing(self.shapes + other.shapes, self.handles + other.handles, self.behind + other.behind)

    def flat(self) -> Drawing:
        """What lies behind put before the rest."""
        return Drawing(self.behind + self.shapes, self.handles) if self.behind else self

    def moved(self, dx: float) -> Drawing:
        """The same drawing, dx mm further right."""
        if not dx:
            return self
        return Drawing(
            tuple(_moved(shape, dx) for shape in self.shapes),
            tuple(replace(h, at=(h.at[0] + dx, h.at[1])) for h in self.handles),
            tuple(_moved(shape, dx) for shape in self.behind),
        )

    def bounds(self) -> tuple[float, float, float, float]:
        """Left, bottom, right, top in mm of everything but labels; of nothing a point."""
        return self._bounds

    @cached_property
    def _bounds(self) -> tuple[float, float, float, float]:
        points = list(_points(self.shapes)) or [(0.0, 0.0)]
        xs = [p[0] for p in points]
        ys = [p[1] for p in points]
        return min(xs), min(ys), max(xs), max(ys)


def _moved(shape: Primitive, dx: float) -> Primitive:
    if isinstance(shape, Polyline | Polygon):
        return replace(shape, points=tuple((x + dx, y) for x, y in shape.points))
    if isinstance(shape, Circle):
        return replace(shape, centre=(shape.centre[0] + dx, shape.centre[1]))
    if isinstance(shape, Label):
        return replace(shape, at=(shape.at[0] + dx, shape.at[1]))
    return replace(shape, start=(shape.start[0] + dx, shape.start[1]), end=(shape.end[0] + dx, shape.end[1]))


def _points(shapes: Iterable[Primitive]) -> Iterable[Point]:
    for shape in shapes:
        if isinstance(shape, Polyline | Polygon):
            yield from shape.points
        elif isinstance(shape, Circle):
            (x, y), r = shape.centre, shape.radius
            yield x - r, y - r
            yield x + r, y + r
        elif isinstance(shape, Dimension):
            yield shape.start
            yield shape.end
            beyond = 1.45 * shape.aside  # with room for its figure
            yield (
                (shape.start[0], shape.start[1] + beyond) if shape.level else (shape.start[0] + beyond, shape.start[1])
            )


def box(x0: float, y0: float, x1: float, y1: float, style: str, owner: str = "", cell: str = "") -> Polygon:
    """An upright rectangle."""
    return Polygon(((x0, y0), (x1, y0), (x1, y1), (x0, y1)), style, owner, cell)
