"""The solvers: known answers, water kept, and more flow never lowers a level upstream."""

import math
from dataclasses import replace

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from amounts import LPH
from fuente.errors import FuenteError, SolveError, SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.porous import foam
from fuente.hydraulics.weirs import gap_drop, weir_head
from fuente.network import Cell, LevelCurve, Link, Network, settle, steady
from fuente.network.laws import Bulkhead, Gap, Pad, Spill, Standpipe, Weir
from fuente.network.model import FLOOR
from fuente.water.properties import water
from network.test_laws import LINE

SINK = Cell(FLOOR, "floor", -1000.0, -999.0, LevelCurve.prism(-1000.0, -999.0, 1e4), sink=True)


class Fixed:
    """A pump that never changes its mind."""

    def __init__(self, q: float):
        self.q = q

    def flow(self, a: float, b: float) -> tuple[float, float, float]:
        return self.q, 0.0, 0.0


def cell(name: str, floor: float = 0.0, rim: float = 0.5, area: float = 0.1) -> Cell:
    return Cell(name, name, floor, rim, LevelCurve.prism(floor, rim, area))


def loop(q: float, crest: float = 0.3) -> Network:
    """Two chambers, a weir, and a pump back."""
    return Network(
        (cell("a"), cell("b"), SINK),
        (
            Link("weir", "weir", "a", "b", Weir(crest, 0.4, crest)),
            Link("pump", "pump", "b", "a", Fixed(q), "pump"),
            Link("spill", "spill", "a", FLOOR, Spill(0.5, 1.0), "spill"),
        ),
        {"b": 0.2},
    )


def test_weir_stands_as_the_formula_says():
    q = 3000 * LPH
    solution = steady(loop(q))
    assert solution.level["a"] - 0.3 == pytest.approx(weir_head(q, 0.4, 0.3), abs=1e-9)
    assert solution.level["b"] == 0.2


def test_gap_drops_as_the_formula_says():
    q = 2000 * LPH
    net = Network(
        (cell("a"), cell("b")),
        (Link("gap", "gap", "a", "b", Gap(0.0, 0.4, 0.03)), Link("pump", "pump", "b", "a", Fixed(q))),
        {"b": 0.25},
    )
    solution = steady(net)
    assert solution.level["a"] - 0.25 == pytest.approx(gap_drop(q, 0.4, 0.03), rel=5e-3)


def test_bulkhead_between_two_sumps():
    """Energy by hand: 1.5 velocity heads and the friction of 0.1 m of 45 mm bore."""
    q = 4000 * LPH
    pipe = Pipe(0.0452, 0.1, 1.5)
    net = Network(
        (cell("a"), cell("b")),
        (Link("hole", "hole", "a", "b", Bulkhead(0.08, pipe)), Link("pump", "pump", "b", "a", Fixed(q))),
        {"b": 0.25},
    )
    assert steady(net).level["a"] - 0.25 == pytest.approx(pipe.head_loss(q), rel=1e-6)


def test_levels_equal_out_at_rest_and_water_is_kept():
    net = Network(
        (cell("a", area=0.2), cell("b", area=0.1)),
        (Link("gap", "gap", "a", "b", Gap(0.0, 0.3, 0.02)),),
    )
    end = settle(net, {"a": 0.4, "b": 0.1})
    assert end.level["a"] == pytest.approx(0.3, abs=1e-6)
    assert end.level["b"] == pytest.approx(0.3, abs=1e-6)
    assert end.total == pytest.approx(0.2 * 0.4 + 0.1 * 0.1, rel=1e-12)


def test_rest_stops_at_the_crest():
    net = loop(0.0)
    end = settle(net, {"a": 0.4, "b": 0.0})
    assert end.level["a"] == pytest.approx(0.3, abs=5e-5)
    assert end.level["b"] == pytest.approx(0.1, abs=5e-5)


def test_spilled_water_is_counted():
    net = Network((cell("a"), SINK), (Link("spill", "spill", "a", FLOOR, Spill(0.5, 1.0), "spill"),))
    end = settle(net, {"a": 0.6})
    assert end.level["a"] == pytest.approx(0.5, abs=5e-5)
    assert end.spilled == pytest.approx(0.01, rel=1e-3)
    assert end.total == pytest.approx(0.06, rel=1e-12)


def test_a_standpipe_empties_to_its_mouth_only():
    law = Standpipe(0.2, -1.0, Pipe(0.03, 1.2, 3.0), 0.012, 0.03)
    net = Network((cell("a"), cell("b", -1.2, -0.7, 1.0)), (Link("d", "d", "a", "b", law),))
    end = settle(net, {"a": 0.4, "b": -1.2})
    assert end.level["a"] == pytest.approx(0.2, abs=5e-5)


def test_nothing_marked_is_said():
    net = Network((cell("a"), cell("b")), ())
    with pytest.raises(SolveError, match="mark"):
        steady(net)


def test_links_to_nowhere_are_refused():
    with pytest.raises(SpecError, match="does not exist"):
        Network((cell("a"),), (Link("x", "x", "a", "z", Weir(0.1, 0.1)),))
    with pytest.raises(SpecError, match="same id"):
        Network((cell("a"), cell("a")), ())


def test_contents_displace_water():
    curve = LevelCurve.with_contents(0.0, 0.4, 0.1, [(0.0, 0.2, 0.01)])
    assert curve.volume(0.2) == pytest.approx(0.1 * 0.2 - 0.01)
    assert curve.volume(0.4) == pytest.approx(0.1 * 0.4 - 0.01)
    assert curve.level(curve.volume(0.123)) == pytest.approx(0.123)
    with pytest.raises(SpecError):
        LevelCurve.with_contents(0.0, 0.4, 0.1, [(0.0, 0.2, 0.02)])


links = st.tuples(
    st.sampled_from(["weir", "gap", "pad", "both"]), st.floats(0.05, 0.4), st.floats(0.01, 0.06), st.floats(0.5, 2)
)


def chain(spec: list, q: float) -> Network:
    """Chambers in a row with random partitions, and a pump from the last to the first."""
    cells = [cell(f"c{i}", area=0.03 + 0.01 * i, rim=0.6) for i in range(len(spec) + 1)]
    made = []
    stuff = water(22)
    for i, (kind, crest, gap, width) in enumerate(spec):
        a, b = f"c{i}", f"c{i + 1}"
        if kind in ("weir", "both"):
            made.append(Link(f"w{i}", "w", a, b, Weir(crest, 0.3 * width, crest)))
        if kind in ("gap", "both"):
            made.append(Link(f"g{i}", "g", a, b, Gap(0.0, 0.3 * width, gap)))
        if kind == "pad":
            made.append(Link(f"p{i}", "p", a, b, Pad(0.0, 0.3, 0.5, gap, foam(20).dirty(3), stuff)))
            made.append(Link(f"o{i}", "o", a, b, Weir(0.5, 0.3, 0.5)))
        made.append(Link(f"s{i}", "s", a, FLOOR, Spill(0.6, 0.5), "spill"))
    made.append(Link("pump", "pump", f"c{len(spec)}", "c0", Fixed(q), "pump"))
    return Network((*cells, SINK), tuple(made), {f"c{len(spec)}": 0.2})


@given(st.lists(links, min_size=1, max_size=8), st.floats(20 * LPH, 4000 * LPH))
def test_steady_balances_every_chamber(spec, q):
    solution = steady(chain(spec, q))
    assert solution.imbalance < 1e-11
    assert all(math.isfinite(v) for v in solution.level.values())


@given(st.lists(links, min_size=1, max_size=6), st.floats(50 * LPH, 2000 * LPH), st.floats(1.02, 1.5))
def test_more_flow_never_lowers_a_level_upstream(spec, q, more):
    low, high = steady(chain(spec, q)), steady(chain(spec, q * more))
    assume(not low.spilling and not high.spilling)
    for name in low.level:
        if name != FLOOR:
            assert high.level[name] >= low.level[name] - 1e-9


@given(st.lists(links, min_size=1, max_size=8), st.lists(st.floats(0.01, 0.59), min_size=9, max_size=9))
def test_rest_keeps_the_water_and_moves_no_more(spec, starts):
    net = chain(spec, 0.0)
    start = {f"c{i}": starts[i] for i in range(len(spec) + 1)}
    end = settle(net, start)
    before = sum(c.curve.volume(start[c.id]) for c in net.cells if not c.sink)
    assert end.total == pytest.approx(before, rel=1e-9)
    assert end.imbalance < 2e-7  # m³/s: the last of a weir's long tail
    assert min(end.level[f"c{i}"] for i in range(len(spec) + 1)) > -1e-9


def test_a_blocked_law_can_be_taken_out(solved):
    net = solved.network
    shut = net.replace_links({"return.pump": replace(solved.laws["return.pump"], on=False, leak=0.0)})
    assert len(shut.links) == len(net.links)
    gone = net.replace_links({"return.pump": None})
    assert len(gone.links) == len(net.links) - 1


def test_errors_are_fuentes_own():
    assert issubclass(SolveError, FuenteError)


@pytest.mark.parametrize("guess", [0.1, 0.45, 0.7])
def test_a_guess_does_not_say_how_high_water_stands_that_nothing_moves(guess):
    """A box that only drains: full at first, it stands at its crest, whatever another design's box did."""

    def cell(key, area):
        return Cell(key, key, 0.0, 1.0, LevelCurve.prism(0.0, 1.0, area))

    def weir(key, a, b, crest):
        return Link(key, key, a, b, Weir(crest, 0.1))

    cells = (cell("well", 0.2), cell("tank", 0.5), cell("box", 0.05))
    pump = replace(LINE, on=True, intake=0.05, outlets=(replace(LINE.outlets[0], mouth=0.9),))
    links = (Link("up", "up", "well", "tank", pump), weir("back", "tank", "well", 0.6), weir("out", "box", "well", 0.5))
    network = Network(cells, links, marks={"well": 0.3})
    cold = steady(network)
    assert cold.level["box"] == pytest.approx(0.5, abs=1e-3)
    warm = steady(network, {**cold.level, "box": guess}, cold.flow, guessed=True)
    assert warm.level == pytest.approx(cold.level, abs=1e-9)
