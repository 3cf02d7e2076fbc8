"""A canister as a sealed cell whose level is its head: suction line, media, pump, line back."""

from __future__ import annotations

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Fragment
from fuente.devices.canister.spec import PAST, Canister
from fuente.devices.filtering import Site
from fuente.devices.plumbing import sealed_curve
from fuente.devices.pocket import bed_id, cell_id, out_id
from fuente.devices.pumping import BACKWARDS_K, pump_curve
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.porous import foam, packed
from fuente.network.beds import Resistance, Sealed, bed_loss
from fuente.network.laws import Outlet, ReturnLine
from fuente.network.model import Cell, Link, WayKind

_NEVER = -50.0  # m: a sealed pump draws no air while its suction holds


def media_loss(spec: Canister, site: Site) -> Resistance:
    """All layers in a row; what goes past them lowers their loss by the square of what is left."""
    total = Resistance()
    for layer in spec.layers:
        thick = layer.share * spec.height
        if layer.medium == "foam":
            porous = foam(layer.ppi)
        else:
            stuff = site.medium(layer.medium)
            porous = packed(stuff.size, stuff.void)
        total += bed_loss(porous, spec.area, thick, site.water)
    through = 1 - PAST[spec.held]
    return Resistance(total.straight * through, total.square * through**2)


def lower(spec: Canister, site: Site) -> Fragment:
    """Cell and two links."""
    tank = site.tank
    size = pipe_size(spec.hose)
    if spec.outlet > tank.inner_height + 0.3:
        raise SpecError(f"{spec.name} gives its water back more than 300 mm above the tank's rim.")
    floor = spec.stand
    solids = (
        sum(spec.bulk(x) * (0.04 if x.medium == "foam" else 1 - site.medium(x.medium).void) for x in spec.layers)
        + spec.inside * spec.dividers * 0.5
    )
    top = max(tank.rim, floor + spec.height) + 3.0
    full = max(spec.inside - solids, 0.1 * spec.inside)
    curve = sealed_curve(floor - 10.0, top, full)
    cell = Cell(cell_id(spec), spec.name, floor - 10.0, top, curve, owner=spec.id)
    k = fitting("strainer").k + 3 * fitting("elbow_45").k + 2 * fitting("ball_valve").k + 2 * fitting("barb").k + 1.0
    suction = Pipe(size.bore, spec.length, k, size.roughness, site.water)
    draw = Sealed(tank.floor + spec.intake, suction, spec.bores, media_loss(spec, site), spec.dirt)
    rising = Pipe(
        size.bore,
        spec.length,
        3 * fitting("elbow_45").k + 2 * fitting("ball_valve").k + 2 * fitting("barb").k,
        size.roughness,
        site.water,
    )
    end = tank.floor + spec.outlet
    outlets = tuple(Outlet(end, end, size.bore, 1.0) for _ in range(spec.bores))
    law = ReturnLine(
        pump_curve(spec.pump),
        rising,
        outlets,
        floor + _NEVER,
        leak=1.0,
        pump_k=BACKWARDS_K,
        valve=False,
        lines=spec.bores,
        holds=0.0,  # a closed vessel keeps its hoses full
    )
    links = (
        Link(bed_id(spec), f"Into {spec.name}", tank.id, cell.id, draw, WayKind.PAD, spec.id),
        Link(out_id(spec), f"Pump of {spec.name}", cell.id, tank.id, law, WayKind.INNER_PUMP, spec.id),
    )
    return Fragment((cell,), links, {"in": cell.id})
