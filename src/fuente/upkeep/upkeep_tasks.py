"""All that comes round in a design: every device's care, water changes, tests, and the builder's own tasks."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

from fuente.devices import kind_of
from fuente.devices.base import Task
from fuente.study.analysis import Analysis
from fuente.study.effects import clean_pads

DAY = 86400.0
MANY = 4  # bodies alike, up to which each has a task of its own
WEEK = 7 * DAY


def tasks_of(study: Analysis) -> tuple[Task, ...]:
    """Every task, in the order of the water; intervals as the builder set them, else the device's own."""
    return study.kept("upkeep tasks", lambda: tuple(_all(study)))


def _all(study: Analysis) -> Iterable[Task]:
    solution = study.situation("running").solution
    pads = clean_pads(study, 1.0)
    clogging: dict[str, list[str]] = {}
    for way in study.network.ways:
        if way.id in pads:
            clogging.setdefault(way.owner, []).append(way.id)
    own = {each.task: each.every for each in study.system.upkeep.intervals}
    found = [(("", "change"), task) for task in _changes(study)]
    for device in study.ordered:
        for task in kind_of(device).care(device, study.sites[device.id], solution):
            clogs = tuple(clogging.get(device.id, ())) if task.clogs == ("*",) else task.clogs
            made = replace(task, place=task.place or task.owner, clogs=tuple(c for c in clogs if c in pads))
            found.append(((device.kind, task.id.removeprefix(device.id)), made))
    found += [(("", task.id), task) for task in _general(study)]
    for task in _together(found):
        yield replace(task, interval=own[task.id]) if task.id in own else task


def _together(rows: Sequence[tuple[tuple[str, str], Task]]) -> Iterable[Task]:
    """What more than four bodies of a kind ask for alike is one task, on one day; each pad that clogs is its own."""
    groups: dict[object, list[Task]] = {}
    for key, task in rows:
        alone = task.clogs or task.living or key[0] == key[1] == ""
        groups.setdefault(task.id if alone else (key, task.interval), []).append(task)
    for tasks in groups.values():
        if len(tasks) <= MANY:
            yield from tasks
            continue
        first, count = tasks[0], len(tasks)
        yield replace(
            first,
            name=f"{first.name}, and {count - 1} more like it",
            minutes=sum(t.minutes for t in tasks),
            litres=sum(t.litres for t in tasks),
            uses=tuple((key, amount * count) for key, amount in first.uses),
        )


def waters(study: Analysis) -> tuple[tuple[str, ...], ...]:
    """Ids of tanks that share their water, in the order of the document."""
    tanks = [t.id for t in study.system.tanks]
    found: list[tuple[str, ...]] = []
    seen: set[str] = set()
    for tank in tanks:
        if tank in seen:
            continue
        body = next((b for b in study.bodies if tank in b), (tank,))
        together = tuple(t for t in tanks if t in body)
        seen.update(together)
        found.append(together or (tank,))
    return tuple(found)


def volume_of(study: Analysis, tanks: Sequence[str]) -> float:
    """Water in m³ in some tanks while all runs."""
    volumes = study.situation("running").solution.volume
    return sum(volumes.get(t, 0.0) for t in tanks)


def _changes(study: Analysis) -> Iterable[Task]:
    """One change for each water, as it is kept."""
    keeping = study.system.keeping
    if keeping.share <= 0:
        return
    groups = waters(study)
    for tanks in groups:
        names = [study.system.device(t).title for t in tanks]
        whose = names[0] if len(names) == 1 else f"{names[0]} and {len(names) - 1} more"
        litres = keeping.share * volume_of(study, tanks)
        percent = f"{100 * keeping.share:.0f} %"
        yield Task(
            f"{tanks[0]}.change",
            f"Change {percent} of the water" + (f" of {whose}" if len(groups) > 1 else ""),
            keeping.interval,
            "Nitrate leaves by water change first of all.",
            tanks[0],
            tanks[0],
            names[0],
            10 + 10 * litres / 0.05,
            litres,
            ("hose or siphon", "bucket", "thermometer"),
            (
                "New water as warm as the tank's, within two degrees; treated where the mains are chlorinated",
                "Pump off where it would draw air; siphon along the bottom",
                "Fill slowly; watch the mark in the pump chamber",
                "Pump on; write down how much",
            ),
            does="done",
        )


def _general(study: Analysis) -> Iterable[Task]:
    """What no device asks for: tests, spares, and the builder's own."""
    for tanks in waters(study):
        title = study.system.device(tanks[0]).title
        yield Task(
            f"{tanks[0]}.test",
            "Test ammonia, nitrite, nitrate and pH" + (f" of {title}" if len(study.system.tanks) > 1 else ""),
            2 * WEEK,
            "Numbers tell before animals do.",
            tanks[0],
            tanks[0],
            title,
            10,
            0.0,
            ("test kit",),
            (
                "Rinse the vials with the tank's water first",
                "Read the colour by daylight",
                "Write all four down in one line",
            ),
            uses=(("test", 1.0),),
        )
    yield Task(
        "system.spares",
        "Look whether the spares are there",
        180 * DAY,
        "A pump, a heater, an airline and a sock at home are a night's sleep.",
        "system",
        "",
        "",
        5,
    )
    yield Task(
        "system.cut",
        "Cut the power on purpose, and watch",
        180 * DAY,
        "The flood that you rehearse is the one that stays away: stand by with a towel, and plug in again within ten"
        " minutes.",
        "system",
        "",
        "",
        15,
        0.0,
        ("towel", "pencil"),
        (
            "Mark the level in the sump, then pull the pump's plug",
            "Wait until nothing moves any more; mark it again",
            "Plug in, and look whether every level comes back",
        ),
    )
    yield from _sweeps(study)
    for own in study.system.upkeep.own:
        yield Task(
            f"own.{own.id}",
            own.name,
            own.every,
            own.why or "Your own.",
            "system",
            own.place,
            "",
            own.minutes,
            does="done",
        )


def _sweeps(study: Analysis) -> Iterable[Task]:
    """Timers of circulation pumps, one after the other, so that muck is swept and never two stand still at once."""
    every = study.system.upkeep.sweep
    pumps = [d for d in study.ordered if d.draws > 0]
    if every <= 0 or not pumps:
        return
    slot = every / len(pumps)
    how = tuple(
        f"{device.title}: {_clock(k * slot)} to {_clock(k * slot + min(slot, 1800.0))} of each {every / 3600:.0f} h"
        for k, device in enumerate(pumps)
    )
    yield Task(
        "system.sweep",
        "Look whether the timers still sweep in turn",
        91 * DAY,
        "A power cut sets timers back; pumps that sweep together shake what should settle.",
        "system",
        minutes=10,
        how=how,
    )


def _clock(seconds: float) -> str:
    return f"{int(seconds // 3600)}:{int(seconds % 3600 // 60):02d}"
