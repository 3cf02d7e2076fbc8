"""Living surface against what the feed makes."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices import filter_kind, kind_of
from fuente.devices.base import Edit, Finding, Rank
from fuente.devices.site import OXYGEN
from fuente.study.analysis import Analysis
from fuente.study.loads import loads


def surface(analysis: Analysis) -> Iterable[Finding]:
    """Living surface against what the feed makes; only where feed is known."""
    for load in loads(analysis):
        need, have, nitrogen, limit = load.need, load.have, load.nitrogen, load.limit
        if have >= need:
            continue
        body = next(b for b in analysis.bodies if load.tanks[0] in b)
        edit, action = _more_living(analysis, set(body), need - have)
        if edit is None:
            edit, action = _larger_filter(analysis, set(body), need, have)
        yield Finding(
            "surface-short",
            Rank.FIX,
            "The feed makes {nitrogen:feed} of ammonia nitrogen, which wants {need:area}; the media have {have:area}.",
            f"At {{0.0005:concentration}} of ammonia, {{{OXYGEN:g}:concentration}} of oxygen and this temperature;"
            f" {limit} limits. More media cannot beat overfeeding: feed less, or add surface and raise the feed in"
            " steps. ±40 %.",
            next(t.id for t in analysis.system.tanks if t.id in load.tanks and t.fed > 0),
            {"nitrogen": nitrogen, "need": need, "have": have},
            action,
            edit,
            have - need,
        )


def _more_living(analysis: Analysis, cells: set[str], missing: float) -> tuple[Edit | None, str]:
    """More media in a device whose water this is, where it has room for it."""
    for device in analysis.ordered:
        kind, site = kind_of(device), analysis.sites[device.id]
        if kind.more_living is not None and any(cell in cells for cell, _ in kind.surfaces(device, site)):
            edit, action = kind.more_living(device, site, missing)
            if edit is not None:
                return edit, action
    return None, ""


def _larger_filter(analysis: Analysis, cells: set[str], need: float, have: float) -> tuple[Edit | None, str]:
    """A filter that can grow to what is missing."""
    for spec in analysis.system.filters:
        kind = filter_kind(spec)
        if spec.tank in cells and kind.grow is not None:
            site = analysis.sites[spec.id]
            own = kind.surface(spec, site)
            edit = kind.grow(spec, site, (need - have + own) / max(own, 1e-9)) if own > 0 else None
            if edit is not None:
                return edit, edit.name
    return None, ""


RULES = (surface,)
