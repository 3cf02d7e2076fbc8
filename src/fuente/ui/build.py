"""Build: what is cut from what, drilled, joined, in which order, and what it costs."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import Any

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import (
    QButtonGroup,
    QFileDialog,
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from fuente.devices.base import Change, Edit
from fuente.document.record import Built
from fuente.drawing.primitives import Drawing
from fuente.halting import telling
from fuente.ui import build_lists as lists
from fuente.ui import theme
from fuente.ui.bench import Bench
from fuente.ui.bill_view import BillView
from fuente.ui.build_files import FilesPanel
from fuente.ui.cheaper_panel import CheaperPanel
from fuente.ui.drawn_view import DrawnView
from fuente.ui.grid import Grid
from fuente.ui.jobs import Job
from fuente.ui.shop_dialog import ShopDialog
from fuente.ui.side_panel import upright
from fuente.ui.stage_page import StagePage
from fuente.ui.step_view import BenchCards, StepView, now
from fuente.ui.told_panel import ToldPanel, plain
from fuente.ui.workspace import Workspace
from fuente.units import shown
from fuente.workshop import told
from fuente.workshop.clocks import Stand, Stood, build_stand, done, next_step, opened
from fuente.workshop.drawn import drawing_of, lengths_drawing, nest_drawing, panel_drawing, piece_drawing
from fuente.workshop.piping import sketch_of
from fuente.workshop.purchase import purchase, with_price
from fuente.workshop.room import Room, room_of
from fuente.workshop.sheet_cuts import Nesting
from fuente.workshop.sheets import Lot

VIEWS = {"parts": "Parts", "sheets": "Sheets", "pipes": "Pipes", "steps": "Steps", "bill": "Bill"}
SEARCH = 2.0  # s
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
        self._laid: dict[Lot, Nesting] = {}  # what a search found, by what is cut
        self._stood: tuple[Stood, ...] = ()
        self._chosen_in: dict[str, str] = {}
        self._job: Job | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self._left())
        row.addWidget(upright())
        row.addWidget(self._middle(), 1)
        row.addWidget(upright())
        row.addWidget(self._right())
        self._clock = QTimer(self)
        self._clock.setInterval(MINUTE)
        self._clock.timeout.connect(self._tick)
        self._clock.start()
        workspace.changed.connect(self.refresh)
        self.refresh()

    # -- making ---------------------------------------------------------------------------------------------------

    def _left(self) -> QWidget:
        """The list, and what the builder has."""
        holder = QWidget()
        holder.setFixedWidth(min(theme.px(LIST), MOST))
        column = QVBoxLayout(holder)
        column.setContentsMargins(theme.px(10), theme.px(12), theme.px(6), theme.px(10))
        column.setSpacing(theme.px(6))
        self.head = plain("", "heading")
        self.sub = plain("", "subheading")
        column.addWidget(self.head)
        column.addWidget(self.sub)
        self.list = Grid(("What", ""), "What is built", right=(1,))
        self.list.horizontalHeader().hide()
        self.list.fits(theme.px(30))
        self.list.setTabKeyNavigation(False)
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
        holder = QWidget()
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
        self.stack = QStackedWidget()
        self.drawn = DrawnView("What is cut, to scale")
        self.step = StepView()
        self.bill = BillView()
        for widget in (self.drawn, self.step, self.bill):
            self.stack.addWidget(widget)
        column.addWidget(self.stack, 1)
        column.addLayout(self._searching())
        self.cards = BenchCards()
        self.cards.asked.connect(self.show_step)
        column.addWidget(self.cards)
        self.step.ticked.connect(self.tick)
        self.step.opened.connect(self.reopen)
        self.step.noted.connect(self.note)
        self.step.photographed.connect(self.photograph)
        self.bill.priced.connect(self._price)
        return holder

    def _searching(self) -> QHBoxLayout:
        """Looking for less waste: progress and Stop."""
        row = QHBoxLayout()
        row.setContentsMargins(theme.px(16), 0, theme.px(16), 0)
        self.search = QPushButton("Look for less waste")
        self.search.setToolTip(f"Tries other layouts for {SEARCH:.0f} seconds and keeps the best")
        self.search.clicked.connect(self.look_for_less)
        self.busy = QProgressBar()
        self.busy.setTextVisible(False)
        self.busy.setFixedHeight(theme.px(8))
        self.busy.setAccessibleName("Search for less waste")
        self.busy.setVisible(False)
        self.found = plain("", "subheading")
        row.addWidget(self.search)
        row.addWidget(self.busy, 1)
        row.addWidget(self.found, 2)
        return row

    def _right(self) -> QWidget:
        """What is said, and the files."""
        self.told = ToldPanel()
        self.cheaper = CheaperPanel(self.workspace)
        self.told.more.addWidget(self.cheaper)
        self.files = FilesPanel(self.workspace)
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
        room.take(self._laid)
        self._read_steps()
        self.cheaper.follow()
        self.show_view(self.view)
        self.files.refresh(room.bill.cautions)

    def _lots(self) -> dict[str, Lot]:
        """All that is cut from sheets, by its key."""
        return {lot.key: lot for lot in (*self.room.lots, *(p.lot for p in self.room.pads))}

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
        self._say_head(view)
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

    def _say_head(self, view: str) -> None:
        room, units = self.room, self.workspace.units
        panels = room.bill.panels
        count = sum(p.count for p in panels)
        if view == "parts":
            mass = sum(p.mass * p.count for p in panels if p.material == "glass")
            glass = f", {shown(mass, 'mass', units)} of glass" if mass else ""
            self.head.setText("To order and cut")
            self.sub.setText(
                f"{count} panels{glass}; {len(room.bill.lines)} other lines"
                if count
                else f"{len(room.bill.lines)} lines, in the order of the build"
            )
        elif view == "sheets":
            self.head.setText("Cut from sheets")
            self.sub.setText("Panels, pads and pipe on what is sold and on what you have")
        elif view == "pipes":
            self.head.setText("Runs of pipe")
            self.sub.setText("Cut lengths, each less what its fittings take off")
        elif view == "steps":
            finished = sum(s.stand in (Stand.DONE, Stand.CURING) for s in self._stood)
            hours = sum(s.step.minutes for s in self._stood) / 60
            self.head.setText(f"{finished} of {len(self._stood)} steps done")
            self.sub.setText(f"About {hours:.0f} hours of work; clocks run on while Fuente is shut")
        else:
            self.head.setText("What it costs")
            self.sub.setText("Type a price into the list; the cheapest of your suppliers counts")

    def _chose(self) -> None:
        key = self.list.current()
        if key is not None:
            self._chosen_in[self.view] = str(key)
            self._show_chosen()

    def _show_chosen(self) -> None:
        key = str(self.list.current() or "")
        self.search.setVisible(self.view == "sheets")
        self.cheaper.setVisible(self.view == "bill")
        self.found.setVisible(self.view == "sheets")
        show = {
            "parts": self._show_part,
            "sheets": self._show_sheet,
            "pipes": self._show_run,
            "steps": self._show_step_of,
            "bill": self._show_bill,
        }[self.view]
        show(key)

    def _draw(self, drawing: Drawing | None, words: str) -> None:
        self.stack.setCurrentWidget(self.drawn)
        self.drawn.show_drawing(drawing, self.workspace.units, words)

    def _show_part(self, key: str) -> None:
        w, room = self.workspace, self.room
        panel = room.panel(key)
        if panel is not None:
            self.told.show_told(told.told_panel(panel, w.system.space.lift, room.shop, w.units))
            self._draw(panel_drawing(panel), "seen from outside" if panel.faces else "as it is cut")
            return
        piece = next((line.piece for line in room.bill.lines if line.piece.id == key), None)
        if piece is None:
            self.told.show_told(told.Told("Nothing to build", why="Add a tank and a filter, and its parts stand here."))
            self._draw(None, "Nothing to build yet.")
            return
        holes = room.holes_with(key)
        floor = room.floor_of(holes)
        if floor is not None:
            self.told.show_told(told.told_holes(f"Holes in {floor[0]}", holes, w.units))
        else:
            self.told.show_told(told.told_piece(piece, w.units))
        found = piece_drawing(room, key)
        if found is None:
            self._draw(None, "It is bought whole: there is nothing to cut.")
        else:
            self._draw(*found)

    def _show_sheet(self, key: str) -> None:
        w, room = self.workspace, self.room
        self.search.setEnabled(bool(self._lots()))
        name, _, number = key.rpartition("/")
        if name == "pipe":
            lengths = room.lengths[number]
            self.told.show_told(told.told_lengths(number, lengths, room.shop, w.units))
            self._draw(lengths_drawing(lengths), "cut in this order")
            return
        lot = self._lots().get(name)
        whole = room.laid(lot) if lot else None
        if lot is not None and number == "unfit":
            words = "Name a larger sheet under Workshop, or make the panel smaller."
            self.told.show_told(told.Told("Larger than any sheet", why=words))
            self._draw(None, words)
            return
        if lot is None or whole is None or not number or int(number) > len(whole.nests):
            self.told.show_told(told.Told("Nothing is cut", why="This design has no panels, pads or pipe to cut."))
            self._draw(None, "Nothing is cut from sheets in this design.")
            return
        nest = whole.nests[int(number) - 1]
        said = told.told_nest(lot, int(number), nest, whole, room.bill.panels, room.shop, w.units)
        pads = next((p for p in room.pads if p.lot.key == lot.key), None)
        if pads is not None:
            said = replace(said, rows=(*said.rows, *told.told_pads(pads, w.units, room.shop)))
        self.told.show_told(said)
        order = "score in this order, edge to edge" if lot.material == "glass" else "cut in this order, edge to edge"
        self._draw(nest_drawing(nest, lot.material == "foam"), order)

    def _show_run(self, key: str) -> None:
        room = self.room
        number = key.removeprefix("run.")
        if not number.isdigit() or int(number) >= len(room.runs):
            self.told.show_told(
                told.Told("No pipe is cut", why="This design has hoses and airlines, but no rigid pipe.")
            )
            self._draw(None, "No rigid pipe is cut in this design.")
            return
        run = room.runs[int(number)]
        self.told.show_told(told.told_run(run, room.shop, self.workspace.units))
        self._draw(sketch_of(run), "legs to scale; which way they turn is yours")

    def _show_step_of(self, key: str) -> None:
        at = next((k for k, s in enumerate(self._stood) if s.step.id == key), None)
        self.stack.setCurrentWidget(self.step)
        if at is None:
            return
        stood = self._stood[at]
        drawing = drawing_of(self.room, stood.step)
        self.step.show_step(stood, at + 1, len(self._stood), self.workspace.units, drawing)
        self.told.show_told(self._steps_told())

    def _steps_told(self) -> told.Told:
        finished = sum(s.stand in (Stand.DONE, Stand.CURING) for s in self._stood)
        left = sum(s.step.minutes for s in self._stood if s.stand not in (Stand.DONE, Stand.CURING))
        waits = sum(s.step.wait for s in self._stood if s.stand not in (Stand.DONE, Stand.CURING))
        shop = self.room.shop
        rows = (
            ("Work left", f"{left / 60:.0f} h"),
            ("Waiting left, one after another", f"{waits / 86400:.0f} days"),
            ("Inner bead", shown(shop.bead, "fine_length", self.workspace.units)),
            ("Cured, then dry for", shown(shop.before_water, "days", self.workspace.units)),
        )
        why = (
            "Clocks follow the depth of the bead and the label of your own tube: a day for each"
            f" {shown(0.0025, 'fine_length', self.workspace.units)} unless you say otherwise under Workshop. Times of"
            " work are typical, ±50 %."
        )
        figures = ((f"{finished}", "", "steps done"), (f"{len(self._stood) - finished}", "", "still to do"))
        return told.Told("The build", "every step from its parts", figures, rows, why)

    def _show_bill(self, key: str) -> None:
        self.stack.setCurrentWidget(self.bill)
        self.bill.show_group(key.removeprefix("group/"))
        self.told.show_told(self.bill.told())

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
        self.workspace.write_down(done(stood.step, now()))

    def reopen(self, step_id: str) -> None:
        """Write down that a step is open again."""
        step = next(s.step for s in self._stood if s.step.id == step_id)
        self._chosen_in["steps"] = step_id
        self.workspace.write_down(opened(step, now()))

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

    def look_for_less(self) -> None:
        """Search for better layouts of everything that is cut from sheets, or stop that."""
        if self._job is not None:
            self._end_search("Stopped; the best so far is kept.")
            return
        lots = list(self._lots().values())
        share = SEARCH / max(len(lots), 1)

        def work(tell: Any) -> dict[Lot, Nesting]:
            made = {}
            for k, lot in enumerate(lots):
                with telling(partial(_told_so_far, tell, k * share)):
                    made[lot] = lot.laid(share)
            return made

        self._job = Job(work, self).hear(self._found_better, self._end_search, self._progress)
        self.search.setText("Stop")
        self.busy.setValue(0)
        self.busy.setVisible(True)
        self.found.setText("")
        self._job.start()

    def _progress(self, share: float) -> None:
        self.busy.setValue(round(100 * share))

    def _found_better(self, made: dict[Lot, Nesting]) -> None:
        room, lots = self.room, self._lots().values()
        before = sum(room.laid(lot).bought for lot in lots)
        self._laid = made
        room.take(made)
        after = sum(room.laid(lot).bought for lot in lots)
        tried = sum(n.tried for n in made.values())
        saved = shown(before - after, "area", self.workspace.units)
        self._end_search(
            f"{tried} layouts tried. "
            + (f"{saved} of sheet saved." if after < before - 1e-9 else "No less sheet will do.")
        )
        self.show_view(self.view)

    def _end_search(self, words: str) -> None:
        if self._job is not None:
            self._job.stopped = True
            self._job = None
        self.busy.setVisible(False)
        self.search.setText("Look for less waste")
        self.found.setText(words)

    def _price(self, key: str, amount: object) -> None:
        prices = with_price(self.workspace.system.shop, key, amount if isinstance(amount, float) else None)
        self.workspace.edit(Edit("Set price", (Change(("shop", "prices"), prices),)))

    def open_bench(self, *_: object) -> Bench | None:
        """One step a screen, in large type."""
        if not self._stood:
            return None
        dialog = Bench(self._stand_now, lambda s: drawing_of(self.room, s.step), self.workspace.units, self.window())
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.ticked.connect(self.tick)
        dialog.opened.connect(self.reopen)
        dialog.show()
        return dialog

    def _stand_now(self) -> tuple[Stood, ...]:
        self._read_steps()
        return self._stood

    def open_shop(self) -> None:
        """The workshop: joint order, stock, leftovers, fittings, glue, money."""
        ShopDialog(self.workspace, self).exec()

    # -- keeping --------------------------------------------------------------------------------------------------

    def kept(self) -> dict[str, Any]:
        """What is looked at."""
        return {"view": self.view, "chosen": dict(self._chosen_in), "laid": self._laid}

    def resume(self, kept: dict[str, Any]) -> None:
        """Look at it again."""
        self._chosen_in = dict(kept.get("chosen", {}))
        self._laid = dict(kept.get("laid", {}))
        self.show_view(kept.get("view", "parts"))


def _told_so_far(tell: Callable[[float], bool], before: float, at: float) -> None:
    """Tell the share of a search that is over, s."""
    tell((before + at) / SEARCH)
