"""The open document as the window sees it: history, analysis, selection, units. Screens listen; they never compute."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path as FilePath

from PySide6.QtCore import QObject, QTimer, Signal

from fuente.devices.base import Change, Edit, Finding, Station
from fuente.document import files
from fuente.document.history import History
from fuente.document.journal import Journal
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.shown.stations import stations
from fuente.study.analysis import Analysis
from fuente.study.situation import Situation
from fuente.ui.jobs import Job
from fuente.units import UnitSystem

AUTOSAVE = 1500  # ms after the last edit
PAUSE = 120  # ms without an edit, after which a large system's other situations are solved aside


class Workspace(QObject):
    """One document with everything that follows from it."""

    changed = Signal()  # document or analysis
    selection_changed = Signal()
    situation_changed = Signal()
    refused = Signal(str)  # an edit that cannot be
    saved = Signal()

    def __init__(self, system: System, path: FilePath | None = None, parent: QObject | None = None):
        super().__init__(parent)
        self.history = History(system)
        self.path = path
        self.journal = Journal()
        self.selected = ""
        self.situation_name = "running"
        self._preview: System | None = None
        self._saved_system: System | None = system if path else None
        self._backed_up = False
        self.analysis: Analysis = Analysis(system)
        self.stations: tuple[Station, ...] = ()
        self.findings: tuple[Finding, ...] = ()
        self.save_error = ""
        self.focus = ""  # the tank of a rack that has a row of its own
        self.checking = False  # whether a large system's other situations are still being solved
        self._job: Job | None = None
        self._wait = QTimer(self)
        self._wait.setSingleShot(True)
        self._wait.setInterval(PAUSE)
        self._wait.timeout.connect(self._check)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(AUTOSAVE)
        self._timer.timeout.connect(self._autosave)
        self._recompute(system, fresh=True)
        if self.stations:
            self.selected = self.stations[0].id

    # -- reading --------------------------------------------------------------------------------------------------

    @property
    def system(self) -> System:
        """The document, with a drag under way."""
        return self._preview or self.history.system

    @property
    def units(self) -> UnitSystem:
        """Which units are shown."""
        return self.system.units

    @property
    def dirty(self) -> bool:
        """Whether the file lags behind."""
        return self.history.system != self._saved_system

    @property
    def situation(self) -> Situation:
        """The situation that is shown; the water at rest where nothing can run."""
        result = self.analysis.peek(self.situation_name)
        if isinstance(result, Situation):
            return result
        running = self.analysis.try_situation("running")
        return running if isinstance(running, Situation) else self.analysis.at_rest()

    def station(self) -> Station | None:
        """The selected station."""
        return next((s for s in self.stations if s.id == self.selected), self.stations[0] if self.stations else None)

    # -- editing --------------------------------------------------------------------------------------------------

    def edit(self, edit: Edit, merge: str = "") -> bool:
        """Make a named change; False, and ``refused``, when it is not buildable."""
        self._preview = None
        try:
            system = apply(self.history.system, edit)
            analysis = self._analysed(system)
        except FuenteError as error:
            self._recompute(self.history.system)
            self.refused.emit(str(error))
            return False
        if self.history.do(edit.name, system, merge):
            self._take(system, analysis)
            self._noted(edit.name)
        elif self.analysis.system != system:
            self._recompute(system)
        return True

    def preview(self, edit: Edit) -> bool:
        """Show a change while a handle moves, without making it."""
        try:
            system = apply(self.history.system, edit)
            analysis = self._analysed(system)
        except FuenteError as error:
            self.refused.emit(str(error))
            return False
        self._preview = system
        self._take(system, analysis)
        return True

    def cancel_preview(self) -> None:
        """Put the document back as it was before the handle moved."""
        if self._preview is not None:
            self._preview = None
            self._recompute(self.history.system)

    def undo(self) -> None:
        """Take the last edit back."""
        name = self.history.undo_name
        if self.history.undo():
            self._recompute(self.history.system)
            self._noted(f"Undo {name}")

    def redo(self) -> None:
        """Make an undone edit again."""
        name = self.history.redo_name
        if self.history.redo():
            self._recompute(self.history.system)
            self._noted(f"Redo {name}")

    def set_units(self, units: UnitSystem) -> None:
        """Show other units."""
        self.edit(
            Edit("Show US units" if units == UnitSystem.US else "Show metric units", (Change(("units",), units),))
        )

    # -- looking --------------------------------------------------------------------------------------------------

    def select(self, station_id: str) -> None:
        """Make a station the subject of drawing and card."""
        racked = {t.id for t in self.system.tanks if t.rack}
        home = next((f.tank for f in self.system.filters if f.id == station_id.partition(".")[0]), "")
        if home in racked and home != self.focus:  # its row shows with its tank's
            self.focus, self.selected = home, station_id
            self._follow(rows_only=True)
            self.selection_changed.emit()
            return
        if station_id in racked and station_id != self.focus:
            self.focus = self.selected = station_id
            self._follow(rows_only=True)
            self.selection_changed.emit()
            return
        if station_id != self.selected and any(s.id == station_id for s in self.stations):
            self.selected = station_id
            device, _, chamber = station_id.partition(".")
            mine = (
                self.analysis.has_sump
                and device == self.analysis.sump.id
                and any(c.id == chamber for c in self.analysis.sump.chambers[:-1])
            )
            if mine and self.analysis.clean != chamber:
                self.analysis = Analysis(self.system, self.analysis, chamber)
                self._follow()
                self.changed.emit()
            self.selection_changed.emit()

    def tank_in_view(self) -> str:
        """Id of the tank that the chosen station belongs to, else the first."""
        tanks = {t.id for t in self.system.tanks}
        if self.selected in tanks:
            return self.selected
        homes = {f.id: f.tank for f in self.system.filters}
        return homes.get(self.selected.partition(".")[0]) or self.focus or self.system.tanks[0].id

    def show(self, situation: str) -> None:
        """Switch the picture to a situation."""
        if situation != self.situation_name:
            self.situation_name = situation
            self.situation_changed.emit()

    # -- files ----------------------------------------------------------------------------------------------------

    def save(self, path: FilePath | None = None) -> None:
        """Write the file; raises DocumentError."""
        target = path or self.path
        assert target is not None
        files.save(self.history.system, target)
        self._backed_up = True
        self.path = target
        self._was_saved()

    def close(self) -> None:
        """A clean end: save what has a file, and forget the journal."""
        self._stop_check()
        self._timer.stop()
        if self.path and self.dirty:
            self._autosave()
        if not self.path or not self.dirty:
            self.journal.clear()

    def _was_saved(self) -> None:
        self._saved_system = self.history.system
        self.save_error = ""
        self.journal.clear()
        self.saved.emit()

    def _autosave(self) -> None:
        if not self.path or not self.dirty:
            return
        try:
            files.save(self.history.system, self.path, backup=not self._backed_up)
        except FuenteError as error:
            self.save_error = str(error)
            self.saved.emit()
            return
        self._backed_up = True
        self._was_saved()

    # -- inside ---------------------------------------------------------------------------------------------------

    def _noted(self, name: str) -> None:
        self.journal.write(name, self.history.system, self.path)
        if self.path:
            self._timer.start()

    def _analysed(self, system: System) -> Analysis:
        return Analysis(system, self.analysis, self.analysis.clean)

    def _recompute(self, system: System, fresh: bool = False) -> None:
        self._take(system, Analysis(system) if fresh else self._analysed(system))

    def _take(self, system: System, analysis: Analysis) -> None:
        self.analysis = analysis
        self._follow()
        self.changed.emit()

    def _follow(self, rows_only: bool = False) -> None:
        """Rows and findings of the analysis. Of a large system, what takes longer than a frame comes later."""
        shown = self.analysis.try_situation("running")
        situation = shown if isinstance(shown, Situation) else self.analysis.at_rest()
        if self.focus and all(t.id != self.focus for t in self.system.tanks):
            self.focus = ""
        self.stations = stations(self.analysis, situation, self.focus)
        if self.selected and all(s.id != self.selected for s in self.stations):
            self.selected = self.stations[0].id
        if rows_only:
            return
        if not self.analysis.large or not isinstance(shown, Situation):
            self._stop_check()
            self.findings = findings(self.analysis)
            return
        owners = {s.id for s in self.stations} | {t.id for t in self.system.tanks}
        self.findings = tuple(f for f in self.findings if f.owner in owners)
        self._stop_check()
        self.checking = True
        self._wait.start()

    def _stop_check(self) -> None:
        self._wait.stop()
        self.checking = False
        if self._job is not None:
            self._job.stopped = True
            self._job = None

    def _check(self) -> None:
        """Solve the other situations of a large system aside, and judge it."""
        system, before, clean = self.analysis.system, self.analysis, self.analysis.clean
        job = Job(lambda tell: checked_aside(system, before, clean, tell), self).hear(self._checked, self._unchecked)
        self._job = job
        job.start()

    def check_now(self) -> None:
        """The same without the thread: for scripts, pictures and closing."""
        if self.checking:
            self._stop_check()
            result = checked_aside(self.analysis.system, self.analysis, self.analysis.clean, lambda _: True)
            if result is not None:
                self._checked(result)

    def _checked(self, result: object) -> None:
        if result is None:
            return
        analysis, found = result  # type: ignore[misc]
        if analysis.system != self.system:
            return
        self._job = None
        self.checking = False
        self.analysis, self.findings = analysis, found
        self._follow(rows_only=True)
        self.changed.emit()

    def _unchecked(self, sentence: str) -> None:
        self._job = None
        self.checking = False
        self.refused.emit(sentence)


def checked_aside(
    system: System, before: Analysis, clean: str, tell: Callable[[float], bool]
) -> tuple[Analysis, tuple[Finding, ...]] | None:
    """An analysis of its own with every situation solved, and its findings; None when it was stopped."""
    analysis = Analysis(system, before, clean)
    names = analysis.names()
    for i, name in enumerate(names):
        analysis.try_situation(name)
        if not tell((i + 1) / (len(names) + 1)):
            return None
    return analysis, findings(analysis)
