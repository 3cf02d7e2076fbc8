"""A steriliser's loop: pump, sealed chamber, hose back."""

from __future__ import annotations

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Fragment
from fuente.devices.filtering import Site
from fuente.devices.plumbing import sealed_curve
from fuente.devices.pocket import bed_id, cell_id, out_id
from fuente.devices.pumping import BACKWARDS_K, pump_curve
from fuente.devices.steriliser.spec import Steriliser
from fuente.hydraulics.pipes import Pipe
from fuente.network.beds import Sealed
from fuente.network.model import Cell, Link, WayKind
from fuente.network.returning import Outlet, ReturnLine

_UP = 12.0  # m over the room's floor to which its head is followed


def lower(spec: Steriliser, site: Site) -> Fragment:
    """One sealed cell, whose level is its head, and two links."""
    tank = site.tank
    size = pipe_size(spec.hose)
    foot = spec.stand
    curve = sealed_curve(foot - 10.0, _UP, spec.water)
    cell = Cell(cell_id(spec), spec.name, foot - 10.0, _UP, curve, owner=spec.id, lid=foot + spec.diameter)
    half = Pipe(size.bore, spec.run, 2 * fitting("elbow_45").k + fitting("ball_valve").k, size.roughness, site.water)
    never = foot - 50.0
    pump = ReturnLine(
        pump_curve(spec.pump),
        half,
        (Outlet(never, never, size.bore, 1.0 + spec.loss),),
        tank.floor + spec.intake,
        leak=1.0,
        pump_k=BACKWARDS_K,
        valve=False,
    )
    back = Sealed(-40.0, Pipe(size.bore, spec.run, half.k + 1.5, size.roughness, site.water), 1)
    links = (
        Link(bed_id(spec), f"Pump of {spec.name}", tank.id, cell.id, pump, WayKind.LOOP_PUMP, spec.id),
        Link(out_id(spec), f"Back from {spec.name}", cell.id, tank.id, back, WayKind.LIFT, spec.id),
    )
    return Fragment((cell,), links, {"in": cell.id})
