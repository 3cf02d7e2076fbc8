"""What every kind of filter shares: the spec's head, its surroundings, sizing by load, and the kind's table of verbs."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any, Literal

from pydantic import Field

from fuente.catalogue import Medium, medium
from fuente.devices.base import (
    Change,
    Choice,
    Edit,
    Finding,
    Fragment,
    Home,
    Parts,
    Path,
    Rank,
    Reading,
    Spec,
    Station,
    Task,
)
from fuente.devices.schools import QUESTIONS, OwnSchools, Schools, ruling, schools_field
from fuente.drawing.primitives import Drawing, Point
from fuente.errors import FuenteError
from fuente.life.load import ammonia_made, areal_rate, foam_surface, surface_needed
from fuente.network.aeration import AirDrop, Lift
from fuente.network.model import Solution
from fuente.units import UnitSystem, shown
from fuente.water.properties import Water

KEPT, OXYGEN = 5e-4, 6e-3  # kg/m³: ammonia that one lives with, and oxygen in a filter that is looked after
STANDING = 1 / 3  # of carriers' surface that water reaches while they stand still; an assumption
SPARE = 1.5  # times the surface that the load needs
ASSUMED_FEED = 0.02  # kg of feed a day for each m³ of tank where nothing is known: a light stock, said on the card
_DAY = 86400.0


class FilterSpec(Spec):
    """The head of every filter in the document; ``kind`` names its folder."""

    kind: str
    id: str = Field(max_length=40, description="Unlike every other in the system.")
    name: str = Field("Filter", max_length=80, description="What it is called.")
    tank: str = Field("tank", max_length=40, description="Id of the tank whose water it cleans.")
    schools: OwnSchools = schools_field()

    def ends(self) -> tuple[str, ...]:
        """Ids of other waters that its pipes draw from and lead to."""
        return ()

    def falls(self) -> tuple[tuple[str, float], ...]:
        """Waters from which a pipe falls to it, each with the height in m over their floor to which that drains them."""
        return ()


@dataclass(frozen=True)
class Vessel:
    """Water that pipes can lead from or to: cells, elevations in m, and where it stands in the drawing, m."""

    id: str
    name: str
    inlet: str
    outlet: str
    floor: float
    rim: float
    left: float
    right: float
    stands: float  # about where its water stands, elevation in m


@dataclass(frozen=True)
class Site:
    """The surroundings of a filter: its tank, other waters by id, the water itself, and the ruling schools."""

    tank: Home
    water: Water
    vessels: Mapping[str, Vessel] = field(default_factory=dict)
    schools: Schools = field(default_factory=Schools)
    salinity: float = 0.0
    taken: frozenset[str] = frozenset()  # ids in use
    level: float = 0.0  # elevation in m at which the tank's water stands, as far as is known before solving
    drops: Mapping[str, AirDrop] = field(default_factory=dict)  # by filter id: the line that blows into it
    beside: tuple[float, float] = (0.0, 0.0)  # m: right end of everything drawn, and the floor there
    room: float = 0.0  # m along the tank from its left wall that other filters leave free

    @property
    def depth(self) -> float:
        """Of the tank's water, m."""
        return self.level - self.tank.floor

    @property
    def volume(self) -> float:
        """Of the tank's water, m³, about."""
        return self.tank.inner_length * self.tank.inner_width * self.depth

    @property
    def feed(self) -> float:
        """kg/s: what the builder said, or a light stock's."""
        return self.tank.fed or ASSUMED_FEED * self.volume / _DAY

    def ruled(self, spec: FilterSpec) -> Schools:
        """The schools that hold for a filter."""
        return ruling(self.schools, spec.schools)

    def surface(self) -> float:
        """Living surface in m² for the tank's load, with what is spare."""
        rate, _ = areal_rate(KEPT, self.tank.temperature, OXYGEN, self.salinity)
        return SPARE * surface_needed(ammonia_made(self.feed, self.tank.protein), rate)

    def media(self, medium_id: str, schools: Schools | None = None) -> float:
        """Bulk m³ of a medium that carries the tank's load."""
        return self.surface() / medium(medium_id).living((schools or self.schools).surface == "core")

    def foam(self, ppi: float) -> float:
        """m³ of foam that carries the tank's load."""
        return self.surface() / foam_surface(ppi)

    def new_id(self, stem: str) -> str:
        """An id that is free."""
        return (
            stem
            if stem not in self.taken
            else next(f"{stem}-{n}" for n in range(2, 9999) if f"{stem}-{n}" not in self.taken)
        )


@dataclass(frozen=True)
class Kind:
    """One kind of filter: its words, its spec, and the verbs of its folder.

    ``first`` makes a first layout from a site without a word of the builder. ``size`` is its one figure of size, with which
    schools are compared: a label, a value and its quantity. ``surface`` is its living surface in m² by a school.
    """

    id: str
    name: str
    said: str
    glyph: str
    spec: type[FilterSpec]
    first: Callable[[Site], FilterSpec]
    lower: Callable[[Any, Site], Fragment]
    card: Callable[[Any, Site, Solution, Path], Station]
    sketch: Callable[[Any, Site, Solution, Path], Drawing]
    parts: Callable[[Any, Site, Solution], Parts]
    care: Callable[[Any, Solution], tuple[Task, ...]]
    judge: Callable[[Any, Site, Solution, Path], tuple[Finding, ...]]
    size: Callable[[Any], tuple[str, float, str]]
    surface: Callable[[Any, Schools], float]
    schools: tuple[str, ...] = ("surface",)
    rows: Callable[[Any, Site, Solution, Path], tuple[Station, ...]] | None = None  # stations within it: drums, say
    inside: bool = True  # stands in its tank
    vessel: Callable[[Any, Site], Vessel] | None = None  # where others can lead water, if anywhere
    air: bool = False  # whether it runs on air, at least by choice
    # Its next size up by a factor of living surface; None where the tank has no room for that.
    grow: Callable[[Any, Site, float, Path], Edit | None] | None = None
    # Where its airline ends in the drawing, mm.
    air_at: Callable[[Any, Site], Point] | None = None
    wish: Callable[[Any, Site], float] | None = None  # air in m³/s that it wants


def choices_of(spec: Spec, path: Path, names: str, fold: str = "") -> tuple[Choice, ...]:
    """Cards' fields from the spec's own field descriptions: names apart by spaces, those in ``fold`` folded away."""
    return tuple(
        _choice(spec, path, n, folded) for folded, group in ((False, names), (True, fold)) for n in group.split()
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


def picked(default: str, label: str, options: Mapping[str, str], why: str = "") -> Any:
    """A field in which the builder picks one of several words (value → words)."""
    extra: dict[str, Any] = {"label": label, "options": [[k, v] for k, v in options.items()]}
    return Field(default, description=f"{label}: {', '.join(options)}. {why}".strip(), json_schema_extra=extra)


def counted(default: int, label: str, low: int, high: int) -> Any:
    """A whole number with a label."""
    return Field(default, ge=low, le=high, description=f"{label}.", json_schema_extra={"label": label})


def yes_no(default: bool, label: str) -> Any:
    """A yes or no with a label."""
    return Field(default, description=f"{label}.", json_schema_extra={"label": label})


def medium_options(kinds: tuple[str, ...] = ("carrier", "loose")) -> tuple[tuple[str, str], ...]:
    """Media of the catalogue, own ones with it, for a choice."""
    from fuente.catalogue import MEDIA

    return tuple((m.id, m.name) for m in MEDIA.values() if m.kind in kinds)


def medium_choice(
    path: Path, value: str, kinds: tuple[str, ...] = ("carrier", "loose"), label: str = "Media"
) -> Choice:
    """Which medium."""
    return Choice(path, label, "choice", value, medium_options(kinds))


def by_school(kind: Kind, site: Site, question: str, units: UnitSystem) -> tuple[tuple[str, str], ...]:
    """A first layout by each school of a question: its name, and the figure that tells them apart, in words.

    The figure is the kind's size, its air, or its living surface, whichever differs first; else what is built otherwise. Raises
    FuenteError where a school leaves no layout.
    """
    names, rows, layouts = [], [], []
    for value, name in QUESTIONS[question][1]:
        other = replace(site, schools=site.schools.model_copy(update={question: value}))
        made = kind.first(other)
        what, size, quantity = kind.size(made)
        row = [f"{what} {shown(size, quantity, units) if quantity else f'{size:g}'}"]
        row.append(
            f"air {shown(kind.wish(made, other), 'air_flow', units)}"
            if kind.wish and getattr(made, "drive", "air") == "air"
            else "no air"
        )
        row.append(f"surface {shown(kind.surface(made, other.schools), 'area', units)}")
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


def school_readings(kind: Kind, spec: Any, site: Site) -> tuple[Reading, ...]:
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
        Finding("filter-dirty", Rank.FIX, f"{spec.name} is at {spec.dirt:.0f} times its clean loss.",
                "Rinse it in old tank water; a clogged filter starves what lives in it.", spec.id, {}, "Clean it",
                Edit(f"Clean {spec.name.lower()}", (Change((*path, "dirt"), 1.0),)), DIRTY - spec.dirt),
    )  # fmt: skip


def grid(value: float, step: float = 0.005) -> float:
    """A size to the next step that a builder would mark, m."""
    return round(math.ceil(value / step - 1e-9) * step, 6)


def stuff(key: str) -> Medium:
    """The medium of an id."""
    return medium(key)


Drive = Literal["air", "pump"]
__all__ = ["AirDrop", "Drive", "FilterSpec", "Kind", "Lift", "Site", "Vessel"]
