"""The menus of the window. Every action stands in one of them, with a letter of its own; the help lists their keys."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial
from typing import TYPE_CHECKING, Any

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QAbstractButton, QMenu

from fuente.demo import DEMOS
from fuente.study.situations import TITLES
from fuente.ui.as_used import saves_by_itself
from fuente.ui.exports import FILES
from fuente.ui.stages import STAGES

if TYPE_CHECKING:
    from fuente.ui.window import MainWindow

_MOST = 24  # entries of the page's own menu


def build(window: MainWindow) -> None:
    """Fill the menu bar."""
    bar = window.menuBar()
    _file(window, bar.addMenu("&File"))
    _edit(window, bar.addMenu("&Edit"))
    _view(window, bar.addMenu("&View"))
    page = bar.addMenu("&Page")
    page.setObjectName("page")
    page.aboutToShow.connect(lambda: _fill_page(window, page))
    _help(window, bar.addMenu("&Help"))
    for menu in menus_of(window):
        letters(menu)
        menu.aboutToShow.connect(partial(letters, menu))


def add(
    window: MainWindow, menu: QMenu, text: str, shortcut: Any, act: Callable[..., object], checked: bool | None = None
) -> QAction:
    """An entry that first takes what is typed and not entered."""
    action = QAction(text, window)
    if shortcut:
        action.setShortcut(shortcut)
    if checked is not None:
        action.setCheckable(True)
        action.setChecked(checked)
    action.triggered.connect(lambda _=False: window.all_entered() and act())
    menu.addAction(action)
    window.addAction(action)
    return action


def _file(window: MainWindow, menu: QMenu) -> None:
    put = partial(add, window, menu)
    put("&New design", "Ctrl+N", window.new)
    put("&Open…", QKeySequence.StandardKey.Open, window.choose_file)
    window.recent_menu = menu.addMenu("Open &recent")
    window.recent_menu.aboutToShow.connect(window.fill_recent)
    put("Unsaved &work…", None, window.open_recovery)
    demos = menu.addMenu("&Demos")
    for key in DEMOS:
        add(window, demos, key.replace("-", " ").capitalize(), None, partial(window.open_demo, key))
    menu.addSeparator()
    window.save_action = put("&Save", QKeySequence.StandardKey.Save, window.save)
    window.save_as_action = put("Save &as…", "Ctrl+Shift+S", window.save_as)
    window.saving_action = put("Sa&ve as you go", None, window.switch_saving, saves_by_itself())
    exports = menu.addMenu("&Export")
    for name, suffix, act, _, keys in FILES:
        add(window, exports, name, keys or None, partial(window.export, suffix, act))
    put("&Print this page…", "Ctrl+Alt+P", window.print_page)
    menu.addSeparator()
    put("&Close design", "Ctrl+W", window.close_document)
    put("&Quit", "Ctrl+Q", window.close)


def _edit(window: MainWindow, menu: QMenu) -> None:
    put = partial(add, window, menu)
    window.undo_action = put("&Undo", QKeySequence.StandardKey.Undo, window.undo)
    window.redo_action = put("&Redo", "Ctrl+Shift+Z", window.redo)
    menu.addSeparator()
    put("&Copy", QKeySequence.StandardKey.Copy, window.copy)
    put("Copy the whole &table", "Ctrl+Shift+C", window.copy_all)
    put("Copy the &drawing", "Ctrl+Alt+C", window.copy_drawing)
    menu.addSeparator()
    put("&Add a filter…", "Ctrl+Shift+F", window.open_gallery)
    put("&Put up a rack…", "Ctrl+R", window.enter_rack)


def _view(window: MainWindow, menu: QMenu) -> None:
    put = partial(add, window, menu)
    for number, (key, stage) in enumerate(STAGES.items(), 1):
        put(stage.title, f"Ctrl+{number}", partial(window.show_stage, key)).setWhatsThis(stage.said)
    put("&Plan or section", "F3", window.switch_plan)
    put("&Bench mode", "F5", window.open_bench)
    menu.addSeparator()
    put("Next part of the page", "F6", partial(window.walk_parts, 1))
    put("Previous part of the page", "Shift+F6", partial(window.walk_parts, -1))
    put("Previous station", "Alt+Left", partial(window.walk, -1))
    put("Next station", "Alt+Right", partial(window.walk, 1))
    put("Look closely at the station, and back", "F4", window.look_closely)
    cases = menu.addMenu("Situation")
    for number, (key, name) in enumerate(TITLES.items(), 1):
        keys = f"Ctrl+Alt+{number}" if number < 10 else None
        add(window, cases, name, keys, partial(window.show_situation, key))
    menu.addSeparator()
    put("&Metric or US units", "Ctrl+U", window.switch_units)
    put("&Light or dark theme", "Ctrl+D", window.switch_theme)
    put("Sliding levels on or off", None, window.switch_motion)
    sizes = menu.addMenu("Te&xt size")
    add(window, sizes, "&Larger text", QKeySequence.StandardKey.ZoomIn, partial(window.zoom, 1))
    add(window, sizes, "&Smaller text", QKeySequence.StandardKey.ZoomOut, partial(window.zoom, -1))
    add(window, sizes, "&Reset text size", "Ctrl+0", partial(window.zoom, 0))


def _help(window: MainWindow, menu: QMenu) -> None:
    put = partial(add, window, menu)
    put("&Quick answer…", "Ctrl+K", window.open_answers)
    put("&Keyboard shortcuts", "F1", window.open_help)
    put("&About", None, window.about)


def _fill_page(window: MainWindow, menu: QMenu) -> None:
    """What the buttons of the page that is shown do."""
    menu.clear()
    seen: set[str] = set()
    page = window.stack.currentWidget()
    for button in page.findChildren(QAbstractButton) if page is not None else ():
        words = button.text().replace("&&", "&")
        if not words or words in seen or not button.isVisible() or not button.isEnabled() or len(seen) >= _MOST:
            continue
        seen.add(words)
        action = menu.addAction(words.replace("&", "&&"))
        action.setCheckable(button.isCheckable())
        action.setChecked(button.isChecked())
        action.triggered.connect(lambda _=False, b=button: window.all_entered() and b.click())
    if menu.isEmpty():
        menu.addAction("Nothing to press here").setEnabled(False)
    letters(menu)


def menus_of(window: MainWindow) -> Iterator[QMenu]:
    """Every menu, those within others after them."""

    def inside(menu: QMenu) -> Iterator[QMenu]:
        yield menu
        for action in menu.actions():
            within = action.menu()
            if isinstance(within, QMenu):
                yield from inside(within)

    for action in window.menuBar().actions():
        menu = action.menu()
        if isinstance(menu, QMenu):
            yield from inside(menu)


def plain(text: str) -> str:
    """An entry's words without the mark of its letter."""
    return text.replace("&&", "\0").replace("&", "").replace("\0", "&")


def letter_of(text: str) -> str:
    """The letter that chooses an entry; empty where it has none."""
    bare = text.replace("&&", "")
    at = bare.find("&")
    return bare[at + 1 : at + 2].lower() if at >= 0 else ""


def letters(menu: QMenu) -> None:
    """Give every entry a letter that no other of the menu has, as long as there are such."""
    taken = {letter_of(a.text()) for a in menu.actions() if not a.isSeparator()}
    for action in menu.actions():
        text = action.text()
        if action.isSeparator() or letter_of(text):
            continue
        words = text.replace("&&", "\0")
        free = [i for i, char in enumerate(words) if char.isalnum() and char.lower() not in taken]
        free += [i for i, char in enumerate(words) if char.isalnum()]  # none is left: Qt walks on
        if free:
            taken.add(words[free[0]].lower())
            action.setText((words[: free[0]] + "&" + words[free[0] :]).replace("\0", "&&"))
