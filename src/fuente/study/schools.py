"""What each school would change in a system: first layouts by each, side by side."""

from __future__ import annotations

from fuente.devices import filter_kind
from fuente.devices.filtering import by_school
from fuente.errors import FuenteError
from fuente.one_line import within
from fuente.study.analysis import Analysis
from fuente.units import UnitSystem


def effects(analysis: Analysis, units: UnitSystem) -> dict[str, str]:
    """For each question that a filter of the system depends on, a first layout by each school, in words; of each kind
    the first one.

    What stands is not changed by a school alone: the figures are those of a new layout.
    """
    found: dict[str, list[str]] = {}
    seen: set[str] = set()
    for spec in analysis.system.filters:
        kind = filter_kind(spec)
        if spec.kind in seen:
            continue
        seen.add(spec.kind)
        site = analysis.sites[spec.id]
        for question in kind.schools:
            try:
                sizes = by_school(kind, site, question, units)
            except (FuenteError, ValueError):
                continue
            figures = {figure for _, figure in sizes}
            name = within(kind.name)
            words = (
                f"the same by each, {sizes[0][1]}"
                if len(figures) == 1
                else " · ".join(f"{school}: {figure}" for school, figure in sizes)
            )
            found.setdefault(question, []).append(f"{name[:1].upper()}{name[1:]}: {words}.")
    return {question: " ".join(lines) for question, lines in found.items()}
