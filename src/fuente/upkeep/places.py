"""Places of a design as a builder calls them: tanks, filters, their chambers, pads, pumps."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from fuente.devices.base import Task
from fuente.devices.homes import HomeSpec
from fuente.errors import FuenteError
from fuente.network.model import Solution, WayKind
from fuente.study.analysis import Analysis
from fuente.study.breaking import Broken, Fault
from fuente.study.effects import clean_pads
from fuente.study.faults import put
from fuente.upkeep.upkeep_tasks import tasks_of

_WORDS = re.compile(r"[^\W_]+", re.UNICODE)
_LIES = {"sock": "socks", "pad": "foam", "screen": "screen", "bed": "bed", "sponge": "sponge"}
_PUMPS = (WayKind.PUMP, WayKind.FEED_PUMP, WayKind.INNER_PUMP, WayKind.LOOP_PUMP)


@dataclass(frozen=True)
class Place:
    """Somewhere in a design: its id, its name, and other words for it; ``clogs`` are the ways through what clogs there,
    in the order of the water; ``tank`` says that it is one, ``pump`` is a pump's way.
    """

    id: str
    name: str
    called: tuple[str, ...] = ()
    clogs: tuple[str, ...] = ()
    tank: bool = False
    pump: str = ""


@dataclass(frozen=True)
class Places:
    """All of a design, tanks first."""

    all: tuple[Place, ...]

    def by_id(self, place_id: str) -> Place | None:
        """One of them."""
        return next((p for p in self.all if p.id == place_id), None)

    def name(self, place_id: str) -> str:
        """Its name; the id itself of what is there no more."""
        found = self.by_id(place_id)
        return found.name if found is not None else place_id

    @property
    def tanks(self) -> tuple[Place, ...]:
        """Those that animals live in."""
        return tuple(p for p in self.all if p.tank)

    @property
    def clogging(self) -> tuple[Place, ...]:
        """Those where a difference of levels is a gauge."""
        return tuple(p for p in self.all if p.clogs)

    def gauged(self, study: Analysis) -> tuple[Place, ...]:
        """Those of them whose difference a ruler can read: half a millimetre when clean, in vessels that are open."""
        return tuple(p for p in self.clogging if drop_over(study, p, as_new(study)) >= 5e-4)

    @property
    def pumps(self) -> tuple[Place, ...]:
        """Those that have a pump."""
        return tuple(p for p in self.all if p.pump)

    def named(self, words: str, clogs: bool = False) -> tuple[Place, ...]:
        """What a builder may mean by some words, the best matches alone; where levels differ only if ``clogs``."""
        asked = _stems(words)
        if not asked:
            return ()
        found: list[tuple[float, Place]] = []
        for place in self.all:
            if clogs and not place.clogs:
                continue
            score = max(_likeness(asked, _stems(name)) for name in (place.name, place.id, *place.called))
            if score > 0:
                found.append((score, place))
        best = max((score for score, _ in found), default=0.0)
        return tuple(place for score, place in found if score > best - 1e-9)


def places_of(study: Analysis) -> Places:
    """Of a design; worked out once."""
    return study.kept("places", lambda: Places(tuple(_all(study))))


def with_dirt(study: Analysis, ways: Iterable[str], dirt: float, faults: Sequence[Fault] = ()) -> Solution:
    """Running water with every pad as clean as new but for some ways, at so many times their clean loss. Raises
    FuenteError where that cannot be.
    """
    mine = frozenset(ways)

    def made() -> Solution:
        state = Broken(study, study.calm)
        for fault in faults:
            put(state, fault)
        state.change.update({k: law for k, law in clean_pads(study, 1.0).items() if k not in mine})
        state.change.update({k: law for k, law in clean_pads(study, dirt).items() if k in mine})
        return study.settle("pads as new", state.network())

    return study.kept(f"dirt {dirt:g} on {sorted(mine)} with {tuple(faults)}", made)


def as_new(study: Analysis) -> Solution:
    """Running water with every pad as clean as new; as it runs where that cannot be."""
    try:
        return with_dirt(study, (), 1.0)
    except FuenteError:
        return study.running


def drop_over(study: Analysis, place: Place, solution: Solution) -> float:
    """Difference of levels in m over all that clogs at a place: before the first to behind the last."""
    if not place.clogs:
        return 0.0
    first, last = (study.network.link(key) for key in (place.clogs[0], place.clogs[-1]))
    return max(solution.level[first.a] - solution.level[last.b], 0.0)


def _all(study: Analysis) -> Iterable[Place]:
    tasks = tasks_of(study)
    chambers = _chambers(study, tasks)
    clogging = {way for ways in chambers.values() for way in ways}
    pumps = {w.owner: w.id for w in study.network.ways if w.kind in _PUMPS}
    for device in study.ordered:
        if isinstance(device, HomeSpec):
            several = len(study.system.tanks) > 1
            yield Place(device.id, device.name, () if several else ("tank",), tank=True)
    names = {t.place: t.place_name for t in tasks if t.place_name}
    for device in study.ordered:
        if not isinstance(device, HomeSpec):
            ways = tuple(chambers.get(device.id, ()))
            title = _short(device.title)
            yield Place(device.id, title, _called(study, ways), ways, pump=pumps.get(device.id, ""))
        own = [key for key in (*chambers, *names) if key.startswith(device.id + ".") and key not in clogging]
        for key in dict.fromkeys(own):
            ways = tuple(chambers.get(key, ()))
            name = names.get(key) or (study.network.link(ways[0]).owner if not ways else _cell_name(study, ways[0]))
            yield Place(key, name, _called(study, ways), ways)
            if len(ways) > 1:  # each pad by itself
                for way in ways:
                    named = study.network.link(way).name
                    yield Place(way, f"{named} of {name[:1].lower()}{name[1:]}", (named,), (way,))


def _cell_name(study: Analysis, way: str) -> str:
    """The name of the water before something that clogs, which is its chamber's."""
    return study.network.cell(study.network.link(way).a).name.split(", before")[0]


def _chambers(study: Analysis, tasks: Iterable[Task]) -> dict[str, list[str]]:
    """What clogs, by the place where a task cleans it; by its device where none does."""
    pads = clean_pads(study, 1.0)
    at: dict[str, str] = {}
    for task in tasks:
        for way in task.clogs:
            at.setdefault(way, task.owner if task.place in pads else task.place)
    found: dict[str, list[str]] = {}
    for link in study.network.ways:
        if link.id in pads:
            found.setdefault(at.get(link.id, link.owner), []).append(link.id)
    return found


def _called(study: Analysis, clogs: tuple[str, ...]) -> tuple[str, ...]:
    """Words by what lies there: socks, foam, screen."""
    words: set[str] = set()
    for key in clogs:
        name = study.network.link(key).name.lower()
        words.update(says for word, says in _LIES.items() if word in name)
    return tuple(sorted(words))


def _short(title: str) -> str:
    """A title without its article and quotes."""
    found = re.search("“(.+)”", title)
    return found.group(1) if found else title


def _stems(words: str) -> Counter[str]:
    """Words without their plural, and how often each stands there."""
    return Counter(w[:-1] if len(w) > 3 and w.endswith("s") else w for w in _WORDS.findall(words.lower()))


def _likeness(asked: Counter[str], name: Counter[str]) -> float:
    """1 where all words are the same, less where the name has more of them, 0 where one asked for is not there."""
    if not name or not asked <= name:
        return 0.0
    return asked.total() / name.total()
