"""Every kind over time and from two sides: the wet test ends where the situation stands, warm and cold
answers agree.
"""

from __future__ import annotations

import itertools

import pytest

from devices_of import FILTERS
from fuente.demo import DEMOS
from fuente.devices import kind_of
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply, set_value
from fuente.errors import FuenteError
from fuente.network.model import FLOOR
from fuente.shown.stations import stations
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.faults import fits
from fuente.study.filters import add_filter, first_layouts
from fuente.study.trials import standard_trials
from fuente.study.wet_test import run, solution_at
from fuente.typed import parse
from fuente.units import UnitSystem, shown

DAY = 86400.0
TANK = Tank(length=0.9, width=0.4, height=0.45, thickness=0.008, stand=0.8, feed=2e-3 / DAY)
each = pytest.mark.parametrize("kind", FILTERS)


def built(kind):
    bare = System(devices=(TANK,))
    spec = next(s for k, s in first_layouts(bare, "tank") if k.id == kind)
    assert not isinstance(spec, FuenteError)
    return apply(bare, add_filter(bare, spec))


def valves(analysis):
    return fits(analysis, "check-valve-leak")


@each
def test_a_power_cut_ends_where_the_situation_stands(kind):
    """An hour in small steps against one settling: every level within two millimetres, the film's last drops apart. A
    round opening drains ever more slowly, and so does a weir.
    """
    analysis = Analysis(built(kind))
    rest = analysis.situation("power_cut").solution
    tight = [Fault("power-cut", 5.0, 1.0), *([Fault("check-valve-leak", 5.0, 0.0)] if valves(analysis) else [])]
    test = run(analysis, tight, 3600.0)
    end = solution_at(analysis, test, 3600.0)
    for cell in analysis.network.cells:
        if cell.sink or cell.id.endswith(".film"):
            continue
        assert end.level[cell.id] == pytest.approx(rest.level[cell.id], abs=2e-3), cell.id
    assert end.volume.get(FLOOR, 0.0) == pytest.approx(rest.volume.get(FLOOR, 0.0), abs=2e-5)


@each
def test_power_that_returns_brings_the_levels_back(kind):
    analysis = Analysis(built(kind))
    test = run(analysis, [Fault("power-cut", 5.0, 1.0), Fault("power-return", 305.0, 1.0)], 2400.0)
    end = solution_at(analysis, test, 2400.0)
    for cell in analysis.network.cells:
        if not cell.sink:
            assert end.level[cell.id] == pytest.approx(analysis.running.level[cell.id], abs=2e-3), cell.id


@each
def test_warm_and_cold_answers_agree(kind):
    """A neighbour's answer is only a guess: the same design solved from nothing says the same in every situation."""
    system = built(kind)
    warm = Analysis(system)
    for name in warm.names():
        warm.situation(name)
    changed = apply(system, set_value("x", ("devices", "tank", "temperature"), 19.0))
    again, cold = Analysis(changed, warm), Analysis(changed)
    for name in cold.names():
        a, b = again.situation(name).solution, cold.situation(name).solution
        for cell in cold.network.cells:
            if not cell.sink:
                assert a.level[cell.id] == pytest.approx(b.level[cell.id], abs=5e-4), (name, cell.id)


@each
def test_its_card_reads_and_types_in_both_unit_systems(kind):
    """What a field shows is what it takes: no field changes when it is typed as it stands."""
    analysis = Analysis(built(kind))
    spec = analysis.system.filters[0]
    rows = [s for s in stations(analysis) if s.id.partition(".")[0] == spec.id]
    tried = 0
    for choice in (c for s in rows for c in s.choices):
        if choice.quantity in ("choice", "text", "count", "flag", "fittings", "curve") or not isinstance(
            choice.value, float
        ):
            continue
        for units in UnitSystem:
            typed = parse(shown(choice.value, choice.quantity, units), choice.quantity, units)
            assert typed == pytest.approx(choice.value, rel=0.06, abs=1e-3), choice.label
            tried += 1
    assert tried >= 8


@each
def test_more_dirt_never_means_more_flow(kind):
    """Where a kind has a pad, a bed or felt: its flow falls, or stays, as its loss grows."""
    system = built(kind)
    if not hasattr(system.filters[0], "dirt"):
        return
    flows = []
    for dirt in (1.0, 5.0, 25.0, 125.0):
        analysis = Analysis(apply(system, set_value("x", (*system.filters[0].path, "dirt"), dirt)))
        flows.append(analysis.moved(analysis.running, "tank"))
    assert all(b <= a * (1 + 1e-6) for a, b in itertools.pairwise(flows)), flows
    assert flows[-1] > 0 or kind in ("canister",)


@pytest.mark.parametrize("name", DEMOS)
def test_every_demo_stands_its_trials_or_says_by_how_much(name):
    """All standard trials of every demo are run; each says its margin in words without a slot left open."""
    analysis = Analysis(DEMOS[name]())
    trials = standard_trials(analysis)
    assert len(trials) >= 3
    quick = [t for t in trials if t.until <= 1800][: 3 if len(analysis.system.tanks) > 1 else 5]
    for trial in quick:
        test = run(analysis, trial.faults, min(trial.until, 600.0))
        for units in UnitSystem:
            words = test.verdict.filled(units)
            assert "{" not in words
            assert len(words) > 5


@each
def test_two_of_a_kind_in_two_tanks_do_not_touch_each_other(kind):
    """Waters that share nothing keep their own levels: the second is as the first was alone."""
    alone = Analysis(built(kind))
    other = TANK.model_copy(update={"id": "other", "name": "Other", "offset": 6.0})
    pair = apply(alone.system, set_value("x", other.path, other))
    spec = next(s for k, s in first_layouts(pair, "other") if k.id == kind)
    if kind_of(spec).air:
        return  # they share the air
    both = Analysis(apply(pair, add_filter(pair, spec)))
    assert both.running.level["tank"] == pytest.approx(alone.running.level["tank"], abs=1e-5)
    assert both.moved(both.running, "tank") == pytest.approx(alone.moved(alone.running, "tank"), rel=1e-4)
    assert both.moved(both.running, "other") == pytest.approx(alone.moved(alone.running, "tank"), rel=2e-2)


@pytest.mark.parametrize("packing", [0.2, 0.5, 0.9, 1.5])
def test_a_taller_tower_keeps_its_tray_from_being_drawn_below_its_floor(packing):
    """A hose that ends under the tray would siphon it once the pump stands; no cell holds less than nothing."""
    system = built("trickle_tower")
    analysis = Analysis(apply(system, set_value("x", (*system.filters[0].path, "packing"), packing)))
    for name in analysis.names():
        held = analysis.situation(name).solution.volume
        inside = {c.id: held[c.id] for c in analysis.network.cells if not c.sink}
        assert min(inside.values()) > -1e-6, (name, min(inside, key=inside.get))
    test = run(analysis, [Fault("power-cut", 5.0, 1.0)], 900.0)
    free = [i for i, c in enumerate(analysis.network.cells) if not c.sink]
    assert test.history.volumes[:, free].min() > -1e-6


@pytest.mark.parametrize(
    ("kind", "path", "value"),
    [
        ("sock", ("drain", "height"), 0.018),  # its hole would reach under the floor
        ("trickle_tower", ("feed", "release"), 1.525),  # higher than its pump lifts: no water comes
    ],
)
def test_no_cell_holds_less_than_nothing_at_the_edge_of_what_can_be_built(kind, path, value):
    system = built(kind)
    analysis = Analysis(apply(system, set_value("x", (*system.filters[0].path, *path), value)))
    for name in analysis.names():
        held = analysis.situation(name).solution.volume
        assert min(held[c.id] for c in analysis.network.cells if not c.sink) > -1e-6, name
