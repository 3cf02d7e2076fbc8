"""What bottle beds are made of."""

from __future__ import annotations

from fuente.devices.bottle_bed.spec import BottleBed
from fuente.devices.filtering import Site
from fuente.devices.pieces import Hole, Making, Pad, Parts, Piece, Shelf, Thing, media_of, note, tool
from fuente.devices.pocket import AIR_CAUTION
from fuente.network.model import Solution

TIGHT = 0.0005  # m that the airline's hole is tighter than the line
SLEEVE = 0.08  # m of foam round a bottle's foot


def _holes(spec: BottleBed, bottle: str) -> tuple[Hole, ...]:
    """Each row of holes in a bottle, by its id."""
    smooth = note("deburr them: no edge that cuts, no trap for a fish")
    side = "the middle of the foot" if spec.entry == "centre" else "one side"
    tight = (note("a little tight round the line"),)
    rows = (
        ("foot", "Hole at the foot", spec.holes, spec.hole, ()),
        ("top", "Hole under the top", spec.top_holes, spec.top_hole, ()),
        ("cap", "Hole in the cap", spec.cap_holes, spec.cap_hole, ()),
        ("air", f"Hole for the airline, at {side}", 1, spec.airline - TIGHT, tight),
        ("suckers", "Hole for suckers or hangers", spec.suckers, spec.sucker, ()),
    )
    return tuple(
        Hole(
            id=f"{spec.id}.holes.{where}",
            name=name,
            body=bottle,
            count=count * spec.tubes,
            diameter=bore,
            notes=(smooth, *more),
        )
        for where, name, count, bore, more in rows
        if count
    )


def _of_holes(spec: BottleBed) -> str:
    rows = ((spec.holes, "at its foot"), (spec.top_holes, "under its top"), (spec.cap_holes, "in its cap"))
    return "holes each for water: " + ", ".join(f"{many} {where}" for many, where in rows if many)


MAKING = (
    Making(
        "cut",
        "Cut and smooth the bottle",
        (
            note("Food-safe plastic, label and glue off; cut with a fine saw or a hot wire, never a blunt knife"),
            note("Break every edge with a blade, then with wet paper"),
        ),
        "a dry cloth drawn round every edge and hole catches nowhere",
        15,
        1,
        ("fine saw", "deburring blade", "wet abrasive paper"),
        before=True,
    ),
    Making(
        "roll",
        "Try the roll in a bucket",
        (
            note("Carriers in, air on at a third, then up until every carrier moves"),
            note("New carriers float for days: turn them under by hand twice a day"),
        ),
        "no carrier leaves through a hole, none lies still in a corner",
        10,
        1,
        ("bucket", "air pump"),
    ),
)


def parts(spec: BottleBed, site: Site, solution: Solution) -> Parts:
    """Bottles, holes, carriers, caps."""
    bottle = Thing(
        id=f"{spec.id}.bottle",
        name="Shouldered bottle, food-safe" if spec.shoulder else "Straight-walled bottle, food-safe",
        shelf=Shelf.EQUIPMENT,
        count=spec.tubes,
        diameter=spec.diameter,
        height=spec.height,
        volume=spec.bottle,
        notes=(note(_of_holes(spec)),),
    )
    holes = _holes(spec, bottle.id)
    over = (note("it stays on while the sponge is off"),) if spec.sponge else ()
    filled = note(f"{100 * spec.fill:.0f} % of each bottle")
    found: list[Piece] = [
        bottle,
        *holes,
        media_of(f"{spec.id}.carriers", site.medium(spec.medium), spec.media, filled),
        tool(
            f"{spec.id}.cap",
            "Cap or mesh that keeps the carriers in",
            *over,
            shelf=Shelf.EQUIPMENT,
            count=spec.tubes,
        ),
    ]
    if spec.sponge:
        found.append(
            Pad(
                id=f"{spec.id}.sponge",
                form="Foam sleeve",
                stuff="made",
                ppi=spec.sponge,
                count=spec.tubes,
                length=SLEEVE,
                notes=(note("round the foot"),),
            )
        )
    if spec.end == "diffuser":
        found.append(tool(f"{spec.id}.stone", "Small diffuser", note("at the bottle's foot"), count=spec.tubes))
    if spec.tubes > 1:
        found.append(tool(f"{spec.id}.split", "Air splitter with valves", note(f"one line to {spec.tubes} bottles")))
    hanger = note("no metal in the water")
    if spec.suckers:
        held = spec.suckers * spec.tubes
        found.append(tool(f"{spec.id}.hanger", "Hanger or sucker", hanger, shelf=Shelf.EQUIPMENT, count=held))
    return Parts(tuple(found), (AIR_CAUTION,), MAKING)
