"""What a canister or bucket is made of."""

from __future__ import annotations

from fuente.catalogue import medium, pipe_size
from fuente.devices.base import Part, Parts
from fuente.devices.canister.spec import HOLDS, Canister
from fuente.devices.filtering import Site
from fuente.devices.pocket import ELECTRIC
from fuente.network.model import Solution


def parts(spec: Canister, site: Site, solution: Solution) -> Parts:
    """Vessel, layers, hoses, taps, pump."""
    size = pipe_size(spec.hose)
    room = {"d": spec.diameter, "h": spec.height, "v": spec.inside}
    found = [
        Part(
            f"{spec.id}.vessel",
            "Canister with a lid that seals" if spec.style == "canister" else "Lidded bucket, food-safe, with a seal",
            1,
            "piece",
            "Equipment",
            "{d:length} × {h:length}, {v:volume}",
            "",
            room,
        )
    ]
    for k, layer in enumerate(spec.layers):
        if layer.medium == "foam":
            found.append(
                Part(
                    f"{spec.id}.{k}",
                    f"Foam disc, {layer.ppi:g} ppi",
                    1,
                    "piece",
                    "Media",
                    "{d:length} × {t:length}",
                    "cut 1.5 % larger",
                    {"d": spec.diameter, "t": layer.share * spec.height},
                )
            )
        else:
            stuff = medium(layer.medium)
            bulk = spec.bulk(layer)
            found.append(
                Part(
                    f"{spec.id}.{k}",
                    stuff.name,
                    round(bulk * 1000, 1),
                    "L",
                    "Media",
                    "",
                    f"{bulk * stuff.dry:.1f} kg dry, {bulk * stuff.wet_density():.1f} kg wet",
                )
            )
    found += [
        Part(
            f"{spec.id}.held",
            HOLDS[spec.held][:1].upper() + HOLDS[spec.held][1:],
            len(spec.layers) if spec.held in ("trays", "bags") else 1,
            "piece",
            "Equipment",
        ),
        Part(
            f"{spec.id}.hose",
            f"Hose, {size.name}",
            2 * spec.bores,
            "piece",
            "Pipe",
            "{l:run}",
            "one way each; stiff on the suction side",
            {"l": spec.length},
        ),
        Part(
            f"{spec.id}.taps",
            "Tap with union",
            2 * spec.bores,
            "piece",
            "Fittings",
            "",
            "one in each hose, to part it full",
        ),
        Part(
            f"{spec.id}.strainer",
            "Intake strainer",
            spec.bores,
            "piece",
            "Fittings",
            "",
            "openings smaller than the animals",
        ),
        Part(
            f"{spec.id}.pump",
            spec.pump.name,
            1,
            "piece",
            "Equipment",
            "{h:head} at no flow, {q:flow} at no head",
            f"{spec.pump.watts:.0f} W",
            {"h": spec.pump.max_head, "q": spec.pump.max_flow},
        ),
    ]
    if spec.style == "bucket":
        found.append(
            Part(
                f"{spec.id}.bulkheads",
                "Bulkhead through lid or wall",
                2 * spec.bores,
                "piece",
                "Fittings",
                "",
                "several small ones pass as much as one large",
            )
        )
    return Parts((), tuple(found), (ELECTRIC,))
