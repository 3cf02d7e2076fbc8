"""Writes a drawing as SVG at scale: one user unit is a millimetre of the thing."""

from __future__ import annotations

from xml.sax.saxutils import escape

from fuente.drawing.primitives import Circle, Dimension, Drawing, Label, Polygon, Polyline
from fuente.drawing.styles import LABELS, look
from fuente.units import UnitSystem, fill, shown

MARGIN = 90.0  # mm of the thing
TEXT = 8.0  # mm of the thing for a mm of letter on paper at 1:8


def svg(drawing: Drawing, title: str, units: UnitSystem) -> str:
    """SVG text. Its width and height are the true millimetres, so that a cutter or a plan is at 1:1."""
    x0, y0, x1, y1 = drawing.bounds()
    left, top = x0 - MARGIN, y1 + MARGIN
    width, height = x1 - x0 + 2 * MARGIN, y1 - y0 + 2 * MARGIN
    out = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        (
            f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:.1f}mm" height="{height:.1f}mm" '
            f'viewBox="0 0 {width:.1f} {height:.1f}">'
        ),
        f"<title>{escape(title)}</title>",
        f'<rect width="{width:.1f}" height="{height:.1f}" fill="#FFFFFF"/>',
    ]

    def at(point: tuple[float, float]) -> str:
        return f"{point[0] - left:.2f},{top - point[1]:.2f}"

    for shape in drawing.shapes:
        if isinstance(shape, Polygon):
            out.append(f'<polygon points="{" ".join(map(at, shape.points))}" {_paint(shape.style)}/>')
        elif isinstance(shape, Polyline):
            out.append(_line(shape, " ".join(map(at, shape.points))))
        elif isinstance(shape, Circle):
            x, y = shape.centre
            out.append(f'<circle cx="{x - left:.2f}" cy="{top - y:.2f}" r="{shape.radius:.2f}" {_paint(shape.style)}/>')
        elif isinstance(shape, Label):
            out.append(_text(shape, shape.at[0] - left, top - shape.at[1], units))
        elif isinstance(shape, Dimension):
            out.append(_dimension(shape, left, top, units))
    out.append("</svg>")
    return "\n".join(out) + "\n"


def _paint(style: str) -> str:
    paint = look(style)
    parts = [f'fill="{paint.fill or "none"}"']
    if paint.stroke:
        parts.append(f'stroke="{paint.stroke}" stroke-width="{paint.width * TEXT:.2f}"')
    if paint.dash:
        parts.append(f'stroke-dasharray="{" ".join(f"{d * TEXT:.1f}" for d in paint.dash)}"')
    return " ".join(parts)


def _line(shape: Polyline, points: str) -> str:
    paint = look(shape.style)
    if shape.width:
        colour = paint.fill or paint.stroke
        body = f'<polyline points="{points}" fill="none" stroke="{colour}" stroke-width="{shape.width:.1f}"/>'
        if paint.stroke:
            edge = (
                f'<polyline points="{points}" fill="none" stroke="{paint.stroke}"'
                f' stroke-width="{shape.width + 3:.1f}"/>'
            )
            return edge + "\n" + body
        return body
    return f'<polyline points="{points}" {_paint(shape.style)}/>'


def _text(label: Label, x: float, y: float, units: UnitSystem) -> str:
    colour, size = LABELS.get(label.style, LABELS["label"])
    words = escape(fill(label.text, dict(label.values), units))
    anchor = {"left": "start", "middle": "middle", "right": "end"}[label.anchor]
    y -= label.side * 0.8 * size * TEXT
    turn = f' transform="rotate(-90 {x:.2f} {y:.2f})"' if label.rotated else ""
    return (
        f'<text x="{x:.2f}" y="{y:.2f}" font-family="Inter, sans-serif" font-size="{size * TEXT:.1f}" fill="{colour}" '
        f'text-anchor="{anchor}" dominant-baseline="middle"{turn}>{words}</text>'
    )


def _dimension(shape: Dimension, left: float, top: float, units: UnitSystem) -> str:
    words = escape(shown(shape.value, "length", units))
    if shape.level:
        y = top - max(shape.start[1], shape.end[1]) - shape.aside
        x0, x1 = sorted((shape.start[0] - left, shape.end[0] - left))
        return (
            f'<path d="M{x0:.1f} {y - 8:.1f}v16M{x1:.1f} {y - 8:.1f}v16M{x0:.1f} {y:.1f}H{x1:.1f}" stroke="#5C6B75" '
            'stroke-width="1.6" fill="none"/>'
            f'<text x="{(x0 + x1) / 2:.1f}" y="{y + 18:.1f}" font-family="Inter, sans-serif" font-size="18" '
            f'fill="#46555F" text-anchor="middle" dominant-baseline="middle">{words}</text>'
        )
    x = max(shape.start[0], shape.end[0]) + shape.aside - left
    y0, y1 = top - shape.start[1], top - shape.end[1]
    return (
        f'<path d="M{x - 8:.1f} {y0:.1f}h16M{x - 8:.1f} {y1:.1f}h16M{x:.1f} {y0:.1f}V{y1:.1f}" stroke="#5C6B75" '
        'stroke-width="1.6" fill="none"/>'
        f'<text x="{x + 8:.1f}" y="{(y0 + y1) / 2:.1f}" font-family="Inter, sans-serif" font-size="18" fill="#46555F" '
        f'dominant-baseline="middle">{words}</text>'
    )
