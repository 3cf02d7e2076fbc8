"""A canister or bucket cut open beside its tank."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.canister.spec import Canister
from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.pocket import flow_of
from fuente.devices.pocket_sketch import y_of
from fuente.drawing.primitives import Circle, Dimension, Drawing, Handle, Label, Polyline, Primitive, box


def sketch(spec: Canister, site: Site, look: Look) -> Drawing:
    """Layers from the foot up, hoses over the tank's rim, pump in the line."""
    solution, path = look.solution, spec.path
    x0, x1 = spec.offset * 1000, (spec.offset + spec.diameter) * 1000
    foot, top = spec.stand * 1000, (spec.stand + spec.height) * 1000
    owner = spec.id
    flow = flow_of(spec, solution)
    shapes: list[Primitive] = [box(x0, foot, x1, top, "water", owner)]
    at = foot
    for layer in spec.layers:
        high = at + layer.share * (top - foot)
        if layer.medium == "foam":
            shapes.append(
                box(
                    x0 + 3,
                    at,
                    x1 - 3,
                    high,
                    "pad-coarse" if layer.ppi < 16 else "pad-medium" if layer.ppi < 36 else "pad-fine",
                    owner,
                )
            )
            shapes.append(
                Label(
                    ((x0 + x1) / 2, (at + high) / 2),
                    f"{layer.ppi:g}",
                    "label-tag",
                    owner=owner,
                    room=x1 - x0,
                    tall=high - at,
                )
            )
        else:
            shapes.append(box(x0 + 3, at, x1 - 3, high, "media", owner))
        if spec.held == "trays":
            shapes.append(box(x0, high - 2, x1, high + 2, "plate", owner))
        at = high
    wide = pipe_size(spec.hose).outside * 1000
    if spec.held == "tube":
        middle = (x0 + x1) / 2
        shapes.append(box(middle - wide / 2, foot + 8, middle + wide / 2, top, "tube", owner))
    shapes += [
        box(x0 - 5, foot - 5, x1 + 5, foot, "drum", owner),
        box(x0 - 5, foot, x0, top, "drum", owner),
        box(x1, foot, x1 + 5, top, "drum", owner),
        box(x0 - 9, top, x1 + 9, top + 12, "drum", owner),
    ]
    middle = (site.tank.offset + site.tank.length / 2) * 1000
    right = (x0 + x1) / 2 > middle
    edge = (site.tank.offset + (site.tank.length - site.tank.thickness if right else site.tank.thickness)) * 1000
    out = 1 if right else -1
    rim = site.tank.rim * 1000
    wall = (site.tank.offset + (site.tank.length if right else 0.0)) * 1000
    under = spec.stand + spec.height < site.tank.stand and abs((x0 + x1) / 2 - middle) < site.tank.length * 500
    runs = wall + out * 60
    dry = "pipe-dry" if flow < 5e-7 else "pipe-fall"
    lift = "pipe-still" if flow < 5e-7 else "pipe-pumped"
    a, b = x0 + 0.3 * (x1 - x0), x0 + 0.7 * (x1 - x0)
    lane = top + 46 if under else rim + 40
    inlet, mouth = y_of(site, spec.intake), y_of(site, spec.outlet)
    suck = [(edge - out * 40, inlet), (edge - out * 40, rim + 40), (runs, rim + 40)]
    give = [(runs + out * 50, rim + 74), (edge - out * 90, rim + 74), (edge - out * 90, mouth)]
    suck += [(runs, lane), (a, lane), (a, top + 8)] if under else [(a, rim + 40), (a, top + 8)]
    give = (
        [(b, top + 8), (b, lane + 40), (runs + out * 50, lane + 40)] if under else [(b, top + 8), (b, rim + 74)]
    ) + give[0 if under else 1 :]
    shapes += [Polyline(tuple(suck), dry, owner, wide), Polyline(tuple(give), lift, owner, wide)]
    shapes.append(Circle((b, top + 30), 20.0, "pump", owner))
    if flow > 5e-7:
        shapes.append(
            Label(
                ((x0 + x1) / 2, foot - 10),
                "{q:flow}",
                "label-pumped",
                values=(("q", flow),),
                owner=owner,
                room=400,
                side=-1,
            )
        )
    shapes.append(Dimension((x0 - 9, foot), (x0 - 9, top), spec.height, (*path, "height"), -40, owner))
    grips = (
        Handle(
            (edge - out * 40, inlet),
            "y",
            (*path, "intake"),
            spec.intake,
            0.0,
            3.0,
            f"intake of {spec.name.lower()}",
            "intake",
            owner=owner,
        ),
        Handle(
            (edge - out * 90, mouth),
            "y",
            (*path, "outlet"),
            spec.outlet,
            0.0,
            3.2,
            f"mouth of {spec.name.lower()}",
            "mouth",
            owner=owner,
        ),
        Handle(
            (x1, (foot + top) / 2),
            "x",
            (*path, "diameter"),
            spec.diameter,
            0.06,
            1.0,
            f"bore of {spec.name.lower()}",
            "canister",
            owner=owner,
        ),
    )
    return Drawing(tuple(shapes), grips)
