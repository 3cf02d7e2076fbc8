"""Heaters of a sump: where they stand, and what one that sticks does."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.contract import Study
from fuente.devices.site import Site
from fuente.devices.sump.network import cell_ids
from fuente.devices.sump.spec import Chamber, Sump
from fuente.life.heat import heat_loss_per_kelvin, rise_with


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
            f"The heaters stand in the {chamber.title.lower()}, which falls {{fall:level}} before the pump sucks air, "
            "in {days:days}.",
            "A heater out of water cracks or burns. Only a chamber behind a crest keeps its level."
            + (f" {target.title} does." if target else ""),
            f"{sump.id}.{chamber.id}",
            {"fall": fall, "days": dry.numbers["days"]},
            "Move heaters" if edit else "",
            edit,
        )


def stuck(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """One heater stuck on, one dead."""
    homes = tuple(site.homes.values())
    heaters = [(c, c.heaters, c.heater_watts) for c in sump.chambers if c.heaters and c.heater_watts]
    if not heaters:
        return
    watts = sum(n * w for _, n, w in heaters)
    count = sum(n for _, n, _ in heaters)
    glass = sum(2 * (t.inner_length + t.inner_width) * t.inner_height for t in homes)
    glass += 2 * (sump.inner_length + sump.inner_width) * 0.7 * sump.inner_height
    surface: float = sum(t.inner_length * t.inner_width * (1 - 0.8 * t.cover) for t in homes)
    surface += sump.inner_length * sump.inner_width
    per_kelvin = heat_loss_per_kelvin(glass, surface)
    pumps = sum(d.warms for d in site.devices.values())
    target = homes[0].temperature
    cold = site.space.coldest + rise_with(watts + pumps, per_kelvin)
    one = watts / count
    hot = site.space.air + rise_with(one + pumps, per_kelvin)
    owner = f"{sump.id}.{heaters[0][0].id}"
    if hot > target + 5:
        yield Finding(
            "heater-stuck",
            Rank.CONSIDER,
            f"One heater stuck on carries the water to {{hot:temperature}}; you keep {{target:temperature}}, {count}"
            " fitted.",
            "More and smaller heaters fail more gracefully. Estimate from glass and surface, ±30 %.",
            owner,
            {"hot": hot, "target": target},
        )
    if cold < target - 0.5:
        yield Finding(
            "heater-small",
            Rank.CONSIDER,
            "In the coldest room the heaters reach {cold:temperature}; you keep {target:temperature}.",
            "Heat lost through glass and surface against heater and pump watts; ±30 %.",
            owner,
            {"cold": cold, "target": target},
        )


RULES = (heater_dry, stuck)
