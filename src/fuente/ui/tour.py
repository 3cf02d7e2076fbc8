"""One picture of every main view, from the demo data."""

from __future__ import annotations

import os
import tempfile
from pathlib import Path
from typing import Any

from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.demo.lantern import lantern
from fuente.demo.reading_room import reading_room
from fuente.demo.trough import trough
from fuente.document.system import System
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
    from fuente.ui import workspace
    from fuente.ui.application import application
    from fuente.ui.window import MainWindow

    workspace.CLOCK = None  # nothing is left for later
    app = application("light", 1.0)
    app.setProperty("still", True)
    window = MainWindow()
    window.resize(*SIZE)
    window.show()
    camera = Camera(app, window, folder)
    camera.window.start.paint_now()
    camera.shoot("start")
    for part in (_one_tank, _systems, _filters, _gallery, _themes):
        part(window, camera)
        if window.workspace is not None:
            window.workspace.journal.clear()
    window.workspace = None
    window.close()
    return camera.written


class Camera:
    """Writes pictures of the window, once all has been painted."""

    def __init__(self, app: Any, window: Any, folder: Path):
        self.app, self.window, self.folder = app, window, folder
        self.written: list[Path] = []

    def shoot(self, name: str, dialog: Any = None) -> None:
        """The window, with a dialog over it as a person sees it. Raises FuenteError where it cannot be written."""
        from PySide6.QtCore import QCoreApplication, QEvent, QEventLoop
        from PySide6.QtGui import QPainter

        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)  # no loop runs that would

        for _ in range(4):
            self.app.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 50)
        picture = self.window.grab()
        if dialog is not None:
            free = self.window.height() - dialog.height() - 8
            over = dialog.grab()
            painter = QPainter(picture)
            painter.drawPixmap((self.window.width() - dialog.width()) // 2, min(96, free), over)
            painter.end()
        path = self.folder / f"{name}.png"
        if not picture.scaled(*SIZE).save(str(path)):
            raise FuenteError(f"“{path}” could not be written.")
        self.written.append(path)


def _paid(system: System) -> System:
    """A demo with some money: its own has that of the place where it is opened."""
    return system.model_copy(update={"shop": system.shop.model_copy(update={"currency": "€"})})


def _one_tank(window: Any, camera: Camera) -> None:
    """The reading room on every page, and a quick answer."""
    window.set_document(_paid(reading_room()), None)
    workspace = window.workspace
    workspace.select("sump.foam")
    workspace.remedies_now()
    camera.shoot("water-path")
    workspace.show("power_cut")
    tint = window.page("water").tint
    tint.box.show_value("oxygen")
    tint.work_now()
    camera.shoot("coloured-water")
    tint.box.show_value("plain")
    workspace.show("running")
    workspace.select("overflow.drains")
    window.show_stage("brief")
    window.page("brief").propose_now()
    camera.shoot("brief")
    workspace.select("sump")
    window.page("water").switch_plan()
    window.show_stage("water")
    camera.shoot("plan")
    window.page("water").switch_plan()
    _build(window, camera)
    window.show_stage("wet")
    wet = window.page("wet")
    wet.set_length(300.0)
    wet.show_faults([Fault("power-cut", 30.0, 1.0), Fault("check-valve-leak", 30.0, 1.0)])
    wet.run_now()
    wet.trials.run_now()
    wet.seek(84.0)
    camera.shoot("wet-test")
    window.show_stage("keep")
    keep = window.page("keep")
    keep.work_now()
    keep.line.edit.setText("no3 20, ph 7.4, foam 31 mm, rinsed socks")
    camera.shoot("keep")
    keep.line.edit.clear()
    window.show_stage("water")
    window.open_answers()
    palette = window._palette
    palette.show_example()
    camera.shoot("quick-answer", palette)
    palette.close()


def _build(window: Any, camera: Camera) -> None:
    """A step with its clocks, a sheet with its cuts, and bench mode."""
    window.show_stage("build")
    page = window.page("build")
    page.show_view("sheets")
    camera.shoot("build-sheet")
    for step in ("sump:drill:sump.socks.plate", "sump:clean", "sump:dry", "sump:shell", "sump:fillet"):
        page.tick(step)
    page.show_step("sump:fillet")
    camera.shoot("build")
    bench = page.open_bench()
    camera.shoot("bench-mode", bench)
    bench.close()


def _systems(window: Any, camera: Camera) -> None:
    """A rack in elevation; living water; two sumps in a cascade."""
    window.set_document(_paid(back_room()), None)
    window.workspace.check_now()
    window.workspace.select("rack-4-6")
    camera.shoot("rack")
    window.workspace.journal.clear()
    window.set_document(_paid(reading_room()), None)
    window.show_stage("media")
    life = window.page("media").life
    life.work_now()
    camera.shoot("living-water")
    window.workspace.journal.clear()
    window.set_document(_paid(cascade()), None)
    window.workspace.check_now()
    window.workspace.select("return.uv")
    camera.shoot("cascade")
    window.workspace.journal.clear()


def _filters(window: Any, camera: Camera) -> None:
    """Filters in series; the load with media side by side."""
    window.set_document(_paid(trough()), None)
    window.workspace.check_now()
    window.workspace.select("drums")
    camera.shoot("trough")
    window.show_stage("media")
    window.page("media").view("load")
    camera.shoot("media-and-load")
    window.page("media").view("life")


def _gallery(window: Any, camera: Camera) -> None:
    """Every kind of filter as a picture of the lantern's tank."""
    from fuente.ui.gallery import Gallery

    window.workspace.journal.clear()
    window.set_document(_paid(lantern()), None)
    gallery = Gallery(window.workspace, "tank", window)
    gallery.draw_now()
    gallery.promise_now("canister")
    camera.shoot("gallery", gallery)
    gallery.close()


def _themes(window: Any, camera: Camera) -> None:
    """Dark, and with larger text."""
    window.set_document(_paid(reading_room()), None)
    window.workspace.remedies_now()
    window._retheme("dark", 1.0)
    window.workspace.select("sump.pump")
    camera.shoot("water-path-dark")
    window._retheme("light", 1.5)
    camera.shoot("water-path-large-text")
    window._retheme("light", 1.0)
