"""What every water holds, on the section and on the cards."""

from __future__ import annotations

from dataclasses import replace

import pytest

from fuente.demo import DEMOS
from fuente.demo.reading_room import reading_room
from fuente.document.system import apply, set_value
from fuente.drawing.primitives import Polygon
from fuente.errors import SolveError
from fuente.life.inputs import AMMONIA, OXYGEN
from fuente.life.renewal import NITRATE_ION
from fuente.shown.in_water import Scale, bare, held_in, scale_of, with_water
from fuente.shown.section import section
from fuente.shown.stations import stations
from fuente.study.known import analysed
from fuente.study.limits import Limits
from fuente.study.standing import AFTER, standing
from fuente.study.weeks import DAY, Start, weeks
from fuente.units import UnitSystem
from fuente.water.properties import oxygen_saturation

METRIC = UnitSystem.METRIC


def test_in_the_long_run_as_the_limits_see_it():
    study = analysed(reading_room())
    found, limits = standing(study), Limits(study)
    living = limits.living
    for key, k in limits.base.water.index.items():
        assert found.values["ammonia"][key] == pytest.approx(float(living.of(limits.now, AMMONIA)[k]))
        assert found.values["nitrate"][key] == pytest.approx(NITRATE_ION * float(living.of(limits.now, 2)[k]))
    assert found.after is None
    assert found.of("oxygen", ("no cell",)) is None
    pair = tuple(found.values["oxygen"])[:2]
    assert found.of("oxygen", pair) == pytest.approx(sum(found.values["oxygen"][c] for c in pair) / 2)


def test_hours_after_a_power_cut():
    study = analysed(reading_room())
    found = standing(study, "power_cut")
    made = weeks(study, AFTER / DAY, Start("mature"), "power_cut", every=AFTER)
    assert found.values["oxygen"]["tank"] == pytest.approx(float(made.of(OXYGEN, "tank")[-1]), rel=1e-3)
    assert found.values["oxygen"]["tank"] < standing(study).values["oxygen"]["tank"] - 1e-3


def test_nothing_is_known_without_feed():
    system = reading_room()
    system = apply(system, set_value("", ("devices", "tank", "feed"), 0.0))
    system = apply(system, set_value("", ("devices", "tank", "heads"), 0))
    with pytest.raises(SolveError, match="feed"):
        standing(analysed(system))


@pytest.mark.parametrize("make", DEMOS.values(), ids=DEMOS)
def test_every_water_of_a_drawing_is_some_cells(make):
    """Whatever is drawn as water says whose it is, and what holds water is coloured."""
    study = analysed(make())
    found = standing(study)
    owned: dict[str, tuple[str, ...]] = {}
    for cell in study.network.cells:
        owned[cell.owner] = (*owned.get(cell.owner, ()), cell.id)
    drawing = section(study, study.situation("running"))
    held = held_in(drawing, found, "oxygen", {**{c.id: (c.id,) for c in study.network.cells}, **owned})
    waters = [s for s in drawing.shapes if isinstance(s, Polygon) and s.style == "water"]
    assert [s for s, _ in held] == waters
    assert all(s.cell in study.network.index for s in waters if s.cell)
    several = [s for s in waters if not s.cell and len(owned.get(s.owner, ())) > 1]
    assert not several, f"{several[0].owner} has several waters and says none"
    assert sum(value is not None for _, value in held) >= 0.8 * len(held)


def test_the_scale_goes_to_the_builders_limit():
    study = analysed(reading_room())
    found, keeping = standing(study), study.system.keeping
    ammonia = scale_of("ammonia", found, keeping, 0.0)
    assert (ammonia.low, ammonia.high) == (0.0, keeping.ammonia_limit)
    assert ammonia.share(keeping.ammonia_limit) == pytest.approx(1.0)
    assert ammonia.share(2 * keeping.ammonia_limit) == pytest.approx(2.0)
    oxygen = scale_of("oxygen", found, keeping, 0.0)
    assert oxygen.low == pytest.approx(9.4e-3, abs=1e-3)  # all that cool water takes
    assert oxygen.share(oxygen.high - 1e-4) > 1 > oxygen.share(oxygen.high + 1e-4)
    assert oxygen.share(oxygen.low + 1e-3) == 0.0
    warm = scale_of("temperature", found, keeping, 0.0)
    assert warm.high - warm.low >= 2.0
    assert not warm.limited
    assert ammonia.words(METRIC) == ("0 mg/L", "0.5 mg/L")


def test_the_scale_of_oxygen_holds_in_water_that_is_too_warm_or_too_salt_to_be_known():
    study = analysed(reading_room())
    found, keeping = standing(study), study.system.keeping
    hot = replace(found, values={**found.values, "temperature": dict.fromkeys(found.values["temperature"], 55.0)})
    assert scale_of("oxygen", hot, keeping, 45.0).low == pytest.approx(1e-3 * oxygen_saturation(40.0, 40.0, 0.0))
    icy = replace(found, values={**found.values, "temperature": dict.fromkeys(found.values["temperature"], -1.0)})
    assert scale_of("oxygen", icy, keeping, 0.0).low == pytest.approx(1e-3 * oxygen_saturation(0.0))


def test_figures_in_both_units():
    assert bare("oxygen", 7.08e-3, METRIC) == "7.1"
    assert bare("temperature", 20.0, UnitSystem.US).startswith("68")
    assert Scale("nitrate", 0.0, 0.04, True).words(METRIC)[1] == "40 mg/L"


def test_a_card_says_what_stands_in_its_water():
    study = analysed(reading_room())
    found = standing(study)
    row = next(s for s in stations(study) if s.name == "Moving bed")
    more = with_water(row, found, METRIC)
    added = more.readings[len(row.readings) :]
    assert [r.label for r in added] == ["Ammonia (N)", "Nitrite (N)", "Nitrate (NO₃)", "Oxygen", "Temperature"]
    assert added[3].value == f"{found.of('oxygen', row.cells) * 1e3:.2g} mg/L"
    assert "long run" in added[0].why
    cut = with_water(row, standing(study, "power_cut"), METRIC)
    assert "6 h" in cut.readings[-1].why
