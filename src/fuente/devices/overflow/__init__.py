"""An overflow box inside a tank, with its teeth and the drains that fall to a filter."""

from __future__ import annotations

from fuente.devices.contract import Kind
from fuente.devices.overflow.card import card
from fuente.devices.overflow.care import care
from fuente.devices.overflow.commission import commission
from fuente.devices.overflow.judge import judge
from fuente.devices.overflow.network import lower, start
from fuente.devices.overflow.parts import parts
from fuente.devices.overflow.sketch import sketch
from fuente.devices.overflow.spec import Overflow

KIND = Kind(
    id="overflow",
    name="Overflow box",
    spec=Overflow,
    order=40,
    built=30,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    commission=commission,
    glyph="weir",
    at_home=True,
    start=start,
)
