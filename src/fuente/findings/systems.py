"""Rules for systems of many tanks: balance, restart, shared water, siphons over a manifold, suction, fresh water."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.hang_on.judge import judge as judge_hang_on
from fuente.devices.header.judge import judge as judge_header
from fuente.devices.join.judge import judge as judge_join
from fuente.devices.manifold.judge import judge as judge_manifold
from fuente.devices.manifold.network import hole_works, loop_id, pump_id
from fuente.devices.manifold.spec import LOOP_NAMES, Manifold
from fuente.devices.pumping import judge_pump
from fuente.devices.standpipe.judge import judge as judge_standpipe
from fuente.devices.top_up.judge import judge as judge_top_up
from fuente.findings.flood import lower_mark
from fuente.study.analysis import Analysis
from fuente.study.sites import water_of
from fuente.study.valves import set_valves

SPREAD = 1.25  # most over least that still counts as balanced
LOOP_OFF = 0.25  # how far a loop's share may be off what is wanted
_HOLE = 0.004  # m, an air hole for a branch hose


def parts(analysis: Analysis) -> Iterable[Finding]:
    """What each kind says of itself."""
    system, running = analysis.system, analysis.running
    space = system.space
    heard: list[Finding] = []
    for i, pipe in enumerate(system.standpipes):
        heard += judge_standpipe(pipe, system.tank(pipe.tank), running, ("standpipes", i), space.quiet)
    yield from _together(heard)
    for i, box in enumerate(system.hang_ons):
        yield from judge_hang_on(box, system.tank(box.tank), running, ("hang_ons", i))
    for i, header in enumerate(system.headers):
        yield from judge_header(header, running, ("headers", i), space.quiet)
    for i, join in enumerate(system.joins):
        yield from judge_join(join, running, ("joins", i), space.margin)
    names = {t.id: t.name for t in system.tanks}
    for i, manifold in enumerate(system.manifolds):
        fed = {b.tank: names[b.tank] for row in manifold.rows for b in row.branches}
        yield from judge_manifold(manifold, running, ("manifolds", i), fed)
    yield from _pumps(analysis)
    for i, top_up in enumerate(system.top_ups):
        device = system.device(top_up.into)
        room, rate = fresh_room(analysis), analysis.evaporation_rate()
        yield from judge_top_up(top_up, ("top_ups", i), room, rate, device.chambers[-1].level)


def _pumps(analysis: Analysis) -> Iterable[Finding]:
    system, running = analysis.system, analysis.running
    water = water_of(system)
    for i, line in enumerate(system.returns):
        link = next(k for k in analysis.network.links if k.owner == line.id)
        floor = system.device(line.source).floor
        flow = max(running.flow[link.id], 0.0)
        yield from judge_pump(line.pump, ("returns", i, "pump"), line.id, flow, running.level[link.a], floor, water)
    for i, manifold in enumerate(system.manifolds):
        for k, feeder in enumerate(manifold.feeders):
            key = pump_id(manifold, feeder)
            duct = analysis.pump_ducts[key]
            floor = system.device(feeder.source).floor
            path: Path = ("manifolds", i, "feeders", k, "pump")
            flow = max(running.flow[key], 0.0)
            yield from judge_pump(feeder.pump, path, manifold.id, flow, running.level[duct.a], floor, water)


def _together(found: list[Finding]) -> Iterable[Finding]:
    """One finding for many of a kind, with all their edits."""
    for code in dict.fromkeys(f.code for f in found):
        same = [f for f in found if f.code == code]
        worst = min(same, key=lambda f: f.margin or 0.0)
        if len(same) < 3:
            yield from same
            continue
        changes = tuple(c for f in same if f.edit for c in f.edit.changes)
        edit = Edit("Widen drains", changes) if changes else None
        text = worst.text.removesuffix(".") + f", and so are {len(same) - 1} others."
        text = text if code == "drain-heard" else worst.text.removesuffix(".") + f", and so do {len(same) - 1} others."
        yield replace(worst, text=text, action="Wider drains" if edit else "", edit=edit)


def fresh_room(analysis: Analysis) -> float:
    """Water in m³ that the filters take, pumps running, from the running level to the rim of the fullest."""
    running = analysis.running
    return sum(
        analysis.network.cell(c).curve.volume(analysis.network.cell(c).rim) - running.volume[c]
        for c in analysis.sump_cells()
    )


def blocked_drain(analysis: Analysis) -> Iterable[Finding]:
    """One tank of many whose drain is blocked: what the pump chamber holds goes over its rim."""
    system = analysis.system
    bare = [s for s in system.standpipes if not analysis.drains(True, s.tank)]
    if not bare:
        return
    blocked = analysis.situation("drain_blocked")
    spilled = blocked.numbers["spilled"]
    if spilled < 1e-6:
        return
    taken = {s.id for s in system.standpipes}
    more = []
    for pipe in bare:
        tank = system.tank(pipe.tank)
        mouth = round(min(pipe.mouth + 0.014, tank.inner_height - 0.006), 3)
        key = f"{pipe.id}-2"
        if key not in taken and mouth > pipe.mouth:
            more.append(pipe.model_copy(update={"id": key, "mouth": mouth, "emergency": True}))
    edit = Edit("Fit second drains", (Change(("standpipes",), (*system.standpipes, *more)),)) if more else None
    name = system.tank(analysis.most_exposed()).name
    yield Finding(
        "tank-drain-blocked",
        Rank.FIX,
        f"If the drain of {name} blocks, {{spilled:volume}} go over its rim.",
        "Leaves or a snail suffice. The pump sends that tank all that the pump chamber can spare. A second, dry drain in every "
        "tank, a little higher and into the same common drain, is the passive way out.",
        analysis.most_exposed(),
        {"spilled": spilled},
        "Fit second drains" if edit else "",
        edit,
        -spilled,
    )


def hung_drain(analysis: Analysis) -> Iterable[Finding]:
    """A hang-on overflow is one way out: blocked, or without its siphon, the tank takes what the pump chamber spares."""
    for box in analysis.system.hang_ons:
        if analysis.drains(True, box.tank) or analysis.most_exposed() != box.tank:
            continue
        spilled = analysis.situation("drain_blocked").numbers["spilled"]
        if spilled < 1e-7:
            continue
        edit = lower_mark(analysis, spilled * 1.05)
        yield Finding(
            "hang-on-blocked",
            Rank.STOP,
            "With the hang-on overflow blocked, or its siphon lost, the pump puts {spilled:volume} over the tank's rim.",
            "It is the only way out. Less water in the pump chamber, so that it runs dry before the tank is full; or a drilled "
            "hole with a dry drain.",
            box.id,
            {"spilled": spilled},
            "Lower running level" if edit else "",
            edit,
            -spilled,
        )


def balance(analysis: Analysis) -> Iterable[Finding]:
    """Near and low tanks starve the far and high ones."""
    wish = analysis.system.space.turnover
    running = analysis.running
    for i, manifold in enumerate(analysis.system.manifolds):
        tanks = [b.tank for row in manifold.rows for b in row.branches]
        turns = {t: analysis.supply(running, t) / running.volume[t] for t in tanks}
        worst, best = min(turns, key=turns.__getitem__), max(turns, key=turns.__getitem__)
        low, high = turns[worst], turns[best]
        uneven = len(tanks) > 1 and high > SPREAD * low
        short = low < 0.9 * wish
        if not uneven and not short:
            continue
        plan = set_valves(analysis, i, wish)
        values = {"low": low, "high": high, "wanted": wish, "share": plan.share}
        name = analysis.system.tank(worst).name
        if uneven:
            grave = low < 0.5 * wish
            text = f"{name} turns over {{low:per_hour}} and {analysis.system.tank(best).name} {{high:per_hour}}."
            if low < 1e-6:
                text = f"{name} gets no water, and {analysis.system.tank(best).name} turns over {{high:per_hour}}."
            why = "Water takes the easy way: the near and the low tank, until its valve is turned."
            action = "Set all valves"
            if plan.share < 1:
                why += f" Even set, the pump gives every tank {{share:fraction}} of what you want; {plan.limit} is the limit."
            yield Finding("balance", Rank.FIX if grave or short else Rank.CONSIDER, text, why, worst, values, action, plan.edit,
                          low - high / SPREAD)  # fmt: skip
        if short and plan.share < 0.9:
            yield _weak(manifold, i, values)
        elif short and not uneven:
            text = "Every tank turns over {low:per_hour} or little more; you want {wanted:per_hour}."
            yield Finding("turnover", Rank.FIX, text, "The valves hold back more than they need to.", manifold.id, values,
                          "Set all valves", plan.edit, low - 0.9 * wish)  # fmt: skip


def _weak(manifold: Manifold, index: int, values: dict[str, float]) -> Finding:
    changes = []
    base: Path = ("manifolds", index, "feeders")
    for k, feeder in enumerate(manifold.feeders):
        pump = feeder.pump
        factor = min(1 / max(values["share"], 0.4), 2.0)
        most = -(-pump.max_flow * factor // (500e-3 / 3600)) * 500e-3 / 3600
        head = round(pump.max_head * (1 + 0.35 * (factor - 1)), 1)
        where = (*base, k, "pump")
        changes += [
            Change((*where, "max_flow"), most),
            Change((*where, "max_head"), head),
            Change((*where, "points"), ()),
        ]
        changes.append(Change((*where, "name"), f"Pump of the {most * 3.6e6:.0f} L/h class"))
    return Finding(
        "pump-short",
        Rank.FIX,
        "The pump can give every tank {share:fraction} of the {wanted:per_hour} you want.",
        "That is with every valve set to its best. A stronger pump, wider pipe, or a smaller wish.",
        manifold.id,
        values,
        "Stronger pump",
        Edit("Take a stronger pump", tuple(changes)),
        values["share"] - 1,
    )


def loops(analysis: Analysis) -> Iterable[Finding]:
    """Side loops that take another share than they should."""
    running = analysis.running
    for i, manifold in enumerate(analysis.system.manifolds):
        total = sum(max(running.flow[pump_id(manifold, f)], 0.0) for f in manifold.feeders)
        for loop in manifold.loops:
            share = running.flow[loop_id(manifold, loop)] / total if total > 0 else 0.0
            if abs(share / loop.share - 1) <= LOOP_OFF:
                continue
            plan = set_valves(analysis, i, analysis.system.space.turnover)
            yield Finding(
                "loop-share",
                Rank.FIX,
                f"The {LOOP_NAMES[loop.kind].lower()} takes {{share:fraction}} of the flow; you want {{wanted:fraction}}.",
                "Its valve and the tanks' valves share the water between them: they are set together.",
                loop_id(manifold, loop),
                {"share": share, "wanted": loop.share},
                "Set all valves" if plan.share >= 1 else "",
                plan.edit if plan.share >= 1 else None,
            )


def cross_siphon(analysis: Analysis) -> Iterable[Finding]:
    """Outlets without a way for air: when the pump stops, high tanks run through the manifold into low ones."""
    running = analysis.running
    for i, manifold in enumerate(analysis.system.manifolds):
        bad, changes, lost = [], [], 0.0
        for r, row in enumerate(manifold.rows):
            for k, branch in enumerate(row.branches):
                tank = analysis.system.tank(branch.tank)
                depth = running.level[tank.id] - tank.floor
                surface = min(analysis.crest_of(tank), depth)
                breaks = max(branch.mouth, branch.air_height) if hole_works(branch) else branch.mouth
                if surface - breaks < 0.012:
                    continue
                bad.append(tank.name)
                lost += (surface - breaks) * tank.inner_length * tank.inner_width
                where: Path = ("manifolds", i, "rows", r, "branches", k)
                changes.append(
                    Change((*where, "air_hole"), max(_HOLE, branch.air_hole + 0.002 if branch.air_hole else _HOLE))
                )
                changes.append(Change((*where, "air_height"), round(surface - 0.004, 4)))
        if not bad:
            continue
        many = f"{len(bad)} outlets reach" if len(bad) > 1 else f"The outlet in {bad[0]} reaches"
        yield Finding(
            "cross-siphon",
            Rank.FIX,
            f"{many} under water without an air hole at the surface: a leaking check valve takes {{lost:volume}} down.",
            "The rows are joined by the manifold: when the pump stops, high tanks also run through it into low ones, valve or "
            "no valve, until air gets in.",
            manifold.id,
            {"lost": lost},
            "Drill air holes",
            Edit("Drill air holes", tuple(changes)),
        )


def restart(analysis: Analysis) -> Iterable[Finding]:
    """When the power comes back the pump lifts water before the drains run: can the sump spare it?"""
    if not analysis.has_sump:
        return
    cut, running = analysis.situation("power_cut").solution, analysis.running
    tanks = [t.id for t in analysis.system.tanks]
    boxes = [
        c.id for c in analysis.network.cells if c.id not in tanks and c.id not in analysis.sump_cells() and not c.sink
    ]
    hold = sum(max(running.volume[c] - cut.volume[c], 0.0) for c in (*tanks, *boxes))
    cell = analysis.pump_cell
    chamber = analysis.sump.chambers[-1]
    spare = cut.volume[cell] - analysis.network.cell(cell).curve.volume(analysis.sump.floor + chamber.intake)
    if hold > 0.0005 and len(tanks) > 1 and spare < 0.5 * hold:
        yield Finding(
            "restart-dry",
            Rank.CONSIDER,
            "On restart the tanks take {hold:volume} before they drain, and the pump chamber has {spare:volume} to give.",
            "Until the drains run full flow the pump may draw air. A longer pump chamber, or wider ways into it.",
            f"{analysis.sump.id}.{chamber.id}",
            {"hold": hold, "spare": spare},
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
                f"{who} should share no water, and shares it with {len(inside) - len(apart) or len(inside) - 1} others.",
                "What ails one tank reaches every tank on the same sump. Give it a filter of its own; a steriliser lowers the "
                "risk and does not end it.",
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
    fed = {b.tank for m in analysis.system.manifolds for row in m.rows for b in row.branches}
    fed |= {line.tank for line in analysis.system.returns}
    fed |= {f.tank for f in analysis.system.filters}
    alone = [t for t in analysis.system.tanks if t.id not in fed]
    if alone and len(alone) < len(analysis.system.tanks):
        yield Finding(
            "no-supply",
            Rank.CONSIDER,
            f"{alone[0].name} gets no water" + (f", nor do {len(alone) - 1} others." if len(alone) > 1 else "."),
            "It stands still until something feeds it.",
            alone[0].id,
        )


RULES = (parts, blocked_drain, hung_drain, balance, loops, cross_siphon, restart, shared_water, temperatures, unfed)
