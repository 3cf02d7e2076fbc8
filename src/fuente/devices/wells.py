"""The running mark of a pump's well, for every device that would have it lower."""

from __future__ import annotations

from fuente.devices.base import Change, Edit
from fuente.devices.site import Port, Vessel

_COVER = 0.05  # m of water over the intake that a lower mark must leave


def lower_mark(vessel: Vessel, well: Port, volume: float) -> Edit | None:
    """Take a volume in m³ out of the system by a lower running mark; None where the pump would then run short."""
    if not well.mark_path:
        return None
    level = int((well.level - volume / well.area) * 1000) / 1000
    if level < well.needs + _COVER:
        return None
    return Edit("Lower running level", (Change(well.mark_path, round(level, 4)),))
