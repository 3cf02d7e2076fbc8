"""What an under-gravel filter is made of."""

from __future__ import annotations

from fuente.devices.filtering import Site
from fuente.devices.pieces import Medium, Parts, Shelf, Thing, note
from fuente.devices.pocket_shown import pocket_parts
from fuente.devices.under_gravel.spec import UnderGravel
from fuente.network.model import Solution

GRAVEL_SOLID = 2650.0  # kg/m³


def parts(spec: UnderGravel, site: Site, solution: Solution) -> Parts:
    """Plate, gravel, tubes."""
    plate = Thing(
        id=f"{spec.id}.plate",
        name="Slotted plate on feet",
        shelf=Shelf.EQUIPMENT,
        length=spec.length,
        width=spec.width,
        notes=(note("slots narrower than the grain, or a mesh over them"),),
    )
    gravel = Medium(
        id=f"{spec.id}.gravel",
        name="Gravel, washed",
        bulk=spec.bed,
        dry=spec.bed * (1 - spec.void) * GRAVEL_SOLID,
        grain=spec.grain,
        notes=(note("carry it in by the bucket"),),
    )
    caution = "Lifting: gravel is heavy; what is more than you lift alone takes two people."
    return Parts((plate, gravel), (caution,)) + pocket_parts(spec, site)
