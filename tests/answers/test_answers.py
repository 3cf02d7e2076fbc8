"""The ten answers, against the design's check values, and their bad inputs."""

import pytest

from amounts import LPH
from fuente.answers import answers, ask, find
from fuente.errors import FuenteError
from fuente.units import UnitSystem

TEN = {
    "pipe-loss",
    "pump-point",
    "siphon-drain",
    "open-drain",
    "weir",
    "gap",
    "turnover",
    "bucket-flow",
    "glass-thickness",
    "bulkhead",
}


def test_the_ten_are_there_with_words():
    assert set(answers()) >= TEN
    for answer in answers().values():
        assert len(answer.doc) > 40
        assert answer.outputs


@pytest.mark.parametrize(
    ("name", "given", "wanted"),
    [
        (
            "pipe-loss",
            {"flow": "3000 L/h", "bore": "26 mm", "length": "4 m", "k": "6"},
            {"head_loss": 1.169, "velocity": 1.57, "reynolds": 45700},
        ),
        (
            "pump-point",
            {
                "max_head": "4 m",
                "max_flow": "6000 L/h",
                "lift": "1.45 m",
                "bore": "26 mm",
                "length": "3.2 m",
                "k": "7.5",
            },
            {"flow": 3180 * LPH, "head": 2.88},
        ),
        ("siphon-drain", {"drop": "0.9 m", "bore": "32.6 mm", "length": "1.2 m", "k": "2.4"}, {"flow": 6230 * LPH}),
        ("open-drain", {"bore": "2 in"}, {"flow": 5140 * LPH}),
        ("weir", {"flow": "3000 L/h", "length": "400 mm"}, {"head": 0.0101}),
        ("gap", {"flow": "6000 L/h", "width": "400 mm", "gap": "30 mm"}, {"drop": 0.0023, "velocity": 0.139}),
        ("turnover", {"flow": "3000 L/h", "volume": "500 L"}, {"per_hour": 6.0}),
        ("bucket-flow", {"volume": "10 L", "time": "12 s"}, {"flow": 3000 * LPH}),
        ("bulkhead", {"size": "1 in"}, {"saw": 0.044}),
    ],
)
def test_values(name, given, wanted):
    got = ask(name, given)
    for key, value in wanted.items():
        assert got[key] == pytest.approx(value, rel=0.015)


def test_glass_follows_the_plate_model():
    got = ask("glass-thickness", {"length": "1000 mm", "width": "500 mm", "depth": "500 mm"})
    # β 0.458 at length over height of 2; p₀ = 1000·9.80665·0.5; σ = 19.2/3.8 MPa
    assert got["wall_thickness"] == pytest.approx(0.5 * (0.458 * 4903.3 / (19.2e6 / 3.8)) ** 0.5, rel=0.01)
    assert got["safety"] == pytest.approx(3.8)
    thicker = ask("glass-thickness", {"length": "1 m", "width": "500", "depth": "500", "thickness": "15 mm"})
    assert thicker["safety"] > got["safety"]


def test_points_give_the_makers_curve():
    got = ask(
        "pump-point",
        {"points": "0:4, 3000:2.9, 6000:0.1", "lift": "1.45 m", "bore": "26 mm", "length": "3.2 m", "k": "7.5"},
    )
    assert 2900 * LPH < got["flow"] < 3300 * LPH


@pytest.mark.parametrize(
    ("name", "given", "words"),
    [
        ("wier", {}, "Did you mean “weir”"),
        ("weir", {"flow": "3000 L/h"}, "needs length"),
        ("weir", {"flow": "wet", "length": "1 m"}, "not a flow"),
        ("weir", {"flow": "0 L/h", "length": "1 m"}, "above zero"),
        ("weir", {"colour": "red"}, "takes flow"),
        ("open-drain", {"bore": "2 in", "fill": "0.5"}, "7/24"),
        ("bulkhead", {"size": "7 in"}, "choose one of"),
        ("glass-thickness", {"length": "1 m", "width": "1 m", "depth": "1 m", "material": "oak"}, "glass, acrylic"),
        ("pump-point", {"lift": "1 m", "bore": "26 mm", "length": "3 m"}, "or points"),
        (
            "pump-point",
            {"max_head": "1 m", "max_flow": "900 gph", "lift": "2 m", "bore": "26 mm", "length": "3"},
            "does not reach",
        ),
    ],
)
def test_bad_input_is_one_sentence(name, given, words):
    with pytest.raises(FuenteError, match=words):
        ask(name, given)


def test_us_bare_numbers():
    assert ask("turnover", {"flow": "900", "volume": "100"}, UnitSystem.US)["per_hour"] == pytest.approx(9)
    assert find("weir").title


@pytest.mark.parametrize(
    ("name", "given", "wanted"),
    [
        (
            "equalising-bulkhead",
            {"flow": "4000 L/h", "bore": "45.2 mm", "length": "0", "k": "1.5"},
            {"difference": 1.5 * 0.6924**2 / 19.6133},
        ),
        (
            "pump-cost",
            {"power": "45 W", "price": "0.30"},
            {"cost_per_year": 45 * 8.76 * 0.3, "energy_per_year": 45 * 8760 * 3600},
        ),
        (
            "parallel-bores",
            {"large": "50 mm", "small": "25 mm", "length": "0", "k": "2"},
            {"ratio": 4.0, "area_ratio": 4.0, "count": 4},
        ),
        # Manning by hand: full 45 mm pipe at 2 %: A·(D/4)^(2/3)·√0.02/0.010
        (
            "header",
            {"flow": "1000 L/h", "bore": "45 mm"},
            {"full_capacity": 1.5904e-3 * 0.01125 ** (2 / 3) * 0.141421 / 0.010},
        ),
        (
            "hose-suction",
            {"flow": "1500 L/h", "bore": "19 mm", "length": "0", "k": "1", "lift": "0.2 m"},
            {"suction": 0.2 + 2 * 1.4696**2 / 19.6133},
        ),
    ],
)
def test_answers_about_systems_by_hand(name, given, wanted):
    got = ask(name, given)
    for key, value in wanted.items():
        assert got[key] == pytest.approx(value, rel=2e-3), key


def test_long_pipes_make_small_bores_worse_than_their_area():
    got = ask("parallel-bores", {"large": "45 mm", "small": "21 mm", "length": "3 m"})
    assert got["ratio"] > 1.15 * got["area_ratio"]


def test_a_wide_manifold_is_even_and_a_narrow_one_is_not():
    base = {"flow": "2400 L/h", "outlets": "12", "spacing": "300 mm", "branch_bore": "10 mm"}
    wide, narrow = ask("manifold", {**base, "bore": "67 mm"}), ask("manifold", {**base, "bore": "21 mm"})
    assert wide["last_of_first"] > 0.98
    assert narrow["last_of_first"] < 0.6
    with pytest.raises(FuenteError, match="whole number"):
        ask("manifold", {**base, "bore": "21 mm", "outlets": "2.5"})


def test_the_cheapest_pipe_says_what_it_costs():
    """Speed by its own bore, a year's watts at the price, a metre by the outside squared; the next sizes cost more."""
    got = ask("pipe-sizer", {"flow": "4000 L/h", "length": "10 m", "price": "0.30", "pipe_price": "2"})
    flow = 4000e-3 / 3600
    assert got["velocity"] == pytest.approx(flow / (3.14159265 / 4 * got["bore"] ** 2))
    assert got["power"] == pytest.approx(997.05 * 9.80665 * flow * got["head_loss"] / 0.25, rel=1e-5)
    assert got["cost_per_year"] == pytest.approx(got["power"] * 8.766 * 0.30)
    assert got["pipe_cost"] == pytest.approx(20 * (got["outside"] / 0.032) ** 2)
    assert got["total"] == pytest.approx(got["pipe_cost"] + 5 * got["cost_per_year"])
    assert got["total"] <= min(got["total_smaller"], got["total_larger"])
