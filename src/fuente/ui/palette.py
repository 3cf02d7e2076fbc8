"""Ctrl K: answers one question without a design."""

from __future__ import annotations

from html import escape

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import (
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QVBoxLayout,
    QWidget,
)

from fuente.answers import Answer, answers, ask
from fuente.answers.registry import shown_output
from fuente.errors import FuenteError
from fuente.typed import parse
from fuente.ui import theme
from fuente.ui.label import Label, RichLabel
from fuente.units import QUANTITIES, UnitSystem, shown, unit_label

_START: dict[str, dict[str, str]] = {
    "pipe-loss": {"flow": "3000 L/h", "bore": "26 mm", "length": "4 m", "k": "6"},
    "pump-point": {
        "max_head": "4 m",
        "max_flow": "6000 L/h",
        "lift": "1.8 m",
        "bore": "26 mm",
        "length": "3.2 m",
        "k": "7.5",
    },
    "siphon-drain": {"drop": "0.9 m", "bore": "28.4 mm", "length": "1.2 m", "k": "2.4"},
    "open-drain": {"bore": "36.2 mm", "fill": "7/24"},
    "weir": {"flow": "3000 L/h", "length": "400 mm", "crest": "300 mm"},
    "gap": {"flow": "3000 L/h", "width": "380 mm", "gap": "40 mm"},
    "turnover": {"flow": "3000 L/h", "volume": "450 L"},
    "bucket-flow": {"volume": "10 L", "time": "12 s"},
    "glass-thickness": {"length": "1200 mm", "width": "500 mm", "depth": "450 mm"},
    "bulkhead": {"size": "1 in"},
    "manifold": {"flow": "2400 L/h", "outlets": "12", "spacing": "300 mm", "bore": "26 mm", "branch_bore": "13 mm"},
    "equalising-bulkhead": {"flow": "3000 L/h", "bore": "45 mm"},
    "hose-suction": {"flow": "1500 L/h", "bore": "19 mm", "length": "1.5 m"},
    "parallel-bores": {"large": "45 mm", "small": "21 mm"},
    "pump-cost": {"power": "45 W", "price": "0.30"},
    "header": {"flow": "2400 L/h", "bore": "45 mm", "slope": "2 %"},
}


class AnswerPalette(QDialog):
    """Find a question by its words, fill in what is known, read the answer as it changes."""

    def __init__(self, units: UnitSystem, parent: QWidget | None = None):
        super().__init__(parent)
        self.setWindowTitle("Quick answer")
        self.units = units
        self.setMinimumSize(theme.px(760), theme.px(470))
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(16), theme.px(16), theme.px(16), theme.px(14))
        self.search = QLineEdit()
        self.search.setPlaceholderText("What do you want to know? Try “hole”, “real flow”, “siphon”, “glass”")
        self.search.setFont(theme.font(16))
        self.search.setAccessibleName("Find a question")
        column.addWidget(self.search)
        row = QHBoxLayout()
        row.setSpacing(theme.px(16))
        self.list = QListWidget()
        self.list.setFixedWidth(theme.px(250))
        self.list.setAccessibleName("Questions")
        self.list.setStyleSheet(f"QListWidget::item {{ padding: {theme.px(5)}px {theme.px(8)}px; }}")
        row.addWidget(self.list)
        self.form_holder = QWidget()
        self.form = QVBoxLayout(self.form_holder)
        self.form.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.form_holder, 1)
        column.addLayout(row, 1)
        hint = Label("Type, ↓ to choose, Tab to the numbers, Esc to leave. The same answers: fuente answer --list")
        hint.setObjectName("quiet")
        column.addWidget(hint)
        self.inputs: dict[str, QLineEdit] = {}
        self.words = RichLabel()
        self.doc = Label()
        self._answer: Answer | None = None
        self._texts = {name: {k: self._example(name, k, v) for k, v in s.items()} for name, s in _START.items()}
        self.search.textChanged.connect(self._filter)
        self.list.currentItemChanged.connect(lambda item, _: self._show(item))
        self._filter("")
        self.search.setFocus()

    def _filter(self, text: str) -> None:
        words = text.lower().split()
        self.list.clear()
        ranked = []
        for answer in answers().values():
            hay = " ".join((answer.name, answer.title, *answer.words)).lower()
            if all(any(part.startswith(w) or w in part for part in hay.replace("-", " ").split()) for w in words):
                ranked.append((not answer.title.lower().startswith(text.lower()), answer))
        for _, answer in sorted(ranked, key=lambda pair: pair[0]):
            item = QListWidgetItem(answer.title)
            item.setData(Qt.ItemDataRole.UserRole, answer.name)
            self.list.addItem(item)
        if self.list.count():
            self.list.setCurrentRow(0)
        else:
            self._show(None)

    def _show(self, item: QListWidgetItem | None) -> None:
        while self.form.count():
            item_at = self.form.takeAt(0)
            widget = item_at.widget() if item_at else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self.inputs = {}
        self._answer = None
        if item is None:
            none = Label("No question with these words. Leave the field empty to see all.")
            none.setObjectName("quiet")
            none.setWordWrap(True)
            self.form.addWidget(none)
            self.form.addStretch(1)
            return
        answer = answers()[item.data(Qt.ItemDataRole.UserRole)]
        self._answer = answer
        page = QWidget()
        grid = QGridLayout(page)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setVerticalSpacing(theme.px(5))
        grid.setColumnStretch(0, 1)
        head = Label(answer.title)
        head.setObjectName("heading")
        grid.addWidget(head, 0, 0, 1, 2)
        texts = self._texts.setdefault(answer.name, {})
        for row, wanted in enumerate(answer.inputs, 1):
            label = Label(wanted.label + (", " + ", ".join(wanted.options) if wanted.options else ""))
            label.setStyleSheet(f"color: {theme.current().muted};")
            label.setWordWrap(True)
            edit = QLineEdit(texts.get(wanted.name, self._example(answer.name, wanted.name, wanted.default or "")))
            edit.setFixedWidth(theme.px(150))
            edit.setAlignment(Qt.AlignmentFlag.AlignRight)
            edit.setAccessibleName(wanted.label)
            if wanted.quantity in QUANTITIES:
                edit.setPlaceholderText(unit_label(wanted.quantity, self.units))
            label.setBuddy(edit)
            edit.textChanged.connect(self._solve)
            grid.addWidget(label, row, 0)
            grid.addWidget(edit, row, 1)
            self.inputs[wanted.name] = edit
        self.form.addWidget(page)
        self.words = RichLabel()
        self.words.setWordWrap(True)
        self.words.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.doc = Label(" ".join(answer.doc.split()))
        self.doc.setObjectName("why")
        self.doc.setWordWrap(True)
        self.form.addSpacing(theme.px(6))
        self.form.addWidget(self.words)
        self.form.addWidget(self.doc)
        self.form.addStretch(1)
        self._solve()

    def _example(self, name: str, key: str, text: str) -> str:
        """What a question begins with, in the units that are shown."""
        quantity = next(i.quantity for i in answers()[name].inputs if i.name == key)
        if self.units != UnitSystem.US or quantity not in QUANTITIES or not text:
            return text
        return shown(parse(text, quantity), quantity, self.units)

    def _solve(self) -> None:
        answer = self._answer
        if answer is None:
            return
        given = {name: edit.text() for name, edit in self.inputs.items() if edit.text().strip()}
        self._texts[answer.name] = given
        try:
            found = ask(answer.name, given, self.units)
        except FuenteError as error:
            self.words.setText(f"<span style='color:{theme.current().stop}'>{escape(str(error))}</span>")
            return
        lines = []
        for i, output in enumerate(answer.outputs):
            text = shown_output(output, found[output.name], self.units)
            size = theme.px(21 if i == 0 else 13)
            lines.append(
                f"<span style='font-size:{size}px;font-weight:600'>{escape(text)}</span> "
                f"<span style='color:{theme.current().muted}'>{escape(output.label)}</span>"
            )
        self.words.setText(lines[0] + "<br>" + " &nbsp; ".join(lines[1:]))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """↓ goes from the search to the list; Enter to the first number."""
        if event.key() == Qt.Key.Key_Down and self.search.hasFocus():
            self.list.setFocus()
            self.list.setCurrentRow(min(self.list.currentRow() + 1, self.list.count() - 1))
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if self.inputs and (self.search.hasFocus() or self.list.hasFocus()):
                first = next(iter(self.inputs.values()))
                first.setFocus()
                first.selectAll()
        else:
            super().keyPressEvent(event)

    def show_example(self) -> None:
        """What the tour shows."""
        self.search.setText("real flow")
