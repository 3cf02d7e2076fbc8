"""A kind's judgement put together from rules, so that one that finds no state does not silence the others."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

from fuente.devices.base import Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.site import Site
from fuente.errors import FuenteError

Rule = Callable[[Any, Site, Study], Iterable[Finding]]


def judged_by(*rules: Rule) -> Rule:
    """The verb ``judge`` of a kind by its rules, in their order."""

    def judge(spec: Any, site: Site, study: Study) -> tuple[Finding, ...]:
        """All that the rules find."""
        found: list[Finding] = []
        for rule in rules:
            try:
                found += rule(spec, site, study)
            except FuenteError as error:
                found.append(Finding("no-state", Rank.STOP, str(error), "A situation has no steady state.", ""))
        return tuple(found)

    return judge
