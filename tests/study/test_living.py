"""The living water of designs: what devices bring to it, weeks of it, what limits and carries."""

from __future__ import annotations

import random
from dataclasses import replace

import numpy as np
import pytest

from designs import design, fed
from devices_of import FILTERS
from fuente.demo.cascade import cascade
from fuente.demo.lantern import lantern
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.demo.trough import trough
from fuente.devices.base import Change, Edit
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply, set_value
from fuente.errors import EntryError, FuenteError
from fuente.life.gas import fall_share, surface_transfer
from fuente.life.heat import evaporation
from fuente.life.inputs import (
    ALKALINITY,
    AMMONIA,
    NITRATE,
    NITRITE,
    OXYGEN,
    SALT,
    TEMPERATURE,
)
from fuente.life.load import ALKALINITY_OF_NITROGEN, NITROGEN_OF_PROTEIN
from fuente.life.nitrifiers import GROWTH
from fuente.life.renewal import NITRATE_ION, batch_share, drip_renews, drip_share
from fuente.network.transport import march
from fuente.study.analysis import Analysis
from fuente.study.filters import add_filter
from fuente.study.known import analysed
from fuente.study.limits import Limits, said, tank_values
from fuente.study.living import LivingWater
from fuente.study.nitrate import MARSH, peak, renewal
from fuente.study.sites import new_site
from fuente.study.warm_days import chiller, warm_days
from fuente.study.weeks import DAY, Start, weeks

DEMOS = [reading_room, nursery, trough, lantern, cascade]


def kept(system, **values):
    """A design with other keeping."""
    return apply(system, Edit("", tuple(Change(("keeping", k), v) for k, v in values.items())))


@pytest.mark.parametrize("make", DEMOS)
def test_what_is_fed_comes_as_ammonia(make):
    """Feed by protein by 0.092, and everything turned over in the long run but what new water takes."""
    study = analysed(make())
    water = LivingWater(study)
    nitrogen = sum(t.fed * t.protein * NITROGEN_OF_PROTEIN for t in study.system.tanks)
    assert water.inputs.ammonia.sum() == pytest.approx(nitrogen)
    y = water.mature()
    living = water.dripping
    first, second = (each.sum() for each in living.turned(y))
    lost = [float((living.inputs.new * living.of(y, k)).sum()) for k in (AMMONIA, NITRITE)]
    assert first + lost[0] == pytest.approx(nitrogen - _plants(living, y, AMMONIA), rel=1e-6)
    assert second + lost[1] == pytest.approx(first, rel=1e-6)
    rates = living.rates(y)[: 8 * living.n + 2 * living.p]
    assert np.abs(rates).max() < 1e-10


def _plants(living, y, what):
    food = living.of(y, AMMONIA) + living.of(y, NITRATE)
    return float((living.inputs.plants / (food + 0.1e-3) * living.of(y, what)).sum())


def test_plants_of_a_bed_take_what_their_card_says():
    study = analysed(trough())
    bed = next(d for d in study.system.devices if d.kind == "plant_bed")
    water = LivingWater(study)
    marsh = 0.4e-3 / DAY * bed.length * bed.width * bed.planted
    assert water.inputs.plants.sum() == pytest.approx(marsh)
    assert {water.water.ids[k] for k in np.flatnonzero(water.inputs.plants)} == {"plants.head", "plants.foot"}


def test_new_water_and_what_is_used_hold_alkalinity():
    """In the long run a share s each T makes a drip of −ln(1 − s)/T: used = brought − taken away."""
    study = analysed(kept(reading_room(), alkalinity=0.3))
    water = LivingWater(study)
    y = water.mature()
    living = water.dripping
    used = ALKALINITY_OF_NITROGEN * living.turned(y)[0].sum()
    drip = living.inputs.new
    assert drip.sum() == pytest.approx(-np.log(0.75) / (7 * DAY) * water.water.volumes[water.tanks["tank"]])
    gone = float((drip * living.of(y, ALKALINITY)).sum())
    dries = water.inputs.dried.sum()  # topped up with new water
    assert 0.3 * (drip.sum() + dries) - gone == pytest.approx(used, rel=1e-5)


def test_falls_and_bubbles_bring_oxygen():
    calm, falls = (LivingWater(analysed(make())) for make in (nursery, reading_room))
    at = falls.water.index
    # Of the reading room's drains the siphon runs full and takes no air; the open one falls 0.8 m with a tenth of the
    # water; over the weir it is a tenth of a metre.
    shares = {k: falls.inputs.falls[:, at[k]].sum() / falls.water.through[at[k]] for k in ("overflow.box", "tank")}
    flow = falls.situation.solution.flow
    open_ = flow["overflow.drain.1"] / falls.water.through[at["overflow.box"]]
    assert shares["overflow.box"] == pytest.approx(open_ * fall_share(0.807, 17.0), rel=0.02)
    assert shares["tank"] == pytest.approx(fall_share(0.097, 17.0), rel=0.02)
    # Bubbles come on top of what turning water takes up through its surface, the covered half of it too.
    for key, k in calm.tanks.items():
        cell = calm.study.network.cell(key)
        plan = cell.open_area / (1 - cell.cover)
        alone = surface_transfer(cell.open_area + 0.5 * (plan - cell.open_area), True, cell.temperature)
        assert 1.05 * alone < calm.inputs.gas[k] < 10 * alone


def test_an_outlet_over_the_water_sprays_air_into_it():
    """Of two equal outlets the one 200 mm over the running level gives half the water air; those under water none."""
    system = reading_room()
    place = next(k for k, d in enumerate(system.devices) if d.kind == "return_line")
    above = analysed(system).running.level["tank"] - analysed(system).network.cell("tank").floor
    high = apply(system, set_value("Raise outlet", ("devices", place, "outlets", 0, "height"), above + 0.2))
    for made, height in ((system, 0.0), (high, 0.2)):
        water = LivingWater(analysed(made))
        at = water.water.index
        pump = water.situation.solution.flow["return.pump"]
        taken = water.inputs.falls[at["tank"], at["sump.pump"]] / pump
        warmth = float(water.water.temperatures[at["sump.pump"]])
        assert taken == pytest.approx(fall_share(height, warmth) / 2 if height else 0.0, rel=0.02)


def test_salt_water_is_salt(demo):
    water = LivingWater(analysed(demo.model_copy(update={"salinity": 35.0})))
    assert water.living.of(water.fresh(), SALT)[0] == pytest.approx(35.8, rel=0.01)
    assert water.inputs.salinity == 35.0


def test_without_current_nothing_heats(demo):
    study = analysed(demo)
    cut = LivingWater(study, study.situation("power_cut"))
    assert not cut.inputs.heaters
    assert cut.inputs.watts.sum() == 0
    assert LivingWater(study).inputs.watts.sum() == pytest.approx(sum(d.warms for d in demo.devices))


def test_a_power_cut_goes_on_from_what_had_grown(demo):
    """Films and water stay; oxygen falls, first where the foam stands, and the heat goes."""
    made = weeks(analysed(demo), 2.0, Start("mature"), "power_cut", every=600.0)
    grown = made.values[0][made.water.living.grown_a]
    assert (grown > 100 * GROWTH.seed).all()
    before = LivingWater(analysed(demo))
    state = before.mature()
    assert grown == pytest.approx(state[before.living.grown_a], rel=1e-6)
    assert grown[0] != pytest.approx(grown[1], rel=0.05)  # each where it grew
    assert made.values[0][made.water.living.grown_n] == pytest.approx(state[before.living.grown_n], rel=1e-6)
    tank, foam = made.of(OXYGEN, "tank"), made.of(OXYGEN, "sump.foam.0")
    assert (np.diff(tank) < 1e-7).all()
    assert made.times[np.flatnonzero(foam < 0.5e-3)[0]] < 3 * 3600
    assert tank[made.times == 3 * 3600][0] > 7e-3
    assert made.of(TEMPERATURE, "tank")[-1] < made.of(TEMPERATURE, "tank")[0]


def test_half_of_the_gas_is_half_of_the_air(demo):
    study = analysed(demo)
    assert LivingWater(study, gas=0.5).inputs.gas == pytest.approx(0.5 * LivingWater(study).inputs.gas)


# -- weeks ---------------------------------------------------------------------------------------------------------


def test_ammonia_without_animals_is_dosed_until_it_holds(demo):
    made = weeks(analysed(demo), 84.0, Start("fishless", dose=2e-3))
    assert made.ready is not None
    assert 21 * DAY < made.ready < 70 * DAY
    whole = made.water.water.volumes.sum()
    assert sum(made.doses[0][1].values()) == pytest.approx(2e-3 * whole, rel=1e-6)
    # Dosed when a quarter was left, never over a dose and a half of nitrite, and at last once a day.
    times = [when for when, _ in made.doses]
    assert times[-1] == pytest.approx(made.ready - DAY)
    for when in times[1:]:
        i = int(np.searchsorted(made.times, when))
        assert made.of(AMMONIA, "tank")[i - 1] < 1.2e-3
        assert made.of(NITRITE, "tank")[i - 1] < 3.6e-3
    after = made.times > made.ready + DAY
    assert made.of(AMMONIA, "tank")[after].max() < demo.keeping.ammonia_limit


def test_media_moved_over_shorten_it_and_a_full_film_saves_it(demo):
    study = analysed(demo)
    bare, some, much = (weeks(study, 84.0, Start("seeded", moved=m)).ready for m in (1e-6, 1e-3, 0.2))
    assert bare > some > much
    assert much == 0.0


def test_light_feeding_keeps_the_peaks_low(demo):
    study = analysed(demo)
    ramped = weeks(study, 98.0, Start("fish"))
    at_once = weeks(study, 98.0, Start("seeded", moved=GROWTH.seed))
    assert ramped.of(AMMONIA, "tank").max() < 0.6 * at_once.of(AMMONIA, "tank").max()
    fed = ramped.water.living.sum_of(ramped.values, "nitrogen fed")
    assert np.diff(fed)[-1] > 20 * np.diff(fed)[0]


def test_alkalinity_that_runs_out_is_renewed_while_dosing(demo):
    """Soft water, 60 mg/L: half is changed on the way, where it would fall under 40."""
    made = weeks(analysed(kept(demo, alkalinity=0.065)), 84.0, Start("fishless"))
    until = made.ready or made.times[-1]
    assert [c for c in made.changes if c < until]
    assert made.of(ALKALINITY, "tank")[made.times <= until].min() > 0.02


def test_the_whole_of_a_start_is_accounted_for(demo):
    """What was dosed, fed and renewed, to 1e-8, over the change from dosing to feeding."""
    made = weeks(analysed(demo), 60.0, Start("fishless"))
    living = made.water.living

    def passed(name):
        return float(living.sum_of(made.values[-1], name))

    gain = sum(living.stored(made.values[-1], k) - living.stored(made.values[0], k) for k in (0, 1, 2))
    first = sum(made.doses[0][1].values())  # the first state has it already
    moved = passed("nitrogen fed") + passed("nitrogen in") - passed("nitrogen out") - first
    assert gain == pytest.approx(moved, abs=1e-8 * passed("nitrogen in"))


@pytest.mark.parametrize("days", [0.0, 4000.0])
def test_time_has_limits(demo, days):
    with pytest.raises(EntryError, match="ten years"):
        weeks(analysed(demo), days)


# -- limits --------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("make", DEMOS)
def test_at_the_feed_that_is_carried_a_limit_is_met(make):
    """A tank stands at a limit there, under it with a twentieth less, over it with a twentieth more."""
    study = analysed(make())
    limits = Limits(study)
    carried, keeping = limits.carries, study.system.keeping

    def over(feed):
        water = limits.water(feed / limits.base.fed)
        living = replace_ph(water.dripping)
        from fuente.network.resting import rest

        y = rest(living, carried.values, slice(0, living.sums.start), 1e4)
        tanks = list(water.tanks.values())
        return max(
            living.of(y, AMMONIA)[tanks].max() / keeping.ammonia_limit,
            living.of(y, NITRITE)[tanks].max() / keeping.nitrite_limit,
            2 - living.of(y, OXYGEN)[tanks].min() / keeping.oxygen_limit,
        )

    assert over(carried.feed) == pytest.approx(1.0, abs=1e-4)
    assert over(0.95 * carried.feed) < 0.999
    assert over(1.05 * carried.feed) > 1.001


def replace_ph(living):
    """With the pH kept."""
    from fuente.life.reactor import Living

    return Living(living.water, living.cells, living.areas, replace(living.inputs, kept_ph=True))


@pytest.mark.parametrize("seed", [0, 5, 15, 24])
def test_a_design_that_nobody_tuned_stands_at_its_limit_after_years(seed):
    """Followed in time, fed with what it is said to carry; the last is a tank in which nothing lives."""
    limits = Limits(Analysis(fed(design(seed)[1], random.Random(seed), planted=False)))
    if seed == 24:
        assert not limits.known
        return
    most, keeping = limits.carries, limits.study.system.keeping
    living = limits.living.fed(most.feed / limits.base.fed)
    y = march(living, limits.now, [0.0, 730 * 86400.0]).values[-1]
    stands = {
        "nitrite": tank_values(limits.base, y, NITRITE)[most.tank] / keeping.nitrite_limit,
        "oxygen": tank_values(limits.base, y, OXYGEN)[most.tank] / keeping.oxygen_limit,
    }
    assert most.what == ("nitrite" if seed == 5 else "oxygen")
    assert stands[most.what] == pytest.approx(1.0, abs=0.01)


@pytest.mark.parametrize("make", [lantern, nursery])
def test_what_is_carried_is_found_from_far_beyond_it(make):
    """Fed a hundred times as much, the water has gone over; what it could carry is the same."""
    system = make()
    much = apply(system, Edit("", tuple(Change((*t.path, "feed"), 100 * t.fed) for t in system.tanks)))
    usual, gone = Limits(analysed(system)), Limits(analysed(much))
    assert gone.base.fed > gone.carries.feed
    assert gone.carries.feed == pytest.approx(usual.carries.feed, rel=1e-4)
    assert all(p.limit != "ammonia" for p in gone.paces)


def test_what_would_matter_is_found_by_doing_it(demo):
    """Half more of every surface carries what the gains say, within 2 %."""
    limits = Limits(analysed(demo))
    plain = limits.carries.feed
    more = Limits(analysed(demo))
    base = more.living
    from fuente.life.reactor import Living

    more.__dict__["living"] = Living(base.water, base.cells, 1.5 * base.areas, base.inputs)
    gains = sum(p.most * (1 + p.gains["surface"]) for p in limits.paces) / sum(p.most for p in limits.paces)
    assert more.carries.feed / plain == pytest.approx(gains, rel=0.02)


def test_little_flow_is_told_and_much_is_not(demo):
    """A tenth of the water through the same media: contact matters then, and hardly before."""
    limits = Limits(analysed(demo))
    base = limits.living
    from fuente.life.reactor import Living

    slow = Limits(analysed(kept(demo, oxygen_limit=1e-3)))
    water = replace(base.water, flows=0.02 * base.water.flows)
    inputs = replace(base.inputs, falls=0.02 * base.inputs.falls)
    slow.__dict__["living"] = Living(water, base.cells, base.areas, inputs)
    gains = [p.gains["contact"] for p in slow.paces]
    assert max(gains) > 0.4
    assert slow.carries.feed < 0.5 * limits.carries.feed


def test_where_air_is_short_oxygen_sets_the_pace():
    """The nursery's tubs at their limit wait for oxygen; with the stock that there is, for ammonia."""
    paces = Limits(analysed(nursery())).paces
    assert {p.limit for p in paces} == {"ammonia"}
    assert all(p.gains["oxygen"] > 3 * p.gains["surface"] for p in paces if p.place.device.startswith("sponge"))
    words = said(paces[1])
    assert "waits for ammonia" in words
    assert "full of oxygen" in words


def test_with_one_filter_out_the_other_carries_less():
    study = analysed(cascade())
    whole = Limits(study).carries.feed
    for key in ("upper", "lower"):
        assert Limits(study, without=(key,)).carries.feed < whole


def test_alkalinity_lasts_for_what_its_change_brings(demo):
    """By hand: (150 − 40) mg/L a drip of −ln(0.75)/7 a day of the tank, over 7.05 · 0.092 · protein."""
    limits = Limits(analysed(demo))
    tank = demo.tanks[0]
    drip = -np.log(0.75) / (7 * DAY) * limits.base.water.volumes[limits.base.tanks["tank"]]
    by_hand = 0.11 * drip / (ALKALINITY_OF_NITROGEN * NITROGEN_OF_PROTEIN * tank.protein)
    assert limits.alkalinity_lasts == pytest.approx(by_hand, rel=0.01)


def test_nothing_fed_is_said(demo):
    bare = apply(demo, set_value("", ("devices", "tank", "feed"), 0.0))
    bare = apply(bare, set_value("", ("devices", "tank", "heads"), 0))
    limits = Limits(analysed(bare))
    assert not limits.known
    with pytest.raises(FuenteError, match="No feed"):
        limits.carries  # noqa: B018


# -- nitrate and warmth --------------------------------------------------------------------------------------------


def test_changes_by_hand():
    """A gram of nitrogen a week in 100 L."""
    made = 1e-3 / (7 * DAY)
    assert batch_share(made, 0.1, 7 * DAY, 20e-3, 0.0) == pytest.approx(0.5)
    assert batch_share(made, 0.1, 7 * DAY, 20e-3, 10e-3) == pytest.approx(1.0)
    assert drip_share(made, 0.1, 20e-3, 0.0) == pytest.approx(0.5 / 7)
    assert drip_renews(0.0) == 0.0
    assert drip_renews(0.1) == pytest.approx(0.09516, abs=1e-5)
    assert batch_share(made, 0.1, 7 * DAY, 5e-3, 5e-3) == np.inf


@pytest.mark.parametrize("make", [reading_room, trough, lantern])
def test_the_renewal_that_is_said_holds_the_limit(make):
    """Followed over weeks from what it says it ends at, with the share that it says: at the limit, within 3 %."""
    found = renewal(analysed(make()))
    system = kept(make(), share=min(found.share, 1.0))
    study = analysed(system)
    assert peak(study) == pytest.approx(system.keeping.nitrate_limit, rel=1e-6)
    made = weeks(study, 7 * 52.0, Start("mature"), every=DAY / 2)
    tank = system.tanks[0].id
    last = made.of(NITRATE, tank)[made.times > made.times[-1] - 7.5 * DAY].max() * NITRATE_ION
    # The small part that is not nitrate yet, and what plants leave when little is there.
    assert last == pytest.approx(system.keeping.nitrate_limit, rel=0.05)


def test_plants_that_are_said_take_what_changes_leave(demo):
    found = renewal(analysed(demo))
    tank = demo.tanks[0]
    water = LivingWater(analysed(demo))
    volume = water.water.volumes[water.tanks["tank"]]
    made = tank.fed * tank.protein * NITROGEN_OF_PROTEIN
    gone = 0.25 * volume * (40e-3 - 5e-3) / NITRATE_ION / (7 * DAY)
    assert found.plants * MARSH == pytest.approx(made - gone, rel=1e-6)


def test_warmth_in_its_cases(demo):
    """Stuck on it ends over what is kept, dead under it; the card's steady figures within a degree."""
    cases = {c.name: c.tanks["tank"] for c in warm_days(analysed(demo), days=20.0)}
    assert list(cases) == [
        "coldest room",
        "one stuck on",
        "as one large, stuck on",
        "one dead, coldest room",
        "all dead, coldest room",
        "warmest room",
        "the same with a fan",
    ]
    steady = analysed(demo).warmth("tank")
    assert cases["one stuck on"][-1] == pytest.approx(steady.one_stuck, abs=1.0)
    assert cases["all dead, coldest room"][-1] == pytest.approx(steady.all_dead, abs=1.0)
    assert cases["one dead, coldest room"][-1] == pytest.approx(min(steady.one_dead, steady.kept), abs=1.0)
    assert cases["coldest room"][-1] == pytest.approx(min(steady.kept, steady.reached), abs=0.3)
    assert cases["all dead, coldest room"][-1] < cases["one dead, coldest room"][-1] < cases["one stuck on"][-1]
    assert cases["as one large, stuck on"][-1] > cases["one stuck on"][-1] + 1.0
    assert cases["warmest room"][-1] - 4 < cases["the same with a fan"][-1] < cases["warmest room"][-1] - 0.5


def test_the_warmest_room_by_hand(demo):
    """In the end heat in is heat out: room and watts over losses; a fan takes 1.76 times what evaporates still."""
    study = analysed(demo)
    water = LivingWater(study)
    cases = {c.name: c for c in warm_days(study, days=30.0)}
    loses, watts = water.inputs.loses.sum(), water.inputs.watts.sum()
    # What dries is topped up with water of 18 °C.
    dries = 4.17e6 * water.inputs.dried.sum()
    ends = (loses * 28.0 + watts + dries * 18.0) / (loses + dries)
    assert cases["warmest room"].tanks["tank"][-1] == pytest.approx(ends, abs=0.25)
    cell = study.network.cell("tank")
    still = evaporation(cell.open_area, 26.0, 28.0, study.space.humidity) * 998.2 * 2.45e6
    cooler = (0.0782 * 2.0 / 0.089) * still / (loses + dries)
    gap = cases["warmest room"].tanks["tank"][-1] - cases["the same with a fan"].tanks["tank"][-1]
    assert gap == pytest.approx(cooler, rel=0.1)
    hours = cases["warmest room"].hours_off("tank", 3.0)
    values = cases["warmest room"].tanks["tank"]
    assert values[int(hours)] - values[0] >= 3.0 > values[int(hours) - 1] - values[0]
    assert cases["coldest room"].hours_off("tank") is None
    temperatures = water.water.temperatures
    assert chiller(study) == pytest.approx(float((water.inputs.loses * (28.0 - temperatures)).sum() + watts))


def test_one_heater_is_shown_as_two_small(demo):
    """Half of the watts stuck on, the other half on its thermostat: never as warm as all of it stuck on."""
    one = apply(demo, set_value("", ("devices", "sump", "chambers", 4, "heaters"), 1))
    cases = {c.name: c for c in warm_days(analysed(one))}
    assert cases["as two small, one stuck on"].other
    assert cases["as two small, one stuck on"].tanks["tank"][-1] < cases["one stuck on"].tanks["tank"][-1] - 1.0


def test_a_drip_of_the_design_renews_its_water(demo):
    """A drip of 20 L a day on the mains with an overflow to waste: nitrate stands at new + made/Q, warmth is kept."""
    from fuente.devices.top_up.spec import TopUp

    drip = TopUp(id="fresh", source="drip", drip=0.02 / DAY, into="sump", waste=True, waste_mouth=0.2)
    system = kept(demo, share=0.0)
    system = apply(system, Edit("", (Change(("devices", "fresh"), drip),)))
    study = analysed(system)
    water = LivingWater(study)
    assert water.water.fresh.sum() == pytest.approx(0.02 / DAY, rel=1e-6)
    assert water.water.flows.sum() == pytest.approx(-0.02 / DAY, rel=1e-3)
    y = water.mature()
    made = float(water.inputs.ammonia.sum())
    # A little comes with what dries and is topped up.
    dries = float(water.inputs.dried.sum())
    stands = (5e-3 / NITRATE_ION * (0.02 / DAY + dries) + made) * DAY / 0.02
    assert water.living.of(y, NITRATE)[water.tanks["tank"]] == pytest.approx(stands, rel=0.03)
    assert water.living.of(y, TEMPERATURE)[water.tanks["tank"]] > 16.5


def test_what_dries_leaves_salt_and_brings_none(demo):
    water = LivingWater(analysed(demo.model_copy(update={"salinity": 35.0})))
    assert water.inputs.dried.sum() == pytest.approx(water.study.evaporation_rate(), rel=1e-6)
    y = water.mature()
    assert water.living.of(y, SALT)[water.tanks["tank"]] == pytest.approx(35.8, rel=0.01)


def test_gravel_counts_by_the_rule_that_counts_it(demo):
    """30 mm of it at most: 800 m²/m³ of what ten litres of solids fill, or of the plan."""
    gravel = apply(demo, set_value("", ("devices", "tank", "gravel"), 0.01))
    assert all(p.cell != "tank" for p in LivingWater(analysed(gravel)).places)
    counted = apply(gravel, set_value("", ("schools", "substrate"), "counts"))
    (place,) = [p for p in LivingWater(analysed(counted)).places if p.cell == "tank"]
    assert place.area == pytest.approx(800 * 0.01 / 0.6)
    deep = apply(counted, set_value("", ("devices", "tank", "gravel"), 0.05))
    tank = deep.tanks[0]
    (place,) = [p for p in LivingWater(analysed(deep)).places if p.cell == "tank"]
    assert place.area == pytest.approx(800 * 0.03 * tank.inner_length * tank.inner_width)
    # It uses the tank's oxygen: where that is not what counts, more is carried.
    airy = [Limits(analysed(kept(s, oxygen_limit=0.6e-3))).carries.feed for s in (gravel, counted)]
    assert airy[1] > 1.05 * airy[0]


def test_warmth_that_would_matter_is_said_in_either_unit(demo):
    from fuente.units import UnitSystem

    pace = replace_gains(Limits(analysed(demo)).paces[0], temperature=0.2)
    assert "3 °C more would carry" in said(pace)
    assert "5 °F more would carry" in said(pace, UnitSystem.US)


def replace_gains(pace, **gains):
    """A pace whose other needs would do nothing."""
    return pace._replace(gains={**dict.fromkeys(pace.gains, 0.0), **gains}, limit="temperature")


# -- porous cores -------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("own", [False, True])
def test_porous_cores_take_a_little_nitrate_by_the_rule_that_counts_them(own):
    """Sintered glass: 2 500 m² of core in a cubic metre, 2 mg of nitrogen a day from each."""
    bare = System(devices=(Tank(length=1.2, width=0.5, height=0.5, stand=0.9, feed=3e-3 / DAY),))
    spec = FILTERS["canister"].first(new_site(bare, "tank"))
    layers = (spec.layers[0].model_copy(update={"medium": "glass", "thickness": 0.15}),)
    spec = spec.model_copy(update={"layers": layers})
    system = apply(bare, add_filter(bare, spec))
    placed = next(d for d in system.devices if d.kind == "canister")
    plain = LivingWater(analysed(system))
    path = (*placed.path, "schools", "surface") if own else ("schools", "surface")
    after = LivingWater(analysed(apply(system, set_value("x", path, "core")))).inputs.anoxic.sum()
    outer = sum(p.area for p in plain.places)  # 400 m² of outer surface in a cubic metre, less what water passes by
    assert plain.inputs.anoxic.sum() == 0.0
    assert after * 86400e6 == pytest.approx(2 * outer * 2500 / 400, rel=1e-6)


def test_carriers_have_no_core():
    system = apply(nursery(), set_value("x", ("schools", "surface"), "core"))
    assert LivingWater(analysed(system)).inputs.anoxic.sum() == 0.0
