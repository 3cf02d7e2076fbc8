"""What the charts have in common: the theme's ground and axes, no menu, no buttons."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

import pyqtgraph as pg
from PySide6.QtCore import QRectF

from fuente.ui import theme


def quiet_plot(**axes: Any) -> Any:
    """An empty plot on the theme's ground; ``axes`` are items for its sides where the usual ones do not do. It does not
    move by the mouse unless the caller lets it.
    """
    t = theme.current()
    pg.setConfigOptions(antialias=True)
    plot = pg.PlotWidget(background=t.ground, axisItems=axes)
    plot.setMouseEnabled(False, False)
    plot.hideButtons()
    plot.setMenuEnabled(False)
    for side in ("left", "bottom"):
        axis = plot.getAxis(side)
        axis.setPen(pg.mkPen(t.rule))
        axis.setTextPen(pg.mkPen(t.muted))
        axis.setStyle(tickFont=theme.font(11))
        axis.label.setFont(theme.font(11))
    plot.showGrid(y=True, alpha=0.25)
    return plot


def box_of(plot: Any, item: Any) -> QRectF:
    """What the words of a chart cover, in px of its scene."""
    at = plot.getViewBox().mapViewToScene(item.pos())
    size = item.textItem.boundingRect()
    return QRectF(
        at.x() - item.anchor.x() * size.width(), at.y() - item.anchor.y() * size.height(), size.width(), size.height()
    )


def keep_apart(plot: Any, items: Callable[[], Sequence[Any]]) -> Callable[[], None]:
    """Hide words of a chart that would lie on others, whatever part of it is seen: those that were put in last stay.
    What comes back looks again.
    """

    def look() -> None:
        taken: list[QRectF] = []
        for item in reversed([i for i in items() if isinstance(i, pg.TextItem)]):
            box = box_of(plot, item)
            free = not any(box.intersects(other) for other in taken)
            item.setVisible(free)
            if free:
                taken.append(box)

    plot.getViewBox().sigRangeChanged.connect(lambda *_: look())
    plot.getViewBox().sigResized.connect(lambda *_: look())
    return look
