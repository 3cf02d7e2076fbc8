"""A filter put before or after another of its tank, so that the same water passes both, and nothing new is to mend."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from pydantic import ValidationError

from fuente.devices import kind_of
from fuente.devices.base import Change, Edit, Rank
from fuente.devices.beside import BesideSpec
from fuente.devices.filtering import FilterSpec
from fuente.devices.plumbing import (
    hole_at,
)
from fuente.devices.pumping import PumpSpec
from fuente.devices.sentences import first_sentence
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.findings.adding import mended
from fuente.findings.judge import findings
from fuente.findings.tried import grave, standing_alone
from fuente.one_line import within
from fuente.study.filters import add_filter
from fuente.study.known import analysed
from fuente.study.sites import sites

FALL = 0.06  # m that a pipe between two filters falls at least
OVER = 0.02  # m over the standing water, or the rim, at which what comes in lets go
APART = 0.15  # m further to the side, so that both sizes stand beside their boxes on the drawing
MOST = 1.0  # m that a filter is raised for another to stand under it


@dataclass(frozen=True)
class Place:
    """After another filter of the tank, so that its water comes on to this one, or before it."""

    other: str  # its id
    after: bool


def neighbours(system: System, spec: FilterSpec) -> tuple[Place, ...]:
    """Where a filter may join others of its tank in a row: each has a way in and a way out, and it goes to the end or
    to the start of a chain.
    """
    if not isinstance(spec, BesideSpec):
        return ()
    there = [f for f in system.filters if isinstance(f, BesideSpec) and f.tank == spec.tank and f.id != spec.id]
    ids = {f.id for f in there}
    ends = [Place(f.id, True) for f in there if f.drain.into not in ids]
    return (*ends, *(Place(f.id, False) for f in there if f.feed.way != "fed" and f.feed.source not in ids))


def placed_well(system: System, spec: FilterSpec, place: Place) -> Edit:
    """The edit that puts a filter after another, or before it, and mends what that brings.

    Water falls from the first into the second where the first can stand so high, is pumped where it has a pump, or runs
    level. Raises FuenteError, with what speaks against the best of these, where each brings something to stop for or to
    fix.
    """
    other, after = system.filter(place.other), place.after
    assert isinstance(spec, BesideSpec)
    assert isinstance(other, BesideSpec)
    spec = spec.model_copy(update={"offset": round(spec.offset + APART, 2)})
    first, second = (other, spec) if after else (spec, other)
    before = grave(findings(analysed(system)))
    where = f"{'after' if after else 'before'} {within(other.name)}"
    against = ""
    for pair in _chains(system, spec, first, second):
        changes = tuple(Change(d.path, d) for d in pair if d.id != spec.id)
        try:
            new = next(d for d in pair if d.id == spec.id)
            edit = add_filter(system, new)
            edit = mended(system, Edit(f"{edit.name} {where}", (*edit.changes, *changes)))
            found = findings(analysed(apply(system, edit)))
        except ValidationError as error:
            against = against or first_sentence(error, type(spec))
            continue
        except FuenteError as error:
            against = against or str(error)
            continue
        brought = [f for f in found if f.rank < Rank.CONSIDER and (f.code, f.owner) not in before]
        if not brought:
            return edit
        against = against or standing_alone(min(brought, key=lambda f: f.rank))
    raise FuenteError(f"{spec.name} does not fit {where} here: {against or 'water would not fall into it.'}")


def _chains(
    system: System, spec: BesideSpec, first: BesideSpec, second: BesideSpec
) -> Iterator[tuple[BesideSpec, BesideSpec]]:
    """Ways to lead the first's water into the second, each as the two filters then are; the likeliest first."""
    alone = apply(system, add_filter(system, spec))
    surroundings = sites(alone)
    lower = kind_of(second).vessel
    if lower is None:
        return
    below = lower(second, surroundings[second.id])
    foot = below.foot if below.foot is not None else below.floor
    release = round(max(below.stands, foot) - below.floor + OVER, 3)
    fed = second.model_copy(update={"feed": second.feed.model_copy(update={"way": "fed"})})
    drain = first.drain.model_copy(update={"into": second.id, "chamber": ""})
    if first.drain.way == "pump":
        lift = drain.model_copy(update={"release": round(below.rim - below.floor + OVER, 3)})
        yield first.model_copy(update={"drain": lift}), fed
        return
    falls = drain.model_copy(update={"way": "fall", "release": release})
    short = below.floor + release + FALL - hole_at(falls, first.stand)
    if short <= 0:
        yield first.model_copy(update={"drain": falls}), fed
    elif first.feed.way in ("pump", "air") and short <= MOST:
        raised = {"drain": falls, "stand": round(first.stand + short, 3)}
        if first.feed.way == "pump":
            raised["feed"] = first.feed.model_copy(update={"pump": _stronger(first.feed.pump, short)})
        yield first.model_copy(update=raised), fed
    if first.feed.way in ("level", "float") and second.drain.way == "pump":
        levelled = drain.model_copy(update={"way": "level"})
        yield first.model_copy(update={"drain": levelled}), fed


def _stronger(pump: PumpSpec, more: float) -> PumpSpec:
    """A pump that gives as much a head in m higher; its box's two numbers."""
    head = round(pump.max_head + more, 2)
    watts = round(pump.watts * head / pump.max_head, 1)
    return pump.model_copy(update={"max_head": head, "watts": watts, "points": ()})
