"""The open document as Qt's widgets hear of it: a session, with its signals, timers and work aside."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path as FilePath
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QElapsedTimer, QObject, QTimer, Signal

from fuente.devices.base import Finding, Station
from fuente.document.history import History
from fuente.document.journal import Journal
from fuente.document.record import EMPTY, Record
from fuente.document.system import System
from fuente.session import Session, Solved, checked_aside, fix_aside, prepare, remedies_aside, solved_aside
from fuente.study.analysis import Analysis
from fuente.study.situation import Situation
from fuente.ui.jobs import Job
from fuente.units import UnitSystem

if TYPE_CHECKING:
    from fuente.session.log_book import LogBook
    from fuente.ui.instruments_link import InstrumentsLink


AUTOSAVE = 1500  # ms after the last edit
FRAME = 25  # ms: what is judged after a frame waits for the next one to be painted
LONGEST_DRAG = 150  # ms for which frames that follow each other put it off
TRY_AFTER = 400  # ms without an edit, after which remedies are tried aside
PAUSE = 120  # ms without an edit, after which what takes long is solved aside
CLOCK: Callable[[], float] | None = time.perf_counter  # finds what takes long


class _Signals:
    """What a session says, as Qt's signals and timers."""

    def __init__(self, workspace: Workspace):
        self._to = workspace

    def changed(self) -> None:
        self._to.changed.emit()

    def selection_changed(self) -> None:
        self._to.selection_changed.emit()

    def situation_changed(self) -> None:
        self._to.situation_changed.emit()

    def refused(self, sentence: str) -> None:
        self._to.refused.emit(sentence)

    def saved(self) -> None:
        self._to.saved.emit()

    def save_soon(self) -> None:
        self._to.save_timer.start()

    def check_soon(self) -> None:
        self._to.check_timer.start()

    def judge_soon(self) -> None:
        if not self._to.judge_timer.isActive():
            self._to.unjudged.start()
        if self._to.unjudged.elapsed() < LONGEST_DRAG:  # a drag puts it off, and not for ever
            self._to.judge_timer.start()

    def try_soon(self) -> None:
        self._to.try_timer.start()

    def fix_soon(self, finding: Finding) -> None:
        self._to.fix_aside(finding)

    def stop_check(self) -> None:
        self._to.stop_job()

    def solve_soon(self) -> None:
        self._to.solve_aside()


class Workspace(QObject):
    """One document with everything that follows from it. All that is decided is decided by its session."""

    changed = Signal()  # document or analysis
    selection_changed = Signal()
    situation_changed = Signal()
    refused = Signal(str)  # an edit that cannot be
    saved = Signal()
    working = Signal()  # the water after an edit is worked out aside
    live = Signal()  # what a controller says

    def __init__(
        self,
        system: System,
        path: FilePath | None = None,
        parent: QObject | None = None,
        later: bool = False,
        record: Record = EMPTY,
        solved: Solved | None = None,
    ):
        super().__init__(parent)
        self._job: Job | None = None
        self._solving: Job | None = None
        self.page = ""  # the one that is looked at
        self._gave_way = False
        self.session: Session
        self._link: InstrumentsLink | None = None
        self._book: LogBook | None = None
        self.check_timer = QTimer(self, singleShot=True, interval=PAUSE)
        self.check_timer.timeout.connect(self._check)
        self.try_timer = QTimer(self, singleShot=True, interval=TRY_AFTER)
        self.try_timer.timeout.connect(self._try)
        self.judge_timer = QTimer(self, singleShot=True, interval=FRAME)
        self.judge_timer.timeout.connect(lambda: self.session.judge())
        self.unjudged = QElapsedTimer()
        self.save_timer = QTimer(self, singleShot=True, interval=AUTOSAVE)
        self.save_timer.timeout.connect(lambda: self.session.autosave())
        self.session = Session(system, path, _Signals(self), later, record, CLOCK, solved)
        s = self.session
        self.edit, self.preview, self.cancel_preview = s.edit, s.preview, s.cancel_preview
        self.write_down, self.fix = s.write_down, s.fix
        self.undo, self.redo, self.set_units = s.undo, s.redo, s.set_units
        self.select, self.show, self.save = s.select, s.show, s.save
        self.station, self.tank_in_view, self.peek = s.station, s.tank_in_view, s.peek

    @property
    def link(self) -> InstrumentsLink:
        """The link to a controller on this machine; made when it is first asked for."""
        if self._link is None:
            from fuente.ui.instruments_link import InstrumentsLink

            self._link = InstrumentsLink(self)
            self._link.changed.connect(self.live)
        return self._link

    @property
    def linked(self) -> InstrumentsLink | None:
        """The same where it was ever asked for."""
        return self._link

    @property
    def book(self) -> LogBook:
        """The log that belongs to the design; opened when it is first asked for."""
        if self._book is None:
            from fuente.session.log_book import LogBook

            self._book = LogBook(self.path, self.system, self.journal.path.stem)
            self.saved.connect(self._follow_log)
        return self._book

    def _follow_log(self) -> None:
        if self._book is not None and self.path is not None:
            self._book.follow(self.path, self.system)

    # -- what the session holds -----------------------------------------------------------------------------------

    @property
    def system(self) -> System:
        """The document, with a drag under way."""
        return self.session.system

    @property
    def record(self) -> Record:
        """What was measured of the real thing."""
        return self.session.record

    @property
    def units(self) -> UnitSystem:
        """Which units are shown."""
        return self.session.units

    @property
    def analysis(self) -> Analysis:
        """What follows from the document."""
        return self.session.analysis

    @property
    def situation(self) -> Situation:
        """The situation that is shown."""
        return self.session.situation

    @property
    def situation_name(self) -> str:
        """Its name, as it was chosen."""
        return self.session.situation_name

    @property
    def stations(self) -> tuple[Station, ...]:
        """All rows."""
        return self.session.stations

    @property
    def findings(self) -> tuple[Finding, ...]:
        """All findings."""
        return self.session.findings

    @property
    def selected(self) -> str:
        """Id of the chosen station."""
        return self.session.selected

    @property
    def focus(self) -> str:
        """The tank of a rack that has a row of its own."""
        return self.session.focus

    @property
    def history(self) -> History:
        """Undo and redo."""
        return self.session.history

    @property
    def journal(self) -> Journal:
        """What a crash leaves."""
        return self.session.journal

    @property
    def path(self) -> FilePath | None:
        """The file, where there is one."""
        return self.session.path

    @property
    def dirty(self) -> bool:
        """Whether the file lags behind."""
        return self.session.dirty

    @property
    def save_error(self) -> str:
        """Why the last save failed."""
        return self.session.save_error

    @property
    def checking(self) -> bool:
        """Whether other situations are still being solved."""
        return self.session.checking

    # -- clocks and threads ---------------------------------------------------------------------------------------

    def close(self) -> None:
        """A clean end."""
        self.save_timer.stop()
        if self._solving is not None:
            self._solving.stopped, self._solving = True, None
        if self._link is not None:
            self._link.disconnect_from()
        if self._book is not None:
            self._book.close()
        self.session.close()

    def stop_job(self) -> None:
        """What is solved aside is of no use any more."""
        self.check_timer.stop()
        self.try_timer.stop()
        if self._job is not None:
            self._job.stopped = True
            self._job = None

    def give_way(self) -> None:
        """Nothing is solved aside until ``go_on``: what a dialog works out meanwhile has the machine to itself."""
        self._gave_way = True
        self.stop_job()

    def go_on(self) -> None:
        """What ``give_way`` stopped begins again."""
        self._gave_way = False
        if self.checking:
            self.check_timer.start()
        else:
            self.session.try_again()

    def solve_aside(self) -> None:
        """Work out the water of the document that is coming; the latest one when this one is there."""
        self.working.emit()
        if self._solving is None:
            self._solve()

    def _solve(self) -> None:
        s = self.session
        system, before, focus, shelf = s.coming, s.analysis, s.focus, s.own.offered()
        if system is None:
            return

        def failed(sentence: str) -> None:
            self._solving = None
            s.unsolved(system, sentence)
            self._solve()

        page = self.page

        def work(_tell: object) -> Solved:
            made = solved_aside(system, before, focus, shelf)
            prepare(page, made.analysis)
            return made

        self._solving = Job(work, self).hear(self._solved, failed)
        self._solving.start()

    def _solved(self, result: Any) -> None:
        self._solving = None
        self.session.solved(result)
        self._solve()

    def _check(self) -> None:
        """Solve the other situations aside, and judge them."""
        if self._gave_way:
            return
        system, before = self.analysis.system, self.analysis
        clock = CLOCK or (lambda: 0.0)
        job = Job(lambda tell: checked_aside(system, before, tell, clock), self).hear(self._checked, self._unchecked)
        self._job = job
        job.start()

    def _try(self) -> None:
        """Try the remedies, and work out how sure the numbers are, aside."""
        if self._gave_way:
            return
        system, before, found = self.analysis.system, self.analysis, self.findings
        work = Job(lambda tell: remedies_aside(system, before, found, tell), self)
        self._job = work.hear(self._remedied, self._unchecked)
        self._job.start()

    def fix_aside(self, finding: Finding) -> None:
        """Try one remedy aside, before all others."""
        self.stop_job()
        system, before, found = self.analysis.system, self.analysis, self.findings

        def done(made: Any) -> None:
            self._job = None
            if self.analysis.system is system:
                self.session.fixed(finding, made)

        work = Job(lambda tell: fix_aside(system, before, finding, found), self)
        self._job = work.hear(done, self._unchecked)
        self._job.start()

    def _remedied(self, result: Any) -> None:
        self._job = None
        self.session.remedied(result)

    def check_now(self) -> None:
        """The same without the thread: for scripts, pictures and closing."""
        if self.session.coming is not None:
            s = self.session
            s.solved(solved_aside(s.coming or s.system, s.analysis, s.focus, s.own.offered()))
        if self.checking:
            self.judge_timer.stop()
            self.session.judge()
        if self.checking:
            self.stop_job()
            self.session.checked(checked_aside(self.analysis.system, self.analysis, lambda _: True))

    def remedies_now(self) -> None:
        """The same for remedies, bands and the hours of a power cut."""
        self.check_now()
        self.stop_job()
        self.session.remedied(remedies_aside(self.analysis.system, self.analysis, self.findings, lambda _: True))

    def _checked(self, result: Any) -> None:
        self._job = None
        self.session.checked(result)

    def _unchecked(self, sentence: str) -> None:
        self._job = None
        self.session.unchecked(sentence)
