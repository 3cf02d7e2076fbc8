"""Everything that Fuente says of a design, as plain data: what a rebuild must not change.

``python tests/golden/recorder.py`` writes the recordings anew; do that only for a change that is meant.
"""

from __future__ import annotations

import gzip
import json
import sys
from dataclasses import fields, is_dataclass
from pathlib import Path
from typing import Any

from fuente.demo import DEMOS
from fuente.demo.reading_room import reading_room
from fuente.demo.starter import starter
from fuente.devices import filter_kinds
from fuente.devices.recipes.growing import add_top_up, hang_on_instead, manifold_instead, sump_in_front
from fuente.document.files import load
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.shown.section import section
from fuente.shown.stations import stations
from fuente.study.analysis import Analysis
from fuente.study.faults import KINDS as FAULTS
from fuente.study.faults import fits
from fuente.study.filters import add_filter, first_layouts
from fuente.study.situation import Situation
from fuente.study.trials import standard_trials
from fuente.study.wet_test import run as run_test
from fuente.units import UnitSystem
from fuente.workshop.bill import as_csv, bill, tasks

HERE = Path(__file__).parent
OLD = HERE.parent / "document" / "data"
SINCE = ("evaporation", "filter-pipe-block")  # faults that came with the rebuild
TIMED = ("cut-and-return", "cut-valve-as-is")  # trials of a design whose others are those of another recording
COMMANDS = 24  # cells over which a station's commands are named, not tried: a rack has hundreds


def cases() -> dict[str, Any]:
    """Name of a recording → how its design is made."""
    made: dict[str, Any] = dict(DEMOS)
    made["version-1"] = lambda: load(OLD / "version-1.fuente")
    for kind in filter_kinds():
        made[f"with-{kind.id}"] = lambda kind=kind.id: with_kind(kind)
    made["grown"] = grown
    return made


def with_kind(kind: str) -> System:
    """The window tank, plain, with a first layout of a kind: by the kind's own rule, with what else it wants."""
    plain = starter()
    made = next(spec for k, spec in first_layouts(plain, plain.tanks[0].id) if k.id == kind)
    if isinstance(made, FuenteError):
        raise made
    return apply(plain, add_filter(plain, made))


def grown() -> System:
    """The reading room with a hang-on overflow, a second sump before its own, a manifold, a top-up."""
    system = reading_room()
    for step in (
        lambda s: hang_on_instead(s.by_id, "overflow"),
        lambda s: sump_in_front(s.by_id, "sump"),
        lambda s: manifold_instead(s.by_id, "return"),
        lambda s: add_top_up(s.by_id, "sump")[0][1],
    ):
        system = apply(system, step(system))
    return system


def known(name: str) -> frozenset[str]:
    """Devices whose commands another recording tries, or another device of this one: the plain tank's, beside a filter
    that came to it; all tubs but two, which are alike.
    """
    if name.startswith("with-") or name == "grown":
        return frozenset(d.id for d in starter().devices)
    alike = (f"{kind}-{n}" for kind in ("tub", "bed", "sponge") for n in range(3, 9))
    return frozenset(alike) if name == "nursery-on-air" else frozenset()


def timed(name: str) -> bool:
    """Whether all trials of a recording are run: a filter that came to the plain tank has its own tests in time."""
    return not name.startswith("with-")


def record(system: System, tried: frozenset[str] = frozenset(), timed: bool = True) -> dict[str, Any]:
    """All levels, flows, verdicts, findings, cards, parts, upkeep, drawings and trials of a design.

    Commands of the devices ``tried`` elsewhere are only named; not ``timed``, two of the trials stand for all.
    """
    analysis = Analysis(system)
    small = len(analysis.network.cells) <= COMMANDS
    found: dict[str, Any] = {"situations": {}, "drawings": {}, "trials": {}}
    for name in analysis.names():
        state = analysis.try_situation(name)
        if not isinstance(state, Situation):
            found["situations"][name] = str(state)
            continue
        found["situations"][name] = {
            "level": dict(state.solution.level),
            "volume": dict(state.solution.volume),
            "flow": dict(state.solution.flow),
            "verdict": [state.verdict.filled(UnitSystem.METRIC), state.verdict.rank],
            "numbers": dict(state.numbers),
        }
        found["drawings"][name] = _drawn(analysis, state, "")
    found["findings"] = sorted((_finding(analysis, f) for f in findings(analysis)), key=json.dumps)
    found["stations"] = [
        _station(analysis, s, small and s.id.partition(".")[0] not in tried)
        for s in stations(analysis, None, system.tanks[-1].id)
    ]
    found["drawings"]["chosen tank"] = _drawn(analysis, analysis.situation("running"), system.tanks[-1].id)
    found["parts"] = sorted(as_csv(bill(analysis), UnitSystem.METRIC).splitlines())
    found["parts us"] = sorted(as_csv(bill(analysis), UnitSystem.US).splitlines())
    found["tasks"] = sorted(([t.id, t.name, t.interval, t.why, t.owner] for t in tasks(analysis)), key=str)
    found["faults"] = sorted(k for k in FAULTS if fits(analysis, k) and k not in SINCE)
    for trial in standard_trials(analysis):
        if not timed and trial.id not in TIMED:
            continue
        test = run_test(analysis, trial.faults, trial.until)
        found["trials"][trial.id] = [
            trial.title,
            test.sump_margin,
            test.tank_margin,
            test.spilled,
            test.worst_time,
            test.still,
            test.dry,
            test.verdict.filled(UnitSystem.METRIC),
            test.verdict.rank,
        ]
    return json.loads(json.dumps(found, default=str))


def _after(analysis: Analysis, edit: Any) -> Any:
    """What an edit does, told by its water: the running levels with it, sought from those without it."""
    if edit is None:
        return None
    try:
        made = Analysis(apply(analysis.system, edit), analysis)
        return [edit.name, sorted(made.running.level.items()), sum(abs(q) for q in made.running.flow.values())]
    except FuenteError as error:
        return [edit.name, str(error)]


def _finding(analysis: Analysis, f: Any) -> list[Any]:
    return [
        f.code,
        f.rank,
        f.filled(UnitSystem.METRIC),
        f.reason(UnitSystem.METRIC),
        f.owner,
        f.action,
        f.margin,
        _after(analysis, f.edit),
    ]


def _reading(r: Any) -> Any:
    return None if r is None else [r.label, r.value, r.quantity, r.why, r.source, r.sure]


def _station(analysis: Analysis, s: Any, small: bool) -> dict[str, Any]:
    commands = s.commands() if s.commands else ()
    return {
        "id": s.id,
        "name": s.name,
        "headline": s.headline,
        "values": dict(s.values),
        "used": s.used,
        "note": s.note,
        "big": [_reading(r) for r in s.big],
        "readings": [_reading(r) for r in s.readings],
        "why": _reading(s.why),
        "choices": [
            [
                c.label,
                c.quantity,
                c.value if isinstance(c.value, float) else str(c.value),
                len(c.options),
                c.step,
                c.fold,
            ]
            for c in s.choices
        ],
        "cells": list(s.cells),
        "pumped": s.pumped,
        "glyph": s.glyph,
        "many": s.many,
        "commands": [_after(analysis, e) if small else label for label, e in commands],
    }


def _plain(value: Any) -> Any:
    if isinstance(value, float):
        return round(value, 5) + 0.0
    if is_dataclass(value) and not isinstance(value, type):
        return [type(value).__name__, *(_plain(getattr(value, f.name)) for f in fields(value) if f.name not in _PATHS)]
    if isinstance(value, tuple | list):
        return [_plain(v) for v in value]
    return value if isinstance(value, str | int | bool) or value is None else str(value)


_PATHS = ("path", "partner", "cell")  # positions in the document, which may move; whose water a shape is


def _drawn(analysis: Analysis, state: Situation, focus: str) -> list[Any]:
    """The shapes back to front and the handles."""
    drawing = section(analysis, state, focus)
    shapes = [_plain(x) for x in drawing.shapes]
    return [sorted(shapes, key=str), sorted((_plain(h) for h in drawing.handles), key=str)]


def path_of(name: str) -> Path:
    """Where a recording lies."""
    return HERE / "data" / f"{name}.json.gz"


def main() -> None:
    """Write the recordings named, or all of them."""
    for name, make in cases().items():
        if not sys.argv[1:] or name in sys.argv[1:]:
            text = json.dumps(record(make(), known(name), timed(name)), indent=0, sort_keys=True)
            path_of(name).write_bytes(gzip.compress(text.encode(), 9, mtime=0))
            print(name)


if __name__ == "__main__":
    main()
