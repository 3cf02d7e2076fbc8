"""An air pump with its manifold and drops."""

from __future__ import annotations

from fuente.devices.air_supply.card import card, offers
from fuente.devices.air_supply.care import care
from fuente.devices.air_supply.commission import commission
from fuente.devices.air_supply.judge import judge
from fuente.devices.air_supply.network import drops, lower
from fuente.devices.air_supply.parts import parts
from fuente.devices.air_supply.sketch import sketch
from fuente.devices.air_supply.spec import AirSupplySpec
from fuente.devices.contract import Kind

KIND = Kind(
    id="air_supply",
    name="Air pump",
    spec=AirSupplySpec,
    order=110,
    built=60,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    commission=commission,
    glyph="air",
    offers=offers,
    drops=drops,
)
