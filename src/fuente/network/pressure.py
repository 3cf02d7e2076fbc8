"""Pipes under pressure: manifolds, branches, pumps in parallel and in series.

The gradient method of Todini and Pilati 1988: every link's loss is made straight at its flow, the node heads follow
from one linear system, the flows from the heads; a few rounds close it. Loops, trees and pumps alike.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from fuente.errors import SolveError, SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.pumps import PumpCurve

_SPARSE_FROM = 250  # nodes from which a sparse solver pays for its import
_ROUNDS = 80
_CLOSE = 1e-13  # m³/s


class Loss(Protocol):
    """Head lost along a link at a flow, and its slope."""

    def loss(self, flow: float) -> tuple[float, float]:
        """Head in m (negative where it is given) and its derivative by flow, s/m²."""
        ...


@dataclass(frozen=True)
class PipeLoss:
    """A pipe with its fittings."""

    pipe: Pipe

    def loss(self, flow: float) -> tuple[float, float]:
        """Odd in flow; the slope at rest is the laminar one, or a small one where there is no length."""
        size = max(abs(flow), 1e-9)
        head, slope = self.pipe.loss_and_slope(size)
        if abs(flow) < 1e-9:
            return head / 1e-9 * flow, max(slope, head / 1e-9)
        return (head if flow > 0 else -head), slope


@dataclass(frozen=True)
class PumpLoss:
    """A pump gives head; against its way it is as good as shut."""

    curve: PumpCurve

    def loss(self, flow: float) -> tuple[float, float]:
        """Minus its head; backwards a steep loss."""
        if flow < 0:
            steep = 1e3 * self.curve.shutoff / self.curve.max_flow
            return -self.curve.shutoff + steep * flow, steep
        head, slope = self.curve.head_and_slope(flow)
        return -head, max(-slope, 1e-3 * self.curve.shutoff / self.curve.max_flow)


@dataclass(frozen=True)
class PressureLink:
    """A link between two nodes, flow positive from a to b."""

    id: str
    a: str
    b: str
    law: Loss


@dataclass(frozen=True)
class PressureSolution:
    """Heads m by node, flows m³/s by link, and how far any free node is from balance, m³/s."""

    head: Mapping[str, float]
    flow: Mapping[str, float]
    imbalance: float
    rounds: int


def solve_pressure(
    links: Sequence[PressureLink], fixed: Mapping[str, float], demand: Mapping[str, float] | None = None
) -> PressureSolution:
    """Heads and flows. ``fixed`` heads m by node (open water, outlets), ``demand`` m³/s taken out at free nodes.

    Raises SpecError where a node hangs on nothing, SolveError where the rounds do not close.
    """
    names = list(dict.fromkeys(n for link in links for n in (link.a, link.b)))
    free = [n for n in names if n not in fixed]
    if not any(n in fixed for n in names):
        raise SpecError("A pipe system needs one place of known head: open water or an outlet.")
    _connected(links, fixed, free)
    place = {n: i for i, n in enumerate(free)}
    take = np.array([(demand or {}).get(n, 0.0) for n in free])
    ends = [(place.get(k.a, -1), place.get(k.b, -1), fixed.get(k.a, 0.0), fixed.get(k.b, 0.0)) for k in links]
    count = len(free)
    flow = np.array([_guess(k.law) for k in links])
    head = np.zeros(count)
    rest = np.inf
    for rounds in range(1, _ROUNDS + 1):
        pairs = [k.law.loss(q) for k, q in zip(links, flow.tolist(), strict=True)]
        lost = np.array([p[0] for p in pairs])
        give = 1.0 / np.array([p[1] for p in pairs])
        matrix, right = _system(ends, flow, lost, give, take, count)
        head = _solve(matrix, right, count)
        drop = np.array([(head[a] if a >= 0 else ha) - (head[b] if b >= 0 else hb) for a, b, ha, hb in ends])
        change = give * (drop - lost)
        # After some rounds only half steps: two laws with a corner can pass the ball to each other.
        flow = flow + (change if rounds < 20 else 0.5 * change)
        rest = float(np.abs(change).max()) if change.size else 0.0
        if rest < max(_CLOSE, 1e-11 * float(np.abs(flow).max())):
            break
    else:
        raise SolveError("The flows in these pipes do not settle; look for a pump that feeds itself.")
    net = -take
    for (a, b, _, _), q in zip(ends, flow.tolist(), strict=True):
        if a >= 0:
            net[a] -= q
        if b >= 0:
            net[b] += q
    heads = {n: (head[place[n]] if n in place else fixed[n]) for n in names}
    return PressureSolution(
        {n: float(h) for n, h in heads.items()},
        {k.id: float(q) for k, q in zip(links, flow, strict=True)},
        float(np.abs(net).max()) if count else 0.0,
        rounds,
    )


def _guess(law: Loss) -> float:
    if isinstance(law, PumpLoss):
        return 0.5 * law.curve.max_flow
    if isinstance(law, PipeLoss):
        return 0.5 * law.pipe.area  # half a metre a second
    return 1e-4


def _connected(links: Sequence[PressureLink], fixed: Mapping[str, float], free: Sequence[str]) -> None:
    near: dict[str, list[str]] = {}
    for link in links:
        near.setdefault(link.a, []).append(link.b)
        near.setdefault(link.b, []).append(link.a)
    seen = set(fixed)
    todo = list(fixed)
    while todo:
        for other in near.get(todo.pop(), []):
            if other not in seen:
                seen.add(other)
                todo.append(other)
    for node in free:
        if node not in seen:
            raise SpecError(f"“{node}” is joined to no open water or outlet.")


def _system(ends, flow, lost, give, take, count):  # type: ignore[no-untyped-def]
    """Σ inflow = demand at every free node, with the flows of the straightened links."""
    right = -take.copy()
    rows: list[int] = []
    columns: list[int] = []
    values: list[float] = []
    for (a, b, ha, hb), q, h, g in zip(ends, flow.tolist(), lost.tolist(), give.tolist(), strict=True):
        base = q - g * h  # the flow at no difference of heads
        if a >= 0:
            rows.append(a)
            columns.append(a)
            values.append(g)
            right[a] -= base - (g * hb if b < 0 else 0.0)
            if b >= 0:
                rows.append(a)
                columns.append(b)
                values.append(-g)
        if b >= 0:
            rows.append(b)
            columns.append(b)
            values.append(g)
            right[b] += base + (g * ha if a < 0 else 0.0)
            if a >= 0:
                rows.append(b)
                columns.append(a)
                values.append(-g)
    return (rows, columns, values), right


def _solve(matrix, right, count):  # type: ignore[no-untyped-def]
    rows, columns, values = matrix
    if count == 0:
        return np.zeros(0)
    if count > _SPARSE_FROM:
        from scipy.sparse import csc_matrix
        from scipy.sparse.linalg import spsolve

        return spsolve(csc_matrix((values, (rows, columns)), shape=(count, count)), right)
    dense = np.zeros((count, count))
    np.add.at(dense, (rows, columns), values)
    return np.linalg.solve(dense, right)
