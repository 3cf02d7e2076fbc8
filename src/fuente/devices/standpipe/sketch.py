"""A standpipe in its tank, and down to where it ends."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.base import Basin
from fuente.devices.contract import Look
from fuente.devices.site import Site
from fuente.devices.standpipe.network import end_of, link_id
from fuente.devices.standpipe.spec import StandpipeSpec
from fuente.drawing.primitives import Drawing, Handle, Point, Polyline

FROM_WALL = 0.05  # m from the tank's left wall to its axis


def foot(tank: Basin, offset: float) -> float:
    """x in m of its axis."""
    return offset + tank.thickness + FROM_WALL


def sketch(spec: StandpipeSpec, site: Site, look: Look) -> Drawing:
    """What stands in its tank, and behind everything the pipe down past the tanks below; pipes of other rows stand
    apart.
    """
    tank, solution, path = site.tank, look.solution, spec.path
    offset, end = tank.offset, end_of(spec, site)
    rows = sorted({t.stand for t in site.homes.values()})
    shift, handles = 0.035 * rows.index(tank.stand), look.chosen(tank.id)
    x = (foot(tank, offset) + (0.045 if spec.emergency else 0.0)) * 1000
    mouth = (tank.floor + spec.mouth) * 1000
    wide = pipe_size(spec.pipe).outside * 1000
    flow = solution.flow.get(link_id(spec), 0.0)
    style = "pipe-fall" if flow > 5e-7 else "pipe-dry"
    low = (tank.floor - 0.02) * 1000
    points: tuple[Point, ...] = ((x, mouth), (x, low))
    back = x + shift * 1000
    down = Polyline(((x, low), (back, low), (back, end * 1000)), style, spec.tank, wide * 0.6)
    up = Polyline(points, style, spec.tank, wide)
    grips: tuple[Handle, ...] = ()
    if handles:
        grips = (
            Handle(
                (x, mouth),
                "y",
                (*path, "mouth"),
                spec.mouth,
                0.02,
                tank.inner_height - 0.005,
                f"drain mouth of {tank.name}",
                f"drain mouth of {tank.name}",
                owner=spec.tank,
            ),
        )
    return Drawing((up,), grips, (down,))
