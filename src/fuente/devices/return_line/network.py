"""A return as one link from the pump chamber to the tank."""

from __future__ import annotations

import math
from functools import lru_cache

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Basin, Fragment, Home, fittings_k
from fuente.devices.contract import Study
from fuente.devices.pumping import BACKWARDS_K, pump_curve, riser_holds, with_suction
from fuente.devices.return_line.spec import OutletSpec, ReturnSpec
from fuente.devices.site import Landing, Site
from fuente.errors import FuenteError, PumpTooWeak, SpecError
from fuente.hydraulics.drains import air_hole_breaks
from fuente.hydraulics.pipes import Pipe, spray_bar_k
from fuente.hydraulics.pumps import PumpCurve
from fuente.network.model import Link, WayKind
from fuente.network.returning import Outlet, ReturnLine
from fuente.water.properties import Water


def end_of(line: ReturnSpec, site: Site) -> Home | Landing:
    """The water that it gives to."""
    return site.landing(line.tank, line.chamber)


def link_id(line: ReturnSpec) -> str:
    """Id of the return's link."""
    return f"{line.id}.pump"


def curve(line: ReturnSpec) -> PumpCurve:
    """The pump's curve."""
    return pump_curve(line.pump)


def rise_of(tank: Basin, pump_floor: float) -> float:
    """How far it rises from the pump's floor in m: over the tank's rim."""
    return max(tank.rim + 0.05 - pump_floor, 0.1)


def rising_pipe(line: ReturnSpec, tank: Basin, pump_floor: float, water: Water) -> Pipe:
    """The pipe from the pump to the outlets' tee with its fittings and valve."""
    size = pipe_size(line.pipe)
    rise = rise_of(tank, pump_floor)
    k = fittings_k(line.fittings) + (0.0 if line.valve == "none" else fitting(line.valve).k)
    k += line.lamp.loss if line.lamp else 0.0
    c = line.correction
    return with_suction(line.pump, Pipe(size.bore, (rise + line.run) * c, k * c, size.roughness, water))


def outlet_k(outlet: OutletSpec) -> float:
    """Loss of one outlet branch on its own bore: into the branch, an elbow down, exit or spray bar; and its pipe's
    friction.
    """
    size = pipe_size(outlet.pipe)
    end = 1.0 if outlet.form == "open" else spray_bar_k(size.bore, outlet.holes, outlet.hole_bore)
    return fitting("tee_branch").k + fitting("elbow").k + end + 0.02 * 0.3 / size.bore


def free_back_flow(line: ReturnSpec, tank: Basin, level: float, pump_floor: float, water: Water) -> float:
    """Flow in m³/s of a back-siphon from a tank level in m with the check valve held open."""
    law = law_of(line, tank, pump_floor, 0.0, water, on=False, leak=1.0, holes=False)
    return -law.flow(level - 1.0, level)[0]


@lru_cache(maxsize=256)  # an edit elsewhere leaves the return as it is
def law_of(
    line: ReturnSpec,
    tank: Basin,
    pump_floor: float,
    intake: float,
    water: Water,
    *,
    on: bool = True,
    leak: float | None = None,
    holes: bool = True,
) -> ReturnLine:
    """The link's law. pump_floor and intake are elevations in m; leak overrides the valve's own."""
    pipe = rising_pipe(line, tank, pump_floor, water)
    outlets = []
    for each in line.outlets:
        size = pipe_size(each.pipe)
        mouth = tank.floor + each.height
        breaks = mouth
        if holes and each.hole > 0 and hole_works(line, tank, each, pump_floor, water):
            breaks = max(mouth, tank.floor + each.hole_height)
        outlets.append(Outlet(mouth, breaks, size.bore, outlet_k(each)))
    open_share = 1.0 if line.valve == "none" else line.leak if leak is None else leak
    return ReturnLine(
        curve(line),
        pipe,
        tuple(outlets),
        intake,
        on,
        open_share,
        BACKWARDS_K,
        valve=line.valve != "none",
        holds=riser_holds(line.pump, pipe.bore, rise_of(tank, pump_floor) + line.run, water),
    )


@lru_cache(maxsize=256)
def hole_works(line: ReturnSpec, tank: Basin, outlet: OutletSpec, pump_floor: float, water: Water) -> bool:
    """Whether an outlet's air hole passes enough air to stop the free back-siphon through all outlets."""
    size = pipe_size(outlet.pipe)
    level = tank.floor + outlet.hole_height
    flow = free_back_flow(line, tank, level, pump_floor, water)
    total = sum(pipe_size(o.pipe).bore ** 2 for o in line.outlets)
    return air_hole_breaks(outlet.hole, size.bore, flow * size.bore**2 / total, whole=flow)


def lower(line: ReturnSpec, site: Site) -> Fragment:
    """The link from the pump chamber to the tank."""
    tank, source = end_of(line, site), site.vessels[line.source]
    well = source.port("pump")
    for outlet in line.outlets:
        if outlet.height > tank.inner_height + 0.3:
            raise SpecError(f"{outlet.name} ends more than 300 mm above the rim of {tank.name}.")
    if line.tank == line.source:
        raise SpecError(f"{line.pump.name} gives back to the vessel that it stands in: lead it elsewhere.")
    assert well.intake is not None
    law = law_of(line, tank, source.floor, well.intake, site.water)
    if not math.isfinite(law.pipe.length):
        raise SpecError("The return pipe has no length.")
    return Fragment((), (Link(link_id(line), "Return", well.leave, tank.id, law, WayKind.PUMP, line.id),))


def check(line: ReturnSpec, site: Site, study: Study) -> None:
    """Raise PumpTooWeak where the pump cannot lift water to its tank, and FuenteError where its mark leaves it dry."""
    law = study.laws[link_id(line)]
    assert isinstance(law, ReturnLine)
    mark = study.network.marks.get(site.vessels[line.source].port("pump").leave)
    if mark is None:
        return
    tank = end_of(line, site)
    lift = law.lift(mark, tank.floor + (study.drained_to(tank.id) if line.tank in site.homes else 0.0))
    if law.curve.shutoff <= lift:
        raise PumpTooWeak(
            f"The pump does not reach {tank.name}: it lifts {law.curve.shutoff:.2f} m at most and the water "
            f"must rise {lift:.2f} m; take a stronger pump or lower the outlet."
        )
    if mark <= law.intake:
        raise FuenteError("The running level is marked at or below the pump's intake: raise the mark.")
