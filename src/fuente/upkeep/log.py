"""The log: an append-only table in a SQLite file of its own beside the design.

SQLite rather than a text journal: it is kept well by others, survives being killed in the middle of a write, lets two
windows write into one file, and finds ten thousand entries at once. Nothing is changed or deleted in it: the file
itself refuses that, and a correction is a later entry.
"""

from __future__ import annotations

import contextlib
import datetime
import math
import os
import sqlite3
import tempfile
from collections.abc import Iterable, Iterator
from pathlib import Path

from fuente.errors import DocumentError, EntryError
from fuente.one_line import one_line
from fuente.upkeep.entry import LONGEST, Entry

SUFFIX = "-log"  # behind the design's name: pond.fuente-log
APPLICATION = 0x46554C47  # "FULG", by which the file is known
VERSION = 1
BACKED_UP = 20 * 3600.0  # s after which a backup is old
_WAITS = 5.0  # s for another window that writes
_MAKE = """
CREATE TABLE entries (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  moment TEXT NOT NULL,
  what TEXT NOT NULL,
  place TEXT NOT NULL DEFAULT '',
  value REAL,
  text TEXT NOT NULL DEFAULT '',
  source TEXT NOT NULL DEFAULT 'hand',
  corrects INTEGER NOT NULL DEFAULT 0,
  void INTEGER NOT NULL DEFAULT 0
);
CREATE TRIGGER never_changed BEFORE UPDATE ON entries BEGIN SELECT RAISE(ABORT, 'the log is only added to'); END;
CREATE TRIGGER never_deleted BEFORE DELETE ON entries BEGIN SELECT RAISE(ABORT, 'the log is only added to'); END;
"""


def log_path(design: Path) -> Path:
    """Where a design's log lies."""
    return design.with_name(design.name + SUFFIX)


class Log:
    """All entries of one design. Raises DocumentError where the file cannot be read at all; what cannot be written is
    raised by ``add``, and nothing of it is kept.
    """

    def __init__(self, path: Path):
        """Open it, or make it where there is none. A damaged one is put aside and its backup taken; ``said`` tells."""
        self.path = path
        self.said = ""
        self.writable = True
        self._rows: list[Entry] = []
        self._last = 0
        self._current: list[Entry] | None = None
        self._db = self._opened()
        self.refresh()

    # -- opening ------------------------------------------------------------------------------------------------------

    def _opened(self) -> sqlite3.Connection:
        fresh = not self.path.exists()
        try:
            if fresh:
                self.path.parent.mkdir(parents=True, exist_ok=True)
            return self._checked(self._connected())
        except (sqlite3.Error, OSError) as error:
            if fresh:
                raise DocumentError(f"The log “{self.path.name}” cannot be made: {error}.") from None
            return self._otherwise(error)

    def _connected(self) -> sqlite3.Connection:
        db = sqlite3.connect(self.path, timeout=_WAITS, isolation_level=None, check_same_thread=False)
        db.execute("PRAGMA journal_mode = WAL")
        db.execute("PRAGMA synchronous = FULL")  # what is acknowledged is on the disk
        return db

    def _checked(self, db: sqlite3.Connection) -> sqlite3.Connection:
        """The same where it is a log and holds together; a new one is given its table."""
        try:
            db.execute("BEGIN IMMEDIATE")
            known = db.execute("PRAGMA application_id").fetchone()[0]
            if known == 0 and not db.execute("SELECT count(*) FROM sqlite_master").fetchone()[0]:
                db.execute(f"PRAGMA application_id = {APPLICATION}")
                db.execute(f"PRAGMA user_version = {VERSION}")
                for statement in _MAKE.split(";\n"):
                    if statement.strip():
                        db.execute(statement)
            elif known != APPLICATION:
                raise sqlite3.DatabaseError("it is no log of Fuente's")
            elif db.execute("PRAGMA user_version").fetchone()[0] > VERSION:
                raise sqlite3.DatabaseError("a later Fuente wrote it")
            elif db.execute("PRAGMA quick_check").fetchone()[0] != "ok":
                raise sqlite3.DatabaseError("it is damaged")
            db.execute("COMMIT")
        except BaseException:
            with contextlib.suppress(sqlite3.Error):
                db.execute("ROLLBACK")
            db.close()
            raise
        return db

    def _otherwise(self, error: Exception) -> sqlite3.Connection:
        """What is left: to read it only, or to take the backup of a damaged one."""
        with contextlib.suppress(sqlite3.Error):
            db = sqlite3.connect(f"file:{_quoted(self.path)}?mode=ro", uri=True, check_same_thread=False)
            try:
                if db.execute("PRAGMA quick_check").fetchone()[0] == "ok" and _is_log(db):
                    self.writable = False
                    self.said = f"The log can be read and not written: {error}."
                    return db
            except sqlite3.Error:
                db.close()
                raise
            db.close()
        if not _looks_damaged(error):
            with contextlib.suppress(sqlite3.Error):  # a folder that cannot be written holds no log beside it
                db = sqlite3.connect(f"file:{_quoted(self.path)}?mode=ro&immutable=1", uri=True)
                if _is_log(db):
                    self.writable = False
                    self.said = f"The log can be read and not written: {error}."
                    return db
                db.close()
        return self._restored(error)

    def _restored(self, error: Exception) -> sqlite3.Connection:
        aside = _free(self.path.with_name(self.path.name + ".damaged"))
        try:
            for tail in ("", "-wal", "-shm"):
                each = self.path.with_name(self.path.name + tail)
                if each.exists():
                    os.replace(each, aside.with_name(aside.name + tail))
            backup = backup_path(self.path)
            if backup.exists():
                _copied(backup, self.path)
            db = self._checked(self._connected())
        except (sqlite3.Error, OSError) as again:
            raise DocumentError(f"The log “{self.path.name}” cannot be read: {again}.") from None
        took = "its backup was taken" if backup_path(self.path).exists() else "a new one was begun"
        self.said = f"The log could not be read ({error}); it lies in “{aside.name}”, and {took}."
        return db

    def close(self) -> None:
        """Let the file go."""
        self._db.close()

    # -- reading ------------------------------------------------------------------------------------------------------

    def refresh(self) -> bool:
        """Read what this or another window has added; whether there was anything."""
        try:
            rows = self._db.execute(
                "SELECT id, moment, what, place, value, text, source, corrects, void FROM entries WHERE id > ?"
                " ORDER BY id",
                (self._last,),
            ).fetchall()
        except sqlite3.Error as error:
            raise DocumentError(f"The log “{self.path.name}” cannot be read: {error}.") from None
        for row in rows:
            self._rows.append(_entry(row))
        if rows:
            self._last, self._current = rows[-1][0], None
        return bool(rows)

    @property
    def written(self) -> tuple[Entry, ...]:
        """Every entry in the order of writing, corrected ones and corrections among them."""
        return tuple(self._rows)

    @property
    def entries(self) -> list[Entry]:
        """What holds, by its moment: of a corrected entry what stands for it, under its own number."""
        if self._current is None:
            held: dict[int, Entry] = {}
            stands: dict[int, int] = {}  # a correction's number → the first entry's
            for row in self._rows:
                first = stands.get(row.corrects, row.corrects)
                if not row.corrects:
                    held[row.id] = row
                elif first in held or first in stands.values():
                    stands[row.id] = first
                    held.pop(first, None)
                    if not row.void:
                        held[first] = Entry(
                            row.when, row.what, row.place, row.value, row.text, row.source, row.corrects, False, first
                        )
            self._current = sorted(held.values(), key=lambda e: (e.moment, e.id))
        return self._current

    def of(self, what: str, place: str | None = None) -> list[Entry]:
        """What holds of one thing, at one place where one is given, by its moment."""
        return [e for e in self.entries if e.what == what and (place is None or e.place == place)]

    def __len__(self) -> int:
        """How many hold."""
        return len(self.entries)

    # -- writing ------------------------------------------------------------------------------------------------------

    def add(self, *entries: Entry) -> list[Entry]:
        """Keep entries, all or none of them; once it returns they are on the disk. Raises DocumentError where they
        cannot be written, and EntryError for what is no entry.
        """
        rows = [_row(e) for e in entries]
        if not self.writable:
            raise DocumentError(self.said or "The log cannot be written.")
        try:
            self._db.execute("BEGIN IMMEDIATE")
            ids = [
                self._db.execute(
                    "INSERT INTO entries (moment, what, place, value, text, source, corrects, void)"
                    " VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
                    row,
                ).lastrowid
                for row in rows
            ]
            self._db.execute("COMMIT")
        except sqlite3.Error as error:
            with contextlib.suppress(sqlite3.Error):
                self._db.execute("ROLLBACK")
            raise DocumentError(f"The log could not be written ({error}). Nothing of this was kept.") from None
        self.refresh()
        kept = set(ids)
        return [e for e in self._rows[-len(rows) - 200 :] if e.id in kept]

    def take_back(self, entry: Entry, when: datetime.datetime) -> None:
        """Withdraw an entry: it stays readable and holds no more."""
        self.add(Entry(when, entry.what, entry.place, None, "", "hand", entry.id, True))

    # -- copies -------------------------------------------------------------------------------------------------------

    def back_up(self, age: float = BACKED_UP) -> bool:
        """Copy it to its backup where that is older than so many s; whether it was."""
        backup = backup_path(self.path)
        try:
            if not self._rows or (backup.exists() and _now() - backup.stat().st_mtime < age):
                return False
            self.copy_to(backup)
        except OSError:
            return False
        return True

    def copy_to(self, path: Path) -> None:
        """A whole copy of it as it is, put in place at once."""
        handle, name = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.", suffix=".new")
        os.close(handle)
        try:
            target = sqlite3.connect(name)
            try:
                self._db.backup(target)
            finally:
                target.close()
            os.replace(name, path)
        except (sqlite3.Error, OSError) as error:
            Path(name).unlink(missing_ok=True)
            raise OSError(f"The log could not be copied: {error}") from None


def backup_path(path: Path) -> Path:
    """Where a log's backup lies."""
    return path.with_name(path.name + "~")


def _row(entry: Entry) -> tuple[str, str, str, float | None, str, str, int, int]:
    if entry.value is not None and not math.isfinite(entry.value):
        raise EntryError("A value of the log is a number.")
    text, place = one_line(entry.text)[:LONGEST], one_line(entry.place)[:200]
    what, source = one_line(entry.what)[:60], one_line(entry.source)[:200]
    if not what:
        raise EntryError("An entry of the log is about something.")
    when = entry.when.isoformat(timespec="seconds")
    return when, what, place, entry.value, text, source, entry.corrects, int(entry.void)


def _entry(row: tuple[int, str, str, str, float | None, str, str, int, int]) -> Entry:
    number, moment, what, place, value, text, source, corrects, void = row
    when = datetime.datetime.fromisoformat(moment)
    return Entry(when, what, place, value, text, source, corrects, bool(void), number)


def _is_log(db: sqlite3.Connection) -> bool:
    return bool(db.execute("PRAGMA application_id").fetchone()[0] == APPLICATION)


def _looks_damaged(error: Exception) -> bool:
    return isinstance(error, sqlite3.DatabaseError) and not isinstance(error, sqlite3.OperationalError)


def _copied(source: Path, target: Path) -> None:
    one, other = sqlite3.connect(source), sqlite3.connect(target)
    try:
        one.backup(other)
    finally:
        one.close()
        other.close()


def _quoted(path: Path) -> str:
    from urllib.parse import quote

    return quote(str(path.absolute()))


def _free(path: Path) -> Path:
    return next(p for p in _numbered(path) if not p.exists())


def _numbered(path: Path) -> Iterator[Path]:
    yield path
    for n in range(2, 10_000):
        yield path.with_name(f"{path.name}.{n}")


def _now() -> float:
    return datetime.datetime.now().timestamp()


def last_of(entries: Iterable[Entry]) -> Entry | None:
    """The latest of some entries."""
    return max(entries, key=lambda e: (e.moment, e.id), default=None)
