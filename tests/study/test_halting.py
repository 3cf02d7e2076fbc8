"""What nobody waits for any more ends at its next step, and leaves nothing half done."""

from __future__ import annotations

import threading

import pytest

from fuente.demo.back_room import back_room
from fuente.errors import FuenteError
from fuente.findings.judge import findings
from fuente.halting import Halted, halted_when, step
from fuente.study.analysis import Analysis


class After:
    """Says stop from so many questions on."""

    def __init__(self, many):
        self.left = many

    def __call__(self):
        self.left -= 1
        return self.left < 0


def test_nothing_halts_where_nobody_asked_for_it():
    step()
    with halted_when(lambda: False):
        step()
    step()


@pytest.mark.parametrize("many", [0, 3, 40])
def test_what_was_halted_is_solved_afterwards_as_if_it_had_not_been(demo, many):
    study = Analysis(demo)
    with pytest.raises(Halted), halted_when(After(many)):
        findings(study)
    assert findings(study) == findings(Analysis(demo))


def test_a_halt_is_no_reason_why_a_design_does_not_run(demo):
    """Nothing that takes an error for an answer takes a halt for one."""
    assert not issubclass(Halted, FuenteError)
    study = Analysis(demo)
    with pytest.raises(Halted), halted_when(After(30)):
        [study.try_situation(name) for name in study.names()]
    assert not isinstance(study.try_situation("valve_leaks"), FuenteError)


def test_a_large_system_halts_within_a_few_steps():
    asked = After(25)
    with pytest.raises(Halted), halted_when(asked):
        findings(Analysis(back_room()))
    assert asked.left == -1  # the first yes was heeded


def test_other_threads_go_on(demo):
    heard = []

    def other():
        try:
            heard.append(len(Analysis(demo).situation("running").solution.level))
        except Halted:
            heard.append("halted")

    with halted_when(lambda: True):
        thread = threading.Thread(target=other)
        thread.start()
        thread.join()
        with pytest.raises(Halted):
            Analysis(demo).situation("running")
    assert heard == [len(Analysis(demo).network.cells)]
