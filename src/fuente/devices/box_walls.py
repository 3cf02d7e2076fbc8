"""Walls that the plate model knows nothing of: lined plywood, moulded boxes, wooden troughs."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.base import Finding, Rank

LARGE = 0.12  # m³ of water from which a box of unknown walls is told


def walls_unknown(owner: str, name: str, made_of: str, length: float, depth: float) -> Finding:
    """That nobody has computed these walls: longest wall and depth in m."""
    return Finding(
        "walls-unknown",
        Rank.CONSIDER,
        f"{name} has walls of {made_of}, {{length:length}} long and {{depth:length}} deep; they are not computed.",
        "Only tanks and sumps are computed, and of glass, acrylic or plywood. Boards bow and fail between their"
        " frames, moulded boxes bulge: keep to what its maker allows, brace long sides, and have someone who builds"
        " such tanks look at it before water.",
        owner,
        {"length": length, "depth": depth},
    )


def box_walls(owner: str, name: str, length: float, width: float, height: float) -> Iterable[Finding]:
    """The same of a box beside a tank, from a size on at which its walls matter; sizes in m."""
    if length * width * height >= LARGE:
        yield walls_unknown(owner, name, "a moulded or lined box", max(length, width), height)
