"""F1: every shortcut in one place."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QGridLayout, QVBoxLayout, QWidget

from fuente.study.situations import TITLES
from fuente.ui import theme
from fuente.ui.label import Label
from fuente.ui.stages import STAGES

SHORTCUTS = (
    (
        "Everywhere",
        (
            ("Ctrl K", "Quick answer"),
            ("Ctrl U", "Metric or US units"),
            ("Ctrl Z, Ctrl Shift Z", "Undo, redo, by name in the Edit menu"),
            ("Ctrl N, Ctrl O", "New design, open a file"),
            ("Ctrl S, Ctrl Shift S", "Save, save under another name"),
            ("Ctrl +, Ctrl −, Ctrl 0", "Larger, smaller, usual text"),
            ("Ctrl D", "Light or dark theme"),
            ("F1", "This list"),
        ),
    ),
    (
        "Stages",
        (
            *(
                (f"Ctrl {n}", f"{stage.title.replace('&&', '&')}: {stage.said}")
                for n, stage in enumerate(STAGES.values(), 1)
            ),
            ("F3", "Plan instead of the section, and back"),
            ("F5", "Bench mode: arrows go on and back, Space says done"),
            ("Ctrl P, Ctrl Shift P", "Build book, drill templates as PDF"),
            ("Ctrl Shift X, Ctrl Shift D", "Lists as a workbook, sheets as DXF"),
            ("Ctrl C in a list", "Copy the whole row"),
            ("Space in the wet test", "Play, pause"),
            ("Alt ←, Alt →", "The station before, the next one"),
            (f"Ctrl Alt 1 … {min(len(TITLES), 9)}", "Running, power cut and the other situations"),
        ),
    ),
    (
        "In the section",
        (
            ("Tab", "Next handle"),
            ("Arrow keys", "Move it by 1 mm or 1/16 in; with Shift ten times that"),
            ("Enter, double click", "Type its value"),
            ("Esc while dragging", "Put it back"),
        ),
    ),
    (
        "In a number",
        (
            ("Enter", "Take it: 32 mm, 3/4 in, 2 ft 3 in, 900 gph"),
            ("Esc", "Keep the old value"),
            ("↑, ↓", "A sensible step more or less; with Shift ten steps"),
        ),
    ),
)


class HelpDialog(QDialog):
    """Lists the keys."""

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.setWindowTitle("Keyboard shortcuts")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(24), theme.px(18), theme.px(24), theme.px(16))
        grid = QGridLayout()
        grid.setHorizontalSpacing(theme.px(24))
        grid.setVerticalSpacing(theme.px(4))
        row = 0
        for title, keys in SHORTCUTS:
            head = Label(title)
            head.setObjectName("section")
            head.setContentsMargins(0, theme.px(10 if row else 0), 0, theme.px(2))
            grid.addWidget(head, row, 0, 1, 2)
            row += 1
            for key, what in keys:
                left = Label(key)
                left.setFont(theme.font(13, theme.MEDIUM))
                grid.addWidget(left, row, 0, Qt.AlignmentFlag.AlignTop)
                grid.addWidget(Label(what), row, 1)
                row += 1
        column.addLayout(grid)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)
