"""What a canister or bucket is made of."""

from __future__ import annotations

from fuente.devices.canister.spec import HOLDS, Canister, Layer
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
        Pipe(
            id=f"{spec.id}.hose",
            form="Hose",
            pipe=spec.hose,
            count=2 * spec.bores,
            length=spec.length,
            notes=(note("one way each; stiff on the suction side"),),
        ),
        tool(f"{spec.id}.taps", "Tap with union", note("one in each hose, to part it full"), count=2 * spec.bores),
        tool(f"{spec.id}.strainer", "Intake strainer", note("openings smaller than the animals"), count=spec.bores),
        pump_piece(f"{spec.id}.pump", spec.pump),
    ]
    if spec.style == "bucket":
        found.append(
            Joint(
                id=f"{spec.id}.bulkheads",
                fixing=Fixing.BULKHEAD,
                pipe=spec.hose,
                between=(vessel.id,),
                count=2 * spec.bores,
                notes=(note("through lid or wall; several small ones pass as much as one large"),),
            )
        )
    return Parts(tuple(found), (ELECTRIC,))


def _layer(spec: Canister, site: Site, k: int, layer: Layer) -> Piece:
    """A disc of foam, or loose media."""
    if layer.medium != "foam":
        return media_of(f"{spec.id}.{k}", site.medium(layer.medium), spec.bulk(layer))
    return Pad(
        id=f"{spec.id}.{k}",
        form="Foam disc",
        ppi=layer.ppi,
        diameter=spec.diameter,
        thickness=layer.share * spec.height,
        notes=(note("cut {s:percent} larger", s=LARGER),),
    )
