"""Kinds of device. Each is a folder with the verbs of contract.py; a new one is a folder and a line here.

A kind is loaded when a system first has one of it: most designs hold few of them.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from importlib import import_module

from fuente.devices.contract import Device, Kind
from fuente.devices.filtering import FilterKind, FilterSpec
from fuente.errors import FuenteError

_FOLDERS = (
    "tank",
    "overflow",
    "standpipe",
    "hang_on",
    "header",
    "sump",
    "join",
    "return_line",
    "manifold",
    "top_up",
    "air_supply",
    "sponge",
    "bottle_bed",
    "foam_wall",
    "ornament",
    "under_gravel",
    "canister",
    "drum_train",
    "trickle_tower",
    "sieve_bed",
    "plant_bed",
    "sock",
    "steriliser",
    "rim_box",
)


class _Kinds(Mapping[str, Kind]):
    """All kinds by their ids, in the order of the gallery."""

    def __init__(self, folders: Iterable[str]):
        self._known: dict[str, Kind | None] = dict.fromkeys(folders)

    def __getitem__(self, key: str) -> Kind:
        kind = self._known[key]
        if kind is None:
            kind = self._known[key] = import_module(f"fuente.devices.{key}").KIND
        return kind

    def __iter__(self) -> Iterator[str]:
        return iter(self._known)

    def __len__(self) -> int:
        return len(self._known)

    def add(self, kind: Kind) -> None:
        """Another kind, after the others."""
        self._known[kind.id] = kind

    def drop(self, kind: Kind) -> None:
        """Forget a kind that was added."""
        del self._known[kind.id]


KINDS = _Kinds(_FOLDERS)


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
    KINDS.add(kind)
