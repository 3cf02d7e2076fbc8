"""The page without a document: begin, recent files, demos, and what a crash left."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QHideEvent, QShowEvent
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from fuente.demo import DEMOS, TEXTS
from fuente.drawing.primitives import Drawing
from fuente.shown.section import section
from fuente.study.known import analysed
from fuente.ui import settings, theme
from fuente.ui.jobs import Job
from fuente.ui.label import Label
from fuente.ui.section_view import SectionView
from fuente.units import UnitSystem

_COLUMNS = 3


class StartPage(QWidget):
    """Says what to do first."""

    new_wanted = Signal()
    open_wanted = Signal()
    file_wanted = Signal(object)
    demo_wanted = Signal(str)

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(theme.px(72), theme.px(32), theme.px(64), theme.px(16))
        self._row.setSpacing(theme.px(72))
        self._page: QWidget | None = None
        self._pictures: dict[str, SectionView] = {}  # by demo
        self._job: Job | None = None
        self._area: QScrollArea | None = None

    def showEvent(self, event: QShowEvent) -> None:
        """Made when it is first seen: a start with a file does not wait for it."""
        if self._page is None:
            self.refresh()
        elif self._job is None:
            self._paint_next()
        super().showEvent(event)

    def hideEvent(self, event: QHideEvent) -> None:
        """What is opened instead has the machine to itself."""
        self._stop()
        super().hideEvent(event)

    def refresh(self) -> None:
        """Read the recent files again."""
        self._stop()
        self._pictures = {}
        if self._area is not None:
            self._row.removeWidget(self._area)
            self._area.deleteLater()
        area = QScrollArea(self)  # two rows of demos in large text are higher than a small screen
        self._page = QWidget(area.viewport())
        column = QVBoxLayout(self._page)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(12))
        row = QHBoxLayout()
        row.setSpacing(theme.px(72))
        row.addLayout(self._begin(), 1)
        row.addLayout(self._lists(), 1)
        column.addLayout(row)
        column.addWidget(_section("Demos to walk through"))
        column.addLayout(self._demos())
        column.addStretch(1)
        area.setWidgetResizable(True)
        area.setFrameShape(QScrollArea.Shape.NoFrame)
        area.setWidget(self._page)
        self._page.setObjectName("panel")
        self._area = area
        self._row.addWidget(area)
        self._paint_next()

    def _begin(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(theme.px(12))
        name = Label("Fuente")
        name.setStyleSheet(f"font-size: {theme.px(30)}px; font-weight: 600;")
        column.addWidget(name)
        words = Label(
            "Describe a tank and the room under it, have a filter laid out, and see where the water stands while it"
            " runs and when the power fails."
        )
        words.setWordWrap(True)
        words.setMaximumWidth(theme.px(440))
        column.addWidget(words)
        column.addSpacing(theme.px(8))
        new = QPushButton("Describe a tank")
        new.setObjectName("primary")
        new.clicked.connect(self.new_wanted)
        open_ = QPushButton("Open a file…")
        open_.clicked.connect(self.open_wanted)
        for button in (new, open_):
            button.setFixedWidth(theme.px(220))
            column.addWidget(button)
        hint = Label("Or drop a .fuente file here. F1 lists the keys, Ctrl K answers one question without a design.")
        hint.setObjectName("quiet")
        hint.setWordWrap(True)
        hint.setMaximumWidth(theme.px(440))
        column.addWidget(hint)
        column.addStretch(1)
        return column

    def _lists(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(theme.px(6))
        files = settings.recent()
        column.addWidget(_section("Recent files"))
        if not files:
            none = Label("None yet. What you save appears here.")
            none.setObjectName("quiet")
            column.addWidget(none)
        for path in files:
            column.addWidget(self._entry(path.stem, str(path.parent), lambda p=path: self.file_wanted.emit(Path(p))))
        column.addStretch(1)
        return column

    def _demos(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setHorizontalSpacing(theme.px(24))
        grid.setVerticalSpacing(theme.px(6))
        for n, key in enumerate(DEMOS):
            title, words = TEXTS[key]
            column = QVBoxLayout()
            column.setSpacing(theme.px(4))
            column.addWidget(self._picture(key))
            column.addWidget(self._entry(title, words.replace(" L", "\u00a0L"), lambda k=key: self.demo_wanted.emit(k)))
            column.addStretch(1)
            grid.addLayout(column, n // _COLUMNS, n % _COLUMNS)
            grid.setColumnStretch(n % _COLUMNS, 1)
        return grid

    def _picture(self, key: str) -> SectionView:
        """The demo in section; a click opens it."""
        view = SectionView(self._page)
        view.editable, view.wordless = False, True
        view.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        view.setMinimumWidth(theme.px(180))
        view.setFixedHeight(min(theme.px(136), 300))
        view.setCursor(Qt.CursorShape.PointingHandCursor)
        view.setToolTip("Open this demo")
        self._pictures[key] = view
        view.clicked.connect(lambda: self.demo_wanted.emit(key))
        return view

    def _paint_next(self) -> None:
        """The pictures one after the other, aside: to solve six demos takes longer than to read their names."""
        key = next((k for k, view in self._pictures.items() if not view.drawing().shapes), None)
        if key is None:
            self._job = None
            return

        def put(drawing: Drawing) -> None:
            self._pictures[key].show_drawing(drawing, UnitSystem.METRIC, "", "")
            self._paint_next()

        self._job = Job(lambda tell: _drawn(key), self).hear(put, lambda why: None)
        self._job.start()

    def paint_now(self) -> None:
        """All of them at once: for pictures of this page."""
        self._stop()
        for key, view in self._pictures.items():
            view.show_drawing(_drawn(key), UnitSystem.METRIC, "", "")

    def _stop(self) -> None:
        if self._job is not None:
            self._job.stopped, self._job = True, None

    def _entry(self, title: str, words: str, act) -> QWidget:  # type: ignore[no-untyped-def]
        holder = QWidget(self._page)
        box = QVBoxLayout(holder)
        box.setContentsMargins(0, theme.px(4), 0, theme.px(4))
        box.setSpacing(0)
        button = QPushButton(title)
        button.setObjectName("fold")
        button.setCursor(Qt.CursorShape.PointingHandCursor)
        button.clicked.connect(lambda _=False: act())
        text = Label(words)
        text.setObjectName("quiet")
        text.setWordWrap(True)
        box.addWidget(button, 0, Qt.AlignmentFlag.AlignLeft)
        box.addWidget(text)
        return holder


def _drawn(key: str) -> Drawing:
    """A demo in section."""
    analysis = analysed(DEMOS[key]())
    return section(analysis, analysis.situation("running"))


def _section(words: str) -> QLabel:
    label = Label(words)
    label.setObjectName("section")
    return label
