"""What a plant bed is made of."""

from __future__ import annotations

from fuente.devices.base import Part, Parts
from fuente.devices.filtering import Site
from fuente.devices.plant_bed.spec import PLANTS, PlantBed
from fuente.devices.plumbing_shown import line_parts
from fuente.network.model import Solution


def parts(spec: PlantBed, site: Site, solution: Solution) -> Parts:
    """Trough, gravel, plants."""
    size = {"l": spec.length, "w": spec.width, "h": spec.height, "g": spec.grain}
    bulk = spec.plan * spec.gravel
    found = [
        Part(
            f"{spec.id}.trough",
            "Trough or lined planter",
            1,
            "piece",
            "Equipment",
            "{l:length:bare} × {w:length:bare} × {h:length}",
            "",
            size,
        ),
        Part(
            f"{spec.id}.gravel",
            "Gravel, washed",
            round(bulk * 1000),
            "L",
            "Media",
            "{g:fine_length}",
            f"{bulk * (1 - spec.void) * 2650:.0f} kg",
            size,
        ),
        Part(
            f"{spec.id}.plants",
            f"Plants: {PLANTS[spec.plants]}",
            max(round(spec.plan * spec.planted * 9), 1),
            "piece",
            "Media",
            "",
            "nine on each m²; no cut flowers that were sprayed",
        ),
    ]
    cautions = ("Load: gravel and water weigh two tonnes a m³; ask whether the ground or the shelf carries it.",)
    return Parts((), tuple(found), cautions) + line_parts(spec, site)
