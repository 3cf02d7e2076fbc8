"""A return's row and card."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from fuente.catalogue import pipe_size
from fuente.devices.base import Change, Choice, Edit, Path, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.filtering import choices_of
from fuente.devices.lamps import LampSpec, dose
from fuente.devices.options import ALL, VALVES, pipe_options
from fuente.devices.pumping import pump_choices, pump_readings
from fuente.devices.return_line.network import curve, end_of, hole_works, link_id
from fuente.devices.return_line.spec import OutletSpec, ReturnSpec
from fuente.devices.site import Site
from fuente.errors import EntryError
from fuente.network.model import Solution
from fuente.network.returning import ReturnLine

FORMS = (("open", "an open end"), ("bar", "a spray bar"))


def bucket_edit(line: ReturnSpec, law: ReturnLine, lift: float, path: Path) -> Callable[[float], Edit]:
    """The edit that makes the model give a measured flow: one multiplier on the pipe's losses."""

    def make(flow: float) -> Edit:
        if not 0 < flow < law.curve.max_flow * law.curve.speed:
            raise EntryError("A bucket cannot fill faster than the pump's greatest flow; time it again.")
        spare = law.curve.head(flow) - lift - (flow / sum(o.conductance for o in law.outlets)) ** 2
        factor = line.correction * spare / law.pipe.head_loss(flow)
        if not 0.1 <= factor <= 10:
            raise EntryError(
                "That flow would need the plumbing's losses "
                + ("under a tenth" if factor < 0.1 else "over ten times")
                + " of what the pipe says: look at the pump's curve, its lift, and the bucket."
            )
        return Edit("Fit plumbing to a timed bucket", (Change((*path, "correction"), round(factor, 4)),))

    return make


def _commands(line: ReturnSpec, path: Path) -> tuple[tuple[str, Edit], ...]:
    """Outlets come and go."""
    where = (*path, "outlets")
    found = []
    if len(line.outlets) < 8:
        names = ("First", "Second", "Third", "Fourth", "Fifth", "Sixth", "Seventh", "Eighth")
        more = line.outlets[-1].model_copy(update={"name": f"{names[len(line.outlets)]} outlet"})
        found.append(("Add an outlet", Edit("Add outlet", (Change(where, (*line.outlets, more)),))))
    if len(line.outlets) > 1:
        found.append(("Take out the last outlet", Edit("Take out outlet", (Change(where, line.outlets[:-1]),))))
    lamp = (*path, "lamp")
    if line.lamp is None:
        found.append(("Put a steriliser into it", Edit("Put in steriliser", (Change(lamp, LampSpec()),))))
    else:
        found.append(("Take the steriliser out of it", Edit("Take out steriliser", (Change(lamp, None),))))
    return tuple(found)


def law_in(line: ReturnSpec, solution: Solution) -> ReturnLine:
    """The return's law in a solution."""
    law = solution.network.link(link_id(line)).law
    assert isinstance(law, ReturnLine)
    return law


def card(line: ReturnSpec, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """The return as a station."""
    tank, path = end_of(line, site), line.path
    source = site.vessels[line.source]
    pump_level = solution.level[source.port("pump").leave]
    home = line.tank in site.homes
    alone = sum(isinstance(d, ReturnSpec) for d in site.devices.values()) == 1
    volume = solution.volume[tank.id]
    turnover = study.supply(solution, tank.id) / volume if volume else 0.0
    law = law_in(line, solution)
    flow = max(solution.flow[link_id(line)], 0.0)
    lift = law.lift(pump_level, solution.level[tank.id])
    head = law.curve.head(flow)

    return (
        Station(
            line.id,
            "Return" if alone else line.pump.name,  # of several each by its pump
            "{flow:flow} at {head:head}" + (", {turn:per_hour}" if home else ""),
            {"flow": flow, "head": head, "turn": turnover},
            note=line.pump.name,
            glyph="pump",
            pumped=True,
            big=(Reading("real flow", flow, "flow"), Reading("head there", head, "head")),
            choices=_choices(line, site, law, lift, flow),
            readings=_readings(line, site, solution, law),
            why=_why(flow, curve(line).is_guess),
            commands=lambda: _commands(line, path),
        ),
    )


def _choices(line: ReturnSpec, site: Site, law: ReturnLine, lift: float, flow: float) -> tuple[Choice, ...]:
    """Pump, pipe, valve and outlets; what a timed bucket says of the flow."""
    path, pipes = line.path, pipe_options(ALL)
    pump = (*path, "pump")
    choices, pump_folded = pump_choices(line.pump, pump)
    choices += [
        Choice((*path, "pipe"), "Rising pipe", "choice", line.pipe, pipes),
        Choice((*path, "valve"), "Check valve", "choice", line.valve, VALVES),
    ]
    for i, outlet in enumerate(line.outlets):
        choices += _outlet(outlet, (*path, "outlets", i), pipes)
    choices += [
        *_where(line, site),
        Choice((*path, "run"), "Sideways run", "run", line.run, step=0.1, fold=True),
        Choice((*path, "fittings"), "Fittings", "fittings", line.fittings, fold=True),
        Choice((*path, "leak"), "Check-valve leakage", "fraction", line.leak, step=0.01, fold=True),
        *(choices_of(line.lamp, (*path, "lamp"), "", "watts length diameter sleeve loss age") if line.lamp else ()),
        *pump_folded,
        Choice((*path, "correction"), "Bucket correction", "number", line.correction, step=0.05, fold=True),
    ]
    fitted = Choice(
        (*path, "correction"),
        "Flow by timed bucket",
        "flow",
        flow,
        step=50e-3 / 3600,
        make=bucket_edit(line, law, lift, path),
    )
    choices.insert(len(choices) - 1, replace(fitted, fold=True))
    return tuple(choices)


def _where(line: ReturnSpec, site: Site) -> tuple[Choice, ...]:
    """What it gives to; its outlets are then put where that holds water."""
    path = line.path
    waters = tuple((v.id, v.name) for v in site.vessels.values() if not v.passes_to and v.id != line.source)
    if len(waters) < 2:
        return ()

    def led(to: str) -> Edit:
        deep = site.landing(to).inner_height
        outlets = tuple(
            o.model_copy(
                update={
                    "height": min(o.height, round(0.9 * deep, 3)),
                    "hole_height": min(o.hole_height, round(0.9 * deep, 3)),
                }
            )
            for o in line.outlets
        )
        chamber = "" if to in site.homes else "inlet"
        changes = (
            Change((*path, "tank"), to),
            Change((*path, "chamber"), chamber),
            Change((*path, "outlets"), outlets),
        )
        return Edit("Lead the return elsewhere", changes)

    found = [Choice((*path, "tank"), "Leads to", "choice", line.tank, waters, fold=True, make=led)]
    ports = site.vessels[line.tank].ports.values() if line.tank not in site.homes else ()
    rooms = tuple((p.name, p.title) for p in ports if p.title and p.name != "inlet")
    if rooms:
        rooms = (("inlet", "where drains fall in"), *rooms)
        found.append(Choice((*path, "chamber"), "There into", "choice", line.chamber, rooms, fold=True))
    return tuple(found)


def _outlet(outlet: OutletSpec, where: Path, pipes: tuple[tuple[str, str], ...]) -> list[Choice]:
    """What the builder decides of an outlet."""
    found: list[Choice] = []
    found.append(Choice((*where, "height"), f"{outlet.name} above floor", "length", outlet.height, step=0.002))
    found.append(Choice((*where, "hole"), f"{outlet.name} air hole", "length", outlet.hole, step=0.001))
    found.append(
        Choice(
            (*where, "hole_height"),
            f"{outlet.name} hole above floor",
            "length",
            outlet.hole_height,
            step=0.001,
            fold=True,
        )
    )
    found.append(Choice((*where, "pipe"), f"{outlet.name} pipe", "choice", outlet.pipe, pipes, fold=True))
    found.append(Choice((*where, "form"), f"{outlet.name} is", "choice", outlet.form, FORMS, fold=True))
    if outlet.form == "bar":
        found.append(Choice((*where, "holes"), f"{outlet.name} holes", "count", outlet.holes, fold=True))
        bore = Choice((*where, "hole_bore"), f"{outlet.name}, each hole", "length", outlet.hole_bore, step=0.0005)
        found.append(replace(bore, fold=True))
    return found


def _readings(line: ReturnSpec, site: Site, solution: Solution, law: ReturnLine) -> tuple[Reading, ...]:
    """Lift and losses, the pump's, and whether each air hole would break a siphon."""
    tank, water, price = end_of(line, site), site.water, site.space.price
    source = site.vessels[line.source]
    pump_level, pump_floor = solution.level[source.port("pump").leave], source.floor
    flow = max(solution.flow[link_id(line)], 0.0)
    lift = law.lift(pump_level, solution.level[tank.id])
    head, speed = law.curve.head(flow), flow / law.pipe.area
    readings = [
        Reading("Lift", lift, "head", f"From the pump chamber's water to that of {tank.name}."),
        Reading(
            "Lost in plumbing", max(head - lift, 0.0), "head", "Pipe, fittings, check valve and outlets at this flow."
        ),
        Reading(
            "Of its box number",
            flow / law.curve.max_flow,
            "fraction",
            "The number on the box is the flow at no head at all.",
        ),
        Reading(
            "Head by the bucket test",
            (1 - 1 / line.correction) * law.pipe.head_loss(flow) if flow else 0.0,
            "head",
            "Head that dirt or a wrong guess takes besides what the pipe's figures say, from the timed bucket; 0 where"
            " none was timed.",
            "one multiplier on the pipe's losses",
        ),
        *pump_readings(line.pump, flow, pump_level, pump_floor, price, water, site.shop),
        Reading("Speed in the pipe", speed, "speed", f"In a bore of {{{pipe_size(line.pipe).bore:g}:fine_length}}."),
    ]
    if line.lamp:
        why = (
            "Lamp's ultraviolet over its chamber, for as long as the water stays in it. 150 clear green water, 450 are"
        )
        why += " what most germs want; the whole flow passes it, and fast water gets little."
        given = dose(line.lamp, flow)
        readings.append(Reading("Ultraviolet, J/m²", given, "number", why, "line source", "a factor of two"))
    for outlet in line.outlets:
        if outlet.hole > 0:
            works = hole_works(line, tank, outlet, pump_floor, water)
            readings.append(
                Reading(
                    f"{outlet.name} hole",
                    "breaks the siphon" if works else "too small",
                    "",
                    "Air drawn by the back-flow must reach a quarter of its water.",
                    "orifice for air, rule of thumb for breaking",
                    "try it wet",
                )
            )
    return tuple(readings)


def _why(flow: float, guess: bool) -> Reading:
    """Where its curve and its pipe meet."""
    return Reading(
        "Why this flow",
        flow,
        "flow",
        "Where the pump's curve meets what the system asks for: the lift, plus friction and bends, which grow"
        " with the square of the flow. "
        + ("The curve is a parabola through the two box numbers: a guess." if guess else "The curve is the maker's."),
        "Darcy–Weisbach with Colebrook; fittings by loss coefficient",
        "±15 % with box numbers, ±10 % with a curve",
    )
