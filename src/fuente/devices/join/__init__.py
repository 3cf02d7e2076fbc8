"""What joins two filters: bulkheads or a pipe below water, or a fall from one into the next."""

from __future__ import annotations

from fuente.devices.contract import Kind
from fuente.devices.join.card import card
from fuente.devices.join.care import care
from fuente.devices.join.judge import judge
from fuente.devices.join.network import lower
from fuente.devices.join.parts import parts
from fuente.devices.join.sketch import sketch
from fuente.devices.join.spec import JoinSpec

KIND = Kind(
    id="join",
    name="Joining line",
    spec=JoinSpec,
    order=70,
    built=20,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    follows=True,
)
