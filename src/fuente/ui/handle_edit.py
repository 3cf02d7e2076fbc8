"""The edit that a handle makes, on the step on which its values lie."""

from __future__ import annotations

from fuente.devices.base import Change, Edit
from fuente.drawing.primitives import Handle
from fuente.units import UnitSystem


def step_of(handle: Handle, units: UnitSystem) -> float:
    """The step on which a handle's values lie: a millimetre or a sixteenth, m; a degree."""
    if handle.quantity == "angle":
        return 1.0
    return 0.001 if units == UnitSystem.METRIC else 0.0254 / 16


def edit_for(handle: Handle, value: float, units: UnitSystem) -> Edit:
    """The edit that puts a handle to a value, within its limits, on whole millimetres (or sixteenths), or degrees."""
    step = step_of(handle, units)
    value = round(min(max(round(value / step) * step, handle.low), handle.high), 6)
    changes = [Change(handle.path, value)]
    if handle.partner:
        path, was = handle.partner
        changes.append(Change(path, round(was - (value - handle.value), 6)))
    verb = "Raise" if value > handle.value else "Lower"
    if handle.axis == "x":
        verb = "Widen" if value > handle.value else "Narrow"
    if handle.quantity == "angle":
        verb = "Close" if value > handle.value else "Open"
    return Edit(f"{verb} {handle.verb}", tuple(changes))
