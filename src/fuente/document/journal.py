"""Edits are written down as they happen, so that a crash costs nothing.

One file a window in the user's state folder, a line an edit: time, name of the edit, file, and the document. It is
removed on a clean close; what is found with no living process is offered at the next start.
"""

from __future__ import annotations

import contextlib
import json
import os
import time
import uuid
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from fuente.document.files import data_of, parse_all
from fuente.document.record import EMPTY, Record
from fuente.document.system import System
from fuente.errors import DocumentError

_KEEP = 40  # lines after which a journal is started anew with its last one


def state_folder() -> Path:
    """Where journals and the window's place are kept; FUENTE_STATE overrides it."""
    own = os.environ.get("FUENTE_STATE")
    if own:
        return Path(own)
    from platformdirs import user_state_path

    return user_state_path("fuente")


@dataclass(frozen=True)
class Recovered:
    """Unsaved work of a window that ended without closing."""

    journal: Path
    system: System
    edit: str
    file: Path | None
    when: float
    record: Record = EMPTY


class Journal:
    """The journal of one open document."""

    def __init__(self, folder: Path | None = None):
        self.folder = (folder or state_folder()) / "journal"
        self.path = self.folder / f"{os.getpid()}-{uuid.uuid4().hex[:8]}.jsonl"
        self._lines = 0
        self.error = ""  # why the last edit is not written down

    def write(self, edit: str, system: System, file: Path | None, record: Record = EMPTY) -> None:
        """Add the document after an edit; a full disk is no reason to stop work, and stands in ``error``."""
        line = json.dumps(
            {
                "when": time.time(),
                "edit": edit,
                "file": str(file) if file else None,
                "system": data_of(system, record),
            },
            ensure_ascii=False,
        )
        try:
            self._add(line)
        except OSError as error:
            self.error = f"Your edits are not kept against a crash: {error.strerror or error}."
        else:
            self.error = ""

    def _add(self, line: str) -> None:
        self.folder.mkdir(parents=True, exist_ok=True)
        if self._lines >= _KEEP:
            fresh = self.path.with_suffix(".new")
            with fresh.open("w", encoding="utf-8") as out:
                _put(out, line)
            os.replace(fresh, self.path)
            self._lines = 1
            return
        with self.path.open("a", encoding="utf-8") as out:
            _put(out, f"\n{line}" if self.error else line)  # after half a line, which a full disk left
        self._lines += 1

    def clear(self) -> None:
        """Nothing is unsaved any more."""
        self.path.unlink(missing_ok=True)
        self._lines = 0


def _put(out: Any, line: str) -> None:
    out.write(line + "\n")
    out.flush()
    os.fsync(out.fileno())


def alive(pid: int) -> bool:
    """Whether a process is there."""
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        return True
    return True


def _began_after(pid: int, moment: float) -> bool:
    """Whether a process began after a moment, s since 1970: then it has only its number from the one that is meant."""
    try:
        ticks = int(Path(f"/proc/{pid}/stat").read_text("utf-8").rpartition(")")[2].split()[19])
        (booted,) = (row for row in Path("/proc/stat").read_text("utf-8").splitlines() if row.startswith("btime "))
    except (OSError, ValueError, IndexError):
        return False
    return int(booted.split()[1]) + ticks / os.sysconf("SC_CLK_TCK") > moment + 2.0


def orphans(folder: Path | None = None) -> list[Recovered]:
    """Unsaved work of dead windows, the newest first. A torn last line gives the one before it; a journal of which no
    line can be read is put aside, not thrown away.
    """
    base = (folder or state_folder()) / "journal"
    found: list[Recovered] = []
    for path in sorted(base.glob("*.jsonl")) if base.is_dir() else []:
        with contextlib.suppress(ValueError):
            pid = int(path.name.split("-")[0])
            if pid == os.getpid() or (alive(pid) and not _began_after(pid, path.stat().st_mtime)):
                continue
        last = _last_good(path)
        if last is None:
            if path.stat().st_size:
                path.replace(path.with_suffix(".unread"))
            else:
                path.unlink(missing_ok=True)
        else:
            found.append(last)
    return sorted(found, key=lambda r: -r.when)


def _last_good(path: Path) -> Recovered | None:
    try:
        lines = path.read_text("utf-8", errors="replace").split("\n")  # names may hold other ends of lines
    except OSError:
        return None
    for line in reversed(lines):
        try:
            entry = json.loads(line)
            system, record = parse_all(json.dumps(entry["system"]).encode(), path.name)
            file = Path(entry["file"]) if entry["file"] else None
            return Recovered(path, system, str(entry["edit"]), file, float(entry["when"]), record)
        except (ValueError, KeyError, TypeError, DocumentError):
            continue
    return None


def discard(recovered: Recovered) -> None:
    """Forget unsaved work, and the log that lies with it."""
    recovered.journal.unlink(missing_ok=True)
    for left in (recovered.journal.parent.parent / "logs").glob(f"{recovered.journal.stem}.*"):
        left.unlink(missing_ok=True)
