"""Changes of whole devices: put in, taken out with all that is nothing without them."""

from __future__ import annotations

from collections.abc import Container, Iterable
from typing import Any, TypeVar

from fuente.catalogue import PIPES, inch_for
from fuente.devices.base import Change, Spec
from fuente.devices.contract import Device

AnySpec = TypeVar("AnySpec", bound=Spec)


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


def inch_sized(spec: AnySpec, kept: Container[str] = ()) -> AnySpec:
    """A new part in US trade sizes: each metric pipe becomes the narrowest inch pipe that is no narrower; ids that are
    ``kept``, as they are in use, stay.
    """
    changed: dict[str, Any] = {}
    for name in type(spec).model_fields:
        value = getattr(spec, name)
        made = _inch(value, kept)
        if made is not value:
            changed[name] = made
    return spec.model_copy(update=changed) if changed else spec


def _inch(value: Any, kept: Container[str]) -> Any:
    if isinstance(value, str):
        metric = value not in kept and value in PIPES and PIPES[value].family == "metric"
        return inch_for(value) if metric else value
    if isinstance(value, Spec):
        return inch_sized(value, kept)
    if isinstance(value, tuple):
        made = tuple(_inch(each, kept) for each in value)
        return value if all(a is b for a, b in zip(made, value, strict=True)) else made
    return value


def pipes_in(spec: Any) -> set[str]:
    """Ids of all pipes and hoses of a part."""
    if isinstance(spec, str):
        return {spec} if spec in PIPES else set()
    if isinstance(spec, Spec):
        return set().union(*(pipes_in(getattr(spec, name)) for name in type(spec).model_fields))
    return set().union(*map(pipes_in, spec)) if isinstance(spec, tuple) else set()
