"""What each fault asks of a design, and what it does to the network."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace
from typing import TYPE_CHECKING

from fuente.errors import EntryError
from fuente.network.beds import Bed, FloatedFeed, FloatFed, Sealed, Through
from fuente.network.laws import Gap, Pad, Sheet, Standpipe
from fuente.network.model import FLOOR, Law, Link, WayKind
from fuente.network.returning import Outlet, ReturnLine
from fuente.network.supplies import FloatValve, RimSiphon
from fuente.study.breaking import (
    _AIR_CELL,
    _BUCKET_CELL,
    AIR,
    BUCKET,
    Broken,
    Ends,
    Fault,
    Seep,
    Spouts,
    Weep,
    stopped,
)

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis


def has_law(study: Analysis, *laws: type) -> bool:
    return any(isinstance(k.law, laws) for k in study.whole.links)


def moved(study: Analysis) -> bool:
    return any(k.kind is WayKind.PUMP for k in study.whole.ways)


def valved(study: Analysis) -> bool:
    return any(isinstance(k.law, ReturnLine) and k.law.valve for k in study.whole.links)


def many(study: Analysis) -> bool:
    return len(study.system.tanks) > 1


def drained(study: Analysis) -> bool:
    return bool(study.drains(False))


def aired(study: Analysis) -> bool:
    return bool(study.airs)


def floated(study: Analysis) -> bool:
    return has_law(study, FloatValve, FloatFed) or any(isinstance(g, FloatedFeed) for g in study.whole.groups)


def _blocked(state: Broken, keys: Iterable[str], share: float) -> None:
    for key in keys:
        law = state.laws[key]
        assert isinstance(law, Standpipe)
        state.change[key] = replace(law, open_share=1.0 - share)


def power(on: bool) -> Callable[[Broken, Fault], None]:
    def breaks(state: Broken, fault: Fault) -> None:
        state.powered = on

    return breaks


def leak(state: Broken, fault: Fault) -> None:
    state.leak = fault.value


def drains(state: Broken, fault: Fault) -> None:
    _blocked(state, state.study.drains(False), fault.value)


def all_drains(state: Broken, fault: Fault) -> None:
    _blocked(state, (*state.study.drains(False), *state.study.drains(True)), fault.value)


def tank_drain(state: Broken, fault: Fault) -> None:
    tanks = state.study.system.tanks
    if round(fault.value) > len(tanks):
        raise EntryError(f"There is no tank {fault.value:g}; the system has {len(tanks)}.")
    tank = tanks[round(fault.value) - 1].id if fault.value >= 1 else state.study.most_exposed()
    _blocked(state, state.study.drains(False, tank), 1.0)


def pipes(kinds: tuple[type, ...], but: tuple[type, ...] = ()) -> Callable[[Broken, Fault], None]:
    def breaks(state: Broken, fault: Fault) -> None:
        for key, law in state.laws.items():
            if isinstance(law, kinds) and not isinstance(law, but):
                state.change[key] = stopped(law, fault.value)

    return breaks


def filter_pipe(state: Broken, fault: Fault) -> None:
    outs = state.study.pumped_outs()
    if round(fault.value) > len(outs):
        raise EntryError(f"There is no such filter {fault.value:g}; a pump fills {len(outs)}.")
    key = fault.what or outs[max(round(fault.value) - 1, 0)][1]
    state.change[key] = stopped(state.laws[key], 1.0)


def clean_pads(study: Analysis, dirt: float) -> dict[str, Law | None]:
    """Every pad, sock, bed and screen at so many times its clean loss, by link id."""
    found: dict[str, Law | None] = {}
    for link in study.whole.links:
        law = link.law
        if isinstance(law, Pad | Sheet):
            if law.dirt is None:  # does not clog
                continue
            found[link.id] = replace(law, medium=law.medium.dirty(dirt / law.dirt))
        elif isinstance(law, Bed | Sealed | Through) and law.soft.straight + law.soft.square > 0:
            found[link.id] = replace(law, dirt=dirt)
    return found


def pads(state: Broken, fault: Fault) -> None:
    state.change.update(clean_pads(state.study, fault.value))


def twins(study: Analysis) -> list[Link]:
    """Ways through pads of which one can be taken out, in the network's order."""
    return [k for k in study.whole.links if k.one_out is not None]


def pad_out(state: Broken, fault: Fault) -> None:
    found = twins(state.study)
    if not 1 <= round(fault.value) <= len(found):
        raise EntryError(f"There are no such pads {fault.value:g}; there are {len(found)}.")
    link = found[round(fault.value) - 1]
    state.change[link.id] = link.one_out


def wear(state: Broken, fault: Fault) -> None:
    state.wear = fault.value


def stuck(state: Broken, fault: Fault) -> None:
    state.stuck.add(round(fault.value) - 1)


def hose_off(state: Broken, fault: Fault) -> None:
    state.off = True


def room_emptied(state: Broken, fault: Fault) -> None:
    rooms = state.study.rooms()
    if round(fault.value) > len(rooms):
        raise EntryError(f"There is no chamber {fault.value:g}; there are {len(rooms)}.")
    room = next(r for r in rooms if r.id == fault.what) if fault.what else rooms[round(fault.value) - 1]
    state.cells[BUCKET] = _BUCKET_CELL
    for cell in room.cells:
        hose = Gap(state.base.cell(cell).floor, 0.05, 0.01)
        state.extra.append(Link(f"{BUCKET}.{cell}", "Hose to the bucket", cell, BUCKET, hose, WayKind.HOSE))


def floats_stick(how: str) -> Callable[[Broken, Fault], None]:
    def breaks(state: Broken, fault: Fault) -> None:
        state.floats = how
        for key, law in state.laws.items():
            if isinstance(law, FloatValve | FloatFed):
                state.change[key] = replace(law, stuck=how)

    return breaks


def siphon(state: Broken, fault: Fault) -> None:
    for key, law in state.laws.items():
        if isinstance(law, RimSiphon):
            state.change[key] = replace(law, primed=False)


def air_stops(state: Broken, fault: Fault) -> None:
    state.still.add(round(fault.value) - 1)


def air_worn(state: Broken, fault: Fault) -> None:
    state.air_wear = fault.value


def air_drop(which: str) -> Callable[[Broken, Fault], None]:
    def breaks(state: Broken, fault: Fault) -> None:
        count = sum(len(g.supply.drops) for g in state.study.airs.values())
        if round(fault.value) > count:
            raise EntryError(f"There is no drop {fault.value:g}; the system has {count}.")
        (state.opened if which == "opened" else state.slipped).add(round(fault.value))

    return breaks


def closed(study: Analysis) -> list[str]:
    """Ids of the closed vessels that a hose fills and a pump empties, in the network's order."""
    links = study.whole.links
    filled = {k.b for k in links if isinstance(k.law, Sealed)}
    emptied = {k.a for k in links if isinstance(k.law, ReturnLine)}
    return [c.id for c in study.whole.cells if c.lid is not None and c.id in filled & emptied]


def _vessel(state: Broken, number: float) -> tuple[str, float]:
    found = closed(state.study)
    if not 1 <= round(number) <= len(found):
        raise EntryError(f"There is no closed vessel {number:g}; there are {len(found)}.")
    lid = state.base.cell(found[round(number) - 1]).lid
    assert lid is not None
    return found[round(number) - 1], lid


def _off(key: str, a: str, law: Law) -> Link:
    return Link(key, "Hose off", a, FLOOR, law, WayKind.SPILL)


def intake_hose_off(state: Broken, fault: Fault) -> None:
    vessel, lid = _vessel(state, fault.value)
    for link in state.base.links:
        law = state.laws[link.id]
        if link.b == vessel and isinstance(law, Sealed):
            state.change[link.id] = replace(law, open_share=law.open_share * (1 - 1 / law.count))
            state.extra.append(_off(f"off.{link.id}", link.a, Ends(Sealed(law.intake, law.pipe, 1), lid)))


def outlet_hose_off(state: Broken, fault: Fault) -> None:
    vessel, lid = _vessel(state, fault.value)
    for link in state.base.links:
        law = state.laws[link.id]
        if link.a == vessel and isinstance(law, ReturnLine):
            mouth = max(o.breaks_at for o in law.outlets)
            stub = replace(law.pipe, length=0.05, k=1.0)
            end = Outlet(lid, lid, law.pipe.bore, 1.0)
            state.moved[link.id] = Spouts(replace(law, pipe=stub, outlets=(end,), lines=1), lid)
            state.extra.append(_off(f"off.{link.id}", link.b, Ends(Sealed(mouth, law.pipe, 1), lid)))


def lid_leaks(state: Broken, fault: Fault) -> None:
    for vessel in closed(state.study):
        lid = state.base.cell(vessel).lid
        assert lid is not None
        law = Seep(lid, fault.value * 1e-6)
        state.extra.append(Link(f"lid.{vessel}", "Lid leaks", vessel, FLOOR, law, WayKind.SPILL))


def weep(state: Broken, fault: Fault) -> None:
    _, well = state.study.wells()[0]
    weep = Weep(fault.value * 1e-3 / 3600, state.base.cell(well.leave).floor)
    state.extra.append(Link("weep", "A joint weeps", well.leave, FLOOR, weep, WayKind.SPILL))


def evaporates(state: Broken, fault: Fault) -> None:
    state.cells[AIR] = _AIR_CELL
    for cell in state.base.cells:
        rate = state.study.evaporation_of({cell.id}) * fault.value
        if rate > 0:
            weep = Weep(rate, cell.floor)
            state.extra.append(Link(f"{AIR}.{cell.id}", "Into the air", cell.id, AIR, weep, WayKind.HOSE))
