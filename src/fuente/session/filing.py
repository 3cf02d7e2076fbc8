"""Where a document is kept: its file, who else has it open, and the journal that a crash leaves behind."""

from __future__ import annotations

from pathlib import Path as FilePath

from fuente.document import files
from fuente.document.journal import Journal
from fuente.document.opened import Opened, Stamp, stamp
from fuente.document.record import Record
from fuente.document.system import System
from fuente.errors import ChangedElsewhere, FuenteError


class Filing:
    """The file of one open document, where it has one."""

    def __init__(self, path: FilePath | None, system: System, record: Record):
        """What is open as it was read, with the file that it came from."""
        self.path = path
        self.journal = Journal()
        self.error = ""  # why the last save failed
        self.by_itself = True  # whether the file is written as the builder goes on
        self._saved: tuple[System, Record] | None = (system, record) if path else None
        self._backed_up = False
        self._opened = Opened()
        self._stamp: Stamp | None = None  # of the file as it was read or written last
        if path is not None:
            self._opened.take(path)
            self._stamp = stamp(path)

    def lags(self, system: System, record: Record) -> bool:
        """Whether the file is behind what is open."""
        return (system, record) != self._saved

    @property
    def elsewhere(self) -> bool:
        """Whether another window has the same file open."""
        return self.path is not None and self._opened.elsewhere(self.path)

    def save(self, system: System, record: Record, path: FilePath | None = None, over: bool = False) -> None:
        """Write the file; raises DocumentError, and ChangedElsewhere where it would go ``over`` what others wrote."""
        target = path or self.path
        assert target is not None
        if not over:
            self._unchanged(target)
        files.save(system, target, record)
        self.path = target
        self._opened.take(target)
        self._was_saved(system, record)

    def autosave(self, system: System, record: Record) -> bool:
        """Write the file where there is one and it lags behind; whether that was so. What fails stands in ``error``."""
        if not self.by_itself or not self.path or not self.lags(system, record):
            return False
        try:
            self._unchanged(self.path)
            files.save(system, self.path, record, backup=not self._backed_up)
        except FuenteError as error:
            self.error = str(error)
            return True
        self._was_saved(system, record)
        return True

    def note(self, name: str, system: System, record: Record) -> None:
        """Write an edit down in the journal."""
        self.journal.write(name, system, self.path, record)

    def abandon(self, system: System, record: Record) -> None:
        """What is open is given up: nothing of it is written any more."""
        self._saved = (system, record)
        self.journal.clear()

    def unsaved(self) -> None:
        """What is open is in no file, whatever it came from."""
        self._saved = None

    def close(self, system: System, record: Record) -> None:
        """A clean end: the journal is forgotten but where the file could not be written."""
        if not self.path or not self.lags(system, record):
            self.journal.clear()
        self._opened.release()

    def _unchanged(self, target: FilePath) -> None:
        """Raise ChangedElsewhere where the file is not what this window knows of it."""
        if self._stamp is None or target != self.path or (now := stamp(target)) == self._stamp:
            return
        became = "is gone" if now is None else "was changed by another window or program"
        raise ChangedElsewhere(
            f"“{target.name}” {became} since it was read here. Nothing is written over it until you save and choose."
        )

    def _was_saved(self, system: System, record: Record) -> None:
        assert self.path is not None
        self._backed_up = True
        self._stamp = stamp(self.path)
        self._saved = (system, record)
        self.error = ""
        self.journal.clear()
