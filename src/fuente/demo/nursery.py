"""The nursery of Harbour Hill Library: eight 30 L tubs of killifish fry on one air pump."""

from __future__ import annotations

from fuente.devices.air_supply.spec import AirPumpSpec, AirSupplySpec, DropSpec
from fuente.devices.bottle_bed.spec import BottleBed
from fuente.devices.filtering import FilterSpec
from fuente.devices.site import Space
from fuente.devices.sponge.spec import Sponge
from fuente.devices.tank.spec import Tank
from fuente.document.system import System

_ROWS, _COLUMNS = 2, 4
_DAY = 86400.0


def nursery() -> System:
    """Two shelves of four tubs, each with a bottle bed and a sponge; valves all open but two."""
    tanks: list[Tank] = []
    filters: list[FilterSpec] = []
    drops: list[DropSpec] = []
    for row in range(_ROWS):
        for column in range(_COLUMNS):
            n = row * _COLUMNS + column + 1
            tanks.append(_tub(n, row, column))
            filters += [_bed(n), _sponge(n)]
            far = 0.46 if column else 0.5 + 0.6 * row
            drops.append(DropSpec(to=f"bed-{n}", spacing=far, length=0.7, opening=0.2))
            drops.append(DropSpec(to=f"sponge-{n}", spacing=0.05, length=0.7, opening=0.3 if n != 2 else 1.0))
    pump = AirPumpSpec(name="Air pump", max_pressure=18e3, max_flow=12e-3 / 60, watts=10)
    return System(
        name="Nursery on air",
        place="Harbour Hill Library, work room",
        notes="Fry tubs: no pump that could draw them in, one air pump for all.",
        space=Space(length=2.0, depth=0.45, height=0.7, air=21.0, coldest=17.0, turnover=3 / 3600),
        devices=(*tanks, *filters, AirSupplySpec(pump=pump, height=1.75, bore=0.012, drops=tuple(drops))),
    )


def _tub(n: int, row: int, column: int) -> Tank:
    """The n-th tub, by its place on the shelves."""
    return Tank(
        id=f"tub-{n}",
        name=f"Tub {n}",
        length=0.4,
        width=0.31,
        height=0.3,
        thickness=0.008,
        bottom=0.008,
        material="acrylic",
        stand=round(1.25 - 0.65 * row, 3),
        offset=round(column * 0.46, 3),
        temperature=23.0,
        cover=0.9,
        level=0.25,
        feed=0.25e-3 / _DAY,
        protein=0.5,
        stock="Killifish fry" if n < 7 else "White clouds, spawning",
        rack="nursery",
    )


def _bed(n: int) -> BottleBed:
    """One bottle, open below, its carriers broken in."""
    return BottleBed(
        id=f"bed-{n}",
        tank=f"tub-{n}",
        at=0.28,
        tubes=1,
        diameter=0.08,
        height=0.2,
        hang=0.02,
        injector=0.03,
        outlet=0.205,
        fill=0.5,
        holes=40,
        hole=0.006,
        end="open",
        age=60 * _DAY,
    )


def _sponge(n: int) -> Sponge:
    """A small block of 30 ppi on a lift tube."""
    return Sponge(
        id=f"sponge-{n}",
        tank=f"tub-{n}",
        at=0.04,
        length=0.1,
        width=0.1,
        height=0.12,
        ppi=30.0,
        bore=0.014,
        injector=0.02,
        outlet=0.25,
    )
