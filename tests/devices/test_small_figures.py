"""Figures of sizes and judgements that nothing else looks at closely: each by hand, at its edge."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest

from devices_of import FILTERS, manifolds
from fuente.answers import ask
from fuente.catalogue import pipe_size
from fuente.demo.back_room import back_room, joined_sumps
from fuente.demo.starter import starter
from fuente.devices.base import Rank
from fuente.devices.drum_train.judge import _way_on
from fuente.devices.drum_train.spec import Drum, DrumTrain
from fuente.devices.foam_wall.parts import _dammed
from fuente.devices.foam_wall.spec import FoamWall
from fuente.devices.plant_bed.judge import judge as judge_bed
from fuente.devices.pocket_shown import _still
from fuente.devices.recipes.racks import ROW_SPEED, Rack, add_rack, metric_for
from fuente.devices.rim_box import KIND as RIM_BOX
from fuente.document.system import apply, set_value
from fuente.errors import EntryError
from fuente.findings import findings
from fuente.findings.life import _larger_filter
from fuente.findings.placing import _chains
from fuente.study.filters import add_filter
from fuente.study.known import analysed
from fuente.study.sites import new_site


def with_one(kind, **own):
    """The starter with a kind's first layout."""
    system = starter()
    spec = FILTERS[kind].first(new_site(system, system.tanks[0].id))
    spec = type(spec).model_validate({**spec.model_dump(), **own})
    return apply(system, add_filter(system, spec)), spec


@pytest.mark.parametrize(("share", "rank"), [(0.91, Rank.CONSIDER), (0.89, Rank.FIX)])
def test_nine_tenths_of_the_wanted_turnover_are_where_an_uneven_rack_is_to_mend(share, rank):
    system = back_room()
    manifold = manifolds(system)[0]
    system = apply(system, set_value("", ("devices", manifold.id, "rows", 0, "branches", 0, "angle"), 66.0))
    study = analysed(system)
    running = study.running
    low = min(study.supply(running, t.id) / running.volume[t.id] for t in system.tanks)
    wanted = apply(system, set_value("", ("space", "turnover"), low / share))
    found = next(f for f in findings(analysed(wanted)) if f.code == "balance")
    assert found.rank is rank


def test_a_rim_box_grows_as_far_as_its_tank_is_wide():
    system, spec = with_one("rim_box")
    site = analysed(system).sites[spec.id]
    wide = site.tank.inner_width
    fits = RIM_BOX.grow(spec, site, (wide - 0.005) / spec.wide)
    assert fits.changes[0].value == pytest.approx(wide, abs=0.006)
    assert RIM_BOX.grow(spec, site, (wide + 0.03) / spec.wide) is None


def test_a_larger_filter_is_larger_by_what_is_missing():
    """Two fifths more of its own surface are missing."""
    system, spec = with_one("sponge")
    study = analysed(system)
    own = FILTERS["sponge"].surface(spec, study.sites[spec.id])
    edit, _ = _larger_filter(study, {spec.tank}, 10 + 0.4 * own, 10.0)
    grown = apply(system, edit).filter(spec.id)
    after = FILTERS["sponge"].surface(grown, study.sites[spec.id])
    assert 1.3 * own < after < 1.6 * own


def test_coarser_gravel_is_coarser_by_three_fifths():
    system, spec = with_one("plant_bed", grain=0.005)
    study = analysed(system)
    over = study.running
    flooded = replace(over, flow={**over.flow, f"{spec.id}.over": 1e-4})

    class Flooded:
        running = flooded

    found = [f for f in judge_bed(spec, study.sites[spec.id], Flooded()) if f.code == "bed-flooded"]
    assert found[0].edit.changes[0].value == pytest.approx(0.008)


def test_a_rack_that_stands_too_low_says_how_high():
    sump = joined_sumps()
    rack = Rack(rows=2, columns=3, device="pumping", pitch=0.42, lowest=0.30)
    with pytest.raises(EntryError, match=r"stands 300 mm high and leaves no fall into the sump; take \d+ mm at least"):
        add_rack(sump.by_id, rack, replace=True)


def test_a_row_s_pipe_takes_all_of_the_row():
    sump = joined_sumps()
    rack = Rack(rows=2, columns=6, device="pumping", pitch=0.42, turnover=8 / 3600)
    system = apply(sump, add_rack(sump.by_id, rack, replace=True))
    inner = (rack.length - 2 * rack.glass) * (rack.width - 2 * rack.glass) * (rack.height - rack.glass - 0.03)
    row = manifolds(system)[0].rows[0]
    assert row.pipe == metric_for(6 * rack.turnover * inner, ROW_SPEED).id
    assert row.pipe != metric_for(rack.turnover * inner / 6, ROW_SPEED).id


def test_what_a_foam_wall_s_dam_stands_under():
    flat = FoamWall(id="it", shape="flat", dam_at="over")
    assert _dammed(flat) == "the foam stands on it"
    assert _dammed(flat.model_copy(update={"shape": "corner"})) == "straight under the foam's arc, from wall to wall"


def test_a_dry_bulkhead_is_lowered_by_its_bore_and_no_lower_than_a_hand():
    drum = Drum(outlet=0.4, pipe="50-pn10")
    spec, bore = DrumTrain(id="it"), pipe_size("50-pn10").bore
    (found,) = _way_on(spec, drum, 0, ("devices", "it", "drums", 0), 0.35)
    assert found.edit.changes[0].value == round(0.35 - bore, 2)
    (found,) = _way_on(spec, drum, 0, ("devices", "it", "drums", 0), 0.06)
    assert found.edit.changes[0].value == 0.05


def test_a_pipe_is_sized_with_six_for_its_fittings():
    given = {"flow": "4000 L/h", "length": "3 m", "price": "0.3", "pipe_price": "4"}
    assert ask("pipe-sizer", given) == ask("pipe-sizer", {**given, "k": "6"})
    from fuente.answers.systems import pipe_sizer

    plain = pipe_sizer(4e-3 / 3.6, 3.0, 0.3, 4.0)
    assert plain == pipe_sizer(4e-3 / 3.6, 3.0, 0.3, 4.0, k=6.0)
    assert plain["head_loss"] != pipe_sizer(4e-3 / 3.6, 3.0, 0.3, 4.0, k=6.6)["head_loss"]


def test_a_pumped_first_lets_go_over_the_second_s_rim():
    system, second = with_one("drum_train", stand=0.2)
    first = FILTERS["sieve_bed"].first(new_site(system, system.tanks[0].id))
    first = first.model_copy(update={"drain": first.drain.model_copy(update={"way": "pump"})})
    (made,) = _chains(system, first, first, second)
    vessel = FILTERS["drum_train"].vessel(second, analysed(system).sites[second.id])
    assert made[0].drain.release == round(vessel.rim - vessel.floor + 0.02, 3)
    assert made[0].drain.into == second.id
    assert made[1].feed.way == "fed"


def test_air_without_water_is_a_stop_and_no_air_is_not():
    system, spec = with_one("sponge")
    study = analysed(system)
    site, running = study.sites[spec.id], study.running
    still = {key: 0.0 if key.startswith(spec.id) else flow for key, flow in running.flow.items()}
    blown = {**still, **{k: v for k, v in running.flow.items() if k.endswith(f".{spec.id}.lift")}}

    def found(flow):
        return [f.code for f in _still(spec, site, replace(running, flow=flow))]

    air = [k for k in running.flow if spec.id in k and running.flow[k] > 0]
    assert air
    assert math.isfinite(sum(blown.values()))
    keys = [k for k in air if not k.startswith(spec.id)]
    assert keys  # the air's own ways
    assert found(still | {k: running.flow[k] for k in keys}) == ["filter-still"]
    assert found(still | dict.fromkeys(keys, 0.0)) == []
