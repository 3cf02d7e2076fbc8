"""Water lifted by air, against the balance typed apart, its limits, and the shape of its curve."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.optimize import brentq, minimize_scalar

from fuente.errors import FuenteError
from fuente.hydraulics.airlift import LiftTubes, airlift_flow, best_air, drift_flux_flow, lift_doubt

G = 9.80665
LPM = 1e-3 / 60

# bore m, length m, submergence m, air L/min, further losses
CASES = [
    (0.020, 0.33, 0.30, 2.0, 0.0),
    (0.026, 0.50, 0.45, 4.0, 0.0),
    (0.026, 0.50, 0.35, 4.0, 3.0),
    (0.040, 0.80, 0.75, 12.0, 1.5),
    (0.0525, 1.0, 0.90, 40.0, 0.0),
]


def stenning_martin(bore, length, sunk, air, k, f=0.025):
    """The published balance, in speeds, by a root finder of its own."""
    area = math.pi * bore * bore / 4
    gas = air / area
    loss = f * length / bore + k

    def rest(v):
        ratio = gas / v
        slip = 1.2 + 0.2 * ratio + 0.35 * math.sqrt(G * bore) / v
        left = sunk / length - 1 / (1 + ratio / slip)
        return left - v * v / (2 * G * length) * ((loss + 1) + (loss + 2) * ratio)

    return area * brentq(rest, 1e-6, 4.0, xtol=1e-13)


@pytest.mark.parametrize(("bore", "length", "sunk", "lpm", "k"), CASES)
def test_stenning_and_martin(bore, length, sunk, lpm, k):
    wanted = stenning_martin(bore, length, sunk, lpm * LPM, k)
    assert airlift_flow(bore, length, sunk, lpm * LPM, k=k) == pytest.approx(wanted, rel=1e-6)


def drift_flux(bore, length, sunk, air, k, f=0.025):
    """Void by Nicklin with Reinemann's narrow tubes; weight, friction and the liquid's momentum in balance."""
    area = math.pi * bore * bore / 4
    gas = air / area
    eotvos = 1000 * G * bore * bore / 0.072
    narrow = 1 - 3.18 / eotvos - 14.77 / eotvos**2
    wide = bore >= 0.08
    c0, drift = (1.05, 0.25) if wide else (1.2, 0.35 * math.sqrt(G * bore) * narrow)

    def rest(v):
        void = gas / (c0 * (v + gas) + drift)
        lost = (f * length / bore + k) * (v + gas) ** 2 * (1 - void) + 2 * v * v / (1 - void)
        return sunk / length - (1 - void) - lost / (2 * G * length)

    return area * brentq(rest, 1e-6, 4.0, xtol=1e-13)


@pytest.mark.parametrize(("bore", "length", "sunk", "lpm", "k"), [*CASES, (0.1, 1.0, 0.9, 60.0, 1.0)])
def test_drift_flux(bore, length, sunk, lpm, k):
    wanted = drift_flux(bore, length, sunk, lpm * LPM, k)
    assert drift_flux_flow(bore, length, sunk, lpm * LPM, k=k) == pytest.approx(wanted, rel=1e-6)


@pytest.mark.parametrize(("bore", "length", "sunk", "lpm", "k"), CASES)
def test_the_two_models_agree_within_what_they_claim(bore, length, sunk, lpm, k):
    one, other = (model(bore, length, sunk, lpm * LPM, k=k) for model in (airlift_flow, drift_flux_flow))
    assert 0.75 < other / one < 1.25


def test_narrow_tubes_hold_their_bubbles():
    """In 6 mm capillarity takes most of the drift: a slug hardly rises through still water."""
    eotvos = 1000 * G * 0.006**2 / 0.072
    assert 1 - 3.18 / eotvos - 14.77 / eotvos**2 < 0
    # So the water goes with the air: C0 = 1.2 alone, and more of it than in the same balance with full drift.
    assert drift_flux_flow(0.006, 0.3, 0.27, 0.05 * LPM) > 0.5 * stenning_martin(0.006, 0.3, 0.27, 0.05 * LPM, 0.0)


@pytest.mark.parametrize(("bore", "length", "sunk", "k"), [(c[0], c[1], c[2], c[4]) for c in CASES])
def test_the_best_air_is_the_top_of_the_curve(bore, length, sunk, k):
    """Against a bounded search of another make, to a thousandth of the water; the top is flat."""
    found = minimize_scalar(
        lambda air: -stenning_martin(bore, length, sunk, air, k),
        bounds=(1e-7, 2.0 * math.pi / 4 * bore**2),
        method="bounded",
        options={"xatol": 1e-9},
    )
    air, most = best_air(bore, length, sunk, k=k)
    assert most == pytest.approx(-found.fun, rel=1e-4)
    assert air == pytest.approx(found.x, rel=0.02)


def test_far_more_air_than_the_best_is_within_the_search():
    """The search goes to 2 m/s of air in the tube: a deep lift with losses has its best well inside."""
    for bore, length, sunk, _, k in CASES:
        assert best_air(bore, length, sunk, k=k)[0] < 0.9 * 2.0 * math.pi / 4 * bore**2


def test_little_air_does_not_reach_a_high_mouth():
    """Half of the tube stands over the water: a mixture must weigh half, and a trickle of air is not enough."""
    assert airlift_flow(0.026, 1.0, 0.5, 0.2 * LPM) == 0.0
    assert airlift_flow(0.026, 1.0, 0.5, 20 * LPM) > 0.0


@pytest.mark.parametrize(
    ("bore", "length", "sunk", "air"),
    [
        (0.0, 0.3, 0.2, 1.0),
        (0.02, 0.0, 0.2, 1.0),
        (0.02, 0.3, 0.2, -1.0),
        (0.02, 0.3, 0.31, 1.0),
        (0.02, 0.3, 0.0, 1.0),
    ],
)
def test_what_cannot_be_is_a_sentence(bore, length, sunk, air):
    for model in (airlift_flow, drift_flux_flow):
        with pytest.raises(FuenteError):
            model(bore, length, sunk, air * LPM)


# -- tubes of a network -----------------------------------------------------------------------------------------------


def tubes(**change):
    fields = {
        "bore": np.array([0.026]),
        "length": np.array([0.5]),
        "k": np.array([1.5]),
        "bubbly": np.array([False]),
        "kinematic": 1.0e-6,
    }
    return LiftTubes(**{**fields, **change})


def flow(made, sunk, air):
    return float(made.flow(np.array([sunk]), np.array([air]))[0][0])


def test_a_lift_stops_where_the_mixture_weighs_as_much_as_the_water():
    """At no flow the void is gas / (C0·gas + drift), and the submergence that it balances is the rest of the length."""
    air = 4 * LPM
    area = math.pi / 4 * 0.026**2
    gas, drift = air / area, 0.35 * math.sqrt(G * 0.026)
    # Stenning and Martin's slip at rest: s·Vf = 0.2·Vg + drift, so void = Vg / (1.2·Vg + drift).
    stop = 0.5 * (1 - gas / (1.2 * gas + drift))
    made = tubes()
    assert flow(made, stop + 1e-6, air) > 0
    assert flow(made, stop - 1e-6, air) < 0
    assert abs(flow(made, stop + 1e-9, air)) < 1e-7


def test_a_bubbly_tube_has_its_own_slip():
    """C0 = 1.05 and 0.25 m/s: the void at rest is less, and so the lift begins at more water."""
    air = 60 * LPM
    area = math.pi / 4 * 0.1**2
    gas = air / area
    stop = 1 - gas / (1.05 * gas + 0.25)
    made = tubes(bore=np.array([0.1]), length=np.array([1.0]), bubbly=np.array([True]))
    assert flow(made, stop + 1e-6, air) > 0 > flow(made, stop - 1e-6, air)


def test_without_air_a_tube_is_a_pipe_with_its_laminar_start():
    """Water that falls back: Hagen–Poiseuille and the square losses together, by the quadratic formula."""
    made = tubes(bore=np.array([0.02]), k=np.array([2.0]))
    short = 0.02  # m that the submergence is less than the length
    straight = 128 * 1e-6 * 0.5 / (math.pi * G * 0.02**4)
    straight = max(straight, 0.05)
    area = math.pi / 4 * 0.02**2
    square = (0.025 * 0.5 / 0.02 + 2.0 + 1.0) / (2 * G * area**2)
    wanted = (-straight + math.sqrt(straight**2 + 4 * square * short)) / (2 * square)
    assert flow(made, 0.5 - short, 0.0) == pytest.approx(-wanted, rel=1e-9)


def test_fast_water_knows_no_laminar_loss():
    """From some thousand of Reynolds on the friction factor is all: as the single tube's own model."""
    air = 8 * LPM
    one = airlift_flow(0.04, 0.8, 0.75, air, 0.025, 1.5)
    made = tubes(bore=np.array([0.04]), length=np.array([0.8]))
    assert flow(made, 0.75, air) == pytest.approx(one, rel=5e-3)


def test_drift_flux_does_not_jump_where_slugs_give_way_to_bubbles():
    """In steps of a tenth of a millimetre from 50 to 120 mm: no step changes it by more than a hundredth."""
    bores = np.arange(0.05, 0.12, 1e-4)
    flows = np.array([drift_flux_flow(b, 1.0, 0.9, 60e-3 / 60) for b in bores])
    assert np.abs(np.diff(flows) / flows[:-1]).max() < 0.01
    # Half way, at 80 mm, half of each.
    bore, air, water = 0.08, 60e-3 / 60, drift_flux_flow(0.08, 1.0, 0.9, 60e-3 / 60)
    area, eotvos = math.pi / 4 * bore**2, 1000 * 9.80665 * bore**2 / 0.072
    slugs = 0.35 * math.sqrt(9.80665 * bore) * (1 - 3.18 / eotvos - 14.77 / eotvos**2)
    j = (air + water) / area
    void = air / area / ((1.2 + 1.05) / 2 * j + (slugs + 0.25) / 2)
    lost = 0.025 / bore * j * j * (1 - void) + 2 * (water / area) ** 2 / (1 - void)
    assert pytest.approx(1 - void + lost / (2 * 9.80665), abs=1e-6) == 0.9
    # Outside it is what it was: Nicklin's slugs under 60 mm, bubbles at 0.25 m/s from 100 mm on.
    bore, air, water = 0.11, 60e-3 / 60, drift_flux_flow(0.11, 1.0, 0.9, 60e-3 / 60)
    area = math.pi / 4 * bore**2
    j = (air + water) / area
    void = air / area / (1.05 * j + 0.25)
    lost = 0.025 / bore * j * j * (1 - void) + 2 * (water / area) ** 2 / (1 - void)
    assert pytest.approx(1 - void + lost / (2 * 9.80665), abs=1e-6) == 0.9


@pytest.mark.parametrize(
    ("bore", "length", "submergence", "air"), [(0.02, 0.33, 0.30, 2), (0.012, 0.9, 0.5, 0.5), (0.012, 0.9, 0.62, 1.2)]
)
def test_a_lift_is_as_doubtful_as_its_models_part(bore, length, submergence, air):
    slug = airlift_flow(bore, length, submergence, air * 1e-3 / 60)
    drift = drift_flux_flow(bore, length, submergence, air * 1e-3 / 60)
    doubt = lift_doubt(bore, length, submergence, air * 1e-3 / 60)
    if slug == 0:
        assert doubt == 0.9
    else:
        assert doubt == pytest.approx(min(max(abs(drift / slug - 1), 0.25), 0.9))


def test_near_its_onset_a_lift_is_hardly_sure_at_all():
    """Where neither model lifts to the mouth nothing is sure; well under water both do, and it is a quarter."""
    doubts = [lift_doubt(0.02, 0.5, s, 1e-3 / 60) for s in (0.15, 0.3, 0.45)]
    assert doubts[0] == 0.9
    assert doubts[-1] == 0.25
    assert doubts == sorted(doubts, reverse=True)
