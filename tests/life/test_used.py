"""What is used up, by hand."""

import pytest

from fuente.catalogue import consumables
from fuente.errors import EntryError
from fuente.life.compare import used
from fuente.typed import parse_bulk
from fuente.units import UnitSystem

BY_ID = {c.id: c for c in consumables()}


def test_a_sheet_by_the_litre():
    """A sheet of a metre by half a metre, 50 mm thick, is 25 L."""
    foam = BY_ID["foam_30"]
    line = used(foam, 0.4)
    assert foam.sold == pytest.approx(0.025)
    assert line.per_litre == pytest.approx(foam.cost / 25)
    assert line.surface == pytest.approx(1.4)
    assert line.volume == 0
    assert line.per_year == pytest.approx(foam.cost / 25 * 365.25 / (156 * 7))


def test_a_dose_by_the_water():
    """A litre of carbon for each cubic metre, every four weeks: 400 L want 0.4 L, 192 g, 13 times a year."""
    line = used(BY_ID["carbon"], 0.4)
    assert line.volume == pytest.approx(0.4e-3)
    assert line.mass == pytest.approx(0.192)
    assert line.per_year == pytest.approx(0.4 * 7.0 * 365.25 / 28)


def test_media_by_litres_or_kilograms():
    assert parse_bulk("12 L", 640) == pytest.approx(0.012)
    assert parse_bulk("6.4 kg", 640) == pytest.approx(0.010)
    assert parse_bulk("2 lb", 640, UnitSystem.US) == pytest.approx(2 * 0.45359237 / 640)
    assert parse_bulk("3", 640, UnitSystem.US) == pytest.approx(3 * 0.003785411784)
    with pytest.raises(EntryError, match="40 L or 10 gal"):
        parse_bulk("6 apples", 640)
