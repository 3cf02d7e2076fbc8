"""What a sieve is made of."""

from __future__ import annotations

from fuente.catalogue import medium, pipe_size
from fuente.devices.base import Part, Parts
from fuente.devices.filtering import Site
from fuente.devices.plumbing_shown import PLUMBER, line_parts
from fuente.devices.sieve_bed.spec import SieveBed
from fuente.network.model import Solution


def parts(spec: SieveBed, site: Site, solution: Solution) -> Parts:
    """Box, frame, screen, media, waste."""
    size = {"l": spec.length, "w": spec.width, "h": spec.height, "o": spec.aperture, "d": spec.tube}
    found = [
        Part(
            f"{spec.id}.box",
            "Box or lined pit",
            1,
            "piece",
            "Equipment",
            "{l:length:bare} × {w:length:bare} × {h:length}",
            "",
            size,
        ),
        Part(
            f"{spec.id}.mesh",
            "Screen",
            1,
            "piece",
            "Media",
            "{l:length:bare} × {w:length}, {o:micron}",
            f"{100 * spec.open_share:.0f} % open",
            size,
        ),
        Part(
            f"{spec.id}.along",
            "Frame tube, PVC, along",
            2,
            "piece",
            "Pipe",
            "{l:length}, {d:fine_length} outside",
            "",
            size,
        ),
        Part(
            f"{spec.id}.across",
            "Frame tube, PVC, across",
            spec.bars + 2,
            "piece",
            "Pipe",
            "{w:length}, {d:fine_length} outside",
            "",
            size,
        ),
        Part(
            f"{spec.id}.legs",
            "Support for the frame",
            4,
            "piece",
            "Equipment",
            "{s:length}",
            "or a ledge round the box",
            {"s": spec.screen},
        ),
        Part(
            f"{spec.id}.waste",
            f"Waste outlet with valve, {pipe_size(spec.waste).name}",
            1,
            "piece",
            "Fittings",
            "",
            "at the lowest place",
        ),
    ]
    if spec.media > 0:
        found.append(
            Part(
                f"{spec.id}.media",
                medium(spec.medium).name,
                round(spec.media * 1000, 1),
                "L",
                "Media",
                "",
                "in bags under the screen",
            )
        )
    return Parts((), tuple(found), (PLUMBER,)) + line_parts(spec, site)
