"""What bottle beds are made of."""

from __future__ import annotations

from fuente.catalogue import medium
from fuente.devices.base import Part, Parts
from fuente.devices.bottle_bed.spec import BottleBed
from fuente.devices.filtering import Site
from fuente.devices.pocket import AIR_CAUTION
from fuente.network.model import Solution


def parts(spec: BottleBed, site: Site, solution: Solution) -> Parts:
    """Bottles, holes, carriers, caps."""
    stuff = medium(spec.medium)
    size = {"d": spec.diameter, "h": spec.height, "o": spec.hole, "v": spec.bottle}
    found = [
        Part(
            f"{spec.id}.bottle",
            "Straight-walled bottle, food-safe",
            spec.tubes,
            "piece",
            "Equipment",
            "{d:length} bore × {h:length}, {v:volume}",
            f"{2 * spec.holes} holes each: half at its foot, half under its top",
            size,
        ),
        Part(
            f"{spec.id}.holes",
            "Hole to drill",
            2 * spec.holes * spec.tubes,
            "piece",
            "Holes",
            "{o:fine_length}",
            "deburr them: no edge that cuts, no trap for a fish",
            size,
        ),
        Part(
            f"{spec.id}.carriers",
            stuff.name,
            round(spec.media * 1000, 2),
            "L",
            "Media",
            "",
            f"{100 * spec.fill:.0f} % of each bottle",
        ),
        Part(
            f"{spec.id}.cap",
            "Cap or mesh that keeps the carriers in",
            spec.tubes,
            "piece",
            "Equipment",
            "",
            "it stays on while the sponge is off" if spec.sponge else "",
        ),
    ]
    if spec.sponge:
        found.append(
            Part(
                f"{spec.id}.sponge",
                f"Foam sleeve, {spec.sponge:g} ppi",
                spec.tubes,
                "piece",
                "Media",
                "{h:length}",
                "round the foot",
                {"h": 0.08},
            )
        )
    if spec.end == "diffuser":
        found.append(
            Part(f"{spec.id}.stone", "Small diffuser", spec.tubes, "piece", "Fittings", "", "at the bottle's foot")
        )
    if spec.tubes > 1:
        found.append(
            Part(
                f"{spec.id}.split",
                "Air splitter with valves",
                1,
                "piece",
                "Fittings",
                "",
                f"one line to {spec.tubes} bottles",
            )
        )
    found.append(
        Part(f"{spec.id}.hanger", "Hanger or sucker", 2 * spec.tubes, "piece", "Equipment", "", "no metal in the water")
    )
    return Parts((), tuple(found), (AIR_CAUTION,))
