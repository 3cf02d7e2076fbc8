"""Quick answers about filters against hand calculation and the values of their sources."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fuente.answers import filter_bodies, filters
from fuente.answers.registry import answers, find
from fuente.errors import EntryError, FuenteError
from fuente.hydraulics.air import AirPump, Drop, share_air
from fuente.hydraulics.airlift import airlift_flow, best_air, drift_flux_flow
from fuente.life.load import ammonia_made, areal_rate, foam_surface

LPM = 1e-3 / 60
DAY = 86400.0


@pytest.mark.parametrize(
    ("bore", "length", "submergence", "air", "slug", "drift"),
    [(0.026, 0.50, 0.45, 4, 14.3, 12.3), (0.020, 0.33, 0.30, 2, 7.4, 6.3), (0.0525, 1.0, 0.9, 40, 110, 94)],
)
def test_airlift_after_stenning_and_martin(bore, length, submergence, air, slug, drift):
    """Stenning and Martin within 1 %; the drift-flux form derived here within 9 % of the design's second column."""
    assert airlift_flow(bore, length, submergence, air * LPM) / LPM == pytest.approx(slug, rel=0.01)
    assert drift_flux_flow(bore, length, submergence, air * LPM) / LPM == pytest.approx(drift, rel=0.09)


def test_air_past_the_best_lifts_less():
    best, most = best_air(0.026, 0.5, 0.45)
    assert airlift_flow(0.026, 0.5, 0.45, 1.5 * best) < most
    assert airlift_flow(0.026, 0.5, 0.45, 0.5 * best) < most
    assert airlift_flow(0.026, 0.5, 0.45, best) == pytest.approx(most)


@given(st.floats(0.012, 0.06), st.floats(0.2, 1.5), st.floats(0.55, 1.0), st.floats(0.5, 30), st.floats(0, 30))
def test_more_in_series_or_less_depth_lifts_less(bore, length, share, air, k):
    base = airlift_flow(bore, length, share * length, air * LPM)
    assert airlift_flow(bore, length, share * length, air * LPM, k=k) <= base * (1 + 1e-9)
    assert airlift_flow(bore, length, 0.9 * share * length, air * LPM) <= base * (1 + 1e-9)
    assert base >= 0


def test_an_airlift_needs_its_submergence():
    with pytest.raises(FuenteError, match="submergence"):
        airlift_flow(0.02, 0.3, 0.4, LPM)
    assert airlift_flow(0.02, 0.3, 0.2, 0.0) == 0.0


def test_the_shallow_drop_takes_the_air_until_it_is_throttled():
    pump = AirPump(20e3, 10 * LPM)
    drops = [Drop(0.25), Drop(0.30), Drop(0.35, diffuser=1000.0)]
    pressure, flows = share_air(pump, drops)
    assert flows[0] > flows[1] > flows[2]
    assert sum(flows) == pytest.approx(pump.flow(pressure), rel=1e-6)
    throttled = [Drop(0.25, valve_k=3000.0), *drops[1:]]
    _, after = share_air(pump, throttled)
    assert after[0] < flows[0]
    assert after[1] > flows[1]
    opened = [Drop(0.05), *drops[1:]]
    _, starved = share_air(pump, opened)
    assert starved[1] < flows[1]


@given(st.lists(st.tuples(st.floats(0.05, 1.0), st.floats(0.2, 4.0), st.floats(0, 2000)), min_size=1, max_size=24))
def test_a_manifold_conserves_air(rows):
    pump = AirPump(25e3, 30 * LPM)
    pressure, flows = share_air(pump, [Drop(d, length, valve_k=k) for d, length, k in rows])
    assert all(q >= 0 for q in flows)
    if any(flows):
        assert sum(flows) == pytest.approx(pump.flow(pressure), rel=1e-6)


def test_ammonia_of_a_day_s_feed():
    """Ten grams a day of 45 % protein make 0.414 g of nitrogen (Timmons and Ebeling)."""
    assert ammonia_made(10e-3 / DAY, 0.45) * DAY * 1000 == pytest.approx(0.414)
    found = filters.ammonia(10e-3 / DAY, 0.45)
    assert found["oxygen"] / found["ammonia_nitrogen"] == pytest.approx(4.57)


def test_rates_follow_ammonia_oxygen_warmth_and_salt():
    rate, limit = areal_rate(1e-3, 18.0, 8e-3)
    assert rate * 1e3 * DAY == pytest.approx(1.0)
    assert limit == "ammonia"
    half, _ = areal_rate(0.5e-3, 18.0, 8e-3)
    assert half / rate == pytest.approx(0.5**0.7)
    poor, why = areal_rate(2e-3, 18.0, 3e-3)
    assert why == "oxygen"
    assert poor * 1e3 * DAY == pytest.approx(((3 - 0.5) / 3.2) ** 0.7)
    assert areal_rate(1e-3, 28.0, 8e-3)[0] > 1.5 * rate
    assert areal_rate(1e-3, 18.0, 8e-3, salinity=35)[0] == pytest.approx(0.6 * rate)
    assert areal_rate(1e-3, 18.0, 8e-3, ph=5.5)[0] == 0


def test_media_for_a_load_by_hand():
    found = filters.media_needed(12e-3 / DAY, 0.45, 18.0, "wheel_10", 1e-3, 8e-3, spare=1.0)
    assert found["surface"] == pytest.approx(12 * 0.45 * 0.092)  # 1 g N a m² a day
    assert found["volume"] == pytest.approx(12 * 0.45 * 0.092 / 500)
    assert found["oxygen_limits"] == 0


def test_free_ammonia_as_the_table_says():
    assert filters.free_ammonia(1e-3, 8.0, 25.0)["fraction"] == pytest.approx(0.0537, rel=0.01)
    assert filters.free_ammonia(2e-3, 7.4, 18.0)["free"] == pytest.approx(2e-3 * 0.0085, rel=0.01)


def test_one_air_pump_carries_so_many_drops():
    found = filters.air_pump(25e3, 20 * LPM, 8, 0.3)
    assert found["total"] == pytest.approx(8 * found["flow_each"])
    at_limit = filters.air_pump(25e3, 20 * LPM, found["carries"], 0.3)
    one_more = filters.air_pump(25e3, 20 * LPM, found["carries"] + 1, 0.3)
    assert at_limit["flow_each"] >= 1 * LPM * 0.999
    assert one_more["flow_each"] < 1 * LPM


def test_bottles_hold_the_load():
    found = filters.bottle_bed(20e-3 / DAY)
    assert found["bottles"] * found["media_each"] >= found["media"] > (found["bottles"] - 1) * found["media_each"]
    assert found["air_each"] / LPM == pytest.approx(2 * 2 / 3)


def test_holes_are_smaller_than_what_they_keep():
    found = filters.carrier_holes(200e-3 / 3600, 0.007)
    assert found["hole"] == pytest.approx(0.0056)
    area = found["count"] * math.pi / 4 * found["hole"] ** 2
    assert area * found["speed"] == pytest.approx(200e-3 / 3600)
    assert found["speed"] <= 0.15


def test_a_flange_on_a_drum():
    """Sagitta r − √(r² − (d/2)²): 66 mm on a 580 mm drum stands off 1.89 mm; a 3 mm gasket takes 1 mm."""
    found = filter_bodies.drum_flange(0.58, 0.066)
    assert found["sagitta"] == pytest.approx(0.29 - math.sqrt(0.29**2 - 0.033**2))
    assert found["seats"] == 0
    assert filter_bodies.drum_flange(0.58, found["largest"] * 0.999)["seats"] == 1
    with pytest.raises(EntryError):
        filter_bodies.drum_flange(0.06, 0.066)


def test_corner_foam_is_a_quarter_of_a_ring():
    found = filter_bodies.corner_foam(500e-3 / 3600, 0.15, 0.3, squeeze=0.0)
    assert found["cut_length"] == pytest.approx(math.pi / 2 * 0.125)
    assert found["room_behind"] == pytest.approx(math.pi / 4 * 0.1**2 * 0.3)


def test_foam_wall_gauge_rises_with_dirt():
    found = filter_bodies.foam_wall(1000e-3 / 3600, 0.4, 0.35)
    assert found["drop_dirty"] == pytest.approx(25 * found["drop"], rel=1e-6)
    assert found["cut_width"] == pytest.approx(0.406)
    finer = filter_bodies.foam_wall(1000e-3 / 3600, 0.4, 0.35, ppi=45)
    assert finer["drop"] > found["drop"]
    assert foam_surface(25) == pytest.approx(1150)


def test_what_settles_by_stokes():
    """A 50 µm grain of 1 050 kg/m³ falls at (ρp − ρ)·g·d²/(18μ), within 2 %."""
    found = filter_bodies.settle(3000e-3 / 3600, 0.6, 0.4, 50e-6, 1050.0, 25.0)
    stokes = (1050 - 997.05) * 9.80665 * 50e-6**2 / (18 * 0.890e-3)
    assert found["fall_speed"] == pytest.approx(stokes, rel=0.02)
    assert found["share"] == pytest.approx(stokes / (3000e-3 / 3600 / 0.24), rel=0.02)
    wider = filter_bodies.settle(3000e-3 / 3600, 1.2, 0.4, 50e-6, 1050.0, 25.0)
    assert wider["smallest"] < found["smallest"]


def test_a_frame_sags_by_the_beam_s_formula():
    found = filter_bodies.sieve(8000e-3 / 3600, span=0.8, load=60.0)
    inertia = math.pi / 64 * (0.032**4 - 0.0272**4)
    assert found["sag"] == pytest.approx(5 * 60 * 0.8**4 / (384 * 2.8e9 * inertia))
    assert filter_bodies.sieve(8000e-3 / 3600, span=1.6, load=60.0)["sag"] == pytest.approx(16 * found["sag"])


def test_a_canister_s_litres_add_up():
    found = filter_bodies.canister_fill(0.012, 600e-3 / 3600, "ring", 0.85, 0.05)
    solids = found["media"] * (1 - 0.62) + 0.012 * 0.85 * 0.05
    assert found["water"] + solids == pytest.approx(0.012)
    assert found["stays"] == pytest.approx(found["water"] / (600e-3 / 3600))


def test_an_ornament_of_light_walls_floats_and_is_held():
    """1.2 L of wall that weighs 0.6 kg pushes up with 0.6 kg; stone under water weighs 1 − 1000/2600 of itself."""
    found = filter_bodies.ornament(0.008, 0.6, 0.0012, margin=1.0)
    assert found["lift"] == pytest.approx(0.6)
    assert found["ballast"] * (1 - 1000 / 2600) == pytest.approx(0.6)
    assert filter_bodies.ornament(0.008, 1.5, 0.0012)["ballast"] == 0
    with pytest.raises(EntryError, match="does not fit"):
        filter_bodies.ornament(0.008, 1.0, 0.001, media=0.02)


def test_media_side_by_side():
    found = filters.media_compare("ring", "pumice", 10.0, 10.0)
    assert found["volume"] == pytest.approx(10 / 300)
    assert found["cost"] / 10 == pytest.approx(found["cost_per_area"])
    assert found["bags"] == math.ceil(found["wet_mass"] / 10)


def test_a_flush_takes_its_time():
    found = filter_bodies.flush(0.06, 0.036, 0.6, times_a_week=2)
    assert found["time"] * found["flow"] == pytest.approx(0.06)
    assert found["a_week"] == pytest.approx(0.12)


def test_a_sponge_for_a_few_shrimp():
    small, large = filter_bodies.sponge_size(0.5e-3 / DAY), filter_bodies.sponge_size(5e-3 / DAY)
    assert large["volume"] == pytest.approx(10 * small["volume"])
    assert small["side"] == pytest.approx(small["volume"] ** (1 / 3))


NAMES = (
    "ammonia-made",
    "media-needed",
    "free-ammonia",
    "airlift",
    "air-pump",
    "bottle-bed",
    "carrier-holes",
    "media-compare",
    "foam-wall",
    "corner-foam",
    "drum-flange",
    "flush",
    "sieve",
    "settle",
    "canister-fill",
    "ornament",
    "sponge-size",
)


@pytest.mark.parametrize("name", NAMES)
def test_every_question_is_listed_and_says_how_sure_it_is(name):
    answer = find(name)
    assert answers()[name] is answer
    assert "±" in answer.doc or name in ("drum-flange", "canister-fill", "media-compare")
    assert all(o.label for o in answer.outputs)
