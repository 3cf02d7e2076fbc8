"""Edits that let a system grow: a hang-on overflow, a sump in front of another, a manifold in place of a return."""

from __future__ import annotations

from fuente.devices.base import Change, Edit
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.join.spec import JoinSpec
from fuente.devices.manifold.spec import Branch, Feeder, Manifold, SupplyRow
from fuente.devices.overflow.spec import Overflow
from fuente.devices.return_line.spec import ReturnSpec
from fuente.devices.sump.spec import Baffle, Chamber, Sump
from fuente.document.system import System


def _free(system: System, stem: str) -> str:
    taken = {t.id for t in system.tanks} | {d.id for d in system.devices} | {j.id for j in system.joins}
    taken |= {o.id for o in system.overflows} | {h.id for h in system.hang_ons} | {r.id for r in system.returns}
    taken |= {m.id for m in system.manifolds} | {t.id for t in system.top_ups} | {h.id for h in system.headers}
    if stem not in taken:
        return stem
    return next(f"{stem}-{n}" for n in range(2, 1000) if f"{stem}-{n}" not in taken)


def hang_on_instead(system: System, index: int) -> Edit:
    """A hang-on overflow in place of a box: nobody drills."""
    over = system.overflows[index]
    tank = system.tank(over.tank)
    box = HangOn(
        id=_free(system, "hang-on"),
        tank=over.tank,
        into=over.into,
        crest=over.crest,
        weir=min(over.weir, max(tank.inner_width - 0.02, 0.05)),
        tubes=2,
        tube="40-pn10",
        pipe="50-pn10",
        release=over.release,
    )
    kept = tuple(o for o in system.overflows if o.id != over.id)
    return Edit(
        "Hang overflow over the rim", (Change(("overflows",), kept), Change(("hang_ons",), (*system.hang_ons, box)))
    )


def box_instead(system: System, index: int) -> Edit:
    """A box inside the tank in place of a hang-on overflow."""
    hung = system.hang_ons[index]
    tank = system.tank(hung.tank)
    mouth = max(round(hung.crest - 0.1, 3), 0.05)
    drain = Overflow().drains[0].model_copy(update={"pipe": "50-pn10", "mouth": mouth, "run": hung.run})
    box = Overflow(
        id=_free(system, "overflow"),
        tank=hung.tank,
        into=hung.into,
        crest=hung.crest,
        weir=round(min(0.4, tank.inner_width - 0.02), 3),
        box_width=round(min(0.3, tank.inner_width - 0.02), 3),
        drains=(drain,),
        release=hung.release,
    )
    kept = tuple(h for h in system.hang_ons if h.id != hung.id)
    return Edit(
        "Put overflow in a box", (Change(("hang_ons",), kept), Change(("overflows",), (*system.overflows, box)))
    )


def sump_in_front(system: System, device_id: str) -> Edit:
    """Another sump as large, joined by two bulkheads below water; the drains then fall into it."""
    old = system.device(device_id)
    key = _free(system, "sump")
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
        id=_free(system, "join"),
        name="Joining bulkheads",
        first=key,
        chamber="rest",
        second=old.id,
        entry=entry.id,
        count=2,
        height=round(min(0.12, 0.5 * stands), 3),
        length=0.27,
    )
    changes = [Change(("devices",), (made, *system.devices)), Change(("joins",), (*system.joins, join))]
    for field in ("overflows", "standpipes", "hang_ons", "headers"):
        rows = getattr(system, field)
        moved = tuple(r.model_copy(update={"into": key}) if r.into == old.id else r for r in rows)
        if moved != rows:
            changes.append(Change((field,), moved))
    return Edit("Join a sump in front", tuple(changes))


def manifold_instead(system: System, index: int) -> Edit:
    """A manifold with one branch in place of a return: side loops and more tanks can then join it."""
    line: ReturnSpec = system.returns[index]
    tank = system.tank(line.tank)
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
    made = Manifold(id=_free(system, "manifold"), name="Manifold", feeders=(feeder,), riser=line.pipe, rows=(row,))
    kept = tuple(x for x in system.returns if x.id != line.id)
    return Edit(
        "Make the return a manifold", (Change(("returns",), kept), Change(("manifolds",), (*system.manifolds, made)))
    )
