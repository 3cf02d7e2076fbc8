"""A reservoir beside its filter, and the overflow to waste."""

from __future__ import annotations

from fuente.devices.contract import Look
from fuente.devices.site import Site
from fuente.devices.top_up.network import port_of
from fuente.devices.top_up.spec import TopUp
from fuente.drawing.primitives import Drawing, Handle, Label, Polyline, Primitive, box
from fuente.one_line import within


def sketch(spec: TopUp, site: Site, look: Look) -> Drawing:
    """Over the pump chamber."""
    into, path = site.vessels[spec.into], spec.path
    well, floor, rim = port_of(spec, site), into.floor, into.rim
    x0, x1 = well.left * 1000, well.right * 1000
    shapes: list[Primitive] = []
    handles: list[Handle] = []
    top = rim * 1000 + 70
    if spec.source == "reservoir":
        side = (spec.volume * 1e9) ** (1 / 3)
        shapes.append(box(x0, top, x0 + side, top + side, "pump", spec.id))
        shapes.append(
            Label(
                (x0 + side / 2, top + side / 2),
                "{v:volume}",
                "label-small",
                values=(("v", spec.volume),),
                owner=spec.id,
            )
        )
        shapes.append(Label((x0 + side / 2, top + side + 26), within(spec.name), "label-small", owner=spec.id))
    y = (floor + spec.level) * 1000
    if spec.source != "none":
        shapes.append(Polyline(((x0 + 14, top), (x0 + 14, y)), "pipe-still", spec.id, 8))
    if spec.source in ("reservoir", "mains"):
        shapes.append(box(x0 + 6, y - 8, x0 + 40, y + 10, "heater", spec.id))
        handles.append(
            Handle((x0 + 23, y), "y", (*path, "level"), spec.level, 0.03, 1.0, "float", "float", owner=spec.id)
        )
    if spec.waste:
        mouth = (floor + spec.waste_mouth) * 1000
        shapes.append(Polyline(((x1 - 24, mouth), (x1 - 24, floor * 1000 + 20)), "pipe-dry", spec.id, 30))
        handles.append(
            Handle(
                (x1 - 24, mouth),
                "y",
                (*path, "waste_mouth"),
                spec.waste_mouth,
                0.03,
                1.0,
                "waste mouth",
                "waste mouth",
                owner=spec.id,
            )
        )
    return Drawing(tuple(shapes), tuple(handles))
