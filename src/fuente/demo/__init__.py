"""Made-up systems to learn on: Harbour Hill Library. Each is loaded when it is opened."""

from __future__ import annotations

from collections.abc import Callable
from importlib import import_module

from fuente.document.system import System

# name → (module, function)
_WHERE = {
    "reading-room": ("reading_room", "reading_room"),
    "back-room": ("back_room", "back_room"),
    "cascade": ("cascade", "cascade"),
    "nursery-on-air": ("nursery", "nursery"),
    "window-lantern": ("lantern", "lantern"),
    "courtyard-trough": ("trough", "trough"),
}


def _demo(module: str, function: str) -> Callable[[], System]:
    def make() -> System:
        made: System = getattr(import_module(f"fuente.demo.{module}"), function)()
        return made

    return make


DEMOS: dict[str, Callable[[], System]] = {name: _demo(*where) for name, where in _WHERE.items()}
TEXTS = {
    "reading-room": (
        "Reading-room tank",
        "Harbour Hill Library: axolotls in 377 L of cool water over a 900 mm sump. It has two flaws for you to mend.",
    ),
    "back-room": (
        "Back-room rack",
        "24 killifish tanks of 54 L on two joined sumps, one pump, one common drain. Every valve is half turned.",
    ),
    "cascade": (
        "Two-sump cascade",
        "White clouds in a large tank over two sumps, one falling into the other, with a steriliser and a top-up.",
    ),
    "nursery-on-air": (
        "Nursery on air",
        "Eight 30 L tubs of fry with bottle moving beds and sponges, all on one air pump. One valve stands wide open.",
    ),
    "window-lantern": (
        "Window lantern",
        "White clouds and shrimp in 60 L, the filter hidden in a clay lantern. Its gaps are too wide for the young.",
    ),
    "courtyard-trough": (
        "Courtyard trough",
        "White clouds outdoors in 2 400 L: a sieve, three drums and a plant bed. Two flaws, one of them a flood.",
    ),
}
