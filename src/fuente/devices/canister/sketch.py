"""A canister or bucket cut open beside its tank."""

from __future__ import annotations

from typing import NamedTuple

from fuente.catalogue import pipe_size
from fuente.devices.canister.spec import FLOSS_PPI, SPONGE_WALL, Canister
from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.pocket import flow_of
from fuente.devices.pocket_sketch import y_of
from fuente.drawing.primitives import Circle, Dimension, Drawing, Handle, Label, Point, Polyline, Primitive, box
from fuente.drawing.styles import pad_grade
from fuente.one_line import within

_SEEN = 5e-7  # m³/s


class _Body(NamedTuple):
    """Its outline in mm: left, right, foot, top."""

    left: float
    right: float
    foot: float
    top: float

    @property
    def middle(self) -> float:
        return (self.left + self.right) / 2


class _Hoses(NamedTuple):
    """The way of both hoses in mm, each from its first water to its last, and where they hang in the tank."""

    suction: tuple[Point, ...]
    delivery: tuple[Point, ...]
    pump: Point


def sketch(spec: Canister, site: Site, look: Look) -> Drawing:
    """Layers from the foot up, hoses over the tank's rim, pump in the line."""
    foot = spec.stand * 1000
    body = _Body(spec.offset * 1000, (spec.offset + spec.diameter) * 1000, foot, foot + spec.height * 1000)
    owner, flow = spec.id, flow_of(spec, look.solution)
    hoses = _hoses(spec, site, body)
    wide, back = pipe_size(spec.hose).outside * 1000, pipe_size(spec.back_hose).outside * 1000
    still = flow < _SEEN
    shapes = [
        *_vessel(spec, body, wide),
        Polyline(hoses.suction, "pipe-dry" if still else "pipe-fall", owner, wide),
        Polyline(hoses.delivery, "pipe-still" if still else "pipe-pumped", owner, back),
        Circle(hoses.pump, 20.0, "pump", owner),
    ]
    if spec.sponge:
        (x, y), half = hoses.suction[0], wide / 2 + SPONGE_WALL * 1000
        long = spec.sponge_long * 1000
        shapes.append(box(x - half, y - long / 2, x + half, y + long / 2, pad_grade(spec.sponge), owner))
    if flow > _SEEN:
        values = (("q", flow),)
        at = (body.middle, foot - 10)
        shapes.append(Label(at, "{q:flow}", "label-pumped", values=values, owner=owner, room=400, side=-1))
    edge = body.left - 9
    shapes.append(Dimension((edge, foot), (edge, body.top), spec.height, (*spec.path, "height"), -40, owner))
    return Drawing(tuple(shapes), _grips(spec, body, hoses))


def _vessel(spec: Canister, body: _Body, wide: float) -> list[Primitive]:
    """Walls, lid, and what stands in it; ``wide`` mm is the hose's, as it goes down a tube."""
    x0, x1, foot, top = body
    owner = spec.id
    shapes: list[Primitive] = [box(x0, foot, x1, top, "water", owner)]
    at = foot + spec.foot * 1000
    if spec.foot or spec.layers[0].divider:
        shapes.append(box(x0, at - 2, x1, at + 2, "plate", owner))
    for k, layer in enumerate(spec.layers):
        high = at + layer.thickness * 1000
        if layer.medium == "floss":
            shapes.append(box(x0 + 3, at, x1 - 3, high, pad_grade(FLOSS_PPI), owner))
        elif layer.medium == "foam":
            middle = (body.middle, (at + high) / 2)
            shapes += [
                box(x0 + 3, at, x1 - 3, high, pad_grade(layer.ppi), owner),
                Label(middle, f"{layer.ppi:g}", "label-tag", owner=owner, room=x1 - x0, tall=high - at),
            ]
        else:
            shapes.append(box(x0 + 3, at, x1 - 3, high, "media", owner))
        if spec.held == "trays" or (k + 1 < len(spec.layers) and spec.layers[k + 1].divider):
            shapes.append(box(x0, high - 2, x1, high + 2, "plate", owner))
        at = high
    if spec.held == "tube":
        shapes.append(box(body.middle - wide / 2, foot + 8, body.middle + wide / 2, top, "tube", owner))
    if spec.drain:
        shapes.append(box(x1 + 5, foot + 6, x1 + 30, foot + 18, "pipe-dry", owner))
    return [
        *shapes,
        box(x0 - 5, foot - 5, x1 + 5, foot, "drum", owner),
        box(x0 - 5, foot, x0, top, "drum", owner),
        box(x1, foot, x1 + 5, top, "drum", owner),
        box(x0 - 9, top, x1 + 9, top + 12, "drum", owner),
    ]


def _hoses(spec: Canister, site: Site, body: _Body) -> _Hoses:
    """Over the rim on the side where it stands; down beside the tank, and in under it where it stands there."""
    tank, top = site.tank, body.top
    middle = (tank.offset + tank.length / 2) * 1000
    right = body.middle > middle
    out = 1 if right else -1
    edge = (tank.offset + (tank.length - tank.thickness if right else tank.thickness)) * 1000
    wall = (tank.offset + (tank.length if right else 0.0)) * 1000
    rim = tank.rim * 1000
    under = spec.stand + spec.height < tank.stand and abs(body.middle - middle) < tank.length * 500
    runs = wall + out * 60
    wide = body.right - body.left
    a, b = body.left + 0.3 * wide, body.left + 0.7 * wide
    lane = top + 46 if under else rim + 40
    over_in, over_out = edge - out * 40, edge - out * 90
    suck = [(over_in, y_of(site, spec.intake)), (over_in, rim + 40), (runs, rim + 40)]
    suck += [(runs, lane), (a, lane), (a, top + 8)] if under else [(a, rim + 40), (a, top + 8)]
    give = [(b, top + 8)]
    if under:
        give += [(b, lane + 40), (runs + out * 50, lane + 40), (runs + out * 50, rim + 74)]
    else:
        give.append((b, rim + 74))
    give += [(over_out, rim + 74), (over_out, y_of(site, spec.outlet))]
    return _Hoses(tuple(suck), tuple(give), (b, top + 30))


def _grips(spec: Canister, body: _Body, hoses: _Hoses) -> tuple[Handle, ...]:
    path, owner, name = spec.path, spec.id, within(spec.name)
    intake, mouth = hoses.suction[0], hoses.delivery[-1]
    side = (body.right, (body.foot + body.top) / 2)
    return (
        Handle(intake, "y", (*path, "intake"), spec.intake, 0.0, 3.0, f"intake of {name}", "intake", owner=owner),
        Handle(mouth, "y", (*path, "outlet"), spec.outlet, 0.0, 3.2, f"mouth of {name}", "mouth", owner=owner),
        Handle(side, "x", (*path, "diameter"), spec.diameter, 0.06, 1.0, f"bore of {name}", "canister", owner=owner),
    )
