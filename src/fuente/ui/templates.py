"""Drill templates as PDF at 1:1, tiled where they are larger than a page."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPen

from fuente.errors import FuenteError
from fuente.study.analysis import Analysis
from fuente.ui.painting import paint_drawing
from fuente.ui.paper import DPI, INK, QUIET, Page, Size, paper
from fuente.units import UnitSystem
from fuente.workshop.room import room_of
from fuente.workshop.templates import BAR, Template, templates, tiles
from fuente.workshop.words import remark

FOOT = "print at 100 %, not fitted to the page; measure your own fitting first"


def export_templates(analysis: Analysis, path: Path, size: Size | None = None) -> None:
    """Write the templates on A4, or on Letter where US units are shown. Raises FuenteError where nothing is drilled."""
    units = analysis.system.units
    made = templates(room_of(analysis))
    if not made:
        raise FuenteError("Nothing is drilled in this design.")
    with paper(path, analysis.system.name, size or ("Letter" if units == UnitSystem.US else "A4"), FOOT) as page:
        for k, each in enumerate(made):
            if k:
                page.turn()
            template_page(page, each, units)


def template_page(page: Page, template: Template, units: UnitSystem) -> None:
    """A template on as many pages as it needs, each with the bar."""
    scale = DPI / 25.4
    wide = page.width / scale
    tall = (page.height - page.mm(9)) / scale - 42  # under the words and the bar
    corners = tiles(template.drawing, wide, tall)
    for k, (x, y) in enumerate(corners, 1):
        if k > 1:
            page.turn()
        sheet = f", sheet {k} of {len(corners)}: join them at their frames" if len(corners) > 1 else ""
        page.text(template.title, 13, True)
        words = remark(template.words, units)
        page.text(f"1 : 1{sheet}. {words[:1].upper()}{words[1:]}.", 9)
        page.text(f"This bar is {BAR:.0f} mm; where it is not, the printer scales.", 8.5, colour=QUIET, gap=0.8)
        page.bar(BAR * scale)
        top = page.mm(42)
        p = page.painter
        p.save()
        p.setClipRect(QRectF(0, top, page.width, tall * scale))
        paint_drawing(p, template.drawing, (scale, -x * scale, top + (y + tall) * scale), units)
        p.restore()
        if len(corners) > 1:
            p.setPen(QPen(QColor(INK), page.mm(0.15), Qt.PenStyle.DashLine))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRect(QRectF(QPointF(0, top), QPointF(page.width, top + tall * scale)))
