"""A pump, its rising pipe and the outlets in a tank."""

from __future__ import annotations

from fuente.devices.contract import Kind
from fuente.devices.return_line.card import card
from fuente.devices.return_line.care import care
from fuente.devices.return_line.commission import commission
from fuente.devices.return_line.judge import judge
from fuente.devices.return_line.network import check, lower
from fuente.devices.return_line.parts import parts
from fuente.devices.return_line.sketch import sketch
from fuente.devices.return_line.spec import ReturnSpec

KIND = Kind(
    id="return_line",
    name="Return",
    spec=ReturnSpec,
    order=80,
    built=40,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    commission=commission,
    glyph="pump",
    check=check,
)
