"""A filter put into a system so that nothing new is to stop for or to fix: what it brings is mended with it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from fuente.devices import filter_kind, kind_of
from fuente.devices.base import Edit, Finding, Rank, Spec
from fuente.devices.beside import BesideSpec
from fuente.devices.filtering import FilterSpec
from fuente.devices.pieces import Thing
from fuente.devices.sentences import first_sentence
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.findings.judge import findings
from fuente.findings.tried import grave, tried
from fuente.one_line import within
from fuente.study.analysis import Analysis
from fuente.study.filters import add_filter, add_to_many, swap_filter
from fuente.study.known import analysed
from fuente.units import UnitSystem, fill

SAID = "turnover-slow"  # what the first sentence of a promise says already
ROUNDS = 4  # remedies that one filter may bring along


def added_well(system: System, spec: FilterSpec, tanks: Sequence[str] = ()) -> Edit:
    """The edit that adds a filter, to its tank or with it to others, and mends what that brings: an air pump that then
    blows too little, a mark that then stands too low. What has no remedy stays, and is told.
    """
    edit = add_to_many(system, spec, tanks) if tanks else add_filter(system, spec)
    return mended(system, edit)


@dataclass(frozen=True)
class Promise:
    """What a filter would bring, worked out of the design with it in: the edit that puts it there with what mends it,
    turnover 1/s of its tank then and as it is wished, W and m³ of water more, what is then said that was not, and which
    filters stand higher for it, by name, m.
    """

    edit: Edit
    turnover: float
    wish: float
    watts: float
    water: float
    brought: tuple[Finding, ...]
    raised: tuple[tuple[str, float], ...] = ()

    def words(self, units: UnitSystem) -> str:
        """In a sentence or two."""
        text = "With it the tank turns over {t:per_hour}; you want {w:per_hour}. It draws {p:power} more"
        text += " and holds {v:volume} more water." if self.water > 1e-4 else "."
        said = fill(text, {"t": self.turnover, "w": self.wish, "p": self.watts, "v": self.water}, units)
        for name, by in self.raised:
            said += fill(f" {name} stands {{by:length}} higher for it.", {"by": by}, units)
        brought = [f for f in self.brought if f.code != SAID]
        if not brought:
            return f"{said} It brings nothing to mend."
        first = min(brought, key=lambda f: f.rank)
        rest = f", and {len(brought) - 1} more" if len(brought) > 1 else ""
        return f"{said} It brings: {first.filled(units).rstrip('.')}{rest}."


def promised(system: System, spec: FilterSpec, made: Callable[[], Edit] | None = None) -> Promise:
    """What a filter would bring to its tank: by ``made``, or added beside what is there. Raises FuenteError where
    nothing builds.
    """
    edit = made() if made else added_well(system, spec)
    before, after = analysed(system), analysed(apply(system, edit))
    known = {(f.code, f.owner) for f in findings(before)}
    brought = tuple(f for f in findings(after) if (f.code, f.owner) not in known)
    stood = {f.id: f.stand for f in system.filters if isinstance(f, BesideSpec)}
    stands = [f for f in after.system.filters if isinstance(f, BesideSpec) and f.id in stood]
    volume = after.running.volume[spec.tank]
    return Promise(
        edit,
        after.moved(after.running, spec.tank) / volume if volume else 0.0,
        system.space.turnover,
        _drawn(after) - _drawn(before),
        after.running.total - before.running.total,
        brought,
        tuple((f.name, f.stand - stood[f.id]) for f in stands if f.stand > stood[f.id] + 1e-6),
    )


def _drawn(study: Analysis) -> float:
    """W of everything on the list that says its power."""
    total = 0.0
    for device in study.system.devices:
        made = kind_of(device).parts(device, study.sites[device.id], study.running)
        for piece in made.pieces:
            about = (*piece.notes, *((piece.about,) if isinstance(piece, Thing) else ()))
            total += piece.count * sum(n.values.get("w", 0.0) for n in about if "{w:power}" in n.text)
    return total


def mended(system: System, edit: Edit) -> Edit:
    """An edit with remedies for what it brings to stop for or to fix."""
    try:
        before = grave(findings(analysed(system)))
        study = analysed(apply(system, edit))
    except FuenteError:
        return edit
    changes = edit.changes
    for _ in range(ROUNDS):
        found = findings(study)
        brought = [f for f in found if f.rank < Rank.CONSIDER and (f.code, f.owner) not in before]
        better = next((t for t in (tried(study, f, found) for f in brought) if t.edit is not None), None)
        if better is None or better.edit is None:
            break
        changes += better.edit.changes
        study = analysed(apply(study.system, better.edit), study)
    return Edit(edit.name, changes)


def swapped_well(system: System, old: FilterSpec, new: FilterSpec) -> Edit:
    """The edit that puts another kind in a filter's place, under its id, and mends what that brings.

    What fits is kept: its rules and place, its own name, its air line, and its pipes and what they lead from and to,
    where the new kind has them and the design still builds and is no worse for them. Raises FuenteError where nothing
    builds.
    """
    common = set(type(old).model_fields) & set(type(new).model_fields)
    name = {"name": old.name} if old.name != type(old).model_fields["name"].default else {}
    always = {"id": old.id, "tank": old.tank, "schools": old.schools, **name}
    pipes = {key: getattr(old, key) for key in ("offset", "stand", "feed", "drain") if key in common}
    before = grave(findings(analysed(system)))
    best: tuple[int, Edit] | None = None
    failed: FuenteError | None = None
    for kept in (pipes, {k: v for k, v in pipes.items() if k in ("offset", "stand")}, {}):
        try:
            spec = type(new).model_validate({**new.model_dump(), **{k: _plain(v) for k, v in (always | kept).items()}})
            edit = mended(system, swap_filter(system, old, spec))
            brought = grave(findings(analysed(apply(system, edit)))).keys() - before.keys()
        except ValidationError as error:
            failed = FuenteError(f"{filter_kind(new).name} does not fit here. {first_sentence(error, type(new))}")
            continue
        except FuenteError as error:
            failed = error
            continue
        if best is None or len(brought) < best[0]:
            best = len(brought), edit
        if not brought:
            break
    if best is None:
        if any(e.to == old.id for d in system.filters for e in d.ends()):
            raise FuenteError(
                f"Other filters lead from or to {within(old.name)}: a kind that stands in the tank cannot take its"
                " place. Pick one that stands beside it, or lead those past it first."
            )
        raise failed or FuenteError(f"{filter_kind(new).name} does not fit here.")
    return best[1]


def _plain(value: Any) -> Any:
    return value.model_dump() if isinstance(value, Spec) else value
