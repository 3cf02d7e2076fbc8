"""Cells of tables that other programs open."""

from __future__ import annotations

Value = str | float | int | None
_STARTS = ("=", "+", "-", "@", "\t", "\r")


def harmless(value: Value) -> Value:
    """Text that a spreadsheet would read as a formula, made plain; numbers stay numbers."""
    if isinstance(value, str):
        clean = "".join(c for c in value if c in "\t" or c >= " ")  # what a cell cannot hold
        return "'" + clean if clean.startswith(_STARTS) else clean
    return value
