"""Build: what is cut from what, drilled, joined, in which order, and what it costs."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import Any

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import (
    QButtonGroup,
    QFileDialog,
    QHBoxLayout,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from fuente.devices.base import Change, Edit
from fuente.document.record import Built
from fuente.ui import build_lists as lists
from fuente.ui import theme
from fuente.ui.bench import Bench
from fuente.ui.bill_view import BillView
from fuente.ui.build_files import FilesPanel
from fuente.ui.cheaper_panel import CheaperPanel
from fuente.ui.drawn_view import DrawnView
from fuente.ui.grid import Grid
from fuente.ui.sheet_search import SheetSearch
from fuente.ui.shop_dialog import ShopDialog
from fuente.ui.side_panel import upright
from fuente.ui.stage_page import StagePage
from fuente.ui.step_view import BenchCards, StepView, now
from fuente.ui.told_panel import ToldPanel, plain
from fuente.ui.workspace import Workspace
from fuente.workshop import looked_at
from fuente.workshop.clocks import Stand, Stood, build_stand, done, next_step, opened
from fuente.workshop.drawn import drawing_of
from fuente.workshop.purchase import purchase, with_price
from fuente.workshop.room import Room, room_of

VIEWS = {"parts": "Parts", "sheets": "Sheets", "pipes": "Pipes", "steps": "Steps", "bill": "Bill"}
LIST, MOST = 268, 330  # px of the left list, and with large text
MINUTE = 60_000  # ms: clocks are read again


class BuildPage(StagePage):
    """Views above; the list at the left, the drawing in the middle, what is said of it at the right."""

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.view = "parts"
        self._stood: tuple[Stood, ...] = ()
        self._chosen_in: dict[str, str] = {}
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self._left())
        row.addWidget(upright(self))
        row.addWidget(self._middle(), 1)
        row.addWidget(upright(self))
        row.addWidget(self._right())
        self._clock = QTimer(self)
        self._clock.setInterval(MINUTE)
        self._clock.timeout.connect(self._tick)
        self._clock.start()
        workspace.changed.connect(self.follow)
        self.refresh()

    # -- making ---------------------------------------------------------------------------------------------------

    def _left(self) -> QWidget:
        """The list, and what the builder has."""
        holder = QWidget(self)
        holder.setFixedWidth(min(theme.px(LIST), MOST))
        column = QVBoxLayout(holder)
        column.setContentsMargins(theme.px(10), theme.px(12), theme.px(6), theme.px(10))
        column.setSpacing(theme.px(6))
        self.head = plain("", "heading")
        self.sub = plain("", "subheading")
        column.addWidget(self.head)
        column.addWidget(self.sub)
        self.list = Grid(("What", "Size or state"), "What is built", (1,), parent=holder)
        self.list.hide_heads()
        self.list.fits(theme.px(30))
        self.list.setWordWrap(False)
        self.list.chosen.connect(self._chose)
        column.addWidget(self.list, 1)
        self.shop = QPushButton("Workshop and leftovers…")
        self.shop.setToolTip("Joint order, gaps, stock, leftovers, the fitting in your hand, glue, budget")
        self.shop.clicked.connect(self.open_shop)
        column.addWidget(self.shop)
        return holder

    def _middle(self) -> QWidget:
        """Views above, what is chosen, and the bench."""
        holder = QWidget(self)
        holder.setObjectName("ground")
        holder.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, theme.px(10), 0, 0)
        column.setSpacing(theme.px(8))
        bar = QHBoxLayout()
        bar.setContentsMargins(16, 0, 12, 0)
        bar.setSpacing(6)
        self.views = QButtonGroup(self)
        self.chips: dict[str, QPushButton] = {}
        for key, title in VIEWS.items():
            chip = QPushButton(title)
            chip.setObjectName("choice")
            chip.setCheckable(True)
            chip.setStyleSheet(f"padding: {theme.px(6)}px {10 if theme.scale() < 1.2 else 7}px;")
            chip.clicked.connect(partial(self.show_view, key))
            self.views.addButton(chip)
            self.chips[key] = chip
            bar.addWidget(chip)
        bar.addStretch(1)
        self.bench = QPushButton("Bench mode  F5" if theme.scale() < 1.2 else "Bench  F5")
        self.bench.setObjectName("link")
        self.bench.setToolTip("One step a screen in large type, for wet hands")
        self.bench.clicked.connect(self.open_bench)
        bar.addWidget(self.bench)
        column.addLayout(bar)
        self.stack = QStackedWidget(holder)
        self.drawn = DrawnView("What is cut, to scale", self.stack)
        self.step = StepView(self.stack)
        self.bill = BillView(self.stack)
        for widget in (self.drawn, self.step, self.bill):
            self.stack.addWidget(widget)
        column.addWidget(self.stack, 1)
        self.search = SheetSearch(self.workspace, holder)
        self.search.found.connect(lambda: self.show_view(self.view))
        column.addWidget(self.search)
        self.cards = BenchCards(holder)
        self.cards.asked.connect(self.show_step)
        column.addWidget(self.cards)
        self.step.ticked.connect(self.tick)
        self.step.opened.connect(self.reopen)
        self.step.noted.connect(self.note)
        self.step.photographed.connect(self.photograph)
        self.bill.priced.connect(self._price)
        return holder

    def _right(self) -> QWidget:
        """What is said, and the files."""
        self.told = ToldPanel(self)
        self.cheaper = CheaperPanel(self.workspace, self.told.area.widget())
        self.told.more.addWidget(self.cheaper)
        self.files = FilesPanel(self.workspace, self.told.area.widget())
        self.told.more.addWidget(self.files)
        return self.told

    # -- looking --------------------------------------------------------------------------------------------------

    @property
    def room(self) -> Room:
        """The build room of what is shown."""
        return room_of(self.workspace.analysis)

    def refresh(self) -> None:
        """Follow the workspace."""
        room = self.room
        room.take(self.search.better)
        self._read_steps()
        self.cheaper.follow()
        self.show_view(self.view)
        self.files.refresh(room.bill.cautions)

    def _read_steps(self) -> None:
        self._stood = build_stand(self.room.steps, self.workspace.record, now())

    def _tick(self) -> None:
        """A minute has passed: clocks are read again where they are seen."""
        if self.isVisible():
            self._read_steps()
            self._show_bench()
            if self.view == "steps":
                self.show_view("steps")

    def show_view(self, view: str, *_: object) -> None:
        """Show one of the views."""
        self.view = view
        self.chips[view].setChecked(True)
        w, room = self.workspace, self.room
        if view == "parts":
            lines = lists.parts(room, w.units)
        elif view == "sheets":
            lines = lists.sheets(room, w.units)
        elif view == "pipes":
            lines = lists.pipes(room, w.units)
        elif view == "steps":
            lines = lists.steps(self._stood, w.units)
        else:
            total = purchase(w.analysis, w.units)
            self.bill.show_purchase(total, room.shop, w.units)
            lines = lists.bill(total, room)
        title, lines_said = looked_at.head(room, self._stood, view, w.units)
        self.head.setText(title)
        self.sub.setText(lines_said)
        self.list.blockSignals(True)
        self.list.show_lines(lines)
        self.list.blockSignals(False)
        wanted = self._chosen_in.get(view) or self._first_of(view)
        if not (wanted and self.list.choose(wanted)):
            first = next((str(line.of) for line in lines if line.of is not None), None)
            if first is not None:
                self.list.choose(first)
        self._show_chosen()
        self._show_bench()

    def _first_of(self, view: str) -> str:
        """What is looked at first."""
        room = self.room
        if view == "parts":
            drilled = [p for p in room.bill.panels if p.holes]
            return next((p.id for p in [*drilled, *room.bill.panels]), "")
        if view == "steps":
            upcoming = next_step(self._stood)
            return upcoming.step.id if upcoming else ""
        return ""

    def _chose(self) -> None:
        key = self.list.current()
        if key is not None:
            self._chosen_in[self.view] = str(key)
            self._show_chosen()

    def _show_chosen(self) -> None:
        key, view, units = str(self.list.current() or ""), self.view, self.workspace.units
        self.search.setVisible(view == "sheets")
        self.cheaper.setVisible(view == "bill")
        if view == "steps":
            self._show_step_of(key)
        elif view == "bill":
            self.stack.setCurrentWidget(self.bill)
            self.bill.show_group(key.removeprefix("group/"))
            self.told.show_told(self.bill.told())
        else:
            look = {"parts": looked_at.part, "sheets": looked_at.sheet, "pipes": looked_at.run}[view]
            found = look(self.room, key, units)
            self.told.show_told(found.told)
            self.stack.setCurrentWidget(self.drawn)
            self.drawn.show_drawing(found.drawing, units, found.words)

    def _show_step_of(self, key: str) -> None:
        at = next((k for k, s in enumerate(self._stood) if s.step.id == key), None)
        self.stack.setCurrentWidget(self.step)
        if at is None:
            return
        stood = self._stood[at]
        drawing = drawing_of(self.room, stood.step)
        self.step.show_step(stood, at + 1, len(self._stood), self.workspace.units, drawing)
        self.told.show_told(looked_at.told_build(self.room, self._stood, self.workspace.units))

    def _show_bench(self) -> None:
        upcoming = next_step(self._stood)
        curing = [s for s in self._stood if s.stand is Stand.CURING]
        at = self._stood.index(upcoming) + 1 if upcoming else 0
        self.cards.setVisible(self.view != "steps" and bool(self._stood))
        self.cards.show_stand(upcoming, curing, at, len(self._stood), self.workspace.units)

    # -- doing ----------------------------------------------------------------------------------------------------

    def show_step(self, step_id: str) -> None:
        """Show a step."""
        self._chosen_in["steps"] = step_id
        self.show_view("steps")

    def tick(self, step_id: str) -> None:
        """Write down that a step is done; its clock runs from now. The next one is shown."""
        stood = next(s for s in self._stood if s.step.id == step_id)
        if stood.stand is Stand.HELD:
            return
        self._chosen_in.pop("steps", None)
        self.workspace.write_down(*done(stood.step, now()))

    def reopen(self, step_id: str) -> None:
        """Write down that a step is open again."""
        step = next(s.step for s in self._stood if s.step.id == step_id)
        self._chosen_in["steps"] = step_id
        self.workspace.write_down(*opened(step, now()))

    def note(self, step_id: str, words: str) -> None:
        """Write about a step."""
        self._chosen_in["steps"] = step_id
        self.workspace.write_down(Built(when=now().isoformat(timespec="seconds"), step=step_id, note=words))

    def photograph(self, step_id: str) -> None:
        """Add a photograph to a step."""
        start = str(self.workspace.path.parent if self.workspace.path else Path.home())
        name, _ = QFileDialog.getOpenFileName(self, "Photograph of this step", start, "Pictures (*.jpg *.jpeg *.png)")
        if name:
            self._chosen_in["steps"] = step_id
            entry = Built(when=now().isoformat(timespec="seconds"), step=step_id, photo=self._beside(name))
            self.workspace.write_down(entry)

    def _beside(self, name: str) -> str:
        """A file's path as seen from the design, where it lies beside or below it."""
        here = self.workspace.path.parent if self.workspace.path else None
        path = Path(name)
        return str(path.relative_to(here)) if here is not None and path.is_relative_to(here) else str(path)

    def _price(self, key: str, amount: object) -> None:
        prices = with_price(self.workspace.system.shop, key, amount if isinstance(amount, float) else None)
        self.workspace.edit(Edit("Set price", (Change(("shop", "prices"), prices),)))

    def open_bench(self, *_: object) -> Bench | None:
        """One step a screen, in large type."""
        if not self._stood:
            return None
        dialog = Bench(self._stand_now, lambda s: drawing_of(self.room, s.step), self.workspace.units, self.window())
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.setModal(True)  # its steps are this page's, which another theme would make anew
        dialog.ticked.connect(self.tick)
        dialog.opened.connect(self.reopen)
        dialog.show()
        return dialog

    def _stand_now(self) -> tuple[Stood, ...]:
        self._read_steps()
        return self._stood

    def open_shop(self) -> None:
        """The workshop: joint order, stock, leftovers, fittings, glue, money."""
        dialog = ShopDialog(self.workspace, self)
        dialog.exec()
        dialog.deleteLater()

    # -- keeping --------------------------------------------------------------------------------------------------

    def kept(self) -> dict[str, Any]:
        """What is looked at."""
        return {"view": self.view, "chosen": dict(self._chosen_in), "better": self.search.better}

    def resume(self, kept: dict[str, Any]) -> None:
        """Look at it again."""
        self._chosen_in = dict(kept.get("chosen", {}))
        self.search.better = dict(kept.get("better", {}))
        self.room.take(self.search.better)
        self.show_view(kept.get("view", "parts"))
