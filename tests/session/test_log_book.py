"""A demo brings its made-up year, however it is shown; what was made of one does not."""

from __future__ import annotations

import pytest

from fuente.demo.reading_room import reading_room
from fuente.demo.starter import bare
from fuente.session.log_book import LogBook
from fuente.units import UnitSystem


def shown_as(system, units=UnitSystem.METRIC, currency=""):
    shop = system.shop.model_copy(update={"currency": currency})
    return system.model_copy(update={"units": units, "shop": shop})


@pytest.mark.parametrize("units", UnitSystem)
@pytest.mark.parametrize("currency", ["", "€"])
def test_a_demo_in_any_units_and_money_brings_its_year(units, currency):
    assert LogBook(None, shown_as(reading_room(), units, currency), "a").year_wanted


def test_a_changed_demo_and_a_new_design_bring_none():
    tank = reading_room()
    wider = tank.model_copy(update={"space": tank.space.model_copy(update={"price": 0.5})})
    assert not LogBook(None, shown_as(wider, currency="€"), "b").year_wanted
    assert not LogBook(None, shown_as(bare(), currency="€"), "c").year_wanted
