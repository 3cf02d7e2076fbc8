"""What a sock stage is made of."""

from __future__ import annotations

from fuente.devices.base import Part, Parts
from fuente.devices.filtering import Site
from fuente.devices.plumbing_shown import line_parts
from fuente.devices.sock.spec import SockStage
from fuente.network.model import Solution


def parts(spec: SockStage, site: Site, solution: Solution) -> Parts:
    """Box, holder, socks."""
    size = {"l": spec.length, "w": spec.width, "h": spec.height, "d": spec.diameter, "s": spec.sock, "m": spec.micron}
    return Parts(
        (),
        (
            Part(
                f"{spec.id}.box",
                "Box under the socks",
                1,
                "piece",
                "Equipment",
                "{l:length:bare} × {w:length:bare} × {h:length}",
                "",
                size,
            ),
            Part(
                f"{spec.id}.plate",
                "Plate that holds the socks",
                1,
                "piece",
                "Panels, acrylic",
                "{l:length:bare} × {w:length}",
                f"{spec.socks} holes of {spec.diameter * 1000:.0f} mm",
                size,
            ),
            Part(
                f"{spec.id}.socks",
                "Sock, felt or mesh",
                2 * spec.socks,
                "piece",
                "Media",
                "{d:length} × {s:length}, {m:micron}",
                "a set in use and one in the wash",
                size,
            ),
        ),
    ) + line_parts(spec, site)
