"""Heaters of a sump: where they stand."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.contract import Study
from fuente.devices.site import Site
from fuente.devices.sump.spec import Chamber, Sump, cell_ids
from fuente.one_line import within


def _safe_chamber(sump: Sump, study: Study) -> Chamber | None:
    """A chamber that keeps its water when it evaporates: the first heater chamber, else one with deep water."""
    dry = study.situation("evaporated").solution
    order = {"heater": 0, "moving_bed": 1, "plants": 2, "inlet": 3, "media": 4, "clean_out": 5}
    fit = [c for c in sump.chambers[:-1] if c.role in order and dry.depth(cell_ids(sump, c)[0]) > 0.15]
    return min(fit, key=lambda c: order[c.role], default=None)


def heater_dry(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """No heater where the water falls."""
    dry = study.situation("evaporated")
    for k, chamber in enumerate(sump.chambers):
        if not chamber.heaters:
            continue
        cell = cell_ids(sump, chamber)[-1]
        fall = study.running.level[cell] - dry.solution.level[cell]
        if chamber.role != "pump" and fall < 0.02:
            continue
        target = _safe_chamber(sump, study)
        edit = None
        if target:
            t = [c.id for c in sump.chambers].index(target.id)
            base: Path = (*sump.path, "chambers")
            edit = Edit(
                "Move heaters",
                (
                    Change((*base, t, "heaters"), target.heaters + chamber.heaters),
                    Change((*base, t, "heater_watts"), chamber.heater_watts),
                    Change((*base, k, "heaters"), 0),
                    Change((*base, k, "heater_watts"), 0.0),
                ),
            )
        yield Finding(
            "heater-dry",
            Rank.FIX,
            f"The heaters stand in the {within(chamber.title)}, which falls {{fall:level}} before the pump sucks air, "
            "in {days:days}.",
            "A heater out of water cracks or burns. Only a chamber behind a crest keeps its level."
            + (f" {target.title} does." if target else ""),
            f"{sump.id}.{chamber.id}",
            {"fall": fall, "days": dry.numbers["days"]},
            "Move heaters" if edit else "",
            edit,
        )


RULES = (heater_dry,)
