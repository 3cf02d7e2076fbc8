"""The files for the bench, and what to take care of."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from importlib import import_module
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QGridLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from fuente.errors import FuenteError
from fuente.study.analysis import Analysis
from fuente.ui import theme
from fuente.ui.side_panel import section
from fuente.ui.told_panel import plain
from fuente.ui.workspace import Workspace

Act = Callable[[Analysis, Path], None]


def _later(module: str, name: str) -> Act:
    """A writer that is imported when it is first asked for."""

    def act(analysis: Analysis, path: Path) -> None:
        getattr(import_module(module), name)(analysis, path)

    return act


FILES: tuple[tuple[str, str, Act, str, str], ...] = (
    (
        "Build book, PDF",
        "book.pdf",
        _later("fuente.ui.book", "export_book"),
        "Section, panels, sheets, pipes, steps, bill and cautions to print",
        "Ctrl+P",
    ),
    (
        "Templates, PDF",
        "templates.pdf",
        _later("fuente.ui.templates", "export_templates"),
        "Hole templates at 1:1 with a bar to check the printer",
        "Ctrl+Shift+P",
    ),
    (
        "Lists, XLSX",
        "lists.xlsx",
        _later("fuente.workshop.export", "export_xlsx"),
        "Parts, cuts and bill as a workbook",
        "Ctrl+Shift+X",
    ),
    (
        "List, CSV",
        "parts.csv",
        _later("fuente.workshop.export", "export_csv"),
        "Everything to order, for a spreadsheet",
        "",
    ),
    (
        "Sheets, DXF",
        "sheets.dxf",
        _later("fuente.workshop.export", "export_nests_dxf"),
        "Every sheet with its cuts at true size",
        "Ctrl+Shift+D",
    ),
    (
        "Panels, DXF",
        "panels.dxf",
        _later("fuente.workshop.export", "export_panels_dxf"),
        "Panels and holes at true size",
        "",
    ),
    (
        "Section, DXF",
        "section.dxf",
        _later("fuente.workshop.export", "export_section_dxf"),
        "The section at true size",
        "",
    ),
    (
        "Plan, DXF",
        "plan.dxf",
        _later("fuente.workshop.export", "export_plan_dxf"),
        "The plan, floor by floor, at true size",
        "",
    ),
    (
        "Plan, SVG",
        "plan.svg",
        _later("fuente.workshop.export", "export_plan_svg"),
        "The plan, floor by floor, at true size",
        "",
    ),
    (
        "Section, SVG",
        "section.svg",
        _later("fuente.workshop.export", "export_svg"),
        "The section at true size",
        "",
    ),
)


class FilesPanel(QWidget):
    """A button for each file, what came of it, and cautions."""

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        column.addWidget(section("For the bench"))
        grid = QGridLayout()
        grid.setSpacing(theme.px(6))
        self.buttons: dict[str, QPushButton] = {}
        for at, (name, suffix, act, tip, keys) in enumerate(FILES):
            button = QPushButton(name)
            button.setToolTip(f"{tip} ({keys})" if keys else tip)
            button.setStyleSheet(f"padding: {theme.px(5)}px {theme.px(4)}px;")
            button.clicked.connect(partial(self.ask, suffix, act))
            self.buttons[suffix] = button
            grid.addWidget(button, at // 2, at % 2)
        column.addLayout(grid)
        self.done = plain("", "subheading")
        self.done.setVisible(False)
        column.addWidget(self.done)
        column.addWidget(section("Before you cut, drill and fill"))
        self.cautions = QLabel()
        self.cautions.setWordWrap(True)
        self.cautions.setObjectName("subheading")
        column.addWidget(self.cautions)

    def refresh(self, cautions: tuple[str, ...]) -> None:
        """Cautions of another design."""
        self.cautions.setText("\n\n".join(cautions))

    def ask(self, suffix: str, act: Act, *_: object) -> None:
        """Ask where to, and write."""
        analysis = self.workspace.analysis
        folder = self.workspace.path.parent if self.workspace.path else Path.home()
        from fuente.workshop.export import stem

        start = folder / f"{stem(analysis)}-{suffix}"
        name, _chosen = QFileDialog.getSaveFileName(self, "Write the file", str(start), f"*{start.suffix}")
        if name:
            self.write(Path(name), act)

    def write(self, path: Path, act: Act) -> None:
        """Write a file and say so, or say why not."""
        try:
            act(self.workspace.analysis, path)
        except (FuenteError, OSError) as error:
            words = f"Not written: {error}"
        else:
            words = f"Written: {path}"
        self.done.setText(words)
        self.done.setVisible(True)
