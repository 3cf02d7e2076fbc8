"""Changes of whole devices: put in, taken out with all that is nothing without them."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.base import Change
from fuente.devices.contract import Device


def added(*devices: Device) -> tuple[Change, ...]:
    """Changes that put devices at the end of the document, or in the place of those with their ids."""
    return tuple(Change(d.path, d) for d in devices)


def taken_out(devices: Iterable[Device], gone: Iterable[Device]) -> tuple[Change, ...]:
    """Changes that take devices out of a document, and with them what is nothing without them."""
    left: dict[str, Device] = {d.id: d for d in devices}
    changed: dict[str, Device | None] = {}
    todo = [d for d in gone if d.id in left]
    while todo:
        out = todo.pop(0)
        left.pop(out.id, None)
        changed[out.id] = None
        for other in tuple(left.values()):
            made = other.past(out)
            if made is None:
                if other not in todo:
                    todo.append(other)
            elif made is not other:
                left[other.id] = changed[other.id] = made
    return tuple(Change(("devices", key), value) for key, value in changed.items())
