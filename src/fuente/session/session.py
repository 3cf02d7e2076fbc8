"""The open document: history, analysis, selection, situation; what to solve at once and what aside; when to save.

A session knows no clock and no thread: it tells its listener what should happen later, and is told when it has.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path as FilePath

from fuente.devices.base import Edit, Finding, Station
from fuente.document.history import History
from fuente.document.journal import Journal
from fuente.document.media import OwnMedium, add_own, brought, change_own, remove_own
from fuente.document.record import EMPTY, Built, Entry, Record, Tested
from fuente.document.system import System, apply, as_sold
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.findings.bands import Bands
from fuente.findings.tried import tried
from fuente.session import own_library
from fuente.session.aside import Checked, Remedied
from fuente.session.filing import Filing
from fuente.session.listener import Listener
from fuente.session.pace import BLINK, LONG, Pace
from fuente.shown.stations import stations
from fuente.study.air_hours import AirHours
from fuente.study.analysis import Analysis
from fuente.study.known import analysed
from fuente.study.situation import Situation
from fuente.units import UnitSystem, in_units

_JUDGING = "findings"  # among the names of what is timed: to judge them


class Session:
    """One document with everything that follows from it."""

    def __init__(
        self,
        system: System,
        path: FilePath | None,
        listener: Listener,
        later: bool = False,
        record: Record = EMPTY,
        clock: Callable[[], float] | None = None,
    ):
        """``later`` leaves all but the running state for after the first frame. By a ``clock`` in s it is found what
        keeps the eye waiting; without one, only large systems are taken to.
        """
        self._pace = Pace(clock)
        self.history = History(system)
        self.record = record
        self.filing = Filing(path, system, record)
        self.selected = ""
        self.situation_name = "running"
        self.shelf = own_library.all_own()  # the builder's own media, of all designs
        self.cleaned = ""  # id of the room that the cleaning situation is about; empty for the dirtiest
        self._listener = listener
        self._preview: System | None = None
        self._told: tuple[Analysis, Situation, str, tuple[Station, ...]] | None = None  # rows of another situation
        self.analysis: Analysis = analysed(system)
        self.stations: tuple[Station, ...] = ()
        self.findings: tuple[Finding, ...] = ()
        self.focus = ""  # the tank of a rack that has a row of its own
        self.bands: Bands | None = None  # how sure the numbers are, once that is worked out
        self.air: AirHours | None = None  # how long the oxygen of a power cut lasts, likewise
        self.trying: Finding | None = None  # whose remedy is being tried aside
        self.checking = False  # whether a large system's other situations are still being solved
        self._take(self.analysis, quietly=True, later=later)
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

    def peek(self, name: str) -> Situation | FuenteError | None:
        """A situation as it is to be shown, about what was chosen; None where it is not solved yet and would keep the
        eye waiting.
        """
        about = self._about(name)
        if self.checking and (name != self.situation_name or self._long(name)):
            return self.analysis.known(name, about)
        return self.analysis.peek(name, about)

    @property
    def awaited(self) -> bool:
        """Whether the situation that is chosen is still being solved, and another shown for it."""
        return self.checking and self.peek(self.situation_name) is None

    def soon(self, name: str) -> bool:
        """Whether a situation takes no longer than a blink."""
        return not self._long(name)

    def _long(self, name: str) -> bool:
        return self.analysis.large or self._pace.long(name)

    def _keeps_waiting(self) -> bool:
        """Whether a situation takes longer than a blink, or all together more than two."""
        names = (*self.analysis.names(), _JUDGING)
        return any(self._long(name) for name in names) or self._pace.total(names) > 2 * BLINK

    def _about(self, name: str) -> str:
        rooms = {r.id for r in self.analysis.rooms()}
        return self.cleaned if name == "cleaning" and self.cleaned in rooms else ""

    @property
    def situation(self) -> Situation:
        """The situation that is shown; the water at rest where nothing can run."""
        result = self.peek(self.situation_name)
        if isinstance(result, Situation):
            return result
        running = self.analysis.try_situation("running")
        return running if isinstance(running, Situation) else self.analysis.at_rest()

    def station(self) -> Station | None:
        """The selected station, with the figures of the situation that is shown."""
        rows = self.stations
        situation = self.situation
        if situation.name != "running" and self.situation_name != "running":
            known = self._told
            if known is None or known[0] is not self.analysis or known[1] is not situation or known[2] != self.focus:
                shelf = [m.medium() for m in self.shelf]
                made = stations(self.analysis, situation, self.focus, shelf)
                known = self._told = (self.analysis, situation, self.focus, made)
            rows = known[3]
        return next((s for s in rows if s.id == self.selected), rows[0] if rows else None)

    # -- editing --------------------------------------------------------------------------------------------------

    def edit(self, edit: Edit, merge: str = "") -> bool:
        """Make a named change; False, and ``refused``, when it is not buildable."""
        self._preview = None
        try:
            now = self.history.system
            system = apply(now, as_sold(brought(edit, self.system.media, self.shelf), now))
            analysis = analysed(system, self.analysis)
        except FuenteError as error:
            self._recompute()
            self._listener.refused(in_units(str(error), self.units))
            return False
        if self.history.do(edit.name, system, merge):
            self._take(analysis)
            self._noted(edit.name)
        elif self.analysis.system != system:
            self._recompute()
        return True

    def preview(self, edit: Edit) -> bool:
        """Show a change while a handle moves, without making it."""
        try:
            system = apply(self.history.system, brought(edit, self.system.media, self.shelf))
            analysis = analysed(system, self.analysis)
        except FuenteError as error:
            self._listener.refused(in_units(str(error), self.units))
            return False
        self._preview = system
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

    # -- own media ------------------------------------------------------------------------------------------------

    def keep_medium(self, made: OwnMedium) -> bool:
        """Put a medium of the builder's own into the design, and on the shelf for others."""
        own_library.keep(made)
        self._restock()
        return self.edit(add_own(self.system.media, made))

    def change_medium(self, old: OwnMedium, new: OwnMedium) -> None:
        """Other figures for a medium: the old ones stand on no shelf any more."""
        own_library.forget(old)
        own_library.keep(new)
        self._restock()
        if old in self.system.media:
            self.edit(change_own(self.system, old, new))
        else:
            self._listener.changed()

    def remove_medium(self, gone: OwnMedium) -> None:
        """Take a medium out of the design and off the shelf."""
        own_library.forget(gone)
        self._restock()
        if gone in self.system.media:
            self.edit(remove_own(self.system.media, gone))
        else:
            self._listener.changed()

    def _restock(self) -> None:
        self.shelf = own_library.all_own()
        self._follow(rows_only=True)

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
        self.autosave()
        self.filing.close(self.history.system, self.record)

    # -- inside ---------------------------------------------------------------------------------------------------

    def _noted(self, name: str) -> None:
        self.filing.note(name, self.history.system, self.record)
        if self.path:
            self._listener.save_soon()

    def _recompute(self) -> None:
        self._take(analysed(self.history.system, self.analysis))

    def _take(self, analysis: Analysis, quietly: bool = False, later: bool = False) -> None:
        self.analysis = analysis
        self._follow(later=later)
        if not quietly:
            self._listener.changed()

    def _follow(self, rows_only: bool = False, later: bool = False) -> None:
        """Rows and findings of the analysis. What takes longer than a frame comes later: of a large system,
        or by wish.
        """
        shown = self.analysis.try_situation("running")
        situation = shown if isinstance(shown, Situation) else self.analysis.at_rest()
        if self.focus and all(t.id != self.focus for t in self.system.tanks):
            self.focus = ""
        stays = later or self._keeps_waiting()
        at_once = not rows_only and (not isinstance(shown, Situation) or not stays)
        found = self._all_judged() if at_once else ()  # first: cards show what situations then are known
        self.stations = stations(self.analysis, situation, self.focus, [m.medium() for m in self.shelf])
        if self.selected and all(s.id != self.selected for s in self.stations):
            self.selected = self.stations[0].id
        if rows_only:
            return
        self.bands = self.air = None  # of the design before
        self.trying = None
        self._stop_check()
        if at_once:
            self._judged(found)
            return
        owners = {s.id for s in self.stations} | {t.id for t in self.system.tanks}
        self.findings = tuple(f for f in self.findings if f.owner in owners)
        self.checking = True
        if self.analysis.large:
            self._listener.check_soon()
        else:
            self._listener.judge_soon()

    def _all_judged(self) -> tuple[Finding, ...]:
        for name in self.analysis.names():
            self._pace.of(name, lambda name=name: self.analysis.try_situation(name))  # type: ignore[misc]
        return self._pace.of(_JUDGING, lambda: findings(self.analysis))

    def _judged(self, found: tuple[Finding, ...]) -> None:
        self.findings = found
        # In a system whose situations take many seconds, each remedy is tried when its button is pressed.
        if self._pace.total(self.analysis.names()) < LONG and self._preview is None:
            self._listener.try_soon()

    def try_again(self) -> None:
        """Remedies and bands, where they were given up before they were there."""
        if self.bands is None:
            self._judged(self.findings)

    def remedied(self, result: Remedied | None) -> None:
        """What was tried aside: what does not work on this design is not offered any more, and how sure numbers are."""
        if result is None or result.system != self.system or self.checking:
            return
        self.findings, self.bands, self.air = result[1:]
        self._listener.changed()

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

    def _stop_check(self) -> None:
        self.checking = False
        self._listener.stop_check()

    def judge(self) -> None:
        """The frame is painted: the other situations and the findings of a small system, as far as the eye does not
        wait for them.
        """
        if not self.checking or self.analysis.large:
            return
        if self._keeps_waiting():
            spent = 0.0
            for name in self.analysis.names():
                if not self._long(name) and spent < BLINK:
                    self._pace.of(name, lambda name=name: self.analysis.try_situation(name))  # type: ignore[misc]
                    spent += self._pace.took(name)
            self._follow(rows_only=True)
            self._listener.check_soon()
        else:
            self.checking = False
            found = self._all_judged()
            self._follow(rows_only=True)
            self._judged(found)
        self._listener.changed()

    def checked(self, result: Checked | None) -> None:
        """What was checked aside is there; None where it was stopped."""
        if result is None or result.analysis.system != self.system:
            return
        self.checking = False
        self.analysis = result.analysis
        for name, took in result.took.items():
            self._pace.note(name, took)
        self._follow(rows_only=True)
        self._judged(result.findings)
        self._listener.changed()

    def unchecked(self, sentence: str) -> None:
        """It could not be checked."""
        self.checking, self.trying = False, None
        self._listener.refused(sentence)
