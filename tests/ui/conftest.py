"""A window with the demo."""

from __future__ import annotations

import os

import pytest
from PySide6.QtCore import QCoreApplication, QEvent

from fuente.ui import theme


@pytest.fixture(autouse=True)
def at_once(monkeypatch):
    """What an edit brings is there when it returns, however slow the machine: a test of what waits sets the clock."""
    from fuente.ui import workspace

    monkeypatch.setattr(workspace, "CLOCK", None)


@pytest.fixture
def window(qtbot, qapp, demo, monkeypatch):
    """The main window at 1280 × 800 with the demo in the Water path. Remedies and bands are worked out aside only where
    a test starts that: half a second of work after each edit would be most of what these tests take.
    """
    from fuente.ui import gallery, life_view, workspace
    from fuente.ui.window import MainWindow

    monkeypatch.setattr(workspace, "TRY_AFTER", 3_600_000)
    monkeypatch.setattr(gallery, "ASK_AFTER", 3_600_000)
    monkeypatch.setattr(life_view, "SOON", 3_600_000)

    if not qapp.styleSheet() or theme.current() is not theme.LIGHT or theme.scale() != 1.0:
        theme.apply(qapp, "light", 1.0)
    qapp.setProperty("still", True)  # levels stand at once; test_motion lets them slide
    made = MainWindow()
    made.resize(1280, 800)
    made.set_document(demo, None)
    made.show()
    qtbot.waitExposed(made)
    yield made
    made.workspace = None  # no question at the end
    made.close()
    made.deleteLater()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


@pytest.fixture
def path_page(window):
    """The Water path page."""
    return window.page("water")


@pytest.fixture
def keep(window, demo, tmp_path):
    """The Keep page of a design with a file, nothing written yet."""
    from fuente.document import files

    path = tmp_path / "room.fuente"
    files.save(demo, path)
    window.set_document(demo, path)
    window.show_stage("keep")
    page = window.page("keep")
    page.work_now()
    yield page
    page.workspace.link.disconnect_from()


@pytest.fixture
def xvfb_display():
    """A virtual X display of this test's own."""
    from pyvirtualdisplay import Display

    display = Display(visible=False, size=(1280, 800))
    before = os.environ.get("DISPLAY")
    display.start()
    name = display.new_display_var
    yield name
    display.stop()
    if before is not None:
        os.environ["DISPLAY"] = before
