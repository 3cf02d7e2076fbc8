"""Where the build stands: what is done, what cures, what can be done next. Clocks run from the record, so that they go
on while the program is shut.
"""

from __future__ import annotations

import datetime
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from fuente.document.record import Built, Record
from fuente.workshop.step import Step


class Stand(StrEnum):
    """How a step stands."""

    DONE = "done"
    CURING = "curing"  # done, and what follows still waits for it
    READY = "ready"
    HELD = "held"  # something before it is open or cures


@dataclass(frozen=True)
class Stood:
    """A step as it stands: when it was done and until when it cures; of one that is held, which step holds it back and
    until when, or None where that is not done yet; and what was written about it.
    """

    step: Step
    stand: Stand
    done: datetime.datetime | None = None
    until: datetime.datetime | None = None
    held_by: Step | None = None
    notes: tuple[Built, ...] = ()

    def left(self, now: datetime.datetime) -> float:
        """Seconds until it may go on."""
        return max((self.until - now).total_seconds(), 0.0) if self.until else 0.0


def build_stand(all_steps: Sequence[Step], record: Record, now: datetime.datetime) -> tuple[Stood, ...]:
    """Every step as it stands at a moment (with its offset from UTC)."""
    by_id = {s.id: s for s in all_steps}
    ends, notes = _ends(record), _notes(record)
    found = []
    for step in all_steps:
        written = notes.get(step.id, ())
        own = _end_of(step, ends)
        if own is not None:
            done, until = own
            stand = Stand.CURING if until > now else Stand.DONE
            found.append(Stood(step, stand, done, until if stand is Stand.CURING else None, None, written))
            continue
        holder, until_then = _holder((by_id[k] for k in step.after if k in by_id), ends, now)
        stand = Stand.HELD if holder is not None else Stand.READY
        found.append(Stood(step, stand, None, until_then, holder, written))
    return tuple(found)


def _ends(record: Record) -> dict[str, tuple[datetime.datetime, datetime.datetime]]:
    """When each step was done, and until when it cures; one that was opened again is not there."""
    found: dict[str, tuple[datetime.datetime, datetime.datetime]] = {}
    for entry in record.built:
        if entry.done:
            found[entry.step] = entry.moment, entry.moment + datetime.timedelta(seconds=entry.wait)
        elif entry.done is False:
            found.pop(entry.step, None)
    return found


def _end_of(
    step: Step, ends: Mapping[str, tuple[datetime.datetime, datetime.datetime]]
) -> tuple[datetime.datetime, datetime.datetime] | None:
    """When a step was done and until when it cures, of bodies made alike the last; None while one of them is open."""
    all_ends = [ends.get(key) for key in (step.id, *step.likewise)]
    known = [e for e in all_ends if e is not None]
    return max(known, key=lambda e: e[1]) if len(known) == len(all_ends) else None


def _notes(record: Record) -> dict[str, tuple[Built, ...]]:
    found: dict[str, tuple[Built, ...]] = {}
    for entry in record.built:
        if entry.note or entry.photo:
            found[entry.step] = (*found.get(entry.step, ()), entry)
    return found


def _holder(
    before: Iterable[Step], ends: Mapping[str, tuple[datetime.datetime, datetime.datetime]], now: datetime.datetime
) -> tuple[Step | None, datetime.datetime | None]:
    """What holds a step back: first what is not done, then what cures longest."""
    longest: tuple[Step | None, datetime.datetime | None] = None, None
    for step in before:
        own = _end_of(step, ends)
        if own is None:
            return step, None
        until = own[1]
        if until > now and (longest[1] is None or until > longest[1]):
            longest = step, until
    return longest


def next_step(stood: Sequence[Stood]) -> Stood | None:
    """The first that can be done now; else the one that is free soonest; None where all is done."""
    ready = next((s for s in stood if s.stand is Stand.READY), None)
    if ready is not None:
        return ready
    waits = [s for s in stood if s.stand is Stand.HELD and s.until is not None]
    if waits:
        return min(waits, key=lambda s: s.until or datetime.datetime.max)
    return next((s for s in stood if s.stand is Stand.HELD), None)


def done(step: Step, now: datetime.datetime) -> tuple[Built, ...]:
    """The entries of a step that was done, one for each body made alike, so that each keeps its own once it differs:
    its clock runs by what the design said that day.
    """
    when = now.isoformat(timespec="seconds")
    return tuple(Built(when=when, step=key, done=True, wait=step.wait) for key in (step.id, *step.likewise))


def opened(step: Step, now: datetime.datetime) -> tuple[Built, ...]:
    """The entries of a step that is open again."""
    when = now.isoformat(timespec="seconds")
    return tuple(Built(when=when, step=key, done=False) for key in (step.id, *step.likewise))
