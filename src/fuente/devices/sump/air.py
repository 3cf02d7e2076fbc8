"""Air into a sump's chambers: which take it, what each wants, where its line ends."""

from __future__ import annotations

from fuente.devices.offered import AirPlace
from fuente.devices.schools import AIR_PER_LITRE
from fuente.devices.site import Site
from fuente.devices.sump.spec import Chamber, Sump, cell_ids
from fuente.network.aeration import Lift
from fuente.network.model import Solution
from fuente.one_line import within

STIRRED = 0.05 / 60  # m³/s of air for each m³ of water that is only kept moving: 1 L/min for 20 L, an assumption
FOOT = 0.02  # m over the floor at which an air line ends
LINE_ALONG = 0.2  # of a chamber's length, from its start, at which the line comes down


def wish(sump: Sump, chamber: Chamber, width: float, site: Site) -> float:
    """Air in m³/s that a chamber wants: its carriers' by the rule that holds, else what keeps its water moving."""
    if chamber.role == "moving_bed" and chamber.fill and chamber.fill.volume > 0:
        return chamber.fill.volume * 1000 * AIR_PER_LITRE[site.schools.roll] * 1e-3
    depth = chamber.exit.top if chamber.exit else chamber.level
    return STIRRED * width * sump.inner_width * depth


def places(sump: Sump, site: Site) -> tuple[AirPlace, ...]:
    """Each chamber that an air line may end in; none that a pump draws its water from, and none that rids it of air."""
    found = []
    for chamber, start, width in zip(sump.chambers, sump.starts(), sump.widths(), strict=True):
        if chamber.id not in sump.takes_air():
            continue
        station, cell = f"{sump.id}.{chamber.id}", cell_ids(sump, chamber)[0]
        foot = sump.floor + FOOT
        name = f"Air in {within(chamber.title)}"
        lift = Lift(f"{station}.air", name, cell, cell, foot, sump.rim, 0.01, count=0, owner=station)
        x = (sump.offset + sump.thickness + start + LINE_ALONG * width) * 1000
        wanted = wish(sump, chamber, width, site)
        title = f"{chamber.title} of {within(sump.name)}"
        found.append(
            AirPlace(station, sump.id, chamber.id, title, wanted, lift, (x, foot * 1000), (x, sump.rim * 1000 + 14))
        )
    return tuple(found)


def air_of(sump: Sump, chamber: Chamber, solution: Solution) -> float:
    """Air in m³/s that bubbles in a chamber."""
    tail = f".{sump.id}.{chamber.id}.air"
    return sum(flow for key, flow in solution.flow.items() if key.endswith(tail))
