"""Designs that nobody tuned: demos and first layouts with random values, for tests and for the long run."""

from __future__ import annotations

import random
from collections.abc import Iterator

from fuente.demo import DEMOS
from fuente.devices.base import Change, Edit
from fuente.devices.recipes.sump_system import FULL, Wishes, first_layout
from fuente.devices.site import Space
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply, set_value
from fuente.errors import FuenteError
from fuente.study.filters import add_filter, first_layouts

DAY = 86400.0
FACTORS = (0.4, 0.6, 0.8, 0.9, 1.1, 1.25, 1.6, 2.2)
LARGE = ("back-room",)  # takes seconds for each situation


def tank(rng: random.Random) -> Tank:
    """A plain new tank on a stand."""
    length = rng.choice([0.4, 0.6, 0.8, 1.0, 1.2, 1.5, 2.0])
    width = rng.choice([0.3, 0.4, 0.5, 0.6])
    height = rng.choice([0.3, 0.4, 0.5, 0.6])
    thick = 0.006 if length * height < 0.3 else 0.010 if length * height < 0.6 else 0.015
    return Tank(
        length=length,
        width=width,
        height=height,
        thickness=thick,
        bottom=thick,
        stand=rng.choice([0.5, 0.7, 0.9]),
        temperature=rng.choice([18.0, 22.0, 25.0]),
        feed=rng.choice([0.0, 0.5, 2.0]) * length * width * height * 1e-2 / DAY,
    )


def spots(model: object, path: tuple[object, ...]) -> Iterator[tuple[tuple[object, ...], float]]:
    """Every number of a spec with its path."""
    for name in type(model).model_fields:  # type: ignore[attr-defined]
        value = getattr(model, name)
        if isinstance(value, float) and value > 0:
            yield (*path, name), value
        elif hasattr(type(value), "model_fields"):
            yield from spots(value, (*path, name))
        elif isinstance(value, tuple):
            for i, each in enumerate(value):
                if hasattr(type(each), "model_fields"):
                    yield from spots(each, (*path, name, i))


def edited(system: System, rng: random.Random, times: int = 1) -> System:
    """The same with so many numbers changed, where the document takes them."""
    for _ in range(times):
        places = [p for d in system.devices for p in spots(d, ("devices", d.id))]
        path, value = rng.choice(places)
        try:
            system = apply(system, set_value("random", path, value * rng.choice(FACTORS)))
        except FuenteError:
            continue
    return system


def plain(rng: random.Random) -> tuple[str, System]:
    """A tank alone, or over a sump, with a filter of some kind or none."""
    home = tank(rng)
    space = Space(
        length=max(home.length, 0.6),
        depth=max(home.width, 0.4),
        height=home.stand - 0.02,
        service=0.12,
        turnover=rng.choice([3, 5, 8]) / 3600,
    )
    if rng.random() < 0.4:
        try:
            roles = tuple(r for r in FULL if rng.random() < 0.75) or ("foam",)
            return "sump", System(space=space, devices=first_layout(home, space, Wishes(roles)))
        except FuenteError:
            pass
    bare = System(space=space, devices=(home,))
    made = [(k.id, s) for k, s in first_layouts(bare, home.id) if not isinstance(s, FuenteError)]
    kind, spec = rng.choice(made)
    return kind, apply(bare, add_filter(bare, spec))


def design(seed: int) -> tuple[str, System]:
    """One of them: a demo or a plain layout, with up to three random edits; its name and itself."""
    rng = random.Random(seed)
    while True:
        try:
            if rng.random() < 0.35:
                name = rng.choice([n for n in DEMOS if n not in LARGE])
                system = DEMOS[name]()
            else:
                name, system = plain(rng)
            return name, edited(system, rng, rng.choice([0, 1, 1, 2, 3]))
        except FuenteError:
            continue


def fed(system: System, rng: random.Random, planted: bool) -> System:
    """The same with some feed in every tank, and plants in it or none."""
    changes: list[Change] = []
    for home in system.tanks:
        if home.feed <= 0:
            room = home.length * home.width * home.height
            changes.append(Change((*home.path, "feed"), rng.choice([0.3, 1.0, 3.0]) * room * 1e-2 / DAY))
        changes.append(Change((*home.path, "planted"), rng.choice([0.2, 0.6, 1.0]) if planted else 0.0))
        changes.append(Change((*home.path, "plants"), rng.choice(["stems", "floating", "mosses", "rosettes"])))
    return apply(system, Edit("Feed and plant", tuple(changes)))
