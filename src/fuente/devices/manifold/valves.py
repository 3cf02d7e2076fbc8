"""What to set every valve of a manifold to, so that each tank and each side loop gets what it is wanted to get.

The flows are known, so the heads follow from the pump along the pipes to every tee; what a branch has to spare there is
what its valve must take.
"""

from __future__ import annotations

from collections.abc import Mapping

from fuente.catalogue import ball_valve_angle, ball_valve_k
from fuente.devices.base import Change, Edit
from fuente.devices.contract import Study
from fuente.devices.manifold.groups import group_of
from fuente.devices.manifold.network import branch_id, branch_loss, loop_id
from fuente.devices.manifold.spec import Manifold
from fuente.devices.offered import Balance
from fuente.devices.site import Site
from fuente.network.duct import Duct, PumpDuct, Spout
from fuente.network.model import Solution
from fuente.water.properties import GRAVITY

STEP = 0.5  # degrees to which a handle can be set
_OPEN_K = ball_valve_k(0.0) or 0.0


def wanted(spec: Manifold, solution: Solution, turnover: float) -> dict[str, float]:
    """Flow in m³/s for every tank's own turnover (1/s)."""
    return {b.tank: turnover * solution.volume[b.tank] for row in spec.rows for b in row.branches}


def balance(spec: Manifold, site: Site, study: Study, turnover: float) -> Balance:
    """Valves for a turnover (1/s) of every tank, or for as much of it as the pumps can give to all.

    Settings are degrees from open, by tank and loop id.
    """
    work = _Work(spec, study.running)
    wish = wanted(spec, study.running, turnover)
    full = work.valves(wish, 1.0)
    share, limit = 1.0, ""
    if full is None:
        low, high = 0.0, 1.0
        for _ in range(40):
            middle = (low + high) / 2
            low, high = (middle, high) if work.valves(wish, middle) is not None else (low, middle)
        share, limit = low, work.limit
        full = work.valves(wish, low) or {}
    angles = {key: round(ball_valve_angle(max(k, _OPEN_K)) / STEP) * STEP for key, k in full.items()}
    changes = []
    base = spec.path
    for i, row in enumerate(spec.rows):
        for k, branch in enumerate(row.branches):
            if branch.tank in angles:
                changes.append(Change((*base, "rows", i, "branches", k, "angle"), angles[branch.tank]))
    for i, loop in enumerate(spec.loops):
        if loop.id in angles:
            changes.append(Change((*base, "loops", i, "angle"), angles[loop.id]))
    return Balance(angles, share, limit, Edit("Balance valves", tuple(changes)))


class _Work:
    """Heads along a manifold for given flows, at a solution's levels."""

    def __init__(self, spec: Manifold, solution: Solution):
        self.spec, self.solution = spec, solution
        self.ducts: dict[str, Duct] = {d.id: d for d in group_of(spec, solution).ducts}
        self.pumps = [d for d in self.ducts.values() if isinstance(d, PumpDuct)]
        self.limit = ""

    def valves(self, wish: Mapping[str, float], share: float) -> dict[str, float] | None:
        """The loss that each valve must take, or None, and ``limit``, where some branch has too little head."""
        spec = self.spec
        flows = {tank: q * share for tank, q in wish.items()}
        loops = sum(loop.share for loop in spec.loops)
        total = sum(flows.values()) / max(1 - loops, 0.05)
        head = self._start(total)
        if head is None:
            self.limit = "the pump"
            return None
        found: dict[str, float] = {}
        for loop in spec.loops:
            duct = self.ducts[loop_id(spec, loop)]
            k = self._spare(duct, head, total * loop.share, duct.pipe.k - self._own_valve(loop.angle))
            if k is None:
                self.limit = loop.kind.replace("_", " ")
                return None
            found[loop.id] = k
        at = head
        left = sum(flows.values())
        for i, row in enumerate(spec.rows):
            if i:
                at -= self.ducts[f"{spec.id}.riser.{i}"].pipe.head_loss(left)
            along, carried = at, sum(flows[b.tank] for b in row.branches)
            left -= carried
            for k, branch in enumerate(row.branches):
                along -= self.ducts[f"{spec.id}.row.{i}.{k}"].pipe.head_loss(carried)
                carried -= flows[branch.tank]
                duct = self.ducts[branch_id(spec, branch.tank)]
                loss = self._spare(duct, along, flows[branch.tank], branch_loss(branch))
                if loss is None:
                    self.limit = self.solution.network.cell(branch.tank).name
                    return None
                found[branch.tank] = loss
        return found

    @staticmethod
    def _own_valve(angle: float) -> float:
        return ball_valve_k(angle) or 1e4

    def _start(self, total: float) -> float | None:
        """Head at the manifold's start at which the pumps together give a flow; None where they cannot."""
        levels = self.solution.level
        if len(self.pumps) == 1:
            pump = self.pumps[0]
            head = pump.curve.head(total) - pump.pipe.head_loss(total)
            return levels[pump.a] + head if head > 0 else None

        def given(head: float) -> float:
            flow = 0.0
            for pump in self.pumps:
                flow += _flow_against(pump, head - levels[pump.a])
            return flow

        low = min(levels[p.a] for p in self.pumps)
        high = max(levels[p.a] + p.curve.shutoff for p in self.pumps)
        if given(low) < total:
            return None
        for _ in range(45):
            middle = (low + high) / 2
            low, high = (middle, high) if given(middle) > total else (low, middle)
        return low

    def _spare(self, duct: Duct, head: float, flow: float, own: float) -> float | None:
        """Loss coefficient left for the valve of a branch that carries a flow; None below an open valve's."""
        assert isinstance(duct, Spout)
        outside = max(self.solution.level[duct.b], duct.mouth)
        speed = flow / duct.pipe.area
        if speed < 1e-9:
            return 1e9
        friction = duct.pipe.friction(flow) * duct.pipe.length / duct.pipe.bore
        k = (head - outside) / (speed * speed / (2 * GRAVITY)) - friction - own
        return k if k >= _OPEN_K else None


def _flow_against(pump: PumpDuct, lift: float) -> float:
    """Flow in m³/s of a pump and its pipe against a lift in m."""
    curve, pipe = pump.curve, pump.pipe
    if curve.shutoff <= lift:
        return 0.0
    low, high = 0.0, curve.max_flow * curve.speed * 1.2
    for _ in range(45):
        middle = (low + high) / 2
        low, high = (middle, high) if curve.head(middle) - pipe.head_loss(middle) > lift else (low, middle)
    return low
