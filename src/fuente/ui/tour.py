"""One picture of every main view, from the demo data."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.demo.lantern import lantern
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.demo.trough import trough
from fuente.errors import FuenteError
from fuente.study.breaking import Fault

SIZE = (1280, 800)


def tour(folder: Path) -> list[Path]:
    """Write the pictures; their paths. Uses a state folder of its own, so that it shows no one's recent files."""
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise FuenteError(f"“{folder}” cannot be made: {error.strerror or error}.") from None
    with tempfile.TemporaryDirectory() as state:
        before = os.environ.get("FUENTE_STATE")
        os.environ["FUENTE_STATE"] = state
        try:
            return _walk(folder)
        finally:
            if before is None:
                del os.environ["FUENTE_STATE"]
            else:
                os.environ["FUENTE_STATE"] = before


def _walk(folder: Path) -> list[Path]:
    from PySide6.QtCore import QEventLoop
    from PySide6.QtWidgets import QWidget

    from fuente.ui.application import application
    from fuente.ui.gallery import Gallery
    from fuente.ui.window import MainWindow

    app = application("light", 1.0)
    app.setProperty("still", True)
    written: list[Path] = []

    def settle() -> None:
        for _ in range(4):
            app.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 50)

    def shoot(name: str, window: QWidget) -> None:
        settle()
        path = folder / f"{name}.png"
        if not window.grab().scaled(*SIZE).save(str(path)):
            raise FuenteError(f"“{path}” could not be written.")
        written.append(path)

    window = MainWindow()
    window.resize(*SIZE)
    window.show()
    shoot("start", window)
    window.set_document(reading_room(), None)
    workspace = window.workspace
    assert workspace is not None
    workspace.select("sump.foam")
    shoot("water-path", window)
    workspace.show("valve_leaks")
    workspace.select("return")
    shoot("water-path-valve-leaks", window)
    workspace.show("running")
    workspace.select("overflow.drains")
    window.switch_units()
    shoot("water-path-us", window)
    window.switch_units()
    window.show_stage("brief")
    window.page("brief").propose_now()  # type: ignore[attr-defined]
    shoot("brief", window)
    window.show_stage("build")
    shoot("build", window)
    window.show_stage("wet")
    wet = window.page("wet")
    wet.set_length(300.0)  # type: ignore[attr-defined]
    wet.show_faults([Fault("power-cut", 30.0, 1.0), Fault("check-valve-leak", 30.0, 1.0)])  # type: ignore[attr-defined]
    wet.run_now()  # type: ignore[attr-defined]
    wet.trials.run_now()  # type: ignore[attr-defined]
    wet.seek(84.0)  # type: ignore[attr-defined]
    shoot("wet-test", window)
    window.show_stage("water")
    window.open_answers()
    palette = window._palette
    assert palette is not None
    palette.show_example()  # type: ignore[attr-defined]
    shoot_with(window, palette, folder / "quick-answer.png", settle)
    written.append(folder / "quick-answer.png")
    palette.close()
    workspace.journal.clear()
    _systems(window, shoot)
    _filters(window, shoot)
    opened = window.workspace
    assert opened is not None
    gallery = Gallery(opened, "tank", window)
    gallery.draw_now()
    shoot_with(window, gallery, folder / "gallery.png", settle)
    written.append(folder / "gallery.png")
    gallery.close()
    opened.journal.clear()
    window.set_document(reading_room(), None)
    workspace = window.workspace
    assert workspace is not None
    window._retheme("dark", 1.0)
    workspace.select("sump.pump")
    shoot("water-path-dark", window)
    window._retheme("light", 1.5)
    shoot("water-path-large-text", window)
    window._retheme("light", 1.0)
    workspace.journal.clear()
    window.workspace = None
    window.close()
    return written


def _systems(window: Any, shoot: Callable[[str, Any], None]) -> None:
    """A rack in elevation, in the wet test, and as it is entered; two sumps in a cascade."""
    window.set_document(back_room(), None)
    window.workspace.check_now()
    window.workspace.select("rack-4-6")
    shoot("rack", window)
    window.show_stage("wet")
    wet = window.page("wet")
    wet.set_length(900.0)
    wet.show_faults(
        [
            Fault("power-cut", 30.0, 1.0),
            Fault("power-return", 330.0, 1.0),
            Fault("tank-drain-block", 330.0, 0.0),
        ]
    )
    wet.run_now()
    wet.seek(420.0)
    shoot("rack-wet-test", window)
    window.workspace.journal.clear()
    window.set_document(reading_room(), None)
    window.enter_rack()
    shoot("rack-entry", window)
    window.workspace.journal.clear()
    window.set_document(cascade(), None)
    window.workspace.check_now()
    window.workspace.select("return.uv")
    shoot("cascade", window)
    window.workspace.journal.clear()


def _filters(window: Any, shoot: Callable[[str, Any], None]) -> None:
    """Filters in series, on air, from the gallery; the load with media side by side."""
    window.set_document(trough(), None)
    window.workspace.check_now()
    window.workspace.select("drums")
    shoot("trough", window)
    window.show_stage("media")
    shoot("media-and-load", window)
    window.workspace.journal.clear()
    window.set_document(nursery(), None)
    window.workspace.check_now()
    window.workspace.select("air")
    shoot("nursery", window)
    window.workspace.journal.clear()
    window.set_document(lantern(), None)
    window.workspace.select("lantern")
    shoot("lantern", window)


def shoot_with(window, dialog, path: Path, settle) -> None:  # type: ignore[no-untyped-def]
    """A window with a dialog over it, as a person sees it."""
    from PySide6.QtGui import QPainter

    settle()
    picture = window.grab()
    painter = QPainter(picture)
    over = dialog.grab()
    painter.drawPixmap((window.width() - dialog.width()) // 2, min(96, window.height() - dialog.height() - 8), over)
    painter.end()
    picture.scaled(*SIZE).save(str(path))
