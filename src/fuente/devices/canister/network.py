"""A canister as a sealed cell whose level is its head: suction line, media, pump, line back."""

from __future__ import annotations

import math

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Fragment
from fuente.devices.canister.spec import PAST, SPONGE_WALL, Canister, Layer
from fuente.devices.filtering import Site
from fuente.devices.plumbing import sealed_curve
from fuente.devices.pocket import bed_id, cell_id, out_id
from fuente.devices.pumping import BACKWARDS_K, pump_curve
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.porous import felt, foam, packed
from fuente.network.beds import Resistance, Sealed, bed_loss
from fuente.network.model import Cell, Link, WayKind
from fuente.network.returning import Outlet, ReturnLine
from fuente.water.properties import GRAVITY

FLOSS = 100e-6  # m: what a felt of the same loss keeps back; an assumption, as floss is sold by weight
_NEVER = -50.0  # m: a sealed pump draws no air while its suction holds


def layer_loss(spec: Canister, site: Site, layer: Layer) -> Resistance:
    """One layer, clean; what goes past it lowers its loss by the square of what is left."""
    if layer.medium == "foam":
        porous = foam(layer.ppi)
    elif layer.medium == "floss":
        porous = felt(FLOSS)
    else:
        stuff = site.medium(layer.medium)
        porous = packed(stuff.size, stuff.void)
    clean = bed_loss(porous, spec.area, layer.thickness, site.water)
    through = 1 - PAST[spec.held]
    return Resistance(clean.straight * through, clean.square * through**2)


def sponge_loss(spec: Canister, site: Site) -> Resistance:
    """A sleeve of foam round the strainer, clean: water goes inwards through rings that narrow, Darcy–Forchheimer over
    the radius.
    """
    if not spec.sponge:
        return Resistance()
    porous, inner = foam(spec.sponge), pipe_size(spec.hose).outside / 2
    outer = inner + SPONGE_WALL
    around = 2 * math.pi * spec.sponge_long * spec.bores
    weight = site.water.density * GRAVITY
    return Resistance(
        site.water.viscosity * math.log(outer / inner) / (porous.permeability * around * weight),
        porous.inertia * (1 / inner - 1 / outer) / (around**2 * GRAVITY),
    )


def media_loss(spec: Canister, site: Site) -> tuple[Resistance, float, Resistance]:
    """What catches the dirt, clean, with how many times its clean loss it has now; and all else in the row as it is."""
    catches, rest = spec.catches, Resistance()
    caught, dirt = sponge_loss(spec, site), spec.sponge_dirt
    for k in spec.order:
        layer = spec.layers[k]
        if k == catches:
            caught, dirt = layer_loss(spec, site, layer), layer.dirt
        else:
            rest += layer_loss(spec, site, layer).times(layer.dirt)
    return caught, dirt, rest


def lower(spec: Canister, site: Site) -> Fragment:
    """Cell and two links."""
    tank = site.tank
    size = pipe_size(spec.hose)
    if spec.outlet > tank.inner_height + 0.3:
        raise SpecError(f"{spec.name} gives its water back more than 300 mm above the tank's rim.")
    floor = spec.stand
    soft = ("foam", "floss")
    solids = (
        sum(spec.bulk(x) * (0.04 if x.medium in soft else 1 - site.medium(x.medium).void) for x in spec.layers)
        + spec.inside * spec.dividers * 0.5
    )
    top = max(tank.rim, floor + spec.height) + 3.0
    full = max(spec.inside - solids, 0.1 * spec.inside)
    curve = sealed_curve(floor - 10.0, top, full)
    cell = Cell(cell_id(spec), spec.name, floor - 10.0, top, curve, owner=spec.id, lid=floor + spec.height)
    k = fitting("strainer").k + 3 * fitting("elbow_45").k + 2 * fitting("ball_valve").k + 2 * fitting("barb").k + 1.0
    suction = Pipe(size.bore, spec.length, k, size.roughness, site.water)
    caught, dirt, rest = media_loss(spec, site)
    draw = Sealed(tank.floor + spec.intake, suction, spec.bores, caught, dirt, rest=rest)
    back = pipe_size(spec.back_hose)
    rising = Pipe(
        back.bore,
        spec.back_run,
        3 * fitting("elbow_45").k + 2 * fitting("ball_valve").k + 2 * fitting("barb").k,
        back.roughness,
        site.water,
    )
    end = tank.floor + spec.outlet
    outlets = tuple(Outlet(end, end, back.bore, 1.0) for _ in range(spec.backs))
    law = ReturnLine(
        pump_curve(spec.pump),
        rising,
        outlets,
        floor + _NEVER,
        leak=1.0,
        pump_k=BACKWARDS_K,
        valve=False,
        lines=spec.backs,
        holds=0.0,  # a closed vessel keeps its hoses full
    )
    links = (
        Link(bed_id(spec), f"Into {spec.name}", tank.id, cell.id, draw, WayKind.PAD, spec.id),
        Link(out_id(spec), f"Pump of {spec.name}", cell.id, tank.id, law, WayKind.INNER_PUMP, spec.id),
    )
    return Fragment((cell,), links, {"in": cell.id})
