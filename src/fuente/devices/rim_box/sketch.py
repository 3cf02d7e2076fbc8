"""A hang-on filter at its tank's end."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.pocket import cell_id, flow_of
from fuente.devices.pocket_sketch import y_of
from fuente.devices.rim_box.network import POURS, clean_id, foot_of, lip_of
from fuente.devices.rim_box.spec import RimBox
from fuente.drawing.primitives import Circle, Drawing, Handle, Label, Point, Polyline, Primitive, box
from fuente.drawing.styles import pad_grade
from fuente.one_line import within

WALL = 4.0  # mm, of the box
GAP = 6.0  # mm between the tank's wall and the box


def _side(spec: RimBox, site: Site) -> tuple[float, int]:
    """x in mm of the box's inner face towards the tank, and the way off the tank: 1 right, −1 left."""
    tank = site.tank
    if spec.end == "right":
        return (tank.offset + tank.length) * 1000 + GAP + WALL, 1
    return tank.offset * 1000 - GAP - WALL, -1


def _inlet_x(spec: RimBox, site: Site) -> float:
    near, out = _side(spec, site)
    return near - out * (GAP + WALL + site.tank.thickness * 1000 + 45)


def air_at(spec: RimBox, site: Site) -> Point:
    """Where its airline ends, mm."""
    return _inlet_x(spec, site), y_of(site, spec.intake)


def sketch(spec: RimBox, site: Site, look: Look) -> Drawing:
    """Box with its block, the tube over the rim to its far side, the lip towards the tank."""
    near, out = _side(spec, site)
    far = near + out * spec.off * 1000
    foot, lip = foot_of(spec, site) * 1000, lip_of(spec, site) * 1000
    rim, owner, flow = foot + spec.height * 1000, spec.id, flow_of(spec, look.solution)
    middle = near + out * (0.55 * (spec.off - spec.thickness)) * 1000  # the block's face towards the tank
    back = middle + out * spec.thickness * 1000
    half = (middle + back) / 2
    shapes: list[Primitive] = []
    for cell, a, b in ((clean_id(spec), near, half), (cell_id(spec), half, far)):
        level = min(look.solution.level[cell] * 1000, rim)
        if level > foot + 0.5:
            shapes += [
                box(min(a, b), foot, max(a, b), level, "water", owner, cell),
                Polyline(((a, level), (b, level)), "surface", owner),
            ]
    block = (min(middle, back), foot, max(middle, back), foot + spec.block * 1000)
    shapes.append(box(*block, pad_grade(spec.ppi), owner))
    room = spec.thickness * 1000
    shapes.append(Label((half, foot + 30), f"{spec.ppi:g}", "label-tag", owner=owner, room=room))
    if spec.media > 0:
        a, b = sorted((near + out * 3, middle - out * 3))
        high = min(spec.media / (0.5 * spec.wide * (spec.off - spec.thickness)), spec.lip) * 1000
        shapes.append(box(a, foot, b, foot + high, "media", owner))
    left, right = min(near, far), max(near, far)
    inner = (near - out * WALL, near)
    shapes += [
        box(left - WALL, foot - WALL, right + WALL, foot, "drum", owner),
        box(min(inner), foot, max(inner), lip, "drum", owner),
        box(min(far, far + out * WALL), foot, max(far, far + out * WALL), rim, "drum", owner),
        # The lip leads over the tank's rim.
        Polyline(((near, lip), (near - out * (GAP + WALL + 30), lip)), "drum", owner, 3.0),
    ]
    x = _inlet_x(spec, site)
    top = lip + POURS * 1000
    live = "pipe-pumped" if flow > 5e-7 else "pipe-still"
    end = far - out * 0.2 * abs(far - back)
    way = ((x, y_of(site, spec.intake)), (x, top + 20), (end, top + 20), (end, top))
    wide = pipe_size(spec.hose).outside * 1000
    shapes.append(Polyline(way, live, owner, wide))
    if spec.drive == "pump":
        shapes.append(Circle(way[0], 18.0, "pump", owner))
    if flow > 5e-7:
        at = ((near + far) / 2, foot - 10)
        shapes.append(Label(at, "{q:flow}", "label-pumped", values=(("q", flow),), owner=owner, room=400, side=-1))
    name = within(spec.name)
    grips = (
        Handle(
            (half, block[3]),
            "y",
            (*spec.path, "block"),
            spec.block,
            0.03,
            spec.height,
            f"top of the block of {name}",
            "block",
            owner=owner,
        ),
        Handle(way[0], "y", (*spec.path, "intake"), spec.intake, 0.0, 3.0, f"intake of {name}", "intake", owner=owner),
    )
    return Drawing(tuple(shapes), grips)
