"""What Fuente would change of fresh water."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.rules import judged_by
from fuente.devices.site import Site
from fuente.devices.top_up.network import port_of
from fuente.devices.top_up.spec import TopUp


def room_of(spec: TopUp, site: Site, study: Study) -> float:
    """What it can take before it spills, m³: the filters together, or the one tank that it is led into."""
    if spec.into not in site.homes:
        return study.filter_room()
    cell = study.network.cell(spec.into)
    return cell.curve.volume(cell.rim) - study.running.volume[spec.into]


def top_up_stuck(spec: TopUp, site: Site, study: Study) -> Iterable[Finding]:
    """A reservoir that floods when its float sticks."""
    path, room = spec.path, room_of(spec, site, study)
    if spec.source == "reservoir" and spec.volume > room and not spec.waste:
        fits = max(round(room * 0.9 * 1000) / 1000, 0.001)
        edit = Edit("Shrink reservoir", (Change((*path, "volume"), fits),)) if room > 0.0015 else None
        yield Finding(
            "top-up-stuck",
            Rank.FIX,
            "A float stuck open lets {v:volume} in; the system takes {room:volume} before it spills.",
            "Floats stick on snails and lime. A reservoir that holds no more than the sump can take cannot flood you.",
            spec.id,
            {"v": spec.volume, "room": room},
            "Smaller reservoir" if edit else "",
            edit,
            room - spec.volume,
        )


def top_up_mains(spec: TopUp, site: Site, study: Study) -> Iterable[Finding]:
    """Mains water behind a float alone."""
    path = spec.path
    if spec.source == "mains" and not spec.waste:
        edit = Edit("Fit overflow to waste", (Change((*path, "waste"), True),))
        yield Finding(
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


def drip_low(spec: TopUp, site: Site, study: Study) -> Iterable[Finding]:
    """A drip that does not keep up with the air."""
    path, rate = spec.path, study.evaporation_rate()
    if spec.source == "drip" and spec.drip < rate:
        edit = Edit("Raise drip", (Change((*path, "drip"), rate * 1.5),))
        yield Finding(
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


def top_up_level(spec: TopUp, site: Site, study: Study) -> Iterable[Finding]:
    """A float set away from the running level."""
    path = spec.path
    port = port_of(spec, site)
    if spec.into in site.homes:
        mark = round(study.running.level[spec.into] - site.homes[spec.into].floor, 3)
    else:
        mark = port.level
    if spec.source in ("reservoir", "mains") and mark > 0 and abs(spec.level - mark) > 0.03:
        edit = Edit("Set float to the running level", (Change((*path, "level"), mark),))
        yield Finding(
            "top-up-level",
            Rank.FIX,
            "The float shuts at {level:level} and the running level is marked at {mark:level}.",
            "The float holds the running level; both should be one height.",
            spec.id,
            {"level": spec.level, "mark": mark},
            "Set float",
            edit,
        )


judge = judged_by(top_up_stuck, top_up_mains, drip_low, top_up_level)
