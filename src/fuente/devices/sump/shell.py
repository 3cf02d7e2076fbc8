"""The shell of a sump: bottom, walls and ends in the builder's joint order, what is drilled in them, strips round the
rim.
"""

from __future__ import annotations

from dataclasses import replace

from fuente.devices.glazed import plate_bottom, plate_wall
from fuente.devices.pieces import (
    Face,
    Hole,
    Panel,
    Place,
    note,
)
from fuente.devices.shop import Shop
from fuente.devices.site import Site
from fuente.devices.sump.spec import Sump


def spread(count: int, saw: float, width: float) -> list[float]:
    """Middles of equal holes in a row across a panel, m: evenly, with a hole's width between them and to the edges as
    far as the panel is wide enough for that.
    """
    if count < 2:
        return [width / 2] * count
    apart = min(max(width / (count + 1), 2 * saw), (width - saw) / (count - 1))
    apart = min(apart, max((width - 3 * saw) / (count - 1), width / (count + 1)))
    return [width / 2 + (i - (count - 1) / 2) * apart for i in range(count)]


def drilled(sump: Sump, site: Site, panels: tuple[Panel, ...]) -> list[Panel]:
    """The end panels with the holes of the lines that join it to others; a drilled end is ordered apart
    from the other.
    """
    drills: dict[Face, list[tuple[float, float, float]]] = {}
    for device in site.devices.values():
        for side, height, saw, count in device.drills(site, sump.id):
            row = spread(count, saw, sump.inner_width)
            at = [_on_end(sump, site.shop, x, height) for x in row]
            drills.setdefault(Face(side), []).extend((x, y, saw) for x, y in at)
    found: list[Panel] = []
    for panel in panels:
        if Face.LEFT not in panel.faces or not drills:
            found.append(panel)
            continue
        whole = tuple(face for face in panel.faces if face not in drills)
        if whole:
            found.append(replace(panel, name="End", count=len(whole), faces=whole, places=_places_of(panel, whole)))
        for face, places in sorted(drills.items()):
            key = f"{panel.id}.{face}"
            holes = tuple(
                Hole(id=f"{key}.{i}", body=key, face=face, diameter=d, x=x, y=y) for i, (x, y, d) in enumerate(places)
            )
            seen = note(f"{len(holes)} holes of {{d:length}}, seen from outside", d=holes[0].diameter)
            name, notes = f"End, {face}, drilled", (*panel.notes, seen)
            made = replace(panel, id=key, name=name, count=1, faces=(face,), holes=holes, notes=notes)
            found.append(replace(made, places=_places_of(panel, (face,))))
    return found


def _places_of(panel: Panel, faces: tuple[Face, ...]) -> tuple[Place, ...]:
    """The places of some of a panel's faces."""
    return tuple(panel.places[panel.faces.index(face)] for face in faces)


def shell_of(sump: Sump, shop: Shop) -> tuple[Panel, ...]:
    """Bottom, long walls and ends in the builder's joint order: walls on the bottom or round it, and the ends between
    front and back or outside them. Put together with the glue gap they make the sump's outer sizes.
    """
    t, glue = sump.thickness, shop.glue
    within = 2 * t + 2 * glue
    on, between = shop.walls == "on", shop.ends == "between"
    height = sump.height - sump.bottom - glue if on else sump.height
    floor = (sump.length, sump.width) if on else (sump.length - within, sump.width - within)
    strength, base = plate_wall(sump, shop), plate_bottom(sump, shop)
    stand = "stand on the bottom" if on else "stand round the bottom"
    rests = ("full bed" if sump.full_bed else "on its edges") if on else "between the walls, carried by the glue"
    foot, beside = (sump.bottom + glue if on else 0.0), t + glue
    aside, inward = (0.0 if between else beside), (beside if between else 0.0)
    rows = (
        (
            "bottom",
            "Bottom",
            *floor,
            (Face.FLOOR,),
            rests,
            (Place(0.0 if on else beside, 0.0 if on else beside, 0.0, "xy"),),
        ),
        (
            "long",
            "Front and back",
            sump.length - (0 if between else within),
            height,
            (Face.FRONT, Face.BACK),
            stand,
            (Place(aside, sump.width - t, foot, "xz"), Place(aside, 0.0, foot, "xz")),
        ),
        (
            "end",
            "Ends",
            sump.width - (within if between else 0),
            height,
            (Face.LEFT, Face.RIGHT),
            "between front and back" if between else "front and back stand between them",
            (Place(0.0, inward, foot, "yz"), Place(sump.length - t, inward, foot, "yz")),
        ),
    )
    return tuple(
        Panel(
            id=f"{sump.id}.{key}",
            name=name,
            length=length,
            width=width,
            thickness=sump.bottom if key == "bottom" else t,
            material=sump.material,
            count=len(faces),
            faces=faces,
            body=sump.id,
            places=places,
            notes=(note(remark),),
            safety=(base if key == "bottom" else strength).safety,
            needed=(base if key == "bottom" else strength).needed,
        )
        for key, name, length, width, faces, remark, places in rows
    )


def strips_of(sump: Sump, shop: Shop) -> list[Panel]:
    """The ring along the rim, lying flat inside and flush with it: two long strips, two short ones between them."""
    if sump.strip <= 0 or sump.braced:
        return []
    t, wide, free = sump.thickness, sump.strip, shop.clearance
    top = sump.height - t
    long = sump.inner_length - 2 * free
    short = sump.inner_width - 2 * wide - 4 * free
    far = sump.width - t - free - wide
    rows = (
        ("front", "Strip along the rim, front and back", long, "xy", ((t + free, t + free), (t + free, far))),
        (
            "end",
            "Strip along the rim, ends",
            short,
            "yx",
            ((t + free, t + 2 * free + wide), (sump.length - t - free - wide, t + 2 * free + wide)),
        ),
    )
    return [
        Panel(
            id=f"{sump.id}.strip.{key}",
            name=name,
            length=length,
            width=wide,
            thickness=t,
            material=sump.material,
            count=2,
            body=sump.id,
            places=tuple(Place(x, y, top, lies) for x, y in corners),  # type: ignore[arg-type]
            bonded=1,
            notes=(note("flat along the rim, flush with it; its full length is glued"),),
        )
        for key, name, length, lies, corners in rows
    ]


def _on_end(sump: Sump, shop: Shop, x: float, height: float) -> tuple[float, float]:
    """A hole's middle on an end panel as it is cut, m from its lower left corner, from where it is in the sump: across
    the inside, and over the floor.
    """
    aside = -shop.glue if shop.ends == "between" else sump.thickness
    return x + aside, height + (-shop.glue if shop.walls == "on" else sump.bottom)
