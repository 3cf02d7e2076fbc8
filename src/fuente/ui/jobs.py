"""Work off the interface thread: with progress, and stoppable."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal

from fuente.errors import FuenteError


class _Signals(QObject):
    progress = Signal(float)
    done = Signal(object)
    failed = Signal(str)


class Job(QRunnable):
    """Runs ``work(tell)`` in the pool. ``tell`` takes the share done and answers False once the job was stopped."""

    def __init__(self, work: Callable[[Callable[[float], bool]], Any]):
        super().__init__()
        self.setAutoDelete(False)
        self.signals = _Signals()
        self.stopped = False
        self._work = work

    def start(self) -> None:
        """Hand it to the pool."""
        QThreadPool.globalInstance().start(self)

    def run(self) -> None:
        """In the pool's thread."""

        def tell(share: float) -> bool:
            self.signals.progress.emit(share)
            return not self.stopped

        try:
            result = self._work(tell)
        except FuenteError as error:
            if not self.stopped:
                self.signals.failed.emit(str(error))
            return
        if not self.stopped:
            self.signals.done.emit(result)
