"""Work off the interface thread: with progress, and stoppable."""

from __future__ import annotations

import weakref
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QThreadPool, Signal
from shiboken6 import isValid

from fuente.errors import FuenteError
from fuente.halting import Halted, halted_when

_NOTICES = 3000  # ms
_KEPT: set[Job] = set()  # the pool does not keep what Python alone knows; let go of in the interface thread


class _Signals(QObject):
    progress = Signal(float)
    done = Signal(object)
    failed = Signal(str)


class Job:
    """Runs ``work(tell)`` in the pool for ``owner``, and stops with it.

    ``tell`` takes the share done and answers False once the job was stopped.
    """

    def __init__(self, work: Callable[[Callable[[float], bool]], Any], owner: QObject):
        self.signals = _Signals()
        self.stopped = self.over = False
        self._on_its_way = False  # what it ends with waits for the interface thread
        self._work: Callable[[Callable[[float], bool]], Any] | None = work
        self._heard: list[tuple[str, Callable[[Any], None]]] = []
        mine = weakref.ref(self)

        def stop() -> None:
            job = mine()
            if job is not None:
                job.stopped = True
                job.let_go()

        owner.destroyed.connect(stop)
        self._owner = weakref.ref(owner)
        self._stop: Callable[[], None] | None = stop

    def hear(
        self,
        done: Callable[[Any], object],
        failed: Callable[[str], object],
        progress: Callable[[float], object] | None = None,
    ) -> Job:
        """What to call in the interface thread; nothing is called any more once the job was stopped."""

        mine = weakref.ref(self)

        def while_wanted(act: Callable[[Any], object], last: bool) -> Callable[[Any], None]:
            def call(value: Any) -> None:
                job = mine()
                if job is None:
                    return
                if last:
                    job._on_its_way = False
                    job.let_go()
                if not job.stopped:
                    act(value)

            return call

        self._heard = [("done", while_wanted(done, True)), ("failed", while_wanted(failed, True))]
        if progress is not None:
            self._heard.append(("progress", while_wanted(progress, False)))
        for signal, call in self._heard:
            getattr(self.signals, signal).connect(call)
        return self

    def let_go(self) -> None:
        """Nobody is called any more. A connection keeps what it calls where the collector does not look, and that is
        mostly a page, which keeps its jobs: neither would ever go.
        """
        if isValid(self.signals):
            for signal, call in self._heard:
                getattr(self.signals, signal).disconnect(call)
        self._heard = []
        if not self.over:
            return
        self._work = None
        owner = self._owner()
        if owner is not None and isValid(owner) and self._stop is not None:
            owner.destroyed.disconnect(self._stop)
        self._stop = None

    def start(self) -> None:
        """Hand it to the pool. As a function: a runnable of one's own would be kept by Qt for good."""
        for job in [job for job in _KEPT if job.over and (job.stopped or not job._on_its_way)]:
            job.let_go()
            _KEPT.discard(job)
        _KEPT.add(self)
        QThreadPool.globalInstance().start(self.run)

    def run(self) -> None:
        """In the pool's thread."""
        try:
            self._run()
        finally:
            self.over = True

    def _run(self) -> None:
        work = self._work
        if work is None:
            return

        def tell(share: float) -> bool:
            self._say("progress", share)
            return not self.stopped

        try:
            with halted_when(lambda: self.stopped):
                result = work(tell)
        except Halted:
            return
        except FuenteError as error:
            self._end("failed", str(error))
            return
        self._end("done", result)

    def _end(self, what: str, value: Any) -> None:
        self._on_its_way = bool(self._heard)
        self._say(what, value)

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
