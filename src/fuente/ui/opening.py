"""A design that is to be shown: solved at once, or aside where that keeps the eye waiting."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from fuente.document.system import System
from fuente.errors import FuenteError
from fuente.session import VAST, Solved, prepare, prepared, solved_aside
from fuente.study.analysis import Analysis
from fuente.ui.jobs import Job
from fuente.units import UnitSystem, in_units

if TYPE_CHECKING:
    from fuente.ui.document_window import DocumentWindow
    from fuente.ui.workspace import Workspace


class Opening:
    """What a window is about to show; one design at a time, and the latest wins."""

    def __init__(self, window: DocumentWindow):
        """For one window."""
        self._window = window
        self._job: Job | None = None

    def solved(self, system: System, name: str, then: Callable[[Solved | None], None]) -> bool:
        """Call ``then`` with the design solved, or with None where to solve it takes no longer than a frame; what
        cannot be built is said instead. Whether it is on its way.
        """
        self.stop()
        if len(system.devices) <= VAST:
            try:
                Analysis(system)  # what cannot be built cannot be shown
            except FuenteError as error:
                self._refuse(name, str(error))
                return False
            then(None)
            return True
        job = Job(lambda tell: solved_aside(system), self._window)

        def done(result: Solved) -> None:
            self.stop()
            then(result)

        self._job = job.hear(done, lambda why: self._refuse(name, why))
        self._window.message.wait(
            f"Working out the water of “{name}”: {len(system.tanks)} tanks take a few seconds …", self.stop
        )
        job.start()
        return True

    def prepared(self, workspace: Workspace, key: str, title: str, then: Callable[[], None]) -> bool:
        """Whether a page can be painted; where it would keep the eye waiting ``then`` is called when it can."""
        workspace.page = key
        analysis = workspace.analysis
        if not workspace.session.waits or prepared(key, analysis):
            return True
        self.stop()
        job = Job(lambda tell: prepare(key, analysis), workspace)

        def done(_: object) -> None:
            self.stop()
            then()

        self._job = job.hear(done, self._window.message.say)
        self._window.message.wait(
            f"Working out “{title}”: {len(workspace.system.tanks)} tanks take a moment …", self.stop
        )
        job.start()
        return False

    @property
    def waits(self) -> bool:
        """Whether a design is still on its way."""
        return self._job is not None

    def stop(self) -> None:
        """What is on its way is not wanted any more."""
        if self._job is not None:
            self._job.stopped = True
            self._job = None
            self._window.message.clear()

    def _refuse(self, name: str, why: str) -> None:
        self._job = None
        units = self._window.workspace.units if self._window.workspace else UnitSystem.METRIC
        self._window.message.say(in_units(f"“{name}” cannot be shown: {why}", units))
