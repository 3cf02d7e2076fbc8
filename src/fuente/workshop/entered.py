"""What the builder types about the workshop, as values: a leftover, a sheet that is bought, a fitting in the hand."""

from __future__ import annotations

from typing import Any, TypeVar

from pydantic import ValidationError

from fuente.catalogue import FITTINGS, pipe_size, trade_sizes
from fuente.devices.base import Spec
from fuente.devices.sentences import first_sentence
from fuente.devices.shop import (
    MATERIALS,
    HandFitting,
    Leftover,
    LeftoverFitting,
    LeftoverFoam,
    LeftoverPipe,
    LeftoverSheet,
    StockSheet,
)
from fuente.errors import EntryError
from fuente.typed import parse
from fuente.units import UnitSystem, fill, shown

S = TypeVar("S", bound=Spec)
LABELS = {
    "sheet": (
        ("Material", "glass, acrylic, plywood"),
        ("Length × width × thick", "700 x 520 x 6 mm", "28 x 20 x 1/4 in"),
        "How many",
    ),
    "foam": (("Pores an inch", "20"), ("Length × width × thick", "500 x 300 x 50 mm", "20 x 12 x 2 in"), "How many"),
    "pipe": (("Pipe", "32 mm PN10, 1 in schedule 40"), ("Length", "1.1 m", "3.5 ft"), "How many"),
    "fitting": (("Fitting and pipe", "elbow, 32 mm PN10"), ("", "", ""), "How many"),
    "stock": (
        ("Material", "glass, acrylic, plywood"),
        ("Length × width × thick", "2000 x 1200 x 8 mm", "80 x 48 x 5/16 in"),
        "Price",
    ),
    "hand": (
        ("Size", "32 mm, 1 in"),
        ("Thread × flange × nut × gasket", "41 x 64 x 64 x 3 mm", "1.6 x 2.5 x 2.5 x 1/8 in"),
        "",
    ),
}


def sizes(words: str, units: UnitSystem) -> tuple[float, ...]:
    """Sizes with one unit after the last, or one each."""
    if not words.strip():
        return ()
    rows = [w.strip() for w in words.lower().replace("×", "x").split("x") if w.strip()]
    last = "".join(c for c in rows[-1] if c.isalpha()) or ("in" if units == UnitSystem.US else "mm")
    return tuple(parse(w if any(c.isalpha() for c in w) else f"{w} {last}", "length") for w in rows)


def _made(kind: type[S], **values: Any) -> S:
    """A value of the workshop; EntryError with one sentence where its limits forbid it."""
    try:
        return kind(**values)
    except ValidationError as error:
        raise EntryError(first_sentence(error, kind)) from None


def _whole(words: str) -> int:
    if not words.isdigit() or not 1 <= int(words) <= 999:
        raise EntryError("Say how many as a whole number, from 1.")
    return int(words)


def _three(sizes: tuple[float, ...]) -> tuple[float, float, float]:
    if len(sizes) != 3:
        raise EntryError("Type three sizes, such as 700 x 520 x 6 mm.")
    return sizes[0], sizes[1], sizes[2]


def leftover(kind: str, what: str, sizes: tuple[float, ...], count: str) -> Leftover:
    """A leftover by its kind, what it is, sizes in m, and how many. Raises EntryError."""
    many = _whole(count)
    if kind == "sheet":
        length, width, thick = _three(sizes)
        return _made(LeftoverSheet, material=_material(what), length=length, width=width, thickness=thick, count=many)
    if kind == "foam":
        length, width, thick = _three(sizes)
        try:
            ppi = float(what)
        except ValueError:
            raise EntryError("Say its pores an inch, such as 20.") from None
        return _made(LeftoverFoam, ppi=ppi, length=length, width=width, thickness=thick, count=many)
    if kind == "pipe":
        if len(sizes) != 1:
            raise EntryError("Type its length, such as 1.1 m.")
        return _made(LeftoverPipe, pipe=_pipe(what), length=sizes[0], count=many)
    name, _, pipe = what.partition(",")
    return _made(LeftoverFitting, fitting=_fitting(name.strip()), pipe=_pipe(pipe.strip()), count=many)


def stock(kind: str, what: str, sizes: tuple[float, ...], count: str) -> StockSheet:
    """A sheet that is bought, with its price where it was typed."""
    length, width, thick = _three(sizes)
    try:
        price = float(count.replace(",", ".") or 0)
    except ValueError:
        raise EntryError("Type its price as a number, or leave it empty.") from None
    return _made(StockSheet, material=_material(what), length=length, width=width, thickness=thick, price=price)


def hand(kind: str, what: str, sizes: tuple[float, ...], count: str) -> HandFitting:
    """A bulkhead in the hand, by four measured sizes in m."""
    if len(sizes) != 4:
        raise EntryError("Measure four sizes: thread, flange, nut and gasket, such as 41 x 64 x 64 x 3 mm.")
    thread, flange, nut, gasket = sizes
    return _made(HandFitting, size=what or "32 mm", thread=thread, flange=flange, nut=nut, gasket=gasket)


def _material(words: str) -> Any:
    word = words.lower() or "glass"
    if word not in MATERIALS:
        raise EntryError(f"Say {', '.join(MATERIALS[:-1])} or {MATERIALS[-1]}.")
    return word


def _pipe(words: str) -> str:
    """The catalogue's pipe by how it is called."""
    wanted = words.lower().replace(" ", "")
    sizes = [*trade_sizes(), *trade_sizes(inch=True)]
    for each in sizes:
        name = fill(each.name, {}, UnitSystem.METRIC).lower().replace(" ", "")
        if wanted and (name == wanted or each.id == wanted or name.startswith(wanted)):
            return each.id
    raise EntryError("Say its pipe as the list does, such as 32 mm PN10 or 1 in schedule 40.")


def _fitting(words: str) -> str:
    wanted = words.lower()
    if wanted.startswith("bulkhead"):
        return "bulkhead"
    for key, each in FITTINGS.items():
        if wanted and (each.name.lower().startswith(wanted) or key == wanted):
            return key
    raise EntryError("Say which fitting, such as elbow, union, ball valve or bulkhead.")


def leftover_words(each: Any, units: UnitSystem) -> str:
    """A leftover in words."""
    many = f"{each.count} × " if each.count > 1 else ""
    if isinstance(each, LeftoverPipe):
        return f"{many}pipe {fill(pipe_size(each.pipe).name, {}, units)}, {shown(each.length, 'run', units)}"
    if isinstance(each, LeftoverFitting):
        name = "Bulkhead" if each.fitting == "bulkhead" else FITTINGS[each.fitting].name
        return f"{many}{name}, {fill(pipe_size(each.pipe).name, {}, units)}"
    what = f"{each.ppi:g} ppi foam" if isinstance(each, LeftoverFoam) else each.material
    return f"{many}{what}, {_times(each, units)}"


def stock_words(each: StockSheet, units: UnitSystem) -> str:
    """A sheet that is bought, in words."""
    return f"{each.material}, {_times(each, units)}" + (f", {each.price:g}" if each.price else "")


def hand_words(each: HandFitting, units: UnitSystem) -> str:
    """A fitting in the hand, with the hole that it takes."""
    low, high = each.saws
    hole = f"hole {shown(low, 'length', units, unit=False)} to {shown(high, 'length', units)}"
    thread, flange = shown(each.thread, "fine_length", units), shown(each.flange, "length", units)
    return f"{each.size}: thread {thread}, flange {flange}; {hole}"


def _times(each: Any, units: UnitSystem) -> str:
    sizes = [each.length, each.width, *([each.thickness] if each.thickness else [])]
    words = [shown(v, "length", units, unit=False) for v in sizes[:-1]]
    return " × ".join((*words, shown(sizes[-1], "length", units)))
