"""A standpipe in the tank itself, or an upturned elbow in a bulkhead: the drain of a rack's tank."""

from __future__ import annotations

from fuente.devices.contract import Kind
from fuente.devices.standpipe.card import card, offers
from fuente.devices.standpipe.care import care
from fuente.devices.standpipe.judge import judge
from fuente.devices.standpipe.network import lower, start
from fuente.devices.standpipe.parts import parts
from fuente.devices.standpipe.sketch import sketch
from fuente.devices.standpipe.spec import StandpipeSpec

KIND = Kind(
    id="standpipe",
    name="Standpipe",
    spec=StandpipeSpec,
    order=20,
    built=32,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    glyph="standpipe",
    at_home=True,
    start=start,
    offers=offers,
)
