"""The main window: bar, stages, menus, files."""

from __future__ import annotations

import datetime
from collections.abc import Callable
from pathlib import Path
from typing import Any

from PySide6.QtCore import QCoreApplication, QEvent, Qt
from PySide6.QtGui import QAction, QCloseEvent, QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import (
    QApplication,
    QMessageBox,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from fuente.ui import copying, menus, parts_of_page, settings, theme
from fuente.ui.as_used import saves_by_itself
from fuente.ui.document_window import DocumentWindow
from fuente.ui.message import Message
from fuente.ui.opening import Opening
from fuente.ui.stage_page import StagePage
from fuente.ui.stages import STAGES
from fuente.ui.start_page import StartPage
from fuente.ui.topbar import TopBar
from fuente.ui.water_path import WaterPath
from fuente.ui.workspace import Workspace
from fuente.units import UnitSystem

TEXT_SIZES = (0.85, 1.0, 1.15, 1.3, 1.5, 1.75, 2.0)


class MainWindow(DocumentWindow):
    """One window, one document."""

    save_action: QAction
    save_as_action: QAction
    undo_action: QAction
    redo_action: QAction

    def __init__(self) -> None:
        super().__init__()
        self.setWindowTitle("Fuente")
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        self.workspace: Workspace | None = None
        self.opening = Opening(self)
        self.stage = "water"
        self._pages: dict[str, StagePage] = {}
        self._kept: dict[str, dict[str, Any]] = {}
        self._palette: QWidget | None = None
        menus.build(self)
        self._build()
        place = settings.geometry()
        if place is not None:
            self.restoreGeometry(place)
        self._show_state()

    # -- building -------------------------------------------------------------------------------------------------

    def _build(self) -> None:
        """Bar, message line and pages; built again when theme or text size change."""
        for page in self._pages.values():
            page.deleteLater()
        self._pages = {}
        holder = QWidget(self)
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.bar = TopBar()
        self.bar.stage_chosen.connect(self.show_stage)
        self.bar.units_wanted.connect(self.switch_units)
        self.bar.answers_wanted.connect(self.open_answers)
        column.addWidget(self.bar)
        self.message = Message()
        column.addWidget(self.message)
        self.stack = QStackedWidget(holder)
        column.addWidget(self.stack, 1)
        self.start = StartPage(self.stack)
        self.start.new_wanted.connect(self.new)
        self.start.open_wanted.connect(self.choose_file)
        self.start.file_wanted.connect(self.open_file)
        self.start.demo_wanted.connect(self.open_demo)
        self.stack.addWidget(self.start)
        self.setCentralWidget(holder)
        holder.show()  # a window that is seen already shows it a turn later: pages would take themselves for unseen

    def export(self, suffix: str, act: Callable[..., None]) -> None:
        """Write one of the build's files."""
        if self.workspace is not None:
            self.show_stage("build")
            self.page("build").files.ask(suffix, act)  # type: ignore[attr-defined]

    def undo(self) -> None:
        """Take the last edit back."""
        if self.workspace is not None:
            self.workspace.undo()

    def redo(self) -> None:
        """Make it again."""
        if self.workspace is not None:
            self.workspace.redo()

    def switch_plan(self) -> None:
        """The plan instead of the section of the Water path, and back."""
        if self.workspace is not None:
            self.show_stage("water")
            self.page("water").switch_plan()  # type: ignore[attr-defined]

    def open_bench(self) -> None:
        """One step of the build a screen."""
        if self.workspace is not None:
            self.show_stage("build")
            self.page("build").open_bench()  # type: ignore[attr-defined]

    def page(self, key: str) -> StagePage:
        """A stage's page, made when it is first shown."""
        assert self.workspace is not None
        if key not in self._pages:
            stage = STAGES[key]
            made = stage.made(self.workspace, self.stack)
            if stage.gallery:
                made.gallery_wanted.connect(self.open_gallery)
            if key == "water":
                made.swap_wanted.connect(lambda swap: self.open_gallery("", swap))
            if stage.layouts:
                made.layout_taken.connect(lambda: self.show_stage("water"))
            self._pages[key] = made
            self.stack.addWidget(made)
            made.resume(self._kept.pop(key, {}))
        return self._pages[key]

    # -- views ----------------------------------------------------------------------------------------------------

    def show_stage(self, key: str) -> None:
        """Go to a stage."""
        if self.workspace is None or not self.all_entered():
            return
        title = STAGES[key].title.replace("&&", "&")
        if not self.opening.prepared(self.workspace, key, title, lambda: self.show_stage(key)):
            return
        self.stage = key
        page = self.page(key)
        self.stack.setCurrentWidget(page)
        page.catch_up()
        if isinstance(page, WaterPath):
            page.list.setFocus()
        self._show_state()

    def show_situation(self, name: str) -> None:
        """Show the water in a situation."""
        if self.workspace is not None:
            self.workspace.show(name)

    def open_gallery(self, tank: str = "", swap: str = "") -> None:
        """Choose a kind of filter by its picture, for a tank or the one that is looked at, or in another's place."""
        if self.workspace is None:
            return
        from fuente.ui.gallery import Gallery

        self.show_stage("water")
        gallery = Gallery(self.workspace, tank or self.workspace.tank_in_view(), self, swap)
        gallery.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        gallery.open()

    def enter_rack(self) -> None:
        """The form for a rack of tanks, in the brief."""
        if self.workspace is not None:
            self.show_stage("brief")
            self.page("brief").enter_rack()  # type: ignore[attr-defined]

    def switch_units(self) -> None:
        """Metric to US and back."""
        if self.workspace is not None:
            other = UnitSystem.METRIC if self.workspace.units == UnitSystem.US else UnitSystem.US
            self.workspace.set_units(other)
            settings.keep("units", other)

    def switch_theme(self) -> None:
        """Light to dark and back."""
        self._retheme("light" if theme.current().name == "dark" else "dark", theme.scale())

    def switch_motion(self) -> None:
        """Levels slide to a new situation, or stand there at once."""
        settings.keep("motion", "on" if settings.choice("motion", "on") == "off" else "off")

    def zoom(self, way: int) -> None:
        """Text larger, smaller, or as usual."""
        at = min(range(len(TEXT_SIZES)), key=lambda i: abs(TEXT_SIZES[i] - theme.scale()))
        size = 1.0 if way == 0 else TEXT_SIZES[min(max(at + way, 0), len(TEXT_SIZES) - 1)]
        self._retheme(theme.current().name, size)

    def _retheme(self, name: str, size: float) -> None:
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        # The pages are built anew: a style that first goes through all of the old ones takes seconds.
        self._kept.update({key: page.kept() for key, page in self._pages.items()})
        for page in self._pages.values():
            self.stack.removeWidget(page)
            page.deleteLater()
        self._pages = {}
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
        theme.apply(app, name, size)
        settings.keep("theme", name)
        settings.keep("text", f"{size:g}")
        self._build()
        if self.workspace is not None:
            self.show_stage(self.stage)
        else:
            self._show_state()

    def open_answers(self) -> None:
        """The quick-answer palette."""
        from fuente.ui.palette import AnswerPalette

        units = self.workspace.units if self.workspace else UnitSystem.METRIC
        palette = AnswerPalette(units, self)
        palette.open()
        self._palette = palette

    def open_help(self) -> None:
        """The list of keys."""
        from fuente.ui.help import HelpDialog

        dialog = HelpDialog(self)
        dialog.open()
        self._palette = dialog

    def about(self) -> None:
        """What this is."""
        from fuente import __version__

        QMessageBox.about(
            self,
            "Fuente",
            f"Fuente {__version__}\n\nDesigns and proves home-built aquarium and pond filtration.\nStructural results"
            " are estimates for planning, not an engineer's certificate. Type: Inter, under the SIL Open Font"
            " License.",
        )

    def walk(self, way: int) -> None:
        """To the next station along the water, or the one before."""
        w = self.workspace
        if w is None:
            return
        ids = [s.id for s in w.stations]
        at = ids.index(w.selected) if w.selected in ids else 0
        w.select(ids[min(max(at + way, 0), len(ids) - 1)])

    def walk_parts(self, way: int) -> None:
        """To the next part of the page, or the one before."""
        page = self.stack.currentWidget()
        if page is not None:
            parts_of_page.walk(page, way)

    def look_closely(self) -> None:
        """The chosen station as near as it fits, and all of it again."""
        if self.workspace is not None:
            self.show_stage("water")
            self.page("water").look_closely()  # type: ignore[attr-defined]

    # -- clipboard and paper --------------------------------------------------------------------------------------

    def copy(self) -> None:
        """What has the focus, as words or as a drawing."""
        self._copied(copying.copy_here(self), "Choose a row, a finding or the drawing first; then it can be copied.")

    def copy_all(self) -> None:
        """The whole table that has the focus."""
        self._copied(copying.copy_table(self), "Choose a row of a table first; then the whole table can be copied.")

    def copy_drawing(self) -> None:
        """The drawing of the page that is shown."""
        page = self.stack.currentWidget()
        shown = [w for w in page.findChildren(QWidget) if hasattr(w, "draws_itself") and w.isVisible()] if page else []
        if shown:
            copying.copy_picture(max(shown, key=lambda w: w.width() * w.height()))
        self._copied("Drawing" if shown else "", "There is no drawing on this page.")

    def _copied(self, what: str, otherwise: str) -> None:
        self.message.say(f"{what} copied." if what else otherwise)

    def print_page(self) -> None:
        """The page that is shown on paper, dark on light."""
        if self.workspace is None:
            return
        from PySide6.QtPrintSupport import QPrintDialog

        from fuente.ui.printing import print_widget, printer_for

        printer = printer_for(self.workspace.units)
        if not QPrintDialog(printer, self).exec():
            return
        dark = theme.current().name == "dark"
        if dark:
            self._retheme("light", theme.scale())
        title = f"{self.workspace.system.name} · {STAGES[self.stage].title.replace('&&', '&')}"
        if not print_widget(self.page(self.stage), printer, title, datetime.date.today()):
            self.message.say("The printer did not begin. Is it there, or can the file be written?")
        if dark:
            self._retheme("dark", theme.scale())

    def _show_state(self) -> None:
        w = self.workspace
        opened = w is not None
        self.bar.show_stage(self.stage, opened)
        self.bar.units.setVisible(opened)
        for action in (self.save_action, self.save_as_action):
            action.setEnabled(opened)
        undo = w.history.undo_name if w else ""
        redo = w.history.redo_name if w else ""
        for action, verb, name in ((self.undo_action, "&Undo", undo), (self.redo_action, "&Redo", redo)):
            told = f"{name[:1].lower()}{name[1:]}".replace("&", "&&")
            action.setText(f"{verb} {told}".strip())
        self.undo_action.setEnabled(bool(undo))
        self.redo_action.setEnabled(bool(redo))
        if w is None:
            self.stack.setCurrentWidget(self.start)
            self.start.setFocus()
            self.bar.show_document("Fuente", "", "", UnitSystem.METRIC)
            self.setWindowTitle("Fuente")
            return
        if w.save_error:
            state = "not saved"
            self.message.say(w.save_error)
        elif w.path is None:
            state = "no file yet"
        else:
            state = "saved" if not w.dirty else "saving" if saves_by_itself() else "changed, not saved"
        if w.session.coming is not None:
            state = "working out the water …"
        self.bar.show_document(w.system.name, w.system.place, state, w.units)
        self.setWindowTitle(f"{w.system.name} — Fuente")

    # -- events ---------------------------------------------------------------------------------------------------

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        """Files may be dropped."""
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        """Open what was dropped."""
        for url in event.mimeData().urls():
            if url.isLocalFile():
                path = Path(url.toLocalFile())
                if path.suffix.lower() == ".csv":
                    self.load_curve(path)
                else:
                    self.open_file(path)
                event.acceptProposedAction()
                return

    def closeEvent(self, event: QCloseEvent) -> None:
        """Save, or ask; remember the place."""
        if not self._may_leave():
            event.ignore()
            return
        if self.workspace is not None:
            self.remember()
            self.workspace.close()
        settings.keep_geometry(self.saveGeometry())
        event.accept()
