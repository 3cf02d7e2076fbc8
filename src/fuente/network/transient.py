"""The water in time: dV/dt = ΣQ with things that happen on the way.

Implicit Euler taken once whole and once in two halves; the difference says how far off the step is, and the two
together give the second-order result, 2·V(halves) − V(whole), and so what passed every way. Both keep the water, and so
does their sum.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from fuente.errors import SolveError
from fuente.network.assembly import Assembly
from fuente.network.model import FLOOR, NOTHING, Network, WayKind
from fuente.network.settling import Coming, begun
from fuente.network.steps import double_step

TOLERANCE = 8e-4  # m that a level may be off in one step, before the two results are put together
_FIRST = 0.01  # s, after every event: a peak may come and go in a blink
_LEAST = 1e-4  # s
_GRAIN = 1e-6  # m under which two heights are one
STILL = 1e-6 / 60  # m/s: a thousandth of a millimetre a minute counts as still


@dataclass(frozen=True)
class Event:
    """From a time in s on, the water moves through another network with the same cells."""

    time: float
    name: str
    network: Network


@dataclass(frozen=True)
class History:
    """Levels m, volumes m³ and flows m³/s at times s; columns in the order of the network's cells and links.

    A cell's volume is that of its water with the pipes that come down to it.
    """

    network: Network
    times: np.ndarray  # (n,)
    levels: np.ndarray  # (n, cells)
    volumes: np.ndarray  # (n, cells)
    flows: np.ndarray  # (n, links)
    link_ids: tuple[str, ...]
    events: tuple[tuple[float, str], ...]
    raw_passed: np.ndarray  # (n, links): m³ since the row before, as the solver put it together
    networks: tuple[tuple[int, Network], ...]  # the row from which on each network held

    @cached_property
    def _link_index(self) -> dict[str, int]:
        return {key: i for i, key in enumerate(self.link_ids)}

    def level(self, cell_id: str) -> np.ndarray:
        """A cell's level over time, m."""
        return self.levels[:, self.network.index[cell_id]]

    def flow(self, link_id: str) -> np.ndarray:
        """A link's flow over time, m³/s; zero while it was not there."""
        i = self._link_index.get(link_id)
        return self.flows[:, i] if i is not None else np.zeros_like(self.times)

    @cached_property
    def passed(self) -> np.ndarray:
        """What every way passed since the row before, m³, (n, links), from its first end to its second.

        Volumes are these summed up, to rounding: what Newton left over of a step, some 1e-13 of all water, is laid on
        the ways that moved water, by least squares. What rides on the water is carried by these.
        """
        found = self.raw_passed.copy()
        rows = [row for row, _ in self.networks] + [len(self.times)]
        for (begin, network), end in zip(self.networks, rows[1:], strict=True):
            span = slice(begin + 1, end)
            if begin + 1 >= end:
                continue
            moved = found[span]
            ways = [w for w in network.ways if w.kind != WayKind.AIR and moved[:, self._link_index[w.id]].any()]
            columns = [self._link_index[w.id] for w in ways]
            # Where pipes fork there is no cell: what comes in there goes out.
            forks = {end for w in ways for end in (w.a, w.b)} - network.index.keys()
            row_of = {**network.index, **{key: len(network.cells) + i for i, key in enumerate(sorted(forks))}}
            ends = np.zeros((len(row_of), len(ways)))
            for i, way in enumerate(ways):
                ends[row_of[way.a], i] -= 1.0
                ends[row_of[way.b], i] += 1.0
            gained = np.pad(np.diff(self.volumes[begin:end], axis=0), ((0, 0), (0, len(forks))))
            laid = np.linalg.pinv(ends)
            for _ in range(2):  # once more for what rounding left
                left = gained - found[span][:, columns] @ ends.T
                found[np.ix_(range(begin + 1, end), columns)] += left @ laid.T
        return found

    def passed_by(self, link_id: str) -> np.ndarray:
        """What a way passed since the row before, m³, (n,); zero while it was not there."""
        i = self._link_index.get(link_id)
        return self.passed[:, i] if i is not None else np.zeros_like(self.times)

    def at(self, time: float) -> dict[str, float]:
        """Levels in m by cell at a time in s, between steps by straight lines."""
        return {
            cell.id: float(np.interp(time, self.times, self.levels[:, i])) for i, cell in enumerate(self.network.cells)
        }

    def flows_at(self, time: float) -> dict[str, float]:
        """Flows in m³/s by link at a time in s, as of the step before it."""
        row = min(int(np.searchsorted(self.times, time, side="right")), len(self.times)) - 1
        return {key: float(self.flows[max(row, 0), i]) for i, key in enumerate(self.link_ids)}

    def network_at(self, time: float) -> Network:
        """The network that holds at a time in s."""
        row = int(np.searchsorted(self.times, time, side="right")) - 1
        return next(net for begin, net in reversed(self.networks) if begin <= max(row, 0))

    @property
    def spilled(self) -> float:
        """Water on the floor at the end, m³."""
        return float(self.volumes[-1, self.network.index[FLOOR]]) if FLOOR in self.network.index else 0.0

    def peak(self, cell_id: str, after: float = -np.inf) -> tuple[float, float]:
        """Highest level in m ``after`` a time in s (or ever, where nothing came after), and the first time in s at
        which it stood there to a micrometre: where water stands still its last digits would choose.
        """
        later = self.times > after
        column = self.level(cell_id)[later] if later.any() else self.level(cell_id)
        times = self.times[later] if later.any() else self.times
        highest = float(column.max())
        return highest, float(times[int(np.argmax(column >= highest - _GRAIN))])

    def still_from(self) -> float | None:
        """Time in s from which no level moves any more than a thousandth of a millimetre a minute; None if never."""
        steps = np.diff(self.times)
        moving = np.zeros(len(steps), dtype=bool)
        for i, cell in enumerate(self.network.cells):
            if not cell.sink:
                rate = np.abs(np.diff(self.levels[:, i])) / np.maximum(steps, 1e-9)
                moving |= (rate > STILL) & (steps > 1e-9)
        last = np.flatnonzero(moving)
        if not last.size:
            return float(self.times[0])
        return None if last[-1] == len(steps) - 1 else float(self.times[last[-1] + 1])

    def crossing(self, cell_id: str, level: float, upwards: bool = True) -> float | None:
        """First time in s at which a cell passes a level in m; None where it never does."""
        column = self.level(cell_id)
        over = column > level if upwards else column < level
        rows = np.flatnonzero(over)
        if not rows.size:
            return None
        row = int(rows[0])
        if row == 0:
            return float(self.times[0])
        a, b = column[row - 1], column[row]
        share = (level - a) / (b - a) if b != a else 0.0
        return float(self.times[row - 1] + share * (self.times[row] - self.times[row - 1]))


def transient(
    network: Network,
    start: Mapping[str, float],
    until: float,
    events: Sequence[Event] = (),
    *,
    tolerance: float = TOLERANCE,
    longest: float = 90.0,
    progress: Callable[[float], bool] | None = None,
    known: Mapping[str, float] = NOTHING,
) -> History:
    """Follow levels (cell id → m) for ``until`` s through events. Water is kept to 1e-12 of the total.

    ``tolerance`` m bounds a step's error in any level, ``longest`` s a step. ``progress`` is told the share done and
    answers False to stop early. ``known`` are flows of a state near by, as for Assembly. Raises SolveError where a
    step of 0.1 ms does not close, or where a law draws on what is empty.
    """
    pending = sorted((e for e in events if e.time <= until), key=lambda e: e.time)
    now = network
    assembly = Assembly(now, known)
    z = np.array([start.get(cell.id, cell.floor) for cell in network.cells])
    volumes = begun(assembly, z, None)
    for i in np.flatnonzero(assembly.sinks):
        z[i] = network.cells[i].floor
    total = float(volumes.sum())
    coming = Coming.none(assembly)
    log = _Log(network, pending)
    t, step = 0.0, _FIRST
    log.add(t, z, volumes, assembly)
    while t < until - 1e-9:
        while pending and pending[0].time <= t + 1e-9:
            event = pending.pop(0)
            now = event.network
            flows = assembly.flows(z)
            assembly = Assembly(now, flows)
            step = _FIRST
            volumes = volumes - coming.left
            more = Coming.between(assembly, z, volumes, flows)
            coming = Coming(coming.left + more.left, np.maximum(coming.rate, more.rate))
            volumes = volumes + coming.left - more.left
            log.happened.append((event.time, event.name))
            log.add(t, z, volumes, assembly)
            log.networks.append((len(log.times) - 1, now))
        stop = min(until, pending[0].time if pending else until)
        step = min(step, longest, stop - t, coming.longest)
        tried = double_step(assembly, z, volumes - coming.left, step, coming.flow())
        if tried is None:
            step /= 4
            if step < _LEAST:
                raise SolveError("The water moves too fast to be followed here; look for two cells without a wall.")
            continue
        at, new, error, through = tried
        if error > tolerance and step > 1e-3:
            step *= max(0.2, 0.8 * (tolerance / error) ** 0.5)
            continue
        coming.pass_by(step)
        z, volumes = at, new + coming.left
        largest = int(np.argmax(volumes))
        volumes[largest] += total - float(volumes.sum())
        assembly.refuse_less_than_nothing(volumes)
        t = stop if stop - (t + step) < 1e-6 else t + step
        log.add(t, z, volumes, assembly, through)
        step *= min(3.0, max(0.5, 0.8 * (tolerance / max(error, 1e-12)) ** 0.5))
        if progress is not None and not progress(t / until):
            break
    return log.history()


class _Log:
    """Rows of a history as they come; columns for the ways of every network that will hold."""

    def __init__(self, network: Network, events: Sequence[Event]):
        self.network = network
        self.networks = [(0, network)]
        self.happened: list[tuple[float, str]] = []
        self.times: list[float] = []
        self._rows: list[tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray]] = []
        self._column: dict[str, int] = {}
        for net in (network, *(e.network for e in events)):
            for key in net.way_ids:
                self._column.setdefault(key, len(self._column))

    def add(
        self, t: float, z: np.ndarray, volumes: np.ndarray, assembly: Assembly, through: np.ndarray | None = None
    ) -> None:
        """A moment in s: levels m, volumes m³, and the volumes m³ that its step passed through every way."""
        columns = [self._column[key] for key in assembly.network.way_ids]
        flows, passed = np.zeros(len(self._column)), np.zeros(len(self._column))
        flows[columns] = assembly.way_flows(z)
        if through is not None:
            passed[columns] = through
        self.times.append(t)
        self._rows.append((z.copy(), volumes.copy(), flows, passed))

    def history(self) -> History:
        """All of it."""
        levels, volumes, flows, passed = (np.array(column) for column in zip(*self._rows, strict=True))
        return History(
            self.network,
            np.array(self.times),
            levels,
            volumes,
            flows,
            tuple(self._column),
            tuple(self.happened),
            passed,
            tuple(self.networks),
        )
