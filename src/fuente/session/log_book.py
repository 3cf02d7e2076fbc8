"""The log of the open design: beside its file, or in the state folder while it has none; a demo brings a year."""

from __future__ import annotations

import contextlib
import datetime
import os
from dataclasses import replace
from pathlib import Path

from fuente.demo import DEMOS, TEXTS
from fuente.document.journal import state_folder
from fuente.document.record import Tested
from fuente.document.system import System
from fuente.errors import FuenteError
from fuente.study.analysis import Analysis
from fuente.upkeep.entry import Entry, now
from fuente.upkeep.log import Log, log_path

_TESTS = ("ammonia", "nitrite", "nitrate")


class LogBook:
    """Opens the log that belongs to a design, and follows it when the design is saved elsewhere."""

    def __init__(self, path: Path | None, system: System, name: str = ""):
        """``system`` is what is open, from a file or from none; ``name`` is what its log is called in the state folder
        while it has none, as its journal is, so that a crash leaves both.
        """
        self._name = name or f"unsaved-{os.getpid()}-{id(self):x}"
        self.log: Log | None = None
        self.error = ""
        self.year_wanted = False  # whether it is a demo's, and its year is still to be made
        self._loose: Path | None = None
        self.follow(path, system)

    def follow(self, path: Path | None, system: System) -> None:
        """The design lies in another file now: what was written goes with it."""
        target = log_path(path) if path is not None else None
        if self.log is not None and target is not None and self.log.path != target:
            with contextlib.suppress(OSError):
                if not target.exists() and len(self.log):
                    self.log.copy_to(target)
        elif self.log is not None and (target is None or self.log.path == target):
            return
        self.close()
        if target is None:
            folder = state_folder() / "logs"
            self._loose = target = folder / f"{self._name}.fuente-log"
            with contextlib.suppress(OSError):
                folder.mkdir(parents=True, exist_ok=True)
        try:
            self.log = Log(target)
            self.error = self.log.said
        except FuenteError as error:
            self.log, self.error = None, str(error)
            return
        self.year_wanted = path is None and not len(self.log) and _is_demo(system)
        self.log.back_up()

    def adopt(self, name: str) -> None:
        """Take what a crashed window wrote into the log of a design without a file; that log is forgotten then."""
        left = state_folder() / "logs" / f"{name}.fuente-log"
        if self.log is None or not left.exists() or left == self.log.path:
            return
        self.year_wanted = False
        with contextlib.suppress(FuenteError):
            other = Log(left)
            self.log.add(*(replace(e, id=0, corrects=0) for e in other.entries))
            other.close()

    def take_year(self, entries: list[Entry]) -> None:
        """A demo's made-up year, once it is worked out."""
        if self.year_wanted and self.log is not None and not len(self.log):
            with contextlib.suppress(FuenteError):
                self.log.add(*entries)
        self.year_wanted = False

    @property
    def entries(self) -> list[Entry]:
        """All that holds, by its moment."""
        return self.log.entries if self.log is not None else []

    def refresh(self) -> bool:
        """Whether another window has written something."""
        try:
            return self.log.refresh() if self.log is not None else False
        except FuenteError as error:
            self.error = str(error)
            return False

    def close(self) -> None:
        """Let it go; what belongs to no file is forgotten, as the design is."""
        if self.log is not None:
            self.log.close()
            self.log = None
        if self._loose is not None:
            for tail in ("", "-wal", "-shm", "~"):
                self._loose.with_name(self._loose.name + tail).unlink(missing_ok=True)
            self._loose = None


def made_year(study: Analysis) -> list[Entry]:
    """A made-up year up to now, for a demo."""
    from fuente.demo.year import year_of

    return year_of(study, now())[0]


def tests_of(entries: list[Entry], tank: str, written: tuple[Tested, ...]) -> tuple[Tested, ...]:
    """Tests of a tank's water out of the log, by day, with those ``written`` in the record; of one day the log's."""
    found: dict[str, dict[str, float]] = {}
    for entry in entries:
        if entry.place == tank and entry.what in _TESTS and entry.value is not None:
            found.setdefault(entry.day.isoformat(), {})[entry.what] = min(entry.value, 1.0)
    by_day = {t.date: t for t in written}
    for day, values in found.items():
        by_day[day] = Tested(date=day, tank=tank, **values)
    return tuple(by_day[day] for day in sorted(by_day))


def _is_demo(system: System) -> bool:
    """Whether it is a demo as it comes, in whatever units and money; only what bears a demo's name is compared."""
    for key, (title, _) in TEXTS.items():
        if system.name == title or system.name == key:
            with contextlib.suppress(Exception):
                demo = DEMOS[key]()
                shop = demo.shop.model_copy(update={"currency": system.shop.currency})
                if demo.model_copy(update={"units": system.units, "shop": shop}) == system:
                    return True
    return False


def today() -> datetime.datetime:
    """This moment."""
    return now()
