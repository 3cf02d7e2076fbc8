"""A join between two filters in section."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.contract import Look
from fuente.devices.join.network import link_id
from fuente.devices.join.spec import JoinSpec
from fuente.devices.site import Site
from fuente.drawing.primitives import Drawing, Handle, Point, Polyline
from fuente.one_line import within


def ends_of(spec: JoinSpec, site: Site) -> tuple[Point, Point]:
    """Where it leaves and enters, m: at the walls that face each other, or over the chamber it falls into."""
    first, second = site.vessels[spec.first], site.vessels[spec.second]
    right = first.left <= second.left
    if spec.style == "level":
        leaves, enters = (first.right, second.left) if right else (first.left, second.right)
        inside = -first.wall - 0.02 if right else first.wall + 0.02
        return (leaves + inside, first.floor), (enters - inside, second.floor)
    return (first.port(spec.chamber).right - 0.08, first.floor), (second.port(spec.entry).middle, second.floor)


def sketch(spec: JoinSpec, site: Site, look: Look) -> Drawing:
    """From one wall at its height to the other; a fall goes over and down."""
    solution, path = look.solution, spec.path
    leaves, enters = ends_of(spec, site)
    wide = pipe_size(spec.pipe).outside * 1000
    x0, y0 = leaves[0] * 1000, (leaves[1] + spec.height) * 1000
    flow = solution.flow.get(link_id(spec), 0.0)
    style = "pipe-fall" if abs(flow) > 5e-7 else "pipe-dry"
    if spec.style == "level":
        points: tuple[Point, ...] = ((x0, y0), (enters[0] * 1000, y0))
    else:
        end = (enters[0] * 1000, (enters[1] + spec.release) * 1000)
        points = ((x0, y0), (x0, y0 - 60), (end[0], y0 - 60), end) if abs(x0 - end[0]) > 1 else ((x0, y0), end)
    grip = Handle(
        (x0, y0), "y", (*path, "height"), spec.height, 0.02, 2.0, within(spec.name), within(spec.name), owner=spec.id
    )
    return Drawing((Polyline(points, style, spec.id, wide),), (grip,))
