"""What can be done at a station: what its kind knows, what other kinds add, and what only the whole system knows."""

from __future__ import annotations

from collections.abc import Callable

from fuente.devices.base import Change, Edit
from fuente.devices.contract import Device
from fuente.devices.edits import taken_out
from fuente.devices.filtering import FilterSpec
from fuente.devices.homes import HomeSpec
from fuente.devices.offered import Offer
from fuente.document.system import System
from fuente.study.analysis import Analysis

Commands = tuple[tuple[str, Edit], ...]


def commands_of(
    analysis: Analysis, device: Device, own: Callable[[], Commands] | None, offers: tuple[Offer, ...]
) -> Commands:
    """All of them, worked out when the menu opens."""
    from fuente.devices.recipes.growing import commands_for  # every kind that can become another: not for a start
    from fuente.study.filters import filter_commands

    system = analysis.system
    found = list(own() if own else ())
    if isinstance(device, HomeSpec):
        found += _tank_commands(system, device)
        if len(system.tanks) > 1:
            found += [c for o in offers if o.commands for c in o.commands()]
    if isinstance(device, FilterSpec):
        found += filter_commands(system, device)
    found += commands_for(system.by_id, device)
    return tuple(found)


def place_commands(analysis: Analysis, place_id: str, own: Callable[[], Commands] | None) -> Commands:
    """A station's own commands, and a line to the air that it may take and has none of."""
    from fuente.study.filters import air_line

    found = own() if own else ()
    if any(place_id in d.air_lines() for d in analysis.system.devices):
        return found
    return (*found, ("Connect an air line", air_line(analysis, place_id)))


def _tank_commands(system: System, tank: HomeSpec) -> list[tuple[str, Edit]]:
    """Take a tank out with all that hangs on it, or give the whole rack what this tank has."""
    if len(system.tanks) < 2:
        return []
    out = Edit(f"Take out {tank.name}", taken_out(system.devices, (tank,)))
    found = [(f"Take out {tank.name}", out)]
    mates = [t for t in system.tanks if t.rack == tank.rack and t.id != tank.id] if tank.rack else []
    if mates:
        same = [Change((*t.path, "stock"), tank.stock) for t in mates]
        same += [Change((*t.path, "gravel"), tank.gravel) for t in mates]
        found.append(("Same animals and gravel in the whole rack", Edit("Fill the rack alike", tuple(same))))
    return found
