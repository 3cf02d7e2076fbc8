"""What a card says of heaters that stand where it is about: the water with one stuck on, one dead, all dead."""

from __future__ import annotations

from fuente.devices.base import Reading, Task
from fuente.devices.contract import FALL, Study
from fuente.devices.pieces import Shelf, Thing, note

_WHY = (
    "Heat in, by heaters and pumps, against heat out through walls and surface, in the end: in the usual room for one"
    " stuck on, in the coldest for dead ones."
)
_SURE = "±30 % of what it stands over the room"


def warm_readings(study: Study, cell_id: str) -> tuple[Reading, ...]:
    """Of the body of water that a cell is part of; none where nothing heats it."""
    warm = study.warmth(cell_id)
    if warm is None:
        return ()
    fallen = f"{{{warm.kept - FALL:g}:temperature}}"
    late = f" It has fallen to {fallen} after {{{warm.hours * 3600:g}:hours}}." if warm.hours < 1e4 else ""
    return (
        Reading("One heater stuck on", warm.one_stuck, "temperature", _WHY, "balance of heat", _SURE),
        Reading("One heater dead", warm.one_dead, "temperature", _WHY, "balance of heat", _SURE),
        Reading("All heaters dead", warm.all_dead, "temperature", _WHY + late, "balance of heat", _SURE),
    )


def heater_things(part_id: str, count: int, watts: float, where: str) -> tuple[Thing, ...]:
    """Heaters on the list."""
    if not count:
        return ()
    about = note("{w:power}", w=watts)
    return (
        Thing(
            id=part_id, name="Heater", shelf=Shelf.EQUIPMENT, count=count, about=about, notes=(note(of=f"in {where}"),)
        ),
    )


def heater_task(owner: str, name: str) -> tuple[Task, ...]:
    """Try the heaters of a tank or a chamber."""
    return (
        Task(
            f"{owner}.heaters",
            f"Try the heaters of {name}",
            90 * 86400.0,
            "A heater that sticks on or goes off does so unseen; two small ones leave time to notice.",
            owner,
            owner,
            name,
            10,
            0.0,
            ("second thermometer",),
            (
                "Set it two degrees higher: its lamp comes on within a minute",
                "Set it two degrees lower: it goes out",
                "Set it back, and compare with the second thermometer after an hour",
            ),
        ),
    )
