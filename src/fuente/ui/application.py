"""The Qt application itself, with type and theme."""

from __future__ import annotations

import os
import sys

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication

from fuente.memory import collect_by_hand, collect_due
from fuente.ui import settings, spoken, theme

_COLLECT = 500  # ms


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
        spoken.install()
        from fuente.ui.app_icon import icon

        app.setWindowIcon(icon())
        _collect_between_events(app)
    chosen = name or settings.choice("theme", "dark" if theme.wants_dark() else "light")
    try:
        size = text or float(settings.choice("text", "1"))
    except ValueError:
        size = 1.0
    theme.apply(app, chosen, min(max(size, 0.8), 2.5))
    return app


def _collect_between_events(app: QApplication) -> None:
    """Cycles are let go of in the interface thread, between two events."""
    collect_by_hand()
    timer = QTimer(app)
    timer.timeout.connect(collect_due)
    timer.start(_COLLECT)
