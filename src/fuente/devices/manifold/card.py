"""A manifold's row and card, and what a tank's card shows of its branch."""

from __future__ import annotations

import math

from fuente.catalogue import pipe_size
from fuente.devices.base import Change, Choice, Edit, Path, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.manifold.groups import group_of, head_at, pump_duct
from fuente.devices.manifold.network import bar_k, branch_id, hole_works, loop_id, pump_id
from fuente.devices.manifold.spec import LOOP_NAMES, Branch, Feeder, Manifold, SideLoop
from fuente.devices.manifold.valves import balance
from fuente.devices.offered import Offer
from fuente.devices.options import ALL, VALVES, chamber_choice, pipe_options
from fuente.devices.pumping import pump_choices, pump_curve, pump_readings
from fuente.devices.site import Site
from fuente.errors import EntryError
from fuente.network.duct import Spout
from fuente.network.model import Solution
from fuente.water.properties import GRAVITY


def branch_choices(branch: Branch, path: Path, pipes: tuple[tuple[str, str], ...]) -> tuple[Choice, ...]:
    """Fields of a tank's branch."""
    forms = (("open", "open end"), ("bar", "spray bar"))
    found = [
        Choice((*path, "angle"), "Valve turned from open", "angle", branch.angle, step=1.0),
        Choice((*path, "mouth"), "Outlet above floor", "length", branch.mouth, step=0.002),
        Choice((*path, "form"), "Outlet", "choice", branch.form, forms),
    ]
    if branch.form == "bar":
        found += [
            Choice((*path, "holes"), "Holes in the bar", "count", branch.holes),
            Choice((*path, "hole_bore"), "Each hole", "length", branch.hole_bore, step=0.0005),
        ]
    return (
        *found,
        Choice((*path, "air_hole"), "Outlet's air hole", "length", branch.air_hole, step=0.001),
        Choice((*path, "air_height"), "Air hole above floor", "length", branch.air_height, step=0.001, fold=True),
        Choice((*path, "pipe"), "Branch pipe", "choice", branch.pipe, pipes, fold=True),
        Choice((*path, "length"), "Branch length", "run", branch.length, step=0.05, fold=True),
        Choice((*path, "spacing"), "From the tee before", "run", branch.spacing, step=0.01, fold=True),
        Choice((*path, "correction"), "Bucket correction", "number", branch.correction, step=0.05, fold=True),
        Choice((*path, "fittings"), "Branch fittings", "fittings", branch.fittings, fold=True),
    )


def branch_readings(spec: Manifold, branch: Branch, solution: Solution) -> tuple[Reading, ...]:
    """Speed at the outlet, and what its air hole does."""
    flow = abs(solution.flow[branch_id(spec, branch.tank)])
    area = pipe_size(branch.pipe).area
    found = [Reading("Speed in the branch", flow / area, "speed", "Over {1.5:speed} it is heard and blows sand about.")]
    if branch.form == "bar":
        jets = flow / (branch.holes * math.pi / 4 * branch.hole_bore**2)
        loss = bar_k(branch) * (flow / area) ** 2 / (2 * GRAVITY)
        found.append(Reading("Jets leave at", jets, "speed", "Flow by the holes' area.", "", "±15 %"))
        found.append(Reading("Lost in the bar", loss, "head", "A sharp hole gives 0.62 of its area."))
    if branch.correction != 1.0:
        duct = next(d for d in group_of(spec, solution).ducts if d.id == branch_id(spec, branch.tank))
        found.append(
            Reading(
                "Head by the bucket test",
                (1 - 1 / branch.correction) * duct.pipe.head_loss(flow),
                "head",
                "Head that dirt, a kink or a wrong guess takes besides what its figures say.",
                "one multiplier on the branch's losses",
            )
        )
    if branch.air_hole > 0:
        words = "breaks the siphon" if hole_works(branch) else "too small"
        found.append(
            Reading(
                "Air hole",
                words,
                "",
                "Air drawn by the back-flow must reach a quarter of its water.",
                "orifice for air, rule of thumb for breaking",
                "try it wet",
            )
        )
    return tuple(found)


def _feeder_choices(feeder: Feeder, path: Path, pipes: tuple[tuple[str, str], ...], many: bool) -> list[Choice]:
    label = feeder.id.replace("-", " ").capitalize() if many else "Pump"
    front, folded = pump_choices(feeder.pump, (*path, "pump"), label)
    tail = f" of {feeder.id}" if many else ""
    front = [
        *front,
        Choice((*path, "pipe"), f"Rising pipe{tail}", "choice", feeder.pipe, pipes),
        Choice((*path, "valve"), f"Check valve{tail}", "choice", feeder.valve, VALVES),
    ]
    folded += [
        Choice((*path, "run"), f"Sideways run{tail}", "run", feeder.run, step=0.1, fold=True),
        Choice((*path, "fittings"), f"Fittings{tail}", "fittings", feeder.fittings, fold=True),
        Choice((*path, "leak"), f"Check-valve leakage{tail}", "fraction", feeder.leak, step=0.01, fold=True),
        Choice((*path, "correction"), f"Bucket correction{tail}", "number", feeder.correction, step=0.05, fold=True),
    ]
    return front + folded


def card(spec: Manifold, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """The manifold, and each side loop."""
    path, pipes = spec.path, pipe_options(ALL)
    tanks = [b.tank for row in spec.rows for b in row.branches]
    volume = sum(solution.volume[t] for t in tanks)
    turnover = sum(study.supply(solution, t) for t in tanks) / volume if volume else 0.0

    def commands() -> tuple[tuple[str, Edit], ...]:
        plan = balance(spec, site, study, site.space.turnover)
        loops = (add_loop(spec, path, kind, spec.feeders[0].source) for kind in LOOP_NAMES)
        return (("Balance valves", plan.edit), second_pump(spec, path), *loops)

    flows = [solution.flow[pump_id(spec, f)] for f in spec.feeders]
    total = sum(max(q, 0.0) for q in flows)
    given = pump_duct(spec, spec.feeders[0], solution).curve.head(max(flows[0], 0.0))
    guess = any(pump_curve(f.pump).is_guess for f in spec.feeders)
    first = Station(
        spec.id,
        spec.name,
        "{flow:flow}, {turn:per_hour}",
        {"flow": total, "turn": turnover},
        note=spec.feeders[0].pump.name if len(spec.feeders) == 1 else f"{len(spec.feeders)} pumps",
        glyph="pump",
        pumped=True,
        big=(Reading("real flow", total, "flow"), Reading("head there", given, "head")),
        choices=tuple(_choices(spec, pipes)),
        readings=tuple(_readings(spec, site, solution, given)),
        why=Reading(
            "Why these shares",
            total,
            "flow",
            "Heads at every tee and flows in every piece are balanced together: what leaves a tee is what came, and"
            " each way from the pump to a tank spends the same head. The near and the low tank find the easy way unless"
            " their valves are turned. " + ("The pump's curve is a guess from its box." if guess else ""),
            "gradient method of Todini and Pilati 1988; Darcy–Weisbach with Colebrook; valve by Weisbach's values",
            "±15 % with box numbers; a valve's angle is worth ±30 % of its loss",
        ),
        commands=commands,
    )
    loops = tuple(_loop(spec, site, loop, solution, (*path, "loops", i), total) for i, loop in enumerate(spec.loops))
    return (first, *loops)


def _choices(spec: Manifold, pipes: tuple[tuple[str, str], ...]) -> list[Choice]:
    """Its pumps, and the pipes of its rows."""
    path, many = spec.path, len(spec.feeders) > 1
    choices: list[Choice] = []
    for i, feeder in enumerate(spec.feeders):
        choices += _feeder_choices(feeder, (*path, "feeders", i), pipes, many)
    for i, row in enumerate(spec.rows):
        choices.append(Choice((*path, "rows", i, "pipe"), f"Pipe of row {i + 1}", "choice", row.pipe, pipes, fold=True))
    choices.append(Choice((*path, "riser"), "Riser between rows", "choice", spec.riser, pipes, fold=True))
    choices.append(Choice((*path, "name"), "Name", "text", spec.name, fold=True))
    return choices


def _readings(spec: Manifold, site: Site, solution: Solution, given: float) -> list[Reading]:
    """How the water is shared, the heads, and what each pump does; ``given`` m is the first pump's head."""
    shares = [solution.flow[branch_id(spec, b.tank)] for row in spec.rows for b in row.branches]
    readings = []
    if len(shares) > 1:
        readings = [
            Reading("Least to a tank", min(shares), "flow", "The branch with the least water."),
            Reading("Most to a tank", max(shares), "flow", "The branch with the most water."),
        ]
    foot = "Over the room's floor, where the first row begins."
    readings += [
        Reading("Head at the riser's foot", head_at(spec, solution), "head", foot),
        Reading("Head of the pump", given, "head", "What the curve gives at this flow."),
    ]
    for feeder in spec.feeders:
        duct, flow = pump_duct(spec, feeder, solution), solution.flow[pump_id(spec, feeder)]
        floor = solution.network.cell(duct.a).floor
        level, water, price = solution.level[duct.a], duct.pipe.water, site.space.price
        readings += pump_readings(feeder.pump, max(flow, 0.0), level, floor, price, water, site.shop)
    return readings


def _loop(spec: Manifold, site: Site, loop: SideLoop, solution: Solution, path: Path, total: float) -> Station:
    pipes = pipe_options(ALL)
    flow = max(solution.flow[loop_id(spec, loop)], 0.0)
    share = flow / total if total > 0 else 0.0
    return Station(
        loop_id(spec, loop),
        LOOP_NAMES[loop.kind],
        "{flow:flow}, {share:fraction} of the flow",
        {"flow": flow, "share": share},
        note=f"wanted {100 * loop.share:.0f} %",
        glyph="plant" if loop.kind == "plant_bed" else "chamber",
        pumped=True,
        big=(Reading("through it", flow, "flow"), Reading("of the flow", share, "fraction")),
        choices=(
            Choice((*path, "kind"), "What it is", "choice", loop.kind, tuple(LOOP_NAMES.items())),
            Choice((*path, "share"), "Share wanted", "fraction", loop.share, step=0.01),
            Choice((*path, "angle"), "Valve turned from open", "angle", loop.angle, step=1.0),
            Choice((*path, "pipe"), "Pipe", "choice", loop.pipe, pipes),
            Choice((*path, "length"), "Length there and back", "run", loop.length, step=0.1),
            Choice((*path, "loss"), "Loss of the apparatus, K", "number", loop.loss, step=0.5),
            Choice((*path, "height"), "Ends above the filter's floor", "length", loop.height, fold=True),
            *chamber_choice(path, site, loop.into, loop.chamber, "Runs back to", "the first chamber"),
        ),
        readings=(Reading("Wanted", loop.share * total, "flow", "The share wanted, of what the pumps give."),),
    )


def add_loop(spec: Manifold, path: Path, kind: str, into: str) -> tuple[str, Edit]:
    """The command that adds a side loop."""
    used = {x.id for x in spec.loops} | {f.id for f in spec.feeders}
    key = next(f"{kind}-{n}" for n in range(1, 99) if f"{kind}-{n}" not in used)
    loop = SideLoop(id=key, kind=kind, into=into)
    name = LOOP_NAMES[kind].lower()
    return f"Add a {name}", Edit(f"Add {name}", (Change((*path, "loops"), (*spec.loops, loop)),))


def second_pump(spec: Manifold, path: Path) -> tuple[str, Edit]:
    """The command that puts another pump beside the last, with its own pipe and valve."""
    last = spec.feeders[-1]
    used = {x.id for x in spec.loops} | {f.id for f in spec.feeders}
    key = next(f"pump-{n}" for n in range(2, 99) if f"pump-{n}" not in used)
    more = last.model_copy(update={"id": key})
    return "Add a pump beside it", Edit("Add pump", (Change((*path, "feeders"), (*spec.feeders, more)),))


def offers(spec: Manifold, site: Site, study: Study, solution: Solution, device_id: str) -> Offer | None:
    """What a tank's card shows of its branch."""
    place = spec.place(device_id)
    if place is None:
        return None
    r, k = place
    branch = spec.rows[r].branches[k]
    where: Path = (*spec.path, "rows", r, "branches", k)
    choices = (*branch_choices(branch, where, pipe_options(ALL)), _bucket(spec, site, solution, branch, where))
    why = Reading(
        "Why this flow",
        study.moved(solution, device_id),
        "flow",
        "The head at this tank's tee, less the height of its water or its outlet, is spent in the branch: tee, valve, "
        "bends, hose and exit. Turn the valve and the tees of all other tanks feel it too.",
        "network of heads and flows; Darcy–Weisbach; valve by Weisbach's values",
        "±15 %; a valve's angle is worth ±30 % of its loss",
    )
    return Offer(choices, branch_readings(spec, branch, solution), why, lambda: _alike(spec, branch))


def _alike(spec: Manifold, own: Branch) -> tuple[tuple[str, Edit], ...]:
    """The same outlet for every tank."""
    changes = []
    for r, row in enumerate(spec.rows):
        for k, b in enumerate(row.branches):
            keep = {"tank": b.tank, "spacing": b.spacing, "angle": b.angle}
            changes.append(Change((*spec.path, "rows", r, "branches", k), own.model_copy(update=keep)))
    if len(changes) < 2:
        return ()
    return (("Same outlet for every tank, valves as they are", Edit("Same outlets", tuple(changes))),)


def _bucket(spec: Manifold, site: Site, solution: Solution, branch: Branch, path: Path) -> Choice:
    """The field that takes a timed bucket at a tank's outlet: one multiplier on its branch's losses."""
    group = group_of(spec, solution)
    duct = next(d for d in group.ducts if d.id == branch_id(spec, branch.tank))
    assert isinstance(duct, Spout)
    flow = solution.flow[duct.id]
    name = site.homes[branch.tank].name

    def make(measured: float) -> Edit:
        head = group.heads([solution.level[c] for c in group.cells], solution.flow)[duct.a]
        spare = head - max(solution.level[branch.tank], duct.mouth)
        lost = duct.pipe.head_loss(measured) / branch.correction
        factor = spare / lost if lost > 0 else 0.0
        if not 0.05 <= factor <= 20:
            raise EntryError(
                "That flow does not fit this branch: look at its valve's angle, its hose and outlet, and the bucket."
            )
        return Edit(f"Fit branch of {name} to a timed bucket", (Change((*path, "correction"), round(factor, 4)),))

    return Choice((*path, "correction"), "Flow by timed bucket", "flow", flow, step=5e-3 / 3600, fold=True, make=make)
