"""What a trickle tower is made of."""

from __future__ import annotations

from fuente.devices.filtering import Site
from fuente.devices.pieces import Face, Hole, Making, Parts, Shelf, Thing, box_of, media_of, note
from fuente.devices.plumbing_shown import line_parts
from fuente.devices.trickle_tower.spec import TrickleTower
from fuente.network.model import Solution

CAUTION = "Structure: a wet tower is heavy at its top; fix it to the wall."


MAKING = (
    Making(
        "tray",
        "Level the spreading tray",
        (note("Tray on its ledge, water poured in: every hole drips; file those that do not"),),
        "drops fall evenly over the whole plan when the pump runs",
        20,
        1,
        ("level", "file"),
    ),
)


def parts(spec: TrickleTower, site: Site, solution: Solution) -> Parts:
    """Base, packing, trays."""
    spread = box_of(f"{spec.id}.spread", "Spreading tray", spec.length, spec.width, spec.tray, note("set it level"))
    found = (
        box_of(f"{spec.id}.base", "Base, food-safe box", spec.length, spec.width, spec.base),
        Thing(
            id=f"{spec.id}.trays",
            name="Tray or grid with holes that carries the packing",
            shelf=Shelf.EQUIPMENT,
            count=spec.trays if spec.style == "trays" else 1,
            length=spec.length,
            width=spec.width,
        ),
        spread,
        Hole(
            id=f"{spec.id}.holes",
            name="Hole to drill in it",
            body=spread.id,
            face=Face.FLOOR,
            count=spec.holes,
            diameter=spec.hole,
            notes=(note("in an even grid"),),
        ),
        media_of(f"{spec.id}.media", site.medium(spec.medium), spec.bulk),
    )
    return Parts(found, (CAUTION,), MAKING) + line_parts(spec, site)
