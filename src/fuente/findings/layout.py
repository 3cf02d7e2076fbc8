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
from fuente.document.system import System, apply, set_value
from fuente.errors import FuenteError
from fuente.findings.judge import findings
from fuente.study.known import analysed
from fuente.study.limits import Limits

_TRIAL = 2e-3 / 86400  # kg/s of feed for each m³ of a tank of which none is known


@dataclass(frozen=True)
class Layout:
    """A proposal with what it cannot meet, and the feed in kg/s that it carries under the builder's limits, with what
    then stands at one; ``fed`` is what is fed, 0 where nobody has said.
    """

    title: str
    reason: str
    system: System
    unmet: tuple[Finding, ...]
    changes: tuple[str, ...] = field(default=())
    carries: float | None = None
    limit: str = ""
    fed: float = 0.0

    @property
    def enough(self) -> bool:
        """Whether it carries what is fed, as far as both are known."""
        return self.carries is None or self.carries >= self.fed


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
    return Layout(title, reason, system, unmet, tuple(made), *_carried(system))


def _carried(system: System) -> tuple[float | None, str, float]:
    """The feed that it carries, what then stands at its limit, and what is fed. Where no feed is known, of one to each
    litre: what is carried hardly depends on it.
    """
    tank = system.tanks[0]
    known = tank.fed
    if not known:
        whole = tank.inner_length * tank.inner_width * tank.inner_height
        system = apply(system, set_value("", (*tank.path, "feed"), _TRIAL * whole))
    try:
        found = Limits(analysed(system)).carries
    except FuenteError:
        return None, "", known
    return found.feed, found.what, known


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
    # The builder's own stays first; of the others those that miss least and then carry most.
    rest = sorted(found[1:], key=lambda made: (len(made.unmet), not made.enough, -(made.carries or 0.0)))
    return [*found[:1], *rest]
