"""What Fuente would change of a tank."""

from __future__ import annotations

import math

from fuente.catalogue import sheet
from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.glazed import plate_bottom
from fuente.devices.site import Site
from fuente.devices.tank.parts import USUAL, wall_check
from fuente.devices.tank.spec import Tank
from fuente.structure.framed import widest_apart


def judge(tank: Tank, site: Site, study: Study) -> tuple[Finding, ...]:
    """Findings that need only the tank."""
    path = tank.path
    found: list[Finding] = []
    check = wall_check(tank, site.shop)
    if check.needed > tank.thickness + 5e-5:
        edit, action = _stronger(tank, check.needed)
        found.append(
            Finding(
                "tank-wall",
                Rank.FIX,
                "The long wall is {now:length} thick and wants {need:length} when it is full to the brim.",
                (
                    "A board from batten to batten"
                    if tank.framed
                    else "Thin plate, foot and sides held, top " + ("braced" if tank.braced else "free")
                )
                + f"; a safety factor of {check.safety:.1f} is left. {USUAL[tank.material]}.",
                tank.id,
                {"now": tank.thickness, "need": check.needed},
                action,
                edit,
                tank.thickness - check.needed,
            )
        )
    base = plate_bottom(tank, site.shop)
    if base.needed > tank.bottom + 5e-5:
        found.append(
            Finding(
                "tank-bottom",
                Rank.FIX,
                "The tank's bottom is {now:length} thick and wants {need:length} on its edges alone.",
                "A thin plate held along four edges, under all of the water. On a full, flat bed with a mat it carries"
                " nothing itself; a frame or legs leave it on its edges.",
                tank.id,
                {"now": tank.bottom, "need": base.needed},
                "Use a full bed",
                Edit("Lay tank on a full bed", (Change((*path, "full_bed"), True),)),
                tank.bottom - base.needed,
            )
        )
    return tuple(found)


def _stronger(tank: Tank, needed: float) -> tuple[Edit | None, str]:
    """A thicker sheet of those that are sold, battens behind plywood, or a brace; and what its button says."""
    path = tank.path
    if tank.material == "plywood":
        apart = math.floor(widest_apart(tank.inner_height, tank.thickness) / 0.05) * 0.05
        if apart < 0.1:
            return None, ""
        where = Change((*path, "battens"), round(apart, 2))
        return Edit("Set battens behind the walls", (where,)), f"Battens every {{{apart:g}:length}}"
    better = sheet(tank.material, needed)
    if better:
        edit = Edit("Thicken tank walls", (Change((*path, "thickness"), better.thickness),))
        return edit, f"Take {{{better.thickness:g}:fine_length}}"
    if not tank.braced:
        return Edit("Brace the tank", (Change((*path, "braced"), True),)), "Brace it"
    return None, ""
