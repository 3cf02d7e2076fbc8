"""A window with one document: new, opened, saved, left, recovered."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QAction
from PySide6.QtWidgets import (
    QFileDialog,
    QMainWindow,
    QMenu,
    QMessageBox,
    QStackedWidget,
)

from fuente import diary
from fuente.demo import DEMOS
from fuente.devices.base import Change, Edit
from fuente.document import files, journal
from fuente.document.journal import Recovered
from fuente.document.record import EMPTY, Record
from fuente.document.system import System
from fuente.errors import ChangedElsewhere, FuenteError
from fuente.session import Solved
from fuente.ui import settings
from fuente.ui.as_used import as_used, saves_by_itself
from fuente.ui.message import Message
from fuente.ui.opening import Opening
from fuente.ui.pending import pending
from fuente.ui.recovery import when
from fuente.ui.stage_page import StagePage
from fuente.ui.stages import STAGES
from fuente.ui.start_page import StartPage
from fuente.ui.workspace import Workspace
from fuente.units import UnitSystem, in_units

FILTER = "Fuente designs (*.fuente)"


class DocumentWindow(QMainWindow):
    """What a window does with its document, whatever it shows of it."""

    workspace: Workspace | None
    opening: Opening
    message: Message
    stack: QStackedWidget
    start: StartPage
    recent_menu: QMenu
    stage: str
    _pages: dict[str, StagePage]
    _kept: dict[str, dict[str, Any]]  # what pages that are built again go on from

    if TYPE_CHECKING:  # what the window itself adds

        def show_stage(self, key: str) -> None: ...
        def _show_state(self) -> None: ...

    def set_document(
        self,
        system: System,
        path: Path | None,
        stage: str = "",
        later: bool = False,
        record: Record = EMPTY,
        solved: Solved | None = None,
    ) -> None:
        """Show a document; ``later`` leaves all but the running water for after the first paint, ``solved`` brings it
        along.
        """
        self.opening.stop()
        self._leave()
        station = ""
        if path and not stage:
            stage, station = settings.looked_at(path)
        workspace = Workspace(system, path, self, later, record, solved)
        workspace.changed.connect(self._show_state)
        workspace.working.connect(self._show_state)
        workspace.saved.connect(self._show_state)
        workspace.refused.connect(self._refused)
        self.workspace = workspace
        workspace.session.filing.by_itself = saves_by_itself()
        if path:
            settings.remember(path)
        diary.noted("opened" if path else "shown", system)
        self.message.clear()
        self.show_stage(stage if stage in STAGES else "water")
        if any(s.id == station for s in workspace.stations):
            workspace.select(station)
        if path and workspace.session.elsewhere:
            self.message.say(
                f"“{path.name}” is open in another window too. Whoever saves second is asked before anything is written"
                " over."
            )

    def message_later(self, sentence: str) -> None:
        """Say it when what goes on now is over."""
        QTimer.singleShot(0, self, lambda: self.message.say(sentence))

    def _leave(self) -> None:
        if self.workspace is not None:
            self.remember()
            self.workspace.close()
            self.workspace.deleteLater()
            self.workspace = None
        for page in self._pages.values():
            self.stack.removeWidget(page)
            page.deleteLater()
        self._pages = {}
        self._kept = {}

    def remember(self) -> None:
        """Where the file is left, for the next time."""
        w = self.workspace
        if w is not None and w.path is not None:
            settings.keep_looked_at(w.path, self.stage, w.selected)

    def new(self) -> None:
        """A new design, in the Brief."""
        if self._may_leave():
            from fuente.demo.starter import bare

            self.set_document(as_used(bare()), None, "brief")

    def open_demo(self, key: str) -> None:
        """A demo, which has no file until it is saved."""
        if self._may_leave():
            self.set_document(as_used(DEMOS[key]()), None, later=not self.isVisible())

    def load_curve(self, path: Path) -> bool:
        """Give a pump the points of a CSV file: that of the chosen station, else the first one."""
        if self.workspace is None:
            self.message.say("Open a design first, then drop the pump's points on it.")
            return False
        from fuente.document.curves import read_curve

        own = self.workspace.station()
        stations = ((own,) if own else ()) + self.workspace.stations
        places = [c.path for s in stations for c in s.choices if c.quantity == "curve"]
        try:
            points = read_curve(path)
        except FuenteError as error:
            self.message.say(str(error))
            return False
        if not places:
            self.message.say("This design has no pump that could take the points.")
            return False
        if not self.workspace.edit(Edit("Take pump points", (Change(places[0], points),))):
            return False
        owner = self.workspace.system.by_id[str(places[0][1])]
        self.message.ask(
            f"The points of “{path.name}” are now the curve of {owner.title}.",
            "Undo",
            self.workspace.undo,
            "Close",
            lambda: None,
        )
        return True

    def all_entered(self) -> bool:
        """Take what is typed into a field and not entered; False, and said, where it cannot be read."""
        field = pending()
        if field is None or field.enter():
            return True
        self.message.say(f"“{field.text()}” cannot be read: correct it, or take it back with Esc.")
        return False

    def choose_file(self) -> None:
        """Ask for a file."""
        name, _ = QFileDialog.getOpenFileName(self, "Open a design", str(self._folder()), FILTER)
        if name:
            self.open_file(Path(name))

    def open_file(self, path: Path) -> bool:
        """Open a file, or say in one sentence why not."""
        try:
            system, record = files.load_all(path)
        except FuenteError as error:
            self.message.say(in_units(str(error), self.workspace.units if self.workspace else UnitSystem.METRIC))
            return False
        opened = False

        def show(solved: Solved | None) -> None:
            nonlocal opened
            opened = self._may_leave()
            if opened:
                self.set_document(system, path, record=record, solved=solved)

        return self.opening.solved(system, path.name, show) and (opened or self.opening.waits)

    def save(self) -> bool:
        """Save, asking for a name the first time."""
        if self.workspace is None or not self.all_entered():
            return False
        if self.workspace.path is None:
            return self.save_as()
        return self._save_to(self.workspace.path)

    def save_as(self) -> bool:
        """Save under another name."""
        if self.workspace is None or not self.all_entered():
            return False
        start = self._folder() / f"{self.workspace.system.name or 'design'}{files.SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(self, "Save the design", str(start), FILTER)
        if not name:
            return False
        path = Path(name)
        return self._save_to(path if path.suffix else path.with_suffix(files.SUFFIX))

    def _save_to(self, path: Path) -> bool:
        assert self.workspace is not None
        try:
            self.workspace.save(path)
        except ChangedElsewhere as error:
            return self._changed_elsewhere(path, str(error))
        except FuenteError as error:
            self.message.say(str(error))
            return False
        settings.remember(path)
        self.message.clear()
        return True

    def _changed_elsewhere(self, path: Path, sentence: str) -> bool:
        """Ask what becomes of a file that is not what it was; whether the design is saved then."""
        assert self.workspace is not None
        box = QMessageBox(self)
        box.setWindowTitle("Fuente")
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setText(sentence)
        box.setInformativeText("Keep both by saving this design under another name?")
        copy = box.addButton("Save as a copy …", QMessageBox.ButtonRole.AcceptRole)
        over = box.addButton("Write over it", QMessageBox.ButtonRole.DestructiveRole)
        again = box.addButton("Read the file again", QMessageBox.ButtonRole.ResetRole)
        box.addButton(QMessageBox.StandardButton.Cancel)
        again.setEnabled(path.is_file())
        box.setDefaultButton(copy)
        box.exec()
        chosen = box.clickedButton()
        if chosen is copy:
            return self.save_as()
        if chosen is again:
            return self._read_again(path)
        if chosen is over:
            try:
                self.workspace.session.save(path, over=True)
            except FuenteError as error:
                self.message.say(str(error))
                return False
            self.message.clear()
            return True
        return False

    def _read_again(self, path: Path) -> bool:
        """What the file holds now, in the place of what is open."""
        try:
            system, record = files.load_all(path)
        except FuenteError as error:
            self.message.say(in_units(str(error), self.workspace.units if self.workspace else UnitSystem.METRIC))
            return False

        def show(solved: Solved | None) -> None:
            if self.workspace is not None:
                self.workspace.session.abandon()
            self.set_document(system, path, record=record, solved=solved)

        return self.opening.solved(system, path.name, show)

    def close_document(self) -> None:
        """Back to the start page."""
        if self.workspace is not None and self._may_leave():
            self._leave()
            self.start.refresh()
            self._show_state()

    def _may_leave(self) -> bool:
        """Ask before unsaved work is left. What has a file is saved as it goes."""
        if not self.all_entered():
            return False
        w = self.workspace
        if w is None:
            return True
        if w.path is not None:
            if not w.dirty:
                return True
            if saves_by_itself():
                return self._save_to(w.path)
            return self._ask_to_save(f"“{w.path.name}” is behind what is open.")
        if not (w.history.undo_name or w.record.entries):
            return True
        return self._ask_to_save(f"“{w.system.name}” has no file yet.")

    def _ask_to_save(self, sentence: str) -> bool:
        """Save, leave it, or stay; whether the design may be left."""
        w = self.workspace
        assert w is not None
        box = QMessageBox(self)
        box.setWindowTitle("Fuente")
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setText(sentence)
        box.setInformativeText("Save it before you leave it?")
        box.setStandardButtons(
            QMessageBox.StandardButton.Save | QMessageBox.StandardButton.Discard | QMessageBox.StandardButton.Cancel
        )
        answer = box.exec()
        if answer == QMessageBox.StandardButton.Save:
            return self.save()
        if answer == QMessageBox.StandardButton.Discard:
            w.session.abandon()
            return True
        return False

    saving_action: QAction

    def switch_saving(self) -> None:
        """Write the file as you go on, or only by the command."""
        by_itself = self.saving_action.isChecked()
        settings.keep("saving", "by itself" if by_itself else "by hand")
        if self.workspace is not None:
            self.workspace.session.filing.by_itself = by_itself
            if by_itself:
                self.workspace.session.autosave()
        self.message.say(
            "A design that has a file is written to it a second and a half after each edit."
            if by_itself
            else "The file is written when you save. Edits are still kept against a crash."
        )
        self._show_state()

    def offer_recovery(self) -> None:
        """Unsaved work of windows that ended without closing comes back if the builder wants it; until that is said of
        each, it is kept.
        """
        found = journal.orphans()
        if not found:
            return
        newest = found[0]
        name = newest.system.name or "A design"
        if len(found) > 1:
            words = f"{len(found)} designs were open when Fuente ended without closing, the last of them “{name}”."
            self.message.ask(words, "Look at them", self.open_recovery, "Later", lambda: None)
            return

        def drop() -> None:
            journal.discard(newest)

        words = (
            f"“{name}” was open when Fuente ended without closing, {when(newest)}. Its last edit was “{newest.edit}”."
        )
        self.message.ask(words, "Bring it back", lambda: self._bring_back(newest), "Forget it", drop)

    def open_recovery(self) -> None:
        """The list of unsaved work."""
        from fuente.ui.recovery import RecoveryDialog

        dialog = RecoveryDialog(self._bring_back, self)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.recovery = dialog
        dialog.open()

    def _bring_back(self, one: Recovered) -> bool:
        """Open one; whether the builder let go of what was open."""
        if not self._may_leave():
            return False

        def show(solved: Solved | None) -> None:
            self.set_document(one.system, one.file, record=one.record, solved=solved)
            assert self.workspace is not None
            self.workspace.session.recovered()
            if one.file is None:
                self.workspace.book.adopt(one.journal.stem)
            journal.discard(one)

        return self.opening.solved(one.system, one.system.name or "A design", show)

    def _folder(self) -> Path:
        known = settings.recent()
        if self.workspace and self.workspace.path:
            return self.workspace.path.parent
        return known[0].parent if known else Path.home()

    def fill_recent(self) -> None:
        """The files that were open lately."""
        self.recent_menu.clear()
        for path in settings.recent():
            self.recent_menu.addAction(path.name.replace("&", "&&"), partial(self.open_file, path))
        if self.recent_menu.isEmpty():
            self.recent_menu.addAction("None yet").setEnabled(False)

    def _refused(self, sentence: str) -> None:
        if self.stage != "water":
            self.message.say(sentence)
