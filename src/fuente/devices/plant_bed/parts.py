"""What a plant bed is made of."""

from __future__ import annotations

from fuente.devices.filtering import Site
from fuente.devices.pieces import Medium, Parts, Shelf, box_of, note, tool
from fuente.devices.plant_bed.spec import PLANTS, PlantBed
from fuente.devices.plumbing_shown import line_parts
from fuente.network.model import Solution

GRAVEL_SOLID = 2650.0  # kg/m³
PLANTED = 9  # plants on each m²


def parts(spec: PlantBed, site: Site, solution: Solution) -> Parts:
    """Trough, gravel, plants."""
    bulk = spec.plan * spec.gravel
    gravel = Medium(
        id=f"{spec.id}.gravel",
        name="Gravel, washed",
        bulk=bulk,
        dry=bulk * (1 - spec.void) * GRAVEL_SOLID,
        grain=spec.grain,
    )
    found = (
        box_of(f"{spec.id}.trough", "Trough or lined planter", spec.length, spec.width, spec.height),
        gravel,
        tool(
            f"{spec.id}.plants",
            f"Plants: {PLANTS[spec.plants]}",
            note("nine on each m²; no cut flowers that were sprayed"),
            shelf=Shelf.MEDIA,
            count=max(round(spec.plan * spec.planted * PLANTED), 1),
        ),
    )
    cautions = ("Load: gravel and water weigh two tonnes a m³; ask whether the ground or the shelf carries it.",)
    return Parts(found, cautions) + line_parts(spec, site)
