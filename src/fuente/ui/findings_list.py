"""What Fuente would change: sentences, each with a reason and a button that makes the change."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from fuente.devices.base import Finding, Rank
from fuente.ui import glyphs, theme
from fuente.ui.label import Label
from fuente.ui.put_in import put_in
from fuente.units import UnitSystem


class _Sign(QWidget):
    def __init__(self, rank: Rank):
        super().__init__()
        self._rank = rank
        self.setFixedSize(theme.px(16), theme.px(20))

    def paintEvent(self, event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        tone = theme.color(("stop", "pumped", "accent")[self._rank])
        glyphs.paint_rank(p, self._rank, QPointF(self.width() / 2, self.height() / 2), theme.px(8), tone)
        p.end()


class _Sentence(Label):
    clicked = Signal()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self.clicked.emit()


class FindingRow(QFrame):
    """One finding: rank, sentence, action; the reason opens under it."""

    def __init__(
        self, finding: Finding, units: UnitSystem, owner: FindingsList, narrow: bool, parent: QWidget | None = None
    ):
        super().__init__(parent)
        self.finding = finding
        grid = QGridLayout(self)
        grid.setContentsMargins(0, theme.px(3), 0, theme.px(3))
        grid.setHorizontalSpacing(theme.px(8))
        grid.setVerticalSpacing(0)
        grid.setColumnStretch(2, 1)
        rank = Label(finding.rank.word)
        tone = ("stop", "pumped_text", "fall_text")[finding.rank]
        rank.setStyleSheet(f"color: {getattr(theme.current(), tone)}; font-weight: 600; font-size: {theme.px(12)}px;")
        rank.setFixedWidth(theme.px(58))
        self.text = _Sentence(finding.filled(units))
        self.text.setWordWrap(True)
        self.text.setCursor(Qt.CursorShape.PointingHandCursor)
        self.text.setToolTip("Show why")
        self.text.clicked.connect(lambda: owner.toggle(self))
        grid.addWidget(_Sign(finding.rank), 0, 0, Qt.AlignmentFlag.AlignTop)
        grid.addWidget(rank, 0, 1, Qt.AlignmentFlag.AlignTop)
        grid.addWidget(self.text, 0, 2)
        self.why_button = QPushButton("Why")
        self.why_button.setObjectName("link")
        self.why_button.setFixedWidth(theme.px(44))
        self.why_button.setAccessibleName("Why: " + finding.filled(units))
        self.why_button.clicked.connect(lambda: owner.toggle(self))
        if narrow:
            below = QHBoxLayout()
            below.addWidget(self.why_button)
            grid.addLayout(below, 1, 2, Qt.AlignmentFlag.AlignLeft)
        else:
            grid.addWidget(self.why_button, 0, 3, Qt.AlignmentFlag.AlignTop)
        self.action: QPushButton | None = None
        if finding.edit and finding.action:
            self.action = QPushButton(finding.offer(units))
            self.action.setObjectName("link")
            self.action.setCursor(Qt.CursorShape.PointingHandCursor)
            self.action.setAccessibleName(f"{finding.offer(units)}: {finding.filled(units)}")
            self.action.clicked.connect(lambda: owner.fix.emit(self.finding))
            if narrow:
                below.addWidget(self.action)
            else:
                self.action.setMinimumWidth(theme.px(118))
                grid.addWidget(self.action, 0, 4, Qt.AlignmentFlag.AlignTop)
        elif not narrow:
            spacer = QWidget()
            spacer.setMinimumWidth(theme.px(118))
            grid.addWidget(spacer, 0, 4)
        self.why = Label(finding.reason(units))
        self.why.setObjectName("subheading")
        self.why.setWordWrap(True)
        self.why.hide()
        grid.addWidget(self.why, 2, 2, 1, 3)

    def copied_words(self) -> tuple[str, str]:
        """The finding with its rank and its reason."""
        return "Finding", f"{self.finding.rank.word}: {self.text.text()}\n{self.why.text()}"

    def follow(self, finding: Finding, units: UnitSystem) -> None:
        """The same finding with other numbers."""
        self.finding = finding
        text = finding.filled(units)
        self.text.setText(text)
        self.why.setText(finding.reason(units))
        self.why_button.setAccessibleName("Why: " + text)
        if self.action is not None:
            self.action.setText(finding.offer(units))
            self.action.setAccessibleName(f"{finding.offer(units)}: {text}")


class FindingsList(QWidget):
    """The list with its count."""

    fix = Signal(object)
    picked = Signal(str)

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setAccessibleName("What Fuente would change")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(16), theme.px(8), theme.px(10), theme.px(4))
        column.setSpacing(theme.px(2))
        self.head = Label()
        self.head.setObjectName("section")
        column.addWidget(self.head)
        self.area = QScrollArea(self)
        self.area.setWidgetResizable(True)
        self.area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        column.addWidget(self.area, 1)
        self.rows: list[FindingRow] = []
        self.checking = False
        self.trying: Finding | None = None
        self._key: tuple[object, ...] = ()
        self._shape: tuple[object, ...] = ()
        self._open = ""
        self._last: tuple[tuple[Finding, ...], UnitSystem] | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)

    def sizeHint(self) -> QSize:
        """Room for four sentences."""
        return QSize(400, theme.px(158))

    def show_findings(
        self, found: tuple[Finding, ...], units: UnitSystem, checking: bool = False, trying: Finding | None = None
    ) -> None:
        """Follow the analysis; ``checking`` says that the design is still being looked at, ``trying`` whose remedy is
        being tried on it.
        """
        self._last = (found, units)
        self.checking = checking
        self.trying = trying
        self.head.setText(self._heading(found))
        narrow = self.width() < theme.px(520)
        key = (
            narrow,
            tuple((f.code, f.filled(units), f.reason(units), f.action, f.edit) for f in found),
            bool(found) or checking,
            units,
            theme.scale(),
            theme.current().name,
        )
        if key == self._key:
            return
        self._key = key
        shape = (
            narrow,
            tuple((f.code, f.rank, f.owner, bool(f.edit and f.action)) for f in found),
            theme.scale(),
            theme.current().name,
        )
        if shape == self._shape and found:
            for row, finding in zip(self.rows, found, strict=True):
                row.follow(finding, units)
            return
        self._shape = shape
        page = QWidget(self.area.viewport())
        page.setObjectName("panel")
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, theme.px(6), 0)
        column.setSpacing(0)
        self.rows = []
        for finding in found:
            row = FindingRow(finding, units, self, narrow, page)
            column.addWidget(row)
            self.rows.append(row)
            if finding.code + finding.owner == self._open:
                row.why.show()
        if not found:
            fine = "Every situation leaves the margins that you asked for. Move a handle and watch this list."
            empty = Label("Every situation is being looked at …" if checking else fine)
            empty.setObjectName("subheading")
            empty.setWordWrap(True)
            column.addWidget(empty)
        column.addStretch(1)
        at = self.area.verticalScrollBar().value()
        put_in(self.area, page)
        self.area.verticalScrollBar().setValue(at)

    def _heading(self, found: tuple[Finding, ...]) -> str:
        counts = [sum(f.rank == r for f in found) for r in Rank]
        words = [f"{n} to {w}" for n, w in zip(counts, ("stop for", "fix", "consider"), strict=True) if n]
        state = "   checking …" if self.checking else ""
        if self.checking and not words:
            return "What Fuente would change" + state
        if self.trying is not None and self._last is not None:
            state = f"   trying “{self.trying.offer(self._last[1])}” on your design …"
        return "What Fuente would change   " + (" · ".join(words) if words else "nothing") + state

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Buttons go under the sentence where there is little room beside it."""
        super().resizeEvent(event)
        if self._last is not None:
            self.show_findings(*self._last, self.checking, self.trying)

    def toggle(self, row: FindingRow) -> None:
        """Open or close a reason, and go to its station."""
        key = row.finding.code + row.finding.owner
        self._open = "" if self._open == key else key
        for each in self.rows:
            each.why.setVisible(each.finding.code + each.finding.owner == self._open)
        if self._open and row.finding.owner:
            self.picked.emit(row.finding.owner)
