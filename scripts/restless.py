"""Restless hands: whatever can be seen is used, at random, in a window that runs.

    ./check --restless [SECONDS] [SEED]

Opens a demo off screen and presses, types, drags, chooses, undoes, changes page, theme, text and units for SECONDS
(300 unless said) by SEED, dialogs and menus included. Files go to folders of its own. Prints every exception with what
was done before it, where the window stood still for ten seconds, and a summary; exit 1 where anything was wrong.
"""

from __future__ import annotations

import faulthandler
import os
import random
import sys
import tempfile
import time
import traceback
from collections import Counter, deque
from collections.abc import Callable
from pathlib import Path
from typing import Any

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["FUENTE_STATE"] = tempfile.mkdtemp()  # nothing of the person's own

from PySide6.QtCore import QAbstractTableModel, QPoint, Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QComboBox,
    QDateEdit,
    QDialog,
    QFileDialog,
    QHeaderView,
    QLineEdit,
    QMenu,
    QSlider,
    QSpinBox,
    QWidget,
)

from fuente.demo import DEMOS
from fuente.memory import share_threads
from fuente.ui.application import application
from fuente.ui.section_view import SectionView
from fuente.ui.stages import STAGES
from fuente.ui.window import MainWindow

USED = (QAbstractButton, QLineEdit, QComboBox, QSlider, QAbstractItemView, SectionView, QSpinBox, QDateEdit)
TYPED = ["1", "0", "-3", "400 mm", "12 in", "1/2 in", "900 gph", "3000 L/h", "nonsense", "1e9", "25 %", "0,5 m", ""]
TYPED += ["24 °C", "no3 20, ph 7.4", "foam 31 mm"]
FACTORS = (0.5, 0.9, 1.1, 1.5, 2.0)
ENDINGS = (".png", ".csv", ".pdf", ".fuente", ".dxf", ".svg", "")
NOT = ("Quit", "Print", "Close")  # of menus: what ends the hands' work, or wants a printer
PAUSE, STILL = 25, 10  # ms between two things; s


class Hands:
    """They know nothing of the window but what can be seen of it."""

    def __init__(self, seconds: float, seed: int):
        self.rng, self.until = random.Random(seed), time.monotonic() + seconds
        self.app = application("light", 1.0)
        self.done: Counter[str] = Counter()
        self.last: deque[str] = deque(maxlen=8)
        self.wrong: list[str] = []
        self.window = MainWindow()
        self.window.resize(1280, 800)
        self.window.show()
        self.window.open_demo(self.rng.choice(list(DEMOS)))

    def fault(self, kind: type[BaseException], error: BaseException, trace: Any) -> None:
        """An exception: told once."""
        told = "".join(traceback.format_exception(kind, error, trace))
        key = "".join(told.splitlines(keepends=True)[-4:])
        if key not in self.wrong:
            self.wrong.append(key)
            print(f"after {', '.join(self.last)}:\n{told}", flush=True)

    def turn(self) -> None:
        """One thing, and the next soon, also while a dialog is open."""
        if time.monotonic() > self.until:
            box = self.app.activePopupWidget() or self.app.activeModalWidget()
            if isinstance(box, QDialog):
                box.reject()
            elif isinstance(box, QMenu):
                box.close()
            else:
                self.app.exit()  # "quit" would ask whether to save
                return
            QTimer.singleShot(PAUSE, self.turn)
            return
        QTimer.singleShot(PAUSE, self.turn)
        faulthandler.dump_traceback_later(STILL)
        try:
            self.act()
        except Exception as error:
            self.fault(type(error), error, error.__traceback__)

    def act(self) -> None:
        """Use something."""
        top = self.app.activePopupWidget() or self.app.activeModalWidget() or self.window
        if isinstance(top, QMenu):
            self.choose(top)
        elif top is self.window and self.rng.random() < 0.15:
            self.whole()
        elif top is not self.window and self.rng.random() < 0.12:
            self.did("Escape")
            QTest.keyClick(top, Qt.Key.Key_Escape)
        else:
            seen = [w for w in top.findChildren(QWidget) if isinstance(w, USED) and w.isVisible() and w.isEnabled()]
            if seen:
                self.use(self.rng.choice(seen))

    def did(self, what: str, name: str = "") -> None:
        """Write it down."""
        self.done[what] += 1
        self.last.append(f"{what} {name}".strip())

    def choose(self, menu: QMenu) -> None:
        """An entry of a menu."""
        entries = [a for a in menu.actions() if a.isEnabled() and not a.isSeparator() and not a.menu()]
        entries = [a for a in entries if not any(word in a.text().replace("&", "") for word in NOT)]
        menu.close()
        if entries:
            entry = self.rng.choice(entries)
            self.did("menu", entry.text())
            entry.trigger()

    def whole(self) -> None:
        """What is for all of the window."""
        w, rng = self.window, self.rng
        ways: list[tuple[int, str, Callable[[], object]]] = [
            (20, "undo", w.undo),
            (10, "redo", w.redo),
            (40, "stage", lambda: w.show_stage(rng.choice(list(STAGES)))),
            (3, "theme", w.switch_theme),
            (3, "zoom", lambda: w.zoom(rng.choice([-1, 0, 1]))),
            (5, "demo", lambda: w.open_demo(rng.choice(list(DEMOS)))),
            (15, "menu", lambda: self.choose(rng.choice([a.menu() for a in w.menuBar().actions() if a.menu()]))),
        ]
        if w.workspace is not None:
            stations = [s.id for s in w.workspace.stations]
            ways += [(5, "units", w.switch_units), (15, "select", lambda: w.workspace.select(rng.choice(stations)))]
        _, name, act = rng.choices(ways, [way[0] for way in ways])[0]
        self.did(name)
        act()

    def use(self, widget: QWidget) -> None:
        """One widget as its kind is used."""
        rng, text = self.rng, getattr(widget, "text", str)()
        self.did(type(widget).__name__, (widget.accessibleName() or str(text) or widget.objectName())[:40])
        if isinstance(widget, QComboBox):
            if widget.count():
                widget.setCurrentIndex(rng.randrange(widget.count()))
                widget.activated.emit(widget.currentIndex())
        elif isinstance(widget, QLineEdit):
            self.type_into(widget)
        elif isinstance(widget, SectionView):
            self.draw(widget)
        elif isinstance(widget, QAbstractItemView):
            self.point(widget)
        elif isinstance(widget, QSlider | QSpinBox):
            widget.setValue(rng.randint(widget.minimum(), widget.maximum()))
        elif isinstance(widget, QDateEdit):
            widget.setDate(widget.date().addDays(-rng.randrange(100)))
        elif isinstance(widget, QAbstractButton):
            widget.click()

    def type_into(self, field: QLineEdit) -> None:
        """Something, or a number near what stands there."""
        field.setFocus()
        if self.rng.random() < 0.3:
            QTest.keyClick(field, self.rng.choice([Qt.Key.Key_Up, Qt.Key.Key_Down]))
            return
        figure = "".join(c for c in field.text().split(" ")[0] if c in "0123456789.")
        near = f"{self.rng.choice(FACTORS) * float(figure):.4g}" if figure.count(".") < 2 and figure.strip(".") else "1"
        field.selectAll()
        QTest.keyClicks(field, self.rng.choice([near, self.rng.choice(TYPED)]))
        QTest.keyClick(field, Qt.Key.Key_Return)

    def draw(self, view: SectionView) -> None:
        """A handle is dragged, or a place pressed."""
        rng, left = self.rng, Qt.MouseButton.LeftButton
        at = QPoint(rng.randrange(max(view.width(), 1)), rng.randrange(max(view.height(), 1)))
        handles = view.drawing().handles
        if handles and view.editable and rng.random() < 0.7:
            at = view.to_screen(rng.choice(handles).at).toPoint()
            to = at + QPoint(rng.randint(-60, 60), rng.randint(-60, 60))
            QTest.mousePress(view, left, pos=at)
            for i in range(1, 5):
                QTest.mouseMove(view, at + (to - at) * i / 4)
            if rng.random() < 0.15:
                QTest.keyClick(view, Qt.Key.Key_Escape)
            QTest.mouseRelease(view, left, pos=to)
        elif rng.random() < 0.2:
            QTest.mouseDClick(view, left, pos=at)
        else:
            QTest.mouseClick(view, left, pos=at)

    def point(self, view: QAbstractItemView) -> None:
        """A row is pressed."""
        model = view.model()
        if model is None or not model.rowCount() or isinstance(view, QHeaderView):
            return
        columns = model.columnCount() if isinstance(model, QAbstractTableModel) else 1
        index = model.index(self.rng.randrange(model.rowCount()), self.rng.randrange(max(columns, 1)))
        view.scrollTo(index)
        QTest.mouseClick(view.viewport(), Qt.MouseButton.LeftButton, pos=view.visualRect(index).center())


def main(seconds: float = 300.0, seed: int = 0) -> int:
    """Let them go."""
    faulthandler.enable()  # where Qt itself goes down nothing else says so
    folder = Path(tempfile.mkdtemp())
    os.chdir(folder)
    hands = Hands(seconds, int(seed))
    sys.excepthook = hands.fault

    def named(*args: Any, **_: Any) -> tuple[str, str]:
        return str(Path(tempfile.mkdtemp(dir=folder)) / f"out{hands.rng.choice(ENDINGS)}"), ""

    QFileDialog.getSaveFileName = staticmethod(named)
    QFileDialog.getOpenFileName = staticmethod(lambda *args, **_: ("", ""))
    QFileDialog.getExistingDirectory = staticmethod(lambda *args, **_: tempfile.mkdtemp(dir=folder))
    share_threads()
    QTimer.singleShot(PAUSE, hands.turn)
    hands.app.exec()
    faulthandler.cancel_dump_traceback_later()
    print(f"{hands.done.total()} things by seed {seed}: " + ", ".join(f"{k} {n}" for k, n in hands.done.most_common()))
    print(f"{len(hands.wrong)} faults.", flush=True)
    os._exit(int(bool(hands.wrong)))  # whatever is still worked out aside is of no use


if __name__ == "__main__":
    main(*map(float, sys.argv[1:3]))
