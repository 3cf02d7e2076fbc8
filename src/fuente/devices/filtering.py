"""What every kind of filter shares: the spec's head, its surroundings, sizing by load, and the kind's
table of verbs.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any, Literal

from pydantic import Field

from fuente.devices.base import (
    Change,
    Choice,
    Edit,
    Finding,
    Path,
    Rank,
    Reading,
    Spec,
    Station,
)
from fuente.devices.contract import Device, End, Kind, Study, in_pipes
from fuente.devices.schools import QUESTIONS, OwnSchools, own_choice, schools_field
from fuente.devices.site import ASSUMED_FEED, KEPT, OXYGEN, Site, Vessel
from fuente.errors import FuenteError
from fuente.network.aeration import AirDrop, Lift
from fuente.network.model import Solution
from fuente.one_line import Line, within
from fuente.units import UnitSystem, shown

FILTERS = 65  # their place among all kinds
STANDING = 1 / 3  # of carriers' surface that water reaches while they stand still; an assumption


class FilterSpec(Device):
    """The head of every filter in the document; ``kind`` names its folder."""

    name: Line = Field("Filter", max_length=80, description="What it is called.")
    tank: str = Field("tank", max_length=40, description="Id of the tank whose water it cleans.")
    schools: OwnSchools = schools_field()

    @property
    def home(self) -> str:
        """Its tank."""
        return self.tank

    @property
    def on_air(self) -> bool:
        """Whether it stands still without air."""
        return False

    @property
    def air_tube(self) -> float:
        """Bore in m of the tube that air is led into."""
        return 0.02

    @property
    def ends_its_line(self) -> bool:
        """Whether what its airline ends in is decided on its own card, and is part of it."""
        return False

    @property
    def air_line_end(self) -> str:
        """What its airline should end in."""
        return "open"

    def ports(self) -> tuple[str, ...]:
        """Air can be led to every filter."""
        return ("air",)

    def ends(self) -> tuple[End, ...]:
        """It belongs to its tank."""
        return (End(self.tank, "stands", "water"),)


@dataclass(frozen=True, kw_only=True)
class FilterKind(Kind):
    """A kind of filter that can be picked from the gallery.

    ``first`` makes a first layout from a site without a word of the builder. ``size`` is its one figure of size, with
    which schools are compared: a label, a value and its quantity. ``surface`` is its living surface in m² by a school.
    """

    first: Callable[[Site], FilterSpec]
    size: Callable[[Any], tuple[str, float, str]]
    surface: Callable[[Any, Site], float]
    order: int = FILTERS
    at_home: bool = True
    schools: tuple[str, ...] = ("surface",)
    inside: bool = True
    air: bool = False  # whether it runs on air, at least by choice
    # Its next size up by a factor of living surface; None where the tank has no room for that.
    grow: Callable[[Any, Site, float], Edit | None] | None = None

    def listed(self, spec: Any, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
        """Its card with what all filters show: their air valve, schools, their share of what moves in the tank."""
        made, *rows = self.card(spec, site, study, solution)
        own = tuple(own_choice(spec.schools, site.schools, q, spec.path) for q in self.schools)
        extra = (*_part(spec, study, solution), *in_pipes(spec, solution), *school_readings(self, spec, site))
        first = replace(
            made,
            choices=(*made.choices, *own),
            readings=(*made.readings, *extra),
            many=self.inside and len(site.homes) > 2,
            swaps=True,
        )
        return (first, *rows)

    def surfaces(self, spec: Any, site: Site) -> tuple[tuple[str, float], ...]:
        """By its own cells where it says so; else its surface sees its tank's water."""
        return self.living(spec, site) if self.living else ((spec.tank, self.surface(spec, site)),)

    def by_outer(self, spec: Any, site: Site) -> tuple[Any, Site] | None:
        """Its own rule stands over the system's."""
        if site.ruled(spec).surface != "core":
            return None
        own = spec.schools.model_copy(update={"surface": "outer"})
        return spec.model_copy(update={"schools": own}), site


def _part(spec: FilterSpec, study: Study, solution: Solution) -> tuple[Reading, ...]:
    """A filter's share of all that is moved in its tank, where others move water too."""
    own = sum(max(solution.flow[w.id], 0.0) for w in study.network.ways if w.owner == spec.id and w.b == spec.tank)
    whole = study.moved(solution, spec.tank)
    if own <= 0 or own > 0.999 * whole:
        return ()
    return (
        Reading(
            "Of what moves in its tank",
            own / whole,
            "fraction",
            "Its flow by that of all pumps, lifts and filters that give this tank water.",
        ),
    )


def choices_of(spec: Spec, path: Path, names: str, fold: str = "") -> tuple[Choice, ...]:
    """Cards' fields from the spec's own field descriptions: names apart by spaces, those in ``fold`` folded away."""
    return tuple(
        _choice(spec, path, n, folded) for folded, group in ((False, names), (True, fold)) for n in group.split()
    )


def weighed(choices: tuple[Choice, ...], density: float) -> tuple[Choice, ...]:
    """Volumes of media among choices may be typed as dry weight, by a bulk density in kg/m³."""
    return tuple(
        replace(c, density=density) if c.quantity == "volume" and c.path[-1] == "media" else c for c in choices
    )


def _choice(spec: Spec, path: Path, name: str, fold: bool) -> Choice:
    target: Any = spec
    *within, last = name.split(".")
    for part in within:
        target = getattr(target, part)
    info = type(target).model_fields[last]
    extra: dict[str, Any] = info.json_schema_extra if isinstance(info.json_schema_extra, dict) else {}
    value = getattr(target, last)
    label = str(extra.get("label") or last.replace("_", " ").capitalize())
    options: tuple[tuple[Any, str], ...] = tuple(extra.get("options") or ())
    quantity = str(extra.get("quantity") or "")
    if not quantity:
        if options or isinstance(value, bool):
            quantity = "choice"
            options = options or ((True, "yes"), (False, "no"))
        else:
            quantity = "count" if isinstance(value, int) else "text"
    return Choice((*path, *within, last), label, quantity, value, options, extra.get("step"), fold)


def counted(default: int, label: str, low: int, high: int) -> Any:
    """A whole number with a label."""
    return Field(default, ge=low, le=high, description=f"{label}.", json_schema_extra={"label": label})


def yes_no(default: bool, label: str) -> Any:
    """A yes or no with a label."""
    return Field(default, description=f"{label}.", json_schema_extra={"label": label})


def medium_choice(
    site: Site, path: Path, value: str, kinds: tuple[str, ...] = ("carrier", "loose"), label: str = "Media"
) -> Choice:
    """Which medium, of those of its kinds that the site's catalogue has."""
    options = tuple((m.id, m.name) for m in site.catalogue.media.values() if m.kind in kinds)
    return Choice(path, label, "choice", value, options)


def by_school(kind: FilterKind, site: Site, question: str, units: UnitSystem) -> tuple[tuple[str, str], ...]:
    """A first layout by each school of a question: its name, and the figure that tells them apart, in words.

    The figure is the kind's size, its air, or its living surface, whichever differs first; else what is built
    otherwise. Raises FuenteError where a school leaves no layout.
    """
    names, rows, layouts = [], [], []
    for value, name in QUESTIONS[question][1]:
        other = replace(site, schools=site.schools.model_copy(update={question: value}))
        made = kind.first(other)
        what, size, quantity = kind.size(made)
        row = [f"{what} {shown(size, quantity, units) if quantity else f'{size:g}'}"]
        row.append(f"air {shown(kind.wish(made, other), 'air_flow', units)}" if kind.wish and made.on_air else "no air")
        row.append(f"surface {shown(kind.surface(made, other), 'area', units)}")
        names.append(name)
        rows.append(row)
        layouts.append(made)
    column = next((c for c in range(3) if len({row[c] for row in rows}) > 1), None)
    if column is None:
        changed = next(
            (
                f
                for f in type(layouts[0]).model_fields
                if len({str(getattr(x, f)) for x in layouts}) > 1 and f != "schools"
            ),
            "",
        )
        if changed:
            return tuple((name, _in_words(x, changed)) for name, x in zip(names, layouts, strict=True))
    return tuple((name, row[column or 0]) for name, row in zip(names, rows, strict=True))


def _in_words(spec: Spec, field_name: str) -> str:
    """A field with its value as its card says it."""
    choice = choices_of(spec, (), field_name)[0]
    value = dict(choice.options).get(choice.value, choice.value) if choice.options else choice.value
    return f"{choice.label[:1].lower()}{choice.label[1:]} {value}"


def school_readings(kind: FilterKind, spec: Any, site: Site) -> tuple[Reading, ...]:
    """What each other school would change of a first layout."""
    found = []
    for question in kind.schools:
        label, options, why = QUESTIONS[question]
        now = getattr(site.ruled(spec), question)
        try:
            sizes = by_school(kind, replace(site, schools=site.ruled(spec)), question, UnitSystem.METRIC)
        except (FuenteError, ValueError):
            sizes = ()
        words = "; ".join(f"{name}: {figure}" for name, figure in sizes)
        found.append(
            Reading(label, dict(options)[now], "", f"{why} A first layout by each: {words}." if words else why)
        )
    return tuple(found)


DIRTY = 15.0  # times its clean loss at which what strains is due


def clogged(spec: Any, path: Path) -> tuple[Finding, ...]:
    """What strains and is long due, by how many times its clean loss the builder has entered or measured."""
    if spec.dirt <= DIRTY:
        return ()
    return (
        Finding(
            "filter-dirty",
            Rank.FIX,
            f"{spec.name} is clogged to {spec.dirt:.0f} × its clean loss.",
            "Rinse it in old tank water; a clogged filter starves what lives in it.",
            spec.id,
            {},
            "Clean it",
            Edit(f"Clean {within(spec.name)}", (Change((*path, "dirt"), 1.0),)),
            DIRTY - spec.dirt,
        ),
    )


def grid(value: float, step: float = 0.005) -> float:
    """A size to the next step that a builder would mark, m."""
    return round(math.ceil(value / step - 1e-9) * step, 6)


Drive = Literal["air", "pump"]
__all__ = ["ASSUMED_FEED", "KEPT", "OXYGEN", "AirDrop", "Drive", "FilterKind", "FilterSpec", "Lift", "Site", "Vessel"]
