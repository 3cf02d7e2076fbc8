"""Flow balances of a network and their slopes, for the solvers."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property

import numpy as np

from fuente.errors import SolveError
from fuente.network.model import NO_FLOW, NOTHING, Network, Solution

_DROP = 1e-6  # m³ that rounding and the foot of a curve may leave under a floor
_WIDE = 20  # cells from which arrays are quicker than lists


class Assembly:
    """Flow balance and its Jacobian over the cells of a network, for the solvers."""

    def __init__(self, network: Network, flows: Mapping[str, float] = NOTHING):
        """``flows`` m³/s by way id, of a state near by, are the first guess of ways that are solved together."""
        self.network = network
        self.size = len(network.cells)
        self.sinks = np.array([cell.sink for cell in network.cells])
        self.drains = np.array([cell.sink and not cell.source for cell in network.cells])
        self._groups = []
        for group in network.groups:
            at = [network.index[cell] for cell in group.cells]
            self._groups.append((group, group.scratch(flows), at, np.ix_(at, at)))
        # The last state that was asked for: solvers ask for the same one in a row.
        self._at = b""
        self._net: np.ndarray = np.zeros(0)
        self._jac: np.ndarray = np.zeros((0, 0))
        self._flows: list[float] = []

    def balance(self, z: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Net inflow of every cell, m³/s, and its derivatives by the levels."""
        state = z.tobytes()
        if state == self._at:
            return self._net, self._jac
        levels = z.tolist()
        flows, net, jac = self._wide(levels) if self.size > _WIDE else self._narrow(levels)
        for group, scratch, at, block in self._groups:
            gained, by_level, inner = group.exchange([levels[i] for i in at], scratch)
            net[at] += gained
            jac[block] += by_level
            flows += inner.tolist()
        self._at, self._flows = state, flows
        self._net, self._jac = net, jac
        return net, jac

    def _narrow(self, levels: list[float]) -> tuple[list[float], np.ndarray, np.ndarray]:
        """Few cells: adding up in plain lists is quicker than arrays."""
        n = self.size
        q, jac, flows = [0.0] * n, [0.0] * (n * n), []
        for law, a, b in self.network.ends:
            result = law.flow(levels[a], levels[b])
            if result is NO_FLOW:
                flows.append(0.0)
                continue
            flow, by_a, by_b = result
            flows.append(flow)
            q[a] -= flow
            q[b] += flow
            row_a, row_b = a * n, b * n
            jac[row_a + a] -= by_a
            jac[row_a + b] -= by_b
            jac[row_b + a] += by_a
            jac[row_b + b] += by_b
        return flows, np.array(q), np.array(jac).reshape(n, n)

    def _wide(self, levels: list[float]) -> tuple[list[float], np.ndarray, np.ndarray]:
        """Many cells: the same by arrays."""
        n = self.size
        flows, by_a, by_b = [], [], []
        for law, a, b in self.network.ends:
            flow, slope_a, slope_b = law.flow(levels[a], levels[b])
            flows.append(flow)
            by_a.append(slope_a)
            by_b.append(slope_b)
        gain, lose, into, out = self._places
        q = np.array(flows)
        slopes = np.array(by_a + by_b)
        net = np.bincount(into, q, n) - np.bincount(out, q, n)
        jac = (np.bincount(gain, slopes, n * n) - np.bincount(lose, slopes, n * n)).reshape(n, n)
        return flows, net, jac

    @cached_property
    def _places(self) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
        """Where a link's slopes by its two levels are gained and lost in the flat Jacobian, and its cells."""
        ends = np.array([(a, b) for _, a, b in self.network.ends], dtype=np.intp).reshape(-1, 2)
        a, b, n = ends[:, 0], ends[:, 1], self.size
        return np.concatenate((b * n + a, b * n + b)), np.concatenate((a * n + a, a * n + b)), b, a

    def storage(self, z: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Volumes in m³ and areas in m² of the cells at levels in m."""
        t = self.network.curves
        at = t.row if t.inner is None else t.row + (z[:, None] >= t.inner).sum(axis=1)
        areas = t.area[at]
        return t.volume[at] + areas * (z - t.foot[at]), areas

    def way_flows(self, z: np.ndarray) -> np.ndarray:
        """Flow in m³/s of every way, (ways,), in the order of the network's ``way_ids``."""
        self.balance(z)
        return np.array(self._flows)

    def flows(self, z: np.ndarray) -> dict[str, float]:
        """Flow in m³/s of every link."""
        self.balance(z)
        return dict(zip(self.network.way_ids, self._flows, strict=True))

    def refuse_less_than_nothing(self, volumes: np.ndarray) -> None:
        """Raise SolveError where a law drew on a cell that was empty; volumes in m³."""
        empty = (volumes < -_DROP) & ~self.sinks
        if empty.any():
            name = self.network.cells[int(np.argmax(empty))].name
            raise SolveError(f"{name} would hold less than nothing; this is Fuente's fault, not the design's.")

    def solution(self, z: np.ndarray, volumes: np.ndarray, imbalance: float, iterations: int) -> Solution:
        """Pack the result."""
        ids = [cell.id for cell in self.network.cells]
        self.refuse_less_than_nothing(volumes)
        return Solution(
            self.network,
            dict(zip(ids, z.tolist(), strict=True)),
            dict(zip(ids, volumes.tolist(), strict=True)),
            self.flows(z),
            imbalance,
            iterations,
        )

    def start(self) -> np.ndarray:
        """Levels to start from where nothing better is known: nine tenths of the height."""
        return np.array([c.floor + 0.9 * (c.rim - c.floor) if not c.sink else c.floor for c in self.network.cells])
