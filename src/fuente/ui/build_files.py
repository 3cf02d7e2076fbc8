"""The files for the bench, and what to take care of."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QGridLayout, QPushButton, QVBoxLayout, QWidget

from fuente.errors import FuenteError
from fuente.ui import theme
from fuente.ui.exports import FILES, Act
from fuente.ui.label import Label
from fuente.ui.side_panel import section
from fuente.ui.told_panel import plain
from fuente.ui.workspace import Workspace


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
        self.cautions = Label()
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
