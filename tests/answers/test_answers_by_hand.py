"""Every figure of every quick answer against arithmetic of its own: one wrong coefficient shows here."""

from __future__ import annotations

import math

import pytest
from scipy.optimize import brentq

from fuente.answers import ask
from fuente.errors import FuenteError

G = 9.80665
DAY = 86400.0
LPH = 1e-3 / 3600
NU = 0.8931e-6  # m²/s, fresh water of 25 °C


def colebrook(re, rough):
    """Colebrook's equation by a root finder; laminar under 2 000."""
    if re < 2000:
        return 64 / re
    x = brentq(lambda x: x + 2 * math.log10(rough / 3.7 + 2.51 * x / re), 2.0, 30.0, xtol=1e-14)
    return x**-2


def lost(flow, bore, length, k, rough=1.5e-6):
    """Head in m, speed in m/s."""
    v = flow / (math.pi / 4 * bore**2)
    f = colebrook(v * bore / NU, rough / bore)
    return (f * length / bore + k) * v * v / (2 * G), v


def close(got, wanted, rel=1e-3):
    assert {k: got[k] for k in wanted} == {k: pytest.approx(v, rel=rel) for k, v in wanted.items()}


# -- water ------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("lph", "bore", "length", "k"), [(3000, 0.026, 4.0, 6.0), (1200, 0.016, 2.5, 4.0), (100, 0.026, 5.0, 1.0)]
)
def test_pipe_loss(lph, bore, length, k):
    got = ask("pipe-loss", {"flow": f"{lph} L/h", "bore": f"{bore} m", "length": f"{length} m", "k": f"{k}"})
    head, speed = lost(lph * LPH, bore, length, k)
    re = speed * bore / NU
    close(
        got,
        {"head_loss": head, "velocity": speed, "reynolds": re, "friction_factor": colebrook(re, 1.5e-6 / bore)},
        rel=2e-3,
    )


def test_siphon_drain():
    """A metre of drop over entrance and bends of 1.2, and the exit of 1.0."""
    got = ask("siphon-drain", {"drop": "1 m", "bore": "28 mm", "length": "1.5 m", "k": "1.2"})
    flow = brentq(lambda q: lost(q, 0.028, 1.5, 2.2)[0] - 1.0, 1e-6, 1e-2)
    close(got, {"flow": flow, "velocity": flow / (math.pi / 4 * 0.028**2)}, rel=2e-3)


@pytest.mark.parametrize("fill", [7 / 24, 0.2])
def test_open_drain(fill):
    """27.8 · r^(5/3) · D^(8/3) gallons a minute, a US gallon of 3.785 411 784 L."""
    got = ask("open-drain", {"bore": "1.5 in", "fill": f"{fill}"})
    close(got, {"flow": 27.8 * fill ** (5 / 3) * 1.5 ** (8 / 3) * 3.785411784e-3 / 60}, rel=1e-6)
    with pytest.raises(FuenteError, match="7/24"):
        ask("open-drain", {"bore": "1.5 in", "fill": "0.3"})


def test_weir():
    """Kindsvater and Carter: 2/3 · (0.602 + 0.075 h/P) · √2g · (L − 1 mm) · (h + 1 mm)^1.5."""
    h = brentq(
        lambda h: (
            2 / 3 * (0.602 + 0.0749 * h / 0.25) * math.sqrt(2 * G) * (0.5 - 0.001) * (h + 0.001) ** 1.5 - 4000 * LPH
        ),
        1e-4,
        0.1,
    )
    got = ask("weir", {"flow": "4000 L/h", "length": "500 mm", "crest": "250 mm"})
    assert got["head"] == pytest.approx(h, abs=2e-5)


def test_gap():
    got = ask("gap", {"flow": "2500 L/h", "width": "300 mm", "gap": "25 mm"})
    v = 2500 * LPH / (0.3 * 0.025)
    close(got, {"velocity": v, "drop": (v / 0.65) ** 2 / (2 * G)}, rel=1e-9)


def test_pump_point():
    """A parabola between the box's numbers, against lift and plumbing."""
    flow = brentq(lambda q: 3.2 * (1 - (q / (4000 * LPH)) ** 2) - 1.1 - lost(q, 0.0232, 2.0, 5.0)[0], 1e-6, 1e-3)
    got = ask(
        "pump-point",
        {"max_head": "3.2 m", "max_flow": "4000 L/h", "lift": "1.1 m", "bore": "23.2 mm", "length": "2 m", "k": "5"},
    )
    close(got, {"flow": flow, "head": 3.2 * (1 - (flow / (4000 * LPH)) ** 2)}, rel=2e-3)


def test_header():
    """Manning with 0.010 by the depth at which it carries the flow."""
    bore, slope = 0.0588, 0.01

    def carries(x):
        theta = 2 * math.acos(1 - 2 * x)
        area = bore**2 / 8 * (theta - math.sin(theta))
        return area * (area / (bore * theta / 2)) ** (2 / 3) * math.sqrt(slope) / 0.010, area

    flow = 2000 * LPH
    x = brentq(lambda x: carries(x)[0] - flow, 1e-4, 0.9)
    got = ask("header", {"flow": "2000 L/h", "bore": "58.8 mm", "slope": "1 %"})
    close(
        got,
        {
            "fill": x,
            "velocity": flow / carries(x)[1],
            "half_capacity": carries(0.5)[0],
            "full_capacity": math.pi / 4 * bore**2 * (bore / 4) ** (2 / 3) * math.sqrt(slope) / 0.010,
        },
        rel=1e-4,
    )


def test_joins_and_hoses_and_bores():
    head, speed = lost(1500 * LPH, 0.0364, 0.05, 1.5)
    got = ask("equalising-bulkhead", {"flow": "3000 L/h", "bore": "36.4 mm", "count": "2"})
    close(got, {"difference": head, "velocity": speed}, rel=2e-3)
    head, speed = lost(2000 * LPH, 0.025, 1.2, 1.0, rough=5e-6)
    got = ask("hose-suction", {"flow": "2000 L/h", "bore": "25 mm", "length": "1.2 m", "lift": "0.1 m"})
    close(got, {"suction": head + speed**2 / (2 * G) + 0.1, "velocity": speed}, rel=2e-3)
    one = lost(math.pi / 4 * 0.045**2, 0.045, 0.06, 1.5)[0]  # 1 m/s where no flow is given
    each = brentq(lambda q: lost(q, 0.021, 0.06, 1.5)[0] - one, 1e-6, 1e-2)
    got = ask("parallel-bores", {"large": "45 mm", "small": "21 mm"})
    ratio = math.pi / 4 * 0.045**2 / each
    close(got, {"ratio": ratio, "count": math.ceil(ratio - 1e-3), "area_ratio": (45 / 21) ** 2, "loss": one}, rel=2e-3)


def test_pump_cost_for_some_hours_a_day():
    got = ask("pump-cost", {"power": "60 W", "price": "0.25", "hours": "8"})
    close(got, {"energy_per_year": 60 * 8 * 365.25 * 3600, "cost_per_year": 60 * 8 * 365.25 / 1000 * 0.25}, rel=1e-9)
    with pytest.raises(FuenteError, match="24 hours"):
        ask("pump-cost", {"power": "60 W", "price": "0.25", "hours": "25"})


def test_the_cheapest_pipe_is_the_cheapest_of_three():
    """Pipe by its outside squared from a 32 mm pipe's price; a quarter of the watts reaches the water."""
    given = {"flow": "3000 L/h", "length": "6 m", "price": "0.30", "pipe_price": "2.5"}
    got = ask("pipe-sizer", given)
    head, speed = lost(3000 * LPH, got["bore"], 6.0, 6.0)
    watts = 997.05 * G * 3000 * LPH * head / 0.25
    year = watts * 8766 / 1000 * 0.30
    pipe = 2.5 * 6.0 * (got["outside"] / 0.032) ** 2
    close(
        got,
        {
            "head_loss": head,
            "velocity": speed,
            "power": watts,
            "cost_per_year": year,
            "pipe_cost": pipe,
            "total": pipe + 5 * year,
        },
        rel=5e-3,
    )
    assert got["total"] <= min(got["total_smaller"], got["total_larger"])


def test_a_manifold_of_one_is_a_pipe():
    head, _ = lost(1000 * LPH, 0.0166, 0.3, 4.0)
    got = ask(
        "manifold", {"flow": "1000 L/h", "outlets": "1", "spacing": "0.5 m", "bore": "40 mm", "branch_bore": "16.6 mm"}
    )
    close(got, {"head": head, "first_flow": 1000 * LPH, "last_flow": 1000 * LPH, "last_of_first": 1.0}, rel=3e-3)
    assert got["header_velocity"] == pytest.approx(1000 * LPH / (math.pi / 4 * 0.04**2))


def test_a_manifold_of_two_shares_by_its_header():
    """What leaves last also crosses a spacing of header and a tee."""
    one = lambda q: lost(q, 0.0166, 0.3, 4.0)[0]  # noqa: E731
    across = lambda q: lost(q, 0.02, 0.8, 0.3)[0]  # noqa: E731
    whole = 1500 * LPH
    last = brentq(lambda q: one(whole - q) - one(q) - across(q), 1e-7, whole / 2)
    got = ask(
        "manifold", {"flow": "1500 L/h", "outlets": "2", "spacing": "0.8 m", "bore": "20 mm", "branch_bore": "16.6 mm"}
    )
    close(got, {"first_flow": whole - last, "last_flow": last, "last_of_first": last / (whole - last)}, rel=3e-3)


# -- life -------------------------------------------------------------------------------------------------------------


def areal(mg, temperature, do, salinity=0.0, ph=7.5):
    """g N/m²/day by Rusten's power law, as the guide to the answer says."""
    s = min(mg, (do - 0.5) / 3.2)
    rate = s**0.7 * 1.07 ** (temperature - 18)
    return rate * (0.6 if salinity > 15 else 1.0) * min(max(ph - 5.8, 0.0), 1.0)


def test_ammonia_made():
    nitrogen = 20e-3 / DAY * 0.4 * 0.092
    got = ask("ammonia-made", {"feed": "20 g/day", "protein": "40 %"})
    close(got, {"ammonia_nitrogen": nitrogen, "oxygen": 4.57 * nitrogen, "alkalinity": 7.05 * nitrogen}, rel=1e-9)


@pytest.mark.parametrize(
    ("more", "rate", "oxygen"),
    [
        ({}, areal(0.5, 24, 6), 0.0),
        ({"ammonia_kept": "3 mg/L"}, areal(3.0, 24, 6), 1.0),
        ({"temperature": "15 degC", "ph": "6.5"}, areal(0.5, 15, 6, ph=6.5), 0.0),
        ({"salinity": "35", "oxygen": "5 mg/L"}, areal(0.5, 24, 5, 35), 0.0),
    ],
)
def test_media_needed(more, rate, oxygen):
    got = ask("media-needed", {"feed": "10 g/day", **more})
    surface = 1.5 * 10 * 0.45 * 0.092 / rate
    close(
        got,
        {
            "areal_rate": rate,
            "surface": surface,
            "volume": surface / 500,
            "wet_mass": surface / 500 * (145 + 0.1 * 0.85 * 1000),
        },
        rel=1e-6,
    )
    assert got["oxygen_limits"] == oxygen


def test_free_ammonia():
    pka = 0.09018 + 2729.92 / (273.15 + 22)
    share = 1 / (1 + 10 ** (pka - 7.8))
    close(
        ask("free-ammonia", {"total": "2 mg/L", "ph": "7.8", "temperature": "22 degC"}),
        {"free": 2e-3 * share, "fraction": share},
    )


def test_bottle_bed():
    got = ask("bottle-bed", {"feed": "5 g/day", "bottle": "1.5 L", "fill": "50 %", "air_per_litre": "2"})
    litres = 1.5 * 5 * 0.45 * 0.092 / areal(0.5, 24, 6) / 500 * 1000
    count = math.ceil(litres / 0.75)
    close(
        got,
        {
            "media": litres / 1000,
            "bottles": count,
            "media_each": 0.75e-3,
            "air_each": 0.75e-3 * 2 / 60,
            "air": count * 0.75e-3 * 2 / 60,
        },
        rel=1e-6,
    )


def test_sponge_size():
    """A cube of foam: five of its sides take water at 2 mm/s."""
    surface = 1.5 * 2 * 0.45 * 0.092 / areal(0.5, 24, 6)
    side = (surface / 1400) ** (1 / 3)
    got = ask("sponge-size", {"feed": "2 g/day", "ppi": "30"})
    close(got, {"surface": surface, "volume": side**3, "side": side, "flow": 5 * side**2 * 2e-3}, rel=1e-6)


def test_media_compare():
    """10 mm wheels against sintered glass, 30 m²."""
    got = ask("media-compare", {"medium_id": "wheel_10", "other": "ring", "surface": "30 m2", "lift": "6 kg"})
    close(got, {"volume": 30 / 500, "other_volume": 30 / 300, "wet_mass": 30 / 500 * (145 + 85)}, rel=1e-9)
    assert got["bags"] == math.ceil(got["wet_mass"] / 6)
    assert got["other_bags"] == math.ceil(got["other_wet_mass"] / 6)
    assert got["cost_per_area"] == pytest.approx(got["cost"] / 30)
    assert got["other_cost_per_area"] == pytest.approx(got["other_cost"] / 30)


# -- air --------------------------------------------------------------------------------------------------------------


def test_an_air_pump_shares_alike():
    """Four alike: each a quarter of what the straight line gives against depth and line."""
    got = ask(
        "air-pump",
        {"max_pressure": "20 kPa", "max_flow": "8 L/min", "drops": "4", "depth": "400 mm", "wanted": "1.5 L/min"},
    )
    threshold = 1000 * G * 0.4

    def line(q):
        v = q / (math.pi / 4 * 0.004**2)
        f = 64 / (1.2 * v * 0.004 / 1.81e-5)
        return (f * 1.5 / 0.004 + 1.5) * 1.2 * v * v / 2

    each = brentq(lambda q: 8e-3 / 60 * (1 - (threshold + line(q)) / 20e3) - 4 * q, 1e-7, 2e-3 / 60)
    wanted = 1.5e-3 / 60
    close(
        got,
        {
            "depth_pressure": threshold,
            "flow_each": each,
            "total": 4 * each,
            "pressure": threshold + line(each),
            "carries": math.floor(8e-3 / 60 * (1 - (threshold + line(wanted)) / 20e3) / wanted),
        },
        rel=2e-3,
    )


def test_airlift_gives_both_models_and_the_best():
    got = ask("airlift", {"bore": "26 mm", "length": "500 mm", "submergence": "450 mm", "air_flow": "4 L/min"})
    assert got["water_flow"] == pytest.approx(14.3e-3 / 60, rel=0.01)
    assert got["drift_flux"] == pytest.approx(12.3e-3 / 60, rel=0.09)
    assert got["best_flow"] >= got["water_flow"]
    assert got["best_air"] > 4e-3 / 60


# -- bodies of filters ------------------------------------------------------------------------------------------------

FOAM_K = {10: 1.7e-7, 20: 1.0e-7, 30: 6e-8, 45: 3e-8}


def pad(speed, thickness, k, nu_rho=(0.9106e-3, 997.3)):
    """Darcy and Forchheimer through clean foam in water of 24 °C, m."""
    mu, rho = nu_rho
    return (mu * speed / k + rho * 0.08 / math.sqrt(k) * speed**2) * thickness / (rho * G)


def test_foam_wall():
    speed = 2000 * LPH / (0.4 * 0.35)
    got = ask("foam-wall", {"flow": "2000 L/h", "width": "400 mm", "depth": "350 mm", "ppi": "20", "dirt": "10"})
    close(
        got,
        {
            "cut_width": 0.4 * 1.015,
            "cut_height": 0.35 * 1.015,
            "face_speed": speed,
            "drop": pad(speed, 0.05, 1e-7),
            "drop_dirty": 10 * pad(speed, 0.05, 1e-7),
            "surface": 900 * 0.4 * 0.35 * 0.05,
        },
        rel=5e-3,
    )


def test_corner_foam():
    middle = math.pi / 2 * (0.3 - 0.025)
    speed = 1000 * LPH / (middle * 0.4)
    got = ask("corner-foam", {"flow": "1000 L/h", "reach": "300 mm", "depth": "400 mm"})
    close(
        got,
        {
            "cut_length": middle * 1.015,
            "cut_height": 0.4 * 1.015,
            "face_speed": speed,
            "drop": pad(speed, 0.05, 6e-8),
            "room_behind": math.pi / 4 * 0.25**2 * 0.4,
            "surface": 1400 * middle * 0.4 * 0.05,
        },
        rel=5e-3,
    )
    with pytest.raises(FuenteError, match="thicker than the corner"):
        ask("corner-foam", {"flow": "1000 L/h", "reach": "50 mm", "depth": "400 mm"})


def test_carrier_holes():
    got = ask("carrier-holes", {"flow": "600 L/h", "least": "7 mm", "margin": "75 %", "speed": "0.1 m/s"})
    bore = 0.75 * 0.007
    area = math.pi / 4 * bore**2
    count = math.ceil(600 * LPH / (area * 0.1))
    real = 600 * LPH / (count * area)
    close(
        got,
        {"hole": bore, "count": count, "speed": real, "pitch": 2 * bore, "loss": (real / 0.62) ** 2 / (2 * G)},
        rel=1e-6,
    )


def test_drum_flange():
    got = ask("drum-flange", {"diameter": "570 mm", "flange": "90 mm", "gasket": "4 mm"})
    r = 0.285
    falls = r - math.sqrt(r * r - 0.045**2)
    takes = 0.004 / 3
    close(got, {"sagitta": falls, "takes": takes, "largest": 2 * math.sqrt(r * r - (r - takes) ** 2)}, rel=1e-6)
    assert got["seats"] == 0.0
    assert ask("drum-flange", {"diameter": "570 mm", "flange": "50 mm", "gasket": "4 mm"})["seats"] == 1.0
    with pytest.raises(FuenteError, match="as wide as the drum"):
        ask("drum-flange", {"diameter": "90 mm", "flange": "90 mm"})


def test_flush():
    flow = brentq(lambda q: lost(q, 0.0452, 1.0, 4.0)[0] - 0.5, 1e-6, 1e-1)
    got = ask("flush", {"volume": "60 L", "bore": "45.2 mm", "drop": "0.5 m", "times_a_week": "3"})
    close(
        got, {"flow": flow, "time": 0.06 / flow, "velocity": flow / (math.pi / 4 * 0.0452**2), "a_week": 0.18}, rel=2e-3
    )


@pytest.mark.parametrize(("micron", "through"), [(200, 0.12), (300, 0.18), (500, 0.3), (800, 0.3)])
def test_sieve(micron, through):
    """0.06 m/s for every 100 µm, 0.3 at most; a PVC pipe of 2.8 GPa as a beam."""
    got = ask("sieve", {"flow": "5000 L/h", "aperture": f"{micron} micron", "span": "0.8 m"})
    inertia = math.pi / 64 * (0.032**4 - 0.0272**4)
    close(
        got,
        {
            "speed": through,
            "area": 5000 * LPH / (through * 0.3 * 0.5),
            "sag": 5 * 100 * 0.8**4 / (384 * 2.8e9 * inertia),
            "sag_allowed": 0.004,
        },
        rel=1e-6,
    )


def test_a_sieve_is_never_quite_shut():
    with pytest.raises(FuenteError, match="under 100"):
        ask("sieve", {"flow": "5000 L/h", "clogged": "100 %"})


def test_settle():
    got = ask("settle", {"flow": "1000 L/h", "length": "500 mm", "width": "400 mm", "particle": "20 micron"})
    fall = G * 20e-6**2 * (1050 - 997.3) / (18 * 0.9106e-3)
    rate = 1000 * LPH / 0.2
    close(got, {"overflow_rate": rate, "fall_speed": fall, "share": fall / rate}, rel=5e-3)
    assert got["smallest"] > 20e-6


def test_canister_fill():
    got = ask(
        "canister-fill", {"volume": "20 L", "flow": "800 L/h", "medium_id": "ring", "fill": "80 %", "lift": "4 kg"}
    )
    bulk = 0.02 * 0.8 * 0.95
    dry, void = got["dry_mass"] / bulk, 1 - (0.02 - 0.02 * 0.8 * 0.05 - got["water"]) / bulk
    close(
        got,
        {
            "media": bulk,
            "wet_mass": bulk * (dry + 0.1 * void * 1000),
            "stays": got["water"] / (800 * LPH),
            "bags": math.ceil(bulk * (dry + 100 * void) / 4),
            "surface": bulk * 300,
        },
        rel=1e-6,
    )
    assert 0.4 < void < 0.95
    assert 200 < dry < 1500


def test_ornament():
    """Clay of 3 kg on 1.2 L sinks by itself; a plastic shell of as many litres is held down by stone."""
    heavy = ask("ornament", {"outer": "6 L", "shell_mass": "3 kg", "shell": "1.2 L"})
    assert heavy["ballast"] == 0.0
    light = ask("ornament", {"outer": "6 L", "shell_mass": "1 kg", "shell": "1.2 L"})
    close(light, {"room": 4.8e-3, "lift": 0.2, "water": 4.8e-3, "ballast": 1.3 * 0.2 / (1 - 1000 / 2600)}, rel=2e-2)
    with pytest.raises(FuenteError, match="no room in it"):
        ask("ornament", {"outer": "1 L", "shell_mass": "1 kg", "shell": "1 L"})
    with pytest.raises(FuenteError, match="does not fit"):
        ask("ornament", {"outer": "2 L", "shell_mass": "1 kg", "shell": "1 L", "media": "1.5 L"})


def test_shares_and_amounts_have_their_sentence():
    for name, given, words in (
        ("ammonia-made", {"feed": "10 g/day", "protein": "150 %"}, "0 to 100"),
        ("bottle-bed", {"feed": "10 g/day", "fill": "0 %"}, "0 to 100"),
        ("carrier-holes", {"flow": "0 L/h", "least": "7 mm"}, "above zero"),
        ("flush", {"volume": "0 L", "bore": "45 mm", "drop": "0.5 m"}, "above zero"),
        ("gap", {"flow": "100 L/h", "width": "0 mm", "gap": "3 mm"}, "above zero"),
        (
            "manifold",
            {"flow": "1 L/h", "outlets": "2.5", "spacing": "1 m", "bore": "1 cm", "branch_bore": "1 cm"},
            "whole",
        ),
        ("air-pump", {"max_pressure": "20 kPa", "max_flow": "8 L/min", "drops": "0", "depth": "400 mm"}, "whole"),
    ):
        with pytest.raises(FuenteError, match=words):
            ask(name, given)
