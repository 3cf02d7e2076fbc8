"""What Fuente would change of a return: outlets, siphons, flow, its pump."""

from __future__ import annotations

import math
from collections.abc import Iterable

from fuente.catalogue import wider_pipe
from fuente.devices.base import Basin, Change, Edit, Finding, Path, Rank
from fuente.devices.contract import Study
from fuente.devices.lamps import ALGAE, dose, lamp_old
from fuente.devices.pumping import judge_pump, pump_for
from fuente.devices.return_line.card import law_in
from fuente.devices.return_line.network import curve, end_of, hole_works, link_id
from fuente.devices.return_line.spec import OutletSpec, ReturnSpec
from fuente.devices.rules import judged_by
from fuente.devices.site import Site
from fuente.network.model import Solution
from fuente.network.returning import ReturnLine
from fuente.one_line import within
from fuente.water.properties import Water

FAST_OUTLET = 1.5  # m/s
FAST_PIPE = 2.0  # m/s
HOLE = 0.006  # m, a usual air hole
LARGEST_HOLE = 0.012


def _well(line: ReturnSpec, site: Site) -> str:
    return site.vessels[line.source].port("pump").leave


def outlets(line: ReturnSpec, site: Site, study: Study) -> Iterable[Finding]:
    """Outlets over the water, which splash and cost head."""
    solution, tank, path = study.running, end_of(line, site), line.path
    found: list[Finding] = []
    level = solution.level[tank.id] - tank.floor
    for k, outlet in enumerate(line.outlets):
        if outlet.height > level + 1e-4:
            edit = Edit(
                f"Lower {within(outlet.name)}", (Change((*path, "outlets", k, "height"), round(level - 0.02, 3)),)
            )
            found.append(
                Finding(
                    "outlet-dry",
                    Rank.CONSIDER,
                    f"{outlet.name} ends {{over:level}} over the water and splashes.",
                    "It also costs its height in head. Some builders want the splash for air.",
                    line.id,
                    {"over": outlet.height - level},
                    "Lower outlet",
                    edit,
                )
            )
    found += _fast(line, solution, path)
    return tuple(found)


def _fast(line: ReturnSpec, solution: Solution, path: Path) -> list[Finding]:
    """Outlets whose water is heard and blows sand about."""
    law = solution.network.link(link_id(line)).law
    assert isinstance(law, ReturnLine)
    total = sum(o.conductance for o in law.outlets)
    flow = max(solution.flow[link_id(line)], 0.0)
    found = []
    for k, (spec, outlet) in enumerate(zip(line.outlets, law.outlets, strict=True)):
        speed = flow * outlet.conductance / total / (math.pi / 4 * outlet.bore**2)
        if speed > FAST_OUTLET and spec.form == "open":
            wider = wider_pipe(spec.pipe)
            where = (*path, "outlets", k)
            edit = Edit(f"Widen {within(spec.name)}", (Change((*where, "pipe"), wider),)) if wider else None
            found.append(
                Finding(
                    "outlet-fast",
                    Rank.CONSIDER,
                    f"Water leaves {within(spec.name)} at {{speed:speed}}.",
                    "Over {1.5:speed} it is heard, tires fish and blows sand about; a wider outlet, a spray bar, or one"
                    " outlet more.",
                    line.id,
                    {"speed": speed},
                    "Wider outlet" if edit else "",
                    edit,
                    FAST_OUTLET - speed,
                )
            )
    return found


def back_siphon(line: ReturnSpec, site: Site, study: Study) -> Iterable[Finding]:
    """A check valve leaks: outlets need an air hole or a place near the surface."""
    cut = study.situation("power_cut")
    leak = study.situation("valve_leaks")
    more = leak.numbers["back"] + leak.numbers["spilled"] - cut.numbers["back"] - cut.numbers["spilled"]
    wanted = site.space.margin
    short = leak.numbers["left"] < wanted - 1e-6 or leak.numbers["spilled"] > 1e-7
    water, tank = site.water, end_of(line, site)
    floor = site.vessels[line.source].floor
    # Where no weir says how far a vessel drains, it is how it stands after a power cut.
    stands = cut.solution.level[tank.id] - tank.floor
    crest = study.drained_to(tank.id) if line.tank in site.homes else stands
    running = study.running.level[tank.id] - tank.floor
    height = round(min(crest + 0.002, running - 0.003), 4)
    works = [o.hole > 0 and hole_works(line, tank, o, floor, water) for o in line.outlets]
    breaks = [max(o.height, o.hole_height) if w else o.height for o, w in zip(line.outlets, works, strict=True)]
    depth = crest - max(breaks)  # air that one of them draws stops all
    if depth < 0.004 or more < 2e-4:
        return
    # A hole that is there is mended; else the highest outlet is the one to drill.
    holed = [k for k, o in enumerate(line.outlets) if o.hole > 0]
    k = max(holed or range(len(breaks)), key=lambda k: breaks[k])
    outlet = line.outlets[k]
    base: Path = (*line.path, "outlets", k)
    size = HOLE
    while size < LARGEST_HOLE and not _would_work(line, tank, outlet, size, height, floor, water):
        size += 0.001
    edit = Edit(
        f"Add air hole to {within(outlet.name)}",
        (Change((*base, "hole"), round(size, 4)), Change((*base, "hole_height"), height)),
    )
    small = outlet.hole > 0 and not works[k]
    words = "has too small an air hole" if small else "has no air hole" if outlet.hole <= 0 else "has a low air hole"
    values = {
        "back": more,
        "depth": depth,
        "left": max(leak.numbers["left"], 0),
        "spilled": leak.numbers["spilled"],
    }
    end = (
        ", and {spilled:volume} of it onto the floor."
        if leak.numbers["spilled"] > 1e-7
        else "; {left:level} would be left in the sump."
    )
    under = "under the crest" if line.tank in site.homes else "under its water"
    yield Finding(
        "no-air-hole",
        Rank.STOP if leak.numbers["spilled"] > 1e-7 else Rank.FIX if short else Rank.CONSIDER,
        f"{outlet.name} {words}: {{back:volume}} would siphon back past a leaking check valve{end}",
        "A check valve sticks or leaks sooner or later, so the protection must be passive: an air hole just under"
        f" the waterline lets air in once the level falls. The outlet lies {{depth:level}} {under}. Keep the"
        " valve as the second line. Try the hole wet.",
        line.id,
        values,
        "Add air hole" if outlet.hole <= 0 else "Mend air hole",
        edit,
        leak.numbers["left"] - wanted,
    )


def _would_work(
    line: ReturnSpec, tank: Basin, outlet: OutletSpec, size: float, height: float, floor: float, water: Water
) -> bool:
    trial = outlet.model_copy(update={"hole": size, "hole_height": height})
    return hole_works(line, tank, trial, floor, water)


def air_hole_dry(line: ReturnSpec, site: Site, study: Study) -> Iterable[Finding]:
    """An air hole over the running water sprays and sucks air."""
    tank = end_of(line, site)
    running = study.running.level[tank.id] - tank.floor
    for k, outlet in enumerate(line.outlets):
        if outlet.hole > 0 and outlet.hole_height > running + 1e-4:
            height = round(running - 0.004, 4)
            yield Finding(
                "air-hole-dry",
                Rank.CONSIDER,
                f"{outlet.name}'s air hole is {{over:level}} above the running water and will spray.",
                "It should lie just under the running waterline.",
                line.id,
                {"over": outlet.hole_height - running},
                "Lower air hole",
                Edit("Lower air hole", (Change((*line.path, "outlets", k, "hole_height"), height),)),
            )


def turnover(line: ReturnSpec, site: Site, study: Study) -> Iterable[Finding]:
    """Flow wanted against flow got."""
    if line.tank not in site.homes:
        return  # a vessel's water is not turned over for animals
    wanted = site.space.turnover
    flow = study.running.flow[link_id(line)]
    volume = study.running.volume[line.tank]
    other = study.moved(study.running, line.tank) - flow  # by filters of its own, and by other returns
    got = (flow + other) / volume
    values = {"got": got, "wanted": wanted, "flow": flow}
    if got < 0.9 * wanted:
        need = wanted * volume - other
        law = law_in(line, study.running)
        lift = law.lift(study.running.level[_well(line, site)], study.running.level[line.tank])
        head = lift + law.loss(need)[0]
        stronger = pump_for(line.pump.max_head, line.pump.max_flow, head, need)
        base: Path = (*line.path, "pump")
        edit = Edit(
            "Take a stronger pump",
            (
                Change((*base, "max_head"), stronger[0]),
                Change((*base, "max_flow"), stronger[1]),
                Change((*base, "points"), ()),
                Change((*base, "speed"), 1.0),
                Change((*base, "name"), "Return pump"),
            ),
        )
        yield Finding(
            "turnover",
            Rank.FIX,
            "The tank turns over {got:per_hour}; you want {wanted:per_hour}.",
            "At the real head the pump gives {flow:flow}. A pump with this curve, or a wider pipe, would do.",
            line.id,
            values,
            "Stronger pump",
            edit,
            got - 0.9 * wanted,
        )
    elif flow / volume > 1.6 * wanted:
        yield Finding(
            "turnover-high",
            Rank.CONSIDER,
            "The tank turns over {got:per_hour}, more than the {wanted:per_hour} you want.",
            "Slow it on the outlet side or by the pump's speed, never at its intake.",
            line.id,
            values,
            "Slow the pump",
            _slower(line, site, study, max(wanted * volume - other, 0.5 * wanted * volume)),
            1.6 * wanted - got,
        )


def _slower(line: ReturnSpec, site: Site, study: Study, need: float) -> Edit | None:
    law = law_in(line, study.running)
    lift = law.lift(study.running.level[_well(line, site)], study.running.level[line.tank])
    head = lift + law.loss(need)[0]
    for percent in range(95, 19, -5):
        speed = percent / 100
        if curve(line.model_copy(update={"pump": line.pump.model_copy(update={"speed": speed})})).head(need) < head:
            best = min(speed + 0.05, 1.0)
            return (
                None
                if best >= line.pump.speed
                else Edit("Slow the pump", (Change((*line.path, "pump", "speed"), best),))
            )
    return None


def guessed_curve(line: ReturnSpec, site: Site, study: Study) -> Iterable[Finding]:
    """Box numbers only."""
    if curve(line).is_guess:
        flow = study.running.flow[link_id(line)]
        yield Finding(
            "pump-guess",
            Rank.CONSIDER,
            "The flow of {flow:flow} rests on the pump's rated head and flow: about ±15 %.",
            "A curve of points from its maker, or a timed bucket at the outlet, makes it sure.",
            line.id,
            {"flow": flow},
        )


def fast_return(line: ReturnSpec, site: Site, study: Study) -> Iterable[Finding]:
    """Fast water in the rising pipe costs head."""
    flow = study.running.flow[link_id(line)]
    law = law_in(line, study.running)
    speed = flow / law.pipe.area
    if speed > FAST_PIPE:
        edit = _wider(line.path, line.pipe)
        yield Finding(
            "return-fast",
            Rank.FIX if speed > 1.5 * FAST_PIPE else Rank.CONSIDER,
            "Water runs at {speed:speed} in the return and loses {lost:head}.",
            "Under {2:speed} friction stays small against the lift.",
            line.id,
            {"speed": speed, "lost": law.loss(flow)[0]},
            "Wider pipe" if edit else "",
            edit,
            FAST_PIPE - speed,
        )


def _wider(path: Path, pipe: str) -> Edit | None:
    wider = wider_pipe(pipe)
    return Edit("Widen pipe", (Change((*path, "pipe"), wider),)) if wider else None


def pump(line: ReturnSpec, site: Site, study: Study) -> Iterable[Finding]:
    """What every pump is asked."""
    flow, level = max(study.running.flow[link_id(line)], 0.0), study.running.level[_well(line, site)]
    floor = site.vessels[line.source].floor
    yield from judge_pump(line.pump, (*line.path, "pump"), line.id, flow, level, floor, site.water)


def lamp(line: ReturnSpec, site: Site, study: Study) -> Iterable[Finding]:
    """A steriliser that the flow passes too fast, or whose lamp is old."""
    if line.lamp is None:
        return
    given = dose(line.lamp, max(study.running.flow[link_id(line)], 0.0))
    if 0 < given < ALGAE:
        stronger = math.ceil(line.lamp.watts * 1.1 * ALGAE / given)
        edit = Edit("Stronger lamp", (Change((*line.path, "lamp", "watts"), float(stronger)),))
        yield Finding(
            "dose-low",
            Rank.FIX,
            "Water gets {dose:number} J/m² of ultraviolet: too little even for green water.",
            "150 clear green water, 450 are what most germs want. In the return all of the flow passes the lamp: a"
            " stronger or longer one, or a loop of its own with slow water. A factor of two.",
            line.id,
            {"dose": given},
            "Stronger lamp" if stronger <= 400 else "",
            edit if stronger <= 400 else None,
            given - ALGAE,
        )
    yield from lamp_old(line.lamp, line.id, (*line.path, "lamp"))


judge = judged_by(lamp, outlets, back_siphon, air_hole_dry, turnover, guessed_curve, fast_return, pump)
