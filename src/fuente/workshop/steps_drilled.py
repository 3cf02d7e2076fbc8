"""Steps before anything is joined: holes, and bulkheads in them; the first water."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from fuente.catalogue import bulkhead_for, pipe_size
from fuente.devices.pieces import (
    ELECTRIC,
    Face,
    Fixing,
    Hole,
    Joint,
    Medium,
    Note,
    Pad,
    Panel,
    Parts,
    Shelf,
    Thing,
    note,
)
from fuente.devices.shop import Shop
from fuente.workshop.joints import cure_time
from fuente.workshop.step import BITE, DAY, FLOOD, GLASS, GLUE, LIFT, SMALL, Step, once


def drilled(owner: str, title: str, parts: Parts, homes: set[str]) -> Iterator[Step]:
    """Holes in what is bought whole and in panels, before anything is joined."""
    for piece in parts.pieces:
        if isinstance(piece, Panel) and piece.holes:
            yield _holes(f"{owner}:drill:{piece.id}", title, piece.name, piece.holes, piece.material, piece.id)
    groups: dict[tuple[str, float], list[Hole]] = {}
    for piece in parts.pieces:
        if isinstance(piece, Hole):
            groups.setdefault((piece.name, round(piece.diameter, 4)), []).append(piece)
    for (name, _), holes in groups.items():
        material = "glass" if holes[0].body in homes else "plastic"
        yield _holes(f"{owner}:drill:{holes[0].id}", title, name, tuple(holes), material, holes[0].id)


def _holes(key: str, title: str, name: str, holes: tuple[Hole, ...], material: str, shows: str) -> Step:
    count, hole, glass = sum(h.count for h in holes), holes[0], material == "glass"
    small = 0 < hole.diameter < SMALL
    act = [Note("Lay the template on, or mark the middles from two edges; mark the wet side")]
    if hole.diameter:
        each = "hole" if count == 1 else "holes"
        act.append(note(f"{count} {each} of {{d:length}}, {_way(glass, small)}", d=hole.diameter))
    for at in holes:
        if at.x is not None and at.y is not None:
            up = "from the back" if at.face is Face.FLOOR else "up"
            act.append(note(f"middle {{x:length}} from the left, {{y:length}} {up}", x=at.x, y=at.y))
    return Step(
        key,
        title,
        Note(f"Drill {_plain(name, title)}"),
        once([*act, *hole.notes]),
        Note("what goes through passes; its flange or ring lies flat all round"),
        6.0 + (15.0 if glass else 0.5 if small else 6.0) * count,
        2 if glass else 1,
        ("template", "diamond hole saw" if glass else "drill" if small else "hole saw", "water" if glass else "clamps"),
        (GLASS,) if glass else (BITE,),
        shows=shows,
    )


def _plain(name: str, title: str) -> str:
    """What is drilled, without whose it is, which stands over it."""
    own = name.removeprefix(f"{title}: ").removesuffix(", drilled")
    return own[:1].lower() + own[1:]


def _way(glass: bool, small: bool) -> str:
    if glass:
        return "slowly and under water, from both faces where you can reach both"
    return "deburred" if small else "slowly, from both faces where you can reach both, then deburred"


def by_craft(owner: str, title: str, parts: Parts, shop: Shop, before: bool) -> Iterator[Step]:
    """What its kind alone wants done, before it is drilled or after; glue waits by its bead and the label."""
    for each in (m for m in parts.making if m.before == before):
        glued = each.bead > 0
        yield Step(
            f"{owner}:{each.id}",
            title,
            Note(each.title),
            each.acts,
            Note(each.check),
            each.minutes,
            each.hands,
            each.tools,
            (GLUE,) if glued or "solvent cement" in each.tools else (),
            cure_time(each.bead, shop) if glued else each.wait,
            each.waits_for,
            shows=next((p.id for p in parts.pieces), ""),
        )


def fitted(owner: str, title: str, parts: Parts) -> list[Step]:
    """Bulkheads and seals."""
    joints = [p for p in parts.pieces if isinstance(p, Joint)]
    if not joints:
        return []
    count = sum(j.count for j in joints)
    rubber = any(j.fixing is Fixing.SEAL for j in joints)
    curved = any(isinstance(p, Thing) and p.diameter and p.shelf is Shelf.EQUIPMENT for p in parts.pieces)
    side = "outside, where the curved wall lets it seat" if curved else "on the wet side, where water presses it on"
    act = [Note(f"Gasket {side}; no silicone between gasket and wall")]
    if rubber:
        act.append(Note("Rubber seals: wet the pipe, push and turn; deburr it first"))
    act += [note("Hand-tight and a quarter turn; hold the body, turn the nut"), *(_sized(j) for j in joints)]
    return [
        Step(
            f"{owner}:bulkheads",
            title,
            Note(f"Fit {count} bulkhead{'s' if count > 1 else ''}" if not rubber else f"Fit {count} seals"),
            once(act),
            note("the gasket shows evenly all round and does not turn with the nut"),
            6.0 * count,
            2,
            ("wrench or strap", "clean cloth"),
            shows=joints[0].id,
        )
    ]


def _sized(joint: Joint) -> Note:
    """Which size a bulkhead is, and what for."""
    size = (joint.fit or bulkhead_for(pipe_size(joint.pipe))).size
    what = next((n for n in joint.notes), Note())
    return replace(what, text=f"{size}: {what.text}" if what.text else size)


def wet_test(owner: str, title: str, parts: Parts) -> Step | None:
    """Water into what was drilled or glued, chamber by chamber."""
    shell = any(p.faces for p in parts.panels)
    if not shell and not any(isinstance(p, Joint) for p in parts.pieces):
        return None
    chambers = 1 + sum(p.count for p in parts.panels if not p.faces and p.bonded >= 3)
    act = [note("Outdoors or over a tray, level, plugs in every bulkhead, dry paper under every seam")]
    if shell and chambers > 1:
        act.append(Note(f"Fill one of the {chambers} chambers to its crest, wait an hour, then the next"))
    act.append(note("Then to the rim, and a day outside on dry paper"))
    return Step(
        f"{owner}:leak",
        title,
        Note("Leak test"),
        tuple(act),
        note("paper dry after a day; no baffle bows or creaks; no neighbour fills by more than a trickle"),
        45,
        1,
        ("hose", "tray or lawn", "dry paper"),
        (FLOOD, LIFT),
        DAY,
        "a day with water in it",
    )


def loaded(owner: str, title: str, parts: Parts, lift: float) -> list[Step]:
    """Rinsed media, pads, equipment without power."""
    soft = [p for p in parts.pieces if isinstance(p, Medium | Pad)]
    things = [p for p in parts.pieces if isinstance(p, Thing) and p.shelf is Shelf.EQUIPMENT]
    wired = ELECTRIC in parts.cautions or any(p.about.values for p in things)
    found = []
    if soft:
        act = [Note("Rinse everything in tap water now, in old tank water from the first fish on")]
        for piece in soft:
            if isinstance(piece, Medium):
                words = "{v:volume}" + (f", in {piece.bags} bags" if piece.bags else "")
                act.append(note(words, of=piece.name, v=piece.bulk))
            else:
                pores = f", {piece.ppi:g} ppi" if piece.ppi else ""
                act.append(Note(f"{piece.form}{pores}, {piece.count} of it"))
        weight = sum(p.wet or 0.0 for p in soft if isinstance(p, Medium))
        found.append(
            Step(
                f"{owner}:media",
                title,
                Note("Rinse and load pads and media"),
                once(act),
                note("coarse before fine along the water; no gap at an edge that water can take"),
                10 + 4.0 * len(soft),
                2 if weight > lift else 1,
                ("bucket", "scissors or long knife"),
                (LIFT,) if weight > lift else (),
                shows=soft[0].id,
            )
        )
    if things:
        found.append(
            Step(
                f"{owner}:things",
                title,
                Note("Set equipment, nothing plugged in" if wired else "Set what is bought whole"),
                once(Note(f"{p.name}{f' × {p.count}' if p.count > 1 else ''}") for p in things),
                Note(
                    "every cable hangs in a drip loop lower than its socket; heaters stay under water when it drains"
                    if wired
                    else "it stands firm and level, and comes out again without tools"
                ),
                5.0 * len(things),
                1,
                (),
                (ELECTRIC,) if wired else (),
                shows=things[0].id,
            )
        )
    return found
