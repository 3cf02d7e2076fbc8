"""A standpipe in its tank, and down to where it ends."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.base import Basin, Path
from fuente.devices.standpipe.network import link_id
from fuente.devices.standpipe.spec import StandpipeSpec
from fuente.drawing.primitives import Drawing, Handle, Point, Polyline
from fuente.network.model import Solution

FROM_WALL = 0.05  # m from the tank's left wall to its axis


def foot(tank: Basin, offset: float) -> float:
    """x in m of its axis."""
    return offset + tank.thickness + FROM_WALL


def sketch(
    spec: StandpipeSpec,
    tank: Basin,
    offset: float,
    solution: Solution,
    path: Path,
    end: float,
    shift: float,
    handles: bool,
) -> tuple[Drawing, Drawing]:
    """The pipe down behind the tanks below to elevation ``end`` m, and what stands in its tank; shift m sets pipes apart."""
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
    return Drawing((down,)), Drawing((up,), grips)
