"""A sponge's or box's row and card."""

from __future__ import annotations

import math
from dataclasses import replace

from fuente.devices.base import Change, Choice, Edit, Path, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, choices_of, medium_choice
from fuente.devices.pocket import air_of, cell_id, flow_of
from fuente.devices.pocket_shown import drive_choices, headline, pocket_readings
from fuente.devices.sponge.judge import surface
from fuente.devices.sponge.spec import Bag, Sponge
from fuente.network.model import Solution


def card(spec: Sponge, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """As a station."""
    path = spec.path
    words, values = headline(spec, solution)
    own = choices_of(spec, path, "style length width height", "")
    own += choices_of(spec, path, "ppi") if spec.style == "sponge" else _box_choices(spec, site)
    big = (
        Reading("of air", air_of(spec, solution), "air_flow")
        if spec.drive == "air"
        else Reading("living surface", surface(spec, site), "area")
    )
    return (
        Station(
            spec.id,
            spec.name,
            words,
            values,
            glyph="sponge",
            cells=(cell_id(spec),),
            big=(Reading("through it", flow_of(spec, solution), "flow"), big),
            choices=(*drive_choices(spec, path), *own),
            readings=(
                Reading(
                    "Living surface",
                    surface(spec, site),
                    "area",
                    "Bulk of the block by its surface for each litre.",
                    "typical of open foam and media",
                    "±30 %",
                ),
                *pocket_readings(spec, site, solution, "the block"),
            ),
            why=Reading(
                "Why this flow",
                flow_of(spec, solution),
                "flow",
                "Bubbles make the water in the tube light; the tank's water pushes it up until tube and block take all"
                " of that head.",
                "Stenning and Martin 1968; Darcy–Forchheimer",
                "±25 %",
            ),
            commands=lambda: _commands(spec),
        ),
    )


def _box_choices(spec: Sponge, site: Site) -> tuple[Choice, ...]:
    """One filling or several bags, and what lies on top."""
    path = spec.path
    found: list[Choice] = [] if spec.bags else [medium_choice(site, (*path, "medium"), spec.medium, ("loose",))]
    for k, bag in enumerate(spec.bags):
        own: Path = (*path, "bags", k)
        found.append(medium_choice(site, (*own, "medium"), bag.medium, ("loose",), f"Bag {k + 1}"))
        density = site.medium(bag.medium).dry
        label = f"Bag {k + 1}, how much"
        found += [replace(c, label=label, density=density) for c in choices_of(bag, own, "volume")]
    mat = " mat" if spec.matted else ""
    return (*found, *choices_of(spec, path, "top", ("ppi" if spec.top == "foam" else "") + mat + " slots"))


def _commands(spec: Sponge) -> tuple[tuple[str, Edit], ...]:
    """Bags that come and go."""
    if spec.style != "box":
        return ()
    path, found = (*spec.path, "bags"), []
    left = spec.block - sum(b.volume for b in spec.bags)
    if len(spec.bags) < 4 and left > 1e-4:
        volume = math.floor((left if spec.bags else 0.5 * left) * 1e5) / 1e5
        more = (*spec.bags, Bag(medium=spec.medium if not spec.bags else "pumice", volume=volume))
        found.append(("Add a bag of media", Edit("Add bag", (Change(path, more),))))
    if spec.bags:
        found.append(("Take out the last bag", Edit("Take out bag", (Change(path, spec.bags[:-1]),))))
    return tuple(found)
