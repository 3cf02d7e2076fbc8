"""What an under-gravel filter is made of."""

from __future__ import annotations

from fuente.devices.base import Part, Parts
from fuente.devices.filtering import Site
from fuente.devices.pocket import pocket_parts
from fuente.devices.under_gravel.spec import UnderGravel
from fuente.network.model import Solution

GRAVEL_SOLID = 2650.0  # kg/m³


def parts(spec: UnderGravel, site: Site, solution: Solution) -> Parts:
    """Plate, gravel, tubes."""
    size = {"l": spec.length, "w": spec.width, "g": spec.grain}
    mass = spec.bed * (1 - spec.void) * GRAVEL_SOLID
    return Parts(
        (),
        (
            Part(
                f"{spec.id}.plate",
                "Slotted plate on feet",
                1,
                "piece",
                "Equipment",
                "{l:length:bare} × {w:length}",
                "slots narrower than the grain, or a mesh over them",
                size,
            ),
            Part(
                f"{spec.id}.gravel",
                "Gravel, washed",
                round(spec.bed * 1000, 1),
                "L",
                "Media",
                "{g:fine_length}",
                f"{mass:.0f} kg; carry it in by the bucket",
                size,
            ),
        ),
        ("Lifting: gravel is heavy; two people above about 20 kg.",),
    ) + pocket_parts(spec, site)
