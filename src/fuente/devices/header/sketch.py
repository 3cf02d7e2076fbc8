"""A header under its tanks, and its fall."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.contract import Look
from fuente.devices.header.network import link_id
from fuente.devices.header.spec import HeaderSpec
from fuente.devices.site import Site
from fuente.drawing.primitives import Drawing, Handle, Label, Polyline, Primitive


def sketch(spec: HeaderSpec, site: Site, look: Look) -> Drawing:
    """Along its length, low at the left, and down into its vessel."""
    solution, path = look.solution, spec.path
    into = site.vessels[spec.into]
    start = site.vessels[spec.id].left
    inlet = (into.left if into.passes_to else into.falls_at(spec.chamber), into.release(spec.release))
    x0, x1 = start * 1000, (start + spec.length) * 1000
    depth = spec.depth * 1000
    low = spec.low_end * 1000 + depth / 2
    high = low + spec.slope * spec.length * 1000
    flow = solution.flow.get(link_id(spec), 0.0)
    style = "pipe-fall" if flow > 5e-7 else "pipe-dry"
    turn = x0 - 40
    end = (inlet[0] * 1000, inlet[1] * 1000)
    down = pipe_size(spec.down).outside * 1000
    above = max(end[1] + 160, low - 200) if end[1] + 160 < low else low - 40
    shapes: list[Primitive] = [
        Polyline(((x0, low), (turn, low), (turn, above), (end[0], above), end), style, spec.id, down),
        Polyline(((turn, low), (x0, low), (x1, high)), style, spec.id, depth),
    ]
    fill = min(max(solution.level[spec.id] - spec.low_end, 0.0) / spec.depth, 1.0)
    words = "{flow:flow}, {fill:fraction} full"
    values = (("flow", flow), ("fill", fill))
    shapes.append(
        Label((x0 + 0.3 * (x1 - x0), low - depth / 2 - 40), words, "label-fall", values=values, owner=spec.id, tall=110)
    )
    name = spec.name[:1].lower() + spec.name[1:]
    grip = Handle((x0, low), "y", (*path, "low_end"), spec.low_end, 0.05, 9.0, name, name, owner=spec.id)
    return Drawing(tuple(shapes), (grip,))
