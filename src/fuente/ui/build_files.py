"""The files for the bench, and what to take care of."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QGridLayout, QPushButton, QVBoxLayout, QWidget

from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.session import prepare
from fuente.study.analysis import Analysis
from fuente.ui import theme
from fuente.ui.exports import FILES, Act
from fuente.ui.jobs import Job
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
            self.write_aside(Path(name), act)

    def write_aside(self, path: Path, act: Act) -> None:
        """Write a file once all that may go into it is worked out, which is done aside: a book tells of situations that
        may not be solved yet. It is written here, as Qt paints no two things at once.
        """
        analysis = self.workspace.analysis
        self._say(f"Writing {path.name} …")
        for button in self.buttons.values():
            button.setEnabled(False)

        def work(_tell: object) -> None:
            prepare("build", analysis)
            for name in analysis.names():
                analysis.try_situation(name)
            findings(analysis)

        def over(_: object) -> None:
            for button in self.buttons.values():
                button.setEnabled(True)
            self._say(_written(analysis, path, act))

        Job(work, self).hear(over, over).start()

    def write(self, path: Path, act: Act) -> None:
        """Write a file at once and say so, or say why not."""
        self._say(_written(self.workspace.analysis, path, act))

    def _say(self, words: str) -> None:
        self.done.setText(words)
        self.done.setVisible(True)


def _written(analysis: Analysis, path: Path, act: Act) -> str:
    """Write it; what to say of that."""
    try:
        act(analysis, path)
    except (FuenteError, OSError) as error:
        return f"Not written: {error}"
    return f"Written: {path}"
