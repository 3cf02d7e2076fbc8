"""What passed every way of a demo's wet test makes its volumes: what will ride on the water needs that."""

import pytest

from closing import closure
from fuente.demo import DEMOS
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.faults import KINDS, fits
from fuente.study.wet_test import run


@pytest.mark.parametrize(
    "name", [n for n in DEMOS if n != "back-room"] + [pytest.param("back-room", marks=pytest.mark.slow)]
)
def test_a_demo_with_its_faults_closes(name):
    analysis = Analysis(DEMOS[name]())
    faults = [Fault(kind, 60.0 + 40.0 * i) for i, kind in enumerate(k for k in KINDS if fits(analysis, k))]
    history = run(analysis, faults, 900.0).history
    assert len(history.events) == len(faults) >= 4
    assert closure(history) <= 1e-12 * history.volumes[0].sum()
    # The water that passed is the flow over the time, as far as a step's ends tell.
    busiest = max((w.id for w in analysis.whole.ways), key=lambda i: analysis.running.flow.get(i, 0.0))
    before = history.times <= 60.0
    assert history.passed_by(busiest)[before].sum() == pytest.approx(60.0 * analysis.running.flow[busiest], rel=0.02)
