"""While a style goes through all widgets nothing is collected: what Qt walks over stays."""

from __future__ import annotations

import gc

from PySide6.QtCore import QEvent
from PySide6.QtWidgets import QLabel

from fuente.memory import nothing_collected
from fuente.ui import theme


class Heard(QLabel):
    """Writes down whether cycles may be collected while it is told of a new style."""

    def __init__(self):
        super().__init__("Level")
        self.on = []

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.StyleChange:
            self.on.append(gc.isenabled())


def test_a_style_is_given_with_the_collector_still(qapp, qtbot):
    label = Heard()
    qtbot.addWidget(label)
    label.show()
    assert gc.isenabled()
    try:
        theme.apply(qapp, "dark", 1.5)
    finally:
        theme.apply(qapp, "light", 1.0)
    assert label.on
    assert not any(label.on)
    assert gc.isenabled()


def test_it_is_left_as_it_was_whatever_happens():
    gc.disable()
    try:
        with nothing_collected():
            pass
        assert not gc.isenabled()
    finally:
        gc.enable()
    try:
        with nothing_collected():
            raise ValueError
    except ValueError:
        assert gc.isenabled()
