"""Kinds of filter. Each is a folder with five verbs; a new one is a folder and a line here.

Tanks, drains, pipes and pumps between them, which every system has, are wired by the document itself.
"""

from __future__ import annotations

from fuente.devices import (
    bottle_bed,
    canister,
    drum_train,
    foam_wall,
    ornament,
    plant_bed,
    sieve_bed,
    sock,
    sponge,
    steriliser,
    trickle_tower,
    under_gravel,
)
from fuente.devices.filtering import FilterSpec, Kind
from fuente.errors import FuenteError

KINDS: dict[str, Kind] = {
    kind.id: kind
    for kind in (
        sponge.KIND,
        bottle_bed.KIND,
        foam_wall.KIND,
        ornament.KIND,
        under_gravel.KIND,
        canister.KIND,
        drum_train.KIND,
        trickle_tower.KIND,
        sieve_bed.KIND,
        plant_bed.KIND,
        sock.KIND,
        steriliser.KIND,
    )
}


def kind_of(spec: FilterSpec) -> Kind:
    """The kind of a filter in the document."""
    return KINDS[spec.kind]


def register(kind: Kind) -> None:
    """Take in a kind from elsewhere; it is then like Fuente's own."""
    if kind.id in KINDS and KINDS[kind.id] is not kind:
        raise FuenteError(f"There is a kind “{kind.id}” already.")
    KINDS[kind.id] = kind
