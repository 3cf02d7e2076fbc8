"""Edits that let a system grow: a hang-on overflow, a sump in front of another, a manifold in place of a return, a top-
up.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from fuente.devices.base import Change, Edit
from fuente.devices.contract import Device
from fuente.devices.edits import taken_out
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.homes import HomeSpec
from fuente.devices.join.spec import JoinSpec
from fuente.devices.manifold.spec import Branch, Feeder, Manifold, SupplyRow
from fuente.devices.overflow.spec import Overflow
from fuente.devices.return_line.spec import ReturnSpec
from fuente.devices.sump.spec import Baffle, Chamber, Sump
from fuente.devices.tank.spec import Tank
from fuente.devices.top_up.spec import TopUp
from fuente.one_line import within

Devices = Mapping[str, Device]  # by id, in the order of the document
Commands = tuple[tuple[str, Edit], ...]


def _get(devices: Devices, key: str, cls: type[Any]) -> Any:
    found = devices[key]
    assert isinstance(found, cls)
    return found


def _free(devices: Devices, stem: str) -> str:
    return stem if stem not in devices else next(f"{stem}-{n}" for n in range(2, 1000) if f"{stem}-{n}" not in devices)


def hang_on_instead(devices: Devices, overflow_id: str) -> Edit:
    """A hang-on overflow in place of a box: nobody drills."""
    over: Overflow = _get(devices, overflow_id, Overflow)
    tank: Any = _get(devices, over.tank, HomeSpec)
    box = HangOn(
        id=_free(devices, "hang-on"),
        tank=over.tank,
        into=over.into,
        crest=over.crest,
        weir=min(over.weir, max(tank.inner_width - 0.02, 0.05)),
        tubes=2,
        tube="40-pn10",
        pipe="50-pn10",
        release=over.release,
    )
    return Edit("Hang overflow over the rim", (Change(over.path, None), Change(box.path, box)))


def box_instead(devices: Devices, hang_on_id: str) -> Edit:
    """A box inside the tank in place of a hang-on overflow."""
    hung: HangOn = _get(devices, hang_on_id, HangOn)
    tank: Any = _get(devices, hung.tank, HomeSpec)
    mouth = max(round(hung.crest - 0.1, 3), 0.05)
    drain = Overflow().drains[0].model_copy(update={"pipe": "50-pn10", "mouth": mouth, "run": hung.run})
    box = Overflow(
        id=_free(devices, "overflow"),
        tank=hung.tank,
        into=hung.into,
        crest=hung.crest,
        weir=round(min(0.4, tank.inner_width - 0.02), 3),
        box_width=round(min(0.3, tank.inner_width - 0.02), 3),
        drains=(drain,),
        release=hung.release,
    )
    return Edit("Put overflow in a box", (Change(hung.path, None), Change(box.path, box)))


def sump_in_front(devices: Devices, device_id: str) -> Edit:
    """Another sump as large, joined by two bulkheads below water; the drains then fall into it."""
    old: Sump = _get(devices, device_id, Sump)
    key = _free(devices, "sump")
    entry = old.chambers[0]
    stands = entry.exit.top if entry.exit else entry.level
    settle = Chamber(
        id="inlet",
        role="inlet",
        width=round(old.inner_length * 0.45, 3),
        exit=Baffle(top=round(min(stands + 0.02, old.inner_height - 0.02), 3)),
    )
    rest = Chamber(id="rest", role="plants", width=round(old.inner_length * 0.5, 3), level=stands)
    made = Sump(
        id=key,
        name=f"{old.name} in front",
        length=old.length,
        width=old.width,
        height=old.height,
        thickness=old.thickness,
        bottom=old.bottom,
        material=old.material,
        stand=old.stand,
        offset=old.offset - old.length - 0.25,
        chambers=(settle, rest),
    )
    join = JoinSpec(
        id=_free(devices, "join"),
        name="Joining bulkheads",
        first=key,
        chamber="rest",
        second=old.id,
        entry=entry.id,
        count=2,
        height=round(min(0.12, 0.5 * stands), 3),
        length=0.27,
    )
    moved = {d.id: d.model_copy(update={"into": key}) for d in devices.values() if _falls_into(d, old.id)}
    rows: list[Device] = []
    for device in devices.values():
        if device is old:
            rows.append(made)
        rows.append(moved.get(device.id, device))
    return Edit("Join a sump in front", (Change(("devices",), (*rows, join)),))


def _falls_into(device: Device, vessel_id: str) -> bool:
    return any(e.role == "drains" and e.to == vessel_id for e in device.ends())


def manifold_instead(devices: Devices, return_id: str) -> Edit:
    """A manifold with one branch in place of a return: side loops and more tanks can then join it."""
    line: ReturnSpec = _get(devices, return_id, ReturnSpec)
    tank: Any = _get(devices, line.tank, HomeSpec)
    outlet = line.outlets[0]
    branch = Branch(
        tank=line.tank,
        spacing=0.2,
        pipe=line.pipe,
        length=0.4,
        mouth=outlet.height,
        form=outlet.form,
        holes=min(outlet.holes, 200),
        hole_bore=min(outlet.hole_bore, 0.02),
        air_hole=min(outlet.hole, 0.02),
        air_height=outlet.hole_height,
    )
    feeder = Feeder(
        id="pump",
        source=line.source,
        pump=line.pump,
        pipe=line.pipe,
        run=line.run,
        fittings=line.fittings,
        valve=line.valve,
        leak=line.leak,
        correction=line.correction,
    )
    row = SupplyRow(height=round(tank.rim + 0.06, 3), pipe=line.pipe, lead=0.2, branches=(branch,))
    made = Manifold(id=_free(devices, "manifold"), name="Manifold", feeders=(feeder,), riser=line.pipe, rows=(row,))
    return Edit("Make the return a manifold", (Change(line.path, None), Change(made.path, made)))


def add_top_up(devices: Devices, into: str) -> Commands:
    """The command that adds a top-up to a filter that has none."""
    if any(isinstance(d, TopUp) and d.into == into for d in devices.values()):
        return ()
    key = next(f"top-up-{n}" for n in range(1, 99) if f"top-up-{n}" not in devices)
    sump = devices.get(into)
    level = sump.chambers[-1].level if isinstance(sump, Sump) else _filled(devices, into)
    made = TopUp(id=key, into=into, level=level)
    return (("Add a top-up", Edit("Add top-up", (Change(made.path, made),))),)


def _filled(devices: Devices, into: str) -> float:
    """About where a tank that nothing drains stands, m over its floor."""
    tank: Tank = _get(devices, into, Tank)
    return round(tank.inner_height - 0.06, 3)


def _of_tank(devices: Devices, spec: Any) -> Commands:
    """Fresh water into a tank that nothing drains: elsewhere it belongs into the pump chamber."""
    drained = any(key == spec.id for d in devices.values() for key, _ in d.falls())
    return () if drained else add_top_up(devices, spec.id)


def _of_overflow(devices: Devices, spec: Any) -> Commands:
    return (("Hang it over the rim instead", hang_on_instead(devices, spec.id)),)


def _of_hang_on(devices: Devices, spec: Any) -> Commands:
    return (("Put it in a box instead", box_instead(devices, spec.id)),)


def _of_return(devices: Devices, spec: Any) -> Commands:
    more: Commands = (("Join a sump in front of this one", sump_in_front(devices, spec.source)),)
    if isinstance(devices[spec.tank], HomeSpec):
        more = (("Make it a manifold", manifold_instead(devices, spec.id)), *more)
    return (*add_top_up(devices, spec.source), second_return(devices, spec), *more)


def second_return(devices: Devices, line: ReturnSpec) -> tuple[str, Edit]:
    """Another pump with a line of its own beside a return, with the same pipes: one carries on where another fails."""
    made = line.model_copy(
        update={
            "id": _free(devices, "return"),
            "pump": line.pump.model_copy(update={"name": "Second return pump"}),
            "lamp": None,
        }
    )
    return "Add a return pump beside it", Edit("Add second return", (Change(made.path, made),))


def _of_manifold(devices: Devices, spec: Any) -> Commands:
    into = spec.feeders[0].source
    return (*add_top_up(devices, into), ("Join a sump in front of this one", sump_in_front(devices, into)))


def _of_sump(devices: Devices, spec: Any) -> Commands:
    """Without it, and without what is nothing without it: its overflows and returns."""
    gone = taken_out(devices.values(), (spec,))
    return ((f"Take the whole {within(spec.name)} out", Edit(f"Take out {within(spec.name)}", gone)),)


_GROWS: dict[type[Device], Callable[[Devices, Any], Commands]] = {
    Tank: _of_tank,
    Overflow: _of_overflow,
    HangOn: _of_hang_on,
    ReturnSpec: _of_return,
    Manifold: _of_manifold,
    Sump: _of_sump,
}


def commands_for(devices: Devices, spec: Device) -> Commands:
    """What a device can become or gain that takes other kinds."""
    made = _GROWS.get(type(spec))
    return made(devices, spec) if made else ()
