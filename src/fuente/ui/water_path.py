"""The Water path: stations, section with situations and findings, card."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QSplitter, QVBoxLayout, QWidget

from fuente.devices.base import Change, Edit
from fuente.document.system import value_at
from fuente.drawing.primitives import Dimension, Drawing, Handle, Polygon
from fuente.findings.bands import banded
from fuente.shown.plan import plan
from fuente.shown.section import section
from fuente.study.situation import Situation
from fuente.study.situations import TITLES
from fuente.ui import settings, theme
from fuente.ui.fields import QuantityEdit
from fuente.ui.findings_list import FindingsList
from fuente.ui.handle_edit import edit_for
from fuente.ui.label import Label
from fuente.ui.motion import Slide
from fuente.ui.near_view import NearView
from fuente.ui.section_view import SectionView
from fuente.ui.situation_strip import SituationStrip
from fuente.ui.spoken import announce
from fuente.ui.stage_page import StagePage
from fuente.ui.station_card import StationCard
from fuente.ui.station_list import StationList
from fuente.ui.water_tint import WaterTint
from fuente.ui.workspace import Workspace
from fuente.units import UnitSystem, shown, unit_label


class WaterPath(StagePage):
    """Walk with the water."""

    gallery_wanted = Signal()
    swap_wanted = Signal(str)  # id of a filter

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.planned = False  # the plan instead of the section
        left, middle = self._left(), self._middle()
        self.card = StationCard(self)
        self.tint = WaterTint(workspace, self.view)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.card.setFixedWidth(min(theme.px(316), 372))
        row.addWidget(left)
        row.addWidget(_edge())
        row.addWidget(middle, 1)
        row.addWidget(_edge())
        row.addWidget(self.card)
        self._popup: QuantityEdit | None = None
        self.slide = Slide(self._draw, self)
        self._said = self.workspace.situation.name
        self._connect()
        self.refresh()

    def _left(self) -> QWidget:
        """The stations, and the way to more of them."""
        left = QWidget(self)
        self.list = StationList(left)
        left.setObjectName("panel")
        left.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        left.setFixedWidth(min(theme.px(248), 300))
        column = QVBoxLayout(left)
        column.setContentsMargins(0, theme.px(10), 0, 0)
        column.setSpacing(theme.px(4))
        head = Label("Along the water")
        head.setObjectName("section")
        head.setContentsMargins(theme.px(16), 0, 0, 0)
        column.addWidget(head)
        column.addWidget(self.list, 1)
        self.more = QPushButton("Add a filter …")
        self.more.setObjectName("quiet")
        self.more.clicked.connect(self.gallery_wanted)
        foot = QHBoxLayout()
        foot.setContentsMargins(theme.px(14), theme.px(4), theme.px(14), theme.px(10))
        foot.addWidget(self.more)
        column.addLayout(foot)
        return left

    def _middle(self) -> QWidget:
        """The drawing over its situations, and the findings under both."""
        middle = QWidget(self)
        middle.setObjectName("ground")
        middle.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(middle)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        split = QSplitter(Qt.Orientation.Vertical, middle)
        upper = QWidget(split)
        self.both = NearView(upper)
        self.view = self.both.view
        self.strip = SituationStrip(upper)
        self.findings = FindingsList(split)
        upper_column = QVBoxLayout(upper)
        upper_column.setContentsMargins(0, 0, 0, 0)
        upper_column.setSpacing(0)
        upper_column.addWidget(self.both, 1)
        holder = QHBoxLayout()
        holder.setContentsMargins(theme.px(12), theme.px(4), theme.px(12), theme.px(8))
        holder.addWidget(self.strip)
        upper_column.addLayout(holder)
        split.setHandleWidth(1)
        split.addWidget(upper)
        split.addWidget(self.findings)
        split.setStretchFactor(0, 1)
        split.setStretchFactor(1, 0)
        split.setSizes(_kept_sizes() or [560, theme.px(158)])
        split.splitterMoved.connect(lambda *_: settings.keep("split", " ".join(str(s) for s in split.sizes())))
        self.split = split
        column.addWidget(split)
        return middle

    def _connect(self) -> None:
        w = self.workspace
        w.changed.connect(self.follow)
        w.selection_changed.connect(self.follow)
        w.situation_changed.connect(self.follow)
        w.refused.connect(self.card.say)
        self.tint.ready.connect(self.refresh)
        w.live.connect(self._live)
        self.list.picked.connect(w.select)
        for view in (self.view, self.both.near):
            view.picked.connect(self._pick)
            view.moving.connect(w.preview)
            view.moved.connect(lambda edit: w.edit(edit, "drag " + str(edit.changes[0].path)))
            view.cancelled.connect(w.cancel_preview)
            view.typed.connect(lambda what, view=view: self._type(what, view))
        self.strip.chosen.connect(w.show)
        self.findings.fix.connect(w.fix)
        self.findings.picked.connect(self._pick)
        self.card.edited.connect(w.edit)
        self.card.swap_wanted.connect(self.swap_wanted)
        self.card.duplicate_wanted.connect(self._duplicate)

    def _pick(self, owner: str) -> None:
        """A station by what was clicked: its own row, or the last row of the device."""
        w = self.workspace
        rows = [s.id for s in w.stations if s.owner == owner]
        known = any(s.id == owner for s in w.stations) or any(t.id == owner and t.rack for t in w.system.tanks)
        if known:
            w.select(owner)
        elif rows:
            w.select(rows[-1])

    def refresh(self) -> None:
        """Follow the workspace."""
        w = self.workspace
        units = w.units
        situation = w.situation
        self.list.show_stations(w.stations, w.findings, w.selected, units)
        many = len(w.system.tanks) > 1
        self.view.what = "Elevation" if many else "Section"
        known = w.session.bands
        sure = banded(situation, known).filled(units) if known is not None and situation.name != "running" else ""
        self.tint.follow()
        air = w.session.air if situation.name == "power_cut" else None
        tank = w.system.tank(air.tank).name if air is not None and many else ""
        breath = air.said(tank, units) if air is not None else ""
        more = (f"flows in {unit_label('flow', units)}" if many else "", sure, breath, self.tint.says())
        self.view.legend = " · ".join(filter(None, more))
        self.slide.go(situation, w.session.waits)
        self.strip.show_situations(
            w.analysis.names(), w.peek, units, w.situation_name, w.session.soon, known, w.session.air
        )
        self.findings.show_findings(w.findings, units, w.checking, w.session.trying)
        station = w.station()
        if station is not None and situation.name != "running":
            said = f"figures of: {situation.title[:1].lower()}{situation.title[1:]}"
            station = replace(station, note=" · ".join(filter(None, (station.note, said))))
        self.card.show_station(self.tint.on_card(station), units)
        if situation.name != self._said:
            self._said = situation.name
            announce(self.view, f"{situation.title}: {situation.verdict.filled(units)}")

    def _draw(self, situation: Situation) -> None:
        w = self.workspace
        caption = "" if situation.name == "running" else situation.title
        if w.session.awaited:
            caption = f"Running, until “{TITLES[w.situation_name]}” is worked out"
        if self.planned:
            self.view.tint = None
            self.view.show_drawing(plan(w.analysis), w.units, w.selected, "")
            self._closely()
            return
        drawing = section(w.analysis, situation, w.focus)
        self.view.tint = self.tint.of(drawing)
        self.view.waters = lambda: _waters(drawing, situation, w.units)
        self.view.show_drawing(drawing, w.units, w.selected, caption)
        self._closely()

    def _closely(self) -> None:
        station = self.workspace.station()
        self.both.follow(self._drawn_as(), station.name if station is not None else "")

    def _drawn_as(self) -> str:
        """The chosen station, or what it is part of, as the drawing has it; empty where it has neither."""
        station = self.workspace.station()
        owners = (station.id, station.owner) if station is not None else ()
        return next((o for o in owners if self.view.box_of(o) is not None), "")

    def _live(self) -> None:
        """Instruments said something: it stands in the water while it is new."""
        link = self.workspace.linked
        live = link.waters(self.workspace.units) if link is not None and not self.planned else {}
        if live != self.view.live:
            self.view.live = live
            self.view.update()
            self._closely()

    def switch_plan(self) -> None:
        """The plan instead of the section, and back."""
        self.planned = not self.planned
        self.view.what = "Plan" if self.planned else "Section"
        self.view.seen = "from above, back at the top" if self.planned else "looking at the front"
        self.view.setAccessibleName(self.view.what)
        self.view.editable = not self.planned
        self._draw(self.workspace.situation)

    def look_closely(self) -> None:
        """The chosen station as near as it fits, and all of it again."""
        self.view.look_at(self._drawn_as())

    def _duplicate(self, filter_id: str) -> None:
        """Ask for tanks, then put the same filter into each."""
        from fuente.study.filters import duplicate
        from fuente.ui.tank_picker import TankPicker

        system = self.workspace.system
        spec = system.filter(filter_id)
        picker = TankPicker(system, spec, self)
        if picker.exec() and picker.tanks():
            self.workspace.edit(duplicate(system, spec, picker.tanks()))

    def _type(self, what: Handle | Dimension, view: SectionView) -> None:
        """Type a handle's or a dimension's value where it stands."""
        path = what.path
        if path is None:
            return
        at = view.to_screen(what.at if isinstance(what, Handle) else what.end)
        value: Any = value_at(self.workspace.system, path)
        name = what.verb if isinstance(what, Handle) else str(path[-1]).replace("_", " ")
        quantity = what.quantity if isinstance(what, Handle) else "length"
        box = _TypedThere(quantity, value, self.workspace.units, None, view)
        box.setAccessibleName(name)
        box.setToolTip("Enter takes it, Esc leaves it")

        def take(new: float) -> None:
            if isinstance(what, Handle):
                edit = edit_for(what, new, self.workspace.units)
                edit = Edit(f"Set {name}", (Change(path, new), *edit.changes[1:]))
            else:
                edit = Edit(f"Set {name}", (Change(path, new),))
            self.workspace.edit(edit)

        def leave() -> None:
            box.hide()
            box.deleteLater()
            self.card.say("")
            view.setFocus()

        box.committed.connect(take)
        box.left.connect(leave)
        box.nudged.connect(lambda v: box.show_value(v, self.workspace.units))
        box.failed.connect(self.card.say)
        box.editingFinished.connect(lambda: None if box.hasFocus() else leave())
        box.setFixedWidth(theme.px(100))
        box.move(QPoint(int(min(at.x(), view.width() - theme.px(110))), int(max(at.y() - theme.px(34), 4))))
        box.show()
        box.setFocus()
        box.selectAll()
        self._popup = box


def _kept_sizes() -> list[int]:
    """How the drawing and the findings last shared their column."""
    sizes = [int(s) for s in settings.choice("split", "").split() if s.isdigit()]
    return sizes if len(sizes) == 2 else []


def _waters(drawing: Drawing, situation: Situation, units: UnitSystem) -> list[tuple[str, str, tuple[float, float]]]:
    """Each water of the drawing once: its name, how deep it stands and how far under its rim, and its surface in mm."""
    found: dict[str, tuple[str, str, tuple[float, float]]] = {}
    solution = situation.solution
    for shape in drawing.shapes:
        if not isinstance(shape, Polygon) or shape.style != "water":
            continue
        key = shape.cell or shape.owner
        if key not in solution.level:
            continue
        cell, left = solution.network.cell(key), solution.freeboard(key)
        room = f"{shown(abs(left), 'level', units)} {'under' if left >= 0 else 'over'} the rim"
        top = max(y for _, y in shape.points)
        middle = sum(x for x, _ in shape.points) / len(shape.points)
        words = f"{shown(solution.depth(key), 'level', units)} deep, {room}"
        found.setdefault(key, (cell.name, words, (middle, top)))
    return list(found.values())


class _TypedThere(QuantityEdit):
    """A number on the drawing: Enter takes it and Esc leaves it, typed or not."""

    left = Signal()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """As a number, and then away."""
        key = event.key()
        super().keyPressEvent(event)
        if key == Qt.Key.Key_Escape or (key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and not self.isModified()):
            self.left.emit()


def _edge() -> QFrame:
    line = QFrame()
    line.setObjectName("rule")
    line.setFixedWidth(1)
    line.setStyleSheet(f"background: {theme.current().rule}; max-height: 16777215px;")
    return line
