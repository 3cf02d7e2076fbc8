"""Starting the application."""

from __future__ import annotations

from importlib import import_module
from pathlib import Path

from PySide6.QtCore import QTimer

from fuente import diary
from fuente.memory import calm_collector, share_threads
from fuente.ui.application import application
from fuente.ui.jobs import Job, stop_all
from fuente.ui.stages import STAGES


def run(path: Path | None = None, demo: str = "") -> int:
    """Open the window with a file, a demo, or the start page; the exit code."""
    app = application()
    from fuente.ui.window import MainWindow

    window = MainWindow()
    diary.keep(window.message_later)
    if path is not None:
        window.open_file(path)
    elif demo:
        window.open_demo(demo)
    window.show()
    QTimer.singleShot(0, window.offer_recovery)
    QTimer.singleShot(400, _warm)
    QTimer.singleShot(1200, lambda: Job(lambda tell: load_pages(), window).start())
    app.aboutToQuit.connect(stop_all)
    share_threads()
    QTimer.singleShot(600, calm_collector)
    return app.exec()


def load_pages() -> None:
    """Load the modules of all pages, so that the first look at one does not wait for them; in any thread."""
    for stage in STAGES.values():
        import_module(f"fuente.ui.{stage.module}")


def _warm() -> None:
    """Load what the first typed number will need, after the first paint."""
    from fuente.typed import registry

    registry()
