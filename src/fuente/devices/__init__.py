"""Kinds of device. Each is a folder with the verbs of contract.py; a new one is a folder and a line here."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from fuente.devices import (
    air_supply,
    bottle_bed,
    canister,
    drum_train,
    foam_wall,
    hang_on,
    header,
    join,
    manifold,
    ornament,
    overflow,
    plant_bed,
    return_line,
    sieve_bed,
    sock,
    sponge,
    standpipe,
    steriliser,
    sump,
    tank,
    top_up,
    trickle_tower,
    under_gravel,
)
from fuente.devices.contract import Device, Kind
from fuente.devices.filtering import FilterKind, FilterSpec
from fuente.errors import FuenteError

KINDS: dict[str, Kind] = {
    kind.id: kind
    for kind in (
        tank.KIND,
        overflow.KIND,
        standpipe.KIND,
        hang_on.KIND,
        header.KIND,
        sump.KIND,
        join.KIND,
        return_line.KIND,
        manifold.KIND,
        top_up.KIND,
        air_supply.KIND,
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


def kind_of(device: Device) -> Kind:
    """The kind of a device in the document."""
    return KINDS[device.kind]


def filter_kinds() -> list[FilterKind]:
    """Kinds that can be picked from the gallery, in its order."""
    return [kind for kind in KINDS.values() if isinstance(kind, FilterKind)]


def filter_kind(spec: FilterSpec) -> FilterKind:
    """The kind of a filter."""
    kind = KINDS[spec.kind]
    assert isinstance(kind, FilterKind)
    return kind


def in_order(devices: Iterable[Device]) -> Sequence[Device]:
    """Devices by their kinds' places; those of one place as the document has them."""
    return sorted(devices, key=lambda d: KINDS[d.kind].order)


def register(kind: Kind) -> None:
    """Take in a kind from elsewhere; it is then like Fuente's own."""
    if kind.id in KINDS and KINDS[kind.id] is not kind:
        raise FuenteError(f"There is a kind “{kind.id}” already.")
    KINDS[kind.id] = kind
