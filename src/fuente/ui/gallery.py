"""The gallery: every kind of filter as a small section of the builder's own tank with its first layout in it."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from fuente.devices.base import Edit
from fuente.devices.filtering import FilterSpec
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.findings.adding import Promise, added_well, promised, swapped_well
from fuente.findings.placing import Place, neighbours, placed_well
from fuente.one_line import within
from fuente.study.filters import first_layouts, take_out
from fuente.ui import theme, workspace
from fuente.ui.fields import ChoiceBox
from fuente.ui.gallery_tile import COLUMNS, Tile
from fuente.ui.jobs import Job
from fuente.ui.label import Label
from fuente.ui.workspace import Workspace
from fuente.units import fill

BESIDE = (None, "Beside them, on its own")
ASK_AFTER = 250  # ms that a kind stays chosen before it is worked out what it would bring


class Gallery(QDialog):
    """Choose a kind by its picture; it is added to a tank with a first layout."""

    taken = Signal(str)  # id of the filter that was added

    def __init__(self, workspace: Workspace, tank: str = "", parent: QWidget | None = None, swap: str = ""):
        """``swap`` is the id of a filter that the chosen one takes the place of; empty to add one."""
        super().__init__(parent)
        self.workspace = workspace
        old = workspace.system.by_id.get(swap)
        self.old = old if isinstance(old, FilterSpec) else None
        tank = self.old.tank if self.old else tank
        self.setWindowTitle(f"Swap {within(self.old.name)}" if self.old else "Add a filter")
        self.setObjectName("ground")
        self.resize(theme.px(1060), theme.px(700))
        system = workspace.system
        self.tank = tank if any(t.id == tank for t in system.tanks) else system.tanks[0].id
        self.chosen: Tile | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(20), theme.px(14), theme.px(20), theme.px(14))
        column.setSpacing(theme.px(8))
        row = QHBoxLayout()
        head = Label(f"Which filter instead of {within(self.old.name)}?" if self.old else "Which filter?")
        head.setObjectName("heading")
        row.addWidget(head)
        row.addStretch(1)
        self.where = ChoiceBox(tuple((t.id, t.name) for t in system.tanks), self.tank)
        self.where.setAccessibleName("Tank")
        self.where.chosen.connect(self._move)
        if len(system.tanks) > 1 and not self.old:
            label = Label("for")
            row.addWidget(label)
            row.addWidget(self.where)
        column.addLayout(row)
        words = Label(
            "Each picture is your own tank, or the part of it that matters, to scale, with a first layout for its load."
            " Everything can be changed afterwards."
        )
        words.setObjectName("subheading")
        words.setWordWrap(True)
        column.addWidget(words)
        self.area = QScrollArea()
        self.area.setWidgetResizable(True)
        self.area.setFrameShape(QScrollArea.Shape.NoFrame)
        self.area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        column.addWidget(self.area, 1)
        self.said = Label()
        self.said.setWordWrap(True)
        self.said.setMinimumHeight(theme.px(40))
        column.addWidget(self.said)
        column.addLayout(self._foot())
        self.tiles: list[Tile] = []
        workspace.give_way()
        self.finished.connect(lambda _: self._over())
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._draw_next)
        self._job: Job | None = None
        self._beside = False  # whether it is to stand beside what is there, rather than in its row
        self._promises: dict[tuple[str, Place | None], Promise] = {}  # by kind and place, of this tank
        self._fitting = False  # whether the chosen one is on its way into the design
        self._asks = QTimer(self, singleShot=True, interval=ASK_AFTER)
        self._asks.timeout.connect(self._ask)
        self._fill()

    def _over(self) -> None:
        """Closed, by whichever button: nobody waits for what is worked out any more."""
        if self._job is not None:
            self._job.stopped = True
        self.workspace.go_on()

    def _foot(self) -> QHBoxLayout:
        """To how many, and whether."""
        row = QHBoxLayout()
        self.many = QCheckBox()
        row.addWidget(self.many)
        self.order = ChoiceBox((BESIDE,), None)
        self.order.setAccessibleName("Where its water comes from")
        self.order.setMinimumContentsLength(24)
        self.order.chosen.connect(self._order)
        row.addWidget(self.order)
        row.addStretch(1)
        cancel = QPushButton("Cancel")
        cancel.clicked.connect(self.reject)
        row.addWidget(cancel)
        self.add = QPushButton("Swap it" if self.old else "Add it")
        self.add.setObjectName("primary")
        self.add.clicked.connect(self._take)
        row.addWidget(self.add)
        return row

    def _fill(self) -> None:
        """A tile for every kind; pictures follow one by one, so that the window comes at once."""
        holder = QWidget(self.area.viewport())
        holder.setObjectName("ground")
        grid = QGridLayout(holder)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(theme.px(12))
        self.tiles = []
        for n, (kind, spec) in enumerate(first_layouts(self._without(), self.tank)):
            if self.old and kind.id == self.old.kind:
                spec = FuenteError("This is what stands there now.")
            tile = Tile(kind, spec, self.workspace.units, holder)
            tile.picked.connect(lambda t=tile: self._pick(t))
            tile.taken.connect(self._take)
            tile.walked.connect(lambda by, at=n: self._walk(at + by))
            grid.addWidget(tile, n // COLUMNS, n % COLUMNS)
            self.tiles.append(tile)
        grid.setRowStretch(grid.rowCount(), 1)
        self.area.setWidget(holder)
        self.chosen = None
        self._show_many()
        first = next((t for t in self.tiles if isinstance(t.spec, FilterSpec)), None)
        if first is not None:
            self._pick(first)
            first.setFocus()
        self._timer.start(0)

    def _without(self) -> System:
        """The design that a first layout is made for: without the filter that goes."""
        system = self.workspace.system
        return apply(system, take_out(system, self.old)) if self.old else system

    def draw_now(self) -> None:
        """Every picture at once: for scripts."""
        for tile in self.tiles:
            if isinstance(tile.spec, FilterSpec):
                tile.draw(self.workspace.system)
        self._say()

    def promise_now(self, kind: str) -> None:
        """Choose a kind, and say what it would bring: for scripts."""
        tile = next(t for t in self.tiles if t.kind.id == kind)
        self._pick(tile)
        if isinstance(tile.spec, FilterSpec):
            try:
                self._promise(tile, self._place(), self._promised(tile.spec))
            except FuenteError as error:
                self._misfit(tile, str(error))
                self._promise(tile, None, self._promised(tile.spec))

    def _draw_next(self) -> None:
        tile = next(
            (t for t in self.tiles if t.drawing is None and isinstance(t.spec, FilterSpec) and not t.failed), None
        )
        if tile is not None:
            tile.draw(self.workspace.system)
            if tile is self.chosen:
                self._say()
            self._timer.start(0)

    def _move(self, tank: str) -> None:
        self.tank = tank
        self._promises.clear()
        self._fill()

    def _mates(self) -> list[str]:
        """Other tanks of the same rack, or all others where there is none."""
        system = self.workspace.system
        own = system.tank(self.tank)
        return [t.id for t in system.tanks if t.id != own.id and t.rack == own.rack]

    def _show_many(self) -> None:
        mates = self._mates()
        rack = self.workspace.system.tank(self.tank).rack
        self.many.setText(
            f"Also to the {len(mates)} others of its rack" if rack else f"Also to the {len(mates)} other tanks"
        )
        self.many.setVisible(bool(mates) and not self.old)

    def _pick(self, tile: Tile) -> None:
        self.chosen = tile
        for each in self.tiles:
            each.chosen = each is tile
            each.update()
        self._show_order()
        self._say()

    def _show_order(self) -> None:
        """Before or after which of its tank's filters the chosen one could stand: in a row unless told otherwise."""
        tile = self.chosen
        spec = tile.spec if tile is not None else None
        system = self.workspace.system
        found = neighbours(system, spec) if isinstance(spec, FilterSpec) and not self.old else ()
        names = [(p, f"{'After' if p.after else 'Before'} {within(system.filter(p.other).name)}") for p in found]
        self.order.setVisible(bool(found))
        beside = self._beside or not found or (tile is not None and tile.against)
        self.order.set_options((*names, BESIDE), None if beside else found[0])

    def _order(self, place: Place | None) -> None:
        self._beside = place is None
        if self.chosen is not None:
            self.chosen.against = ""
            self._say()

    def _place(self) -> Place | None:
        """Where in a row the chosen one goes; None beside what is there."""
        return self.order.value() if self.order.isVisibleTo(self) else None

    def _walk(self, to: int) -> None:
        if 0 <= to < len(self.tiles):
            self.tiles[to].setFocus()
            self._pick(self.tiles[to])
            self.area.ensureWidgetVisible(self.tiles[to])

    def _say(self) -> None:
        tile = self.chosen
        if tile is None or self._fitting:
            return
        tile.promise = self._promises.get((tile.kind.id, self._place()))
        self.add.setEnabled(isinstance(tile.spec, FilterSpec) and not tile.failed)
        self.many.setEnabled(tile.kind.inside)
        self.said.setText(tile.words())
        if self._job is not None:
            self._job.stopped = True
        if isinstance(tile.spec, FilterSpec) and not tile.failed and tile.promise is None:
            self._asks.start()

    def _ask(self) -> None:
        """Work out aside what the chosen one would bring to this design."""
        tile = self.chosen
        if tile is None or not isinstance(tile.spec, FilterSpec) or self._fitting:
            return
        spec, make, place = tile.spec, self._maker(tile.spec, []), self._place()
        system = self.workspace.system
        self._job = Job(lambda tell: promised(system, spec, make), self)
        self._job.hear(lambda made: self._promise(tile, place, made), lambda why: self._misfit(tile, why)).start()

    def _promise(self, tile: Tile, place: Place | None, made: Promise) -> None:
        self._promises[tile.kind.id, place] = made
        if tile is self.chosen and place == self._place():
            tile.promise = made
            self.said.setText(tile.words())

    def _take(self) -> None:
        tile = self.chosen
        if tile is None or not isinstance(tile.spec, FilterSpec) or not self.add.isEnabled():
            return
        more = self._mates() if self.many.isVisibleTo(self) and self.many.isChecked() and tile.kind.inside else []
        spec = tile.spec
        if tile.promise is not None and not more:
            self._put(spec, tile.promise.edit)
        elif workspace.CLOCK is None:  # a script that waits for nothing
            try:
                self._put(spec, self._maker(spec, more)())
            except FuenteError as error:
                self._misfit(tile, str(error))
        else:
            self._fit(spec, more)

    def _fit(self, spec: FilterSpec, more: list[str]) -> None:
        """What mends what it brings is worked out aside; the window stays at hand meanwhile."""
        if self._job is not None:
            self._job.stopped = True
        self.add.setEnabled(False)
        self._fitting = True
        self.said.setText(f"Fitting {within(spec.name)} into your design …")
        make = self._maker(spec, more)
        self._job = Job(lambda tell: make(), self)
        tile = self.chosen
        self._job.hear(lambda edit: self._put(spec, edit), lambda why: self._misfit(tile, why)).start()

    def _misfit(self, tile: Tile | None, sentence: str) -> None:
        """Where it does not fit into the row, it is offered beside it, and the reason stays."""
        self._fitting = False
        self.add.setEnabled(True)
        if tile is None or tile is not self.chosen:
            return
        sentence = fill(sentence, {}, self.workspace.units)
        if self._place() is None:
            self.said.setText(sentence)
            return
        tile.against = f"{sentence} It can stand beside the others, on its own."
        self.order.show_value(None)
        self._say()

    def _put(self, spec: FilterSpec, edit: Edit) -> None:
        made = self.old.id if self.old else spec.id
        if self.workspace.edit(edit):
            self.workspace.select(made)
            self.taken.emit(made)
            self.accept()

    def _promised(self, spec: FilterSpec) -> Promise:
        return promised(self.workspace.system, spec, self._maker(spec, []))

    def _maker(self, spec: FilterSpec, more: list[str]) -> Callable[[], Edit]:
        """What works out the edit that puts it where it is to go; for a thread too."""
        system, old, place = self.workspace.system, self.old, self._place()
        if old is not None:
            return lambda: swapped_well(system, old, spec)
        if place is not None:
            return lambda: placed_well(system, spec, place)
        return lambda: added_well(system, spec, more)
