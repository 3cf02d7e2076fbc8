"""A glass-baffle sump: chambers in a row with baffles that the water goes over and under."""

from __future__ import annotations

from fuente.devices.contract import Kind
from fuente.devices.sump.air import places
from fuente.devices.sump.card import card
from fuente.devices.sump.care import care
from fuente.devices.sump.judge import fits, judge
from fuente.devices.sump.judge_media import more_living
from fuente.devices.sump.live import live
from fuente.devices.sump.network import living, lower, rooms, vessel
from fuente.devices.sump.parts import parts
from fuente.devices.sump.sketch import sketch
from fuente.devices.sump.spec import Sump

KIND = Kind(
    id="sump",
    name="Sump",
    spec=Sump,
    order=60,
    built=10,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    vessel=vessel,
    rooms=rooms,
    living=living,
    live=live,
    more_living=more_living,
    fits=fits,
    airs=places,
)
