"""What a rack and a cascade are made of: drilled ends, equal pieces counted, cautions that belong."""

import itertools

import pytest

from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.devices.pieces import Pipe, note
from fuente.study.analysis import Analysis
from fuente.units import UnitSystem
from fuente.workshop.bill import as_csv, bill, tasks


@pytest.fixture(scope="module")
def rack():
    return bill(Analysis(back_room()))


@pytest.fixture(scope="module")
def falls():
    return bill(Analysis(cascade()))


def line(total, words):
    (found,) = [
        each.piece
        for each in total.lines
        if words in each.row(UnitSystem.METRIC).what or words in each.row(UnitSystem.METRIC).note
    ]
    return found


def test_the_ends_that_face_each_other_are_drilled(rack):
    drilled = [p for p in rack.panels if "drilled" in p.name]
    assert [p.name for p in drilled] == ["Settling sump: end, right, drilled", "Pump sump: end, left, drilled"]
    for panel in drilled:
        assert panel.count == 1
        xs = [h.x for h in panel.holes]
        assert len(xs) == 3
        # Both sumps stand alike: the line's own height over the floor, less the glue that the end stands on
        assert [h.y for h in panel.holes] == [pytest.approx(0.119)] * 3
        saw = panel.holes[0].diameter
        assert {h.diameter for h in panel.holes} == {saw}
        assert saw == pytest.approx(0.053)
        assert all(b - a > 1.9 * saw for a, b in itertools.pairwise(xs))
        assert saw < xs[0]
        assert xs[-1] < panel.length - saw
    plain = [p for p in rack.panels if p.name.endswith(": end")]
    assert [p.count for p in plain] == [1, 1]


def test_a_fall_drills_only_the_sump_that_it_leaves(falls):
    drilled = [p for p in falls.panels if "drilled" in p.name]
    assert [p.name for p in drilled] == ["Upper sump: end, right, drilled"]
    assert len(drilled[0].holes) == 2


def test_equal_pieces_of_many_tanks_are_one_line(rack):
    assert line(rack, "Strainer").count == 24
    assert line(rack, "Ball valve, 12 mm vinyl hose").count == 24
    falls_of_drains = [p for p in rack.pieces if isinstance(p, Pipe) and p.drains]
    assert sorted(p.count for p in falls_of_drains) == [6, 6, 6, 6]  # one length a row
    assert line(rack, "rows, together").length == pytest.approx(4 * (0.3 + 0.1 + 5 * 0.62))
    assert line(rack, "riser between rows").length == pytest.approx(3 * 0.45)


def test_the_cascade_lists_its_loop_its_bar_and_its_reservoir(falls):
    bar = line(falls, "Spray bar")
    assert (bar.holes, bar.hole_bore) == (30, 0.008)
    assert line(falls, "Reservoir").volume == pytest.approx(0.025)
    assert [v.count for v in falls.pieces if v.id.endswith(".valve") and v.notes == (note("steriliser loop"),)] == [1]


def test_cautions_come_once_and_where_they_belong(rack, falls):
    for total in (rack, falls):
        assert len(set(total.cautions)) == len(total.cautions)
        assert any("residual-current" in c for c in total.cautions)
    assert any("tempered glass" in c for c in rack.cautions)


@pytest.mark.parametrize("units", list(UnitSystem))
def test_the_list_is_written_in_both_units(rack, units):
    text = as_csv(rack, units)
    assert "{" not in text
    assert text.count("\n") > 25


def test_upkeep_covers_every_kind():
    for make, words in ((back_room, ("branch valve", "common drain", "joining")), (cascade, ("float", "spray bars"))):
        names = " ".join(t.name.lower() for t in tasks(Analysis(make())))
        for word in words:
            assert word in names
