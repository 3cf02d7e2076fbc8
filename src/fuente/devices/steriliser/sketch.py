"""A steriliser beside its tank."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.pocket import flow_of
from fuente.devices.pocket_sketch import y_of
from fuente.devices.steriliser.spec import Steriliser
from fuente.drawing.primitives import Circle, Drawing, Handle, Label, Point, Polyline, Primitive, box
from fuente.one_line import within


def sketch(spec: Steriliser, site: Site, look: Look) -> Drawing:
    """Chamber with its lamp, pump in the tank, hoses over the rim."""
    x0, x1 = spec.offset * 1000, (spec.offset + spec.length) * 1000
    foot, tall, owner = spec.stand * 1000, spec.diameter * 1000, spec.id
    middle = foot + tall / 2
    flow = flow_of(spec, look.solution)
    live, back = ("pipe-pumped", "pipe-fall") if flow > 5e-7 else ("pipe-still", "pipe-dry")
    to, fro = _hoses(spec, site, x0, x1)
    wide, values = pipe_size(spec.hose).outside * 1000, (("q", flow),)
    shapes: list[Primitive] = [
        Polyline(to, live, owner, wide),
        Polyline(fro, back, owner, wide),
        Circle(to[0], 20.0, "pump", owner),
        box(x0, foot, x1, foot + tall, "water", owner),
        box(x0, foot - 3, x1, foot, "drum", owner),
        box(x0, foot + tall, x1, foot + tall + 3, "drum", owner),
        box(x0 + 12, middle - spec.sleeve * 500, x1 - 12, middle + spec.sleeve * 500, "lamp", owner),
        Label(((x0 + x1) / 2, foot - 10), "{q:flow}", "label-pumped", values=values, owner=owner, room=400, side=-1),
    ]
    name, where = f"length of {within(spec.name)}", (*spec.path, "length")
    grip = Handle((x1, middle), "x", where, spec.length, 0.1, 2.0, name, "steriliser", owner=owner)
    return Drawing(tuple(shapes), (grip,))


def _hoses(spec: Steriliser, site: Site, x0: float, x1: float) -> tuple[tuple[Point, ...], tuple[Point, ...]]:
    """From the pump over the rim to the lamp, and back; where it stands under the tank, down a lane beside it."""
    tank, rim = site.tank, site.tank.rim * 1000
    right = (x0 + x1) / 2 > (tank.offset + tank.length / 2) * 1000
    out = 1 if right else -1
    edge = (tank.offset + (tank.length - tank.thickness if right else tank.thickness)) * 1000
    top = (spec.stand + spec.diameter) * 1000
    middle = (spec.stand + spec.diameter / 2) * 1000
    a, b = (x0, x1) if right else (x1, x0)
    start = [(edge - out * 60, y_of(site, spec.intake)), (edge - out * 60, rim + 30)]
    end = [(edge - out * 110, rim + 62), (edge - out * 110, y_of(site, spec.outlet))]
    if spec.stand + spec.diameter < tank.stand:
        lane = (tank.offset + (tank.length if right else 0.0)) * 1000 + out * 50
        beside = lane + out * 40
        start += [(lane, rim + 30), (lane, top + 40), (a, top + 40), (a, middle)]
        end = [(b, middle), (b, top + 80), (beside, top + 80), (beside, rim + 62), *end]
    else:
        start += [(a - out * 20, rim + 30), (a - out * 20, middle), (a, middle)]
        end = [(b, middle), (b + out * 30, middle), (b + out * 30, rim + 62), *end]
    return tuple(start), tuple(end)
