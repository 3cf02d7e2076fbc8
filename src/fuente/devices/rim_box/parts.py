"""What a hang-on filter is made of."""

from __future__ import annotations

from fuente.devices.filtering import Site
from fuente.devices.pieces import ELECTRIC, Pad, Parts, Piece, Pipe, box_of, media_of, note, tool
from fuente.devices.pocket import AIR_CAUTION
from fuente.devices.pumping import pump_piece
from fuente.devices.rim_box.network import POURS, lip_of
from fuente.devices.rim_box.spec import RimBox
from fuente.network.model import Solution


def parts(spec: RimBox, site: Site, solution: Solution) -> Parts:
    """Box with its lip, block, bag, tube, pump."""
    lip = note("a lip of {w:length}, {h:length} over its floor", w=spec.spout, h=spec.lip)
    up = lip_of(spec, site) + POURS - site.tank.floor - spec.intake + 0.15
    found: list[Piece] = [
        box_of(f"{spec.id}.box", "Box of acrylic or plastic", spec.off, spec.wide, spec.height, lip),
        tool(f"{spec.id}.hooks", "Hooks over the rim, padded", note("a shelf or foot under it takes weight"), count=2),
        Pad(
            id=f"{spec.id}.block",
            form="Foam block",
            ppi=spec.ppi,
            length=spec.wide,
            width=spec.block,
            thickness=spec.thickness,
            notes=(note("cut {s:percent} larger, so that no water passes its edges", s=0.015),),
        ),
        Pipe(id=f"{spec.id}.tube", form="Tube", pipe=spec.hose, count=spec.tubes, length=up),
        tool(
            f"{spec.id}.strainer",
            "Skimming inlet on a float" if spec.inlet == "skim" else "Intake strainer",
            note("openings smaller than the animals"),
            count=spec.tubes,
        ),
    ]
    if spec.media > 0:
        found.append(media_of(f"{spec.id}.media", site.medium(spec.medium), spec.media, bags=1))
    if spec.on_air:
        return Parts(tuple(found), (AIR_CAUTION,))
    return Parts((*found, pump_piece(f"{spec.id}.pump", spec.pump)), (ELECTRIC,))
