"""What the charts have in common: the theme's ground and axes, no menu, no buttons."""

from __future__ import annotations

from typing import Any

import pyqtgraph as pg

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
