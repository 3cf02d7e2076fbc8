"""What Fuente would change of a manifold: its pipes and pumps, shares, loops, siphons."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.catalogue import pipe_size, wider_pipe
from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.contract import Study
from fuente.devices.manifold.groups import pump_duct
from fuente.devices.manifold.network import branch_id, hole_works, loop_id, pump_id
from fuente.devices.manifold.spec import LOOP_NAMES, Manifold
from fuente.devices.manifold.valves import balance
from fuente.devices.pumping import judge_pump
from fuente.devices.rules import judged_by
from fuente.devices.site import Site
from fuente.network.model import Solution

FAST_OUTLET, FAST_MAIN = 1.5, 2.0  # m/s
SPREAD = 1.25  # most over least that still counts as balanced
LOOP_OFF = 0.25  # how far a loop's share may be off what is wanted
HOLE = 0.004  # m, an air hole for a branch hose


def itself(spec: Manifold, site: Site, study: Study) -> Iterable[Finding]:
    """Fast pipes and outlets, and one pump for all."""
    solution, path = study.running, spec.path
    tank_names = {b.tank: site.homes[b.tank].name for row in spec.rows for b in row.branches}
    found: list[Finding] = []
    for i, f in enumerate(spec.feeders):
        flow = max(solution.flow[pump_id(spec, f)], 0.0)
        speed = flow / pipe_size(f.pipe).area
        if speed > FAST_MAIN:
            wider = wider_pipe(f.pipe)
            edit = Edit("Widen pipe", (Change((*path, "feeders", i, "pipe"), wider),)) if wider else None
            found.append(
                Finding(
                    "main-fast",
                    Rank.CONSIDER,
                    "Water rises to the manifold at {speed:speed}.",
                    "Under {2:speed} friction stays small against the lift.",
                    spec.id,
                    {"speed": speed},
                    "Wider pipe" if edit else "",
                    edit,
                    FAST_MAIN - speed,
                )
            )
    found += _outlets(spec, solution, path, tank_names)
    if len(spec.feeders) == 1 and len(tank_names) > 1:
        more = spec.feeders[0].model_copy(update={"id": "pump-2"})
        edit = Edit("Add pump", (Change((*path, "feeders"), (*spec.feeders, more)),))
        found.append(
            Finding(
                "single-pump",
                Rank.CONSIDER,
                "One pump keeps {tanks:number} tanks: when it fails, all stand still.",
                "Two smaller pumps, each with its own check valve, fail more gracefully; or keep a spare within reach.",
                spec.id,
                {"tanks": len(tank_names)},
                "Add second pump",
                edit,
            )
        )
    return tuple(found)


def _outlets(spec: Manifold, solution: Solution, path: Path, names: dict[str, str]) -> list[Finding]:
    fast = []
    for i, row in enumerate(spec.rows):
        for k, b in enumerate(row.branches):
            area = pipe_size(b.pipe).area
            speed = solution.flow[branch_id(spec, b.tank)] / area
            if speed > FAST_OUTLET:
                fast.append((speed, names[b.tank], i, k))
    if not fast:
        return []
    worst = max(fast)
    where = (*path, "rows", worst[2], "branches", worst[3], "form")
    others = f", {len(fast) - 1} more likewise" if len(fast) > 1 else ""
    return [
        Finding(
            "outlet-fast",
            Rank.CONSIDER,
            f"Water leaves at {{speed:speed}} in {worst[1]}{others}.",
            "Fast outlets are heard, tire small fish and blow sand about; a spray bar, a wider branch, or less flow.",
            spec.rows[worst[2]].branches[worst[3]].tank,
            {"speed": worst[0]},
            "Spray bar",
            Edit("Fit spray bar", (Change(where, "bar"),)),
            FAST_OUTLET - worst[0],
        )
    ]


def shares(manifold: Manifold, site: Site, study: Study) -> Iterable[Finding]:
    """Near and low tanks starve the far and high ones."""
    wish = site.space.turnover
    running = study.running
    tanks = [b.tank for row in manifold.rows for b in row.branches]
    turns = {t: study.supply(running, t) / running.volume[t] for t in tanks}
    worst, best = min(turns, key=turns.__getitem__), max(turns, key=turns.__getitem__)
    low, high = turns[worst], turns[best]
    uneven = len(tanks) > 1 and high > SPREAD * low
    short = low < 0.9 * wish
    if not uneven and not short:
        return
    plan = balance(manifold, site, study, wish)
    values = {"low": low, "high": high, "wanted": wish, "share": plan.share}
    name = site.homes[worst].name
    if uneven:
        text = f"{name} turns over {{low:per_hour}} and {site.homes[best].name} {{high:per_hour}}."
        if low < 1e-6:
            text = f"{name} gets no water, and {site.homes[best].name} turns over {{high:per_hour}}."
        why = "Water takes the easy way: the near and the low tank, until its valve is turned."
        action = "Balance valves"
        if plan.share < 1:
            why += (
                f" Even set, the pump gives every tank {{share:fraction}} of what you want; {plan.limit} is the limit."
            )
        yield Finding(
            "balance",
            Rank.FIX if short else Rank.CONSIDER,
            text,
            why,
            worst,
            values,
            action,
            plan.edit,
            low - high / SPREAD,
        )
    if short and plan.share < 0.9:
        yield _weak(manifold, values)
    elif short and not uneven:
        text = "Every tank turns over {low:per_hour} or little more; you want {wanted:per_hour}."
        yield Finding(
            "turnover",
            Rank.FIX,
            text,
            "The valves hold back more than they need to.",
            manifold.id,
            values,
            "Balance valves",
            plan.edit,
            low - 0.9 * wish,
        )


def _weak(manifold: Manifold, values: dict[str, float]) -> Finding:
    changes = []
    base: Path = (*manifold.path, "feeders")
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
        changes.append(Change((*where, "name"), "Pump of the rack"))
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


def loops(manifold: Manifold, site: Site, study: Study) -> Iterable[Finding]:
    """Side loops that take another share than they should."""
    running = study.running
    total = sum(max(running.flow[pump_id(manifold, f)], 0.0) for f in manifold.feeders)
    for loop in manifold.loops:
        share = running.flow[loop_id(manifold, loop)] / total if total > 0 else 0.0
        if abs(share / loop.share - 1) <= LOOP_OFF:
            continue
        plan = balance(manifold, site, study, site.space.turnover)
        yield Finding(
            "loop-share",
            Rank.FIX,
            f"The {LOOP_NAMES[loop.kind].lower()} takes {{share:fraction}} of the flow; you want {{wanted:fraction}}.",
            "Its valve and the tanks' valves share the water between them: they are set together.",
            loop_id(manifold, loop),
            {"share": share, "wanted": loop.share},
            "Balance valves" if plan.share >= 1 else "",
            plan.edit if plan.share >= 1 else None,
        )


def cross_siphon(manifold: Manifold, site: Site, study: Study) -> Iterable[Finding]:
    """Outlets without a way for air: when the pump stops, high tanks run through the manifold into low ones."""
    running = study.running
    bad, changes, lost = [], [], 0.0
    for r, row in enumerate(manifold.rows):
        for k, branch in enumerate(row.branches):
            tank = site.homes[branch.tank]
            depth = running.level[tank.id] - tank.floor
            surface = min(study.drained_to(tank.id), depth)
            breaks = max(branch.mouth, branch.air_height) if hole_works(branch) else branch.mouth
            if surface - breaks < 0.012:
                continue
            bad.append(tank.name)
            lost += (surface - breaks) * tank.inner_length * tank.inner_width
            where: Path = (*manifold.path, "rows", r, "branches", k)
            changes.append(
                Change((*where, "air_hole"), max(HOLE, branch.air_hole + 0.002 if branch.air_hole else HOLE))
            )
            changes.append(Change((*where, "air_height"), round(surface - 0.004, 4)))
    if not bad:
        return
    many = f"{len(bad)} outlets reach" if len(bad) > 1 else f"The outlet in {bad[0]} reaches"
    yield Finding(
        "cross-siphon",
        Rank.FIX,
        f"{many} under water without an air hole at the surface: a leaking check valve takes {{lost:volume}} down.",
        "The rows are joined by the manifold: when the pump stops, high tanks also run through it into low ones, valve"
        " or no valve, until air gets in.",
        manifold.id,
        {"lost": lost},
        "Drill air holes",
        Edit("Drill air holes", tuple(changes)),
    )


def pumps(manifold: Manifold, site: Site, study: Study) -> Iterable[Finding]:
    """What every pump is asked."""
    running = study.running
    for k, feeder in enumerate(manifold.feeders):
        duct = pump_duct(manifold, feeder, running)
        floor = site.vessels[feeder.source].floor
        path: Path = (*manifold.path, "feeders", k, "pump")
        flow = max(running.flow[duct.id], 0.0)
        yield from judge_pump(feeder.pump, path, manifold.id, flow, running.level[duct.a], floor, site.water)


judge = judged_by(itself, pumps, shares, loops, cross_siphon)
