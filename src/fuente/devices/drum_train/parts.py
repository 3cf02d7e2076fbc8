"""What a train of drums is made of."""

from __future__ import annotations

from fuente.catalogue import bulkhead_for, medium, pipe_size
from fuente.devices.base import Part, Parts
from fuente.devices.drum_train.spec import ROLES, DrumTrain
from fuente.devices.filtering import Site
from fuente.devices.plumbing_shown import PLUMBER, line_parts
from fuente.network.model import Solution

LIFT = "Lifting: a full drum weighs what its litres weigh; empty it before you move it, two people above about 20 kg."


def parts(spec: DrumTrain, site: Site, solution: Solution) -> Parts:
    """Drums, holes, bulkheads, contents, flush valves."""
    found: list[Part] = []
    for k, drum in enumerate(spec.drums):
        size = {"d": drum.diameter, "h": drum.height, "o": drum.outlet, "f": drum.foam, "g": drum.grid}
        found.append(
            Part(
                f"{spec.id}.{k}",
                f"Drum {k + 1}, {ROLES[drum.role]}, food-safe",
                1,
                "piece",
                "Equipment",
                "{d:length} bore × {h:length}",
                "",
                size,
            )
        )
        if k + 1 < len(spec.drums):
            joint = bulkhead_for(pipe_size(drum.pipe))
            hole = {"s": joint.saw, "o": drum.outlet}
            found.append(
                Part(
                    f"{spec.id}.{k}.hole",
                    f"Hole in drum {k + 1} and in drum {k + 2}",
                    2 * drum.count,
                    "piece",
                    "Holes",
                    "{s:length}",
                    f"middle {drum.outlet * 1000:.0f} mm above the floor; measure your own fitting",
                    hole,
                )
            )
            kind = (
                f"Bulkhead {joint.size}" if spec.seal == "bulkhead" else f"Rubber seal for {pipe_size(drum.pipe).name}"
            )
            note = (
                "gasket outside on the curved wall; union between"
                if spec.seal == "bulkhead"
                else "hole by its own saw; edge free of burrs, soap the pipe"
            )
            found.append(Part(f"{spec.id}.{k}.joint", kind, 2 * drum.count, "piece", "Fittings", "", note))
        if drum.holds_media:
            found.append(
                Part(
                    f"{spec.id}.{k}.media",
                    medium(drum.medium).name,
                    round(drum.media * 1000, 1),
                    "L",
                    "Media",
                    "",
                    f"drum {k + 1}, {drum.media * medium(drum.medium).wet_density():.0f} kg wet",
                )
            )
            found.append(
                Part(
                    f"{spec.id}.{k}.grid",
                    "Grid that carries the media",
                    1,
                    "piece",
                    "Equipment",
                    "{g:length} above the floor",
                    f"drum {k + 1}",
                    size,
                )
            )
            if drum.mesh:
                found.append(
                    Part(
                        f"{spec.id}.{k}.mesh",
                        "Screen basket over the way out",
                        1,
                        "piece",
                        "Fittings",
                        "{m:fine_length} mesh",
                        f"drum {k + 1}",
                        {"m": drum.mesh},
                    )
                )
        if drum.role == "foam":
            found.append(
                Part(
                    f"{spec.id}.{k}.foam",
                    f"Foam disc, {drum.ppi:g} ppi",
                    1,
                    "piece",
                    "Media",
                    "{d:length} × {f:length}",
                    "cut 1.5 % larger",
                    size,
                )
            )
        if drum.role == "brush":
            found.append(
                Part(
                    f"{spec.id}.{k}.brush",
                    "Filter brush",
                    max(round(drum.area / 0.012), 1),
                    "piece",
                    "Media",
                    "{b:length}",
                    f"drum {k + 1}",
                    {"b": 0.7 * drum.outlet},
                )
            )
        if drum.flush > 0 and drum.role != "pump":
            found.append(
                Part(
                    f"{spec.id}.{k}.flush",
                    f"Flush valve, {pipe_size(spec.flush_pipe).name}",
                    1,
                    "piece",
                    "Fittings",
                    "",
                    f"at the foot of drum {k + 1}",
                )
            )
    if spec.bag > 0:
        found.append(
            Part(
                f"{spec.id}.bag",
                "Fine bag for the outlet",
                1,
                "piece",
                "Media",
                "{m:micron}",
                "a test of what passes: look after a day",
                {"m": spec.bag},
            )
        )
    return Parts((), tuple(found), (LIFT, PLUMBER)) + line_parts(spec, site)
