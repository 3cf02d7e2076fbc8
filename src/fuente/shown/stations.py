"""The stations in the order in which the water meets them: one loop over the devices."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from functools import partial

from fuente.catalogue import Catalogue, Medium
from fuente.devices import kind_of
from fuente.devices.base import Reading, Station
from fuente.devices.contract import Device
from fuente.devices.homes import HomeSpec
from fuente.devices.offered import Offer
from fuente.network.model import Solution
from fuente.shown.commands import commands_of, place_commands
from fuente.shown.racks import rack_station
from fuente.study.analysis import Analysis
from fuente.study.situation import Situation

FRONT = 10  # fields of a card that stand in sight


def stations(
    analysis: Analysis, situation: Situation | None = None, focus: str = "", shelf: Iterable[Medium] = ()
) -> tuple[Station, ...]:
    """All rows and cards, with a situation's water (running by default); of a rack only the tank in ``focus``.

    ``shelf`` holds the builder's own media of other designs, which are offered too.
    """
    system = analysis.system
    solution = (situation or analysis.situation("running")).solution
    offered = system.catalogue.with_own(shelf)
    found: list[Station] = []
    racks: set[str] = set()
    for tank in system.tanks:
        if tank.rack and tank.rack not in racks:
            racks.add(tank.rack)
            found.append(rack_station(analysis, solution, tank.rack))
        if not tank.rack or tank.id == focus:
            found += _rows(analysis, solution, tank, offered)
            for device in analysis.ordered:
                if device.home == tank.id and kind_of(device).at_home:
                    found += _rows(analysis, solution, device, offered)
    followers = [d for d in analysis.ordered if kind_of(d).follows]
    for device in analysis.ordered:
        kind = kind_of(device)
        if isinstance(device, HomeSpec) or kind.at_home or kind.follows:
            continue
        found += _rows(analysis, solution, device, offered)
        for other in followers:
            if other.ends()[0].to == device.id:
                found += _rows(analysis, solution, other, offered)
    return tuple(found)


def _rows(analysis: Analysis, solution: Solution, device: Device, offered: Catalogue) -> list[Station]:
    """A device's own rows, with what others put on its card."""
    kind, site = kind_of(device), analysis.sites[device.id]
    if offered is not site.catalogue:
        site = replace(site, catalogue=offered)
    rows = list(kind.listed(device, site, analysis, solution))
    if not rows:
        return []
    offers = tuple(_offers(analysis, solution, device.id))
    if isinstance(device, HomeSpec):
        rows[0] = _served(analysis, solution, rows[0], device, offers)
    else:
        extra = tuple(c for o in offers for c in o.choices)
        choices = rows[0].choices
        rows[0] = replace(rows[0], choices=(*choices[:1], *extra, *choices[1:]))
    for k, row in enumerate(rows):
        if row.id in analysis.air_places:
            rows[k] = _aired(analysis, solution, row)
    rows[0] = replace(rows[0], commands=partial(commands_of, analysis, device, rows[0].commands, offers))
    rows = [replace(row, owner=device.id) for row in rows]
    return [few(row) if kind.at_home else row for row in rows]


def _aired(analysis: Analysis, solution: Solution, row: Station) -> Station:
    """A place within a device with its air valve, or the command that leads air to it."""
    extra = tuple(c for o in _offers(analysis, solution, row.id) for c in o.choices)
    commands = partial(place_commands, analysis, row.id, row.commands)
    return replace(row, choices=(*row.choices[:1], *extra, *row.choices[1:]), commands=commands)


def _offers(analysis: Analysis, solution: Solution, device_id: str) -> Iterable[Offer]:
    """What other devices add to a device's card: those whose kind offers first by their place, drains after pumps."""
    for device in sorted(analysis.ordered, key=lambda d: -kind_of(d).order):
        offers = kind_of(device).offers
        if offers is not None:
            made = offers(device, analysis.sites[device.id], analysis, solution, device_id)
            if made is not None:
                yield made


def _served(
    analysis: Analysis, solution: Solution, station: Station, tank: HomeSpec, offers: tuple[Offer, ...]
) -> Station:
    """A tank's card with its own branch and drain: what it gets is then its headline."""
    front = [c for o in offers for c in o.choices]
    if not any(o.serves for o in offers):
        return station
    flow, volume = analysis.moved(solution, tank.id), solution.volume[tank.id]
    turn = flow / volume if volume else 0.0
    folded = tuple(replace(c, fold=True) for c in station.choices)
    return replace(
        station,
        headline="{flow:flow}, {turn:per_hour}",
        values={"flow": flow, "turn": turn},
        big=(Reading("to this tank", flow, "flow"), Reading("turnover", turn, "per_hour")),
        choices=(*(c for c in front if not c.fold), *(c for c in front if c.fold), *folded),
        readings=(*(r for o in offers for r in o.readings), *station.readings),
        why=next((o.why for o in offers if o.why), station.why),
    )


def few(station: Station) -> Station:
    """The first ten fields in sight, the rest folded: a card is not a wall of fields."""
    shown = 0
    made = []
    for choice in station.choices:
        shown += not choice.fold
        made.append(replace(choice, fold=True) if not choice.fold and shown > FRONT else choice)
    return replace(station, choices=tuple(made))
