"""The arrays of a group under pressure: losses, balances at its nodes, answers to levels."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import cached_property, lru_cache
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from fuente.hydraulics.pipes import Pipe, friction_factors
from fuente.network.duct import SHUT, PumpDuct, Spout
from fuente.water.properties import GRAVITY

if TYPE_CHECKING:
    from fuente.network.ducts import Ducts

_SIPHON_FADE = 0.004  # m over which a siphon's last gulp is spread


_DRY_FADE = 0.008  # m over the pump's intake in which it begins to suck air


SEALED = 1e-9  # share of a siphon's flow under which it counts as broken


_LEAST = 1e-9  # m³/s below which a loss is taken as straight


_SPARSE_FROM = 90  # nodes


_SYMMETRIC = {"diag_pivot_thresh": 0.0, "options": {"SymmetricMode": True}}


class Ends(NamedTuple):
    """Ducts with a port at b, at a, and whose loss goes by a level; where their slopes pull at nodes and gain at ports
    (flat place, sign, which slope); ducts that lead on between node and port, and the ports that they reach.
    """

    at_b: np.ndarray
    at_a: np.ndarray
    by_level: np.ndarray
    pull: np.ndarray
    pull_sign: np.ndarray
    pull_from: np.ndarray
    gain: np.ndarray
    gain_sign: np.ndarray
    gain_from: np.ndarray
    onward: np.ndarray
    onward_node: np.ndarray
    reached: np.ndarray
    first_onward: np.ndarray


class Tables:
    """The arrays of a group, made once."""

    def __init__(self, group: Ducts):
        ducts = group.ducts
        self.count, self.inner = len(ducts), len(group.nodes)
        self.ports = len(group.cells)
        node = {n: i for i, n in enumerate(group.nodes)}
        port = {c: i for i, c in enumerate(group.cells)}
        self.a = np.array([node.get(d.a, -1) for d in ducts])
        self.b = np.array([node.get(d.b, -1) for d in ducts])
        self.port_a = np.array([port.get(d.a, -1) for d in ducts])
        self.port_b = np.array([port.get(d.b, -1) for d in ducts])
        pipes = [d.pipe for d in ducts]
        self.bore = np.array([p.bore for p in pipes])
        self.area = math.pi / 4 * self.bore**2
        self.along = np.array([p.length for p in pipes]) / self.bore
        self.k = np.array([p.k for p in pipes])
        self.rough = np.array([p.roughness for p in pipes]) / self.bore
        self.thick = np.array([p.water.kinematic for p in pipes])
        self.shut = np.array([d.shut for d in ducts])
        self.first = 0.5 * self.area
        self.pumps = [(i, d) for i, d in enumerate(ducts) if isinstance(d, PumpDuct)]
        for i, pump in self.pumps:
            self.first[i] = 0.5 * pump.curve.max_flow if pump.on else 0.0
        spouts = [(i, d) for i, d in enumerate(ducts) if isinstance(d, Spout)]
        self.spouts = np.array([i for i, _ in spouts], dtype=int)
        self.spout_of = np.zeros(self.count, dtype=int)
        self.spout_of[self.spouts] = np.arange(len(spouts))
        self.any_shut = bool(self.shut.any())
        self.mouth = np.array([d.mouth for _, d in spouts])
        self.breaks = np.array([d.breaks_at for _, d in spouts])
        self.a_in, self.b_in = np.flatnonzero(self.a >= 0), np.flatnonzero(self.b >= 0)
        self.out, self.into = self.a[self.a_in], self.b[self.b_in]
        self.a_out, self.b_out = (self.a < 0).astype(float), (self.b < 0).astype(float)
        # Where each duct's conductance goes in the node matrix, and with which sign.
        at, sign, which = [], [], []
        for i, (a, b) in enumerate(zip(self.a.tolist(), self.b.tolist(), strict=True)):
            for row, column, s in ((a, a, 1.0), (b, b, 1.0), (a, b, -1.0), (b, a, -1.0)):
                if row >= 0 and column >= 0:
                    at.append((row, column))
                    sign.append(s)
                    which.append(i)
        self.rows = np.array([r for r, _ in at], dtype=int)
        self.columns = np.array([c for _, c in at], dtype=int)
        self.sign, self.which = np.array(sign), np.array(which, dtype=int)
        self.flat = self.rows * max(self.inner, 1) + self.columns

    def outside(self, z: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Head in m of the open water at each duct's a end and at its b end, and the latter's slope by that level."""
        high = np.where(self.port_a >= 0, z[self.port_a], 0.0)
        low = np.where(self.port_b >= 0, z[self.port_b], 0.0)
        slope = np.ones(self.count)
        if self.spouts.size:
            under = low[self.spouts] >= self.mouth
            low[self.spouts] = np.where(under, low[self.spouts], self.mouth)
            slope[self.spouts] = under
        return high, low, slope

    def state(self, z: np.ndarray) -> tuple[np.ndarray, np.ndarray, list[tuple[float, float]]]:
        """How far each spout is sealed under water and the slope of that, and how wet each pump's intake is."""
        level = z[self.port_b[self.spouts]] if self.spouts.size else np.zeros(0)
        # Straight at its foot, so that the last of it runs out in a finite time; level at its top.
        x = np.clip((level - self.breaks) / _SIPHON_FADE, 0.0, 1.0)
        wet = []
        for i, pump in self.pumps:
            y = min(max((float(z[self.port_a[i]]) - pump.intake) / _DRY_FADE, 0.0), 1.0)
            wet.append((y * (2 - y), 2 * (1 - y) / _DRY_FADE))
        return x * (2 - x), 2 * (1 - x) / _SIPHON_FADE, wet

    def losses(
        self, flow: np.ndarray, state: tuple[np.ndarray, np.ndarray, list[tuple[float, float]]]
    ) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Head lost along every duct in m, its slope by flow, and its slope by the level outside."""
        sealed, sealed_slope, wet = state
        size = np.abs(flow)
        share = np.ones(self.count)
        # A siphon that draws air carries so much of its free flow; in air nothing goes back.
        back = self.spouts[flow[self.spouts] < 0] if self.spouts.size else self.spouts
        if back.size:
            part = sealed[self.spout_of[back]]
            open_ = part > SEALED
            share[back] = np.where(open_, part, 1.0)
            size /= share
        np.maximum(size, _LEAST, out=size)
        speed = size / self.area
        f, exponent = friction_factors(speed * self.bore / self.thick, self.rough)
        head = speed * speed / (2 * GRAVITY)
        straight, local = f * self.along * head, self.k * head
        loss = straight + local
        small = size <= _LEAST
        slope = np.where(small, loss, straight * (2 + exponent) + 2 * local) / (size * share)
        lost = np.where(small, slope * flow, np.copysign(loss, flow))
        by_level = np.zeros(self.count)
        if back.size:
            lost[back] = np.where(open_, lost[back], SHUT * flow[back])
            by_level[back] = np.where(
                open_, -slope[back] * flow[back] * sealed_slope[self.spout_of[back]] / share[back], 0.0
            )
            slope[back] = np.where(open_, slope[back], SHUT)
        for (i, pump), (wet_share, wet_slope) in zip(self.pumps, wet, strict=True):
            lost[i], slope[i], by_level[i] = _pump(pump, float(flow[i]), lost[i], slope[i], wet_share, wet_slope)
        if self.any_shut:
            lost = np.where(self.shut, SHUT * flow, lost)
            slope = np.where(self.shut, SHUT, slope)
            by_level = np.where(self.shut, 0.0, by_level)
        # A smooth bore at rest has nearly no loss: a whisper keeps the matrix regular.
        return lost, np.maximum(slope, 1e-3), by_level

    def node_heads(self, base: np.ndarray, give: np.ndarray, high: np.ndarray, low: np.ndarray):  # type: ignore[no-untyped-def]
        """Heads at which the straightened ducts (flow = base + give·drop) balance at every node, and the solver."""
        if self.inner == 0:
            return np.zeros(0), lambda right: right
        leaving = base - self.b_out * give * low  # a node's ducts to open water, and between nodes
        coming = base + self.a_out * give * high
        right = np.bincount(self.into, coming[self.b_in], self.inner) - np.bincount(
            self.out, leaving[self.a_in], self.inner
        )
        solver = self._factored(give)
        return solver(right), solver

    def _factored(self, give: np.ndarray) -> Callable[[np.ndarray], np.ndarray]:
        values = self.sign * give[self.which]
        n = self.inner
        if n >= _SPARSE_FROM:
            return self._sparse.factored(values)
        matrix = np.bincount(self.flat, values, n * n).reshape(n, n)
        return lambda right: np.linalg.solve(matrix, right)

    @cached_property
    def _sparse(self) -> Pattern:
        return _pattern(self.rows.tobytes(), self.columns.tobytes(), self.inner)

    def drop(self, head: np.ndarray, high: np.ndarray, low: np.ndarray) -> np.ndarray:
        """Head at a less head at b."""
        high, low = high.copy(), low.copy()
        high[self.a_in], low[self.b_in] = head[self.out], head[self.into]
        dropped: np.ndarray = high - low
        return dropped

    def response(
        self,
        flow: np.ndarray,
        give: np.ndarray,
        low_slope: np.ndarray,
        by_level: np.ndarray,
        solver: Callable[[np.ndarray], np.ndarray],
    ) -> tuple[np.ndarray, np.ndarray]:
        """What every port gains, and its derivatives by every port's level."""
        e, ports = self._ends, self.ports
        # d flow = give·(d head_a − d head_b − by_level·d level); first as if the nodes' heads stood still.
        direct = np.concatenate((-(give * low_slope)[e.at_b], give[e.at_a], -(give * by_level)[e.by_level]))
        by_port = np.bincount(e.gain, e.gain_sign * direct[e.gain_from], ports * ports).reshape(ports, ports)
        if self.inner:
            pull = np.bincount(e.pull, e.pull_sign * direct[e.pull_from], self.inner * ports)
            moved = solver(pull.reshape(self.inner, ports))
            onward = give[e.onward][:, None] * moved[e.onward_node]
            if e.reached.size:
                alone = e.reached.size == e.onward.size
                by_port[e.reached] += onward if alone else np.add.reduceat(onward, e.first_onward, axis=0)
        gained = np.bincount(self.port_b[e.at_b], flow[e.at_b], ports)
        gained -= np.bincount(self.port_a[e.at_a], flow[e.at_a], ports)
        return gained, by_port

    @cached_property
    def _ends(self) -> Ends:
        """Where the slopes of each duct go, found once."""
        ports = self.ports
        at_b, at_a = np.flatnonzero(self.port_b >= 0), np.flatnonzero(self.port_a >= 0)
        level_port = np.where((self.port_b >= 0) & ~self._is_pump, self.port_b, self.port_a)
        by_level = np.flatnonzero(level_port >= 0)
        duct = np.concatenate((at_b, at_a, by_level))
        port = np.concatenate((self.port_b[at_b], self.port_a[at_a], level_port[by_level]))

        def placed(away: np.ndarray, into: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
            """Flat places of what a duct takes away at one end and brings to the other, their signs, and from which
            slope.
            """
            lose, gain = np.flatnonzero(away[duct] >= 0), np.flatnonzero(into[duct] >= 0)
            places = np.concatenate((away[duct][lose] * ports + port[lose], into[duct][gain] * ports + port[gain]))
            signs = np.concatenate((-np.ones(lose.size), np.ones(gain.size)))
            return places, signs, np.concatenate((lose, gain))

        pull, gain = placed(self.a, self.b), placed(self.port_a, self.port_b)
        # Ducts between a node and a port pass on what the node's head does; in the order of their ports.
        out, into = (self.port_b >= 0) & (self.a >= 0), (self.port_a >= 0) & (self.b >= 0)
        onward = np.concatenate((np.flatnonzero(out), np.flatnonzero(into)))
        node = np.concatenate((self.a[out], self.b[into]))
        to = np.concatenate((self.port_b[out], self.port_a[into]))
        order = np.argsort(to, kind="stable")
        reached, first = np.unique(to[order], return_index=True)
        return Ends(at_b, at_a, by_level, *pull, *gain, onward[order], node[order], reached, first)

    @cached_property
    def _is_pump(self) -> np.ndarray:
        found = np.zeros(self.count, dtype=bool)
        found[[i for i, _ in self.pumps]] = True
        return found


class Pattern:
    """Where a symmetric sparse matrix has its entries, and an order in which it fills up little: found once, as a
    factoring looks for them each time.
    """

    def __init__(self, rows: np.ndarray, columns: np.ndarray, size: int):
        """``rows`` and ``columns`` of values that are added up, (entries,), in a matrix of a size."""
        from scipy.sparse import csc_matrix
        from scipy.sparse.linalg import splu

        self.size = size
        # Of the pattern alone: any matrix with a heavy diagonal is ordered alike.
        heavy = np.where(rows == columns, float(size), -1.0)
        found = splu(csc_matrix((heavy, (rows, columns)), shape=(size, size)), permc_spec="MMD_AT_PLUS_A", **_SYMMETRIC)
        self.order = found.perm_c  # of each row, its place
        flat = self.order[columns].astype(np.int64) * size + self.order[rows]
        places, self.slot = np.unique(flat, return_inverse=True)
        starts = np.searchsorted(places // size, np.arange(size + 1))
        self.within, self.starts = (places % size).astype(np.int32), starts.astype(np.int32)
        self.back = np.argsort(self.order)

    def factored(self, values: np.ndarray) -> Callable[[np.ndarray], np.ndarray]:
        """What solves for right sides, (size,) or (size, k), with the values at its entries."""
        from scipy.sparse import csc_matrix
        from scipy.sparse.linalg import splu

        added = np.bincount(self.slot, values, self.within.size)
        matrix = csc_matrix((added, self.within, self.starts), shape=(self.size, self.size))
        solve = splu(matrix, permc_spec="NATURAL", **_SYMMETRIC).solve

        def solved(right: np.ndarray) -> np.ndarray:
            out: np.ndarray = solve(right[self.back])[self.order]
            return out

        return solved


@lru_cache(maxsize=8)  # a valve that is turned leaves the pattern as it was
def _pattern(rows: bytes, columns: bytes, size: int) -> Pattern:
    return Pattern(np.frombuffer(rows, dtype=int), np.frombuffer(columns, dtype=int), size)


def _pump(
    pump: PumpDuct, flow: float, lost: float, slope: float, wet: float, wet_slope: float
) -> tuple[float, float, float]:
    """Loss of a pump's duct: less the head that it gives; standing, what its valve lets back."""
    if pump.on:
        if flow < 0 or wet < SEALED:
            head = pump.curve.shutoff if wet >= SEALED else 0.0
            return SHUT * flow - head, SHUT, 0.0
        head, head_slope = pump.curve.head_and_slope(flow / wet)
        return lost - head, slope - head_slope / wet, head_slope * flow / wet**2 * wet_slope
    share = pump.leak if flow < 0 else 1.0
    if share <= 0:
        return SHUT * flow, SHUT, 0.0
    size = max(abs(flow) / share, _LEAST)
    whole = with_k(pump.pipe, pump.pipe.k + pump.pump_k + pump.reverse_k)
    head, by_flow = whole.loss_and_slope(size)
    if abs(flow) / share < _LEAST:
        return head / size * flow / share, head / size / share, 0.0
    return math.copysign(head, flow), by_flow / share, 0.0


def with_k(pipe: Pipe, k: float) -> Pipe:
    """The same pipe with another sum of losses."""
    return Pipe(pipe.bore, pipe.length, k, pipe.roughness, pipe.water)
