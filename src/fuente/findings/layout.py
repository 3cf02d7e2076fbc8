"""Lay it out for me: a first layout by rules of thumb, then solved and judged like any design.

What the findings would change is changed, until no Stop or Fix is left or none has a remedy. What is left is the wish
that cannot be met, with its number.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from fuente.devices.base import Finding, Rank
from fuente.devices.recipes.sump_system import Wishes, first_layout
from fuente.devices.site import Space
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.findings.judge import findings
from fuente.study.known import analysed


@dataclass(frozen=True)
class Layout:
    """A proposal with what it cannot meet."""

    title: str
    reason: str
    system: System
    unmet: tuple[Finding, ...]
    changes: tuple[str, ...] = field(default=())


def lay_out(
    tank: Any,
    space: Space,
    wishes: Wishes,
    title: str = "Your chambers",
    reason: str = "",
    progress: Callable[[float], bool] | None = None,
) -> Layout:
    """A proposal. Raises FuenteError with the wish that leaves no room for any sump.

    ``progress`` is told a share of 0 to 1 and answers False to stop.
    """
    system = System(
        name=wishes.name,
        place=wishes.place,
        units=wishes.units,
        space=space,
        devices=first_layout(tank, space, wishes),
    )
    made: list[str] = []
    analysis = analysed(system)
    seen: set[str] = set()
    for round_ in range(24):
        if progress is not None and not progress(round_ / 24):
            break
        todo = [f for f in findings(analysis) if f.rank < Rank.CONSIDER and f.edit is not None]
        step = None
        for finding in todo:
            assert finding.edit is not None
            try:
                changed = apply(system, finding.edit)
            except FuenteError:
                continue
            key = changed.model_dump_json()
            if key in seen:
                continue
            seen.add(key)
            step = (finding.edit.name, changed)
            break
        if step is None:
            break
        made.append(step[0])
        system = step[1]
        analysis = analysed(system, analysis)
    unmet = tuple(f for f in findings(analysis) if f.rank < Rank.CONSIDER)
    return Layout(title, reason, system, unmet, tuple(made))


def proposals(tank: Any, space: Space, wishes: Wishes, progress: Callable[[float], bool] | None = None) -> list[Layout]:
    """The builder's own chambers first, then two other ways, each with its reason."""
    ways: list[tuple[str, str, tuple[Any, ...]]] = [
        ("Your chambers", "Just what you ticked, in the order of the water.", wishes.roles),
        (
            "Least upkeep",
            "A foam wall in thick pads and a moving bed: no socks to change every week.",
            ("foam", "moving_bed", "trap"),
        ),
        (
            "Fewest panels",
            "Settling and foam in few chambers: little to cut, most room for the pump and for what runs down.",
            ("inlet", "foam"),
        ),
        (
            "Finest water",
            "Socks before everything: they are changed weekly and take what the foam lets through.",
            ("socks", "foam", "media", "trap"),
        ),
    ]
    found: list[Layout] = []
    tried: set[tuple[Any, ...]] = set()
    for i, (title, reason, roles) in enumerate(ways):
        if roles in tried:
            continue
        tried.add(roles)
        part = None
        if progress is not None:
            base = progress

            def part(share: float, i: int = i, base: Callable[[float], bool] = base) -> bool:
                return base((i + share) / len(ways))

        own = Wishes(roles, wishes.heaters, wishes.heater_watts, wishes.name, wishes.place, wishes.units)
        try:
            found.append(lay_out(tank, space, own, title, reason, part))
        except FuenteError:
            if not found:
                raise
        if progress is not None and not progress((i + 1) / len(ways)):
            break
    return found
