"""What follows from the open document: its analysis, rows and findings; what is worked out at once and what aside."""

from __future__ import annotations

from fuente.devices.base import Finding, Station
from fuente.document.history import History
from fuente.document.system import System
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.findings.bands import Bands
from fuente.session.aside import Checked, Remedied, Solved
from fuente.session.listener import Listener
from fuente.session.own_media import OwnMedia
from fuente.session.pace import BLINK, LONG, Pace
from fuente.shown.stations import stations
from fuente.study.air_hours import AirHours
from fuente.study.analysis import Analysis
from fuente.study.known import analysed
from fuente.study.situation import Situation
from fuente.units import UnitSystem

_JUDGING = "findings"  # among the names of what is timed: to judge them


class Following:
    """The part of a session that follows its document; what changes that is for who derives from it."""

    own: OwnMedia

    def __init__(self, history: History, listener: Listener, pace: Pace, solved: Solved | None):
        """``solved`` is the document solved already."""
        self.history = history
        self.situation_name = "running"
        self.selected = ""
        self.cleaned = ""  # id of the room that the cleaning situation is about; empty for the dirtiest
        self._listener, self._pace = listener, pace
        self._preview: System | None = None
        self._told: tuple[Analysis, Situation, str, tuple[Station, ...]] | None = None  # rows of another situation
        self.analysis: Analysis = solved.analysis if solved is not None else analysed(history.system)
        self.coming: System | None = None  # the document now, while its water is still worked out aside
        self.stations: tuple[Station, ...] = ()
        self.findings: tuple[Finding, ...] = ()
        self.focus = ""  # the tank of a rack that has a row of its own
        self.bands: Bands | None = None  # how sure the numbers are, once that is worked out
        self.air: AirHours | None = None  # how long the oxygen of a power cut lasts, likewise
        self.trying: Finding | None = None  # whose remedy is being tried aside
        self.checking = False  # whether a large system's other situations are still being solved

    # -- reading --------------------------------------------------------------------------------------------------

    @property
    def system(self) -> System:
        """The document as it is shown, with a drag under way: where its water is worked out aside, the one before."""
        return self.analysis.system if self.coming is not None else self._preview or self.history.system

    @property
    def units(self) -> UnitSystem:
        """Which units are shown."""
        return self.system.units

    def peek(self, name: str) -> Situation | FuenteError | None:
        """A situation as it is to be shown, about what was chosen; None where it is not solved yet and would keep the
        eye waiting.
        """
        about = self._about(name)
        if self.checking and (name != self.situation_name or self._long(name)):
            return self.analysis.known(name, about)
        if name == self.situation_name and not self._long(name):
            return self.analysis.try_situation(name, about)
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
                made = stations(self.analysis, situation, self.focus, self.own.offered())
                known = self._told = (self.analysis, situation, self.focus, made)
            rows = known[3]
        return next((s for s in rows if s.id == self.selected), rows[0] if rows else None)

    # -- following ------------------------------------------------------------------------------------------------

    def _take(
        self,
        analysis: Analysis,
        quietly: bool = False,
        later: bool = False,
        rows: tuple[Station, ...] | None = None,
    ) -> None:
        self.analysis = analysis
        if self.situation_name not in analysis.names():  # a design without its sump is in fewer of them
            self.situation_name = "running"
        self._follow(later=later, rows=rows)
        if not quietly:
            self._listener.changed()

    def _follow(self, rows_only: bool = False, later: bool = False, rows: tuple[Station, ...] | None = None) -> None:
        """Rows and findings of the analysis. What takes longer than a frame comes later: of a large system,
        or by wish. ``rows`` are those of the running state where they are made already.
        """
        shown = self.analysis.try_situation("running")
        situation = shown if isinstance(shown, Situation) else self.analysis.at_rest()
        if self.focus and all(t.id != self.focus for t in self.system.tanks):
            self.focus = ""
        stays = later or self._keeps_waiting()
        at_once = not rows_only and (not isinstance(shown, Situation) or not stays)
        found = self._all_judged() if at_once else ()  # first: cards show what situations then are known
        self.stations = rows or stations(self.analysis, situation, self.focus, self.own.offered())
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

    def _stop_check(self) -> None:
        self.checking = False
        self._listener.stop_check()

    def judge(self) -> None:
        """The frame is painted: the other situations and the findings of a small system, as far as the eye does not
        wait for them.
        """
        self.analysis.at_leisure()
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
