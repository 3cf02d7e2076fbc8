"""Floods and levels of a sump: power cut, leaking valve, evaporation, dirty pads, cleaning."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.site import Port, Site, Vessel
from fuente.devices.sump.spec import Sump, cell_ids
from fuente.devices.wells import lower_mark
from fuente.one_line import within

BARE = 0.06  # m of water, about what a heater that lies needs to stay covered


def _well(sump: Sump, site: Site) -> tuple[Vessel, Port]:
    vessel = site.vessels[sump.id]
    return vessel, vessel.port("pump")


def _first_pump(sump: Sump, study: Study) -> bool:
    """Whether the system's first pump stands in it: its chamber is the one that situations tell of."""
    vessel, well = study.wells()[0]
    return vessel.id == sump.id and bool(well.mark_path)


def _taller(sump: Sump, site: Site, missing: float) -> Edit:
    """A taller sump, by a missing height in m, on the next 10 mm; with it those that share its level."""
    joined = {sump.id}
    lines = [[e.to for e in d.ends()] for d in site.devices.values() if d.levels]
    for _ in lines:
        for ends in lines:
            if joined & {*ends}:
                joined |= {*ends}
    changes = []
    for other in site.devices.values():
        if isinstance(other, Sump) and other.id in joined:
            height = round(-(-(other.height + missing / len(joined)) // 0.01) * 0.01, 3)
            changes.append(Change((*other.path, "height"), height))
    return Edit("Raise the sump's walls" if len(joined) == 1 else "Raise the sumps' walls", tuple(changes))


def valve_leaks(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """A leaking check valve that no outlet is to blame for."""
    why = "Outlets siphon back to their air holes."
    for finding in _overfull(sump, site, study, "valve_leaks", "valve-leaks", "A leaking check valve", why):
        yield replace(finding, unless="no-air-hole")


def _overfull(sump: Sump, site: Site, study: Study, name: str, code: str, words: str, why: str) -> Iterable[Finding]:
    situation = study.situation(name)
    left, spilled = situation.numbers["left"], situation.numbers["spilled"]
    wanted = site.space.margin
    if left >= wanted - 1e-6 and spilled < 1e-7:
        return
    plan = sump.inner_length * sump.inner_width
    excess = spilled + max(wanted - max(left, 0.0), 0.0) * plan
    taller = "Raise sump walls", _taller(sump, site, excess / plan)
    others: tuple[tuple[str, Edit], ...]
    edit = lower_mark(*_well(sump, site), excess * 1.02)
    action, others = "Lower running level", (taller,)
    if edit is None:
        (action, edit), others = taller, ()
    values = {
        "left": max(left, 0.0),
        "spilled": spilled,
        "wanted": wanted,
        "back": situation.numbers["back"] + spilled,
        "excess": excess,
    }
    if spilled > 1e-7:
        text = (
            words + " puts {spilled:volume} on the floor: {back:volume} comes down and the sump has no room for them."
        )
        rank = Rank.STOP
    else:
        text = words + " leaves {left:level} in the sump; you want {wanted:level}."
        rank = Rank.FIX
    yield Finding(
        code,
        rank,
        text,
        why + " {back:volume} comes down; {excess:volume} less water in the system would do.",
        f"{sump.id}.{sump.chambers[-1].id}",
        values,
        action,
        edit,
        left - wanted,
        others=others,
    )


def power_cut(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """The sump takes what stands above the weir and in the boxes."""
    yield from _overfull(
        sump,
        site,
        study,
        "power_cut",
        "power-cut",
        "A power cut",
        "When the pump stops, everything above the weir and in the overflow box runs down.",
    )


def evaporated(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """Days until the pump sucks air."""
    if not _first_pump(sump, study):
        return
    dry = study.situation("evaporated")
    days = dry.numbers["days"]
    if days >= 7 * 86400:
        return
    rate = dry.numbers["rate"]
    pump = sump.chambers[-1]
    cut = study.situation("power_cut")
    spare = max(min(cut.numbers["left"], study.situation("valve_leaks").numbers["left"]) - site.space.margin, 0)
    plan = sump.inner_length * sump.inner_width
    area = sump.widths()[-1] * sump.inner_width
    level = int((pump.level + 0.95 * spare * plan / area) * 1000) / 1000
    level = min(level, min((c.exit.top for c in sump.chambers if c.exit), default=1.0) - 0.01)
    edit = None
    if level > pump.level + 0.004:
        edit = Edit("Raise running level", (Change(_well(sump, site)[1].mark_path, round(level, 4)),))
    yield Finding(
        "evaporation",
        Rank.FIX if days < 3 * 86400 else Rank.CONSIDER,
        "Without top-up the pump sucks air after {days:days}.",
        "About {rate:volume} evaporates a day, and only the pump chamber falls. "
        + ("A higher mark holds longer." if edit else "Plan a top-up; the freeboard allows no higher mark."),
        f"{sump.id}.{pump.id}",
        {"days": days, "rate": rate},
        "Raise level" if edit else "",
        edit,
        days - 7 * 86400,
    )


def pump_short(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """Dirty pads hold water back: does the pump chamber still cover the intake?"""
    if not _first_pump(sump, study):
        return
    dirty = study.situation("pads_dirty")
    pump = sump.chambers[-1]
    cover = dirty.numbers["level"] - pump.intake
    if dirty.numbers["spilled"] > 1e-7:
        yield Finding(
            "pads-spill",
            Rank.STOP,
            "With dirty pads {spilled:volume} goes over the rim.",
            "Dirty pads hold water back until it finds another way: give it one over the pads, under the rim.",
            sump.id,
            dict(dirty.numbers),
        )
    elif cover < 0.02:
        edit = Edit(
            "Raise running level", (Change(_well(sump, site)[1].mark_path, round(pump.level + 0.03 - cover, 3)),)
        )
        yield Finding(
            "pump-starved",
            Rank.FIX,
            "With dirty pads the pump keeps {cover:length} of water over its intake.",
            "Pads that clog hold their water upstream, and it is missing at the pump. Start higher, or use coarser"
            " pads.",
            f"{sump.id}.{pump.id}",
            {"cover": max(cover, 0.0)},
            "Raise level",
            edit,
            cover - 0.02,
        )


def mark_above_crest(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """A running mark above the last crest drowns the chambers."""
    if not _well(sump, site)[1].mark_path:
        return  # no pump stands in it
    pump = sump.chambers[-1]
    before = sump.chambers[-2] if len(sump.chambers) > 1 else None
    if before and before.exit and pump.level > before.exit.top + 0.002 and before.role != "clean_out":
        over = pump.level - before.exit.top
        yield Finding(
            "mark-above-crest",
            Rank.CONSIDER,
            "The running level is {over:level} above the last crest: evaporation then lowers every chamber.",
            "While the mark is under the crest the chambers keep their level and only the pump chamber falls.",
            f"{sump.id}.{pump.id}",
            {"over": over},
            "Lower running level",
            Edit("Lower running level", (Change(_well(sump, site)[1].mark_path, round(before.exit.top - 0.01, 4)),)),
        )


def cleaning(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """Pumping out the dirty chamber: what comes along."""
    case = study.try_situation("cleaning")
    if isinstance(case, Exception):
        return
    chamber = next((c for c in sump.chambers if case.about == f"{sump.id}.{c.id}"), None)
    if chamber is None:
        return
    for other in sump.chambers:
        cells = cell_ids(sump, other)
        depth = case.solution.depth(cells[-1])
        if other.id != chamber.id and other.heater_watts and depth < BARE:
            yield Finding(
                "cleaning-heater",
                Rank.CONSIDER,
                f"Emptying {within(chamber.title)} leaves {{depth:level}} of water round the heaters of"
                f" {within(other.title)}.",
                "A heater that falls dry cracks or burns. Switch it off first, or keep that chamber apart by a baffle.",
                f"{sump.id}.{other.id}",
                {"depth": depth},
                margin=depth - BARE,
            )


RULES = (power_cut, valve_leaks, evaporated, pump_short, mark_above_crest, cleaning)
