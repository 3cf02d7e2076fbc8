"""The build, step by step, from the parts of every device: what to do, what to look at, how long it cures."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from fuente.devices import kind_of
from fuente.devices.pieces import (
    Parts,
)
from fuente.study.analysis import Analysis
from fuente.workshop.bill import alike, made_of
from fuente.workshop.piping import runs_of
from fuente.workshop.step import Step, title_of
from fuente.workshop.steps_box import box_steps
from fuente.workshop.steps_drilled import by_craft, drilled, fitted, loaded, wet_test
from fuente.workshop.steps_water import filled, first_runs, plumbed, watched


def steps(analysis: Analysis) -> tuple[Step, ...]:
    """All steps of a design, in the order of the work: each body built and tested dry and wet, then joined, loaded,
    filled and started. Bodies that are made alike share their steps.
    """
    shop, lift = analysis.system.shop, analysis.system.space.lift
    homes = {t.id for t in analysis.system.tanks}
    bodies: list[Step] = []
    tests: list[Step] = []
    loading: list[Step] = []
    titled = [(title_of(device), parts) for device, parts in made_of(analysis)]
    for owner, title, parts, others in _alike_together(analysis):
        whole = [*by_craft(owner, title, parts, shop, True), *drilled(owner, title, parts, homes)]
        whole += [*box_steps(owner, title, parts, shop, lift), *by_craft(owner, title, parts, shop, False)]
        whole += fitted(owner, title, parts)
        wet = wet_test(owner, title, parts)
        bodies += _chained(_shared(step, owner, others) for step in whole)
        if wet is not None:
            tests.append(replace(_shared(wet, owner, others), after=tuple(s.id for s in whole)))
        loading += [_shared(step, owner, others) for step in loaded(owner, title, parts, lift)]
    pipes = _chained(plumbed(runs_of(titled, shop), shop))
    tested = tuple(s.id for s in (tests or bodies))
    joined = tuple(s.id for s in pipes[-1:])
    loading = [replace(s, after=(*tested, *joined)) for s in loading]
    ready = (*tested, *joined, *(s.id for s in loading))
    last = _chained([*filled(analysis), *first_runs(analysis), watched()], ready)
    return (*bodies, *tests, *pipes, *loading, *last)


def _alike_together(analysis: Analysis) -> list[tuple[str, str, Parts, tuple[str, ...]]]:
    """Every device's parts in build order; of those that are made alike the first, and the ids of the others."""
    found: dict[object, tuple[str, str, Parts, tuple[str, ...]]] = {}
    for device, parts in made_of(analysis):
        key = (device.kind, tuple(alike(p) for p in parts.pieces))
        if key in found:
            owner, _, first, others = found[key]
            found[key] = owner, kind_of(device).name, first, (*others, device.id)
        else:
            found[key] = device.id, title_of(device), parts, ()
    return list(found.values())


def _shared(step: Step, owner: str, others: tuple[str, ...]) -> Step:
    """The same for so many bodies, and what it would be called for each of the others alone."""
    if not others:
        return step
    times = len(others) + 1
    likewise = tuple(_called(step.id, owner, other) for other in others)
    return replace(step, body=f"{times} × {step.body}", minutes=step.minutes * times, likewise=likewise)


def _called(step_id: str, owner: str, other: str) -> str:
    """The id of the same step of another body."""
    names = (other + n[len(owner) :] if n == owner or n.startswith(owner + ".") else n for n in step_id.split(":"))
    return ":".join(names)


def _chained(row: Iterable[Step], first: tuple[str, ...] = ()) -> list[Step]:
    """Each after the one before it."""
    found: list[Step] = []
    for step in row:
        found.append(replace(step, after=(found[-1].id,) if found else first))
    return found
