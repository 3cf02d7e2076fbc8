"""The stations in the order in which the water meets them."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from fuente.devices import kind_of
from fuente.devices.air_supply.card import station as air_station
from fuente.devices.base import Change, Choice, Edit, Path, Reading, Station
from fuente.devices.filtering import FilterSpec, school_readings
from fuente.devices.hang_on.card import station as hang_on_station
from fuente.devices.header.card import station as header_station
from fuente.devices.join.card import station as join_station
from fuente.devices.manifold.card import add_loop, branch_choices, branch_readings, group_of, second_pump
from fuente.devices.manifold.card import stations as manifold_stations
from fuente.devices.manifold.network import branch_id
from fuente.devices.manifold.spec import LOOP_NAMES, Manifold
from fuente.devices.overflow.card import pipe_options
from fuente.devices.overflow.card import stations as overflow_stations
from fuente.devices.return_line.card import station as return_station
from fuente.devices.schools import own_choice
from fuente.devices.standpipe.card import choices as standpipe_choices
from fuente.devices.standpipe.card import readings as standpipe_readings
from fuente.devices.sump.card import stations as sump_stations
from fuente.devices.tank.card import station as tank_station
from fuente.devices.tank.spec import Tank
from fuente.devices.top_up.card import station as top_up_station
from fuente.devices.top_up.spec import TopUp
from fuente.document.growing import box_instead, hang_on_instead, manifold_instead, sump_in_front
from fuente.document.system import System
from fuente.errors import EntryError, FuenteError
from fuente.network.aeration import Aeration
from fuente.network.ducts import Spout
from fuente.network.model import Solution
from fuente.study.analysis import Analysis, Situation
from fuente.study.filters import air_commands, air_wishes, filter_commands, without_drops
from fuente.study.sites import crest_of, water_of
from fuente.study.valves import set_valves

_UNDRAINED = (
    "Inside length × width times the water's depth, less gravel, rock and what filters in it fill. Nothing drains it: the water "
    "stands where you say."
)
RACK = "rack:"  # before a rack's tag: the station that stands for all its tanks

FRONT = 10


def stations(analysis: Analysis, situation: Situation | None = None, focus: str = "") -> tuple[Station, ...]:
    """All rows and cards, with a situation's water (running by default); of a rack only the tank in ``focus``."""
    system = analysis.system
    solution = (situation or analysis.situation("running")).solution
    dry = analysis.try_situation("evaporated")
    days = dry.numbers["days"] if isinstance(dry, Situation) else float("inf")
    found: list[Station] = []
    pipes = pipe_options(("metric", "inch", "hose"))
    racks: set[str] = set()
    for i, tank in enumerate(system.tanks):
        if tank.rack and tank.rack not in racks:
            racks.add(tank.rack)
            found.append(_rack(analysis, solution, tank.rack))
        if not tank.rack or tank.id == focus:
            found += _tank(analysis, solution, i, pipes)
            found += _filters(analysis, solution, tank.id)
    for i, header in enumerate(system.headers):
        found.append(header_station(header, solution, ("headers", i), pipe_options()))
    joins = list(enumerate(system.joins))
    for i, device in enumerate(system.devices):
        flow = analysis.about(device.id).flow_in(solution)
        rows = sump_stations(device, solution, ("devices", i), flow, days)
        if len(system.devices) > 1:
            rows = tuple(replace(s, note=s.note or device.name) for s in rows)
        found += rows
        found += [join_station(j, solution, ("joins", k), pipe_options()) for k, j in joins if j.first == device.id]
    found += _supply(analysis, solution, pipes)
    found += _airs(analysis, solution)
    return tuple(found)


def _filters(analysis: Analysis, solution: Solution, tank_id: str) -> list[Station]:
    """A tank's filters of other kinds, in the order of the document."""
    system = analysis.system
    found = []
    for i, spec in enumerate(system.filters):
        if spec.tank != tank_id:
            continue
        kind, site = kind_of(spec), analysis.sites[spec.id]
        path: Path = ("filters", i)
        made = kind.card(spec, site, solution, path)
        schools = tuple(own_choice(spec.schools, system.schools, q, path) for q in kind.schools)
        drops = tuple(
            Choice(("airs", a, "drops", d, "opening"), "Its air valve", "percent", drop.opening, step=0.05)
            for a, air in enumerate(system.airs)
            for d, drop in enumerate(air.drops)
            if drop.to == spec.id
        )
        extra = (*_part(analysis, solution, spec), *school_readings(kind, spec, site))
        found.append(
            replace(
                made,
                choices=few((*made.choices[:1], *drops, *made.choices[1:], *schools)),
                readings=(*made.readings, *extra),
                commands=partial(filter_commands, system, spec, (made.commands() if made.commands else ())),
                many=kind.inside and len(system.tanks) > 2,
            )
        )
        if kind.rows is not None:
            found += [replace(row, choices=few(row.choices)) for row in kind.rows(spec, site, solution, path)]
    return found


def _part(analysis: Analysis, solution: Solution, spec: FilterSpec) -> tuple[Reading, ...]:
    """A filter's share of all that is moved in its tank, where others move water too."""
    own = sum(max(solution.flow[w.id], 0.0) for w in analysis.network.ways if w.owner == spec.id and w.b == spec.tank)
    whole = analysis.moved(solution, spec.tank)
    if own <= 0 or own > 0.999 * whole:
        return ()
    return (
        Reading(
            "Of what moves in its tank",
            own / whole,
            "fraction",
            "Its flow by that of all pumps, lifts and filters that give this tank water.",
        ),
    )


def few(choices: tuple[Choice, ...]) -> tuple[Choice, ...]:
    """The first ten in sight, the rest folded: a card is not a wall of fields."""
    shown = 0
    made = []
    for choice in choices:
        shown += not choice.fold
        made.append(replace(choice, fold=True) if not choice.fold and shown > FRONT else choice)
    return tuple(made)


def _airs(analysis: Analysis, solution: Solution) -> list[Station]:
    system = analysis.system
    names = {f.id: f.name for f in system.filters}
    if len(system.tanks) > 1:
        whose = {t.id: t.name for t in system.tanks}
        names = {f.id: f"{f.name.lower()} in {whose[f.tank]}" for f in system.filters}
    found = []
    for i, air in enumerate(system.airs):
        group = next((g for g in solution.network.groups if isinstance(g, Aeration) and g.supply.id == air.id), None)
        wide = analysis.wide_open(air.id) if air.id in analysis.airs else {}
        wishes = air_wishes(analysis, i)
        mean = sum(wishes.values()) / len(wishes) if wishes else 0.0
        found.append(
            air_station(
                air,
                group,
                solution,
                ("airs", i),
                names,
                wide,
                system.space.price,
                mean,
                partial(air_commands, analysis, i),
            )
        )
    return found


def _rack(analysis: Analysis, solution: Solution, tag: str) -> Station:
    system = analysis.system
    tanks = [t for t in system.tanks if t.rack == tag]
    flows = {t.id: analysis.moved(solution, t.id) for t in tanks}
    turns = {t.id: flows[t.id] / solution.volume[t.id] for t in tanks}
    low, high = min(turns, key=turns.__getitem__), max(turns, key=turns.__getitem__)
    names = {t.id: t.name for t in tanks}
    volume = sum(solution.volume[t.id] for t in tanks)
    wish = system.space.turnover
    manifolds = [i for i, m in enumerate(system.manifolds) if any(m.place(t.id) for t in tanks)]

    def commands() -> tuple[tuple[str, Edit], ...]:
        made = []
        for i in manifolds:
            plan = set_valves(analysis, i, wish)
            label = f"Set all valves for {wish * 3600:g} × an hour"
            if plan.share < 1:
                label = f"Set all valves alike, {plan.share * wish * 3600:.1f} × an hour at most"
            made.append((label, plan.edit))
        return tuple(made)

    spread = turns[high] / turns[low] if turns[low] > 1e-9 else float("inf")
    return Station(
        RACK + tag,
        f"Rack of {len(tanks)} tanks",
        "{low:flow} to {high:flow} a tank",
        {"low": min(flows.values()), "high": max(flows.values())},
        note=f"least {names[low]}, most {names[high]}",
        glyph="tank",
        cells=tuple(t.id for t in tanks),
        big=(
            Reading(f"least, {names[low]}", turns[low], "per_hour"),
            Reading(f"most, {names[high]}", turns[high], "per_hour"),
        ),
        choices=(Choice(("space", "turnover"), "Turnover you want", "per_hour", wish, step=0.5 / 3600),),
        readings=(
            Reading("Water in all tanks", volume, "volume", "At the running level."),
            Reading(
                "Most over least",
                "no end" if spread == float("inf") else f"{spread:.2f}",
                "",
                "1.00 is every tank alike. Turn valves on the drawing, or let Fuente set them.",
            ),
        ),
        why=Reading(
            "Why they differ",
            turns[low],
            "per_hour",
            "Every way from the pump to a tank spends the same head. Low rows have more of it to spare than high ones, and near "
            "tees more than far ones; what is to spare, flow takes, until a valve takes it.",
            "network of heads and flows",
            "±15 %",
        ),
        commands=commands,
    )


def _tank(analysis: Analysis, solution: Solution, index: int, pipes: tuple[tuple[str, str], ...]) -> list[Station]:
    system = analysis.system
    tank = system.tanks[index]
    flow = analysis.moved(solution, tank.id)
    margin = system.space.margin
    station = tank_station(tank, solution, ("tanks", index), flow)
    front: list[Choice] = []
    readings: list[Reading] = []
    for i, manifold in enumerate(system.manifolds):
        place = manifold.place(tank.id)
        if place:
            r, k = place
            branch = manifold.rows[r].branches[k]
            where: Path = ("manifolds", i, "rows", r, "branches", k)
            front += branch_choices(branch, where, pipes)
            front.append(_bucket(manifold, tank, solution, where))
            readings += branch_readings(manifold, branch, solution)
    for i, pipe in enumerate(system.standpipes):
        if pipe.tank == tank.id:
            front += standpipe_choices(pipe, ("standpipes", i), pipe_options())
            readings += standpipe_readings(pipe, tank, solution, margin)
    apart = Choice(
        ("tanks", index, "apart"),
        "Water",
        "choice",
        tank.apart,
        ((False, "may be shared"), (True, "its own")),
        fold=True,
    )
    if front:
        volume = solution.volume[tank.id]
        turn = flow / volume if volume else 0.0
        folded = tuple(replace(c, fold=True) for c in station.choices)
        station = replace(
            station,
            headline="{flow:flow}, {turn:per_hour}",
            values={"flow": flow, "turn": turn},
            big=(Reading("to this tank", flow, "flow"), Reading("turnover", turn, "per_hour")),
            choices=(*[c for c in front if not c.fold], *[c for c in front if c.fold], *folded, apart),
            readings=(*readings, *station.readings),
            why=Reading(
                "Why this flow",
                flow,
                "flow",
                "The head at this tank's tee, less the height of its water or its outlet, is spent in the branch: tee, valve, "
                "bends, hose and exit. Turn the valve and the tees of all other tanks feel it too.",
                "network of heads and flows; Darcy–Weisbach; valve by Weisbach's values",
                "±15 %; a valve's angle is worth ±30 % of its loss",
            ),
            commands=lambda: _tank_commands(system, tank),
        )
    else:
        undrained: tuple[Choice, ...] = ()
        if crest_of(system, tank.id) is None:
            where = ("tanks", index, "level")
            undrained = (Choice(where, "Water above the tank's floor", "length", solution.depth(tank.id), step=0.005),)
            station = (
                replace(station, why=replace(station.why, why=_UNDRAINED, source="your sizes and mark"))
                if station.why
                else station
            )
        station = replace(
            station, choices=(*undrained, *station.choices, apart), commands=lambda: _tank_commands(system, tank)
        )
    found = [station]
    for k, over in enumerate(system.overflows):
        if over.tank == tank.id:
            weir, drains = overflow_stations(over, tank, solution, ("overflows", k), margin)
            found += [replace(weir, commands=partial(_hang, system, k)), drains]
    for k, box in enumerate(system.hang_ons):
        if box.tank == tank.id:
            found.append(
                hang_on_station(box, tank, solution, ("hang_ons", k), pipe_options(("metric", "inch", "hose")))
            )
    return found


def _bucket(manifold: Manifold, tank: Tank, solution: Solution, path: Path) -> Choice:
    """The field that takes a timed bucket at a tank's outlet: one multiplier on its branch's losses."""
    r, k = manifold.place(tank.id) or (0, 0)
    branch = manifold.rows[r].branches[k]
    group = group_of(manifold, solution)
    duct = next(d for d in group.ducts if d.id == branch_id(manifold, tank.id))
    assert isinstance(duct, Spout)
    flow = solution.flow[duct.id]

    def make(measured: float) -> Edit:
        head = group.heads([solution.level[c] for c in group.cells])[duct.a]
        spare = head - max(solution.level[tank.id], duct.mouth)
        lost = duct.pipe.head_loss(measured) / branch.correction
        factor = spare / lost if lost > 0 else 0.0
        if not 0.05 <= factor <= 20:
            raise EntryError(
                "That flow does not fit this branch: look at its valve's angle, its hose and outlet, and the bucket."
            )
        return Edit(f"Fit branch of {tank.name} to a timed bucket", (Change((*path, "correction"), round(factor, 4)),))

    return Choice((*path, "correction"), "Flow by timed bucket", "flow", flow, step=5e-3 / 3600, fold=True, make=make)


def _hang(system: System, index: int) -> tuple[tuple[str, Edit], ...]:
    return (("Hang it over the rim instead", hang_on_instead(system, index)),)


def _box(system: System, index: int) -> tuple[tuple[str, Edit], ...]:
    return (("Put it in a box instead", box_instead(system, index)),)


def _tank_commands(system: System, tank: Tank) -> tuple[tuple[str, Edit], ...]:
    """Take a tank out with all that hangs on it, or give the whole rack what this tank has."""
    if len(system.tanks) < 2:
        return ()
    found = [(f"Take out {tank.name}", without(system, tank.id))]
    mates = [i for i, t in enumerate(system.tanks) if t.rack == tank.rack and t.id != tank.id] if tank.rack else []
    if mates:
        same = [Change(("tanks", i, "stock"), tank.stock) for i in mates]
        same += [Change(("tanks", i, "gravel"), tank.gravel) for i in mates]
        found.append(("Same animals and gravel in the whole rack", Edit("Fill the rack alike", tuple(same))))
        changes = []
        for m, manifold in enumerate(system.manifolds):
            place = manifold.place(tank.id)
            if not place:
                continue
            own = manifold.rows[place[0]].branches[place[1]]
            for r, row in enumerate(manifold.rows):
                for k, b in enumerate(row.branches):
                    keep = {"tank": b.tank, "spacing": b.spacing, "angle": b.angle}
                    changes.append(Change(("manifolds", m, "rows", r, "branches", k), own.model_copy(update=keep)))
        if changes:
            found.append(("Same outlet for every tank, valves as they are", Edit("Same outlets", tuple(changes))))
    return tuple(found)


def without(system: System, tank_id: str) -> Edit:
    """The edit that takes out a tank, its drains and its branches."""
    changes: list[Change] = [Change(("tanks",), tuple(t for t in system.tanks if t.id != tank_id))]
    for field in ("overflows", "standpipes", "hang_ons", "returns", "filters"):
        kept = tuple(x for x in getattr(system, field) if x.tank != tank_id)
        if len(kept) != len(getattr(system, field)):
            changes.append(Change((field,), kept))
    gone_filters = {f.id for f in system.filters if f.tank == tank_id}
    if gone_filters:
        changes.append(Change(("airs",), without_drops(system, gone_filters)))
    manifolds = []
    for m in system.manifolds:
        rows = []
        for row in m.rows:
            gone, kept_branches = 0.0, []
            for b in row.branches:
                if b.tank == tank_id:
                    gone += b.spacing
                else:
                    kept_branches.append(b.model_copy(update={"spacing": b.spacing + gone}))
                    gone = 0.0
            rows.append(row.model_copy(update={"branches": tuple(kept_branches)}))
        if any(row.branches for row in rows):
            manifolds.append(m.model_copy(update={"rows": tuple(rows)}))
    if tuple(manifolds) != system.manifolds:
        changes.append(Change(("manifolds",), tuple(manifolds)))
    return Edit(f"Take out {system.tank(tank_id).name}", tuple(changes))


def _supply(analysis: Analysis, solution: Solution, pipes: tuple[tuple[str, str], ...]) -> list[Station]:
    system = analysis.system
    found: list[Station] = []
    for i, line in enumerate(system.returns):
        tank, device = system.tank(line.tank), system.device(line.source)
        pump = next(k.a for k in analysis.network.links if k.owner == line.id)
        volume = solution.volume[tank.id]
        turn = analysis.supply(solution, tank.id) / volume if volume else 0.0
        level = solution.level[pump]
        made = return_station(
            line, tank, solution, ("returns", i), level, turn, pipes, water_of(system), device.floor, system.space.price
        )
        found.append(_grown(system, made, line.source, i))
    for i, manifold in enumerate(system.manifolds):
        tanks = [b.tank for row in manifold.rows for b in row.branches]
        volume = sum(solution.volume[t] for t in tanks)
        turn = sum(analysis.supply(solution, t) for t in tanks) / volume if volume else 0.0

        def commands(i: int = i) -> tuple[tuple[str, Edit], ...]:
            spec = system.manifolds[i]
            into = spec.feeders[0].source
            made = [second_pump(spec, ("manifolds", i))]
            made += [add_loop(spec, ("manifolds", i), kind, into) for kind in LOOP_NAMES]
            plan = set_valves(analysis, i, system.space.turnover)
            made.insert(0, ("Set all valves", plan.edit))
            return (*made, *add_top_up(system, into), ("Join a sump in front of this one", sump_in_front(system, into)))

        found += manifold_stations(manifold, solution, ("manifolds", i), pipes, turn, system.space.price, commands)
    if system.top_ups:
        running = analysis.running
        cells = [analysis.network.cell(c) for c in analysis.sump_cells()]
        room = sum(c.curve.volume(c.rim) - running.volume[c.id] for c in cells)
        for i, top_up in enumerate(system.top_ups):
            made = top_up_station(top_up, ("top_ups", i), analysis.evaporation_rate(), room, pipe_options())
            kept = tuple(t for t in system.top_ups if t.id != top_up.id)
            take_out = (("Take it out", Edit("Take out top-up", (Change(("top_ups",), kept),))),)
            found.append(replace(made, commands=partial(tuple, take_out)))
    return found


def add_top_up(system: System, into: str) -> tuple[tuple[str, Edit], ...]:
    """The command that adds a top-up to a filter that has none."""
    if any(t.into == into for t in system.top_ups):
        return ()
    used = {t.id for t in system.top_ups}
    key = next(f"top-up-{n}" for n in range(1, 99) if f"top-up-{n}" not in used)
    made = TopUp(id=key, into=into, level=system.device(into).chambers[-1].level)
    return (("Add a top-up", Edit("Add top-up", (Change(("top_ups",), (*system.top_ups, made)),))),)


def _grown(system: System, station: Station, source: str, index: int) -> Station:
    """A return's own commands, and those that let the system grow from it."""
    own = station.commands

    def commands() -> tuple[tuple[str, Edit], ...]:
        more = (
            ("Make it a manifold", manifold_instead(system, index)),
            ("Join a sump in front of this one", sump_in_front(system, source)),
        )
        return (*(own() if own else ()), *add_top_up(system, source), *more)

    return replace(station, commands=commands)


def try_stations(analysis: Analysis) -> tuple[Station, ...]:
    """The stations of the running state, or of the water at rest where nothing runs."""
    try:
        return stations(analysis)
    except FuenteError:
        return stations(analysis, analysis.at_rest())
