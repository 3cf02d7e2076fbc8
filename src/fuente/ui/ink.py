"""Brushes and pens of a drawing's styles, by table: made once for each theme."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtGui import QBrush, QColor, QPen

from fuente.ui.theme import Theme

_SOLID, _DOTS, _DASHES = Qt.PenStyle.SolidLine, Qt.PenStyle.DotLine, Qt.PenStyle.DashLine
_Pattern = Qt.BrushStyle


class Fill(NamedTuple):
    """How an area is filled and edged: colours by their role in the theme."""

    color: str
    edge: str = ""
    width: float = 1.2
    pattern: Qt.BrushStyle = Qt.BrushStyle.SolidPattern
    alpha: int = 255
    under: str = ""  # a veil under a pattern
    veil: int = 70  # its alpha


class Stroke(NamedTuple):
    """How a line is drawn."""

    color: str
    width: float = 1.0
    dash: Qt.PenStyle = Qt.PenStyle.SolidLine
    cap: Qt.PenCapStyle = Qt.PenCapStyle.SquareCap


class Pipe(NamedTuple):
    """How a pipe is drawn: its wall, its inside, and whether water goes back in it."""

    edge: str
    body: str
    back: bool = False


FILLS: dict[str, Fill] = {
    "nappe": Fill("water_top"),
    "glass": Fill("line"),
    "baffle": Fill("line"),
    "acrylic": Fill("muted"),
    "plywood": Fill("muted", "line", 1.0, _Pattern.BDiagPattern, under="ground"),
    "teeth": Fill("muted", pattern=_Pattern.Dense3Pattern),
    "plate": Fill("muted", pattern=_Pattern.Dense3Pattern),
    "pad-coarse": Fill("line", "muted", 1.0, _Pattern.Dense7Pattern, under="ground"),
    "pad-medium": Fill("line", "muted", 1.0, _Pattern.Dense6Pattern, under="ground"),
    "pad-fine": Fill("line", "muted", 1.0, _Pattern.Dense5Pattern, under="ground"),
    "sock": Fill("ground", "muted", alpha=200),
    "gravel": Fill("gravel"),
    "media": Fill("living", "living", pattern=_Pattern.Dense6Pattern),
    "tube": Fill("ground", "muted"),
    "cavity": Fill("ground"),
    "shell": Fill("shell", "muted"),
    "muck": Fill("muck"),
    "bottle": Fill("muted", "muted"),
    "drum": Fill("muted", "muted"),  # thinner than a line at this scale
    "air-pump": Fill("ground", "air", 2.0),
    "lamp": Fill("ground", "air", 2.0),
    "heater": Fill("warm", "stop"),
    "bar-room": Fill("panel2", "muted", 0.8),
    "bar": Fill("surface"),
    "bar-least": Fill("stop"),
    "bar-most": Fill("pumped"),
    "pump": Fill("ground", "pumped", 2.0),
    "sheet": Fill("panel2", "line", 1.2),
    "cut-panel": Fill("water_top", "surface", 1.2, alpha=110),
    "cut-pad": Fill("gravel", "muted", 1.0, alpha=150),
    "offcut": Fill("ground", "muted", 1.0),
    "hole": Fill("ground", "pumped", 1.2),
    "number": Fill("pumped_text"),
}
OTHER_FILL = Fill("panel2", "line", 1.0)
STROKES: dict[str, Stroke] = {
    "surface": Stroke("surface", 2.0),
    "mark": Stroke("muted", 1.3, _DASHES),
    "mark-stop": Stroke("stop", 1.8, _DASHES),
    "plant": Stroke("living", 2.0),
    "air-line": Stroke("air", 1.7),
    "air-still": Stroke("air", 1.7, _DOTS),
    "brush": Stroke("living"),
    "screen": Stroke("line", 2.0, _DOTS),
    "score": Stroke("pumped", 2.0),
    "edge": Stroke("line", 1.6),
    "cross": Stroke("pumped", 1.0),
    "chosen": Stroke("accent", 2.2),
    "valve-handle": Stroke("pumped", 2.2, _SOLID, Qt.PenCapStyle.RoundCap),
}
OTHER_STROKE = Stroke("line")
PIPES: dict[str, Pipe] = {
    "pipe-fall": Pipe("surface", "fall"),
    "pipe-pumped": Pipe("pumped_text", "pumped"),
    "pipe-back": Pipe("pumped", "ground", back=True),
    "pipe-still": Pipe("muted", "panel2"),
    "air-line": Pipe("air", "air"),
    "air-still": Pipe("air", "ground"),
    "bottle": Pipe("muted", "muted"),
    "plate": Pipe("muted", "muted"),
}
OTHER_PIPE = Pipe("muted", "ground")
CIRCLES = {"carrier": "living", "bubble": "air", "ring": "muted"}
FILLED = frozenset({"number"})


def _color(theme: Theme, role: str, alpha: int = 255) -> QColor:
    made = QColor(getattr(theme, role))
    made.setAlpha(alpha)
    return made


@lru_cache(maxsize=256)
def fill_of(style: str, theme: Theme) -> tuple[tuple[QBrush, QPen], ...]:
    """Brushes and pens of an area, one over the other."""
    look = FILLS.get(style, OTHER_FILL)
    edge = QPen(_color(theme, look.edge), look.width) if look.edge else QPen(Qt.PenStyle.NoPen)
    brush = QBrush(_color(theme, look.color, look.alpha), look.pattern)
    if not look.under:
        return ((brush, edge),)
    return (QBrush(_color(theme, look.under, look.veil)), edge), (brush, QPen(Qt.PenStyle.NoPen))


@lru_cache(maxsize=256)
def stroke_of(style: str, theme: Theme) -> QPen:
    """The pen of a line."""
    look = STROKES.get(style, OTHER_STROKE)
    return QPen(_color(theme, look.color), look.width, look.dash, look.cap)


@lru_cache(maxsize=64)
def circle_of(style: str, theme: Theme) -> tuple[QBrush, QPen]:
    """The brush and the pen of a circle."""
    if style in FILLED:
        return QBrush(_color(theme, FILLS[style].color)), QPen(Qt.PenStyle.NoPen)
    return QBrush(_color(theme, "ground")), QPen(_color(theme, CIRCLES.get(style, "pumped")), 1.2)


@lru_cache(maxsize=256)
def pipe_pens(style: str, theme: Theme, width: float) -> tuple[QPen, ...]:
    """The pens of a pipe of a width in pixels, wall first."""
    look = PIPES.get(style, OTHER_PIPE)
    inside = max(width - 2.4, 1.0)
    flat, corner = Qt.PenCapStyle.FlatCap, Qt.PenJoinStyle.MiterJoin
    pens = [
        QPen(_color(theme, look.edge), width, _SOLID, flat, corner),
        QPen(_color(theme, look.body), inside, _SOLID, flat, corner),
    ]
    if look.back:
        dashed = QPen(_color(theme, look.edge), inside, Qt.PenStyle.CustomDashLine, flat)
        dashed.setDashPattern([1.2, 1.0])
        pens.append(dashed)
    return tuple(pens)
