"""Living water against what is written down apart: balances, limits by hand, slopes, and a solver of another kind."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from fuente.life.inputs import (
    ALKALINITY,
    AMMONIA,
    CARRIED,
    NITRATE,
    NITRITE,
    OXYGEN,
    SALT,
    TEMPERATURE,
    TRACER,
    Inputs,
)
from fuente.life.nitrifiers import GROWTH
from fuente.life.reactor import Living
from fuente.network.resting import rest
from fuente.network.transport import Stirred, march
from fuente.water.properties import HEAT_CAPACITY, free_ammonia_fraction, oxygen_saturation

HOUR, DAY = 3600.0, 86400.0


def alone(volume=0.3, area=0.0, **inputs) -> Living:
    """One stirred tank."""
    water = Stirred(("tank",), np.array([volume]), np.zeros((1, 1)), np.array([25.0]))
    cells = np.array([0] if area else [], dtype=int)
    arrays = {k: np.array([v]) if k in Inputs.arrays() else v for k, v in inputs.items()}
    return Living(water, cells, np.array([area] if area else []), Inputs.none(1, **arrays))


def random_water(seed: int) -> tuple[Living, np.ndarray]:
    """A closed ring with side loops, everything happening somewhere in it; and a state."""
    random = np.random.default_rng(seed)
    n = int(random.integers(2, 7))
    flows = np.zeros((n, n))
    for _ in range(2):
        ring = random.permutation(n)
        flow = 10 ** random.uniform(-5, -3)
        for a, b in zip(ring, np.roll(ring, -1), strict=True):
            flows[a, a] -= flow
            flows[b, a] += flow
    water = Stirred(tuple("abcdefg"[:n]), 10 ** random.uniform(-2, 0, n), flows, np.full(n, 24.0))

    def some(size: float) -> np.ndarray:
        return np.where(random.random(n) < 0.5, size * random.uniform(0.2, 1, n), 0.0)

    inputs = Inputs.none(
        n,
        ammonia=some(4e-9),
        breathing=some(4e-8),
        gas=np.full(n, 2e-5),
        falls=np.where(flows > 0, 0.3 * flows, 0.0),
        loses=some(8.0),
        watts=some(20.0),
        new=some(2e-7),
        dried=some(2e-8),
        plants=some(2e-10),
        plant_oxygen=some(40.0),
        plant_breath=some(1e-8),
        anoxic=some(2e-10),
        carbon=some(1e-7),
        heaters=((0, 100.0, 25.0),),
        salinity=float(random.choice([0.0, 35.0])),
    )
    cells = random.integers(0, n, 3)
    living = Living(water, cells, random.uniform(0.5, 6, 3), inputs)
    y = living.start(
        ammonia=1e-3, nitrite=4e-4, nitrate=6e-3, oxygen=6e-3, alkalinity=0.2, salt=2.0, tracer=1e-3, temperature=24.8
    )
    grown = random.uniform(0.01, 0.3, 6)
    y[living.grown_a], y[living.grown_n] = grown[:3], grown[3:]
    return living, y


def closes(living: Living, first: np.ndarray, last: np.ndarray) -> dict[str, float]:
    """How far each balance is off, of what has moved or is there."""

    def more(*what: int) -> float:
        return sum(living.stored(last, k) - living.stored(first, k) for k in what)

    def passed(name: str) -> float:
        return float(living.sum_of(last, name) - living.sum_of(first, name))

    def off(name: str, gain: float, come: list[str], gone: list[str], there: float) -> float:
        moved = sum(map(passed, come)) - sum(map(passed, gone))
        size = there + sum(abs(passed(k)) for k in (*come, *gone))
        return abs(gain - moved) / size

    return {
        "nitrogen": off(
            "nitrogen",
            more(AMMONIA, NITRITE, NITRATE),
            ["nitrogen fed", "nitrogen in"],
            ["nitrogen out", "nitrogen taken", "nitrogen gassed"],
            living.stored(first, NITRATE),
        ),
        "oxygen": off(
            "oxygen",
            more(OXYGEN),
            ["oxygen in", "oxygen from air", "oxygen from plants"],
            ["oxygen out", "oxygen breathed", "oxygen nitrified"],
            living.stored(first, OXYGEN),
        ),
        "alkalinity": off(
            "alkalinity",
            more(ALKALINITY),
            ["alkalinity in"],
            ["alkalinity out", "alkalinity used"],
            living.stored(first, ALKALINITY),
        ),
        "salt": off("salt", more(SALT), ["salt in"], ["salt out"], living.stored(first, SALT)),
        "tracer": off(
            "tracer", more(TRACER), ["tracer in"], ["tracer out", "tracer taken"], living.stored(first, TRACER)
        ),
        "heat": off(
            "heat",
            more(TEMPERATURE),
            ["heat in", "heat made"],
            ["heat out", "heat lost"],
            living.stored(first, TEMPERATURE),
        ),
    }


@given(st.integers(0, 10**6))
def test_everything_is_accounted_for(seed):
    """Nitrogen, oxygen, alkalinity, salt, a tracer and heat, to 1e-8, with a change of water and a dose on the way."""
    living, y = random_water(seed)
    jumps = [
        (3 * DAY, lambda z: living.changed(z, [0, 1], 0.3)),
        (5 * DAY, lambda z: living.dosed(z, 0, AMMONIA, 1e-4)),
    ]
    made = march(living, y, np.linspace(0, 12 * DAY, 25), jumps)
    for what, off in closes(living, y, made.values[-1]).items():
        assert off < 1e-8, what
    assert (made.values[:, ~living.signed] >= 0).all()


@given(st.integers(0, 10**6))
def test_slopes_are_those_of_the_rates(seed):
    """By differences of every value, 0.1 %."""
    from scipy.sparse import coo_matrix

    living, y = random_water(seed)
    made = coo_matrix((living.slopes(y), living.entries), shape=(living.size, living.size)).toarray()
    for k in range(living.sums.start):
        step = 1e-5 * max(abs(y[k]), 1e-6)
        up, down = y.copy(), y.copy()
        up[k] += step
        down[k] -= step
        by_hand = (living.rates(up) - living.rates(down)) / (2 * step)
        assert made[:, k] == pytest.approx(by_hand, rel=1e-3, abs=1e-6 * np.abs(by_hand).max() + 1e-15), k


@pytest.mark.parametrize("seed", range(3))
def test_as_another_solver_follows_it(seed):
    """Sixty days from bare surfaces by Radau at 1e-8: 0.1 % of each one's largest value."""
    living, _ = random_water(seed)
    y = living.start(ammonia=2e-3, oxygen=7e-3, alkalinity=0.2, salt=1.0, tracer=1e-3, temperature=24.0)
    times = np.arange(0, 60 * DAY, 6 * HOUR)
    ours = march(living, y, times).values
    far = slice(0, living.sums.start)

    def rates(_, z):
        whole = y.copy()
        whole[far] = z
        return living.rates(whole)[far]

    theirs = solve_ivp(rates, (0, times[-1]), y[far], method="Radau", rtol=1e-7, atol=1e-12, t_eval=times).y.T
    for k, name in enumerate(CARRIED):
        a, b = living.of(ours, k), theirs[:, k * living.n : (k + 1) * living.n]
        assert np.abs(a - b).max() < 1e-3 * np.abs(b).max(), name


def test_plants_give_oxygen_by_what_they_take():
    """A tank that only plants and air change: K·(C − saturation) is the oxygen of the nitrogen that they take."""
    takes, gas, ratio = 0.3e-3 / DAY, 4e-5, 35.0
    living = alone(0.2, plants=takes, plant_oxygen=ratio, gas=gas)
    y = living.start(nitrate=50e-3, temperature=25.0)
    made = march(living, y, [0.0, 20 * DAY])
    nitrate = living.of(made.values[-1], NITRATE)[0]
    taken = living.sum_of(made.values[-1], "nitrogen taken")
    assert living.sum_of(made.values[-1], "oxygen from plants") == pytest.approx(ratio * taken, rel=1e-6)
    assert nitrate == pytest.approx(50e-3 - taken / 0.2, rel=1e-6)
    full = 1e-3 * oxygen_saturation(25.0, 0.0)
    lit = takes * nitrate / (nitrate + 0.1e-3) * ratio / gas
    assert living.of(made.values[-1], OXYGEN)[0] - full == pytest.approx(lit, rel=0.01)


def test_a_drip_renews_less_than_its_share():
    """5 % of a volume a day for a week: nitrate from 30 to 30·e^(−0.35), not 30·0.65."""
    living = alone(0.2, new=0.05 * 0.2 / DAY)
    y = living.start(nitrate=30e-3)
    made = march(living, y, [0.0, 7 * DAY])
    assert living.of(made.values[-1], NITRATE)[0] == pytest.approx(30e-3 * np.exp(-0.35), rel=1e-3)


def test_batches_end_at_their_own_steady_peak():
    """Nitrogen made at P a day and a share s changed every T: peak P·T/s before a change."""
    made_a_day, share = 50e-6, 0.25
    living = alone(0.2, ammonia=made_a_day / DAY, area=40.0, gas=1e-2, kept_ph=True)
    y = rest(with_new(living, share * 0.2 / 7 / DAY), living.start(grown=0.1), slice(0, living.sums.start))
    jumps = [(7 * DAY * k, lambda z: living.changed(z, [0], share)) for k in range(1, 60)]
    made = march(living, y, [0.0, 7 * DAY * 59], jumps)
    peak = sum(living.of(made.values[-1], k)[0] for k in (AMMONIA, NITRITE, NITRATE))
    assert peak == pytest.approx(made_a_day * 7 / share / 0.2, rel=5e-3)


def with_new(living: Living, flow: float) -> Living:
    """The same on a drip in m³/s."""
    inputs = replace(living.inputs, new=np.array([flow]))
    return Living(living.water, living.cells, living.areas, inputs)


def test_the_steady_film_works_as_fast_as_it_dies():
    """At rest Monod's factor is decay over growth, so ammonia stands at half·d/(g − d) whatever is fed."""
    lean = GROWTH.decay_a / GROWTH.grow_a
    cold = np.array([0, 0, 0, 8e-3, 0.15, 0, 0, 18.0])
    for load in (1e-10, 3e-10):
        living = with_new(alone(0.2, 5.0, ammonia=load, gas=1.0, brings=cold, kept_ph=True), 1e-9)
        y = living.start(oxygen=9e-3, temperature=18.0, grown=0.1)
        found = rest(living, y, slice(0, living.sums.start))
        grown = found[living.grown_a][0]
        factor = lean / (1 - grown)
        # Free ammonia at pH 7.5 and plenty of oxygen take a little off.
        assert living.of(found, AMMONIA)[0] == pytest.approx(GROWTH.half_a * factor / (1 - factor), rel=0.02)
        turned = living.turned(found)[0][0]
        assert turned == pytest.approx(load, rel=1e-3)
        assert turned == pytest.approx(5.0 * GROWTH.most_a * grown * factor, rel=1e-3)


def test_oxygen_goes_to_where_the_air_holds_it():
    """Breathing against a surface: saturation − use/(K·A) in the end."""
    living = alone(0.2, breathing=1e-8, gas=2e-5, brings=np.array([0, 0, 0, 8e-3, 0.1, 0, 0, 20.0]))
    made = march(living, living.start(temperature=20.0), [0.0, 5 * DAY])
    found = living.of(made.values[-1], OXYGEN)[0]
    breath = 1e-8 * found / (found + 0.5e-3)
    assert found == pytest.approx(oxygen_saturation(20.0) * 1e-3 - breath / 2e-5, rel=1e-4)


def test_warmth_falls_by_its_own_time():
    """No heater: T − room falls by e^(−UA·t/C)."""
    living = alone(0.2, loses=12.0, room=16.0)
    made = march(living, living.start(temperature=25.0), np.linspace(0, 3 * DAY, 7))
    wanted = 16 + 9 * np.exp(-12.0 / (0.2 * HEAT_CAPACITY) * made.times)
    assert living.of(made.values, TEMPERATURE)[:, 0] == pytest.approx(wanted, abs=2e-3)


def test_a_thermostat_holds_and_a_small_heater_does_not():
    kept = alone(0.2, loses=12.0, room=16.0, heaters=((0, 200.0, 25.0),))
    found = march(kept, kept.start(temperature=20.0), [0.0, 9 * DAY]).values[-1]
    assert kept.of(found, TEMPERATURE)[0] == pytest.approx(25.0, abs=0.1)
    weak = alone(0.2, loses=12.0, room=16.0, heaters=((0, 60.0, 25.0),))
    found = march(weak, weak.start(temperature=20.0), [0.0, 30 * DAY]).values[-1]
    assert weak.of(found, TEMPERATURE)[0] == pytest.approx(16 + 60 / 12, abs=0.05)


def start_up(seed=GROWTH.seed, temperature=25.0, ammonia=2e-3, ph=7.5, days=90.0):
    """One dose over bare media, and nothing else: when ammonia is down to a tenth, and nitrite."""
    growth = replace(GROWTH, seed=seed)
    living = alone(0.3, 10.0, gas=1e-3, ph=ph, buffer=0.3, kept_ph=True, growth=growth)
    y = living.start(ammonia=ammonia, temperature=temperature, oxygen=8e-3, alkalinity=0.3)
    times = np.arange(0, days * DAY, 6 * HOUR)
    made = march(living, y, times).values
    a, n = living.of(made, AMMONIA)[:, 0], living.of(made, NITRITE)[:, 0]
    gone = np.flatnonzero(a < 0.1 * ammonia)
    late = np.flatnonzero((n < 0.1 * ammonia) & (times > times[n.argmax()]))
    return (
        times[n.argmax()] / DAY,
        times[gone[0]] / DAY if gone.size else np.inf,
        times[late[0]] / DAY if late.size else np.inf,
    )


def test_weeks_and_their_order():
    """Ammonia first, then nitrite, within two to seven weeks at 25 °C from bare surfaces; ±50 % is what is claimed."""
    peak, ammonia, nitrite = start_up()
    assert ammonia < nitrite
    assert 10 < peak < 40
    assert 14 < nitrite < 49


def test_seed_cold_and_free_ammonia():
    _, _, bare = start_up()
    _, _, seeded = start_up(seed=1e-3)
    _, _, cold = start_up(temperature=16.0)
    assert seeded < bare < cold
    # A seed a thousand times larger saves the time in which a group grows a thousandfold.
    net = 0.55 * 1.07**7 * 2.0 / 2.67 - 0.04 * 1.07**7
    assert start_up()[1] - start_up(seed=1e-3)[1] == pytest.approx(np.log(1000) / net, rel=0.1)


def test_nitrite_oxidisers_stand_still_in_free_ammonia():
    """8 mg/L at pH 8.6 and 25 °C are over 1 mg/L free; 8 mg/L at pH 7 are not: three weeks with nitrite to live on."""
    assert free_ammonia_fraction(8.6, 25.0) * 8 > 1.0
    grown = {}
    for ph in (7.0, 8.6):
        living = alone(10.0, 0.01, gas=1.0, ph=ph, buffer=0.3, kept_ph=True)
        y = living.start(ammonia=8e-3, nitrite=2e-3, temperature=25.0, oxygen=8e-3, alkalinity=0.3)
        grown[ph] = march(living, y, [0.0, 21 * DAY]).values[-1][living.grown_n][0] / GROWTH.seed
    assert grown[7.0] > 1000
    assert grown[8.6] < 10


def test_what_grew_dies_back_without_food():
    """Half of a film in ln 2 over the decay, 17 days at 18 °C."""
    living = alone(0.3, 5.0)
    y = living.start(grown=0.5, temperature=18.0, ammonia=0.0)
    made = march(living, y, [0.0, np.log(2) / GROWTH.decay_a])
    assert made.values[-1][living.grown_a][0] == pytest.approx(0.25, rel=1e-3)
