"""What must fit, and what must hold, of a sump: space and glass."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.catalogue import sheet
from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.contract import Study
from fuente.devices.glazed import plate_bottom, plate_wall
from fuente.devices.site import Site
from fuente.devices.sump.plates import baffle_check
from fuente.devices.sump.spec import Sump
from fuente.one_line import within


def space(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """The sump fits its opening with hand room above."""
    room, path = site.space, sump.path
    if sump.length > room.length + 1e-9:
        yield _too_big(sump.id, "long", sump.length, room.length, (*path, "length"), "Shorten sump")
    if sump.width > room.depth + 1e-9:
        yield _too_big(sump.id, "wide", sump.width, room.depth, (*path, "width"), "Narrow sump")
    if sump.height > room.height + 1e-9:
        yield _too_big(sump.id, "high", sump.height, room.height, (*path, "height"), "Lower walls")
    elif sump.height + room.service > room.height + 1e-9:
        left = room.height - sump.height
        yield Finding(
            "hand-room",
            Rank.CONSIDER,
            "Over the sump {left:level} are left; you want {want:level} to lift things out.",
            "Pads, socks and media baskets come out upwards.",
            sump.id,
            {"left": left, "want": room.service},
            margin=left - room.service,
        )


def _too_big(owner: str, word: str, size: float, room: float, path: Path, action: str) -> Finding:
    return Finding(
        "space",
        Rank.STOP,
        f"The sump is {{size:length}} {word}; the opening takes {{room:length}}.",
        "It cannot be brought in. Leave a finger's width besides.",
        owner,
        {"size": size, "room": room},
        action,
        Edit(action, (Change(path, round(room - 0.01, 3)),)),
        room - size,
    )


def glass(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """Walls, bottom and baffles of the sump."""
    path = sump.path
    wall = plate_wall(sump, site.shop)
    if wall.needed > sump.thickness + 5e-5:
        better = sheet(sump.material, wall.needed)
        edit = Edit("Thicken sump walls", (Change((*path, "thickness"), better.thickness),)) if better else None
        yield Finding(
            "sump-wall",
            Rank.FIX,
            "The sump's long wall is {now:length} thick and wants {need:length} when it is full to the brim.",
            "Thin plate with a free top; safety 3.8 for glass. It is full to the brim in the worst case.",
            sump.id,
            {"now": sump.thickness, "need": wall.needed},
            "Thicker walls" if edit else "",
            edit,
            sump.thickness - wall.needed,
        )
    bottom = plate_bottom(sump, site.shop)
    if bottom.needed > sump.bottom + 5e-5:
        yield Finding(
            "sump-bottom",
            Rank.FIX,
            "The sump's bottom is {now:length} thick and wants {need:length} on its edges alone.",
            "On a full, flat bed it carries nothing itself.",
            sump.id,
            {"now": sump.bottom, "need": bottom.needed},
            "Use a full bed",
            Edit("Lay sump on a full bed", (Change((*path, "full_bed"), True),)),
            sump.bottom - bottom.needed,
        )
    for k, chamber in enumerate(sump.chambers):
        if not chamber.exit:
            continue
        check = baffle_check(sump, chamber.exit, site.shop)
        if check.needed > chamber.exit.thickness + 5e-5:
            better = sheet(chamber.exit.material, check.needed)
            edit = None
            if better:
                where = (*path, "chambers", k, "exit", "thickness")
                edit = Edit("Thicken baffle", (Change(where, better.thickness),))
            yield Finding(
                "baffle",
                Rank.FIX,
                f"The baffle after {within(chamber.title)} is {{now:length}} thick and wants {{need:length}} with one"
                " side empty.",
                "While you clean one chamber the next one pushes on it.",
                f"{sump.id}.{chamber.id}",
                {"now": chamber.exit.thickness, "need": check.needed},
                "Thicker baffle" if edit else "",
                edit,
                chamber.exit.thickness - check.needed,
            )


RULES = (space, glass)
