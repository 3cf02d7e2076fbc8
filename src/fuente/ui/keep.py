"""Keep: what is due, what was seen, what it means."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PySide6.QtCore import QPoint, Qt, QTimer, Signal
from PySide6.QtWidgets import (
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from fuente.devices.base import Change, Edit
from fuente.document.upkeep import OwnInterval
from fuente.errors import FuenteError
from fuente.session.log_book import made_year
from fuente.study.known import analysed
from fuente.ui import theme
from fuente.ui.flow import flowing
from fuente.ui.jobs import Job
from fuente.ui.keep_due import DueList, TaskDialog
from fuente.ui.keep_files import KeepFiles
from fuente.ui.keep_line import LogLine, log_table
from fuente.ui.keep_rows import ask_instead, correction, row_menu
from fuente.ui.keep_side import KeepSide
from fuente.ui.keep_trends import KeepTrends
from fuente.ui.keep_worked import Found, worked_out
from fuente.ui.live_panel import LivePanel
from fuente.ui.side_panel import middle, panel, section, side_width, upright
from fuente.ui.stage_page import StagePage
from fuente.ui.workspace import Workspace
from fuente.upkeep.due import Due, done, meanwhile, postponed
from fuente.upkeep.entry import Entry, now
from fuente.upkeep.places import places_of
from fuente.upkeep.telling import Told, told

POLL = 1500  # ms between two looks for what another window has written


class KeepPage(StagePage):
    """Due at the left; trends, the line and the list in the middle; what the log says at the right."""

    worked = Signal()

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.book = workspace.book
        self.files = KeepFiles(self)
        self.found: Found | None = None
        self._jobs: list[Job] = []
        self._of: object = None
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self._left())
        row.addWidget(upright(self))
        row.addWidget(self._middle(), 1)
        row.addWidget(upright(self))
        self.side = KeepSide(self)
        self.side.setFixedWidth(side_width(316))
        row.addWidget(self.side)
        self.side.put.connect(self.wear)
        self.live = LivePanel(workspace, workspace.link)
        self.side.below.addWidget(self.live)
        self.poll = QTimer(self)
        self.poll.setInterval(POLL)
        self.poll.timeout.connect(self._look)
        self.soon = QTimer(self)
        self.soon.setSingleShot(True)
        self.soon.setInterval(30)
        self.soon.timeout.connect(self.work)
        workspace.changed.connect(self.refresh)
        self.refresh()

    # -- what it is made of -------------------------------------------------------------------------------------------

    def _left(self) -> QWidget:
        left = QWidget(self)
        area, column = panel(side_width(268), left)
        self.due = DueList(area.widget())
        self.due.ticked.connect(self.tick)
        self.due.opened.connect(self.open_task)
        column.addWidget(self.due, 1)
        left.setObjectName("panel")
        left.setFixedWidth(area.width())
        whole = QVBoxLayout(left)
        whole.setContentsMargins(0, 0, 0, theme.px(4))
        whole.setSpacing(0)
        whole.addWidget(area, 1)
        row, links = flowing()
        links.setContentsMargins(theme.px(8), 0, theme.px(8), 0)
        self.month = QPushButton("Month …")
        self.calendar = QPushButton("Calendar …")
        self.ways = QPushButton("Upkeep …")
        self.month.setToolTip("This month as a page to print")
        self.calendar.setToolTip("What is due as an iCalendar file")
        self.ways.setToolTip("Tasks of your own, how far apart, chemical media, sweeps")
        acts = ((self.month, self.files.month), (self.calendar, self.files.calendar), (self.ways, self._ways))
        for button, act in acts:
            button.setObjectName("link")
            button.clicked.connect(act)
            links.addWidget(button)
        whole.addWidget(row)
        return left

    def _ways(self) -> None:
        from fuente.ui.upkeep_dialog import UpkeepDialog

        dialog = UpkeepDialog(self.workspace.system, self)
        if dialog.exec():
            edit = dialog.edit()
            if edit is not None:
                self.workspace.edit(edit)

    def _middle(self) -> QWidget:
        ground, column = middle(self)
        self.trends = KeepTrends(self, column)
        self.trends.save_wanted.connect(self.files.save)
        self.trends.agree_wanted.connect(self.take_over)
        column.addWidget(section("Write down what you saw"))
        column.addWidget(self._entry())
        row, line = flowing()
        self.take = QPushButton("Read a CSV file …")
        self.give = QPushButton("Save as CSV …")
        self.photo = QPushButton("Photograph …")
        for button, act in ((self.photo, self.files.photo), (self.take, self.files.take), (self.give, self.files.give)):
            button.setObjectName("link")
            button.clicked.connect(act)
            line.addWidget(button)
        column.addWidget(row)
        self.table, self.model = log_table()
        self.table.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.table.customContextMenuRequested.connect(self._menu)
        self.table.activated.connect(lambda index: self.correct(self.model.rows[index.row()]))
        column.addWidget(self.table, 2)
        if theme.scale() < theme.LARGE:
            return ground
        area = QScrollArea()  # large text has no room for all of it under each other
        area.setWidgetResizable(True)
        area.setFrameShape(QScrollArea.Shape.NoFrame)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(ground)
        return area

    def _entry(self) -> LogLine:
        self.line = LogLine(self.workspace.units)
        self.line.kept.connect(self.write)
        return self.line

    # -- following ----------------------------------------------------------------------------------------------------

    def showEvent(self, event: Any) -> None:
        """What waited is worked out; other windows are listened to."""
        super().showEvent(event)
        self.poll.start()
        self._look()
        if self._of is None:
            self.soon.start()

    def hideEvent(self, event: Any) -> None:
        """Nobody looks."""
        super().hideEvent(event)
        self.poll.stop()

    def refresh(self) -> None:
        """Follow the workspace."""
        if self._of is not self.workspace.system:
            self._stop()  # what is on its way is of another design
            self._of = None
            if self.isVisible():
                self.soon.start()

    def _look(self) -> None:
        zone = now().tzinfo
        day = self.workspace.link.finished_day(zone) if zone is not None else []
        if day and self.book.log is not None:
            self.keep([e for e in day if isinstance(e, Entry)])
        if self.book.refresh():
            self._again()

    def _again(self) -> None:
        self._of = None
        if self.isVisible():
            self.soon.start()

    # -- working ------------------------------------------------------------------------------------------------------

    def work(self) -> None:
        """Work it out aside: what is due and the trends first, then why."""
        self._stop()
        self._of = system = self.workspace.system
        entries, units, at = list(self.book.entries), self.workspace.units, now()
        wanted = self.book.year_wanted
        self.trends.busy.show()

        def first(_: Any) -> tuple[Found, list[Entry]]:
            study = analysed(system)
            year = made_year(study) if wanted else []
            return worked_out(study, entries or year, at, units), year

        def then(result: tuple[Found, list[Entry]]) -> None:
            made, year = result
            self.book.take_year(year)
            self._show(made)
            job = Job(lambda tell: told(made.learned, units), self)
            self._jobs.append(job.hear(self._told, lambda _: self._told([])))
            job.start()

        job = Job(first, self)
        self._jobs.append(job.hear(then, self._failed))
        job.start()

    def work_now(self) -> None:
        """At once: for scripts and pictures."""
        self._stop()
        self.soon.stop()
        self._of = self.workspace.system
        units = self.workspace.units
        try:
            study = analysed(self.workspace.system)
            if self.book.year_wanted:
                self.book.take_year(made_year(study))
            made = worked_out(study, list(self.book.entries), now(), units)
        except FuenteError as error:
            self._failed(str(error))
            return
        self._show(made)
        self._told(told(made.learned, units))

    def _stop(self) -> None:
        for job in self._jobs:
            job.stopped = True
        self._jobs = []

    def _failed(self, sentence: str) -> None:
        self.trends.busy.hide()
        self.trends.show_none(f"What is due follows from water that runs. {sentence}")
        study = analysed(self.workspace.system)
        try:
            self.line.show_places(places_of(study), self.workspace.units)
        except FuenteError:
            self.line.say("The log can be written once the design runs.")

    def _show(self, made: Found) -> None:
        self.found = made
        units, today = self.workspace.units, now().date()
        self.due.show_rows(made.rows, today)
        entries = self.book.entries
        self.side.show_count(len(entries), entries[0].day if entries else None)
        self.side.show_stock(made.stock, today)
        self.side.show_costs(made.money, self.workspace.system.shop.currency)
        self.model.show_entries(entries, made.learned.places, units)
        self.line.show_places(made.learned.places, units)
        if self.book.error:
            self.line.say(self.book.error)
        self.trends.show_learned(made.learned, made.keys, units)

    def _told(self, rows: list[Told]) -> None:
        self.trends.busy.hide()
        if self.found is not None:
            self.found.told = rows
        self.side.show_told(rows)
        self.worked.emit()

    def wear(self, put: tuple[str, float]) -> None:
        """The pump's wear as the log says it, put into the design."""
        from fuente.upkeep.agreed import worn_as_learnt

        edit = worn_as_learnt(self.workspace.system, self.workspace.stations, *put)
        if edit is None:
            self.line.say("The design has no field that says how worn this pump is.")
        else:
            self.workspace.edit(edit)

    def take_over(self) -> None:
        """The last difference that was read becomes the design's, by how clogged its pads are."""
        from fuente.upkeep.agreed import clogged_as_read

        place_id = self.trends.key.partition("@")[2]
        if self.found is None:
            return
        learned = self.found.learned
        place, rows = learned.places.by_id(place_id), learned.series("drop", place_id).rows
        if place is None or not rows:
            return
        system, all_stations = self.workspace.system, self.workspace.stations
        self.trends.busy.show()

        def made(edit: Edit | None) -> None:
            self.trends.busy.hide()
            if edit is None:
                self.line.say("The design has no field that says how clogged this is.")
            else:
                self.workspace.edit(edit)

        job = Job(lambda tell: clogged_as_read(system, all_stations, place, rows[-1][1]), self)
        self._jobs.append(job.hear(made, self.line.say))
        job.start()

    # -- what the builder does ----------------------------------------------------------------------------------------

    def write(self, entries: list[Entry]) -> None:
        """Keep entries."""
        if self.keep(entries):
            self.line.took()
            self.line.edit.setFocus()

    def keep(self, entries: Sequence[Entry]) -> bool:
        if self.book.log is None:
            self.line.say(self.book.error or "There is no log to write into.")
            return False
        try:
            self.book.log.add(*entries)
        except FuenteError as error:
            self.line.say(str(error))
            return False
        if self.workspace.path is None:  # its log lies with its journal: a crash offers both
            self.workspace.session.filing.note("Write into the log", self.workspace.system, self.workspace.record)
        self._again()
        return True

    def tick(self, row: Due) -> None:
        """A task is done, as it says."""
        self.keep([done(row.task, now())])

    def open_task(self, row: Due) -> None:
        """A task in full."""
        system, units = self.workspace.system, self.workspace.units
        dialog = TaskDialog(row, units, "working it out …" if row.task.room else "", self)
        if row.task.room:  # a chamber is emptied: that may take its time to solve
            job = Job(lambda tell: meanwhile(analysed(system), row.task, units), dialog)
            job.hear(dialog.tell, lambda _: dialog.tell(""))
            job.start()
        if dialog.exec():
            self.answered(row, dialog.answer, dialog.note.text().strip(), dialog.days.value(), dialog.every.value())

    def answered(self, row: Due, answer: str, note: str = "", days: int = 3, every: int = 7) -> None:
        """What was said of a task: done, differently, later, or another interval."""
        if answer == "done":
            self.keep([done(row.task, now(), note)])
        elif answer == "differently":
            self.keep([done(row.task, now(), note or "done differently", None, True)])
        elif answer == "later":
            self.keep([postponed(row.task, now(), days)])
        elif answer == "interval":
            upkeep = self.workspace.system.upkeep
            rest = tuple(i for i in upkeep.intervals if i.task != row.task.id)
            made = (*rest, OwnInterval(task=row.task.id, every=every * 86400.0))
            self.workspace.edit(Edit("Set a task's interval", (Change(("upkeep", "intervals"), made),)))

    def _menu(self, at: QPoint) -> None:
        rows = self.model.rows
        row_menu(self.table, at, lambda row: self.correct(rows[row]), lambda row: self.take_back(rows[row]))

    def correct(self, entry: Entry) -> None:
        """Another line for an entry; the first stays readable in the file."""
        if self.found is not None:
            words = ask_instead(self, entry, self.found.learned.places, self.workspace.units)
            if words:
                self.corrected(entry, words)

    def corrected(self, entry: Entry, words: str) -> None:
        """Keep what a line says in the place of an entry, at its moment."""
        if self.found is None:
            return
        made = correction(entry, words, self.found.learned.places, self.workspace.units)
        if made is None:
            self.line.say("One entry is corrected by one.")
        else:
            self.keep([made])

    def take_back(self, entry: Entry) -> None:
        """Withdraw an entry."""
        if self.book.log is None:
            return
        try:
            self.book.log.take_back(entry, now())
        except FuenteError as error:
            self.line.say(str(error))
            return
        self._again()

    # -- across a rebuild ---------------------------------------------------------------------------------------------

    def kept(self) -> dict[str, Any]:
        """The trend that is shown, and what is typed."""
        return {"key": self.trends.key, "line": self.line.edit.text()}

    def resume(self, kept: dict[str, Any]) -> None:
        """Go on with it."""
        if kept:
            self.trends.key = kept["key"]
            self.line.edit.setText(kept["line"])
