"""The window of Harbour Hill Library's reading corner: a 60 L tank with its filter in a clay lantern."""

from __future__ import annotations

from fuente.devices.air_supply.spec import AirPumpSpec, AirSupplySpec, DropSpec
from fuente.devices.ornament.spec import Ornament
from fuente.devices.site import Space
from fuente.devices.tank.spec import Tank
from fuente.document.system import System

_DAY = 86400.0


def lantern() -> System:
    """White clouds and shrimp; an ornament whose gaps a young shrimp could pass, on a small air pump."""
    tank = Tank(
        id="tank",
        name="Window tank",
        length=0.6,
        width=0.32,
        height=0.36,
        thickness=0.006,
        bottom=0.006,
        stand=0.75,
        gravel=0.004,
        temperature=21.0,
        cover=0.8,
        level=0.325,
        feed=0.35e-3 / _DAY,
        stock="White clouds and shrimp",
    )
    inside = Ornament(
        id="lantern",
        tank="tank",
        name="Lantern filter",
        at=0.36,
        form="cylinder",
        width=0.15,
        height=0.26,
        wall=0.007,
        gaps=10,
        gap=0.006,
        gap_height=0.03,
        animal=0.003,
        ppi=20.0,
        foam=0.04,
        medium="ring",
        media=0.0009,
        bore=0.018,
        injector=0.03,
        outlet=0.3,
        lid=False,
    )
    air = AirSupplySpec(
        pump=AirPumpSpec(name="Small air pump", max_pressure=12e3, max_flow=4e-3 / 60, watts=4),
        height=0.9,
        bore=0.006,
        drops=(DropSpec(to="lantern", length=1.4, spacing=0.1, check=False),),
    )
    return System(
        name="Window lantern",
        place="Harbour Hill Library, reading corner",
        space=Space(length=0.6, depth=0.32, height=0.7, air=20.0, coldest=16.0, turnover=3 / 3600),
        devices=(tank, inside, air),
    )
