"""What is typed and not entered yet counts before anything else is done with the design."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject
from PySide6.QtWidgets import QApplication, QLineEdit, QWidget
from shiboken6 import isValid


class PendingEdit(QLineEdit):
    """A field whose text is only a value once it is entered: by Enter, by leaving it, or by doing anything else."""

    def __init__(self, text: str = "", parent: QWidget | None = None):
        super().__init__(text, parent)
        self.textEdited.connect(lambda _: _guard.watch(self))

    def enter(self) -> bool:
        """Take what is typed; False, and said, where it cannot be read."""
        raise NotImplementedError


class _Guard:
    """Knows the field that is typed into. A button that takes no focus still acts on what stands there."""

    def __init__(self) -> None:
        self._field: PendingEdit | None = None
        self._ear: _Ear | None = None

    def watch(self, field: PendingEdit) -> None:
        if self._ear is None or not isValid(self._ear):
            self._ear = _Ear()
        self._field = field
        self._ear.listen(True)

    def field(self) -> PendingEdit | None:
        if self._field is not None and not (isValid(self._field) and self._field.isModified()):
            self._field = None
        return self._field


class _Ear(QObject):
    """Listens to the application while something is typed, and not longer: it hears every event."""

    def listen(self, on: bool) -> None:
        app = QApplication.instance()
        assert app is not None
        app.removeEventFilter(self)
        if on:
            app.installEventFilter(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """A press elsewhere enters the value first."""
        field = pending()
        if field is None:
            self.listen(False)
        elif event.type() == QEvent.Type.MouseButtonPress and isinstance(watched, QWidget) and watched is not field:
            field.enter()
        return False


_guard = _Guard()


def pending() -> PendingEdit | None:
    """The field in which something is typed and not entered."""
    return _guard.field()
