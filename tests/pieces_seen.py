"""Pieces of devices as tests look at them."""

from __future__ import annotations

import pytest

from fuente.devices import kind_of
from fuente.document.system import System
from fuente.study.analysis import Analysis
from fuente.units import UnitSystem
from fuente.workshop.words import row


def pieces_of(spec, *beside):
    """The pieces of a device in a system with others, by what follows its own id; no id stands twice."""
    devices = (*(d for d in beside if d != spec), spec)
    analysis = Analysis(System(devices=devices))
    found = kind_of(spec).parts(spec, analysis.sites[spec.id], analysis.at_rest().solution)
    pieces = {piece.id.removeprefix(f"{spec.id}."): piece for piece in found.pieces}
    assert len(pieces) == len(found.pieces)
    return pieces


def holds(piece, kind, **expected):
    """A piece is of a type, and its fields are what is expected, lengths and masses to a millionth."""
    assert type(piece) is kind
    for name, value in expected.items():
        have = getattr(piece, name)
        assert have == (pytest.approx(value, rel=1e-9) if isinstance(value, float) else value), name


def text(piece, name="note", units=UnitSystem.METRIC):
    """What the list says of it."""
    return getattr(row(piece, units), name)
