"""Upkeep of a sump, chamber by chamber and pad by pad."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.site import Site
from fuente.devices.sump.spec import Chamber, Sump
from fuente.devices.upkeep_words import BUCKET, OLD_WATER, PUMP_OFF, PUMP_ON, READ, SQUEEZE, WEEK
from fuente.network.model import Solution
from fuente.one_line import within


def care(sump: Sump, site: Site, solution: Solution) -> tuple[Task, ...]:
    """What comes round, by chamber."""
    tasks: list[Task] = []
    for chamber in sump.chambers:
        owner = f"{sump.id}.{chamber.id}"
        name = chamber.title
        if chamber.role == "socks":
            tasks.append(_socks(sump, chamber, owner))
        tasks += [_pad(sump, chamber, owner, k) for k in range(len(chamber.pads))]
        if chamber.role == "media":
            how = (PUMP_OFF, "Swish half of the media in the bucket, bag by bag", OLD_WATER, PUMP_ON)
            tasks.append(
                Task(
                    f"{owner}.media",
                    "Swish half of the media",
                    26 * WEEK,
                    "Never all at once.",
                    owner,
                    owner,
                    name,
                    25,
                    0.01,
                    BUCKET,
                    how,
                    living=True,
                    does="cleaned",
                    room=owner,
                )
            )
        if chamber.role in ("inlet", "clean_out"):
            siphon = (PUMP_OFF, "Siphon the muck off the floor; stop when the water comes clear", PUMP_ON)
            tasks.append(
                Task(
                    f"{owner}.muck",
                    f"Pump out {within(name)}",
                    4 * WEEK,
                    "Muck left in rots.",
                    owner,
                    owner,
                    name,
                    15,
                    0.01,
                    ("hose or small pump", "bucket"),
                    siphon,
                    does="cleaned",
                    room=owner,
                )
            )
    return tuple(tasks)


def _socks(sump: Sump, chamber: Chamber, owner: str) -> Task:
    """All of a chamber's at once."""
    count = chamber.socks.count if chamber.socks else 1
    how = (
        READ,
        "Lift each out slowly, so that nothing runs over its rim",
        "Put in clean, dry ones",
        "Wash the dirty ones inside out, without soap, and let them dry",
    )
    return Task(
        f"{owner}.socks",
        "Change the socks",
        WEEK,
        "Fine felt clogs within days.",
        owner,
        owner,
        chamber.title,
        4,
        0.0,
        ("clean socks", "bucket"),
        how,
        clogs=(f"{owner}.socks",),
        does="swapped",
        uses=(("sock", float(count)),),
    )


def _pad(sump: Sump, chamber: Chamber, owner: str, k: int) -> Task:
    """One pad; the others keep the living surface."""
    pad = chamber.pads[k]
    several = len(chamber.pads) > 1
    grade = f"{pad.ppi:g} ppi pad"
    finest = several and pad.ppi == max(p.ppi for p in chamber.pads)
    how = (
        READ,
        f"Lift the {grade} out, into the bucket, without wringing it over the water",
        OLD_WATER,
        SQUEEZE,
        "Put it back tight at every edge, and read the difference again",
    )
    return Task(
        f"{owner}.pad.{k}",
        f"Rinse the {grade}" + (f" of the {within(chamber.title)}" if not several or chamber.title else ""),
        2 * WEEK if finest else 4 * WEEK if several else 8 * WEEK,
        "One pad at a time, in old tank water: the others keep the living surface.",
        owner,
        f"{owner}.pad.{k}",
        f"{grade} of {within(chamber.title)}",
        12,
        0.01,
        BUCKET,
        how,
        living=True,
        clogs=(f"{owner}.pad.{k}",),
        does="cleaned",
        room=owner,
    )
