"""Racks entered at once, manifolds balanced by their valves, and what happens to their water."""

import dataclasses
import json

import pytest

from amounts import LPH
from devices_of import headers, manifolds, standpipes, swapped, top_ups, without
from fuente.demo import DEMOS
from fuente.demo.back_room import back_room, joined_sumps
from fuente.demo.cascade import cascade
from fuente.devices.base import Edit
from fuente.devices.edits import taken_out
from fuente.devices.manifold.network import branch_id
from fuente.devices.recipes.racks import Rack, add_rack
from fuente.devices.top_up.spec import TopUp
from fuente.document.files import parse, text_of
from fuente.document.system import FORMAT_VERSION, apply, set_value
from fuente.drawing.primitives import Label
from fuente.errors import EntryError
from fuente.findings import findings
from fuente.network.ducts import Ducts
from fuente.shown.racks import RACK
from fuente.shown.section import section
from fuente.shown.shares import tank_shares
from fuente.shown.stations import stations
from fuente.study.analysis import Analysis
from fuente.study.lowering import bodies, lower
from fuente.units import UnitSystem


@pytest.fixture(scope="module")
def rack():
    return Analysis(back_room())


def small(rows=2, columns=3):
    """A rack of a few tanks, quicker to solve in every situation."""
    edit = add_rack(
        joined_sumps().by_id, Rack(rows=rows, columns=columns, device="pumping", name="Rack", angle=50.0), True
    )
    return apply(joined_sumps(), edit)


def turns(analysis):
    run = analysis.running
    return {t.id: analysis.supply(run, t.id) / run.volume[t.id] * 3600 for t in analysis.system.tanks}


def test_a_rack_is_entered_at_once():
    before = joined_sumps()
    edit = add_rack(before.by_id, Rack(rows=3, columns=5, device="pumping", name="Wall"), replace=True)
    made = apply(before, edit)
    assert len(made.tanks) == len(standpipes(made)) == 15
    assert [len(row.branches) for row in manifolds(made)[0].rows] == [5, 5, 5]
    assert headers(made)[0].into == "settling"  # the filter that water meets first
    assert len({t.stand for t in made.tanks}) == 3
    more = apply(made, add_rack(made.by_id, Rack(rows=2, columns=2, device="pumping", name="Wall")))
    assert len(more.tanks) == 19
    assert len({m.id for m in manifolds(more)}) == 2
    assert more.tanks[:15] == made.tanks
    assert min(t.offset for t in more.tanks[15:]) > max(
        t.offset + t.length for t in made.tanks
    )  # beside, not over them


def test_a_new_rack_starts_near_its_turnover():
    """Valves are set row by row from heights alone: the network then finds every tank within a quarter of the wish."""
    for rows, columns in ((2, 3), (4, 6), (6, 10)):
        system = apply(
            joined_sumps(), add_rack(joined_sumps().by_id, Rack(rows=rows, columns=columns, device="pumping"), True)
        )
        got = turns(Analysis(system)).values()
        assert min(got) > 2.6
        assert max(got) < 4.2


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"rows": 0}, "1 to 20 rows"),
        ({"rows": 20, "columns": 40}, "400 tanks"),
        ({"pitch": 0.3}, "no hand"),
        ({"lowest": 0.3}, "no fall"),
        ({"device": "attic"}, "needs a filter"),
        ({"turnover": 0.0}, "above zero"),
        ({"rows": 12}, "highest row"),
        ({"columns": 40, "length": 1.5}, "60 m long|61 m long"),
        ({"height": 0.05}, "100 mm to 3 m"),
        ({"glass": 0.2}, "Wall thickness must be at most 60 mm"),
        ({"temperature": 80.0}, "temperature must be at most 38"),
    ],
)
def test_what_cannot_stand_is_a_sentence(change, words):
    with pytest.raises(EntryError, match=words):
        add_rack(joined_sumps().by_id, dataclasses.replace(Rack(device="pumping"), **change))


def test_every_flow_adds_up(rack):
    run = rack.running
    group = next(g for g in rack.network.groups if isinstance(g, Ducts))
    pumped = run.kind_flow("pump")
    assert pumped == pytest.approx(run.kind_flow("branch"), rel=1e-9)
    assert pumped == pytest.approx(run.kind_flow("drain"), rel=1e-9)
    assert pumped == pytest.approx(run.flow["rack-drain.down"], rel=1e-9)
    assert pumped == pytest.approx(run.flow["join.line"], rel=1e-9)
    assert run.imbalance < 1e-12
    heads = group.heads([run.level[c] for c in group.cells])
    for duct in group.ducts:  # every plain piece of pipe loses what its ends differ by
        if duct.kind == "main":
            assert duct.pipe.head_loss(run.flow[duct.id]) == pytest.approx(heads[duct.a] - heads[duct.b], abs=1e-9)


def test_low_and_near_tanks_take_more(rack):
    got = turns(rack)
    assert got["rack-1-1"] > got["rack-2-1"] > got["rack-3-1"] > got["rack-4-1"]
    assert got["rack-1-1"] > got["rack-1-6"]
    assert list(got).index(min(got, key=got.get)) == 23


def test_valves_give_every_tank_its_turnover(rack):
    plan = rack.balance("rack-manifold", 3 / 3600)
    assert plan.share == 1.0
    got = turns(Analysis(apply(rack.system, plan.edit), rack))
    assert min(got.values()) == pytest.approx(3.0, rel=0.04)  # handles stand on half degrees
    assert max(got.values()) == pytest.approx(3.0, rel=0.06)


def test_a_pump_that_is_too_weak_gives_all_the_same_share(rack):
    plan = rack.balance("rack-manifold", 9 / 3600)
    assert 0.3 < plan.share < 0.9
    assert plan.limit
    got = turns(Analysis(apply(rack.system, plan.edit), rack))
    assert min(got.values()) == pytest.approx(9 * plan.share, rel=0.08)
    assert max(got.values()) == pytest.approx(9 * plan.share, rel=0.12)


def test_a_side_loop_takes_its_share():
    analysis = Analysis(cascade())
    plan = analysis.balance("return", 6 / 3600)
    done = Analysis(apply(analysis.system, plan.edit), analysis)
    share = done.running.flow["return.uv"] / done.running.kind_flow("pump")
    assert share == pytest.approx(0.15, rel=0.06)
    assert turns(done)["tank"] == pytest.approx(6.0, rel=0.05)


def test_two_pumps_lift_more_than_one():
    rack = Analysis(small())
    (found,) = [f for f in findings(rack) if f.code == "single-pump"]
    double = Analysis(apply(rack.system, found.edit))
    assert double.running.kind_flow("pump") > 1.05 * rack.running.kind_flow("pump")
    assert "single-pump" not in {f.code for f in findings(double)}


def test_each_situation_keeps_the_water(rack):
    total = rack.running.total
    for name in ("power_cut", "valve_leaks", "drain_blocked", "pads_dirty"):
        solution = rack.situation(name).solution
        assert solution.total == pytest.approx(total, rel=1e-9)
        for cell in solution.network.cells:
            assert solution.level[cell.id] >= cell.floor - 1e-9


def test_a_power_cut_takes_every_tank_to_its_drain(rack):
    cut = rack.situation("power_cut").solution
    for pipe in standpipes(rack.system):
        tank = rack.system.tank(pipe.tank)
        assert cut.level[tank.id] <= tank.floor + pipe.mouth + 2e-4
        assert cut.level[tank.id] > tank.floor + pipe.mouth - 0.006  # an air hole stops the siphon over the manifold


def test_without_air_holes_high_tanks_run_into_low_ones():
    """The rows are joined by the manifold: with a tight valve the water goes down the rack all the same."""
    system = small()
    for r in range(2):
        for k in range(3):
            where = ("devices", "rack-manifold", "rows", r, "branches", k)
            system = apply(system, set_value("x", (*where, "air_hole"), 0.0))
            system = apply(system, set_value("x", (*where, "mouth"), 0.1))
    bare = Analysis(system)
    tank = system.tank("rack-2-1")
    assert bare.situation("power_cut").solution.level[tank.id] < tank.floor + 0.2
    (found,) = [f for f in findings(bare) if f.code == "cross-siphon"]
    mended = Analysis(apply(system, found.edit))
    assert mended.situation("power_cut").solution.level[tank.id] > tank.floor + 0.24
    assert "cross-siphon" not in {f.code for f in findings(mended)}


def test_findings_mend_the_demo(rack):
    """Following what Fuente says first leaves nothing to stop for or to fix."""
    analysis = rack
    for _ in range(6):
        todo = [f for f in findings(analysis) if f.rank < 2]
        if not todo:
            break
        analysis = Analysis(apply(analysis.system, todo[0].edit), analysis)
    assert not [f for f in findings(analysis) if f.rank < 2]
    assert analysis.situation("drain_blocked").numbers["spilled"] == 0


def test_one_body_of_water_has_one_mark(rack):
    network = rack.network
    assert len(bodies(network)) == 1
    assert list(network.marks) == ["pumping.pump"]
    alone = without(rack.system, standpipes(rack.system)[0].id)
    manifold = manifolds(alone)[0]
    row = manifold.rows[0].model_copy(update={"branches": manifold.rows[0].branches[1:]})
    alone = swapped(alone, manifold.model_copy(update={"rows": (row, *manifold.rows[1:])}))
    marks = lower(alone).marks  # a tank that nothing feeds and nothing drains stands where it was filled
    assert set(marks) == {"rack-1-1", "pumping.pump"}
    assert marks["rack-1-1"] == pytest.approx(0.705 + 0.9 * 0.295)


def test_a_tank_is_taken_out_with_all_that_hangs_on_it(rack):
    less = apply(rack.system, Edit("x", taken_out(rack.system.devices, (rack.system.tank("rack-2-3"),))))
    assert len(less.tanks) == 23
    assert all(s.tank != "rack-2-3" for s in standpipes(less))
    row = manifolds(less)[0].rows[1]
    assert [b.tank for b in row.branches] == ["rack-2-1", "rack-2-2", "rack-2-4", "rack-2-5", "rack-2-6"]
    assert row.branches[2].spacing == pytest.approx(2 * 0.62)
    assert Analysis(less).running.imbalance < 1e-12


def test_a_drip_runs_over_to_waste():
    """What drips in less what evaporates goes to waste; the overflow, not the mark, holds the level."""
    system = cascade()
    drip = TopUp(id="drip", into="lower", source="drip", drip=50e-3 / 86400, waste=True, waste_mouth=0.22)
    system = swapped(without(system, top_ups(system)[0].id), drip)
    analysis = Analysis(system)
    assert analysis.network.marks == {}
    run = analysis.running
    assert run.flow["drip.waste.line"] == pytest.approx(50e-3 / 86400, rel=1e-6)
    assert run.level["lower.pump"] == pytest.approx(0.03 + 0.22, abs=0.004)
    cut = analysis.situation("power_cut")
    assert cut.solution.total == pytest.approx(run.total, rel=1e-6)


def test_top_up_lengthens_the_days_to_dry():
    with_it, without_it = Analysis(cascade()), Analysis(without(cascade(), top_ups(cascade())[0].id))
    days = [a.situation("evaporated").numbers["days"] / 86400 for a in (with_it, without_it)]
    rate = with_it.situation("evaporated").numbers["rate"]
    assert days[0] - days[1] == pytest.approx(0.025 / rate, rel=1e-6)


def test_the_drawing_says_each_share_and_marks_the_ends(rack):
    running = rack.situation("running")
    shares = tank_shares(rack, running)
    assert [s.mark for s in shares.values()].count("least") == 1
    assert shares["rack-1-1"].mark == "most"
    drawing = section(rack, running, "rack-2-2")
    words = [shape.text for shape in drawing.shapes if isinstance(shape, Label)]
    assert {f"{row}{n}" for row in "ABCD" for n in range(1, 7)} <= {w.split()[0] for w in words}
    angles = [h for h in drawing.handles if h.quantity == "angle"]
    assert len(angles) == 24
    cut = tank_shares(rack, rack.situation("power_cut"))
    assert {s.text for s in cut.values()} == {"still"}


def test_stations_of_a_rack_follow_the_chosen_tank(rack):
    rows = stations(rack, None, "rack-3-2")
    ids = [s.id for s in rows]
    assert ids[:2] == [RACK + "rack", "rack-3-2"]
    assert "rack-1-1" not in ids
    card = rows[1]
    assert card.values["flow"] == pytest.approx(rack.running.flow[branch_id(manifolds(rack.system)[0], "rack-3-2")])
    labels = [c.label for c in card.choices if not c.fold]
    assert len(labels) <= 10
    assert labels[0] == "Valve turned from open"
    names = [name for name, _ in rows[0].commands()]
    assert names == ["Set valves for 3 × an hour"]


@pytest.mark.parametrize("make", DEMOS.values(), ids=DEMOS)
def test_demos_survive_the_file(make):
    system = make()
    assert parse(text_of(system).encode()) == system
    assert json.loads(text_of(system))["version"] == FORMAT_VERSION


def test_findings_read_well_in_both_units(rack):
    for found in (*findings(rack), *findings(Analysis(cascade()))):
        for units in UnitSystem:
            sentence = found.filled(units)
            assert "{" not in sentence
            assert sentence.endswith(".")
        assert found.reason(UnitSystem.METRIC).endswith(".")


def test_a_tank_that_must_stay_apart_is_named():
    system = apply(small(), set_value("x", ("devices", "rack-2-2", "apart"), True))
    (found,) = [f for f in findings(Analysis(system)) if f.code == "shared-water"]
    assert found.owner == system.tanks[4].id
    assert "5 others" in found.text


def test_a_header_that_is_too_narrow_backs_up():
    narrow = apply(small(), set_value("x", ("devices", "rack-drain", "pipe"), "25-pn10"))
    analysis = Analysis(narrow)
    found = {f.code: f for f in findings(analysis)}
    assert found["header-full"].rank == 0
    wider = analysis
    for _ in range(4):
        stop = next((f for f in findings(wider) if f.code in ("header-full", "header-tight")), None)
        if stop is None:
            break
        wider = Analysis(apply(wider.system, stop.edit))
    assert not {"header-full", "header-tight"} & {f.code for f in findings(wider)}


def test_a_valve_turned_shut_passes_nothing(rack):
    """A valve turned shut passes nothing; its tank still stands where the drain leaves it."""
    shut = apply(rack.system, set_value("x", ("devices", "rack-manifold", "rows", 0, "branches", 0, "angle"), 90.0))
    analysis = Analysis(shut, rack)
    assert analysis.running.flow["rack-manifold.to.rack-1-1"] == 0.0
    assert analysis.running.kind_flow("pump") > 3000 * LPH
