"""Pipes under pressure between open water: a manifold with its pumps, branches, outlets and side loops, as one group.

The gradient method of Todini and Pilati 1988 for the heads inside, at given levels outside; and by the same matrix, how
every flow changes with every level. The levels themselves are the business of the solvers.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import NamedTuple

import numpy as np

from fuente.errors import SolveError, SpecError
from fuente.network.duct import SHUT, Duct, PumpDuct, Spout
from fuente.network.duct_arrays import SEALED, Tables
from fuente.network.model import NOTHING, GroupHeld, Way

_ONE_WAY = 3  # cells up to which water has one way to go
_ROUNDS = 120
_CLOSE = 1e-13  # m³/s


@dataclass
class Scratch:
    """What a solver remembers of a group from one state to the next: flows m³/s, how far each spout was sealed and
    each pump's intake wet, heads m at the nodes, rounds of the last solve.
    """

    flow: np.ndarray
    sealed: np.ndarray
    wet: list[float]
    head: np.ndarray = field(default_factory=lambda: np.zeros(0))
    rounds: int = 0


class _Contents(NamedTuple):
    """Ducts whose water is counted: which, m³ of each, the cell it comes down to, and whether it can."""

    which: np.ndarray
    volume: np.ndarray
    cell: np.ndarray
    drains: np.ndarray


class Ducts:
    """A group of ducts. Places that are no cells are nodes; each must hang, over ducts, on a cell."""

    def __init__(self, ducts: Sequence[Duct], cells: Sequence[str]):
        self.ducts = tuple(ducts)
        known = set(cells)
        places = list(dict.fromkeys(p for d in ducts for p in (d.a, d.b)))
        self.cells = tuple(p for p in places if p in known)
        self.nodes = tuple(p for p in places if p not in known)
        if not self.cells:
            raise SpecError("A pipe system needs open water or an outlet somewhere.")
        self._connected()
        for duct in ducts:
            if isinstance(duct, Spout) and duct.b not in known:
                raise SpecError(f"“{duct.name}” must end in a tank or a chamber.")
            if isinstance(duct, PumpDuct) and duct.a not in known:
                raise SpecError(f"“{duct.name}” must draw from a chamber.")

    def _connected(self) -> None:
        near: dict[str, list[str]] = {}
        for duct in self.ducts:
            near.setdefault(duct.a, []).append(duct.b)
            near.setdefault(duct.b, []).append(duct.a)
        seen, todo = set(self.cells), list(self.cells)
        while todo:
            for other in near[todo.pop()]:
                if other not in seen:
                    seen.add(other)
                    todo.append(other)
        lost = next((n for n in self.nodes if n not in seen), None)
        if lost is not None:
            raise SpecError(f"“{lost}” is joined to no open water or outlet.")

    def changed(self, change: Mapping[str, Mapping[str, object]]) -> Ducts:
        """The same group with fields of some ducts changed (duct id → field → value)."""
        ducts = [replace(d, **change[d.id]) if d.id in change else d for d in self.ducts]  # type: ignore[arg-type]
        return Ducts(ducts, self.cells)

    @property
    def pairs(self) -> tuple[tuple[str, str], ...]:
        """All its open water is one."""
        return tuple((self.cells[0], other) for other in self.cells[1:])

    @property
    def forks(self) -> bool:
        """Two cells and the pump's have one way to go."""
        return len(self.cells) > _ONE_WAY

    @cached_property
    def ways(self) -> tuple[Way, ...]:
        """The ducts, as their flows are reported; ends that are nodes keep their node's name."""
        return tuple(Way(d.id, d.name, d.a, d.b, d.kind, d.owner) for d in self.ducts)

    # -- arrays ---------------------------------------------------------------------------------------------------

    @cached_property
    def _tables(self) -> Tables:
        return Tables(self)

    def scratch(self, flows: Mapping[str, float] = NOTHING) -> Scratch:
        """See network.model.Group."""
        t = self._tables
        first = t.first.tolist()
        guess = [flows.get(duct.id) or first[i] for i, duct in enumerate(self.ducts)] if flows else first
        return Scratch(np.array(guess), np.ones(t.spouts.size), [1.0] * len(t.pumps))

    def exchange(
        self, levels: Sequence[float], scratch: Scratch | None = None
    ) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """See network.model.Group. Raises SolveError where the rounds do not close."""
        return self._solve(np.asarray(levels, dtype=float), scratch or self.scratch())

    def heads(self, levels: Sequence[float], flows: Mapping[str, float] = NOTHING) -> dict[str, float]:
        """Head in m at the nodes."""
        scratch = self.scratch(flows)
        self.exchange(levels, scratch)
        return dict(zip(self.nodes, scratch.head.tolist(), strict=True))

    def held(self, levels: Sequence[float]) -> GroupHeld | None:
        """Full while a pump pushes and while no open end draws air; else what drains comes down, but for a pump's own
        pipe behind a tight valve.
        """
        tables = self._contents
        if not tables.which.size:
            return None
        t, n = self._tables, len(self.cells)
        z = np.asarray(levels, dtype=float)
        whole, by_level = 1.0, np.zeros(n)
        if not any(pump.on for _, pump in t.pumps):
            sealed, sealed_slope, _ = t.state(z)
            open_ = np.flatnonzero(~t.shut[t.spouts])
            air = sealed[open_]
            whole = float(air.prod())
            if whole > 0:
                np.add.at(by_level, t.port_b[t.spouts[open_]], whole / air * sealed_slope[open_])
        volume, slopes = tables.volume.copy(), np.zeros((n, n))
        for i, pump in t.pumps:  # what stands in its well's water is counted there
            own = np.flatnonzero(tables.which == i)
            under = pump.pipe.area * max(float(z[t.port_a[i]]) - pump.intake, 0.0)
            if own.size and 0 < under < volume[own[0]]:
                volume[own[0]] -= under
                slopes[t.port_a[i], t.port_a[i]] -= pump.pipe.area * (whole if tables.drains[own[0]] else 1.0)
        by_way = np.zeros(len(self.ducts))
        by_way[tables.which] = volume * np.where(tables.drains, whole, 1.0)
        by_cell = np.bincount(tables.cell, by_way[tables.which], n)
        slopes += np.bincount(tables.cell, volume * tables.drains, n)[:, None] * by_level[None, :]
        return GroupHeld(by_cell, slopes, by_way)

    @cached_property
    def _contents(self) -> _Contents:
        port = {c: i for i, c in enumerate(self.cells)}
        which = [i for i, d in enumerate(self.ducts) if d.comes_to in port]
        ducts = [self.ducts[i] for i in which]
        tight = all(p.valve and p.leak <= 0 for p in self.ducts if isinstance(p, PumpDuct))
        pumps = {p.a for p in self.ducts if isinstance(p, PumpDuct)}
        return _Contents(
            np.array(which, dtype=int),
            np.array([d.contents for d in ducts]),
            np.array([port[d.comes_to] for d in ducts], dtype=int),
            np.array([d.drains and not (tight and d.comes_to in pumps) for d in ducts], dtype=bool),
        )

    def _solve(self, z: np.ndarray, scratch: Scratch) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        t = self._tables
        high, low, low_slope = t.outside(z)
        state = t.state(z)
        flow = scratch.flow.copy()
        if t.spouts.size:  # a siphon that fades carries so much less than the last time
            back = flow[t.spouts] < 0
            before = scratch.sealed
            ratio = np.where(before > SEALED, state[0] / np.maximum(before, SEALED), 1.0)
            flow[t.spouts] = np.where(back, np.minimum(flow[t.spouts] * ratio, -_CLOSE), flow[t.spouts])
            scratch.sealed = state[0]
        for n, (i, _) in enumerate(t.pumps):  # and so does a pump that begins to suck air
            wet, before_wet = state[2][n][0], scratch.wet[n]
            if flow[i] > 0:
                flow[i] *= wet / before_wet if before_wet > SEALED else 1.0
        scratch.wet = [w for w, _ in state[2]]
        for count in range(1, _ROUNDS + 1):
            lost, slope, by_level = t.losses(flow, state)
            give = 1.0 / slope
            head, solver = t.node_heads(flow - give * lost, give, high, low)
            drop = t.drop(head, high, low)
            change = give * (drop - lost)
            if count > 25:  # two laws with a corner can pass the ball to each other
                change *= 0.5 if count < 60 else 0.2
            flow = flow + change
            biggest = float(np.abs(change).max())
            if biggest < max(_CLOSE, 1e-12 * float(np.abs(flow).max())):
                break
        else:
            if biggest > 1e-8:
                raise SolveError("The flows in the manifold do not settle; look for a pump that feeds itself.")
        scratch.rounds, scratch.flow, scratch.head = count, flow, head
        open_ = slope < 0.5 * SHUT
        flow = np.where(open_, flow, 0.0)
        gained, by_port = t.response(flow, np.where(open_, 1.0 / slope, 0.0), low_slope, by_level, solver)
        gained[np.argmax(np.abs(gained))] -= gained.sum()  # what was taken for nothing
        return gained, by_port, flow
