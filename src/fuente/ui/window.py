"""The main window: bar, stages, menus, files."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

from PySide6.QtCore import QCoreApplication, QEvent, Qt
from PySide6.QtGui import QAction, QCloseEvent, QDragEnterEvent, QDropEvent, QKeySequence
from PySide6.QtWidgets import (
    QApplication,
    QMenu,
    QMessageBox,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from fuente.demo import DEMOS
from fuente.study.situations import TITLES
from fuente.ui import settings, theme
from fuente.ui.document_window import DocumentWindow, saves_by_itself
from fuente.ui.exports import FILES
from fuente.ui.message import Message
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

    def __init__(self) -> None:
        super().__init__()
        self.setWindowTitle("Fuente")
        self.setAcceptDrops(True)
        self.resize(1280, 800)
        self.workspace: Workspace | None = None
        self.stage = "water"
        self._pages: dict[str, StagePage] = {}
        self._kept: dict[str, dict[str, Any]] = {}
        self._palette: QWidget | None = None
        self._menus()
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
        holder = QWidget()
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
        self.stack = QStackedWidget()
        column.addWidget(self.stack, 1)
        self.start = StartPage()
        self.start.new_wanted.connect(self.new)
        self.start.open_wanted.connect(self.choose_file)
        self.start.file_wanted.connect(self.open_file)
        self.start.demo_wanted.connect(self.open_demo)
        self.stack.addWidget(self.start)
        self.setCentralWidget(holder)

    def _menus(self) -> None:
        bar = self.menuBar()
        file = bar.addMenu("&File")
        self._add(file, "&New design", "Ctrl+N", self.new)
        self._add(file, "&Open…", QKeySequence.StandardKey.Open, self.choose_file)
        self.recent_menu = file.addMenu("Open &recent")
        self.recent_menu.aboutToShow.connect(self._fill_recent)
        self._add(file, "Unsaved &work…", None, self.open_recovery)
        demos = file.addMenu("&Demos")
        for key in DEMOS:
            self._add(demos, key.replace("-", " ").capitalize(), None, partial(self.open_demo, key))
        file.addSeparator()
        self.save_action = self._add(file, "&Save", QKeySequence.StandardKey.Save, self.save)
        self.saving_action = self._add(file, "Sa&ve as you go", None, self._switch_saving)
        self.saving_action.setCheckable(True)
        self.saving_action.setChecked(saves_by_itself())
        self.save_as_action = self._add(file, "Save &as…", "Ctrl+Shift+S", self.save_as)
        exports = file.addMenu("&Export")
        for name, suffix, act, _, keys in FILES:
            self._add(exports, name, keys or None, partial(self._export, suffix, act))
        file.addSeparator()
        self._add(file, "&Close design", "Ctrl+W", self.close_document)
        self._add(file, "&Quit", "Ctrl+Q", self.close)
        edit = bar.addMenu("&Edit")
        self.undo_action = self._add(
            edit, "Undo", QKeySequence.StandardKey.Undo, lambda: self.workspace and self.workspace.undo()
        )
        self.redo_action = self._add(edit, "Redo", "Ctrl+Shift+Z", lambda: self.workspace and self.workspace.redo())
        edit.addSeparator()
        self._add(edit, "Add a filter…", "Ctrl+Shift+F", self.open_gallery)
        self._add(edit, "Put up a rack…", "Ctrl+R", self.enter_rack)
        view = bar.addMenu("&View")
        for number, (key, stage) in enumerate(STAGES.items(), 1):
            self._add(view, stage.title, f"Ctrl+{number}", partial(self.show_stage, key))
        self._add(view, "&Plan or section", "F3", self.switch_plan)
        self._add(view, "&Bench mode", "F5", self.open_bench)
        view.addSeparator()
        self._add(view, "Previous station", "Alt+Left", lambda: self._walk(-1))
        self._add(view, "Next station", "Alt+Right", lambda: self._walk(1))
        cases = view.addMenu("Situation")
        for number, (key, name) in enumerate(TITLES.items(), 1):
            self._add(cases, name, f"Ctrl+Alt+{number}", partial(self._situation, key))
        view.addSeparator()
        self._add(view, "Metric or US units", "Ctrl+U", self.switch_units)
        self._add(view, "Light or dark theme", "Ctrl+D", self.switch_theme)
        self._add(view, "Sliding levels on or off", None, self.switch_motion)
        self._add(view, "Larger text", QKeySequence.StandardKey.ZoomIn, lambda: self.zoom(1))
        self._add(view, "Smaller text", QKeySequence.StandardKey.ZoomOut, lambda: self.zoom(-1))
        self._add(view, "Reset text size", "Ctrl+0", lambda: self.zoom(0))
        help_ = bar.addMenu("&Help")
        self._add(help_, "Quick answer…", "Ctrl+K", self.open_answers)
        self._add(help_, "Keyboard shortcuts", "F1", self.open_help)
        self._add(help_, "About", None, self.about)

    def _switch_saving(self) -> None:
        self.switch_saving(self.saving_action.isChecked())

    def _export(self, suffix: str, act: Callable[..., None]) -> None:
        """Write one of the build's files."""
        if self.workspace is not None:
            self.show_stage("build")
            self.page("build").files.ask(suffix, act)  # type: ignore[attr-defined]

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

    def _add(self, menu: QMenu, text: str, shortcut: Any, act: Callable[..., object]) -> QAction:
        action = QAction(text, self)
        if shortcut:
            action.setShortcut(shortcut)

        def entered() -> None:
            if self._all_entered():
                act()

        action.triggered.connect(lambda _=False: entered())
        menu.addAction(action)
        self.addAction(action)
        return action

    def page(self, key: str) -> StagePage:
        """A stage's page, made when it is first shown."""
        assert self.workspace is not None
        if key not in self._pages:
            stage = STAGES[key]
            made = stage.made(self.workspace)
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
        if self.workspace is None or not self._all_entered():
            return
        self.stage = key
        page = self.page(key)
        self.stack.setCurrentWidget(page)
        if isinstance(page, WaterPath):
            page.list.setFocus()
        self._show_state()

    def _situation(self, name: str) -> None:
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

    def _walk(self, way: int) -> None:
        w = self.workspace
        if w is None:
            return
        ids = [s.id for s in w.stations]
        at = ids.index(w.selected) if w.selected in ids else 0
        w.select(ids[min(max(at + way, 0), len(ids) - 1)])

    def _show_state(self) -> None:
        w = self.workspace
        opened = w is not None
        self.bar.show_stage(self.stage, opened)
        self.bar.units.setVisible(opened)
        for action in (self.save_action, self.save_as_action):
            action.setEnabled(opened)
        undo = w.history.undo_name if w else ""
        redo = w.history.redo_name if w else ""
        self.undo_action.setText(f"Undo {undo[:1].lower()}{undo[1:]}" if undo else "Undo")
        self.redo_action.setText(f"Redo {redo[:1].lower()}{redo[1:]}" if redo else "Redo")
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
            self.workspace.close()
        settings.keep_geometry(self.saveGeometry())
        event.accept()
