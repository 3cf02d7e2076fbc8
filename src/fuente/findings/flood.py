"""Floods and levels: what happens when the power fails, a valve leaks, a drain blocks, water evaporates."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.overflow.modes import state
from fuente.devices.overflow.network import cell_id
from fuente.devices.return_line.network import hole_works
from fuente.devices.sump.network import cell_ids
from fuente.study.analysis import Analysis, Situation
from fuente.study.sites import water_of

HOLE = 0.006  # m, a usual air hole
LARGEST_HOLE = 0.012
_TANK_MARGIN = 0.010  # m under a tank's rim with a drain blocked


def _mark_path(analysis: Analysis) -> Path:
    index = [d.id for d in analysis.system.devices].index(analysis.sump.id)
    return ("devices", index, "chambers", len(analysis.sump.chambers) - 1, "level")


def lower_mark(analysis: Analysis, litres: float) -> Edit | None:
    """Take water out of the system by a lower running mark; None where the pump would then run short."""
    sump = analysis.sump
    pump = sump.chambers[-1]
    area = sump.widths()[-1] * sump.inner_width
    level = pump.level - litres / area
    level = int(level * 1000) / 1000
    if level < pump.intake + 0.05:
        return None
    return Edit("Lower running level", (Change(_mark_path(analysis), round(level, 4)),))


def _taller(analysis: Analysis, missing: float) -> Edit:
    """A taller sump, by a missing height in m, on the next 10 mm."""
    joined = {analysis.sump.id}
    for _ in analysis.system.joins:
        for join in analysis.system.joins:
            if join.style == "level" and (join.first in joined or join.second in joined):
                joined |= {join.first, join.second}
    changes = []
    for index, sump in enumerate(analysis.system.devices):
        if sump.id in joined:
            height = round(-(-(sump.height + missing / len(joined)) // 0.01) * 0.01, 3)
            changes.append(Change(("devices", index, "height"), height))
    return Edit("Raise the sump's walls" if len(joined) == 1 else "Raise the sumps' walls", tuple(changes))


def _overfull(analysis: Analysis, name: str, code: str, words: str, why: str) -> Iterable[Finding]:
    situation = analysis.situation(name)
    left, spilled = situation.numbers["left"], situation.numbers["spilled"]
    wanted = analysis.system.space.margin
    if left >= wanted - 1e-6 and spilled < 1e-7:
        return
    sump = analysis.sump
    plan = sump.inner_length * sump.inner_width
    excess = spilled + max(wanted - max(left, 0.0), 0.0) * plan
    edit = lower_mark(analysis, excess * 1.02)
    action = "Lower running level"
    if edit is None:
        edit, action = _taller(analysis, excess / plan), "Raise sump walls"
    values = {
        "left": max(left, 0.0),
        "spilled": spilled,
        "wanted": wanted,
        "back": situation.numbers["back"] + spilled,
        "excess": excess,
    }
    if spilled > 1e-7:
        text = words + " puts {spilled:volume} on the floor: {back:volume} come down and the sump has no room for them."
        rank = Rank.STOP
    else:
        text = words + " leaves {left:length} in the sump; you want {wanted:length}."
        rank = Rank.FIX
    yield Finding(
        code,
        rank,
        text,
        why + " {back:volume} come down; {excess:volume} less water in the system would do.",
        f"{sump.id}.{sump.chambers[-1].id}",
        values,
        action,
        edit,
        left - wanted,
    )


def power_cut(analysis: Analysis) -> Iterable[Finding]:
    """The sump takes what stands above the weir and in the boxes."""
    yield from _overfull(
        analysis,
        "power_cut",
        "power-cut",
        "A power cut",
        "When the pump stops, everything above the weir and in the overflow box runs down.",
    )


def back_siphon(analysis: Analysis) -> Iterable[Finding]:
    """A check valve leaks: outlets need an air hole or a place near the surface."""
    cut = analysis.situation("power_cut")
    leak = analysis.situation("valve_leaks")
    more = leak.numbers["back"] + leak.numbers["spilled"] - cut.numbers["back"] - cut.numbers["spilled"]
    wanted = analysis.system.space.margin
    short = leak.numbers["left"] < wanted - 1e-6 or leak.numbers["spilled"] > 1e-7
    water = water_of(analysis.system)
    blamed = False
    for i, line in enumerate(analysis.system.returns):
        tank = analysis.system.tank(line.tank)
        device = analysis.system.device(line.source)
        crest = analysis.crest_of(tank)
        running = analysis.running.level[tank.id] - tank.floor
        height = round(min(crest + 0.002, running - 0.003), 4)
        for k, outlet in enumerate(line.outlets):
            base: Path = ("returns", i, "outlets", k)
            works = outlet.hole > 0 and hole_works(line, tank, outlet, device.floor, water)
            breaks = max(outlet.height, outlet.hole_height) if works else outlet.height
            depth = crest - breaks
            if depth < 0.004 or more < 2e-4:
                continue
            size = HOLE
            while size < LARGEST_HOLE and not _would_work(line, tank, outlet, size, height, device.floor, water):
                size += 0.001
            edit = Edit(
                f"Add air hole to {outlet.name.lower()}",
                (Change((*base, "hole"), round(size, 4)), Change((*base, "hole_height"), height)),
            )
            small = outlet.hole > 0 and not works
            words = (
                "has too small an air hole"
                if small
                else "has no air hole"
                if outlet.hole <= 0
                else "has a low air hole"
            )
            values = {
                "back": more,
                "depth": depth,
                "left": max(leak.numbers["left"], 0),
                "spilled": leak.numbers["spilled"],
            }
            end = (
                ", and {spilled:volume} of it onto the floor."
                if leak.numbers["spilled"] > 1e-7
                else "; {left:length} would be left in the sump."
            )
            blamed = True
            yield Finding(
                "no-air-hole",
                Rank.STOP if leak.numbers["spilled"] > 1e-7 else Rank.FIX if short else Rank.CONSIDER,
                f"{outlet.name} {words}: {{back:volume}} would siphon back past a leaking check valve{end}",
                "A check valve sticks or leaks sooner or later, so the protection must be passive: an air hole just under the "
                "waterline lets air in once the level falls. The outlet lies {depth:length} under the crest. Keep the valve as "
                "the second line. Try the hole wet.",
                line.id,
                values,
                "Add air hole" if outlet.hole <= 0 else "Mend air hole",
                edit,
                leak.numbers["left"] - wanted,
            )
    if short and not blamed:
        yield from _overfull(
            analysis, "valve_leaks", "valve-leaks", "A leaking check valve", "Outlets siphon back to their air holes."
        )


def _would_work(line, tank, outlet, size, height, floor, water) -> bool:  # type: ignore[no-untyped-def]
    trial = outlet.model_copy(update={"hole": size, "hole_height": height})
    return hole_works(line, tank, trial, floor, water)


def air_hole_dry(analysis: Analysis) -> Iterable[Finding]:
    """An air hole over the running water sprays and sucks air."""
    for i, line in enumerate(analysis.system.returns):
        tank = analysis.system.tank(line.tank)
        running = analysis.running.level[tank.id] - tank.floor
        for k, outlet in enumerate(line.outlets):
            if outlet.hole > 0 and outlet.hole_height > running + 1e-4:
                height = round(running - 0.004, 4)
                yield Finding(
                    "air-hole-dry",
                    Rank.CONSIDER,
                    f"{outlet.name}'s air hole is {{over:length}} above the running water and will spray.",
                    "It should lie just under the running waterline.",
                    line.id,
                    {"over": outlet.hole_height - running},
                    "Lower air hole",
                    Edit("Lower air hole", (Change(("returns", i, "outlets", k, "hole_height"), height),)),
                )


def running_spill(analysis: Analysis) -> Iterable[Finding]:
    """Water over a rim while it runs."""
    running = analysis.running
    for link_id, flow in running.spilling.items():
        link = next(k for k in running.network.links if k.id == link_id)
        cell = running.network.cell(link.a)
        yield Finding(
            "running-spill",
            Rank.STOP,
            f"{cell.name} runs over its rim: {{flow:flow}} onto the floor.",
            "The next crest, drain or pad needs more height than the walls have.",
            cell.owner,
            {"flow": flow},
        )


def tank_full(analysis: Analysis) -> Iterable[Finding]:
    """Little room over the running water in the tank."""
    for tank in analysis.system.tanks:
        left = analysis.running.freeboard(tank.id)
        for i, over in enumerate(analysis.system.overflows):
            if over.tank == tank.id and 0 < left < 0.015:
                crest = round(over.crest - (0.02 - left), 4)
                yield Finding(
                    "tank-full",
                    Rank.FIX,
                    "The tank runs {left:length} under its rim; waves and a blocked tooth take more.",
                    "Keep 15 mm at least, 20 mm after this change.",
                    over.id,
                    {"left": left},
                    "Lower crest",
                    Edit("Lower overflow crest", (Change(("overflows", i, "crest"), crest),)),
                    left - 0.015,
                )


def drain_blocked(analysis: Analysis) -> Iterable[Finding]:
    """The pump goes on while the drain is shut."""
    blocked = analysis.situation("drain_blocked")
    spilled, left = blocked.numbers["spilled"], blocked.numbers["left"]
    values = {"spilled": spilled, "left": max(left, 0), "rise": blocked.numbers["rise"], "flow": analysis.flow}
    for i, over in enumerate(analysis.system.overflows):
        tank = analysis.system.tank(over.tank)
        roles = [d.role for d in over.drains]
        volume = analysis.running.volume[tank.id]
        emergency = roles.index("emergency") if "emergency" in roles else None
        if spilled > 1e-7:
            if emergency is not None:
                edit, action = _bigger_drain(analysis, i, emergency), "Widen emergency"
            else:
                edit, action = add_emergency(analysis, i), "Add emergency"
            yield Finding(
                "drain-blocked",
                Rank.STOP,
                "With the drain blocked the pump puts {spilled:volume} over the tank's rim.",
                "The pump keeps pumping. Either the tank can hold the whole pump chamber above its weir, or an emergency drain "
                "takes the full flow.",
                f"{over.id}.drains",
                values,
                action if edit else "",
                edit,
                left - _TANK_MARGIN,
            )
        elif left < _TANK_MARGIN and emergency is not None:
            edit = _bigger_drain(analysis, i, emergency)
            yield Finding(
                "drain-blocked",
                Rank.FIX,
                "With the drain blocked the tank rises to {left:length} under its rim before the emergency takes {flow:flow}.",
                "Leave 10 mm for waves.",
                f"{over.id}.drains",
                values,
                "Widen emergency" if edit else "",
                edit,
                left - _TANK_MARGIN,
            )
        if emergency is None and volume > 0.4 and spilled <= 1e-7:
            yield Finding(
                "no-emergency",
                Rank.CONSIDER,
                "There is no emergency drain; if the drain blocks the pump chamber runs dry.",
                "The tank can hold the water, but the pump then runs without. Above 400 L most builders add a dry pipe.",
                f"{over.id}.drains",
                values,
                "Add emergency",
                add_emergency(analysis, i),
            )
        if emergency is not None and state(over, emergency, analysis.running).flow > 1e-7:
            level = analysis.running.level[cell_id(over)] - tank.floor
            mouth = round(min(level + 0.012, over.crest - 0.002), 4)
            wet = state(over, emergency, analysis.running).flow
            yield Finding(
                "emergency-wet",
                Rank.FIX,
                "The emergency drain carries {wet:flow} while all is well.",
                "It must stay dry and free, so that water in it is heard and tells you that something is wrong.",
                f"{over.id}.drains",
                {"wet": wet},
                "Raise its mouth",
                Edit("Raise emergency mouth", (Change(("overflows", i, "drains", emergency, "mouth"), mouth),)),
            )


def _bigger_drain(analysis: Analysis, overflow: int, drain: int) -> Edit | None:
    from fuente.catalogue import PIPES, pipe_size

    over = analysis.system.overflows[overflow]
    now = pipe_size(over.drains[drain].pipe)
    larger = sorted(
        (
            p
            for p in PIPES.values()
            if p.family == now.family and p.bore > now.bore * 1.08 and _same_grade(p.id, now.id)
        ),
        key=lambda p: p.bore,
    )
    if not larger:
        return None
    path: Path = ("overflows", overflow, "drains", drain, "pipe")
    return Edit("Widen drain", (Change(path, larger[0].id),))


def _same_grade(a: str, b: str) -> bool:
    return a.rsplit("-", 1)[-1] == b.rsplit("-", 1)[-1]


def add_emergency(analysis: Analysis, overflow: int) -> Edit:
    """A dry pipe of the main drain's next size, a little over the running water in the box."""
    from fuente.devices.overflow.spec import Drain

    over = analysis.system.overflows[overflow]
    tank = analysis.system.tank(over.tank)
    widest = max(over.drains, key=lambda d: d.mouth)
    level = analysis.running.level[cell_id(over)] - tank.floor
    mouth = min(max(level + 0.012, widest.mouth + 0.02), over.crest - 0.005)
    dry = Drain(role="emergency", pipe=widest.pipe, mouth=round(mouth, 3), run=widest.run, fittings=widest.fittings)
    return Edit("Add emergency drain", (Change(("overflows", overflow, "drains"), (*over.drains, dry)),))


def evaporated(analysis: Analysis) -> Iterable[Finding]:
    """Days until the pump sucks air."""
    dry = analysis.situation("evaporated")
    days = dry.numbers["days"]
    if days >= 7 * 86400:
        return
    rate = dry.numbers["rate"]
    sump = analysis.sump
    pump = sump.chambers[-1]
    cut = analysis.situation("power_cut")
    spare = max(
        min(cut.numbers["left"], analysis.situation("valve_leaks").numbers["left"]) - analysis.system.space.margin, 0
    )
    plan = sump.inner_length * sump.inner_width
    area = sump.widths()[-1] * sump.inner_width
    level = int((pump.level + 0.95 * spare * plan / area) * 1000) / 1000
    level = min(level, min((c.exit.top for c in sump.chambers if c.exit), default=1.0) - 0.01)
    edit = None
    if level > pump.level + 0.004:
        edit = Edit("Raise running level", (Change(_mark_path(analysis), round(level, 4)),))
    yield Finding(
        "evaporation",
        Rank.FIX if days < 3 * 86400 else Rank.CONSIDER,
        "Without top-up the pump sucks air after {days:days}.",
        "About {rate:volume} evaporate a day, and only the pump chamber falls. "
        + ("A higher mark holds longer." if edit else "Plan a top-up; the freeboard allows no higher mark."),
        f"{sump.id}.{pump.id}",
        {"days": days, "rate": rate},
        "Raise level" if edit else "",
        edit,
        days - 3 * 86400,
    )


def pump_short(analysis: Analysis) -> Iterable[Finding]:
    """Dirty pads hold water back: does the pump chamber still cover the intake?"""
    dirty = analysis.situation("pads_dirty")
    sump = analysis.sump
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
        edit = Edit("Raise running level", (Change(_mark_path(analysis), round(pump.level + 0.03 - cover, 3)),))
        yield Finding(
            "pump-starved",
            Rank.FIX,
            "With dirty pads the pump keeps {cover:length} of water over its intake.",
            "Pads that clog hold their water upstream, and it is missing at the pump. Start higher, or use coarser pads.",
            f"{sump.id}.{pump.id}",
            {"cover": max(cover, 0.0)},
            "Raise level",
            edit,
            cover - 0.02,
        )


def mark_above_crest(analysis: Analysis) -> Iterable[Finding]:
    """A running mark above the last crest drowns the chambers."""
    sump = analysis.sump
    pump = sump.chambers[-1]
    before = sump.chambers[-2] if len(sump.chambers) > 1 else None
    if before and before.exit and pump.level > before.exit.top + 0.002 and before.role != "clean_out":
        over = pump.level - before.exit.top
        yield Finding(
            "mark-above-crest",
            Rank.CONSIDER,
            "The running level is {over:length} above the last crest: evaporation then lowers every chamber.",
            "While the mark is under the crest the chambers keep their level and only the pump chamber falls.",
            f"{sump.id}.{pump.id}",
            {"over": over},
            "Lower running level",
            Edit("Lower running level", (Change(_mark_path(analysis), round(before.exit.top - 0.01, 4)),)),
        )


def cleaning(analysis: Analysis) -> Iterable[Finding]:
    """Pumping out the dirty chamber: what comes along."""
    case = analysis.try_situation("cleaning")
    if not isinstance(case, Situation):
        return
    chamber = analysis.cleaned()
    sump = analysis.sump
    running = analysis.situation("power_cut").solution
    for other in sump.chambers:
        cells = cell_ids(sump, other)
        if other.id != chamber.id and other.heater_watts and case.solution.depth(cells[-1]) < 0.06:
            yield Finding(
                "cleaning-heater",
                Rank.CONSIDER,
                f"Emptying {chamber.title.lower()} bares the heaters in {other.title.lower()}.",
                "A heater that falls dry cracks or burns. Switch it off first, or keep that chamber apart by a baffle.",
                f"{sump.id}.{other.id}",
                {"depth": running.depth(cells[-1])},
            )


RULES = (
    running_spill,
    power_cut,
    back_siphon,
    air_hole_dry,
    tank_full,
    drain_blocked,
    evaporated,
    pump_short,
    mark_above_crest,
    cleaning,
)
