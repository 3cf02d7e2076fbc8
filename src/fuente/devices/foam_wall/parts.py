"""What a foam wall is made of."""

from __future__ import annotations

import math

from fuente.devices.base import Part, Parts
from fuente.devices.filtering import Site
from fuente.devices.foam_wall.spec import FoamWall
from fuente.devices.pocket import pocket_parts
from fuente.network.model import Solution

SILICONE = (
    "Silicone: ventilate, wear gloves, no flame; about a day for each 2 to 3 mm of depth, then wait a week before"
    " water."
)


def cut_size(spec: FoamWall) -> tuple[float, float]:
    """Width and height in m to cut each pad to, with its squeeze; a corner's pad by its middle line."""
    return spec.face * (1 + spec.squeeze), spec.foam_height * (1 + spec.squeeze)


def parts(spec: FoamWall, site: Site, solution: Solution) -> Parts:
    """Pads, rails, dam, spacers, notch, drive."""
    across = site.tank.inner_width
    wide, tall = cut_size(spec)
    size = {
        "w": wide,
        "h": tall,
        "t": spec.thickness,
        "d": spec.dam,
        "b": spec.behind,
        "r": spec.foam_height,
        "a": across,
        "x": spec.reach,
    }
    note = f"cut {spec.squeeze:.1%} larger, pressed in"
    if spec.shape == "corner":
        note += (
            "; bent to a quarter of a circle, its middle line of"
            f" {math.pi / 2 * (spec.reach - spec.deep / 2) * 1000:.0f} mm"
        )
    found = [
        Part(
            f"{spec.id}.pad.{k}",
            f"Foam pad, {ppi:g} ppi",
            spec.walls,
            "piece",
            "Media",
            "{w:length:bare} × {h:length:bare} × {t:length}",
            note,
            size,
        )
        for k, ppi in enumerate(spec.pads)
    ]
    where = (
        "rails on both walls"
        if spec.shape == "corner"
        else "upright on the front and back glass, before and behind the foam"
    )
    rails = (2 if spec.shape == "corner" else 4) * spec.walls
    found.append(
        Part(
            f"{spec.id}.rails",
            "Rail, glass or acrylic strip, 15 mm",
            rails,
            "piece",
            "Panels, acrylic",
            "{r:length}",
            f"{where}; {spec.behind * 1000:.0f} mm from the end wall" if spec.shape == "flat" else where,
            size,
        )
    )
    if spec.dam > 0:
        found.append(
            Part(
                f"{spec.id}.dam",
                "Substrate dam",
                spec.walls,
                "piece",
                "Panels, acrylic",
                "{a:length:bare} × {d:length}",
                "siliconed to the bottom",
                size,
            )
        )
    found.append(
        Part(
            f"{spec.id}.spacers",
            "Spacer behind the foam",
            2 * spec.walls,
            "piece",
            "Fittings",
            "{b:length}",
            "keeps the foam off the end wall",
            size,
        )
    )
    found.append(
        Part(
            f"{spec.id}.notch",
            "Notch for the mouth",
            spec.tubes,
            "piece",
            "Holes",
            "",
            "in the foam's top edge, as wide as the tube and tight round it",
        )
    )
    return Parts((), tuple(found), (SILICONE,)) + pocket_parts(spec, site)
