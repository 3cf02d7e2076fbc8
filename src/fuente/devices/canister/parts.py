"""What a canister or bucket is made of."""

from __future__ import annotations

from dataclasses import replace

from fuente.catalogue import pipe_size
from fuente.devices.canister.spec import HOLDS, SPONGE_WALL, Canister, Layer
from fuente.devices.filtering import Site
from fuente.devices.pieces import (
    ELECTRIC,
    Fixing,
    Joint,
    Pad,
    Parts,
    Piece,
    Pipe,
    Shelf,
    Thing,
    media_of,
    note,
    tool,
)
from fuente.devices.pumping import pump_piece
from fuente.network.model import Solution

LARGER = 0.015  # by which a disc is cut larger than its vessel


def parts(spec: Canister, site: Site, solution: Solution) -> Parts:
    """Vessel, layers, hoses, taps, pump."""
    vessel = Thing(
        id=f"{spec.id}.vessel",
        name=(
            "Canister with a lid that seals" if spec.style == "canister" else "Lidded bucket, food-safe, with a seal"
        ),
        shelf=Shelf.EQUIPMENT,
        diameter=spec.diameter,
        height=spec.height,
        volume=spec.inside,
    )
    held = HOLDS[spec.held]
    found: list[Piece] = [
        vessel,
        *(_layer(spec, site, k, layer) for k, layer in enumerate(spec.layers)),
        tool(
            f"{spec.id}.held",
            held[:1].upper() + held[1:],
            shelf=Shelf.EQUIPMENT,
            count=len(spec.layers) if spec.held in ("trays", "bags") else 1,
        ),
        *_hoses(spec),
        tool(
            f"{spec.id}.taps",
            "Tap with union",
            note("one in each hose, to part it full"),
            count=spec.bores + spec.backs,
        ),
        tool(f"{spec.id}.strainer", "Intake strainer", note("openings smaller than the animals"), count=spec.bores),
        pump_piece(f"{spec.id}.pump", spec.pump),
    ]
    if spec.style == "bucket":
        ways: tuple[tuple[str, int, str], ...] = (
            (spec.hose, spec.bores, ".bulkheads"),
            (spec.back_hose, spec.backs, ".bulkheads-back"),
        )
        if spec.back_hose == spec.hose:
            ways = ((spec.hose, spec.bores + spec.backs, ".bulkheads"),)
        found += [
            Joint(
                id=f"{spec.id}{end}",
                fixing=Fixing.BULKHEAD,
                pipe=hose,
                between=(vessel.id,),
                count=count,
                notes=(note("through lid or wall; several small ones pass as much as one large"),),
            )
            for hose, count, end in ways
        ]
    if spec.sponge:
        inner = pipe_size(spec.hose).outside
        found.append(
            Pad(
                id=f"{spec.id}.sponge",
                form="Foam sleeve on the intake",
                stuff="made",
                ppi=spec.sponge,
                diameter=inner + 2 * SPONGE_WALL,
                thickness=spec.sponge_long,
                count=spec.bores,
                notes=(note("bored {d:length} for the strainer", d=inner), note("one more to change over to")),
            )
        )
    dividers = sum(x.divider for x in spec.layers) + (1 if spec.foot and not spec.layers[0].divider else 0)
    if dividers:
        found.append(
            Thing(
                id=f"{spec.id}.dividers",
                name="Grid on feet",
                shelf=Shelf.EQUIPMENT,
                diameter=spec.diameter,
                count=dividers,
                notes=(note("carries the layer over it; openings smaller than the media"),),
            )
        )
    if spec.drain:
        found.append(tool(f"{spec.id}.drain", "Drain cock with its bulkhead", note("at the foot")))
    return Parts(tuple(found), (ELECTRIC,))


def _hoses(spec: Canister) -> list[Pipe]:
    """Both ways; one entry where they are alike."""
    stiff = note("one way each; stiff on the suction side")
    there = Pipe(id=f"{spec.id}.hose", form="Hose", pipe=spec.hose, count=spec.bores, length=spec.length)
    if (spec.back_hose, spec.back_run) == (spec.hose, spec.length):
        return [replace(there, count=spec.bores + spec.backs, notes=(stiff,))]
    back = replace(there, id=f"{spec.id}.hose-back", pipe=spec.back_hose, count=spec.backs, length=spec.back_run)
    return [replace(there, notes=(note("the way in; stiff"),)), replace(back, notes=(note("the way back"),))]


def _layer(spec: Canister, site: Site, k: int, layer: Layer) -> Piece:
    """A disc of foam or floss, or loose media."""
    if layer.medium not in ("foam", "floss"):
        return media_of(f"{spec.id}.{k}", site.medium(layer.medium), spec.bulk(layer))
    soft = layer.medium == "floss"
    return Pad(
        id=f"{spec.id}.{k}",
        form="Floss disc" if soft else "Foam disc",
        stuff="floss" if soft else "foam",
        over=LARGER / 2 * spec.diameter,
        ppi=0.0 if soft else layer.ppi,
        diameter=spec.diameter,
        thickness=layer.thickness,
        notes=(note("cut {s:percent} larger", s=LARGER),),
    )
