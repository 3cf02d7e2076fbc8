"""The open document: history, analysis, selection, situation; what to solve at once and what aside; when to save.

A session knows no clock and no thread: it tells its listener what should happen later, and is told when it has.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path as FilePath

from fuente.devices.base import Edit, Finding
from fuente.document.history import History
from fuente.document.journal import Journal
from fuente.document.media import brought
from fuente.document.record import EMPTY, Built, Entry, Record, Tested
from fuente.document.system import System, apply, as_sold
from fuente.errors import FuenteError
from fuente.findings.tried import tried
from fuente.session.aside import Solved
from fuente.session.filing import Filing
from fuente.session.following import Following
from fuente.session.listener import Listener
from fuente.session.own_media import OwnMedia
from fuente.session.pace import Pace
from fuente.study.known import analysed
from fuente.units import UnitSystem, in_units

VAST = 120  # devices from which the running state alone takes many frames


class Session(Following):
    """One document with everything that follows from it."""

    def __init__(
        self,
        system: System,
        path: FilePath | None,
        listener: Listener,
        later: bool = False,
        record: Record = EMPTY,
        clock: Callable[[], float] | None = None,
        solved: Solved | None = None,
    ):
        """``later`` leaves all but the running state for after the first frame. By a ``clock`` in s it is found what
        keeps the eye waiting; without one, only large systems are taken to. ``solved`` is the system solved already.
        """
        super().__init__(History(system), listener, Pace(clock), solved)
        self.record = record
        self.filing = Filing(path, system, record)
        self.own = OwnMedia(lambda: self.history.system, self.edit, self._restocked)
        if later:
            self.analysis.in_haste()
        self._wish = ""  # the station of what is coming that is to be chosen then
        self._take(self.analysis, quietly=True, later=later, rows=solved.stations if solved is not None else None)
        if self.stations:
            self.selected = self.stations[0].id

    # -- reading --------------------------------------------------------------------------------------------------

    @property
    def dirty(self) -> bool:
        """Whether the file lags behind."""
        return self.filing.lags(self.history.system, self.record)

    @property
    def path(self) -> FilePath | None:
        """The document's file, where it has one."""
        return self.filing.path

    @property
    def journal(self) -> Journal:
        """What a crash leaves behind."""
        return self.filing.journal

    @property
    def save_error(self) -> str:
        """Why the last save failed, or edits are not kept against a crash; empty where all went well."""
        return self.filing.error or self.journal.error

    # -- editing --------------------------------------------------------------------------------------------------

    def edit(self, edit: Edit, merge: str = "") -> bool:
        """Make a named change; False, and ``refused``, when it is not buildable."""
        self._preview = None
        try:
            now = self.history.system
            system = apply(now, as_sold(brought(edit, now.media, self.own.shelf), now))
            analysis = None if self._waits(system) else analysed(system, self.analysis)
        except FuenteError as error:
            self._recompute()
            self._listener.refused(in_units(str(error), self.units))
            return False
        if self.history.do(edit.name, system, merge):
            if analysis is None:
                self._await(system)
            else:
                self._take(analysis)
            self._noted(edit.name)
        elif self.analysis.system != system:
            self._recompute()
        return True

    def preview(self, edit: Edit) -> bool:
        """Show a change while a handle moves, without making it."""
        try:
            now = self.history.system
            system = apply(now, brought(edit, now.media, self.own.shelf))
            analysis = None if self._waits(system) else analysed(system, self.analysis)
        except FuenteError as error:
            self._listener.refused(in_units(str(error), self.units))
            return False
        self._preview = system
        if analysis is None:
            self._await(system)
        else:
            analysis.in_haste(self.analysis)
            self._take(analysis, later=True)
        return True

    def cancel_preview(self) -> None:
        """Put the document back as it was before the handle moved."""
        if self._preview is not None:
            self._preview = None
            self._recompute()

    def undo(self) -> None:
        """Take the last edit back."""
        name = self.history.undo_name
        if self.history.undo():
            self._recompute()
            self._noted(f"Undo {name}")

    def redo(self) -> None:
        """Make an undone edit again."""
        name = self.history.redo_name
        if self.history.redo():
            self._recompute()
            self._noted(f"Redo {name}")

    def set_units(self, units: UnitSystem) -> None:
        """Show other units: no edit of the design, so that undo leaves them."""
        if units == self.units:
            return
        self.cancel_preview()
        self.history.shown_in(units)
        self._recompute()
        self._noted("Show US units" if units == UnitSystem.US else "Show metric units")

    # -- the record ----------------------------------------------------------------------------------------------

    def write_down(self, *entries: Entry | Tested | Built) -> None:
        """Add to the record; no undo takes it back, a later entry stands for it."""
        try:
            self.record = self.record.added(*entries)
        except FuenteError as error:
            self._listener.refused(str(error))
            return
        self._noted("Write down a measurement")
        self._listener.changed()

    # -- looking --------------------------------------------------------------------------------------------------

    def home_of(self, station_id: str) -> str:
        """Id of the tank that a station belongs to; empty where it belongs to none."""
        device = self.system.by_id.get(station_id) or self.system.by_id.get(self._owner_of(station_id))
        return device.home if device is not None else ""

    def _owner_of(self, station_id: str) -> str:
        return next((s.owner for s in self.stations if s.id == station_id), "")

    def select(self, station_id: str) -> None:
        """Make a station the subject of drawing and card; a run of nudges ends with that."""
        self.history.seal()
        if self.coming is not None and station_id not in self.system.by_id and station_id in self.coming.by_id:
            self._wish = station_id
            return
        racked = {t.id for t in self.system.tanks if t.rack}
        home = self.home_of(station_id)
        if home in racked and home != self.focus:  # its row shows with its tank's
            self.focus, self.selected = home, station_id
            self._follow(rows_only=True)
            self._listener.selection_changed()
            return
        if station_id != self.selected and any(s.id == station_id for s in self.stations):
            self.selected = station_id
            room = next((r for r in self.analysis.rooms() if r.id == station_id), None)
            if room is not None and not room.moves_on and self.cleaned != room.id:
                self.cleaned = room.id
                self._listener.changed()
            self._listener.selection_changed()

    def tank_in_view(self) -> str:
        """Id of the tank that the chosen station belongs to, else the first."""
        return self.home_of(self.selected) or self.focus or self.system.tanks[0].id

    def show(self, situation: str) -> None:
        """Switch the picture to a situation."""
        if situation != self.situation_name:
            self.situation_name = situation
            self._listener.situation_changed()

    # -- files ----------------------------------------------------------------------------------------------------

    @property
    def elsewhere(self) -> bool:
        """Whether another window has the same file open."""
        return self.filing.elsewhere

    def save(self, path: FilePath | None = None, over: bool = False) -> None:
        """Write the file; raises DocumentError, and ChangedElsewhere where it would go ``over`` what others wrote."""
        self.filing.save(self.history.system, self.record, path, over)
        self._listener.saved()

    def autosave(self) -> None:
        """Write the file where there is one and it lags behind; what fails stands in ``save_error``."""
        if self.filing.autosave(self.history.system, self.record):
            self._listener.saved()

    def abandon(self) -> None:
        """What is open here is given up: nothing of it is written any more."""
        self.filing.abandon(self.history.system, self.record)

    def recovered(self) -> None:
        """What is open was found after a crash: it is unsaved, and written down again."""
        self.filing.unsaved()
        self._noted("Recovered")

    def close(self) -> None:
        """A clean end: save what has a file, and forget the journal."""
        self._stop_check()
        self.coming = None
        self.autosave()
        self.filing.close(self.history.system, self.record)

    # -- inside ---------------------------------------------------------------------------------------------------

    def _noted(self, name: str) -> None:
        self.filing.note(name, self.history.system, self.record)
        if self.path:
            self._listener.save_soon()

    @property
    def waits(self) -> bool:
        """Whether what is shown of the document is worked out aside."""
        return self._waits(self.system)

    def _waits(self, system: System) -> bool:
        """Whether even the running state of a system keeps the eye waiting, and someone is there to work it out."""
        return self._pace.timed and len(system.devices) > VAST

    def _await(self, system: System) -> None:
        self.coming = system
        self._stop_check()
        self._listener.solve_soon()

    def solved(self, result: Solved) -> None:
        """The water of a document that was coming, or of one before it: a drag is shown as far as it was followed."""
        if self.coming is None:
            return
        latest = result.analysis.system is self.coming
        if latest:
            self.coming = None
        self._take(result.analysis, later=True, rows=result.stations if result.focus == self.focus else None)
        if not latest:
            self._stop_check()
        elif self._wish:
            wish, self._wish = self._wish, ""
            self.select(wish)

    def unsolved(self, system: System, sentence: str) -> None:
        """A document that was coming cannot be: as after an edit that is refused."""
        if system is self.coming:
            self.coming, self._preview = None, None
            if system is self.history.system:
                self.history.take_back()
                self._noted("Take back what cannot be")
            self._listener.refused(in_units(sentence, self.units))
            self._recompute()

    def _restocked(self) -> None:
        self._follow(rows_only=True)
        self._listener.changed()

    def _recompute(self) -> None:
        now = self.history.system
        if self._waits(now) and now is not self.analysis.system:
            self._await(now)
        else:
            self.coming = None
            self._take(analysed(now, self.analysis))

    def fix(self, finding: Finding) -> None:
        """Make a finding's change, tried on the design as it is, aside where that was not done yet; where none works
        the finding says so instead.
        """
        if self.bands is not None and finding in self.findings:  # it was tried with all others
            self.fixed(finding, finding)
        elif not self._pace.timed:
            self.fixed(finding, tried(self.analysis, finding, self.findings))
        else:
            self.trying = finding
            self._listener.changed()
            self._listener.fix_soon(finding)

    def fixed(self, finding: Finding, made: Finding) -> None:
        """A finding's remedy was tried: make it, or say why not."""
        self.trying = None
        if made.edit is not None:
            self.edit(made.edit)
            return
        self.findings = tuple(made if f == finding else f for f in self.findings)
        self._listener.refused(f"“{finding.offer(self.units)}” does not help on this design: see why beside it.")
        self._listener.changed()
        self.try_again()
