"""Rules for the whole system: what runs over, restart, shared water, temperatures, tanks without a way in or out."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices import kind_of
from fuente.devices.base import Finding, Rank
from fuente.devices.beside import BesideSpec
from fuente.devices.pieces import Face, Hole, Joint
from fuente.devices.plumbing_remedies import more_out, offered
from fuente.one_line import within
from fuente.study.analysis import Analysis
from fuente.study.movers import STILL, movers

LEAST_LEFT = 0.2  # of its flow that a tank should keep with one pump out; an assumption


def running_spill(analysis: Analysis) -> Iterable[Finding]:
    """Water over a rim while it runs."""
    running = analysis.running
    for link_id, flow in running.spilling.items():
        link = running.network.link(link_id)
        cell = running.network.cell(link.a)
        device = analysis.system.by_id.get(cell.owner)
        offers = more_out(device, running) if isinstance(device, BesideSpec) else ()
        found = Finding(
            "running-spill",
            Rank.STOP,
            f"{cell.name} runs over its rim: {{flow:flow}} onto the floor.",
            "The next crest, drain or pad needs more height than the walls have.",
            cell.owner,
            {"flow": flow},
        )
        yield offered(found, offers)


def dirty_spill(analysis: Analysis) -> Iterable[Finding]:
    """Dirty pads and beds of filters that hold water back over a rim; a sump tells of its own."""
    if analysis.has_sump:
        return
    dirty = analysis.situation("pads_dirty").solution
    if dirty.spilled > 1e-7:
        network = dirty.network
        over = min((c for c in network.cells if not c.sink), key=lambda c: c.rim - dirty.level[c.id])
        yield Finding(
            "pads-spill",
            Rank.STOP,
            f"With dirty pads {{spilled:volume}} goes over the rim of {within(over.name)}.",
            "Dirty pads and screens hold water back until it finds another way: give it one over them, under the rim.",
            over.owner,
            {"spilled": dirty.spilled},
        )


def restart(analysis: Analysis) -> Iterable[Finding]:
    """When the power comes back the pump lifts water before the drains run: can the sump spare it?"""
    if not analysis.has_sump:
        return
    cut, running = analysis.situation("power_cut").solution, analysis.running
    tanks = [t.id for t in analysis.system.tanks]
    known = {*tanks, *analysis.filter_cells()}
    boxes = [c.id for c in analysis.network.cells if c.id not in known and not c.sink]
    hold = sum(max(running.volume[c] - cut.volume[c], 0.0) for c in (*tanks, *boxes))
    hold += max(sum(running.held.values()) - sum(cut.held.values()), 0.0)
    vessel, well = analysis.wells()[0]
    cell = well.leave
    spare = cut.volume[cell] - analysis.network.cell(cell).curve.volume(vessel.floor + well.needs)
    if hold > 0.0005 and len(tanks) > 1 and spare < 0.5 * hold:
        yield Finding(
            "restart-dry",
            Rank.CONSIDER,
            "On restart tanks and pipes take {hold:volume} before they drain, and the pump chamber has {spare:volume}"
            " to give.",
            "Until the drains run full flow the pump may draw air. A longer pump chamber, or wider ways into it.",
            well.station,
            {"hold": hold, "spare": spare},
            margin=spare - 0.5 * hold,
        )


def shared_water(analysis: Analysis) -> Iterable[Finding]:
    """One water for tanks that should be apart."""
    if not any(t.apart for t in analysis.system.tanks):
        return
    tanks = {t.id: t for t in analysis.system.tanks}
    for body in analysis.bodies:
        inside = [tanks[c] for c in body if c in tanks]
        apart = [t for t in inside if t.apart]
        if apart and len(inside) > 1:
            who = apart[0].name if len(apart) == 1 else f"{len(apart)} tanks"
            yield Finding(
                "shared-water",
                Rank.FIX,
                f"{who} should share no water, and shares it with {len(inside) - len(apart) or len(inside) - 1}"
                " others.",
                "Disease in one tank can reach every tank on this water. Give it a filter of its own; a steriliser"
                " lowers the risk and does not end it.",
                apart[0].id,
            )


def temperatures(analysis: Analysis) -> Iterable[Finding]:
    """Tanks on one water have one temperature."""
    if len({t.temperature for t in analysis.system.tanks}) < 2:
        return
    tanks = {t.id: t for t in analysis.system.tanks}
    for body in analysis.bodies:
        inside = [tanks[c] for c in body if c in tanks]
        if len(inside) < 2:
            continue
        low, high = min(inside, key=lambda t: t.temperature), max(inside, key=lambda t: t.temperature)
        if high.temperature - low.temperature > 1.5:
            yield Finding(
                "one-temperature",
                Rank.CONSIDER,
                f"{low.name} wants {{low:temperature}} and {high.name} {{high:temperature}}, on one water.",
                "Turned over several times an hour they cannot differ by more than a fraction of a degree.",
                low.id,
                {"low": low.temperature, "high": high.temperature},
            )


def unfed(analysis: Analysis) -> Iterable[Finding]:
    """Tanks that get water and have no way out, or the other way round."""
    for tank in analysis.system.tanks:
        gives = analysis.supply(analysis.running, tank.id)
        if gives > 1e-7 and not analysis.drains(False, tank.id):
            yield Finding(
                "no-drain",
                Rank.STOP,
                f"{tank.name} gets {{flow:flow}} and has no drain: it runs over its rim.",
                "Water that comes in must have a way out.",
                tank.id,
                {"flow": gives},
            )
    fed = analysis.fed()
    alone = [t for t in analysis.system.tanks if t.id not in fed]
    if alone and len(alone) < len(analysis.system.tanks):
        yield Finding(
            "no-supply",
            Rank.CONSIDER,
            f"{alone[0].name} gets no water" + (f", nor do {len(alone) - 1} others." if len(alone) > 1 else "."),
            "It stands still until something feeds it.",
            alone[0].id,
        )


def slow_tanks(analysis: Analysis) -> Iterable[Finding]:
    """Turnover of tanks that no return feeds: what their own filters and pumps move against what is wanted."""
    wanted = analysis.space.turnover
    slow = {}
    for tank in analysis.system.tanks:
        moved = analysis.moved(analysis.running, tank.id)
        turns = moved / analysis.running.volume[tank.id]
        if moved > STILL and not analysis.supply(analysis.running, tank.id) > STILL and turns < 0.9 * wanted:
            slow[tank.id] = turns
    if slow:
        worst = min(slow, key=slow.__getitem__)
        more = f", and {len(slow) - 1} other tanks are under it too" if len(slow) > 1 else ""
        yield Finding(
            "turnover-slow",
            Rank.CONSIDER,
            f"{analysis.system.tank(worst).name} turns over {{got:per_hour}}; you want {{wanted:per_hour}}{more}.",
            "By all filters and pumps that move its water. Slow water can be enough where media carry the load: more"
            " air, another filter, or a smaller wish in the Brief.",
            worst,
            {"got": slow[worst], "wanted": wanted},
            margin=slow[worst] - 0.9 * wanted,
        )


def redundancy(analysis: Analysis) -> Iterable[Finding]:
    """Two movers or more: what is left when one fails."""
    every = movers(analysis)
    if len(every) < 2:
        return
    out = analysis.situation("pump_out")
    numbers = out.numbers
    mover = every[int(numbers["which"])]
    if numbers["spilled"] > 1e-7:
        yield Finding(
            "pump-out-spills",
            Rank.STOP,
            f"With {within(mover.name)} stopped {{spilled:volume}} run onto the floor.",
            "The others keep pumping, and the water finds no way back. Each vessel needs a way out that no pump"
            " drives, or room for what the others bring.",
            mover.owner,
            {"spilled": numbers["spilled"]},
        )
    elif numbers["share"] < LEAST_LEFT and numbers["tank"] >= 0:
        tank = analysis.system.tanks[int(numbers["tank"])].name
        yield Finding(
            "pump-out",
            Rank.CONSIDER,
            f"With {within(mover.name)} stopped {tank} keeps {{share:fraction}} of its flow.",
            f"It has {len(every)} pumps in the system, and this tank hangs on one of them. A second way, however small,"
            " keeps oxygen up until the pump is changed; keep a spare.",
            mover.owner,
            {"share": numbers["share"]},
            margin=numbers["share"] - LEAST_LEFT,
        )


def tempered(analysis: Analysis) -> Iterable[Finding]:
    """Holes in glass that shatters when it is drilled."""
    homes = {t.id: t for t in analysis.system.tanks if t.tempered != "none"}
    if not homes:
        return
    for device in analysis.ordered:
        made = kind_of(device).parts(device, analysis.sites[device.id], analysis.running)
        bodies = {p.body for p in made.pieces if isinstance(p, Hole) and p.face is Face.FLOOR}
        bodies |= {b for p in made.pieces if isinstance(p, Joint) for b in p.between}
        for body in bodies & homes.keys():
            what = "bottom" if homes[body].tempered == "bottom" else "glass"
            yield Finding(
                "tempered-hole",
                Rank.STOP,
                f"A hole is planned in {homes[body].name}, whose {what} is tempered: it shatters when it is drilled.",
                "Tempered glass is cut and drilled before it is tempered. Lead the water over the rim with a hang-on"
                " overflow, have a drilled panel made, or say on the tank's card that it is not tempered.",
                device.id,
            )


RULES = (slow_tanks, redundancy, dirty_spill, running_spill, restart, shared_water, temperatures, unfed, tempered)
