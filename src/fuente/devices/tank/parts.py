"""A tank is bought or already there: it adds nothing to the list but its check."""

from __future__ import annotations

from fuente.devices.glazed import USUAL_SHOP, plate_wall
from fuente.devices.pieces import Parts
from fuente.devices.shop import Shop
from fuente.devices.site import Site
from fuente.devices.tank.spec import Tank
from fuente.devices.warm_shown import heater_things
from fuente.network.model import Solution
from fuente.one_line import within
from fuente.structure.framed import ply_strip
from fuente.structure.plates import PlateResult

# What is left of the strength where a wall is as thick as it should be.
USUAL = {
    "glass": "Glass scatters: 3.8 is the usual safety",
    "acrylic": "Acrylic creeps: 1.0 is the least, and it may bow by a two-hundredth of its span",
    "plywood": "Boards and their joints differ widely: 4.0 is the least, and damp weakens them",
}


def wall_check(tank: Tank, shop: Shop = USUAL_SHOP) -> PlateResult:
    """The long wall, brim full: one plate, or plywood from batten to batten where they stand closer."""
    plate = plate_wall(tank, shop)
    if not tank.framed:
        return plate
    strip = ply_strip(tank.inner_height, tank.thickness, tank.battens)
    return min(plate, strip, key=lambda found: found.needed)


def parts(tank: Tank, site: Site, solution: Solution) -> Parts:
    """Its heaters, and cautions."""
    return Parts(
        pieces=heater_things(f"{tank.id}.heaters", tank.heaters, tank.heater_watts, within(tank.name)),
        cautions=(
            "Load: a full system can exceed a floor's rating; ask a structural engineer.",
            "Structural results are estimates for planning, not an engineer's certificate.",
        ),
    )
