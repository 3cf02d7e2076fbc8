"""Where the words of a drawing stand: never on each other, never over a handle, never past the edge.

By rank, what matters most first. Each has its home, places near it, and shorter words; what then finds no room is left
out, and shown where the pointer rests on its home.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QFont, QFontMetricsF

from fuente.drawing.primitives import Dimension, Drawing, Label, Polyline
from fuente.ui import theme
from fuente.units import UnitSystem, fill, shown

Frame = tuple[float, float, float]  # px/mm, and the px of the drawing's origin from the left and from the top
HANDLE = 5.0  # px around a handle that stay clear where they can

# Rank, size, weight and tone of each style.
_LOOKS = {
    "label-stop": (0, 11, theme.BOLD, "stop"),
    "label-number": (1, 11, theme.BOLD, "ground"),
    "dimension": (2, 11, theme.MEDIUM, "ink"),
    "label-mark": (3, 11, theme.MEDIUM, "ink"),
    "label-strong": (4, 13, theme.BOLD, "fall_text"),
    "label-pumped": (5, 12, theme.BOLD, "pumped_text"),
    "label-fall": (5, 12, theme.BOLD, "fall_text"),
    "label-air": (5, 12, theme.BOLD, "air"),
    "label-share": (6, 12, theme.MEDIUM, "ink"),
    "label-under": (7, 12, theme.MEDIUM, "muted"),
    "label-small": (8, 11, theme.MEDIUM, "ink"),
    "label-tag": (9, 11, theme.MEDIUM, "ink"),
}
_USUAL = (7, 12, theme.MEDIUM, "ink")
_CALM = ("label-number", "dimension", "label-under", "label-share")  # elsewhere they would name something else


@dataclass(frozen=True)
class Words:
    """Words with their place: ``start`` of their base line in px, what they cover, and how they look."""

    text: str
    start: QPointF
    box: QRectF
    font: QFont
    tone: str
    rotated: bool = False
    grounded: bool = False  # on a ground of its own
    of: Label | Dimension | None = None


@dataclass(frozen=True)
class Left:
    """Words that found no room: where they would stand, and what they say."""

    box: QRectF
    text: str


class _Taken:
    """Boxes that are covered."""

    def __init__(self, size: int, given: Sequence[QRectF] = ()):
        self._boxes = np.zeros((size + len(given), 4))
        self._count = 0
        for box in given:
            self.add(box)

    def add(self, box: QRectF) -> None:
        """Cover it."""
        self._boxes[self._count] = box.left(), box.top(), box.right(), box.bottom()
        self._count += 1

    def meets(self, box: QRectF) -> bool:
        """Whether any covers part of it; a pixel of leading is not counted."""
        b = self._boxes[: self._count]
        return bool(
            (
                (b[:, 0] < box.right() - 1)
                & (b[:, 2] > box.left() + 1)
                & (b[:, 1] < box.bottom() - 1)
                & (b[:, 3] > box.top() + 1)
            ).any()
        )


def placed(
    drawing: Drawing, frame: Frame, units: UnitSystem, room: QRectF, blocked: Sequence[QRectF] = ()
) -> tuple[list[Words], list[Left]]:
    """The words of a drawing in a room, px; ``blocked`` is covered already. What stands outside the room stays."""
    scale, left, base = frame
    rows = [s for s in drawing.shapes if isinstance(s, Label | Dimension)]
    rows.sort(key=lambda s: _LOOKS.get(_style(s), _USUAL)[0])
    taken = _Taken(len(rows), blocked)
    dots = [_about(left + h.at[0] * scale, base - h.at[1] * scale) for h in drawing.handles]
    handles, crossed = _Taken(0, dots), _Taken(0, [*dots, *_pipes(drawing, frame)])
    found: list[Words] = []
    lost: list[Left] = []
    for shape in rows:
        homes = list(_dimension(shape, frame, units) if isinstance(shape, Dimension) else _label(shape, frame, units))
        if not homes:
            continue
        if not room.intersects(homes[0].box):
            found.append(homes[0])  # on another tile of the paper, or not looked at
            continue
        made = _first_free(homes, room, taken, crossed if _stands_aside(shape) else handles)
        if made is None:
            lost.append(Left(homes[0].box, homes[0].text))
        else:
            taken.add(made.box)
            found.append(made)
    return found, lost


def _stands_aside(shape: Label | Dimension) -> bool:
    """Whether words are not to stand across a pipe where they need not: measures, names of things, headings."""
    return isinstance(shape, Dimension) or shape.style == "label-strong" or _heads(shape)


def _heads(shape: Label | Dimension | None) -> bool:
    return isinstance(shape, Label) and shape.style == "label-under" and shape.anchor == "left"


def _pipes(drawing: Drawing, frame: Frame) -> Iterator[QRectF]:
    """What pipes cover, piece by piece, px."""
    scale, left, base = frame
    for shape in drawing.shapes:
        if isinstance(shape, Polyline) and shape.width > 0:
            half = shape.width / 2 * scale
            for (x0, y0), (x1, y1) in itertools.pairwise(shape.points):
                a, b = QPointF(left + x0 * scale, base - y0 * scale), QPointF(left + x1 * scale, base - y1 * scale)
                yield QRectF(a, b).normalized().adjusted(-half, -half, half, half)


def _first_free(homes: list[Words], room: QRectF, taken: _Taken, handles: _Taken) -> Words | None:
    """Clear of what is taken, and of ``handles`` where there is a place that is."""
    spare: Words | None = None
    for home in homes:
        for moved in _near(home, room):
            if taken.meets(moved.box):
                continue
            if not handles.meets(moved.box):
                return moved
            spare = spare or moved
    return spare


def _near(home: Words, room: QRectF) -> Iterator[Words]:
    """Its home, and places near it, all within the room."""
    style = _style(home.of)
    wide, tall = home.box.width(), home.box.height()
    steps: list[tuple[float, float]] = [(0.0, 0.0)]
    if home.rotated:
        steps += [(0.0, s * d) for d in (0.5, 1.0, 1.5) for s in (-wide, wide)]
    elif style == "dimension":
        steps += [(s * d, 0.0) for d in (0.6, 1.2, 1.8) for s in (-wide, wide)]
    elif _heads(home.of):
        steps += [(d * wide, 0.0) for d in (0.15, 0.3, 0.5)]
    elif style not in _CALM:
        steps += [(0.0, s * d) for d in (0.55, 1.0, 1.6, 2.2) for s in (-tall, tall)]
        steps += [(s * d, 0.0) for d in (0.35, 0.7) for s in (-wide, wide)]
    for dx, dy in steps:
        box = home.box.translated(dx, dy)
        # What would pass the edge stands at it.
        dx += max(room.left() - box.left(), 0.0) - max(box.right() - room.right(), 0.0)
        dy += max(room.top() - box.top(), 0.0) - max(box.bottom() - room.bottom(), 0.0)
        box = home.box.translated(dx, dy)
        if room.contains(box):
            # Pushed from its home it may come over other things: it brings its ground along.
            grounded = home.grounded or bool((dx or dy) and style != "dimension")
            yield Words(
                home.text,
                home.start + QPointF(dx, dy),
                box,
                home.font,
                home.tone,
                home.rotated,
                grounded,
                home.of,
            )


def _style(shape: Label | Dimension | None) -> str:
    return shape.style if isinstance(shape, Label) else "dimension"


def _about(x: float, y: float) -> QRectF:
    return QRectF(x - HANDLE, y - HANDLE, 2 * HANDLE, 2 * HANDLE)


def _label(label: Label, frame: Frame, units: UnitSystem) -> Iterator[Words]:
    """Its words at home, and then shorter ones where it has such."""
    scale, left, base = frame
    t = theme.current()
    _, size, weight, tone = _LOOKS.get(label.style, _USUAL)
    if label.style == "label-strong" and t.name == "dark":
        tone = "ink"
    font = theme.font(size, weight)
    fm = QFontMetricsF(font)
    if label.tall and fm.ascent() > label.tall * scale:
        return
    at = QPointF(left + label.at[0] * scale, base - label.at[1] * scale)
    room = label.room * scale
    values = dict(label.values)
    texts = [fill(label.text, values, units)]
    if label.style == "label-share":
        if fm.horizontalAdvance("000.0" + texts[0][-4:]) > room:  # all of a rack alike: the caption says the unit
            font = theme.font(11, theme.MEDIUM)
            fm = QFontMetricsF(font)
            texts = [fill(label.text.replace(":flow}", ":flow:bare}"), values, units)]
            if fm.horizontalAdvance(texts[0]) > room + theme.px(4):
                return
    elif label.style == "label-under":
        first = texts[0].split()[0] if texts[0].split() else ""
        if label.room and fm.horizontalAdvance(texts[0]) > room + theme.px(2):
            texts = [first] if fm.horizontalAdvance(first) <= room + 6 else []  # the station list names it
        elif first != texts[0]:
            texts.append(first)
    elif label.rotated:
        if label.room and fm.horizontalAdvance(texts[0]) > room:  # past its pipe it would stand in what is above it
            texts = [texts[0].split(", ")[0]]
        elif ", " in texts[0]:
            texts.append(texts[0].split(", ")[0])
    elif label.room:
        chip = 6 if label.style == "label-tag" else 0  # a tag's own ground is wider than its words
        spare = 6 if label.style == "label-fall" and label.side else 2
        gives_way = label.style in ("label-small", "label-tag", "label-strong") or spare == 6
        if gives_way and fm.horizontalAdvance(texts[0]) + chip > room + theme.px(spare):
            return
    for words in texts:
        if words:
            yield _at_home(label, words, at, font, fm, tone)


def _up(fm: QFontMetricsF) -> float:
    """How far letters reach over their base line, px; a font's ascent counts accents that no word here has."""
    return 1.1 * fm.capHeight()


def _at_home(label: Label, words: str, at: QPointF, font: QFont, fm: QFontMetricsF, tone: str) -> Words:
    width, height = fm.horizontalAdvance(words), fm.height()
    if label.rotated:
        start = QPointF(at.x() + height * 0.75, at.y() + width / 2)
        box = QRectF(start.x() - _up(fm), at.y() - width / 2, _up(fm) + fm.descent(), width)
        return Words(words, start, box, font, tone, True, False, label)
    x = at.x() - {"left": 0.0, "middle": width / 2, "right": width}[label.anchor]
    y = at.y() + {0: height * 0.32, 1: -fm.descent() - 2, -1: fm.ascent() + 2}[label.side]
    box = QRectF(x, y - _up(fm), width, _up(fm) + fm.descent())
    tag = label.style == "label-tag"
    if tag:
        box = QRectF(x - 3, at.y() - height * 0.5, width + 6, height)
    return Words(words, QPointF(x, y), box, font, tone, False, tag, label)


def _dimension(shape: Dimension, frame: Frame, units: UnitSystem) -> Iterator[Words]:
    """The number beside a dimension's line, on the side away from the thing."""
    scale, left, base = frame
    a = QPointF(left + shape.start[0] * scale, base - shape.start[1] * scale)
    b = QPointF(left + shape.end[0] * scale, base - shape.end[1] * scale)
    font = theme.font(11, theme.MEDIUM)
    fm = QFontMetricsF(font)
    words = shown(shape.value, "length", units)
    width = fm.horizontalAdvance(words)
    if shape.level:
        y = min(a.y(), b.y()) - shape.aside * scale
        line = y + fm.ascent() + 3 if shape.aside < 0 else y - fm.descent() - 3
        start = QPointF((a.x() + b.x() - width) / 2, line)
        box = QRectF(start.x(), line - _up(fm), width, _up(fm) + fm.descent())
        yield Words(words, start, box, font, "muted", False, False, shape)
        return
    x = max(a.x(), b.x()) + shape.aside * scale
    middle = (a.y() + b.y()) / 2
    aside = -fm.descent() - 2 if shape.aside < 0 else fm.height()
    start = QPointF(x + aside, middle + width / 2)
    box = QRectF(start.x() - _up(fm), middle - width / 2, _up(fm) + fm.descent(), width)
    yield Words(words, start, box, font, "ink" if shape.path else "muted", True, False, shape)
