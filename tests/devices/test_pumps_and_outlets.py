"""Pumps beside their filter, in a row, by CSV; spray bars; ball valves; buckets at a branch."""

import pytest

from amounts import LPH
from devices_of import manifolds
from fuente.catalogue import ball_valve_angle, ball_valve_k, wider_pipe
from fuente.demo.back_room import back_room
from fuente.devices.manifold.network import branch_id
from fuente.devices.pumping import PumpSpec, pump_curve, suction_head, suction_pipe, with_suction
from fuente.document.curves import parse_curve, read_curve
from fuente.document.system import apply, set_value
from fuente.errors import EntryError
from fuente.findings import findings
from fuente.hydraulics.pipes import Pipe, spray_bar_k
from fuente.shown.stations import stations
from fuente.study.analysis import Analysis
from fuente.water.properties import water

STUFF = water(20)


def test_ball_valve_follows_weisbach():
    """Weisbach's cock in a round pipe: 5.47 at 30°, 31.2 at 45°, 206 at 60°, plus the open valve's 0.1."""
    for angle, k in ((10, 0.29), (30, 5.47), (45, 31.2), (60, 206.0)):
        assert ball_valve_k(angle) == pytest.approx(k + 0.1, rel=0.01)
    assert ball_valve_k(90) is None
    for angle in (0.0, 12.0, 37.5, 58.0, 68.0):
        assert ball_valve_angle(ball_valve_k(angle)) == pytest.approx(angle, abs=1e-6)


def test_spray_bar_is_its_jets():
    """Twelve 4 mm holes with C = 0.62 pass Q at Q = C·n·a·√(2gh): the coefficient gives that head on the
    branch's bore.
    """
    flow, bore = 200 * LPH, 0.012
    speed = flow / (3.14159265 / 4 * bore**2)
    head = spray_bar_k(bore, 12, 0.004) * speed**2 / (2 * 9.80665)
    jets = flow / (0.62 * 12 * 3.14159265 / 4 * 0.004**2)
    assert head == pytest.approx(jets**2 / (2 * 9.80665), rel=1e-6)


def test_two_pumps_in_a_row_add_their_heads():
    one, two = PumpSpec(max_head=2.5, max_flow=1e-3), PumpSpec(max_head=2.5, max_flow=1e-3, stages=2)
    for flow in (0.0, 4e-4, 9e-4):
        assert pump_curve(two).head(flow) == pytest.approx(2 * pump_curve(one).head(flow))
    points = ((0.0, 3.0), (5e-4, 2.0), (1e-3, 0.5))
    row = PumpSpec(points=points, stages=2, wear=0.9)
    assert pump_curve(row).head(5e-4) == pytest.approx(0.9 * 4.0)


def test_a_suction_pipe_costs_what_it_costs():
    pump = PumpSpec(beside=True, suction="32-pn10", suction_length=1.5)
    rising = Pipe(0.0452, 4.0, 6.0, water=STUFF)
    flow = 3000 * LPH
    whole = with_suction(pump, rising)
    separate = rising.head_loss(flow) + suction_pipe(pump, STUFF).head_loss(flow)
    assert whole.head_loss(flow) == pytest.approx(separate, rel=0.03)
    assert with_suction(PumpSpec(), rising) is rising


def test_suction_is_friction_speed_and_height():
    pump = PumpSpec(beside=True, suction="40-pn10", suction_length=0.8, axis=0.3)
    pipe = suction_pipe(pump, STUFF)
    speed = 5000 * LPH / pipe.area
    wanted = pipe.head_loss(5000 * LPH) + speed**2 / (2 * 9.80665) + 0.3 - 0.2
    assert suction_head(pump, 5000 * LPH, 0.25, 0.05, STUFF) == pytest.approx(wanted)


def test_a_pump_over_the_water_must_be_primed(demo):
    high = apply(demo, set_value("x", ("devices", "return", "pump", "beside"), True))
    high = apply(high, set_value("x", ("devices", "return", "pump", "axis"), 0.4))
    (found,) = [f for f in findings(Analysis(high)) if f.code == "pump-primes"]
    lower = Analysis(apply(high, found.edit))
    assert "pump-primes" not in {f.code for f in findings(lower)}
    thin = apply(lower.system, set_value("x", ("devices", "return", "pump", "suction"), "hose-16"))
    thin = apply(thin, set_value("x", ("devices", "return", "pump", "suction_length"), 2.0))
    codes = {f.code: f for f in findings(Analysis(thin))}
    assert "soft hose folds" in codes["suction-high"].text
    assert Analysis(thin).running.kind_flow("pump") < lower.running.kind_flow("pump")


def test_wider_pipe_stays_in_its_family():
    assert wider_pipe("32-pn10") == "40-pn10"
    assert wider_pipe("hose-16") == "hose-19"
    assert wider_pipe("1in-40") == "1.25in-40"
    assert wider_pipe("hose-50") is None


@pytest.mark.parametrize(
    ("text", "second"),
    [
        ("0,3.6\n2500,2.7\n5000,0.2\n", (2500 * LPH, 2.7)),
        ("flow L/h, head m\n0,3.6\n2500,2.7\n5000,0.2", (2500 * LPH, 2.7)),
        ("Head (ft);Flow (gph)\n12;0\n9,5;660\n1;1320\n", (660 * 3.785411784e-3 / 3600, 9.5 * 0.3048)),
        ("# a maker's table\nflow l/min\thead cm\n0\t360\n40\t270\n80\t20", (40e-3 / 60, 2.7)),
    ],
)
def test_a_table_of_points(text, second):
    points = parse_curve(text)
    assert len(points) == 3
    assert points[1] == pytest.approx(second)
    PumpSpec(points=points)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "empty"),
        ("0,3.6", "fewer than two"),
        ("0,1\n5,2", "must fall"),
        ("a,b\n1,2", "should name"),
        ("0,3.6\n100", "no two numbers"),
        ("0,3.6\nx,1", "not two numbers"),
        ("0,3\n-5,4\n9,1", "2 to 60 points"),
    ],
)
def test_a_bad_table_is_a_sentence(text, words):
    with pytest.raises(EntryError, match=words):
        parse_curve(text)


def test_a_file_that_is_no_table(tmp_path):
    with pytest.raises(EntryError, match="no file"):
        read_curve(tmp_path / "none.csv")
    (tmp_path / "b.csv").write_bytes(b"\xff\xfe\x00\x01")
    with pytest.raises(EntryError, match="not text"):
        read_curve(tmp_path / "b.csv")


def test_a_bucket_at_one_tank_corrects_its_branch():
    """A timed bucket that finds a tenth less: one multiplier on that branch, and the network gives the
    measured flow.
    """
    analysis = Analysis(back_room())
    key = branch_id(manifolds(analysis.system)[0], "rack-2-4")
    measured = 0.9 * analysis.running.flow[key]
    card = next(s for s in stations(analysis, None, "rack-2-4") if s.id == "rack-2-4")
    field = next(c for c in card.choices if c.label == "Flow by timed bucket")
    done = Analysis(apply(analysis.system, field.make(measured)), analysis)
    assert done.running.flow[key] == pytest.approx(measured, rel=0.01)
    assert (
        done.running.flow[branch_id(manifolds(done.system)[0], "rack-2-5")]
        > analysis.running.flow[branch_id(manifolds(analysis.system)[0], "rack-2-5")]
    )
    card = next(s for s in stations(done, None, "rack-2-4") if s.id == "rack-2-4")
    says = next(r for r in card.readings if r.label == "Head by the bucket test")
    assert 0 < says.value < 1.0
    with pytest.raises(EntryError, match="does not fit"):
        field.make(50 * measured)
