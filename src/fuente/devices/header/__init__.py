"""A common drain under a row of tanks: a sloping pipe or an open gutter that falls to the sump."""

from __future__ import annotations

from fuente.devices.contract import Kind
from fuente.devices.header.card import card
from fuente.devices.header.care import care
from fuente.devices.header.judge import judge
from fuente.devices.header.network import lower, start, vessel
from fuente.devices.header.parts import parts
from fuente.devices.header.sketch import sketch
from fuente.devices.header.spec import HeaderSpec

KIND = Kind(
    id="header",
    name="Common drain",
    spec=HeaderSpec,
    order=30,
    built=36,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    glyph="standpipe",
    vessel=vessel,
    start=start,
)
