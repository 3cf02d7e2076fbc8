"""What would cost less: real alternatives, each solved and judged like any edit of the builder's own.

An alternative counts where it brings no new Stop or Fix and its bill is lower by what is known of the prices.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from fuente.devices.base import Change, Edit, Rank
from fuente.devices.pieces import Panel
from fuente.devices.shop import ENDS, WALLS
from fuente.document.media import uses_of
from fuente.document.system import apply
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.halting import step
from fuente.one_line import within
from fuente.study.analysis import Analysis
from fuente.study.known import analysed
from fuente.units import UnitSystem
from fuente.workshop.purchase import purchase
from fuente.workshop.room import room_of

LEAST = 0.5  # in any money: less is noise
MOST = 5


@dataclass(frozen=True)
class Cheaper:
    """An edit, what it saves in any money, and how many lines without a price both bills have."""

    edit: Edit
    saves: float
    words: str


def cheaper(analysis: Analysis) -> tuple[Cheaper, ...]:
    """Alternatives that cost less, the best first. Takes seconds: each is solved in all situations."""
    before = purchase(analysis, UnitSystem.METRIC)
    judged = _judged(analysis)
    found = []
    for edit, words in _alternatives(analysis):
        step()
        try:
            other = analysed(apply(analysis.system, edit))
            after = purchase(other, UnitSystem.METRIC)
            saves = before.total - after.total
            if saves < LEAST or after.unknown > before.unknown:
                continue
            if _judged(other) - judged:
                continue
        except FuenteError:
            continue
        found.append(Cheaper(edit, saves, words))
    found.sort(key=lambda c: -c.saves)
    return tuple(found[:MOST])


def _judged(analysis: Analysis) -> set[tuple[str, str]]:
    return {(f.code, f.owner) for f in findings(analysis) if f.rank < Rank.CONSIDER}


def _alternatives(analysis: Analysis) -> Iterator[tuple[Edit, str]]:
    """Other joint orders; inner panels from a sheet that is bought anyway; media that cost less for their surface."""
    shop = analysis.system.shop
    for name, options in (("walls", WALLS), ("ends", ENDS)):
        for value, words in options.items():
            if value != getattr(shop, name):
                yield Edit(f"Joint order: {words}", (Change(("shop", name), value),)), f"with {words}"
    yield from _fewer_sheets(analysis)
    yield from _other_media(analysis)


def _fewer_sheets(analysis: Analysis) -> Iterator[tuple[Edit, str]]:
    """All inner panels of a material in the thickness of another sheet of it."""
    room = room_of(analysis)
    by_material: dict[str, set[float]] = {}
    for lot in room.lots:
        by_material.setdefault(lot.material, set()).add(round(lot.thickness, 4))
    for material, sizes in by_material.items():
        for thin in sorted(sizes):
            inner = [p for p in room.bill.panels if _is(p, material, thin) and not p.faces]
            if not inner or len(inner) != sum(_is(p, material, thin) for p in room.bill.panels):
                continue
            for other in sorted(sizes - {thin}):
                changes = tuple(_thickness_of(analysis, inner, other))
                if changes:
                    words = f"with all {thin * 1000:g} mm {material} panels cut from {other * 1000:g} mm"
                    yield Edit(f"Cut {thin * 1000:g} mm panels from {other * 1000:g} mm", changes), words


def _is(panel: Panel, material: str, thickness: float) -> bool:
    return panel.material == material and abs(panel.thickness - thickness) < 5e-5


def _thickness_of(analysis: Analysis, panels: Iterable[Panel], thickness: float) -> Iterator[Change]:
    """Where the design holds the thickness of some panels."""
    for panel in panels:
        if panel.sized_by:
            yield Change(panel.sized_by, thickness)


def _other_media(analysis: Analysis) -> Iterator[tuple[Edit, str]]:
    """A medium of the same kind that gives as much surface in the same room for less."""
    media = analysis.system.catalogue.media
    for key, now in media.items():
        paths = uses_of(analysis.system, key)
        for other_key, other in media.items():
            alike = other.kind == now.kind and 0 < other.cost < now.cost and other.surface >= now.surface
            if paths and alike:
                changes = tuple(Change(path, other_key) for path in paths)
                words = f"with {within(other.name)} instead of {within(now.name)}"
                yield Edit(f"Take {within(other.name)}", changes), words
