"""Edits about filters of all kinds: add one from the gallery, give it air, duplicate it, take it out, set the air
valves.
"""

from __future__ import annotations

import contextlib
from collections.abc import Iterable, Sequence

from fuente.devices import filter_kind, filter_kinds
from fuente.devices.base import Change, Edit
from fuente.devices.edits import added, inch_sized, pipes_in, taken_out
from fuente.devices.filtering import FilterKind, FilterSpec
from fuente.devices.recipes.air import air_for_place, alike, lead_air, new_valves, with_lines
from fuente.devices.site import Site
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.one_line import within
from fuente.study.analysis import Analysis
from fuente.study.known import analysed
from fuente.study.sites import all_ids, new_site
from fuente.units import UnitSystem


def first_layouts(system: System, tank_id: str) -> list[tuple[FilterKind, FilterSpec | FuenteError]]:
    """A first layout of every kind for a tank, or why there is none."""
    site, used = new_site(system, tank_id), pipes_in(system.devices)
    found: list[tuple[FilterKind, FilterSpec | FuenteError]] = []
    for kind in filter_kinds():
        try:
            made = kind.first(site)
            found.append((kind, inch_sized(made, used) if system.units == UnitSystem.US else made))
        except (FuenteError, ValueError) as error:
            found.append(
                (
                    kind,
                    (
                        error
                        if isinstance(error, FuenteError)
                        else FuenteError(f"{kind.name}: the tank is too small for it.")
                    ),
                )
            )
    return found


def add_filter(system: System, spec: FilterSpec) -> Edit:
    """Put a filter into the system.

    On air, a drop on the first air pump leads to it, or a new pump that carries it; its valve stands where it gets what
    it wants, and those of others stay as they are.
    """
    return _added(system, (spec,), f"Add {within(filter_kind(spec).name)}")


def _added(system: System, specs: tuple[FilterSpec, ...], name: str) -> Edit:
    filters = added(*specs)
    airy = [s for s in specs if needs_air(s)]
    if not airy:
        return Edit(name, filters)
    supply = with_lines(system.devices, airy, homes_of(system, airy))
    made = apply(system, Edit(name, (*filters, *added(supply))))
    with contextlib.suppress(FuenteError):  # what does not run yet keeps its valves open
        supply = new_valves(supply, analysed(made), (s.id for s in specs))
    return Edit(name, (*filters, *added(supply)))


def swap_filter(system: System, old: FilterSpec, new: FilterSpec) -> Edit:
    """Put a filter in the place of another, under its id: what leads to that leads to it, and its air line stays where
    both are driven by air.
    """
    name = f"Swap {within(filter_kind(old).name)} for {within(filter_kind(new).name)}"
    changes = [Change(old.path, new)]
    blown = [d for d in system.devices if old.id in d.air_lines()]
    if not needs_air(new):
        changes += [Change(d.path, d.past(old)) for d in blown]
        return Edit(name, tuple(changes))
    if blown:
        return Edit(name, tuple(changes))
    supply = with_lines(system.devices, [new], homes_of(system, (new,)))
    return Edit(name, (*changes, *added(supply)))


def homes_of(system: System, specs: Iterable[FilterSpec]) -> dict[str, Site]:
    """The sites of new filters in the tanks of some, by tank id."""
    return {key: new_site(system, key) for key in dict.fromkeys(s.tank for s in specs)}


def add_to_many(system: System, spec: FilterSpec, tanks: Sequence[str]) -> Edit:
    """Put a filter into its tank and the same into others."""
    made = _copies(system, spec, tanks)
    return _added(system, (spec, *made), f"Add {within(filter_kind(spec).name)} to {len(made) + 1} tanks")


def _copies(system: System, spec: FilterSpec, tanks: Sequence[str]) -> list[FilterSpec]:
    taken = all_ids(system) | {spec.id}
    stem = spec.kind.replace("_", "-")
    made = []
    for tank in tanks:
        key = next(f"{stem}-{n}" for n in range(1, 9999) if f"{stem}-{n}" not in taken)
        taken.add(key)
        made.append(spec.model_copy(update={"id": key, "tank": tank}))
    return made


def air_line(analysis: Analysis, place_id: str, own: bool = False) -> Edit:
    """A line to a filter that has none, or to a place within a device, whose valve then stands where it gets what it
    wants; on its ``own`` air pump or on the first.
    """
    system = analysis.system
    place = analysis.air_places.get(place_id)
    if place is None:
        spec = system.filter(place_id)
        return lead_air(system.devices, spec, homes_of(system, (spec,)))
    depth = max(analysis.running.level[place.lift.a] - place.lift.injector, 0.05)
    supply = air_for_place(system.devices, place, new_site(system, system.tanks[0].id), depth, own)
    name = f"Connect air to {within(place.title)}"
    made = apply(system, Edit(name, (Change(supply.path, supply),)))
    with contextlib.suppress(FuenteError):  # what does not run yet keeps its valves open
        supply = new_valves(supply, analysed(made), (place_id,))
    return Edit(name, (Change(supply.path, supply),))


def needs_air(spec: FilterSpec) -> bool:
    """Whether it stands still without air."""
    return filter_kind(spec).air and spec.on_air


def take_out(system: System, spec: FilterSpec) -> Edit:
    """Without a filter; others that lead to it or from it then lead past it."""
    return Edit(f"Take out {within(spec.name)}", taken_out(system.devices, (spec,)))


def duplicate(system: System, spec: FilterSpec, tanks: Sequence[str]) -> Edit:
    """The same filter in other tanks, its air with it."""
    made = _copies(system, spec, tanks)
    many = f"{len(made)} tanks" if len(made) != 1 else system.tank(tanks[0]).name
    changes = added(*made)
    if needs_air(spec):
        supply = with_lines(system.devices, made, homes_of(system, made))
        changes += added(alike(system.devices, spec, made, supply))
    return Edit(f"Duplicate {within(spec.name)} to {many}", changes)


def filter_commands(system: System, spec: FilterSpec) -> tuple[tuple[str, Edit], ...]:
    """What can be done to a filter from its card; duplicating to tanks of one's choice stands apart, as it asks for
    them.
    """
    found: list[tuple[str, Edit]] = []
    if needs_air(spec) and all(spec.id not in d.air_lines() for d in system.devices):
        found.append(("Connect an air line", lead_air(system.devices, spec, homes_of(system, (spec,)))))
    has = {f.tank for f in system.filters if f.kind == spec.kind}
    others = [t.id for t in system.tanks if t.id != spec.tank and t.id not in has]
    rack = system.tank(spec.tank).rack
    mates = [key for key in others if rack and system.tank(key).rack == rack]
    if filter_kind(spec).inside:
        if mates:
            found.append((f"Duplicate to the {len(mates)} others of its rack", duplicate(system, spec, mates)))
        if others and others != mates:
            where = f"{len(others)} other tanks" if len(others) > 1 else system.tank(others[0]).name
            found.append((f"Duplicate to {where}", duplicate(system, spec, others)))
    found.append(("Take it out", take_out(system, spec)))
    return tuple(found)
