"""A row of the log by hand: its menu, another line asked for, and what that line says in its place."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QApplication, QInputDialog, QMenu, QTableView, QWidget

from fuente.ui.label import tip
from fuente.units import UnitSystem
from fuente.upkeep.entry import Entry
from fuente.upkeep.places import Places
from fuente.upkeep.typed_line import read_line, said


def row_menu(
    table: QTableView, at: QPoint, correct: Callable[[int], object], take_back: Callable[[int], object]
) -> None:
    """What can be done with the row under a point of the table."""
    index = table.indexAt(at)
    if not index.isValid():
        return
    menu = QMenu(table)
    menu.addAction("&Correct …", lambda: correct(index.row()))
    menu.addAction("Take &back", lambda: take_back(index.row()))
    menu.addAction("C&opy", lambda: QApplication.clipboard().setText(str(index.siblingAtColumn(1).data())))
    menu.exec(table.viewport().mapToGlobal(at))


def ask_instead(parent: QWidget, entry: Entry, places: Places, units: UnitSystem) -> str:
    """Another line for an entry; nothing where none is wanted."""
    before = said(entry, places, units)
    words, ok = QInputDialog.getText(parent, "Correct an entry", tip(f"Instead of “{before}”:"), text=before)
    return words.strip() if ok else ""


def correction(entry: Entry, words: str, places: Places, units: UnitSystem) -> Entry | None:
    """What a line says in the place of an entry, at its moment; None where it says more, or less, than one."""
    reads = read_line(words, entry.when, places, units, entry.place)
    if len(reads) != 1:
        return None
    return replace(reads[0].entry, corrects=entry.id, place=reads[0].entry.place or entry.place)
