"""The same document, the same answer: from the design before, as in a window, and from nothing, as a file opens."""

from __future__ import annotations

import random

import pytest

from designs import design, edited
from fuente.study.analysis import Analysis
from fuente.study.situation import Situation

SAME = 1e-6  # m, m³
# Each once told the two apart: a tray that runs dry, a box through which nothing flows any more, water that does not
# run at all, tubs in close touch with what hangs in them, the tail of a standpipe that runs dry.
TOLD_APART = (9307, 9355, 9478, 9488, 9499, 9615, 9680, 21973, 30309)


@pytest.mark.parametrize("seed", [*TOLD_APART, *range(46, 49)])
def test_edits_one_after_the_other_answer_as_if_each_were_opened_anew(seed):
    rng = random.Random(seed + 1_000_000)
    _, system = design(seed)
    before = Analysis(system)
    for name in before.names():
        before.try_situation(name)
    for _ in range(3):
        system = edited(system, rng)
        warm, cold = Analysis(system, before), Analysis(system)
        for name in cold.names():
            one, two = warm.try_situation(name), cold.try_situation(name)
            if not isinstance(one, Situation) or not isinstance(two, Situation):
                assert str(one) == str(two)
                continue
            a, b = one.solution, two.solution
            far = {c.id: a.level[c.id] - b.level[c.id] for c in a.network.cells if not c.sink}
            assert max(map(abs, far.values())) < SAME, (name, {k: v for k, v in far.items() if abs(v) > SAME})
            assert a.spilled == pytest.approx(b.spilled, abs=SAME)
            assert min(v for k, v in a.volume.items() if not a.network.cell(k).sink) >= -SAME
        before = warm
