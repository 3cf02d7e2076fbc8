"""Water from outside: a float valve on a reservoir or on the mains, or a constant drip with an overflow to waste."""

from __future__ import annotations

from fuente.devices.contract import Kind
from fuente.devices.top_up.card import card
from fuente.devices.top_up.care import care
from fuente.devices.top_up.commission import commission
from fuente.devices.top_up.judge import judge
from fuente.devices.top_up.network import lower
from fuente.devices.top_up.parts import parts
from fuente.devices.top_up.sketch import sketch
from fuente.devices.top_up.spec import TopUp

KIND = Kind(
    id="top_up",
    name="Top-up",
    spec=TopUp,
    order=100,
    built=44,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    commission=commission,
)
