"""Quick answers about the bodies of filters: foam, drums, sieves, canisters, ornaments, sponges."""

from __future__ import annotations

import math
from collections.abc import Mapping

from fuente.answers.filters import positive, share
from fuente.catalogue import stock
from fuente.errors import EntryError
from fuente.hydraulics.drains import full_siphon
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.porous import foam
from fuente.hydraulics.settling import fall_speed, smallest_kept
from fuente.life.load import (
    ammonia_made,
    areal_rate,
    foam_surface,
    surface_needed,
)
from fuente.structure.buoyancy import ballast
from fuente.structure.walls import largest_flange, sagitta, tube_sag
from fuente.water.properties import GRAVITY, water


def foam_wall(
    flow: float,
    width: float,
    depth: float,
    ppi: float = 30.0,
    thickness: float = 0.05,
    squeeze: float = 0.015,
    dirt: float = 25.0,
    temperature: float = 24.0,
) -> Mapping[str, float]:
    """A flat foam wall across a tank: the pad to cut, the speed through it, and the level behind it clean and dirty.

    squeeze is how much larger than the gap the pad is cut, so that no water passes its edges. Darcy–Forchheimer on the
    wet face; the drop is the gauge of how dirty it is. ±30 %.
    """
    positive(flow=flow, width=width, depth=depth, thickness=thickness)
    stuff, clean = water(temperature), foam(ppi)
    face = width * depth
    return {
        "cut_width": width * (1 + squeeze),
        "cut_height": depth * (1 + squeeze),
        "face_speed": flow / face,
        "drop": _pad_drop(flow / face, thickness, clean, stuff),
        "drop_dirty": _pad_drop(flow / face, thickness, clean.dirty(dirt), stuff),
        "surface": foam_surface(ppi) * face * thickness,
    }


def corner_foam(
    flow: float, reach: float, depth: float, ppi: float = 30.0, thickness: float = 0.05, squeeze: float = 0.015
) -> Mapping[str, float]:
    """A quarter-round foam wall in a corner: the strip to cut, bent from wall to wall, and the room behind it.

    reach is where its outer face meets either wall. The strip is cut to its middle line,
    π/2·(reach − half its thickness); the drop ±30 %.
    """
    positive(flow=flow, reach=reach, depth=depth, thickness=thickness)
    if thickness >= reach:
        raise EntryError("The foam is thicker than the corner is deep; take a larger reach.")
    middle = math.pi / 2 * (reach - thickness / 2)
    face = middle * depth
    inner = reach - thickness
    return {
        "cut_length": middle * (1 + squeeze),
        "cut_height": depth * (1 + squeeze),
        "face_speed": flow / face,
        "drop": _pad_drop(flow / face, thickness, foam(ppi), water(24.0)),
        "room_behind": math.pi / 4 * inner**2 * depth,
        "surface": foam_surface(ppi) * face * thickness,
    }


def _pad_drop(speed: float, thickness: float, porous, stuff) -> float:  # type: ignore[no-untyped-def]
    pressure = stuff.viscosity * speed / porous.permeability + stuff.density * porous.inertia * speed**2
    return float(pressure * thickness / (stuff.density * GRAVITY))


def drum_flange(diameter: float, flange: float, gasket: float = 0.003) -> Mapping[str, float]:
    """Whether a bulkhead's flange seats on a drum's wall: the sagitta r − √(r² − (d/2)²) against a third of the gasket.

    Put the gasket on the outside of a curved wall, where it seats. seats is 1 where it does.
    """
    positive(diameter=diameter, flange=flange, gasket=gasket)
    takes = gasket / 3
    if flange >= diameter:
        raise EntryError("The flange is as wide as the drum.")
    falls = sagitta(diameter, flange)
    return {
        "sagitta": falls,
        "takes": takes,
        "largest": largest_flange(diameter, gasket),
        "seats": 1.0 if falls <= takes else 0.0,
    }


def flush(
    volume: float, bore: float, drop: float, length: float = 1.0, k: float = 3.0, times_a_week: float = 1.0
) -> Mapping[str, float]:
    """How fast a drum's or chamber's dirty water runs off through its flush valve, and how much water that takes a
    week.

    Full pipe from the mean level to where it lets go; the last of it runs slower. ±15 %.
    """
    positive(volume=volume, bore=bore, drop=drop)
    flow, speed = full_siphon(drop, Pipe(bore, length, k))
    return {"time": volume / flow, "flow": flow, "velocity": speed, "a_week": volume * times_a_week}


def sieve(
    flow: float,
    aperture: float = 300e-6,
    open_share: float = 0.3,
    clogged: float = 0.5,
    span: float = 0.6,
    pipe_outside: float = 0.032,
    pipe_wall: float = 0.0024,
    load: float = 100.0,
) -> Mapping[str, float]:
    """Screen area for a flow, and how far its frame of PVC pipe sags over its span.

    Fuente assumes 0.06 m/s through the openings for every 100 µm of them, 0.3 m/s at most: no published value, so pour
    a bucket over a piece of your own screen first. clogged is the share that dirt may close. Beam: 5wL⁴/(384EI), E 2.8
    GPa, load in N/m. Area: a factor of two, ±50 %.
    """
    positive(flow=flow, aperture=aperture, span=span, pipe_outside=pipe_outside, pipe_wall=pipe_wall)
    share(open_share=open_share)
    if not 0 <= clogged < 1:
        raise EntryError("clogged is a share under 100 %.")
    through = min(0.06 * aperture / 100e-6, 0.3)
    area = flow / (through * open_share * (1 - clogged))
    return {
        "area": area,
        "speed": through,
        "sag": tube_sag(load, span, pipe_outside, pipe_wall),
        "sag_allowed": span / 200,
    }


def settle(
    flow: float,
    length: float,
    width: float,
    particle: float = 100e-6,
    density: float = 1050.0,
    temperature: float = 24.0,
) -> Mapping[str, float]:
    """What settles in a quiet chamber: overflow rate flow/area against a particle's fall, after Stokes where it is
    slow.

    share is that of such particles which stay down; smallest is the size of which all stay. Fish dirt is 1 020 to
    1 100 kg/m³. ±50 %: turbulence and bubbles carry dirt over.
    """
    positive(flow=flow, length=length, width=width, particle=particle)
    stuff = water(temperature)
    rate = flow / (length * width)
    fall = fall_speed(particle, density, stuff)
    return {
        "overflow_rate": rate,
        "fall_speed": fall,
        "share": min(fall / rate, 1.0),
        "smallest": smallest_kept(rate, density, stuff),
    }


def canister_fill(
    volume: float, flow: float, medium_id: str = "ring", fill: float = 0.85, dividers: float = 0.05, lift: float = 15.0
) -> Mapping[str, float]:
    """What goes into a canister or lidded bucket: litres and kilograms of media, the water among it, and how long it
    stays.

    fill is the share of the inside that trays and media take, dividers what they take themselves.
    """
    positive(volume=volume, flow=flow)
    share(fill=fill)
    stuff = stock().medium(medium_id)
    bulk = volume * fill * (1 - dividers)
    held = volume - bulk * (1 - stuff.void) - volume * fill * dividers
    return {
        "media": bulk,
        "dry_mass": bulk * stuff.dry,
        "wet_mass": bulk * stuff.wet_density(),
        "water": held,
        "stays": held / flow,
        "bags": float(math.ceil(bulk * stuff.wet_density() / lift)),
        "surface": bulk * stuff.surface,
    }


def ornament(
    outer: float, shell_mass: float, shell: float, media: float = 0.0, medium_id: str = "ring", margin: float = 1.3
) -> Mapping[str, float]:
    """Ballast that keeps a hollow ornament down, and the room in it. Volumes in m³, masses in kg.

    outer is the volume that it fills, shell that of its own walls. Water fills the rest: only the walls and the media's
    solids push up, with their own weight against it. Ballast is stone of 2 600 kg/m³. ±15 %.
    """
    positive(outer=outer, shell=shell)
    if shell >= outer:
        raise EntryError("The shell is as large as the whole ornament: there is no room in it.")
    room = outer - shell
    if media > room:
        raise EntryError("The media does not fit into the room inside.")
    stuff = stock().medium(medium_id)
    solids = media * (1 - stuff.void)
    lift, stone = ballast(shell, shell_mass, solids, media * stuff.dry, margin)
    return {"room": room, "lift": lift, "ballast": stone, "water": room - solids}


def sponge_size(
    feed: float,
    protein: float = 0.45,
    temperature: float = 24.0,
    ppi: float = 20.0,
    spare: float = 1.5,
    face_speed: float = 2e-3,
) -> Mapping[str, float]:
    """Foam for an air-driven sponge: litres by the load's surface, and the flow that its face takes gently.

    Outer surface of the foam; the face is taken as that of a cube of the foam on five sides, and 2 mm/s through it as
    gentle, an assumption. ±40 %.
    """
    rate, _ = areal_rate(5e-4, temperature, 6e-3)
    surface = spare * surface_needed(ammonia_made(feed, protein), rate)
    volume = surface / foam_surface(ppi)
    side = volume ** (1 / 3)
    return {"volume": volume, "side": side, "surface": surface, "flow": 5 * side**2 * face_speed}
