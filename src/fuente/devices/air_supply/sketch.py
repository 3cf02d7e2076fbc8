"""The air pump, its manifold and its drops."""

from __future__ import annotations

from collections.abc import Sequence

from fuente.devices.air_supply.network import air_to
from fuente.devices.air_supply.spec import AirSupplySpec
from fuente.devices.contract import Device, Look, Point
from fuente.devices.site import Site
from fuente.drawing.primitives import Circle, Drawing, Handle, Label, Polyline, Primitive, box


def sketch(spec: AirSupplySpec, site: Site, look: Look) -> Drawing:
    """The pump beside everything, with a manifold over each row of tanks, and a line down to each device."""
    solution, path = look.solution, spec.path
    right = max(v.right for v in site.vessels.values() if v.lets_go is None) * 1000
    place = [d.id for d in site.devices.values() if d.kind == spec.kind].index(spec.id)
    # A line that goes down to a vessel passes beyond a return's pipe and its label.
    beyond = 190 if all(site.devices[d.to].home for d in spec.drops) else 390
    at = (right + beyond + 260 * place, spec.height * 1000)
    ends = {d.place: end for d in spec.drops if (end := look.study.air_end(d.place)) is not None}
    homes = {_rim(site.devices[d.to], site, ends.get(d.place)) + 60 + 26 * place for d in spec.drops}
    rows = sorted(homes) or [spec.height * 1000]
    flow = sum(q for key, q in solution.flow.items() if key.startswith(f"{spec.id}."))
    live = "air-line" if flow > 1e-9 else "air-still"
    x, y = at
    shapes: list[Primitive] = []
    left = {row: min([p[1][0] for p in ends.values() if _row(p[1][1], rows) == row], default=x) for row in rows}
    for row, start in left.items():
        shapes.append(
            Polyline(
                ((start, row), (x - 100, row), (x - 100, y), (x - 60, y)), live, spec.id, max(spec.bore * 1000, 5.0)
            )
        )
    air = air_to(spec, solution)
    for drop in spec.drops:
        if drop.place not in ends:
            continue
        injector, over = ends[drop.place]
        style = "air-line" if air[drop.place] > 1e-9 else "air-still"
        row = _row(over[1], rows)
        # Beside the tube that it blows into, so that both are seen.
        shapes.append(Polyline(((over[0], row), (over[0], injector[1] + 4), injector), style, spec.id))
        if drop.opening < 0.995:
            words = f"{drop.opening * 100:.0f} %"
            device = site.devices[drop.to]
            home = site.homes.get(device.home)
            # A riser that goes on over the right rim: the words stand on the other side of the line.
            outside = home is not None and device.span_inside is None
            over_it = home is not None and outside and injector[0] > (home.offset + home.length / 2) * 1000
            side, anchor = (-8, "right") if over_it else (8, "left")
            shapes.append(Label((over[0] + side, row - 22), words, "label-air", anchor, owner=drop.place, room=80))
    w = 70.0
    shapes += [
        box(x - w, y - 40, x + w, y + 40, "air-pump", spec.id),
        *(Circle((x + dx, y + dy), r, "bubble", spec.id) for dx, dy, r in ((-24, -8, 13), (10, 8, 9), (34, -6, 6))),
        Label(
            (x - w, y - 44), "{air:air_flow}", "label-air", "left", False, (("air", flow),), spec.id, room=400, side=-1
        ),
    ]
    grip = Handle(
        (x, y + 40),
        "y",
        (*path, "height"),
        spec.height,
        -2.0,
        6.0,
        "height of the air pump",
        "air pump",
        owner=spec.id,
        quiet=True,
    )
    return Drawing(tuple(shapes), (grip,))


def _rim(device: Device, site: Site, end: tuple[Point, Point] | None) -> float:
    """Height in mm of the rim that a line comes over: its tank's, or that of the vessel where it ends."""
    if device.home in site.homes:
        return site.homes[device.home].rim * 1000
    return end[1][1] if end is not None else site.tank.rim * 1000


def _row(y: float, rows: Sequence[float]) -> float:
    """The manifold that runs next over a height."""
    over = [r for r in rows if r >= y - 1]
    return min(over) if over else max(rows)
