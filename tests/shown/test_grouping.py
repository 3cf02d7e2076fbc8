"""The heads under which a card's further fields stand."""

from __future__ import annotations

import pytest

from devices_of import FILTERS
from fuente.demo import DEMOS
from fuente.demo.reading_room import reading_room
from fuente.devices.base import Choice
from fuente.devices.grouping import ORDER, group_of, grouped
from fuente.document.system import apply, set_value
from fuente.shown.stations import stations
from fuente.study.filters import add_filter
from fuente.study.known import analysed
from fuente.study.sites import new_site


@pytest.mark.parametrize(
    ("path", "group"),
    [
        (("devices", "tank", "feed"), "Animals and feed"),
        (("devices", "drums", "feed", "pump", "watts"), "Water in"),
        (("devices", "drums", "drain", "pipe"), "Water out"),
        (("devices", "return", "pump", "watts"), "Pump"),
        (("devices", "sump", "chambers", 2, "pads", 0, "dirt"), "Media"),
        (("devices", "sump", "chambers", 2, "exit", "gap"), "Water out"),
        (("devices", "sump", "thickness"), "Vessel"),
        (("devices", "tank", "heaters"), "Warmth and light"),
        (("devices", "sponge", "injector"), "Air"),
        (("devices", "sponge", "offset"), "Place"),
        (("devices", "sump", "length"), "Vessel"),
        (("devices", "sump", "width"), "Vessel"),
        (("schools", "surface"), "Your rules"),
    ],
)
def test_the_head_of_a_field(path, group):
    assert group_of(Choice(path, "x", "length", 0.0)) == group


@pytest.mark.parametrize("key", [*DEMOS, *FILTERS])
def test_no_field_is_lost_and_no_card_is_all_one_head(key):
    if key in DEMOS:
        system = DEMOS[key]()
    else:
        bare = apply(reading_room(), set_value("x", ("devices", "tank", "gravel"), 0.0))
        system = apply(bare, add_filter(bare, FILTERS[key].first(new_site(bare, "tank"))))
    for station in stations(analysed(system), None, system.tanks[0].id):
        hidden = [c for c in station.choices if c.fold]
        found = grouped(hidden)
        assert [g for g, _ in found] == [g for g in ORDER if g in dict(found)]
        assert sorted(map(id, hidden)) == sorted(id(c) for _, rows in found for c in rows)
        if len(hidden) > 12:
            assert len(found) >= 2, station.name
            assert max(len(rows) for _, rows in found) <= 0.85 * len(hidden), station.name


def test_a_hose_s_length_is_about_the_water_and_a_vessel_s_about_the_vessel():
    where = ("devices", "canister", "length")
    assert group_of(Choice(where, "Length of the hose in", "run", 1.0)) == "Water in"
    assert group_of(Choice(where, "Length", "length", 1.0)) == "Vessel"
