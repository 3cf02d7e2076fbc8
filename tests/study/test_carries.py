"""What a filter carries, against stirred reactors solved apart."""

import json

import pytest
from click.testing import CliRunner
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from fuente.cli import cli
from fuente.demo.lantern import lantern
from fuente.demo.reading_room import reading_room
from fuente.demo.trough import trough
from fuente.devices import kind_of
from fuente.devices.site import KEPT
from fuente.document.files import save
from fuente.document.system import apply, set_value
from fuente.study.analysis import Analysis
from fuente.study.carries import carried_by, carries
from fuente.study.loads import living_surface

DAY = 86400.0


def rate(ammonia, temperature):
    """g N/m²/day by Rusten's power law, written apart; mg/L."""
    return 1.0 * ammonia**0.7 * 1.07 ** (temperature - 18.0)


def test_one_reactor_by_hand():
    """The lantern: one cell that its lift feeds from the tank. Q·(S − s) = A·r(s), with brentq."""
    study = Analysis(lantern())
    spec = study.system.filters[0]
    area = living_surface(study, {c.id for c in study.network.cells})
    flow = study.through(study.running, spec.id) * DAY  # m³/day
    warm = study.system.tanks[0].temperature
    left = brentq(lambda s: flow * (0.5 - s) - area * rate(s, warm), 1e-9, 0.5)
    nitrogen = area * rate(left, warm)  # g/day
    feed = nitrogen / (study.system.tanks[0].protein * 0.092)
    made = carried_by(study, spec.id)
    assert made.feed * 1e3 * DAY == pytest.approx(feed, rel=1e-6)
    assert made.surface == pytest.approx(area)
    assert made.least <= 0.6 * made.feed * 1.0001
    assert made.most >= 1.4 * made.feed * 0.9999


def test_a_filter_behind_another_sees_what_that_left():
    """Drums before plants: two and more reactors in a row, each with its own root."""
    study = Analysis(trough())
    whole = carries(study)
    drums, plants = carried_by(study, "drums"), carried_by(study, "plants")
    flow = study.running.flow["drums.out"] * DAY
    warm, protein = study.system.tanks[0].temperature, study.system.tanks[0].protein
    areas = {}
    for device in study.system.devices:
        for cell, area in kind_of(device).surfaces(device, study.sites[device.id]):
            areas[cell] = areas.get(cell, 0.0) + area
    before, taken = 0.5, {"drums": 0.0, "plants": 0.0}
    for cell in ("drums.drum.0", "drums.drum.1", "plants.head", "plants.foot"):
        left = brentq(lambda s, a=areas[cell], b=before: flow * (b - s) - a * rate(s, warm), 1e-9, before)
        taken[cell.split(".")[0]] += flow * (before - left)
        before = left
    assert drums.feed * 1e3 * DAY == pytest.approx(taken["drums"] / (protein * 0.092), rel=1e-6)
    assert plants.feed * 1e3 * DAY == pytest.approx(taken["plants"] / (protein * 0.092), rel=1e-6)
    assert whole[-1].feed == pytest.approx(drums.feed + plants.feed)
    assert drums.flow_bound


@given(share=st.floats(0.2, 3.0))
@settings(max_examples=15, deadline=None)
def test_more_surface_never_carries_less_and_never_more_than_the_flow_brings(share):
    base = reading_room()
    chamber = ("devices", "sump", "chambers", 2, "fill", "volume")
    fill = base.by_id["sump"].chambers[2].fill.volume
    more = Analysis(apply(base, set_value("x", chamber, min(fill * share, 0.03))))
    now, then = carries(Analysis(base))[-1], carries(more)[-1]
    assert (then.feed >= now.feed - 1e-12) == (then.surface >= now.surface - 1e-9)
    brought = more.through(more.running, "sump") * KEPT / (base.tanks[0].protein * 0.092)
    assert then.feed < brought


def test_animals_of_the_stock():
    base = apply(reading_room(), set_value("a", ("devices", "tank", "heads"), 5))
    base = apply(base, set_value("b", ("devices", "tank", "body"), 0.2))
    base = apply(base, set_value("c", ("devices", "tank", "ration"), 0.02))
    made = carries(Analysis(base))[-1]
    assert made.animals == pytest.approx(made.feed * DAY / (12.5 * 0.2**3 * 0.02), rel=1e-9)
    assert carries(Analysis(reading_room()))[-1].animals == 0


def test_the_shell_tells_it(tmp_path):
    path = tmp_path / "a.fuente"
    save(trough(), path)
    said = CliRunner().invoke(cli, ["carries", str(path)]).output
    assert said.count("g/day") == 9
    assert "Two drums" in said
    assert "more flow would carry more" in said
    rows = json.loads(CliRunner().invoke(cli, ["carries", str(path), "--json"]).output)
    assert [r["device"] for r in rows] == ["drums", "plants", ""]
    assert rows[-1]["feed"] == pytest.approx(carries(Analysis(trough()))[-1].feed)
