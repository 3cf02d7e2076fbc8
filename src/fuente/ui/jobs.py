"""Work off the interface thread: with progress, and stoppable."""

from __future__ import annotations

import weakref
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal
from shiboken6 import isValid

from fuente.errors import FuenteError
from fuente.halting import Halted, halted_when

_NOTICES = 3000  # ms
_KEPT: set[Job] = set()  # the pool does not keep what Python alone knows; let go of in the interface thread


class _Signals(QObject):
    progress = Signal(float)
    done = Signal(object)
    failed = Signal(str)


class Job(QRunnable):
    """Runs ``work(tell)`` in the pool for ``owner``, and stops with it.

    ``tell`` takes the share done and answers False once the job was stopped.
    """

    def __init__(self, work: Callable[[Callable[[float], bool]], Any], owner: QObject):
        super().__init__()
        self.setAutoDelete(False)
        self.signals = _Signals()
        self.stopped = self.over = False
        self._work = work
        mine = weakref.ref(self)

        def stop() -> None:
            job = mine()
            if job is not None:
                job.stopped = True

        owner.destroyed.connect(stop)

    def hear(
        self,
        done: Callable[[Any], object],
        failed: Callable[[str], object],
        progress: Callable[[float], object] | None = None,
    ) -> Job:
        """What to call in the interface thread; nothing is called any more once the job was stopped."""

        mine = weakref.ref(self)

        def while_wanted(act: Callable[[Any], object]) -> Callable[[Any], None]:
            def call(value: Any) -> None:
                job = mine()
                if job is not None and not job.stopped:
                    act(value)

            return call

        self.signals.done.connect(while_wanted(done))
        self.signals.failed.connect(while_wanted(failed))
        if progress is not None:
            self.signals.progress.connect(while_wanted(progress))
        return self

    def start(self) -> None:
        """Hand it to the pool."""
        _KEPT.difference_update([job for job in _KEPT if job.over])
        _KEPT.add(self)
        QThreadPool.globalInstance().start(self)

    def run(self) -> None:
        """In the pool's thread."""
        try:
            self._run()
        finally:
            self.over = True

    def _run(self) -> None:
        def tell(share: float) -> bool:
            self._say("progress", share)
            return not self.stopped

        try:
            with halted_when(lambda: self.stopped):
                result = self._work(tell)
        except Halted:
            return
        except FuenteError as error:
            self._say("failed", str(error))
            return
        self._say("done", result)

    def _say(self, what: str, value: Any) -> None:
        if self.stopped:
            return
        try:
            getattr(self.signals, what).emit(value)
        except RuntimeError:
            if isValid(self.signals):
                raise
            self.stopped = True  # the application ends: nobody is there any more


def stop_all() -> None:
    """The application ends: what still runs is given up, and waited for as far as it takes to notice."""
    for job in list(_KEPT):
        job.stopped = True
    QThreadPool.globalInstance().waitForDone(_NOTICES)
