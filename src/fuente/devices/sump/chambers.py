"""New chambers with sensible contents, and the edits that add, move and take them out."""

from __future__ import annotations

import math

from fuente.catalogue import sheet
from fuente.devices.base import Change, Edit, Path
from fuente.devices.sump.plates import baffle_check
from fuente.devices.sump.spec import ROLE_NAMES, Baffle, Chamber, Fill, Pad, Role, Socks, Sump
from fuente.one_line import within

# Length along the sump in m: least, and wished.
WIDTHS: dict[str, tuple[float, float]] = {
    "inlet": (0.08, 0.14),
    "socks": (0.128, 0.14),
    "foam": (0.14, 0.18),
    "media": (0.1, 0.2),
    "moving_bed": (0.1, 0.22),
    "plants": (0.12, 0.25),
    "heater": (0.06, 0.1),
    "clean_out": (0.08, 0.12),
    "trap": (0.06, 0.09),
    "pump": (0.14, 0.22),
}


def new_chamber(
    role: Role,
    chamber_id: str,
    width: float,
    crest: float,
    across: float,
    deep: float,
    flow: float,
    heaters: tuple[int, float] = (0, 0.0),
) -> Chamber:
    """A chamber by the trade's rules of thumb.

    width m along the sump, crest m of its exit over the floor, across and deep m inside, flow m³/s, heaters (count, W).
    """
    shell = Baffle(top=crest, thickness=_baffle_thickness(across, crest))
    made = Chamber(
        id=chamber_id, role="inlet", width=width, exit=shell, heaters=heaters[0], heater_watts=heaters[1]
    ).model_dump()
    made["role"] = role
    if role == "socks":
        count = max(1, min(6, math.ceil(flow * 3.6e6 / 2500), int(across / 0.125)))
        made["socks"] = Socks(
            count=count,
            micron=250e-6,
            diameter=0.11,
            plate=round(min(crest + 0.045, deep - 0.01), 3),
            length=min(0.24, crest),
        )
        made["exit"]["teeth"] = 0.2
    elif role == "foam":
        total = width - 0.05
        height = round(min(crest + 0.055, deep - 0.012), 3)
        each = math.floor(total / 2 / 0.005 + 1e-9) * 0.005
        single = math.floor(total / 0.005 + 1e-9) * 0.005
        grades = ((20, each), (30, each)) if each >= 0.03 else ((20, single),)
        made["pads"] = tuple(Pad(ppi=p, thickness=round(t, 3), height=height) for p, t in grades)
    elif role == "media":
        made["fill"] = Fill(
            medium="ring", volume=round(width * across * min(crest + 0.04, deep - 0.02), 4), held="bags"
        )
    elif role == "moving_bed":
        made["fill"] = Fill(medium="wheel_10", volume=round(width * across * crest * 0.5, 4), held="loose")
        made["exit"].update(teeth=0.4, tooth_gap=0.006)
    elif role == "trap":
        gap = max(math.ceil(flow / (across * 0.14) / 0.005 - 1e-9) * 0.005, 0.03)
        top = min(round(crest + 0.06, 3), round(deep - 0.005, 3))
        made["under"] = Baffle(top=top, gap=round(gap, 3), thickness=0.006)
    elif role == "clean_out":
        made["exit"]["top"] = round(crest * 0.75, 3)
    return Chamber.model_validate(made)


def _baffle_thickness(across: float, crest: float) -> float:
    trial = Baffle(top=crest, thickness=0.006)
    only = Chamber(id="pump", role="pump", level=0.05)
    box = Sump(width=across + 0.012, height=crest + 0.1, thickness=0.006, chambers=(only,))
    better = sheet("glass", max(0.006, baffle_check(box, trial).needed))
    return better.thickness if better else 0.019


def commands(sump: Sump, index: int, path: Path, flow: float) -> tuple[tuple[str, Edit], ...]:
    """What can be done to the row of chambers at one of them: add after or before it, move, take out; and its pads."""
    chambers = sump.chambers
    chamber = chambers[index]
    last = index == len(chambers) - 1
    where = (*path, "chambers")
    found: list[tuple[str, Edit]] = []
    at = index if last else index + 1
    side = "before" if last else "after"
    for role, name in ROLE_NAMES.items():
        made = _addition(sump, at, role, flow) if role != "pump" else None
        if made is not None:
            row = (*chambers[:at], made, *chambers[at:])
            found.append((f"Add {within(name)} {side} it", Edit(f"Add {within(name)}", (Change(where, row),))))
    if not last:
        if index > 0:
            row = (*chambers[: index - 1], chamber, chambers[index - 1], *chambers[index + 1 :])
            found.append(("Move it upstream", Edit(f"Move {within(chamber.title)}", (Change(where, row),))))
        if index < len(chambers) - 2:
            row = (*chambers[:index], chambers[index + 1], chamber, *chambers[index + 2 :])
            found.append(("Move it downstream", Edit(f"Move {within(chamber.title)}", (Change(where, row),))))
        row = (*chambers[:index], *chambers[index + 1 :])
        found.append(("Take it out", Edit(f"Take out {within(chamber.title)}", (Change(where, row),))))
    found += _pads(chamber, (*where, index))
    return tuple(found)


def _addition(sump: Sump, at: int, role: str, flow: float) -> Chamber | None:
    """A chamber that takes its length from the pump chamber; None where that has none to give."""
    least, wish = WIDTHS[role]
    spare = sump.widths()[-1] - 0.1 - 0.006
    if spare < least:
        return None
    before = sump.chambers[at - 1].exit if at > 0 else None
    after = sump.chambers[at].exit if at < len(sump.chambers) else None
    crests = [b.top for b in (before, after) if b]
    crest = (
        sum(crests) / len(crests)
        if len(crests) == 2
        else (crests[0] - 0.01 if crests else sump.chambers[-1].level + 0.03)
    )
    ids = {c.id for c in sump.chambers}
    stem = role.replace("_", "-")
    number = next(n for n in range(1, 99) if f"{stem}-{n}" not in ids)
    try:
        return new_chamber(
            role,  # type: ignore[arg-type]
            f"{stem}-{number}",
            round(min(wish, spare), 3),
            round(min(max(crest, 0.06), sump.inner_height - 0.02), 3),
            sump.inner_width,
            sump.inner_height,
            max(flow, 1e-5),
        )
    except ValueError:
        return None


def _pads(chamber: Chamber, where: Path) -> list[tuple[str, Edit]]:
    if chamber.role == "media" and chamber.lies:
        return _pads_on_media(chamber, where)
    if chamber.role != "foam":
        return []
    found = []
    total = sum(p.thickness for p in chamber.pads)
    finest = chamber.pads[-1]
    room = chamber.lies or total + 0.03 < chamber.width - 0.005
    if room and len(chamber.pads) < 8:
        more = Pad(ppi=min(finest.ppi + 10, 60), thickness=0.025, height=finest.height)
        found.append(("Add a finer pad", Edit("Add pad", (Change((*where, "pads"), (*chamber.pads, more)),))))
    if len(chamber.pads) > 1:
        found.append(("Take out the last pad", Edit("Take out pad", (Change((*where, "pads"), chamber.pads[:-1]),))))
    return found


def _pads_on_media(chamber: Chamber, where: Path) -> list[tuple[str, Edit]]:
    """A pad that lies on the basket: before the media where water comes down, after it where water comes up."""
    found = []
    if len(chamber.pads) < 4:
        more = Pad(ppi=20 if chamber.way == "down" else 30, thickness=0.03)
        found.append(("Lay a pad on it", Edit("Lay pad", (Change((*where, "pads"), (*chamber.pads, more)),))))
    if chamber.pads:
        found.append(("Take the last pad off", Edit("Take pad off", (Change((*where, "pads"), chamber.pads[:-1]),))))
    return found
