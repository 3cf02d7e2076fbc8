"""What the log has learnt, put into the design where the builder agrees: clogging of pads, head of a worn pump."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.base import Change, Edit, Station
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.study.known import analysed
from fuente.upkeep.places import Place, drop_over, places_of

_ROUNDS = 12
_CLOSE = 0.01
_RANGE = (1.0, 200.0)


def clogged_as_read(system: System, stations: Iterable[Station], place: Place, drop: float) -> Edit | None:
    """The edit by which the running design has a difference in m over a place: every pad of it by one factor of what it
    has. None where no field of it says how clogged it is, or none reaches that.
    """
    paths = [
        (choice.path, float(choice.value))
        for station in stations
        if station.id == place.id or place.id.startswith(station.id + ".")
        for choice in station.choices
        if choice.path[-1] == "dirt" and (station.id == place.id or _names(choice.path, place))
    ]
    if not paths or drop <= 0:
        return None

    def made(factor: float) -> Edit:
        changes = (Change(p, round(min(max(v * factor, _RANGE[0]), _RANGE[1]), 2)) for p, v in paths)
        return Edit("Set clogging as read", tuple(changes))

    low, high, edit = 0.005, 200.0, None
    for _ in range(_ROUNDS * 2):
        factor = (low * high) ** 0.5
        edit = made(factor)
        try:
            study = analysed(apply(system, edit))
            now = places_of(study).by_id(place.id)
            found = drop_over(study, now, study.running) if now is not None else 0.0
        except FuenteError:
            high = factor
            continue
        if abs(found - drop) <= _CLOSE * drop:
            return edit
        low, high = (factor, high) if found < drop else (low, factor)
    return edit


def _names(path: tuple[object, ...], place: Place) -> bool:
    """Whether a path leads to the pad that a place is, ``…, pads, 1, dirt`` to ``….pad.1``."""
    tail = place.id.rsplit(".", 1)[-1]
    return len(path) > 2 and str(path[-2]) == tail


def worn_as_learnt(system: System, stations: Iterable[Station], owner: str, share: float) -> Edit | None:
    """The edit that sets a pump's head to a share of new; None where it has no such field."""
    for station in stations:
        for choice in station.choices:
            if choice.path[-1] == "wear" and len(choice.path) > 1 and choice.path[1] == owner:
                return Edit("Set the pump's wear", (Change(choice.path, round(min(max(share, 0.2), 1.0), 3)),))
    return None
