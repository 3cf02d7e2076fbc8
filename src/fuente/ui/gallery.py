"""The gallery: every kind of filter as a small section of the builder's own tank with its first layout in it."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from fuente.devices import filter_kind
from fuente.devices.base import Edit
from fuente.devices.filtering import FilterKind, FilterSpec
from fuente.document.system import System, apply
from fuente.drawing.primitives import Dimension, Drawing
from fuente.errors import FuenteError
from fuente.findings.adding import Promise, added_well, promised, swapped_well
from fuente.findings.placing import Place, neighbours, placed_well
from fuente.shown.section import section
from fuente.study.filters import add_filter, first_layouts, take_out
from fuente.study.known import analysed
from fuente.study.sites import new_site
from fuente.ui import theme, workspace
from fuente.ui.fields import ChoiceBox
from fuente.ui.jobs import Job
from fuente.ui.painting import paint_drawing
from fuente.ui.workspace import Workspace
from fuente.units import UnitSystem, fill, shown

_COLUMNS = 4
BESIDE = (None, "Beside them, on its own")
ASK_AFTER = 250  # ms that a kind stays chosen before it is worked out what it would bring
_WALK = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: _COLUMNS, Qt.Key.Key_Up: -_COLUMNS}


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
        self.setWindowTitle(f"Swap {self.old.name.lower()}" if self.old else "Add a filter")
        self.setObjectName("ground")
        self.resize(theme.px(1060), theme.px(700))
        system = workspace.system
        self.tank = tank if any(t.id == tank for t in system.tanks) else system.tanks[0].id
        self.chosen: Tile | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(20), theme.px(14), theme.px(20), theme.px(14))
        column.setSpacing(theme.px(8))
        row = QHBoxLayout()
        head = QLabel(f"Which filter instead of {self.old.name.lower()}?" if self.old else "Which filter?")
        head.setObjectName("heading")
        row.addWidget(head)
        row.addStretch(1)
        self.where = ChoiceBox(tuple((t.id, t.name) for t in system.tanks), self.tank)
        self.where.setAccessibleName("Tank")
        self.where.chosen.connect(self._move)
        if len(system.tanks) > 1 and not self.old:
            label = QLabel("for")
            row.addWidget(label)
            row.addWidget(self.where)
        column.addLayout(row)
        words = QLabel(
            "Each picture is your own tank, to scale, with a first layout for its load. Everything can be changed"
            " afterwards."
        )
        words.setObjectName("subheading")
        words.setWordWrap(True)
        column.addWidget(words)
        self.area = QScrollArea()
        self.area.setWidgetResizable(True)
        self.area.setFrameShape(QScrollArea.Shape.NoFrame)
        self.area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        column.addWidget(self.area, 1)
        self.said = QLabel()
        self.said.setWordWrap(True)
        self.said.setMinimumHeight(theme.px(40))
        column.addWidget(self.said)
        column.addLayout(self._foot())
        self.tiles: list[Tile] = []
        workspace.give_way()
        self.finished.connect(lambda _: workspace.go_on())
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
        holder = QWidget()
        holder.setObjectName("ground")
        grid = QGridLayout(holder)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(theme.px(12))
        self.tiles = []
        for n, (kind, spec) in enumerate(first_layouts(self._without(), self.tank)):
            if self.old and kind.id == self.old.kind:
                spec = FuenteError("This is what stands there now.")
            tile = Tile(kind, spec, self.workspace.units)
            tile.picked.connect(lambda t=tile: self._pick(t))
            tile.taken.connect(self._take)
            tile.walked.connect(lambda by, at=n: self._walk(at + by))
            grid.addWidget(tile, n // _COLUMNS, n % _COLUMNS)
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
        names = [(p, f"{'After' if p.after else 'Before'} {system.filter(p.other).name.lower()}") for p in found]
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
        self.said.setText(f"Fitting {spec.name.lower()} into your design …")
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


class Tile(QWidget):
    """One kind: its picture, its name."""

    picked = Signal()
    taken = Signal()
    walked = Signal(int)  # so many tiles on

    def __init__(self, kind: FilterKind, spec: FilterSpec | FuenteError, units: UnitSystem):
        super().__init__()
        self.kind, self.spec, self.units = kind, spec, units
        self.drawing: Drawing | None = None
        self.failed = "" if isinstance(spec, FilterSpec) else str(spec)
        self.figures = ""
        self.promise: Promise | None = None
        self.against = ""  # why it does not fit into a row
        self.chosen = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(kind.name)
        self.setAccessibleDescription(kind.said)
        self.setMinimumHeight(theme.px(152))
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def sizeHint(self) -> QSize:
        """Four in a row."""
        return QSize(theme.px(230), theme.px(160))

    def draw(self, system: System) -> None:
        """Solve the tank with this filter alone, and keep its section."""
        assert isinstance(self.spec, FilterSpec)
        tank = system.tank(self.spec.tank)
        tank = tank.model_copy(update={"offset": 0.0, "rack": ""})
        alone = System(devices=(tank,), salinity=system.salinity, schools=system.schools)
        try:
            site_spec = filter_kind(self.spec).first(new_site(alone, tank.id))
            alone = apply(alone, add_filter(alone, site_spec))
            analysis = analysed(alone)
            running = analysis.situation("running")
            whole = section(analysis, running)
            blowers = {
                d.id for d in alone.devices if d.air_lines()
            }  # the picture is of the filter, not of what blows into it
            self.drawing = Drawing(
                tuple(s for s in whole.shapes if s.owner not in blowers and not isinstance(s, Dimension))
            )
            what, value, quantity = self.kind.size(site_spec)
            flow = analysis.moved(running.solution, tank.id)
            air = sum(q for key, q in running.solution.flow.items() if key.startswith("air."))
            size = shown(value, quantity, self.units) if quantity else f"{value:g}"
            words = f"{what} {size}, moves {{flow:flow}}" + (" on {air:air_flow} of air" if air > 0 else "")
            self.figures = fill(words, {"flow": flow, "air": air}, self.units)
        except (FuenteError, ValueError) as error:
            self.failed = str(error) if isinstance(error, FuenteError) else f"{self.kind.name} does not fit this tank."
        self.update()

    def words(self) -> str:
        """What is said of it under the gallery."""
        if self.failed:
            return f"{self.kind.said} {self.failed}"
        first = f"{self.kind.said} First layout: {self.figures}." if self.figures else self.kind.said
        first = self.against or first
        return f"{first} {self.promise.words(self.units)}" if self.promise else first

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose it."""
        self.setFocus()
        self.picked.emit()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Take it."""
        self.picked.emit()
        self.taken.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Space chooses, Enter takes; arrows walk."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.picked.emit()
            self.taken.emit()
        elif event.key() == Qt.Key.Key_Space:
            self.picked.emit()
        elif event.key() in _WALK:
            self.walked.emit(_WALK[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: object) -> None:
        """Walking chooses, as in every list."""
        self.picked.emit()
        super().focusInEvent(event)  # type: ignore[arg-type]

    def paintEvent(self, event: QPaintEvent) -> None:
        """Picture and name."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        t = theme.current()
        box = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        painter.setPen(QPen(theme.color("accent") if self.chosen else theme.color("rule"), 2 if self.chosen else 1))
        painter.setBrush(theme.color("chosen") if self.chosen else theme.color("ground"))
        painter.drawRoundedRect(box, 6, 6)
        painter.setFont(theme.font(13, theme.MEDIUM))
        line = painter.fontMetrics().height()
        name = QRectF(box.x() + theme.px(10), box.bottom() - line - theme.px(6), box.width() - theme.px(20), line)
        painter.setPen(theme.color("ink" if not self.failed else "muted"))
        painter.drawText(
            name,
            Qt.AlignmentFlag.AlignLeft,
            painter.fontMetrics().elidedText(self.kind.name, Qt.TextElideMode.ElideRight, int(name.width())),
        )
        picture = QRectF(
            box.x() + theme.px(10), box.y() + theme.px(8), box.width() - theme.px(20), name.y() - box.y() - theme.px(14)
        )
        if self.drawing is None:
            painter.setFont(theme.font(12))
            painter.setPen(theme.color("muted"))
            painter.drawText(picture, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, self.failed or "…")
            return
        x0, y0, x1, y1 = self.drawing.bounds()
        scale = min(picture.width() / (x1 - x0), picture.height() / (y1 - y0))
        left = picture.center().x() - scale * (x0 + x1) / 2
        base = picture.center().y() + scale * (y0 + y1) / 2
        painter.setClipRect(picture)
        assert t is not None
        paint_drawing(painter, self.drawing, (scale, left, base), self.units, words=False)
