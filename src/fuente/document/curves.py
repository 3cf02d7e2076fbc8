"""Pump curves from a table of a maker's points: CSV text with two columns, flow and head."""

from __future__ import annotations

import csv
import itertools
import re
from pathlib import Path

from fuente.document.ordinary import read_ordinary
from fuente.errors import DocumentError, EntryError
from fuente.typed import parse

LARGEST = 200_000  # bytes
_FLOWS = {
    "l/h": "L/h",
    "lph": "L/h",
    "l/min": "L/min",
    "lpm": "L/min",
    "m3/h": "m^3/h",
    "m³/h": "m^3/h",
    "gph": "gph",
    "gpm": "gpm",
}
_HEADS = {"m": "m", "cm": "cm", "mm": "mm", "ft": "ft", "in": "in"}


def read_curve(path: Path) -> tuple[tuple[float, float], ...]:
    """Points (flow m³/s, head m) of a CSV file, in rising flow. Raises EntryError with one sentence."""
    name = path.name[:80]
    try:
        text = read_ordinary(path, LARGEST, f"“{name}” is too large for a pump curve.").decode("utf-8-sig")
    except UnicodeDecodeError:
        raise EntryError(f"“{name}” is not text.") from None
    except DocumentError as error:
        raise EntryError(str(error)) from None
    return parse_curve(text, name)


def parse_curve(text: str, name: str = "The table") -> tuple[tuple[float, float], ...]:
    """Points of CSV text. A head line may name the columns and their units, such as ``head ft, flow gph``; else L/h and
    m.

    Columns are set apart by commas, semicolons or tabs; with the latter two a decimal comma is read.
    """
    lines = [line for line in text.splitlines() if line.strip() and not line.lstrip().startswith("#")]
    if not lines:
        raise EntryError(f"{name} is empty.")
    mark = next((c for c in ("\t", ";") if c in lines[0]), ",")
    try:
        rows = [[cell.strip() for cell in row] for row in csv.reader(lines, delimiter=mark)]
    except csv.Error as error:
        raise EntryError(f"{name} is no table: {error}.") from None
    flow_at, head_at, flow_unit, head_unit = 0, 1, "L/h", "m"
    if _number(rows[0][0], mark) is None:
        flow_at, head_at, flow_unit, head_unit = _columns(rows.pop(0), name)
    points = []
    for i, row in enumerate(rows, 1):
        if len(row) <= max(flow_at, head_at):
            raise EntryError(f"{name}: line {i} of the points has no two numbers.")
        flow, head = _number(row[flow_at], mark), _number(row[head_at], mark)
        if flow is None or head is None:
            raise EntryError(f"{name}: line {i} of the points is not two numbers.")
        points.append((parse(f"{flow!r} {flow_unit}", "flow"), parse(f"{head!r} {head_unit}", "head")))
    if len(points) < 2:
        raise EntryError(f"{name} holds fewer than two points.")
    points.sort()
    if any(b[0] <= a[0] or b[1] >= a[1] for a, b in itertools.pairwise(points)):
        raise EntryError(f"{name}: a pump's head must fall as its flow rises, from point to point.")
    if points[0][0] < 0 or len(points) > 60:
        raise EntryError(f"{name} needs 2 to 60 points from no flow on.")
    return tuple(points)


def _number(text: str, mark: str) -> float | None:
    if mark != ",":
        text = text.replace(",", ".")
    try:
        value = float(text)
    except ValueError:
        return None
    return value if abs(value) < 1e9 else None


def _columns(head: list[str], name: str) -> tuple[int, int, str, str]:
    """Which column is which, and its unit, by the head line."""
    flow_at = head_at = -1
    flow_unit, head_unit = "L/h", "m"
    for i, words in enumerate(head):
        units = re.findall(r"[a-zA-Z³/0-9]+", words.lower())
        flow = next((_FLOWS[u] for u in units if u in _FLOWS), None)
        height = next((_HEADS[u] for u in reversed(units) if u in _HEADS), None)
        if flow_at < 0 and (flow or "flow" in units):
            flow_at, flow_unit = i, flow or flow_unit
        elif head_at < 0 and (height or "head" in units or "lift" in units):
            head_at, head_unit = i, height or head_unit
    if flow_at < 0 or head_at < 0:
        raise EntryError(f"{name}: the head line should name flow and head, such as “flow L/h, head m”.")
    return flow_at, head_at, flow_unit, head_unit
