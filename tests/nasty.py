"""Designs whose every name carries what a screen, a file or a sentence could take for its own."""

from __future__ import annotations

from typing import Any

from fuente.document.system import System

MARKUP = "<img src=/dev/zero>&amp;{peak:level}{0}%s"
NAMES = (
    MARKUP,
    "]]><script>x</script><!--",
    "%%c\\P{\\H9;x}^J",
    "$(id)`id`;rm -rf ~",
    "a,\"b\";'c'",
    "☃ עברית 漢",
)
FORMULAS = ("=1+1", "+1+1", "-1+1", "@SUM(A1)", "\t=1+1", "\r=1+1", '=cmd|"/c x"!A1')
_KEYS = ("name", "place", "stock", "rack", "supplier")
_LONGEST = {"rack": 40, "place": 120, "stock": 400}


def named(system: System, tail: str = "", head: str = "") -> System:
    """The design with all of its names between a head and a tail."""
    return System.model_validate(_renamed(system.model_dump(mode="json"), head, tail))


def _renamed(value: Any, head: str, tail: str) -> Any:
    if isinstance(value, list):
        return [_renamed(v, head, tail) for v in value]
    if not isinstance(value, dict):
        return value
    return {k: _name(k, v, head, tail) if k in _KEYS and v else _renamed(v, head, tail) for k, v in value.items()}


def _name(key: str, value: Any, head: str, tail: str) -> Any:
    if not isinstance(value, str):
        return _renamed(value, head, tail)
    return f"{head}{value[: _LONGEST.get(key, 80) - len(head) - len(tail)]}{tail}"
