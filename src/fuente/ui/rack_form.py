"""A rack entered at once: rows, columns, tank, shelves; its elevation follows as it is typed."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from fuente.devices.recipes.racks import Rack, add_rack, described
from fuente.document.system import apply
from fuente.errors import FuenteError
from fuente.shown.section import section
from fuente.study.known import analysed
from fuente.study.situation import Situation
from fuente.ui import theme
from fuente.ui.composed_fields import DimensionsEdit
from fuente.ui.fields import ChoiceBox, CountEdit, QuantityEdit, TextEdit
from fuente.ui.label import Label
from fuente.ui.section_view import SectionView
from fuente.ui.workspace import Workspace
from fuente.units import shown


class RackForm(QWidget):
    """The form at the top, the rack as it would stand under it."""

    taken = Signal()

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.setObjectName("ground")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        wells = workspace.analysis.wells() if workspace.analysis.has_sump else ()
        self.rack = Rack(device=wells[0][0].id if wells else "", turnover=workspace.system.space.turnover)
        self.over = len(workspace.system.tanks) == 1
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(20), theme.px(14), theme.px(20), theme.px(14))
        column.setSpacing(theme.px(8))
        head = Label("A rack of tanks")
        head.setObjectName("heading")
        column.addWidget(head)
        words = Label(
            "On a sump every tank gets a drain into one common drain and a valve on one manifold, sized for the"
            " turnover. Without one, pick a filter for all of them afterwards. Each tank can be changed on its own."
        )
        words.setObjectName("subheading")
        words.setWordWrap(True)
        column.addWidget(words)
        self.grid = QGridLayout()
        self.grid.setHorizontalSpacing(theme.px(12))
        self.grid.setVerticalSpacing(theme.px(4))
        self.grid.setColumnStretch(1, 1)
        self.grid.setColumnStretch(3, 1)
        column.addLayout(self.grid)
        self.fields: dict[str, QWidget] = {}
        self._build()
        self.view = SectionView()
        self.view.editable = False
        self.view.wordless = True
        self.view.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.view.setFixedHeight(min(theme.px(290), 340))
        column.addWidget(self.view)
        self.summary = Label()
        self.summary.setWordWrap(True)
        column.addWidget(self.summary)
        row = QHBoxLayout()
        self.take = QPushButton("Put up this rack")
        self.take.setObjectName("primary")
        self.take.clicked.connect(self._take)
        row.addWidget(self.take)
        row.addStretch(1)
        column.addLayout(row)
        column.addStretch(1)
        self.refresh()

    def _build(self) -> None:
        units = self.workspace.units
        r = self.rack
        self._add("name", "Called", TextEdit(r.name))
        self._add("stock", "Who lives there", TextEdit(r.stock))
        self._add("rows", "Rows", CountEdit(r.rows, units))
        self._add("columns", "Columns", CountEdit(r.columns, units))
        sizes = DimensionsEdit((r.length, r.width, r.height), units)
        sizes.committed.connect(self._sizes)
        sizes.failed.connect(self._say)
        self._place("sizes", "Each tank, length × width × height", sizes)
        for field, label, quantity in (
            ("glass", "Its walls", "length"),
            ("gap", "Gap between tanks", "length"),
            ("lowest", "Lowest row stands at", "length"),
            ("pitch", "From row to row", "length"),
            ("turnover", "Turnover of every tank", "per_hour"),
            ("temperature", "Water temperature", "temperature"),
        ):
            self._add(field, label, QuantityEdit(quantity, getattr(r, field), units))
        filters = tuple((v.id, v.name) for v, well in self.workspace.analysis.wells() if well.mark_path)
        box = ChoiceBox((*filters, ("", "nothing: filters of their own")), r.device)
        box.chosen.connect(lambda v: self._set("device", v))
        self._place("device", "Stands on", box)
        keep = ChoiceBox(((True, "replaces what is there"), (False, "stands beside it")), self.over)
        keep.chosen.connect(self._keep)
        self._place("over", "The new rack", keep)

    def _add(self, field: str, label: str, widget: Any) -> None:
        widget.committed.connect(lambda v: self._set(field, v))
        if hasattr(widget, "nudged"):
            widget.nudged.connect(lambda v: self._nudge(field, widget, v))
            widget.failed.connect(self._say)
        self._place(field, label, widget)

    def _place(self, field: str, label: str, widget: QWidget) -> None:
        count = len(self.fields)
        text = Label(label)
        text.setStyleSheet(f"color: {theme.current().muted};")
        text.setBuddy(widget)
        widget.setAccessibleName(label)
        widget.setObjectName(f"rack-{field}")
        widget.setMaximumWidth(theme.px(220))
        self.grid.addWidget(text, count // 2, 2 * (count % 2))
        self.grid.addWidget(widget, count // 2, 2 * (count % 2) + 1)
        self.fields[field] = widget

    def _nudge(self, field: str, widget: Any, value: float) -> None:
        widget.show_value(value, self.workspace.units)
        self._set(field, value)

    def _sizes(self, sizes: tuple[float, float, float]) -> None:
        self.rack = replace(self.rack, length=sizes[0], width=sizes[1], height=sizes[2])
        self.refresh()

    def _set(self, field: str, value: Any) -> None:
        if field in ("rows", "columns"):
            value = max(1, round(value))
        self.rack = replace(self.rack, **{field: value})
        self.refresh()

    def _keep(self, over: bool) -> None:
        self.over = over
        self.refresh()

    def _say(self, sentence: str) -> None:
        self.summary.setText(sentence)
        self.summary.setStyleSheet(f"color: {theme.current().stop};" if sentence else "")

    def refresh(self) -> None:
        """Show the rack as it would stand, or why it cannot."""
        units = self.workspace.units
        try:
            system = apply(self.workspace.system, add_rack(self.workspace.system.by_id, self.rack, self.over))
            analysis = analysed(system)
            running = analysis.try_situation("running")
            situation = running if isinstance(running, Situation) else analysis.at_rest()
        except FuenteError as error:
            self._say(str(error))
            self.take.setEnabled(False)
            return
        self.take.setEnabled(True)
        self.view.show_drawing(section(analysis, situation), units, "", "")
        count = self.rack.rows * self.rack.columns
        volume = sum(situation.solution.volume[t.id] for t in system.tanks[-count:])
        if not self.rack.device:
            self._say("")
            water = shown(volume, "volume", units)
            self.summary.setText(f"{count} tanks, {water} of water; nothing moves it until you pick their filters.")
            return
        made = described(system.devices)
        words = [
            (
                f"{count} tanks, {shown(volume, 'volume', units)} of water; {made.pump[:1].lower()}{made.pump[1:]},"
                f" {shown(made.head, 'head', units)} at most"
            ),
            f"common drain {made.drain.replace('-', ' ').upper()}, rows {made.row.replace('-', ' ').upper()}",
            "valves set row by row: set each with one press afterwards",
        ]
        if not isinstance(running, Situation):
            words.append(str(running))
        self._say("")
        self.summary.setText("; ".join(words) + ".")

    def _take(self) -> None:
        try:
            edit = add_rack(self.workspace.system.by_id, self.rack, self.over)
        except FuenteError as error:
            self._say(str(error))
            return
        if self.workspace.edit(edit):
            self.taken.emit()
