"""What a quick answer is: a question with its inputs and outputs, and the function that answers it."""

from __future__ import annotations

import inspect
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from fuente.units import QUANTITIES


@dataclass(frozen=True)
class Input:
    """A named input: its quantity (of units.QUANTITIES, or "word" or "points"), its default as text, or none."""

    name: str
    quantity: str
    label: str
    default: str | None = None
    options: tuple[str, ...] = ()
    optional: bool = False
    synonyms: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class Output:
    """A named output. Its value is an SI float; ``unit`` names the unit."""

    name: str
    quantity: str
    label: str

    @property
    def unit(self) -> str:
        """SI unit of the value; empty for a bare number."""
        if self.quantity == "count_per_hour":
            return "1/h"
        return QUANTITIES[self.quantity].si


@dataclass(frozen=True)
class Answer:
    """A question with its inputs, outputs, and the function that answers it from SI values."""

    name: str
    title: str
    inputs: tuple[Input, ...]
    outputs: tuple[Output, ...]
    function: Callable[..., Mapping[str, float]]
    words: tuple[str, ...] = field(default=())  # more words to find it by

    @property
    def doc(self) -> str:
        """The model's own words."""
        return inspect.getdoc(self.function) or ""
