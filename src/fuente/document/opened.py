"""Which files are open, in this window and in others, and whether somebody else has written one since.

One small file a window in the user's state folder, named by its process; what a process that is gone left is ignored.
"""

from __future__ import annotations

import contextlib
import hashlib
import os
import uuid
from pathlib import Path

from fuente.document.files import LARGEST
from fuente.document.journal import alive, state_folder
from fuente.document.ordinary import read_ordinary
from fuente.errors import DocumentError

Stamp = tuple[int, str]  # bytes, and a digest of what stands in the file


def stamp(path: Path) -> Stamp | None:
    """What tells whether a file is still the same; None where there is none that can be read."""
    try:
        held = read_ordinary(path, LARGEST, "")
    except DocumentError:
        return None
    return len(held), hashlib.sha256(held).hexdigest()


class Opened:
    """The mark that a window has a file open; another window sees it."""

    def __init__(self, folder: Path | None = None):
        self.folder = (folder or state_folder()) / "open"
        self._mark = self.folder / f"{os.getpid()}-{uuid.uuid4().hex[:8]}"

    def take(self, path: Path) -> None:
        """This file is open here, and no other; that it cannot be marked is no reason to stop work."""
        with contextlib.suppress(OSError):
            self.folder.mkdir(parents=True, exist_ok=True)
            self._mark.write_text(str(path.resolve()), "utf-8")

    def release(self) -> None:
        """Nothing is open here any more."""
        with contextlib.suppress(OSError):
            self._mark.unlink(missing_ok=True)

    def elsewhere(self, path: Path) -> bool:
        """Whether another window that is alive has it open."""
        wanted = str(path.resolve())
        for mark in self.folder.glob("*-*") if self.folder.is_dir() else ():
            if mark == self._mark:
                continue
            with contextlib.suppress(OSError, ValueError):
                if not alive(int(mark.name.split("-")[0])):
                    mark.unlink(missing_ok=True)
                elif mark.read_text("utf-8") == wanted:
                    return True
        return False
