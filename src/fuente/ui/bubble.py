"""The bubble over a handle with its value."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter

from fuente.ui import theme


def paint_bubble(painter: QPainter, at: QPointF, words: str, room: object) -> None:
    """Words over a point in px, or under it where there is no room in ``room``, a QRect."""
    painter.setFont(theme.font(12, theme.BOLD))
    fm = painter.fontMetrics()
    width, height = fm.horizontalAdvance(words) + theme.px(18), fm.height() + theme.px(8)
    bounds = QRectF(room)  # type: ignore[call-overload]
    x = min(max(at.x() - width / 2, bounds.left() + 4), bounds.right() - width - 4)
    y = at.y() - height - theme.px(14)
    if y < bounds.top() + 2:
        y = at.y() + theme.px(14)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("bar"))
    painter.drawRoundedRect(QRectF(x, y, width, height), theme.px(5), theme.px(5))
    painter.setPen(theme.color("bar_ink"))
    painter.drawText(QRectF(x, y, width, height), Qt.AlignmentFlag.AlignCenter, words)
