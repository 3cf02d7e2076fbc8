"""Reads the catalogue once and hands out its entries by id."""

from __future__ import annotations

import hashlib
import json
import math
import tomllib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from typing import Any, TypeVar

from fuente.errors import FuenteError
from fuente.hydraulics.pipes import CORRUGATED_SHARE, SMOOTH_PLASTIC, VINYL_HOSE

T = TypeVar("T")


@dataclass(frozen=True)
class PipeSize:
    """A pipe or hose that can be bought: bore and outside diameter in m, roughness m. A nominal size is
    never a bore. A hose, sold by its bore, has a slot for units.fill in its name.
    """

    id: str
    name: str
    bore: float
    outside: float
    roughness: float
    family: str

    @property
    def area(self) -> float:
        """Cross-section of the bore, m²."""
        return math.pi / 4 * self.bore**2


@dataclass(frozen=True)
class Fitting:
    """A fitting by its loss coefficient on the local bore."""

    id: str
    name: str
    k: float


@dataclass(frozen=True)
class Bulkhead:
    """A tank fitting: bore, least and greatest hole, usual saw, flange and gasket thickness, all m."""

    size: str
    bore: float
    hole_min: float
    hole_max: float
    saw: float
    flange: float
    gasket: float

    @property
    def edge_distance(self) -> float:
        """Least distance in m from the hole's rim to any edge of the glass: one hole diameter."""
        return self.saw


@dataclass(frozen=True)
class Medium:
    """Filter media: outer surface m²/m³ of bulk, void share, dry bulk density kg/m³, least dimension m, cost per L."""

    id: str
    name: str
    kind: str
    surface: float
    void: float
    dry: float
    size: float
    cost: float
    core: float = 0.0  # claimed porous core, m²/m³, beside the outer surface; unproven for nitrifying
    cleaning: float = 3.0  # minutes to rinse a litre once
    matures: float = 5.0  # weeks from new, typical
    source: str = "typical"
    brittle: bool = False  # whether it breaks when it is knocked about

    def living(self, core: bool = False) -> float:
        """Surface in m²/m³ by either school: outer alone, or with the claimed core."""
        return self.surface + (self.core if core else 0.0)

    def wet_density(self, water_density: float = 1000.0) -> float:
        """Mass in kg of a drained, still dripping m³: solids and a tenth of the voids."""
        return self.dry + 0.1 * self.void * water_density


@dataclass(frozen=True)
class Consumable:
    """What is cut from a sheet or poured by the litre, and used up: sheet sizes in m (none by the litre), cost of a
    sheet or of a litre, life s, outer surface m²/m³, dose in m³ for each m³ of tank water, dry bulk density kg/m³.
    """

    id: str
    name: str
    kind: str  # foam, felt, floss, mesh, chemical
    cost: float
    life: float
    dry: float
    sheet: tuple[float, float, float] | None = None
    surface: float = 0.0
    dose: float = 0.0
    source: str = "typical"

    @property
    def sold(self) -> float:
        """Volume in m³ that its cost buys."""
        if self.sheet is None:
            return 1e-3
        length, width, thickness = self.sheet
        return length * width * thickness


@dataclass(frozen=True)
class Sheet:
    """A sheet material by thickness in m."""

    id: str
    material: str
    thickness: float


@lru_cache(maxsize=1)
def tables() -> dict[str, Any]:
    """What the catalogue's file says."""
    return tomllib.loads(files("fuente.catalogue").joinpath("catalogue.toml").read_text("utf-8"))


def _fraction(size: float) -> str:
    whole, part = divmod(size, 1)
    text = {0.0: "", 0.25: "1/4", 0.5: "1/2", 0.75: "3/4"}[part]
    return " ".join(filter(None, (f"{whole:.0f}" if whole else "", text)))


@lru_cache(maxsize=1)
def _pipes() -> dict[str, PipeSize]:
    from fluids.piping import nearest_pipe

    raw = tables()
    sizes: list[PipeSize] = []
    for grade, rows in raw["metric_pipe"].items():
        for outside, wall in rows:
            bore = (outside - 2 * wall) / 1000
            name = f"{outside} mm {grade.upper()}"
            sizes.append(PipeSize(f"{outside}-{grade}", name, bore, outside / 1000, SMOOTH_PLASTIC, "metric"))
    for schedule in raw["inch_pipe"]["schedules"]:
        for nominal in raw["inch_pipe"]["sizes"]:
            _, inner, outer, _ = nearest_pipe(NPS=nominal, schedule=schedule)
            name = f"{_fraction(nominal)} in schedule {schedule}"
            sizes.append(PipeSize(f"{nominal:g}in-{schedule}", name, inner, outer, SMOOTH_PLASTIC, "inch"))
    for bore in raw["hose"]["vinyl"]:
        name = f"{{{bore / 1000:g}:length}} vinyl hose"
        sizes.append(PipeSize(f"hose-{bore}", name, bore / 1000, bore / 1000 + 0.006, VINYL_HOSE, "hose"))
    for bore in raw["hose"]["corrugated"]:
        rough = CORRUGATED_SHARE * bore / 1000
        name = f"{{{bore / 1000:g}:length}} corrugated hose"
        sizes.append(PipeSize(f"corrugated-{bore}", name, bore / 1000, bore / 1000 + 0.006, rough, "hose"))
    return {size.id: size for size in sizes}


@lru_cache(maxsize=1)
def _fittings() -> dict[str, Fitting]:
    return {key: Fitting(key, row["name"], row["k"]) for key, row in tables()["fittings"].items()}


@lru_cache(maxsize=1)
def _media() -> dict[str, Medium]:
    return {key: Medium(id=key, **{**r, "size": r["size"] / 1000}) for key, r in tables()["media"].items()}


@lru_cache(maxsize=1)
def consumables() -> tuple[Consumable, ...]:
    """All that is used up, foam by rising pores first."""
    found = []
    for key, row in tables()["consumables"].items():
        sheet = tuple(side / 1000 for side in row["sheet"]) if "sheet" in row else None
        changed = {"sheet": sheet, "life": row["life"] * 7 * 86400.0, "dose": row.get("dose", 0.0) / 1000}
        found.append(Consumable(id=key, **{**row, **changed}))
    return tuple(found)


class _Lazy(Mapping[str, Any]):
    """A mapping that is read from the catalogue when it is first asked."""

    def __init__(self, load: Any):
        self._load = load

    def __getitem__(self, key: str) -> Any:
        return self._load()[key]

    def __iter__(self) -> Any:
        return iter(self._load())

    def __len__(self) -> int:
        return len(self._load())


PIPES: Mapping[str, PipeSize] = _Lazy(_pipes)
FITTINGS: Mapping[str, Fitting] = _Lazy(_fittings)


@dataclass(frozen=True)
class Catalogue:
    """The media that a design can hold, by id: those that are sold, and the builder's own. A value that is handed down;
    two designs never share what one of them added.
    """

    media: Mapping[str, Medium]

    def medium(self, medium_id: str) -> Medium:
        """Media by id, such as ``wheel_10``."""
        return _get(self.media, medium_id, "media")

    def with_own(self, own: Iterable[Medium]) -> Catalogue:
        """With a builder's own media among the others."""
        more = {m.id: m for m in own}
        return Catalogue({**self.media, **more}) if more else self


@lru_cache(maxsize=1)
def stock() -> Catalogue:
    """What is sold, with nobody's own."""
    return Catalogue(_media())


def own_id(figures: Mapping[str, Any]) -> str:
    """The id of a builder's own medium: made from its figures, so that one id never means two things."""
    text = json.dumps(figures, sort_keys=True, ensure_ascii=False)
    return "own-" + hashlib.sha256(text.encode()).hexdigest()[:12]


def is_own(medium_id: object) -> bool:
    """Whether an id is one of a builder's own medium."""
    return isinstance(medium_id, str) and medium_id.startswith("own-")


def _get(table: Mapping[str, T], key: str, what: str) -> T:
    try:
        return table[key]
    except KeyError:
        raise FuenteError(f"The catalogue has no {what} “{key[:40]}”.") from None


def pipe_size(pipe_id: str) -> PipeSize:
    """A pipe or hose by id, such as ``32-pn10`` or ``1in-40``."""
    return _get(PIPES, pipe_id, "pipe")


def wider_pipe(pipe_id: str) -> str | None:
    """Id of the next wider size of a pipe's own family and grade; None for the widest."""
    now = pipe_size(pipe_id)
    grade = now.id.rsplit("-", 1)[-1] if now.family != "hose" else ""
    stem = now.id.split("-")[0]
    larger = [
        p
        for p in PIPES.values()
        if p.family == now.family
        and p.bore > 1.08 * now.bore
        and (p.id.startswith(stem) if now.family == "hose" else p.id.endswith(grade))
    ]
    return min(larger, key=lambda p: p.bore).id if larger else None


def trade_sizes(inch: bool = False) -> list[PipeSize]:
    """The usual grade of pressure pipe by rising bore: metric PN10, or inch schedule 40."""
    ending, family = ("-40", "inch") if inch else ("-pn10", "metric")
    return sorted((p for p in PIPES.values() if p.family == family and p.id.endswith(ending)), key=lambda p: p.bore)


@lru_cache(maxsize=128)
def inch_for(pipe_id: str) -> str:
    """Id of the narrowest schedule 40 pipe that is no narrower than a pipe, to 3 %; the widest where none is."""
    bore = pipe_size(pipe_id).bore
    sizes = trade_sizes(inch=True)
    return next((p for p in sizes if p.bore >= 0.97 * bore), sizes[-1]).id


def fitting(fitting_id: str) -> Fitting:
    """A fitting by id, such as ``elbow``."""
    return _get(FITTINGS, fitting_id, "fitting")


@lru_cache(maxsize=1)
def bulkheads() -> tuple[Bulkhead, ...]:
    """All bulkhead fittings."""
    return tuple(
        Bulkhead(
            size,
            row["bore"] / 1000,
            row["hole"][0] / 1000,
            row["hole"][1] / 1000,
            row["saw"] / 1000,
            row["flange"] / 1000,
            row["gasket"] / 1000,
        )
        for size, row in tables()["bulkheads"].items()
    )


def bulkhead(size: str) -> Bulkhead:
    """A bulkhead fitting by its size as builders say it: ``1 in``, ``1 1/2 in``, ``32 mm``."""
    wanted = " ".join(size.replace('"', " in").replace("inch", "in").replace("-", " ").split()).lower()
    if wanted.replace(".", "", 1).isdigit():
        wanted += " mm"
    for each in bulkheads():
        if each.size == wanted or each.size.replace(" ", "") == wanted.replace(" ", ""):
            return each
    names = ", ".join(b.size for b in bulkheads())
    raise FuenteError(f"“{size[:40]}” is not a bulkhead size; choose one of {names}.")


@lru_cache(maxsize=256)
def bulkhead_for(pipe: PipeSize) -> Bulkhead:
    """The bulkhead fitting that takes a pipe: the one with the nearest bore of its own standard."""
    unit = "in" if pipe.family == "inch" else "mm"
    same = [b for b in bulkheads() if b.size.endswith(unit)]
    return min(same, key=lambda b: abs(b.bore - pipe.bore))


@lru_cache(maxsize=8)
def sheets(material: str) -> tuple[Sheet, ...]:
    """Sheet of a material (glass, acrylic) by rising thickness."""
    rows = (
        Sheet(key, row["material"], row["thickness"] / 1000)
        for key, row in tables()["sheets"].items()
        if row["material"] == material
    )
    return tuple(sorted(rows, key=lambda s: s.thickness))


def sheet(material: str, least: float) -> Sheet | None:
    """The thinnest sheet of a material of at least a thickness in m; None where none is sold so thick."""
    return next((s for s in sheets(material) if s.thickness >= least - 1e-9), None)


def sold_as(material: str, thickness: float) -> tuple[float, float, float]:
    """The usual sheet of a material and a thickness in m: its length and width in m, and its price in any money."""
    row = _get(tables()["sold"], material, "sheet of")
    length, width = (side / 1000 for side in row["size"])
    return length, width, round(row["price"] * length * width * thickness * 1000)


def foam_sheet(ppi: float, thickness: float) -> Consumable:
    """The foam sheet that pads of so many pores an inch are cut from: nearest in pores, then in thickness, m."""
    foams = [c for c in consumables() if c.kind == "foam" and c.sheet is not None]
    return min(foams, key=lambda c: (abs(float(c.id.split("_")[1]) - ppi), abs((c.sheet or (0, 0, 0))[2] - thickness)))


def soft_sheet(kind: str, thickness: float) -> Consumable:
    """The sheet of floss or mesh that is nearest in thickness, m."""
    sold = [c for c in consumables() if c.kind == kind and c.sheet is not None]
    return min(sold, key=lambda c: abs((c.sheet or (0, 0, 0))[2] - thickness))


@lru_cache(maxsize=1)
def saws_sold() -> tuple[float, ...]:
    """Hole saws as they are sold, m, rising."""
    return tuple(size / 1000 for size in tables()["saws"]["sizes"])


def take_off(kind: str, pipe: PipeSize) -> float | None:
    """What a fitting takes off a pipe's run at one of its ends, m; None for what does not lie in a run. ±3 mm."""
    share = tables()["take_off"].get(kind)
    return None if share is None else float(share) * pipe.outside


def socket_depth(pipe: PipeSize) -> float:
    """How deep a pipe goes into a socket, m: half its outside diameter and 6 mm (ISO 727).

    >>> round(socket_depth(pipe_size("32-pn10")) * 1000)
    22
    """
    return 0.5 * pipe.outside + 0.006
