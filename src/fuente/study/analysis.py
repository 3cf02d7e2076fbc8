"""What follows from a System: the network in every situation, each with its verdict."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, TypeVar

from fuente import halting
from fuente.devices import kind_of
from fuente.devices.base import Rank, Verdict
from fuente.devices.contract import Warmth
from fuente.devices.offered import Balance
from fuente.document.system import System
from fuente.errors import FuenteError
from fuente.hydraulics.air import OPEN_VALVE
from fuente.network import Network, Solution, settle
from fuente.network.aeration import Aeration
from fuente.network.model import NOTHING
from fuente.study.breaking import Fault
from fuente.study.faults import broken
from fuente.study.lowered import Lowered
from fuente.study.situation import Situation
from fuente.study.situations import SITUATIONS, applying
from fuente.study.warmth import warmth

_Made = TypeVar("_Made")


@dataclass(frozen=True)
class Answers:
    """Situations of one design as far as they are solved, and why others have no state; by name and what they are
    about. ``more`` is what else was worked out of it, by name.
    """

    done: dict[tuple[str, str], Situation] = field(default_factory=dict)
    failed: dict[tuple[str, str], FuenteError] = field(default_factory=dict)
    more: dict[str, Any] = field(default_factory=dict)


class Analysis(Lowered):
    """Everything that is computed of one System. Each situation is solved when it is first asked for.

    ``before`` is the analysis of a neighbouring design, whose levels are good first guesses. ``answers`` are those of
    this very design from another time.
    """

    def __init__(self, system: System, before: Analysis | None = None, answers: Answers | None = None):
        super().__init__(system)
        self.answers = answers or Answers()
        self._done, self._failed = self.answers.done, self.answers.failed
        self._hasty = False
        self._stands_in: Analysis | None = None
        # Of a neighbouring design: levels and flows are first guesses, and never choose between two answers.
        self._guess: dict[str, Mapping[str, float]] = {}
        self.first_flows: Mapping[str, float] = NOTHING
        if before is not None and [c.id for c in before.network.cells] == [c.id for c in self.network.cells]:
            self._guess = dict(before._guess)
            done = before._done.get(("running", ""))
            self.first_flows = done.solution.flow if done else before.first_flows

    # -- the system -----------------------------------------------------------------------------------------------

    # -- flows ----------------------------------------------------------------------------------------------------

    @property
    def running(self) -> Solution:
        """The running state."""
        return self.situation("running").solution

    def standing(self, leak: float) -> Network:
        """All pumps off, their valves letting a share of the free back-flow through; where there is no valve, all of
        it.
        """
        return broken(self, (Fault("power-cut"), Fault("check-valve-leak", value=leak)), self.calm)

    def filter_room(self) -> float:
        """Water in m³ that the filters take, pumps running, from the running level to the rim of the fullest."""
        running = self.running
        cells = (self.network.cell(key) for key in self._filter_cells)
        return sum(c.curve.volume(c.rim) - running.volume[c.id] for c in cells)

    # -- drains ---------------------------------------------------------------------------------------------------

    def most_exposed(self) -> str:
        """Id of the tank with the least room for the water that its pump gives: the one to block a drain of."""
        return self._most_exposed

    @cached_property
    def _most_exposed(self) -> str:
        tanks = self.system.tanks
        if len(tanks) == 1:
            return tanks[0].id

        def room(tank_id: str) -> float:
            cell = self.network.cell(tank_id)
            gives = self.supply(self.running, tank_id)
            spare = cell.curve.volume(cell.rim) - self.running.volume[tank_id]
            return spare if gives > 1e-9 and self.drains(False, tank_id) else float("inf")

        return min((t.id for t in tanks), key=room)

    # -- air ------------------------------------------------------------------------------------------------------

    def lost_air(self, air_id: str) -> Mapping[str, float]:
        """What each device on an air pump would lose of its air, as a share, if the valve that matters most fell wide
        open.
        """
        return self._wide_open[air_id][0] if air_id in self.airs else {}

    def opened_most(self, air_id: str) -> int:
        """Position of that valve's drop."""
        return self._wide_open[air_id][1]

    @cached_property
    def _wide_open(self) -> dict[str, tuple[dict[str, float], int]]:
        return {key: wide_open(group, self.running) for key, group in self.airs.items()}

    # -- situations -----------------------------------------------------------------------------------------------

    def names(self) -> list[str]:
        """Names of all situations that this system can be in, in the order of the strip."""
        return list(applying(self))

    def situation(self, name: str, about: str = "") -> Situation:
        """One situation, solved once; ``about`` one thing, or the worst. Raises FuenteError where the water finds no
        state.
        """
        key = name, about
        if key in self._failed:
            raise self._failed[key]
        if key not in self._done:
            halting.step()
            try:
                made = SITUATIONS[name].solve(self, about)
            except FuenteError as error:
                self._failed[key] = error
                raise
            self._done[key] = made
        self._guess[f"{name}.{about}" if about else name] = self._done[key].solution.level
        return self._done[key]

    def in_haste(self, before: Analysis | None = None) -> None:
        """Until the frame is painted: what is only glanced at and not solved yet is that of a neighbouring design, as
        while a handle moves; nothing where there is none.
        """
        self._hasty = True
        if before is not None:
            last = before if before._done.keys() - {("running", "")} else before._stands_in
            self._stands_in = last if last is not None and last.network.index == self.network.index else None

    def at_leisure(self) -> None:
        """Every situation is this design's own again."""
        self._hasty, self._stands_in = False, None

    def peek(self, name: str, about: str = "") -> Situation | FuenteError | None:
        """One situation: solved now in a small system, None where a large one has not been solved for it yet."""
        if self._hasty and self.known(name, about) is None:
            return self._stands_in.known(name, about) if self._stands_in is not None else None
        if (name, about) in self._done or (name, about) in self._failed or not self.large:
            return self.try_situation(name, about)
        return None

    def known(self, name: str, about: str = "") -> Situation | FuenteError | None:
        """One situation where it has been solved already."""
        return self._done.get((name, about)) or self._failed.get((name, about))

    def try_situation(self, name: str, about: str = "") -> Situation | FuenteError:
        """One situation, or the reason why there is none."""
        try:
            return self.situation(name, about)
        except FuenteError as error:
            return error

    def now(self) -> Situation:
        """The running state; the water at rest where nothing can run."""
        running = self.try_situation("running")
        return running if isinstance(running, Situation) else self.at_rest()

    def check(self) -> None:
        """Raise FuenteError, in words, where a pump cannot run at all."""
        for device in self.ordered:
            check = kind_of(device).check
            if check is not None:
                check(device, self.sites[device.id], self)

    def at_rest(self) -> Situation:
        """Still water with the marks as they are: what is shown where nothing can run."""
        off = self.standing(0.0)
        start = {c.id: c.floor + 0.6 * (c.rim - c.floor) for c in off.cells if not c.sink}
        for device in self.ordered:
            begin = kind_of(device).start
            if begin is not None:
                start.update(begin(device, self.sites[device.id]))
        for cell in self._filter_cells if self._wells else ():
            mark = self.network.marks.get(self._wells[0][1].leave, start[cell])
            start[cell] = min(mark, self.network.cell(cell).rim - 0.01)
        return Situation("rest", "At rest", settle(off, start), Verdict("nothing runs", {}, Rank.STOP))

    def settle(self, name: str, network: Network, start: Solution | None = None) -> Solution:
        """Where the water goes from the running state, or another, in a changed network; what is known of that is a
        guess.
        """
        now = start or self.running
        solution = settle(network, now.level, self._guess.get(name), self.running.flow, now.piped)
        self._guess[name] = solution.level
        return solution

    def first_guess(self, name: str) -> Mapping[str, float] | None:
        """Levels of a neighbouring design in a situation, where there are any."""
        return self._guess.get(name)

    def warmth(self, cell_id: str) -> Warmth | None:
        """How warm the water that a cell is part of is kept, and what failing heaters make of it; None where nothing
        heats it, or nothing runs.
        """
        if isinstance(self.try_situation("running"), FuenteError):
            return None
        body = next((b for b in self.bodies if cell_id in b), ())
        return warmth(self, body)

    def kept(self, key: str, make: Callable[[], _Made]) -> _Made:
        """What was worked out of this design once, under a name of its own."""
        if key not in self.answers.more:
            self.answers.more[key] = make()
        made: _Made = self.answers.more[key]
        return made

    # -- reading --------------------------------------------------------------------------------------------------

    def balance(self, device_id: str, turnover: float) -> Balance | None:
        """What to set a device's valves to for a turnover in 1/s of every tank that it serves; None where
        it has none.
        """
        device = self.system.device(device_id)
        made = kind_of(device).balance
        return made(device, self.sites[device_id], self, turnover) if made else None


def wide_open(group: Aeration, running: Solution) -> tuple[dict[str, float], int]:
    """What each device on an air pump loses of its air, as a share, and which drop's valve does that."""
    drops = group.supply.drops
    levels = [running.level[c] for c in group.cells]
    now = group.air(levels)[: len(drops)]
    throttled = [i for i, d in enumerate(drops) if d.valve_k > 1.3 * OPEN_VALVE or d.shut]
    best: dict[str, float] = {}
    which = 0
    # The one that stands shallowest and most closed takes most.
    for i in sorted(throttled, key=lambda i: -drops[i].valve_k)[:3]:
        changed = list(drops)
        changed[i] = replace(drops[i], valve_k=OPEN_VALVE, shut=False)
        opened = group.changed(drops=tuple(changed)).air(levels)
        lost = {d.lift.owner: float(1 - opened[k] / now[k]) for k, d in enumerate(drops) if k != i and now[k] > 1e-9}
        if lost and max(lost.values()) > max(best.values(), default=-1.0):
            best, which = lost, i
    return best, which
