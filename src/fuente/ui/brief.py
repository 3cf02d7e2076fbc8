"""Brief: the tank, the room under it and the wishes; Fuente lays out filters and the builder takes one."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from fuente.devices.base import Edit
from fuente.devices.recipes.sump_system import can_lay_out, in_its_place
from fuente.errors import FuenteError
from fuente.findings.layout import Layout, proposals
from fuente.one_line import within
from fuente.ui import theme
from fuente.ui.brief_form import BriefForm
from fuente.ui.jobs import Job
from fuente.ui.label import Label
from fuente.ui.proposal_card import ProposalCard
from fuente.ui.put_in import put_in
from fuente.ui.rack_form import RackForm
from fuente.ui.stage_page import StagePage
from fuente.ui.workspace import Workspace
from fuente.units import in_units


class BriefPage(StagePage):
    """The form at the left, proposals at the right."""

    layout_taken = Signal()
    gallery_wanted = Signal(str)  # id of the tank

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._job: Job | None = None
        self.layouts: list[Layout] = []
        self._proposed = False  # whether proposals stand at the right
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.form = BriefForm(workspace, self)
        left = QVBoxLayout()
        left.setContentsMargins(0, 0, 0, 0)
        left.setSpacing(0)
        left.addWidget(self.form, 1)
        left.addWidget(self._launch())
        row.addLayout(left)
        line = QFrame(self)
        line.setObjectName("rule")
        line.setFixedWidth(1)
        line.setStyleSheet(f"background: {theme.current().rule}; max-height: 16777215px;")
        row.addWidget(line)
        self.right = QScrollArea(self)
        self.right.setWidgetResizable(True)
        self.right.setObjectName("ground")
        self.right.setStyleSheet(f"QScrollArea#ground {{ background: {theme.current().ground}; }}")
        row.addWidget(self.right, 1)
        workspace.changed.connect(self.follow)
        self._units = workspace.units
        self._show_empty()
        self.refresh()

    def _launch(self) -> QWidget:
        """The button stays in sight under the form."""
        holder = QWidget(self)
        column = QVBoxLayout(holder)
        column.setContentsMargins(theme.px(16), theme.px(8), theme.px(16), theme.px(12))
        self.go = QPushButton("Lay it out for me")
        self.go.setObjectName("primary")
        self.go.clicked.connect(self.propose)
        column.addWidget(self.go)
        row = QHBoxLayout()
        self.pick = QPushButton("Pick a filter …")
        self.pick.setToolTip("Every kind of filter as a picture of your own tank (Ctrl+Shift+F)")
        self.pick.clicked.connect(lambda: self.gallery_wanted.emit(self.workspace.system.tanks[self.form.tank].id))
        row.addWidget(self.pick)
        self.rack = QPushButton("Put up a rack …")
        self.rack.clicked.connect(self.enter_rack)
        row.addWidget(self.rack)
        column.addLayout(row)
        self.progress = QProgressBar()
        self.progress.setTextVisible(False)
        self.progress.setFixedHeight(theme.px(6))
        self.progress.hide()
        column.addWidget(self.progress)
        return holder

    def refresh(self) -> None:
        """Follow the workspace."""
        self.form.refresh()
        if self._units != self.workspace.units:
            self._units = self.workspace.units
            if self._proposed:
                self._lay(self.layouts)
        one = can_lay_out(self.workspace.system.devices)
        self.go.setEnabled(one)
        self.go.setToolTip(
            "" if one else "Fuente lays out a sump for one tank; a rack keeps the filters that it stands on."
        )

    def kept(self) -> dict[str, Any]:
        """Proposals, the wishes that are ticked, the tank that is shown, and whether it is laying out."""
        return {
            "layouts": self.layouts if self._proposed else None,
            "wishes": self.form.wishes(),
            "tank": self.form.tank,
            "going": self._job is not None,
            "rack": isinstance(self.right.widget(), RackForm),
        }

    def resume(self, kept: dict[str, Any]) -> None:
        """The same proposals and wishes."""
        if not kept:
            return
        if 0 < kept["tank"] < len(self.workspace.system.tanks):
            self.form.show_tank(kept["tank"])
        self.form.show_wishes(kept["wishes"])
        if kept["layouts"] is not None:
            self._lay(kept["layouts"])
        if kept["rack"]:
            self.enter_rack()
        if kept["going"]:
            self.propose()

    # -- proposals ------------------------------------------------------------------------------------------------

    def arguments(self) -> tuple[Any, ...]:
        """Tank, space and wishes as they stand in the form."""
        s = self.workspace.system
        return s.tanks[0], s.space, self.form.wishes()

    def propose(self) -> None:
        """Start laying out, or stop it."""
        if self._job is not None:
            self._job.stopped = True
            self._finish()
            return
        self.form.say("")
        tank, space, wishes = self.arguments()
        job = Job(lambda tell: proposals(tank, space, wishes, tell), self)
        job.hear(self._show, self._failed, lambda share: self.progress.setValue(round(share * 100)))
        self._job = job
        self.go.setText("Stop")
        self.progress.setValue(0)
        self.progress.show()
        job.start()

    def propose_now(self) -> None:
        """Lay out at once, without the thread: for scripts and pictures."""
        try:
            self._show(proposals(*self.arguments()))
        except FuenteError as error:
            self._failed(str(error))

    def enter_rack(self) -> None:
        """The form for a rack, beside the brief."""
        self._proposed = False
        form = RackForm(self.workspace, self.right.viewport())
        form.taken.connect(self.layout_taken)
        put_in(self.right, form)
        form.fields["rows"].setFocus()

    def _finish(self) -> None:
        self._job = None
        self.go.setText("Lay it out for me")
        self.progress.hide()

    def _failed(self, sentence: str) -> None:
        self._finish()
        self.form.say(in_units(sentence, self.workspace.units))

    def _show_empty(self) -> None:
        page = QWidget(self.right.viewport())
        column = QVBoxLayout(page)
        column.setContentsMargins(theme.px(40), theme.px(48), theme.px(40), theme.px(40))
        head = Label("Nothing laid out yet")
        head.setObjectName("heading")
        words = Label(
            "Set the tank and the space under it, then pick a filter from pictures of it. For a sump, tick the chambers"
            " that you want and press “Lay it out for me”: Fuente proposes sizes, baffles, drains and a pump, solves"
            " each proposal like any design, and says which wish it cannot meet and by how much. Your design stays as"
            " it is until you take one."
        )
        words.setWordWrap(True)
        column.addWidget(head)
        column.addWidget(words)
        column.addStretch(1)
        put_in(self.right, page)

    def _show(self, found: list[Layout]) -> None:
        self._finish()
        self._lay(found)

    def _lay(self, found: list[Layout]) -> None:
        self.layouts, self._proposed = found, True
        page = QWidget(self.right.viewport())
        page.setObjectName("ground")
        column = QVBoxLayout(page)
        column.setContentsMargins(theme.px(20), theme.px(14), theme.px(20), theme.px(14))
        column.setSpacing(theme.px(10))
        head = Label("Proposals, each solved and judged")
        head.setObjectName("section")
        column.addWidget(head)
        for layout in sorted(found, key=lambda each: len(each.unmet)):
            card = ProposalCard(layout, self.workspace.units, page)
            card.take.clicked.connect(lambda _=False, chosen=layout: self._take(chosen))
            column.addWidget(card)
        column.addStretch(1)
        put_in(self.right, page)

    def _take(self, layout: Layout) -> None:
        changes = in_its_place(self.workspace.system.devices, layout.system.devices)
        if self.workspace.edit(Edit(f"Take layout “{within(layout.title)}”", changes)):
            self.layout_taken.emit()
