"""Levels that slide to a new state, so that the eye sees which water goes where. Under 200 ms, and off where it is
unwanted.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import QEasingCurve, QObject, QVariantAnimation
from PySide6.QtWidgets import QApplication, QStyle

from fuente.network.model import Solution
from fuente.study.situation import Situation
from fuente.ui import settings

DURATION = 170  # ms


def wanted() -> bool:
    """Whether the builder, and the desktop, want motion."""
    app = QApplication.instance()
    if not isinstance(app, QApplication) or app.property("still") or settings.choice("motion", "on") == "off":
        return False
    return app.style().styleHint(QStyle.StyleHint.SH_Widget_Animation_Duration) > 0


class Slide(QObject):
    """Shows the states between two situations of the same cells, then the last one."""

    def __init__(self, show: Callable[[Situation], None], parent: QObject):
        super().__init__(parent)
        self._show = show
        self._last: Situation | None = None
        self._from: Situation | None = None
        self._to: Situation | None = None
        self.animation = QVariantAnimation(self)
        self.animation.setStartValue(0.0)
        self.animation.setEndValue(1.0)
        self.animation.setDuration(DURATION)
        self.animation.setEasingCurve(QEasingCurve.Type.OutCubic)
        self.animation.valueChanged.connect(self._at)

    def go(self, situation: Situation, at_once: bool = False) -> None:
        """Show a situation, sliding to it from the one that was shown when only the situation changed; ``at_once``
        where a frame takes longer than a blink.
        """
        before, self._last = self._last, situation
        self.animation.stop()
        moved = before is not None and before.name != situation.name
        if at_once or not moved or not wanted() or before.solution.level.keys() - situation.solution.level.keys():  # type: ignore[union-attr]
            self._show(situation)
            return
        self._from, self._to = before, situation
        self.animation.start()

    def _at(self, share: float) -> None:
        if self._from is None or self._to is None:
            return
        if share >= 1.0:
            self._show(self._to)
        else:
            self._show(replace(self._to, solution=between(self._from.solution, self._to.solution, share)))


def between(a: Solution, b: Solution, share: float) -> Solution:
    """The second solution with levels a share of the way from the first."""
    level = {key: z + (1 - share) * (a.level.get(key, z) - z) for key, z in b.level.items()}
    return replace(b, level=level)
