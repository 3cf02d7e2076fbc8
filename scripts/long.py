"""The long run: thousands of designs that nobody tuned.

    ./check --long [COUNT] [SEED]

Takes COUNT designs (1 000 unless said) by SEED, demos and first layouts with random values, and asks of each:

- warm equals cold: every situation solved from a neighbouring design's levels and from nothing, to a micrometre, and
  nowhere less water than none; how long the longest solve took;
- remedies: every button that is offered clears its finding and brings no new Stop or Fix;
- first layouts: every kind's, in a random tank, brings no Stop and no Fix;
- what is carried: fed with that for two years, followed in time, the tank that is named stands at its limit; with
  plants no night has more oxygen, and no power cut lasts longer.

Prints what failed, and a summary; exit 1 where anything did. Two at a time; about a second for each design.
"""

from __future__ import annotations

import os
import random
import sys
import time
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
import numpy as np

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "tests"))

from designs import DAY, design, edited, fed, tank
from fuente.devices.site import Space
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.findings.adding import added_well
from fuente.findings.tried import all_tried, grave
from fuente.life.inputs import AMMONIA, NITRITE, OXYGEN
from fuente.network.transport import march
from fuente.study.air_hours import air_hours
from fuente.study.analysis import Analysis
from fuente.study.filters import first_layouts
from fuente.study.limits import Limits, tank_values
from fuente.study.situation import Situation

SAME, DROP, SLOW = 1e-6, -1e-6, 2.0  # m, m³, s
EDITS = 3  # of each design, one after the other, each solved from the one before
LAYOUTS_EVERY = 20  # designs for which one tank's first layouts are tried
FED_EVERY = 4  # designs of which it is followed what they carry
CARRIED = {"ammonia": AMMONIA, "nitrite": NITRITE, "oxygen": OXYGEN}
YEARS, AT_LIMIT, LONGER = 2.0, 0.02, 0.1  # a; of the limit; h


def _solved(analysis: Analysis, counts: Counter[str], bad: list[str], where: str) -> dict[str, object]:
    found: dict[str, object] = {}
    for name in analysis.names():
        began = time.process_time()  # of its own: others may want the machine
        found[name] = analysis.try_situation(name)
        took = time.process_time() - began
        counts["solves"] += 1
        counts["slowest, ms"] = max(counts["slowest, ms"], round(1000 * took))
        if took > SLOW:
            bad.append(f"{where} {name}: {took:.1f} s")
    return found


def warm_and_cold(seed: int) -> tuple[Counter[str], list[str]]:
    """A chain of edits, each solved from its neighbour and from nothing."""
    counts: Counter[str] = Counter()
    bad: list[str] = []
    rng = random.Random(seed + 1_000_000)
    name, system = design(seed)
    try:
        before = Analysis(system)
        _solved(before, counts, bad, f"{seed} {name}")
        for step in range(EDITS):
            system = edited(system, rng)
            cold, warm = Analysis(system), Analysis(system, before)
            one = _solved(cold, counts, bad, f"{seed} {name} cold {step}")
            two = _solved(warm, counts, bad, f"{seed} {name} warm {step}")
            counts["edits"] += 1
            for case, first in one.items():
                second = two[case]
                if not isinstance(first, Situation) or not isinstance(second, Situation):
                    if str(first) != str(second):
                        bad.append(f"{seed} {name} {case}: cold {first}, warm {second}"[:200])
                    continue
                a, b = first.solution, second.solution
                apart = max(abs(a.level[c.id] - b.level[c.id]) for c in a.network.cells if not c.sink)
                if apart > SAME or abs(a.spilled - b.spilled) > SAME:
                    bad.append(
                        f"{seed} {name} {case}: {1e6 * apart:.2f} µm, {1e3 * (a.spilled - b.spilled):.4f} L apart"
                    )
                low = min(v for key, v in a.volume.items() if not a.network.cell(key).sink)
                if low < DROP:
                    bad.append(f"{seed} {name} {case}: {1e3 * low:.3f} L in a cell")
            before = warm
    except FuenteError:
        counts["not built"] += 1
    return counts, bad


def remedies(seed: int) -> tuple[Counter[str], list[str]]:
    """Every button of a design."""
    counts: Counter[str] = Counter()
    bad: list[str] = []
    name, system = design(seed)
    try:
        analysis = Analysis(system)
        found = findings(analysis)
    except FuenteError:
        return Counter({"not built": 1}), bad
    before = grave(found)
    for old, new in zip(found, all_tried(analysis, found), strict=True):
        if old.edit is None:
            counts["no button"] += 1
        elif new.edit is None:
            counts["withdrawn"] += 1
        else:
            after = findings(Analysis(apply(system, new.edit)))
            now = grave(after)
            still = any((f.code, f.owner) == (new.code, new.owner) for f in after)
            worse = [key for key, rank in now.items() if key not in before or rank < before[key]]
            counts["pressed"] += 1
            if still or worse:
                bad.append(f"{seed} {name} {new.code} “{new.action}”: {'still there' if still else ''} {worse}")
    return counts, bad


def layouts(seed: int) -> tuple[Counter[str], list[str]]:
    """Every kind's first layout in one random tank."""
    counts: Counter[str] = Counter()
    bad: list[str] = []
    home = tank(random.Random(seed))
    space = Space(length=max(home.length, 0.6), depth=max(home.width, 0.4), height=home.stand - 0.02)
    system = System(devices=(home,), space=space)
    before = grave(findings(Analysis(system)))
    for kind, spec in first_layouts(system, home.id):
        if isinstance(spec, FuenteError):
            counts["no layout"] += 1
            continue
        try:
            now = grave(findings(Analysis(apply(system, added_well(system, spec)))))
        except FuenteError as error:
            bad.append(f"{seed} {kind.id}: {error}")
            continue
        counts["layouts"] += 1
        if brought := [key for key in now if key not in before]:
            bad.append(f"{seed} {kind.id}: {brought}")
    return counts, bad


def carried(seed: int) -> tuple[Counter[str], list[str]]:
    """What a design carries and how long its oxygen lasts, with plants and without."""
    counts: Counter[str] = Counter()
    bad: list[str] = []
    name, system = design(seed)
    feeds, hours = [], []
    for planted in (False, True):
        try:
            study = Analysis(fed(system, random.Random(seed), planted))
            limits = Limits(study)
            if not limits.known:
                return Counter({"carries nothing": 1}), bad
            most, lasts = limits.carries, air_hours(study)
        except FuenteError:
            return Counter({"not built": 1}), bad
        factor, keeping = most.feed / limits.base.fed, study.system.keeping
        times = np.linspace(0.0, YEARS * 365 * DAY, 9)
        y = march(limits.living.fed(factor), limits.now, times).values[-1]
        for what, limit, sign in (
            ("ammonia", keeping.ammonia_limit, 1),
            ("nitrite", keeping.nitrite_limit, 1),
            ("oxygen", keeping.oxygen_limit, -1),
        ):
            tanks = tank_values(limits.base, y, CARRIED[what])
            over = max(sign * (value / limit - 1.0) for value in tanks.values())
            if over > AT_LIMIT or (what == most.what and abs(tanks[most.tank] / limit - 1.0) > AT_LIMIT):
                bad.append(f"{seed} {name} carries {DAY * 1e3 * most.feed:.2f} g a day: {what} {over:+.3f}")
        counts[f"carried, by {most.what}"] += 1
        feeds.append(most)
        hours.append(lasts.usual if lasts is not None and lasts.usual is not None else np.inf)
    bare, green = feeds
    if bare.what == green.what == "oxygen" and green.feed > bare.feed * (1 + AT_LIMIT):
        bad.append(f"{seed} {name}: plants carry {green.feed / bare.feed:.3f} of the feed by night")
    if hours[1] > hours[0] + LONGER:
        bad.append(f"{seed} {name}: {hours[0]:.2f} h without plants, {hours[1]:.2f} h with them")
    return counts, bad


def one(seed: int) -> tuple[Counter[str], list[str]]:
    """All that is asked of a design."""
    counts, bad = warm_and_cold(seed)
    more, worse = remedies(seed)
    slowest = max(counts["slowest, ms"], more["slowest, ms"])
    counts += more
    bad += worse
    if seed % LAYOUTS_EVERY == 0:
        more, worse = layouts(seed)
        counts += more
        bad += worse
    if seed % FED_EVERY == 0:
        more, worse = carried(seed)
        counts += more
        bad += worse
    counts["slowest, ms"] = slowest
    return counts, bad


def main(count: int = 1000, seed: int = 0) -> int:
    """All of them, two at a time."""
    counts: Counter[str] = Counter()
    bad: list[str] = []
    began = time.perf_counter()
    with ProcessPoolExecutor(os.cpu_count() or 2) as pool:
        for i, (more, worse) in enumerate(pool.map(one, range(seed, seed + count)), 1):
            slowest = max(counts["slowest, ms"], more["slowest, ms"])
            counts += more
            counts["slowest, ms"] = slowest
            for row in worse:
                print(row, flush=True)
            bad += worse
            if i % 50 == 0:
                print(f"{i} designs, {len(bad)} faults, {time.perf_counter() - began:.0f} s", flush=True)
    print(f"{count} designs from {seed}: " + ", ".join(f"{k} {v}" for k, v in sorted(counts.items())))
    print(f"{len(bad)} faults.")
    return int(bool(bad))


if __name__ == "__main__":
    sys.exit(main(*map(int, sys.argv[1:3])))
