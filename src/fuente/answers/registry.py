"""What a quick answer is, how its inputs are read, and the list of all."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from importlib import import_module
from typing import Any

from fuente.answers.question import Answer, Input, Output
from fuente.errors import EntryError
from fuente.typed import parse
from fuente.units import QUANTITIES, UnitSystem, shown

# Where answers stand, those first that scripts ask for most: one answer on the command line loads only what it needs.
_MODULES = (
    ("flow", "FLOW"),
    ("building", "BUILDING"),
    ("making", "MAKING"),
    ("systems", "SYSTEMS"),
    ("filter_questions", "FILTERS"),
    ("life_questions", "LIFE"),
)


def _rows(module: str, table: str) -> tuple[Answer, ...]:
    return tuple(getattr(import_module(f"fuente.answers.{module}"), table))


@lru_cache(maxsize=1)
def answers() -> dict[str, Answer]:
    """All quick answers by name."""
    return {a.name: a for where in _MODULES for a in _rows(*where)}


def find(name: str) -> Answer:
    """A quick answer by name; EntryError names the nearest."""
    for where in _MODULES:
        for answer in _rows(*where):
            if answer.name == name:
                return answer
    import difflib

    known = answers()
    near = difflib.get_close_matches(name, known, 1)
    hint = f" Did you mean “{near[0]}”?" if near else f" There are: {', '.join(known)}."
    raise EntryError(f"There is no quick answer “{name[:40]}”.{hint}")


def read(wanted: Input, text: str, units: UnitSystem) -> Any:
    """An input's text as an SI value or a word."""
    text = text.strip()
    if wanted.quantity == "word":
        if wanted.options:
            word = text.lower()
            word = wanted.synonyms.get(word, word)
            if word not in wanted.options:
                raise EntryError(f"{wanted.label} is one of {', '.join(wanted.options)}, not “{text[:40]}”.")
            return word
        return text
    if wanted.quantity == "points":
        return read_points(text, units)
    try:
        return parse(text, wanted.quantity, units)
    except EntryError as error:
        raise EntryError(f"{wanted.name}: {error}") from None


def read_points(text: str, units: UnitSystem) -> tuple[tuple[float, float], ...]:
    """``0:3.6, 2500 L/h:2.7 m`` as (flow m³/s, head m)."""
    points = []
    for pair in filter(None, (p.strip() for p in text.replace(";", ",").split(","))):
        parts = pair.split(":")
        if len(parts) != 2:
            raise EntryError(f"points: “{pair[:30]}” is not flow:head; type 0:3.6, 2500:2.7, 5000:0.2.")
        points.append((parse(parts[0], "flow", units), parse(parts[1], "head", units)))
    return tuple(points)


def ask(name: str, given: Mapping[str, str], units: UnitSystem = UnitSystem.METRIC) -> dict[str, float]:
    """Answer from texts. Outputs are SI floats by name. Raises FuenteError with one sentence."""
    answer = find(name)
    known = {i.name: i for i in answer.inputs}
    for key in given:
        if key not in known:
            raise EntryError(f"{name} takes {', '.join(known)}, not “{key[:40]}”.")
    values: dict[str, Any] = {}
    for wanted in answer.inputs:
        text = given.get(wanted.name, wanted.default)
        if text is None or (text == "" and wanted.optional):
            if wanted.optional:
                continue
            example = (
                "" if wanted.quantity in ("word", "points") else f", such as {QUANTITIES[wanted.quantity].examples}"
            )
            raise EntryError(f"{name} needs {wanted.name}: {wanted.label[:1].lower()}{wanted.label[1:]}{example}.")
        values[wanted.name] = read(wanted, text, units)
    return {key: float(value) for key, value in answer.function(**values).items()}


def shown_output(output: Output, value: float, units: UnitSystem) -> str:
    """An output as a builder reads it."""
    if output.quantity == "count_per_hour":
        return f"{value:.1f} × an hour"
    return shown(value, output.quantity, units)
