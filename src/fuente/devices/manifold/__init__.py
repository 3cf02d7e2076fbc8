"""A manifold: one or more pumps, rows of pipe, and a branch with its valve for every tank."""

from __future__ import annotations

from fuente.devices.contract import Kind
from fuente.devices.manifold.card import card, offers
from fuente.devices.manifold.care import care
from fuente.devices.manifold.judge import judge
from fuente.devices.manifold.network import check, lower
from fuente.devices.manifold.parts import parts
from fuente.devices.manifold.sketch import sketch
from fuente.devices.manifold.spec import Manifold
from fuente.devices.manifold.valves import balance

KIND = Kind(
    id="manifold",
    name="Manifold",
    spec=Manifold,
    order=90,
    built=42,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    glyph="pump",
    check=check,
    offers=offers,
    balance=balance,
)
