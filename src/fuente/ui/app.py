"""Starting the application."""

from __future__ import annotations

import os
import sys
from pathlib import Path

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication

from fuente.memory import calm_collector
from fuente.ui import settings, theme


def application(name: str = "", text: float = 0.0) -> QApplication:
    """The Qt application with type and theme; falls back to drawing off screen where there is no display."""
    existing = QApplication.instance()
    if isinstance(existing, QApplication):
        app = existing
    else:
        if not any(os.environ.get(v) for v in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")):
            os.environ["QT_QPA_PLATFORM"] = "offscreen"
        app = QApplication(sys.argv[:1])
        app.setApplicationName("Fuente")
        app.setDesktopFileName("fuente")
        theme.load_fonts()
    chosen = name or settings.choice("theme", "dark" if theme.wants_dark() else "light")
    try:
        size = text or float(settings.choice("text", "1"))
    except ValueError:
        size = 1.0
    theme.apply(app, chosen, min(max(size, 0.8), 2.5))
    return app


def run(path: Path | None = None, demo: str = "") -> int:
    """Open the window with a file, a demo, or the start page; the exit code."""
    app = application()
    from fuente.ui.window import MainWindow

    window = MainWindow()
    if path is not None:
        window.open_file(path)
    elif demo:
        window.open_demo(demo)
    window.show()
    QTimer.singleShot(0, window.offer_recovery)
    QTimer.singleShot(400, _warm)
    QTimer.singleShot(600, calm_collector)
    return app.exec()


def _warm() -> None:
    """Load what the first typed number will need, after the first paint."""
    from fuente.units import registry

    registry()
