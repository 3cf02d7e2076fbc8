"""The choice of what colours the water, and the work aside that it wants."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, QTimer, Signal

from fuente.devices.base import Station
from fuente.document.system import System
from fuente.drawing.primitives import Drawing
from fuente.shown.in_water import NAMES, bare, held_in, scale_of, with_water
from fuente.study.known import analysed
from fuente.study.standing import Standing, standing
from fuente.ui import theme
from fuente.ui.fields import ChoiceBox
from fuente.ui.jobs import Job
from fuente.ui.section_view import SectionView
from fuente.ui.tint import Tint, colour_of
from fuente.ui.workspace import Workspace

PLAIN = "plain"
SOON = 700  # ms after an edit: the drawing comes first


class WaterTint(QObject):
    """Which quantity colours the water, and what is known of it for the design and situation that are shown."""

    ready = Signal()

    def __init__(self, workspace: Workspace, view: SectionView):
        super().__init__(view)
        self.workspace, self._view = workspace, view
        self.box = ChoiceBox(((PLAIN, "Plain water"), *NAMES.items()), PLAIN, view)
        self.box.setAccessibleName("What colours the water")
        self.box.setToolTip("Colours the water by what it holds, and says it on the cards.")
        self.box.chosen.connect(lambda _: self._chosen())
        self._of: tuple[System, str] | None = None
        self.standing: Standing | None = None
        self.why_not = ""
        self._job: Job | None = None
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(SOON)
        self._soon.timeout.connect(self._work)
        view.installEventFilter(self)

    @property
    def what(self) -> str:
        """The chosen quantity, or PLAIN."""
        return str(self.box.value())

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """The choice stands at the top right of the drawing."""
        if event.type() in (QEvent.Type.Resize, QEvent.Type.Show):
            self.box.adjustSize()
            self._view.corner = self.box.width() + theme.px(16)
            self.box.move(self._view.width() - self._view.corner + theme.px(6), theme.px(5))
        return False

    def _chosen(self) -> None:
        self.ready.emit()
        if self.what != PLAIN and self.standing is None:
            self._work()

    def follow(self) -> None:
        """The design or the situation may be another."""
        now = (self.workspace.system, self.workspace.situation_name)
        if self._of == now:
            return
        self.standing, self._of, self.why_not = None, now, ""
        if self._job is not None:
            self._job.stopped = True
        if self.what != PLAIN:
            self._soon.start()

    def _work(self) -> None:
        system, name = self.workspace.system, self.workspace.situation_name
        self._of = (system, name)
        self._job = Job(lambda tell: standing(analysed(system), name), self).hear(self._take, self._none)
        self._job.start()

    def work_now(self) -> None:
        """At once: for scripts and pictures."""
        self._of = (self.workspace.system, self.workspace.situation_name)
        self._take(standing(analysed(self._of[0]), self._of[1]))

    def _take(self, found: Standing) -> None:
        self.standing = found
        self.ready.emit()

    def _none(self, sentence: str) -> None:
        self.why_not = sentence
        self.ready.emit()

    def of(self, drawing: Drawing) -> Tint | None:
        """The colours of a drawing's waters; None where none are wanted or known yet."""
        if self.what == PLAIN or self.standing is None:
            return None
        system, units = self.workspace.system, self.workspace.units
        owned: dict[str, tuple[str, ...]] = {}
        for cell in self.workspace.analysis.network.cells:
            owned[cell.owner] = (*owned.get(cell.owner, ()), cell.id)
            owned.setdefault(cell.id, (cell.id,))
        scale = scale_of(self.what, self.standing, system.keeping, system.salinity)
        held = held_in(drawing, self.standing, self.what, owned)
        colours = tuple(colour_of(-1.0 if v is None else scale.share(v)) for _, v in held)
        figures = tuple((shape, bare(self.what, v, units)) for shape, v in held if v is not None)
        after = self.standing.after
        when = "in the long run" if after is None else f"after {after / 3600:.0f} h"
        return Tint(colours, figures, scale, f"{NAMES[self.what]}, {when}", units)

    def on_card(self, station: Station | None) -> Station | None:
        """A station with what stands in its water, once it is known."""
        if station is None or self.standing is None or self.what == PLAIN:
            return station
        return with_water(station, self.standing, self.workspace.units)

    def says(self) -> str:
        """What the caption adds while nothing is coloured."""
        if self.what == PLAIN or self.standing is not None:
            return ""
        return self.why_not or "working out what the water holds …"
