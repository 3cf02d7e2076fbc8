"""What Fuente would change of a tank."""

from __future__ import annotations

from fuente.catalogue import sheet
from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.box_walls import walls_unknown
from fuente.devices.contract import Study
from fuente.devices.site import Site
from fuente.devices.tank.parts import USUAL, bottom_check, wall_check
from fuente.devices.tank.spec import Tank


def judge(tank: Tank, site: Site, study: Study) -> tuple[Finding, ...]:
    """Findings that need only the tank."""
    path = tank.path
    found: list[Finding] = []
    check = wall_check(tank, site.shop)
    if check is None:
        return (walls_unknown(tank.id, "The tank", "lined plywood", tank.inner_length, tank.inner_height),)
    if check.needed > tank.thickness + 5e-5:
        better = sheet(tank.material, check.needed)
        edit = None
        if better:
            edit = Edit("Thicken tank walls", (Change((*path, "thickness"), better.thickness),))
        elif not tank.braced:
            edit = Edit("Brace the tank", (Change((*path, "braced"), True),))
        found.append(
            Finding(
                "tank-wall",
                Rank.FIX,
                "The long wall is {now:length} thick and wants {need:length} when it is full to the brim.",
                "Thin plate, foot and sides held, top "
                + ("braced" if tank.braced else "free")
                + f"; a safety factor of {check.safety:.1f} is left. {USUAL[tank.material]}.",
                tank.id,
                {"now": tank.thickness, "need": check.needed},
                (f"Take {{{better.thickness:g}:fine_length}}" if better else "Brace it") if edit else "",
                edit,
                tank.thickness - check.needed,
            )
        )
    base = bottom_check(tank, site.shop)
    if base is not None and base.needed > tank.bottom + 5e-5:
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
