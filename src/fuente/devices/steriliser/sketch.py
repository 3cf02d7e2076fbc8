"""A steriliser beside its tank."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.pocket import flow_of
from fuente.devices.pocket_sketch import y_of
from fuente.devices.steriliser.spec import Steriliser
from fuente.drawing.primitives import Circle, Drawing, Handle, Label, Polyline, Primitive, box


def sketch(spec: Steriliser, site: Site, look: Look) -> Drawing:
    """Chamber with its lamp, pump in the tank, hoses over the rim."""
    solution, path = look.solution, spec.path
    x0, x1 = spec.offset * 1000, (spec.offset + spec.length) * 1000
    foot = spec.stand * 1000
    tall = spec.diameter * 1000
    owner = spec.id
    flow = flow_of(spec, solution)
    tank = site.tank
    rim = tank.rim * 1000
    right = (x0 + x1) / 2 > (tank.offset + tank.length / 2) * 1000
    edge = (tank.offset + (tank.length - tank.thickness if right else tank.thickness)) * 1000
    out = 1 if right else -1
    wide = pipe_size(spec.hose).outside * 1000
    under = spec.stand + spec.diameter < tank.stand
    wall = (tank.offset + (tank.length if right else 0.0)) * 1000
    lane = wall + out * 50 if under else None
    live, back = ("pipe-pumped", "pipe-fall") if flow > 5e-7 else ("pipe-still", "pipe-dry")
    low = y_of(site, spec.intake)
    start = [(edge - out * 60, low), (edge - out * 60, rim + 30)]
    end = [(edge - out * 110, rim + 62), (edge - out * 110, y_of(site, spec.outlet))]
    a, b = (x0, x1) if right else (x1, x0)
    middle = foot + tall / 2
    if lane is not None:
        start += [(lane, rim + 30), (lane, foot + tall + 40), (a, foot + tall + 40), (a, middle)]
        end = [
            (b, middle),
            (b, foot + tall + 80),
            (lane + out * 40, foot + tall + 80),
            (lane + out * 40, rim + 62),
            *end,
        ]
    else:
        start += [(a - out * 20, rim + 30), (a - out * 20, middle), (a, middle)]
        end = [(b, middle), (b + out * 30, middle), (b + out * 30, rim + 62), *end]
    shapes: list[Primitive] = [
        Polyline(tuple(start), live, owner, wide),
        Polyline(tuple(end), back, owner, wide),
        Circle((edge - out * 60, low), 20.0, "pump", owner),
        box(x0, foot, x1, foot + tall, "water", owner),
        box(x0, foot - 3, x1, foot, "drum", owner),
        box(x0, foot + tall, x1, foot + tall + 3, "drum", owner),
        box(x0 + 12, middle - spec.sleeve * 500, x1 - 12, middle + spec.sleeve * 500, "lamp", owner),
        Label(
            ((x0 + x1) / 2, foot - 10),
            "{q:flow}",
            "label-pumped",
            values=(("q", flow),),
            owner=owner,
            room=400,
            side=-1,
        ),
    ]
    grips = (
        Handle(
            (x1, middle),
            "x",
            (*path, "length"),
            spec.length,
            0.1,
            2.0,
            f"length of {spec.name.lower()}",
            "steriliser",
            owner=owner,
        ),
    )
    return Drawing(tuple(shapes), grips)
