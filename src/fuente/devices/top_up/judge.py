"""What Fuente would change of fresh water."""

from __future__ import annotations

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.site import Site
from fuente.devices.top_up.spec import TopUp


def judge(spec: TopUp, site: Site, study: Study) -> tuple[Finding, ...]:
    """A float stuck open; a drip under what evaporates; a float off the running mark."""
    path, room, rate = spec.path, study.filter_room(), study.evaporation_rate()
    mark = site.vessels[spec.into].port("pump").level
    found: list[Finding] = []
    if spec.source == "reservoir" and spec.volume > room and not spec.waste:
        fits = max(round(room * 0.9 * 1000) / 1000, 0.001)
        edit = Edit("Shrink reservoir", (Change((*path, "volume"), fits),)) if room > 0.0015 else None
        found.append(
            Finding(
                "top-up-stuck",
                Rank.FIX,
                "A float stuck open lets {v:volume} in; the system takes {room:volume} before it spills.",
                "Floats stick on snails and lime. A reservoir that holds no more than the sump can take cannot flood"
                " you.",
                spec.id,
                {"v": spec.volume, "room": room},
                "Smaller reservoir" if edit else "",
                edit,
                room - spec.volume,
            )
        )
    if spec.source == "mains" and not spec.waste:
        edit = Edit("Fit overflow to waste", (Change((*path, "waste"), True),))
        found.append(
            Finding(
                "top-up-mains",
                Rank.STOP,
                "A float on the mains that sticks open fills {flow:flow} for as long as nobody looks.",
                "The mains never run dry. Fit an overflow to waste, or a reservoir in between; backflow protection by"
                " local code, by a licensed plumber.",
                spec.id,
                {"flow": spec.most},
                "Fit overflow",
                edit,
            )
        )
    if spec.source == "drip" and spec.drip < rate:
        edit = Edit("Raise drip", (Change((*path, "drip"), rate * 1.5),))
        found.append(
            Finding(
                "drip-low",
                Rank.FIX,
                "The drip gives {drip:volume} a day and {rate:volume} evaporates: the level falls.",
                "A drip must at least make up for evaporation.",
                spec.id,
                {"drip": spec.drip * 86400, "rate": rate * 86400},
                "Raise drip",
                edit,
                spec.drip - rate,
            )
        )
    if spec.source != "drip" and abs(spec.level - mark) > 0.03:
        edit = Edit("Set float to the running level", (Change((*path, "level"), mark),))
        found.append(
            Finding(
                "top-up-level",
                Rank.FIX,
                "The float shuts at {level:length} and the running level is marked at {mark:length}.",
                "The float holds the running level; both should be one height.",
                spec.id,
                {"level": spec.level, "mark": mark},
                "Set float",
                edit,
            )
        )
    return tuple(found)
