"""A glass or acrylic tank that somebody lives in."""

from __future__ import annotations

from fuente.devices.contract import Kind
from fuente.devices.tank.card import card
from fuente.devices.tank.care import care
from fuente.devices.tank.judge import judge
from fuente.devices.tank.live import live, substrate
from fuente.devices.tank.network import lower, vessel
from fuente.devices.tank.parts import parts
from fuente.devices.tank.sketch import sketch
from fuente.devices.tank.spec import Tank

KIND = Kind(
    id="tank",
    name="Tank",
    spec=Tank,
    order=0,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    live=live,
    living=substrate,
    judge=judge,
    glyph="tank",
    built=90,
    vessel=vessel,
)
