"""Filters in the document: added, duplicated, chained, taken out; their air set; floods foreseen and mended; own media;
load.
"""

from __future__ import annotations

import math

import pytest

from devices_of import FILTERS, air_supplies
from fuente.catalogue import stock
from fuente.demo.cascade import cascade
from fuente.demo.lantern import lantern
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.demo.trough import trough
from fuente.devices.air_supply.plans import plan_air, pump_for, valves_edit
from fuente.devices.base import Change, Edit, Rank
from fuente.devices.filtering import by_school
from fuente.devices.schools import QUESTIONS
from fuente.devices.tank.spec import Tank
from fuente.document.media import OwnMedium, add_own, brought, change_own, remove_own, uses_of
from fuente.document.system import System, apply, set_value
from fuente.errors import EntryError, FuenteError
from fuente.findings import findings
from fuente.life.compare import compare
from fuente.life.load import ammonia_made, live_weight
from fuente.study.analysis import Analysis
from fuente.study.filters import (
    add_filter,
    add_to_many,
    duplicate,
    take_out,
)
from fuente.study.loads import loads
from fuente.study.schools import effects
from fuente.study.sites import new_site
from fuente.units import UnitSystem

DAY, LPM = 86400.0, 1e-3 / 60


def codes(system):
    return {f.code: f for f in findings(Analysis(system))}


def made(kind, system, tank="tank"):
    return FILTERS[kind].first(new_site(system, tank))


def test_a_first_filter_on_air_brings_its_pump_and_a_second_shares_it():
    bare = System(devices=(Tank(stand=0.5, height=0.4, length=0.8, width=0.35),))
    one = apply(bare, add_filter(bare, made("sponge", bare)))
    assert len(air_supplies(one)) == 1
    two = apply(one, add_filter(one, made("bottle_bed", one)))
    assert [d.to for d in air_supplies(two)[0].drops] == ["sponge", "bottles"]
    analysis = Analysis(two)
    group = analysis.airs["air"]
    air = group.air([analysis.running.level[c] for c in group.cells])
    got = dict(zip((d.lift.owner for d in group.supply.drops), air, strict=False))
    assert got["bottles"] == pytest.approx(analysis.air_wish("bottles"), rel=0.3)
    assert not [f for f in findings(analysis) if f.rank is Rank.STOP]


@pytest.mark.parametrize(("want", "depth"), [(0.3, 0.2), (4, 0.3), (20, 0.4), (60, 0.8)])
def test_the_smallest_pump_that_carries_it(want, depth):
    pump = pump_for(want * LPM, depth)
    pressure = 9810 * depth + 2500
    assert pump.max_flow * (1 - pressure / pump.max_pressure) >= 1.35 * want * LPM


def test_all_valves_set_give_each_what_it_wants():
    """Solved on the network, not estimated: after setting, each drop blows its wish within a twentieth."""
    system = nursery()
    analysis = Analysis(system)
    plan = plan_air(air_supplies(system)[0], analysis)
    after = Analysis(apply(system, valves_edit(air_supplies(system)[0], plan)))
    wants = {d.to: after.air_wish(d.to) for d in air_supplies(system)[0].drops}
    group = after.airs[air_supplies(system)[0].id]
    after.running  # noqa: B018
    blown = group.air([after.running.level[c] for c in group.cells])
    for drop, air in zip(group.supply.drops, blown, strict=False):
        assert air == pytest.approx(plan.share * wants[drop.lift.owner], rel=0.05)


def test_one_valve_wide_open_starves_the_others_and_says_whom():
    analysis = Analysis(
        apply(
            nursery(),
            valves_edit(air_supplies(nursery())[0], plan_air(air_supplies(nursery())[0], Analysis(nursery()))),
        )
    )
    state = analysis.situation("air_open")
    assert 0.05 < state.numbers["lost"] < 1
    names = {f.name for f in analysis.system.filters}
    assert any(state.verdict.text.startswith(n) for n in names)


def test_a_lone_drop_without_check_valve_is_found():
    found = codes(lantern())
    assert found["air-siphon"].rank is Rank.STOP
    assert found["gap-wide"].rank is Rank.FIX
    mended = apply(apply(lantern(), found["air-siphon"].edit), found["gap-wide"].edit)
    assert not {"air-siphon", "gap-wide"} & set(codes(mended))


def test_duplicates_have_ids_and_air_of_their_own():
    system = nursery()
    spec = system.filter("bed-1")
    without = apply(system, take_out(system, system.filter("bed-5")))
    assert all(d.to != "bed-5" for a in air_supplies(without) for d in a.drops)
    again = apply(without, duplicate(without, spec, ["tub-5"]))
    new = next(f for f in again.filters if f.tank == "tub-5" and f.kind == "bottle_bed")
    assert new.model_copy(update={"id": "x", "tank": "x"}) == spec.model_copy(update={"id": "x", "tank": "x"})
    old = next(d for a in air_supplies(again) for d in a.drops if d.to == spec.id)
    assert next(d for a in air_supplies(again) for d in a.drops if d.to == new.id).opening == old.opening


def test_many_at_once():
    system = nursery()
    spec = made("sponge", system, "tub-1")
    edit = add_to_many(system, spec, [t.id for t in system.tanks if t.id != "tub-1"])
    after = apply(system, edit)
    assert len(after.filters) == len(system.filters) + 8
    assert len({f.id for f in after.filters}) == len(after.filters)


def test_the_trough_runs_in_series_and_is_mended():
    """Sieve to drums to plants to trough: one flow all along; both flaws mend by their buttons."""
    system = trough()
    analysis = Analysis(system)
    flow = analysis.running.flow
    through = [flow[k] for k in ("sieve.feed", "sieve.out", "drums.joint.0", "drums.out", "plants.bed", "plants.out")]
    assert through == pytest.approx([through[0]] * 6, rel=1e-6)
    levels = [analysis.running.level[f"drums.drum.{k}"] for k in range(2)]
    assert levels == sorted(levels, reverse=True)
    found = codes(system)
    assert found["filter-pipe-blocked"].rank is Rank.STOP
    spilled = analysis.situation("pipe_blocked").solution.spilled
    assert found["filter-pipe-blocked"].values["spilled"] == pytest.approx(spilled)
    for code in ("filter-pipe-blocked", "flange-curve"):
        system = apply(system, found[code].edit)
    after = codes(system)
    assert not {"filter-pipe-blocked", "flange-curve"} & set(after)
    assert Analysis(system).situation("pipe_blocked").solution.spilled == 0


def test_without_room_for_a_second_pipe_the_box_is_made_higher():
    """A low plant bed whose trough can give more than it can ever hold."""
    system = apply(trough(), set_value("x", ("devices", "plants", "height"), 0.36))
    finding = codes(system)["filter-pipe-blocked"]
    assert finding.action == "Higher box, second way out"
    after = apply(system, finding.edit)
    assert Analysis(after).situation("pipe_blocked").solution.spilled == 0
    assert "filter-pipe-blocked" not in codes(after)


def test_without_room_for_a_second_pipe_the_pump_is_stood_higher():
    """A tower with a low base over a small tank: the pump's intake is raised until it runs dry before the
    base is full.
    """
    bare = System(devices=(Tank(length=0.5, width=0.25, height=0.5, stand=0.8),))
    tower = made("trickle_tower", bare)
    low = tower.model_copy(
        update={
            "length": 0.5,
            "width": 0.5,
            "base": round(tower.drain.height + 0.09, 3),
            "drain": tower.drain.model_copy(update={"spare": 0.0}),
        }
    )
    system = apply(bare, add_filter(bare, low))
    finding = codes(system)["filter-pipe-blocked"]
    assert finding.action == "Stand the pump higher"
    after = Analysis(apply(system, finding.edit))
    assert after.moved(after.running, "tank") == pytest.approx(
        Analysis(system).moved(Analysis(system).running, "tank"), rel=0.02
    )
    assert after.situation("pipe_blocked").solution.spilled < 0.02 * finding.values["spilled"]


def test_only_what_a_pump_fills_can_flood_so():
    assert [key for key, _ in Analysis(trough()).pumped_outs()] == ["plants", "drums"]
    bare = System(devices=(Tank(stand=0.9),))
    drums = apply(bare, add_filter(bare, made("drum_train", bare)))
    assert drums.filters[0].feed.way == "fall"
    assert not Analysis(drums).pumped_outs()
    assert "pipe_blocked" not in Analysis(drums).names()


def test_taking_one_out_of_a_train_leads_the_others_past_it():
    system = trough()
    after = apply(system, take_out(system, system.filter("drums")))
    assert after.filter("sieve").drain.into == "plants"
    Analysis(after).situation("running")


def test_a_pipe_to_nowhere_is_a_sentence():
    system = trough()
    with pytest.raises(EntryError, match="Sieve leads from or to something that is not there"):
        apply(system, set_value("x", ("devices", "sieve", "drain", "into"), "nowhere"))
    with pytest.raises(EntryError, match="not there"):
        apply(system, set_value("x", ("devices", "drums", "drain", "into"), "drums"))


def test_a_tank_s_overflow_can_fall_into_a_filter():
    """Socks under an overflow: led from the drain, without a pump of their own."""
    system = reading_room()
    socks = made("sock", system).model_copy(update={"stand": 0.1, "offset": 2.0})
    socks = socks.model_copy(
        update={
            "feed": socks.feed.model_copy(update={"way": "fed"}),
            "drain": socks.drain.model_copy(update={"into": "sump", "way": "pump", "release": 0.4}),
        }
    )
    joined = apply(system, Edit("x", (Change(socks.path, socks), Change(("devices", "overflow", "into"), socks.id))))
    running = Analysis(joined).running
    over = sum(q for k, q in running.flow.items() if k.startswith("overflow") and "drain" in k)
    assert running.flow[f"{socks.id}.felt"] == pytest.approx(over, rel=1e-6)
    assert over > 1e-4


# -- load and media ------------------------------------------------------------------------------------------------


def test_load_by_hand():
    """18 g a day with 42 % protein: 18 × 0.42 × 0.092 g of nitrogen; surface by the areal rate at 18 °C and half a
    milligram.
    """
    (load,) = loads(Analysis(trough()))
    grams = 18 * 0.42 * 0.092
    assert load.nitrogen * DAY * 1e3 == pytest.approx(grams)
    rate = 1.0 * 0.5**0.7  # g N/m²/day at 18 °C
    assert load.need == pytest.approx(grams / rate, rel=1e-6)
    assert load.have > load.need


def test_stock_by_length_is_a_feed_only_where_none_is_given():
    tank = Tank(heads=20, body=0.1, ration=0.02)
    assert live_weight(0.1) == pytest.approx(0.0125)
    assert tank.fed * DAY == pytest.approx(20 * 0.0125 * 0.02)
    assert tank.model_copy(update={"feed": 1e-8}).fed == 1e-8
    system = System(devices=(tank,))
    assert loads(Analysis(apply(system, add_filter(system, made("sponge", system)))))[0].nitrogen == pytest.approx(
        ammonia_made(tank.fed, tank.protein)
    )


def test_waters_that_are_joined_share_their_surface():
    one = loads(Analysis(cascade()))
    assert len(one) == 1
    assert len(loads(Analysis(nursery()))) == 8


def test_compared_by_hand():
    line = compare(stock().media["pumice"], 7.0, 5.0)
    assert line.volume == pytest.approx(7 / 350)
    assert line.cost == pytest.approx(20 * 0.8)
    assert line.per_area == pytest.approx(1000 * 0.8 / 350)
    assert line.wet == pytest.approx(0.02 * (500 + 0.1 * 0.45 * 1000))
    assert line.bags == math.ceil(line.wet / 5)
    with_core = compare(stock().media["pumice"], 7.0, 5.0, core=True)
    assert with_core.volume < line.volume


def test_own_media_are_used_changed_everywhere_and_kept():
    system = trough()
    lava = OwnMedium(name="Lava", kind="carrier", surface=380.0)
    system = apply(system, add_own(system.media, lava))
    system = apply(system, set_value("x", ("devices", "drums", "drums", 1, "medium"), lava.id))
    assert uses_of(system, lava.id) == [("devices", "drums", "drums", 1, "medium")]
    before = loads(Analysis(system))[0].have
    denser = OwnMedium(**{**lava.figures(), "surface": 760.0})
    assert denser.id != lava.id
    changed = apply(system, change_own(system, lava, denser))
    assert loads(Analysis(changed))[0].have - before == pytest.approx(380.0 * 0.06)
    with pytest.raises(EntryError, match="your own that this design does not have"):  # what is used stays
        apply(changed, remove_own(changed.media, denser))
    unused = apply(changed, set_value("x", ("devices", "drums", "drums", 1, "medium"), "wheel_10"))
    assert not apply(unused, remove_own(unused.media, denser)).media
    again = System.model_validate_json(changed.model_dump_json())
    assert again == changed
    broken = changed.model_dump_json().replace('"surface":760.0', '"surface":999.0')
    with pytest.raises(ValueError, match="changed outside Fuente"):
        System.model_validate_json(broken)


def test_an_own_medium_of_another_design_comes_along_when_it_is_chosen():
    lava = OwnMedium(name="Lava of another design", kind="carrier", surface=410.0)
    taken = set_value("Take lava", ("devices", "drums", "drums", 1, "medium"), lava.id)
    with pytest.raises(EntryError, match="your own"):  # no design knows what another one added
        apply(trough(), taken)
    system = apply(trough(), brought(taken, (), (lava,)))
    assert system.media == (lava,)
    assert brought(taken, system.media, (lava,)) is taken  # it is there already
    drums = system.device("drums")
    whole = Edit("Put drums", (Change(("devices", "drums"), drums),))
    assert apply(trough(), brought(whole, (), (lava,))).media == (lava,)  # a whole filter brings what it holds


def test_two_designs_never_share_what_one_of_them_added():
    lava = OwnMedium(name="Lava", kind="carrier", surface=380.0)
    one = apply(trough(), add_own((), lava))
    assert one.catalogue.medium(lava.id).surface == 380.0
    assert lava.id not in trough().catalogue.media
    assert lava.id not in stock().media
    assert trough().catalogue is stock()
    with pytest.raises(FuenteError, match="no media “own-"):
        trough().catalogue.medium(lava.id)


def test_a_medium_that_nobody_knows_or_of_the_wrong_kind_is_refused():
    at = ("devices", "drums", "drums", 1, "medium")
    with pytest.raises(EntryError, match="has no media “moon dust”"):
        apply(trough(), set_value("x", at, "moon dust"))
    system = System(devices=(Tank(),))
    bed = made("bottle_bed", system)
    with pytest.raises(EntryError, match="needs carriers"):
        apply(system, add_filter(system, bed.model_copy(update={"medium": "ring"})))


@pytest.mark.parametrize("question", QUESTIONS)
def test_every_school_of_every_kind_makes_a_layout(question):
    """A school never leaves a builder without a first layout, in a usual tank."""
    system = System(devices=(Tank(length=1.0, width=0.5, height=0.5, stand=0.85, feed=6e-3 / DAY),))
    site = new_site(system, "tank")
    differs = False
    for kind in FILTERS.values():
        if question in kind.schools:
            rows = by_school(kind, site, question, UnitSystem.METRIC)
            assert [name for name, _ in rows] == [name for _, name in QUESTIONS[question][1]]
            differs = differs or len({figure for _, figure in rows}) > 1
    # Those change a pressure, what a still bed counts for, and what is no filter.
    assert differs or question in ("air", "still", "substrate")


def test_effects_are_of_the_filters_that_are_there():
    said = effects(Analysis(nursery()), UnitSystem.METRIC)
    assert "Bottle moving bed" in said["roll"]
    assert "L/min" in said["roll"]
    assert "finest" not in said


def test_what_filters_beside_a_tank_lose_to_the_air_comes_off_the_tank():
    """The trough, its sieve, drums and plant bed, all open: a week of it by hand on the trough's plan."""
    from fuente.life.heat import evaporation

    analysis = Analysis(trough())
    tank, space = analysis.system.tanks[0], analysis.system.space
    sieve, train, bed = analysis.system.filters
    plan = tank.inner_length * tank.inner_width
    # Over the sieve's screen and under it are two waters, one over the other: counted as both, on the safe side.
    beside = 2 * sieve.area + sum(d.area for d in train.drums) + bed.plan
    rate = evaporation(plan * (1 - tank.cover) + beside, tank.temperature, space.air, space.humidity)
    assert analysis.evaporation_rate() == pytest.approx(rate, rel=1e-3)
    assert analysis.situation("evaporated").numbers["fall"] == pytest.approx(rate * 7 * DAY / plan, rel=1e-3)


def test_carriers_that_stand_count_by_school():
    """In a drum that is stirred and flushed: nothing by one school, a third by the other; in a moving bed
    all by both.
    """
    train = trough().filters[1]
    stirred = train.drums[1].model_copy(update={"role": "stirred"})
    standing = train.model_copy(update={"drums": (*train.drums[:1], stirred)})
    system = apply(trough(), Edit("x", (Change(standing.path, standing),)))
    living = apply(system, set_value("x", ("schools", "still"), "living"))
    strained, lived = loads(Analysis(system))[0].have, loads(Analysis(living))[0].have
    assert lived - strained == pytest.approx(0.06 * 500 / 3)
    moving = loads(Analysis(trough()))[0].have
    assert moving - strained == pytest.approx(0.06 * 500)
    assert loads(Analysis(apply(trough(), set_value("x", ("schools", "still"), "living"))))[0].have == moving
