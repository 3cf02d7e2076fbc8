"""The station that stands for all tanks of a rack."""

from __future__ import annotations

from fuente.devices.base import Choice, Edit, Reading, Station
from fuente.network.model import Solution
from fuente.study.analysis import Analysis

RACK = "rack:"  # before a rack's tag


def rack_station(analysis: Analysis, solution: Solution, tag: str) -> Station:
    """Least and most, and what sets them alike."""
    tanks = [t for t in analysis.system.tanks if t.rack == tag]
    flows = {t.id: analysis.moved(solution, t.id) for t in tanks}
    turns = {t.id: flows[t.id] / solution.volume[t.id] for t in tanks}
    low, high = min(turns, key=turns.__getitem__), max(turns, key=turns.__getitem__)
    names = {t.id: t.name for t in tanks}
    volume = sum(solution.volume[t.id] for t in tanks)
    wish = analysis.space.turnover
    inside = {t.id for t in tanks}
    feeders = [d.id for d in analysis.ordered if any(e.role == "gives" and e.to in inside for e in d.ends())]

    def commands() -> tuple[tuple[str, Edit], ...]:
        made = []
        for key in feeders:
            plan = analysis.balance(key, wish)
            if plan is None:
                continue
            label = f"Set valves for {wish * 3600:g} × an hour"
            if plan.share < 1:
                label = f"Set valves alike, {plan.share * wish * 3600:.1f} × an hour at most"
            made.append((label, plan.edit))
        return tuple(made)

    spread = turns[high] / turns[low] if turns[low] > 1e-9 else float("inf")
    return Station(
        RACK + tag,
        f"Rack of {len(tanks)} tanks",
        "{low:flow} to {high:flow} a tank",
        {"low": min(flows.values()), "high": max(flows.values())},
        note=f"least {names[low]}, most {names[high]}",
        glyph="tank",
        cells=tuple(t.id for t in tanks),
        big=(
            Reading(f"least, {names[low]}", turns[low], "per_hour"),
            Reading(f"most, {names[high]}", turns[high], "per_hour"),
        ),
        choices=(Choice(("space", "turnover"), "Turnover you want", "per_hour", wish, step=0.5 / 3600),),
        readings=(
            Reading("Water in all tanks", volume, "volume", "At the running level."),
            Reading(
                "Most over least",
                "unlimited" if spread == float("inf") else f"{spread:.2f}",
                "",
                "1.00 is every tank alike. Turn valves on the drawing, or let Fuente set them.",
            ),
        ),
        why=Reading(
            "Why they differ",
            turns[low],
            "per_hour",
            "Every way from the pump to a tank spends the same head. Low rows have more of it to spare than high ones,"
            " and near tees more than far ones; what is to spare, flow takes, until a valve takes it.",
            "network of heads and flows",
            "±15 %",
        ),
        commands=commands,
    )
