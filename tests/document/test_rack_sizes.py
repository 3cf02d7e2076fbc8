"""What a rack of three rows of six is made with, against the same worked out by hand.

A tank of 600 × 300 × 300 mm of 5 mm glass holds 0.59 · 0.29 · 0.265 m³ = 45.3 L up to 30 mm under its rim. Three times
an hour that is 136 L/h a tank, 816 L/h a row and 2 448 L/h in all.
"""

from __future__ import annotations

import pytest

from devices_of import headers, manifolds, standpipes
from fuente.catalogue import ball_valve_k
from fuente.demo.back_room import joined_sumps
from fuente.devices.recipes.racks import Rack, add_rack, described, metric_for
from fuente.document.system import apply

LPH = 1e-3 / 3600
ROWS, COLUMNS = 3, 6
EACH = 3 / 3600 * 0.59 * 0.29 * 0.265


@pytest.fixture(scope="module")
def made():
    rack = Rack(rows=ROWS, columns=COLUMNS, device="pumping", name="Wall", stock="killifish")
    return apply(joined_sumps(), add_rack(joined_sumps().by_id, rack, replace=True))


def test_tanks_stand_in_their_rows(made):
    tanks = {t.id: t for t in made.tanks}
    assert [*tanks] == [f"wall-{r}-{c}" for r in (1, 2, 3) for c in range(1, 7)]
    for r in range(ROWS):
        for c in range(COLUMNS):
            tank = tanks[f"wall-{r + 1}-{c + 1}"]
            assert tank.name == f"{'ABC'[r]}{c + 1}"
            assert (tank.length, tank.width, tank.height) == (0.6, 0.3, 0.3)
            assert (tank.thickness, tank.bottom, tank.cover) == (0.005, 0.005, 0.9)
            assert tank.stand == pytest.approx(0.70 + 0.45 * r)
            assert tank.offset == pytest.approx(0.62 * c)
            assert (tank.temperature, tank.stock, tank.rack) == (23.0, "killifish", "wall")


def test_drains_are_slow_and_the_common_drain_half_full(made):
    for pipe in standpipes(made):
        assert pipe.pipe == "25-pn10"  # 0.10 m/s in 22 mm of bore
        assert pipe.mouth == 0.257  # 8 mm under the level for what stands over a rim
        assert (pipe.into, pipe.run) == ("wall-drain", 0.2)
        assert [(f.kind, f.count) for f in pipe.fittings] == [("elbow", 2)]
    (header,) = headers(made)
    # Half full at 1 %, by Manning with 0.009: 45 mm of bore carry 0.45 L/s, 57 mm 0.83 L/s; 0.68 L/s come.
    assert header.pipe == header.down == "63-pn10"
    assert header.length == pytest.approx(6 * 0.62)
    assert header.low_end == 0.58  # 120 mm under the lowest row
    assert header.into == "settling"
    assert header.release == 0.25


def test_rows_and_branches(made):
    (manifold,) = manifolds(made)
    assert manifold.riser == "32-pn10"  # 1.07 m/s of 1.2; 25 mm would be 1.8
    assert [row.height for row in manifold.rows] == pytest.approx([1.05, 1.50, 1.95])
    for row, spare in zip(manifold.rows, (1.25, 0.80, 0.35), strict=True):
        assert row.pipe == "25-pn10"  # 0.60 m/s of 0.9
        assert [b.spacing for b in row.branches] == pytest.approx([0.1, 0.62, 0.62, 0.62, 0.62, 0.62])
        # 136 L/h run at 0.334 m/s in 12 mm, of which one velocity head is 5.69 mm.
        want = spare / 0.00569 - 3.5
        for branch in row.branches:
            assert branch.pipe == "hose-12"
            assert (branch.mouth, branch.air_height, branch.air_hole, branch.length) == (0.245, 0.255, 0.004, 0.35)
            assert branch.angle == round(branch.angle)
            assert ball_valve_k(branch.angle - 0.6) < want < ball_valve_k(branch.angle + 0.6)


def test_the_pump_reaches_the_highest_row(made):
    """Lift 1.86 m; main at 1.07 m/s: K 6 and 3.86 m of 28.4 mm by Blasius 0.54 m; row 0.05 m; 0.35 m for valves."""
    pump = manifolds(made)[0].feeders[0].pump
    assert pump.max_flow == pytest.approx(5000 * LPH)  # twice 2 448 L/h, on the next 500
    head = 1.86 + 0.540 + 0.049 + 0.35
    assert pump.max_head == pytest.approx(head / (1 - (2448 / 5000) ** 2), abs=0.06)
    assert pump.watts == pytest.approx(9810 * 18 * EACH * head / 0.25, abs=1.0)
    assert pump.name == "Pump of the rack"
    said = described(made.devices)
    assert (said.pump, said.head, said.drain, said.row) == (pump.name, pump.max_head, "63-pn10", "25-pn10")


def test_an_angle_of_ones_own_stands_at_every_valve():
    edit = add_rack(joined_sumps().by_id, Rack(rows=2, columns=2, device="pumping", angle=35.0), replace=True)
    assert {b.angle for row in manifolds(apply(joined_sumps(), edit))[0].rows for b in row.branches} == {35.0}


@pytest.mark.parametrize(
    ("flow", "speed", "pipe"),
    [
        (1368 * LPH, 1.0, "25-pn10"),  # 22 mm carries 1 368.5 L/h at 1 m/s
        (1369 * LPH, 1.0, "32-pn10"),
        (2280 * LPH, 1.0, "32-pn10"),  # 28.4 mm: 2 280.4 L/h
        (2281 * LPH, 1.0, "40-pn10"),
        (1.0, 0.5, "110-pn10"),  # the widest there is
    ],
)
def test_the_narrowest_pipe_under_a_speed(flow, speed, pipe):
    assert metric_for(flow, speed).id == pipe


def test_water_three_times_as_fast_takes_wider_hoses():
    quick = Rack(rows=2, columns=2, device="pumping", turnover=12 / 3600)  # 544 L/h a tank
    made = apply(joined_sumps(), add_rack(joined_sumps().by_id, quick, replace=True))
    assert {b.pipe for row in manifolds(made)[0].rows for b in row.branches} == {"hose-16"}
