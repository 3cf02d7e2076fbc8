"""``*.fuente`` files: JSON text with a version, read with suspicion and written atomically."""

from __future__ import annotations

import json
import os
import shutil
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from fuente.devices import KINDS
from fuente.devices.sentences import first_sentence
from fuente.document.ordinary import read_ordinary
from fuente.document.record import EMPTY, Record, read
from fuente.document.system import FORMAT_VERSION, System
from fuente.errors import DocumentError

SUFFIX = ".fuente"
LARGEST = 8 * 1024 * 1024  # bytes
DEEPEST = 40  # brackets within brackets

Migration = Callable[[dict[str, Any]], dict[str, Any]]


def _to_many_tanks(data: dict[str, Any]) -> dict[str, Any]:
    """Version 2 adds racks, manifolds, common drains and joins; all of version 1 stands as it is."""
    return {**data, "version": 2}


def _to_many_kinds(data: dict[str, Any]) -> dict[str, Any]:
    """Version 3 adds filters of all kinds, air, schools, own media and stock; all of version 2 stands as it is."""
    return {**data, "version": 3}


_COLLECTIONS = {
    "tanks": "tank",
    "overflows": "overflow",
    "standpipes": "standpipe",
    "hang_ons": "hang_on",
    "headers": "header",
    "devices": "sump",
    "joins": "join",
    "returns": "return_line",
    "manifolds": "manifold",
    "top_ups": "top_up",
    "filters": "",
    "airs": "air_supply",
}


def _to_one_contract(data: dict[str, Any]) -> dict[str, Any]:
    """Version 4 has one list of devices, each with its kind, where version 3 had a list for each kind of plumbing.

    What was measured moves into the record.
    """
    devices: list[Any] = []
    for key, kind in _COLLECTIONS.items():
        rows = data.get(key, [])
        if not isinstance(rows, list):
            raise DocumentError(f"{key.replace('_', ' ').capitalize()} should be a list.")
        devices += [{"kind": kind, **row} if isinstance(row, dict) and kind else row for row in rows]
    kept = {k: v for k, v in data.items() if k not in _COLLECTIONS and k != "measurements"}
    seen = data.get("measurements", [])
    if not isinstance(seen, list):
        raise DocumentError("Measurements should be a list.")
    entries = [
        {"kind": "measured", **{"what" if k == "trial" else k: v for k, v in row.items()}}
        if isinstance(row, dict)
        else row
        for row in seen
    ]
    return {**kept, "version": 4, "devices": devices, **({"record": entries} if entries else {})}


# version n → how a document of version n becomes one of version n + 1
MIGRATIONS: dict[int, Migration] = {1: _to_many_tanks, 2: _to_many_kinds, 3: _to_one_contract}


def data_of(system: System, record: Record = EMPTY) -> dict[str, Any]:
    """A design and its record as they stand in a file: the record after the design, where there is one."""
    rows = [e.model_dump(mode="json") for e in record.entries]
    return {**system.model_dump(mode="json"), **({"record": rows} if rows else {})}


def text_of(system: System, record: Record = EMPTY) -> str:
    """The document as JSON text: keys in the order of the model, two runs give the same text."""
    return json.dumps(data_of(system, record), indent=1, ensure_ascii=False, allow_nan=False) + "\n"


def load(path: Path | str) -> System:
    """Read a file's design; see load_all."""
    return load_all(path)[0]


def load_all(path: Path | str) -> tuple[System, Record]:
    """Read a file: design and record. Raises DocumentError with a sentence that says what is wrong and where."""
    path = Path(path)
    large = (
        f"“{path.name[:80]}” has over {LARGEST / 1e6:.0f} MB; a design has a few kilobytes, so this is something else."
    )
    return parse_all(read_ordinary(path, LARGEST, large), path.name[:80])


def parse(raw: bytes, name: str = "file", migrations: dict[int, Migration] | None = None) -> System:
    """Read a design from bytes; see load_all."""
    return parse_all(raw, name, migrations)[0]


def parse_all(raw: bytes, name: str = "file", migrations: dict[int, Migration] | None = None) -> tuple[System, Record]:
    """Read design and record from bytes; see load_all."""
    if not raw.strip():
        raise DocumentError(f"“{name}” is empty.")
    try:
        text = raw.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise DocumentError(f"“{name}” is not text: byte {error.start + 1} does not belong in UTF-8.") from None
    _check_depth(text, name)
    try:
        data = json.loads(text, parse_constant=_no_constant, object_pairs_hook=_no_doubles)
    except json.JSONDecodeError as error:
        raise DocumentError(f"“{name}” is damaged at line {error.lineno}, column {error.colno}: {error.msg}.") from None
    except (ValueError, RecursionError) as error:
        raise DocumentError(f"“{name}” is damaged: {error}.") from None
    try:
        json.dumps(data, ensure_ascii=False).encode()
    except UnicodeEncodeError:
        raise DocumentError(f"“{name}” is damaged: it holds half of a character, which no text can.") from None
    if not isinstance(data, dict) or data.get("format") != "fuente":
        raise DocumentError(f"“{name}” is not a Fuente design: it does not say “format”: “fuente”.")
    version = data.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise DocumentError(f"“{name}” does not say which version of the format it has.")
    if version > FORMAT_VERSION:
        raise DocumentError(
            f"“{name}” was made by a newer Fuente (format {version}, this one reads up to {FORMAT_VERSION}); update"
            " first."
        )
    data = migrate(data, version, MIGRATIONS if migrations is None else migrations, name)
    rows = data.pop("record", [])
    try:
        return System.model_validate(data), read(rows)
    except ValidationError as error:
        raise DocumentError(f"“{name}” does not hold together. {_capital(first_sentence(error, System))}") from None


def migrate(
    data: dict[str, Any], version: int, chain: dict[int, Migration], name: str, to: int = FORMAT_VERSION
) -> dict[str, Any]:
    """Bring a document step by step from a version to another."""
    while version < to:
        if version not in chain:
            raise DocumentError(f"“{name}” has format {version}, which this Fuente no longer reads.")
        data = {**chain[version](data), "version": version + 1}
        version += 1
    return data


def _check_depth(text: str, name: str) -> None:
    depth = 0
    inside = escaped = False
    for place, char in enumerate(text):
        if inside:
            if escaped:
                escaped = False
            elif char == "\\":
                escaped = True
            elif char == '"':
                inside = False
        elif char == '"':
            inside = True
        elif char in "[{":
            depth += 1
            if depth > DEEPEST:
                line = text.count("\n", 0, place) + 1
                raise DocumentError(f"“{name}” is nested more than {DEEPEST} deep at line {line}; no design is.")
        elif char in "]}":
            depth -= 1


def _no_constant(text: str) -> float:
    raise ValueError(f"{text} is not a number that a design can have")


def _no_doubles(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    made = dict(pairs)
    if len(made) != len(pairs):
        seen: set[str] = set()
        for key, _ in pairs:
            if key in seen:
                raise ValueError(f"the key “{key[:40]}” stands twice in one place")
            seen.add(key)
    return made


def _capital(text: str) -> str:
    return text[:1].upper() + text[1:]


def backup_of(path: Path) -> Path:
    """Where the last version is kept: at the name with a ``~``, or with a number where that is somebody else's file or
    a link to one.
    """
    first = path.with_name(path.name + "~")
    for number in range(100):
        where = path.with_name(f"{path.name}~{number}") if number else first
        if not where.is_symlink() and (not where.exists() or _is_design(where)):
            return where
    return first.with_name(f"{path.name}~{os.getpid()}")


def _is_design(path: Path) -> bool:
    if not path.is_file():
        return False
    with path.open("rb") as file:
        head = file.read(4096)
    return not head or b'"fuente"' in head


def save(system: System, path: Path | str, record: Record = EMPTY, *, backup: bool = True) -> None:
    """Write a file whole or not at all, keeping one backup. Never over something that is not a Fuente design."""
    path = Path(path)
    if path.exists():
        try:
            ours = _is_design(path)
        except OSError as error:
            raise DocumentError(f"“{path.name}” cannot be written: {error.strerror or error}.") from None
        if not ours:
            raise DocumentError(f"“{path.name}” is not a Fuente design and is not written over; choose another name.")
    try:
        write_text(path, text_of(system, record), backup=backup)
    except OSError as error:
        raise DocumentError(f"“{path.name}” could not be saved: {error.strerror or error}.") from None


def write_text(path: Path, text: str, *, backup: bool = False) -> None:
    """Temporary file beside it, fsync, rename. Raises OSError."""
    write_bytes(path, text.encode("utf-8"), backup=backup)


def write_bytes(path: Path, data: bytes, *, backup: bool = False) -> None:
    """The same of bytes. A link is followed to its target, which is what others read."""
    path = Path(os.path.realpath(path))
    if backup and path.exists() and path.stat().st_size:
        _back_up(path)
    handle, temporary = tempfile.mkstemp(prefix=f".{path.name}.", dir=path.parent)
    try:
        with os.fdopen(handle, "wb") as out:
            out.write(data)
            out.flush()
            os.fsync(out.fileno())
        if path.exists():
            shutil.copymode(path, temporary)
        else:
            os.chmod(temporary, 0o644)
        os.replace(temporary, path)
    except BaseException:
        Path(temporary).unlink(missing_ok=True)
        raise
    folder = os.open(path.parent, os.O_RDONLY)
    try:
        os.fsync(folder)
    finally:
        os.close(folder)


def _back_up(path: Path) -> None:
    """The last version under the backup's name, whole or not at all."""
    where = backup_of(path)
    handle, temporary = tempfile.mkstemp(prefix=f".{path.name}.", dir=path.parent)
    os.close(handle)
    try:
        shutil.copy2(path, temporary)
        os.replace(temporary, where)
    except BaseException:
        Path(temporary).unlink(missing_ok=True)
        raise


def schema() -> dict[str, Any]:
    """The JSON Schema of the format, as published in docs/."""
    made = System.model_json_schema()
    entries = Record.model_json_schema()
    made["properties"]["record"] = entries["properties"]["entries"]
    defs = {**made["$defs"], **entries["$defs"]}
    kinds = []
    for kind in KINDS.values():
        own = kind.spec.model_json_schema()
        defs |= own.pop("$defs", {})
        own["required"] = ["kind", *own.get("required", [])]
        defs[kind.spec.__name__] = own
        kinds.append({"$ref": f"#/$defs/{kind.spec.__name__}"})
    made["properties"]["devices"]["items"] = {"anyOf": kinds}
    made["$defs"] = defs
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **made,
        "title": f"Fuente design, format {FORMAT_VERSION}",
    }
