"""A hang-on overflow: a siphon over the rim, for tanks that nobody drills."""

from __future__ import annotations

from fuente.devices.contract import Kind
from fuente.devices.hang_on.card import card
from fuente.devices.hang_on.care import care
from fuente.devices.hang_on.judge import judge
from fuente.devices.hang_on.network import lower
from fuente.devices.hang_on.parts import parts
from fuente.devices.hang_on.sketch import sketch
from fuente.devices.hang_on.spec import HangOn

KIND = Kind(
    id="hang_on",
    name="Hang-on overflow",
    spec=HangOn,
    order=50,
    built=34,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    glyph="weir",
    at_home=True,
)
