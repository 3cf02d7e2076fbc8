"""Flow balances of a network and their slopes, for the solvers."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property

import numpy as np

from fuente.errors import SolveError
from fuente.hydraulics.drains import smooth_step
from fuente.network.model import NO_FLOW, NOTHING, Network, Solution

_DROP = 1e-6  # m³ that rounding and the foot of a curve may leave under a floor
_REACHED = 0.005  # m of water over a floor by which the pipes that come down there hold what they can
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
        self._pipes_at = b""
        self._pipes: tuple[list[float], list[float]] = ([], [])
        self._stored_at = b""
        self._stored: tuple[np.ndarray, np.ndarray] = (self._net, self._jac)

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

    def piped(self, z: np.ndarray) -> tuple[np.ndarray, np.ndarray | None]:
        """Water in pipes in m³ by the cell to which it comes down, and its slopes by the levels; None for no pipes."""
        net, n = self.network, self.size
        volumes = np.zeros(n)
        slopes: np.ndarray | None = None
        if net.piped:
            each, by_levels = self._in_pipes(z)
            ends, places = self._pipe_places
            volumes += np.bincount(ends, each, n)
            slopes = np.bincount(places, by_levels, n * n).reshape(n, n)
        for group, _, at, block in self._groups:
            made = group.held(z[at].tolist())
            if made is not None:
                slopes = np.zeros((n, n)) if slopes is None else slopes
                there, by_own = self._reached(z, at)
                volumes[at] += made.by_cell * there
                slopes[block] += made.slopes * there[:, None]
                slopes[at, at] += made.by_cell * by_own
        return volumes, slopes

    def _in_pipes(self, z: np.ndarray) -> tuple[list[float], list[float]]:
        """Water in m³ in the pipe of each link that holds any, and its slopes by the levels of its two cells and of the
        one that it comes down to, one after the other.
        """
        state = z.tobytes()
        if state == self._pipes_at:
            return self._pipes
        cells, levels = self.network.cells, z.tolist()
        each: list[float] = []
        slopes: list[float] = []
        for law, a, b, to, _ in self.network.piped:
            held, by_a, by_b = law.held(levels[a], levels[b])
            # A pipe does not fill before what comes through it has reached its end.
            wet, by_to = smooth_step((levels[to] - cells[to].floor) / _REACHED)
            each.append(held * wet)
            slopes += (by_a * wet, by_b * wet, held * by_to / _REACHED)
        self._pipes_at, self._pipes = state, (each, slopes)
        return self._pipes

    @cached_property
    def _pipe_places(self) -> tuple[np.ndarray, np.ndarray]:
        """The cells to which pipes come down, and where their three slopes go in the flat matrix."""
        n, piped = self.size, self.network.piped
        places = [to * n + at for _, a, b, to, _ in piped for at in (a, b, to)]
        return np.array([to for _, _, _, to, _ in piped], dtype=np.intp), np.array(places, dtype=np.intp)

    def _reached(self, z: np.ndarray, at: list[int]) -> tuple[np.ndarray, np.ndarray]:
        """As for links: how far the water in some cells has come, 0 to 1, and the slopes."""
        cells = self.network.cells
        steps = [smooth_step((z[i] - cells[i].floor) / _REACHED) for i in at]
        return np.array([w for w, _ in steps]), np.array([s / _REACHED for _, s in steps])

    def stored(self, z: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Water in m³ of every cell with the pipes that come down to it, and its slopes by the levels, (n, n)."""
        state = z.tobytes()
        if state != self._stored_at:
            own, areas = self.storage(z)
            in_pipes, slopes = self.piped(z)
            if slopes is None:
                slopes = np.diag(areas)
            else:
                slopes.flat[:: self.size + 1] += areas
            self._stored_at, self._stored = state, (own + in_pipes, slopes)
        return self._stored

    def levels(self, stored: np.ndarray, near: np.ndarray) -> np.ndarray:
        """Levels in m at which the cells with their pipes hold so much, m³; near m is a first guess."""
        cells = self.network.cells
        z = np.array([c.curve.level(v) for c, v in zip(cells, stored.tolist(), strict=True)])
        for _ in range(4):
            in_pipes, slopes = self.piped(near)
            if slopes is None:
                return z
            own = (stored - in_pipes).tolist()
            z = np.array([c.curve.level(v) for c, v in zip(cells, own, strict=True)])
            if float(np.abs(z - near).max()) < 1e-13:
                break
            near = z
        return z

    def held_by_way(self, z: np.ndarray) -> dict[str, float]:
        """Water in m³ in each way that holds any."""
        ids = self.network.way_ids
        each, _ = self._in_pipes(z)
        found = {ids[i]: held for held, (_, _, _, _, i) in zip(each, self.network.piped, strict=True)}
        for group, _, at, _ in self._groups:
            made = group.held(z[at].tolist())
            if made is not None:
                found |= {way.id: v for way, v in zip(group.ways, made.by_way.tolist(), strict=True) if v}
                short = float((made.by_cell * (self._reached(z, at)[0] - 1)).sum())
                if short:  # of pipes that have not filled yet
                    found[group.ways[0].id] = found.get(group.ways[0].id, 0.0) + short
        return found

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

    def solution(self, z: np.ndarray, stored: np.ndarray, imbalance: float, iterations: int) -> Solution:
        """Pack the result; stored m³ is each cell's water with its pipes'."""
        ids = [cell.id for cell in self.network.cells]
        in_pipes, _ = self.piped(z)
        volumes = stored - in_pipes
        self.refuse_less_than_nothing(volumes)
        return Solution(
            self.network,
            dict(zip(ids, z.tolist(), strict=True)),
            dict(zip(ids, volumes.tolist(), strict=True)),
            self.flows(z),
            imbalance,
            iterations,
            self.held_by_way(z),
            {ids[i]: v for i, v in enumerate(in_pipes.tolist()) if v},
        )

    def start(self) -> np.ndarray:
        """Levels to start from where nothing better is known: nine tenths of the height."""
        return np.array([c.floor + 0.9 * (c.rim - c.floor) if not c.sink else c.floor for c in self.network.cells])
