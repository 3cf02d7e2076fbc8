"""What Fuente would change of a manifold on its own."""

from __future__ import annotations

from fuente.catalogue import pipe_size, wider_pipe
from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.manifold.network import branch_id, pump_id
from fuente.devices.manifold.spec import Manifold
from fuente.network.model import Solution

FAST_OUTLET, FAST_MAIN = 1.5, 2.0  # m/s


def judge(spec: Manifold, solution: Solution, path: Path, tank_names: dict[str, str]) -> tuple[Finding, ...]:
    """Fast pipes and outlets, and one pump for all."""
    found: list[Finding] = []
    for i, f in enumerate(spec.feeders):
        flow = max(solution.flow[pump_id(spec, f)], 0.0)
        speed = flow / pipe_size(f.pipe).area
        if speed > FAST_MAIN:
            wider = wider_pipe(f.pipe)
            edit = Edit("Widen pipe", (Change((*path, "feeders", i, "pipe"), wider),)) if wider else None
            found.append(
                Finding("main-fast", Rank.CONSIDER, "Water rises to the manifold at {speed:speed}.",
                        "Under 2 m/s friction stays small against the lift.", spec.id, {"speed": speed},
                        "Wider pipe" if edit else "", edit, FAST_MAIN - speed)
            )  # fmt: skip
    found += _outlets(spec, solution, path, tank_names)
    if len(spec.feeders) == 1 and len(tank_names) > 1:
        more = spec.feeders[0].model_copy(update={"id": "pump-2"})
        edit = Edit("Add pump", (Change((*path, "feeders"), (*spec.feeders, more)),))
        found.append(
            Finding("single-pump", Rank.CONSIDER, "One pump keeps {tanks:number} tanks: when it fails, all stand still.",
                    "Two smaller pumps, each with its own check valve, fail softer; or keep a spare within reach.",
                    spec.id, {"tanks": len(tank_names)}, "Add second pump", edit)
        )  # fmt: skip
    return tuple(found)


def _outlets(spec: Manifold, solution: Solution, path: Path, names: dict[str, str]) -> list[Finding]:
    fast = []
    for i, row in enumerate(spec.rows):
        for k, b in enumerate(row.branches):
            area = pipe_size(b.pipe).area
            speed = solution.flow[branch_id(spec, b.tank)] / area
            if speed > FAST_OUTLET:
                fast.append((speed, names[b.tank], i, k))
    if not fast:
        return []
    worst = max(fast)
    where = (*path, "rows", worst[2], "branches", worst[3], "form")
    others = f", {len(fast) - 1} more likewise" if len(fast) > 1 else ""
    return [
        Finding("outlet-fast", Rank.CONSIDER, f"Water leaves at {{speed:speed}} in {worst[1]}{others}.",
                "Fast outlets are heard, tire small fish and blow sand about; a spray bar, a wider branch, or less flow.",
                spec.rows[worst[2]].branches[worst[3]].tank, {"speed": worst[0]}, "Spray bar",
                Edit("Fit spray bar", (Change(where, "bar"),)), FAST_OUTLET - worst[0])
    ]  # fmt: skip
