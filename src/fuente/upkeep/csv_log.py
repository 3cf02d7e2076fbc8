"""The log as CSV, out and in: columns are found by their heads or said, rows that cannot be read are listed and the
rest is kept, and what is there already is not kept twice.
"""

from __future__ import annotations

import csv
import datetime
import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

from fuente.document.files import write_bytes
from fuente.document.ordinary import read_ordinary
from fuente.errors import DocumentError, EntryError, FuenteError
from fuente.units import UnitSystem
from fuente.upkeep.entry import Entry
from fuente.upkeep.measures import EVENTS, MEASURES
from fuente.upkeep.places import Places
from fuente.upkeep.typed_line import read_line
from fuente.workshop.cells import harmless

HEADS = ("when", "what", "place", "value", "text", "source", "place name")
_CALLED: Mapping[str, tuple[str, ...]] = {
    "when": ("when", "date", "time", "moment", "day", "datetime", "timestamp"),
    "what": ("what", "measure", "parameter", "kind", "type", "test"),
    "place": ("place", "tank", "where", "location"),
    "value": ("value", "reading", "result", "amount"),
    "text": ("text", "note", "notes", "remark", "comment", "comments"),
    "source": ("source",),
}
LARGEST = 20_000_000  # bytes
_ROWS = 200_000


@dataclass(frozen=True)
class ReadCsv:
    """What a CSV file holds: new entries, those that are there already, and rows that could not be read, in words."""

    entries: tuple[Entry, ...]
    known: tuple[Entry, ...]
    problems: tuple[str, ...]
    columns: Mapping[str, str] = field(default_factory=dict)


def write_csv(path: Path, entries: Sequence[Entry], places: Places) -> None:
    """All entries, SI values with all their digits; cells that a spreadsheet would take for a formula are harmless."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEADS)
    for e in entries:
        name = places.name(e.place) if e.place else ""
        row = (e.when.isoformat(timespec="seconds"), e.what, e.place, _digits(e.value), e.text, e.source, name)
        writer.writerow([row[0], harmless(row[1]), harmless(row[2]), row[3], *map(harmless, row[4:])])
    write_bytes(path, out.getvalue().encode("utf-8"))


def columns_of(heads: Sequence[str]) -> dict[str, str]:
    """Which column is which, by its head; a head that names a measure is a column of its values."""
    found: dict[str, str] = {}
    for head in heads:
        plain = head.strip().lower()
        for key, names in _CALLED.items():
            if plain in names and key not in found:
                found[key] = head
    return found


def rows_of(path: Path) -> tuple[list[str], list[dict[str, str]]]:
    """Heads and rows of a CSV file, whatever parts its cells. Raises DocumentError."""
    large = f"“{path.name[:80]}” is over {LARGEST // 1_000_000} MB; a log is not that long."
    text = read_ordinary(path, LARGEST, large).decode("utf-8-sig", errors="replace")
    try:
        parts = csv.Sniffer().sniff(text[:4000], delimiters=",;\t|").delimiter
    except csv.Error:
        parts = ","
    try:
        reader = csv.DictReader(io.StringIO(text), delimiter=parts)
        heads = [h for h in (reader.fieldnames or []) if h]
        rows: list[dict[str, str]] = []
        for row in reader:
            if len(rows) >= _ROWS:
                raise DocumentError(f"“{path.name}” has more than {_ROWS} rows.")
            rows.append({k: v for k, v in row.items() if k and isinstance(v, str)})
    except csv.Error as error:
        raise DocumentError(f"“{path.name}” is no table: {error}.") from None
    return heads, rows


def read_csv(
    path: Path,
    places: Places,
    units: UnitSystem = UnitSystem.METRIC,
    there: Sequence[Entry] = (),
    columns: Mapping[str, str] | None = None,
    tank: str = "",
) -> ReadCsv:
    """Read a file; ``columns`` says which of its columns is which where the heads do not. A row is one entry by what
    and value, or one of each column that is called like a measure. Raises DocumentError where there is no day.
    """
    heads, rows = rows_of(path)
    found = dict(columns or columns_of(heads))
    if "when" not in found:
        raise DocumentError(f"“{path.name}” has no column with a day: say which of its columns that is.")
    wide = [(h, m) for h in heads for m in MEASURES.values() if h not in found.values() and _is_called(h, m.called)]
    if "what" not in found and not wide and "text" not in found:
        raise DocumentError(f"“{path.name}” has no column with what was measured: say which that is.")
    own = set(HEADS) <= set(heads)  # written by Fuente: SI, and names as it keeps them
    known = {_key(e) for e in there}
    new: list[Entry] = []
    again: list[Entry] = []
    problems: list[str] = []
    zone = datetime.datetime.now().astimezone().tzinfo
    for number, row in enumerate(rows, 2):
        try:
            made = _row(row, found, wide, places, units, tank, zone, own)
        except (FuenteError, ValueError) as error:
            problems.append(f"Row {number}: {str(error)[:120]}")
            continue
        for entry in made:
            (again if _key(entry) in known else new).append(entry)
            known.add(_key(entry))
    return ReadCsv(tuple(new), tuple(again), tuple(problems), found)


def _row(
    row: Mapping[str, str],
    columns: Mapping[str, str],
    wide: Sequence[tuple[str, object]],
    places: Places,
    units: UnitSystem,
    tank: str,
    zone: datetime.tzinfo | None,
    own: bool,
) -> list[Entry]:
    when = _moment(row.get(columns["when"], ""), zone)
    text = _told(row.get(columns.get("text", ""), ""))
    source = _told(row.get(columns.get("source", ""), "")) or "csv"
    place = _place(_told(row.get(columns.get("place", ""), "")), places, tank)
    what = _told(row.get(columns.get("what", ""), ""))
    value = row.get(columns.get("value", ""), "").strip()
    found: list[Entry] = []
    if own and what in MEASURES and value and _plain_number(value) is not None:
        return [Entry(when, what, place, _plain_number(value), text, source)]
    if what in EVENTS:
        return [Entry(when, what, place, _plain_number(value), text, source)]
    if what:
        reads = read_line(f"{what} {value}".strip(), when, places, units, place)
        if len(reads) != 1 or reads[0].entry.what == "note":
            raise EntryError(f"“{what} {value}” is nothing that is known.")
        entry = reads[0].entry
        return [Entry(when, entry.what, place or entry.place, entry.value, text or entry.text, source)]
    for head, _ in wide:
        cell = row.get(head, "").strip()
        if not cell:
            continue
        reads = read_line(f"{head} {cell}", when, places, units, place)
        if len(reads) != 1 or reads[0].entry.what == "note":
            raise EntryError(f"“{head} {cell}” is nothing that is known.")
        entry = reads[0].entry
        found.append(Entry(when, entry.what, place or entry.place, entry.value, entry.text, source))
    if text and not found:
        found.append(Entry(when, "note", "", None, text, source))
    if not found:
        raise EntryError("there is nothing in it.")
    return found


def _key(entry: Entry) -> tuple[object, ...]:
    value = None if entry.value is None else float(f"{entry.value:.9g}")
    return (round(entry.moment), entry.what, entry.place, value, entry.text)


def _digits(value: float | None) -> str:
    return "" if value is None else repr(float(value))


def _told(cell: str) -> str:
    """A cell without what makes it harmless in a spreadsheet."""
    cell = cell.strip()
    return cell[1:] if cell[:1] == "'" and cell[1:2] in ("=", "+", "-", "@", "\t", "\r") else cell


def _plain_number(cell: str) -> float | None:
    try:
        made = float(cell)
    except ValueError:
        return None
    return made if made == made and abs(made) != float("inf") else None


def _place(cell: str, places: Places, tank: str) -> str:
    if not cell:
        return tank
    if places.by_id(cell) is not None:
        return cell
    named = places.named(cell)
    if len(named) != 1:
        raise EntryError(f"“{cell[:40]}” is no place of this design.")
    return named[0].id


def _moment(cell: str, zone: datetime.tzinfo | None) -> datetime.datetime:
    cell = cell.strip()
    for shape in ("", "%d.%m.%Y %H:%M", "%d.%m.%Y", "%d/%m/%Y %H:%M", "%d/%m/%Y", "%Y/%m/%d", "%d %b %Y", "%d %B %Y"):
        try:
            made = datetime.datetime.strptime(cell, shape) if shape else datetime.datetime.fromisoformat(cell)
        except ValueError:
            continue
        if made.tzinfo is None:
            made = made.replace(tzinfo=zone)
        if made.year < 1970 or made.year > 2200:
            break
        return made
    raise EntryError(f"“{cell[:40]}” is no day; write 2026-11-25 or 25.11.2026.")


def _is_called(head: str, names: Sequence[str]) -> bool:
    plain = head.strip().lower().split("(")[0].split("[")[0].strip()
    return plain in names
