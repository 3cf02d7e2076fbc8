"""The words of every page's widgets are all there and never on each other: both text sizes, small windows, both units.

Those of drawings and charts have their own test.
"""

from __future__ import annotations

import pytest
import texts
from PySide6.QtCore import QCoreApplication, QEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from fuente.demo import DEMOS
from fuente.ui import theme
from fuente.ui.label import Label
from fuente.ui.stages import STAGES
from fuente.ui.window import MainWindow
from fuente.units import UnitSystem

WIDE, SMALL = (1280, 800), (1024, 700)
# Every demo in large text, in either unit system by turns, and the first in a small window.
CASES = [("reading-room", 1.0, SMALL, False)]
CASES += [(name, 1.5, WIDE, bool(i % 2 == 0)) for i, name in enumerate(DEMOS)]


def turn() -> None:
    """What is laid out in turns of its own has been."""
    for _ in range(3):
        QTest.qWait(25)


def views(key: str, page: QWidget) -> list[str]:
    """The views of a page that has several."""
    return {"media": ["life", "load"], "build": list(getattr(page, "chips", []))}.get(key, [""])


@pytest.mark.slow
@pytest.mark.parametrize(("name", "size", "window_size", "us"), CASES)
def test_every_page_says_all_of_it(qtbot, qapp, name, size, window_size, us):
    theme.apply(qapp, "light", size)
    window = MainWindow()
    window.resize(*window_size)
    window.show()
    design = DEMOS[name]()
    window.set_document(design.model_copy(update={"units": UnitSystem.US}) if us else design, None)
    wrong: dict[str, str] = {}
    try:
        for key in STAGES:
            window.show_stage(key)
            page = window.page(key)
            if key == "wet":
                page.run_now()
            for view in views(key, page):
                if key == "media":
                    page.view(view)
                if key == "build":
                    page.show_view(view)
                if key == "keep":  # worked out aside
                    qtbot.waitUntil(lambda page=page: page.found is not None, timeout=60_000)
                turn()
                assert window.size().toTuple() == window_size, (key, view)
                said = list(texts.saying(window))
                assert len(said) > 15, key
                for _ in range(20):  # what is worked out aside may come in the middle
                    found = texts.overlaps(window) + texts.cut(window)
                    if not found:
                        break
                    turn()
                for sentence in found:
                    wrong.setdefault(sentence, f"{key} {view}")
        assert not wrong
    finally:
        window.workspace.close()
        window.workspace = None
        window.deleteLater()  # before the style is put on again: that goes through all that is there
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        theme.apply(qapp, "light", 1.0)


@pytest.fixture
def sheet(qtbot):
    made = QWidget()
    qtbot.addWidget(made)
    made.resize(300, 200)
    return made


def test_it_would_see_words_on_words_and_words_cut(sheet):
    one, other = QLabel("A level of 400 mm", sheet), QPushButton("Raise the crest", sheet)
    one.setGeometry(10, 10, 200, 30)
    other.setGeometry(10, 60, 200, 30)
    sheet.show()
    assert texts.overlaps(sheet) == texts.cut(sheet) == []
    other.move(10, 30)
    assert len(texts.overlaps(sheet)) == 1
    other.move(10, 190)
    assert "is cut" in texts.cut(sheet)[0]
    other.move(10, 60)
    one.resize(40, 30)
    assert "takes" in texts.cut(sheet)[0]


def test_words_that_wrap_keep_the_height_that_they_take(sheet):
    inner = QVBoxLayout(sheet)
    area = QScrollArea(widgetResizable=True)
    inner.addWidget(area)
    content = QWidget()
    area.setWidget(content)
    column = QVBoxLayout(content)
    label = Label()
    label.setWordWrap(True)
    column.addWidget(label)
    label.setText("Water comes down as fast as it ran in its pipes. " * 4)
    sheet.show()
    turn()
    wide = label.minimumHeight()
    assert wide == label.heightForWidth(label.width()) > 2 * label.fontMetrics().height()
    sheet.setFixedWidth(180)
    turn()
    narrow = label.minimumHeight()
    assert narrow == label.heightForWidth(label.width()) > wide
    label.setText("Short.")
    turn()
    assert label.minimumHeight() < wide
    label.setStyleSheet("font-size: 30px;")
    turn()
    assert label.minimumHeight() == label.heightForWidth(label.width()) > 30
