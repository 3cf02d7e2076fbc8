"""Writes a design's files for the bench."""

from __future__ import annotations

import re
from pathlib import Path

from fuente.document.files import write_bytes, write_text
from fuente.drawing.dxf import section_dxf
from fuente.drawing.primitives import Drawing
from fuente.drawing.svg import svg
from fuente.errors import FuenteError
from fuente.shown.plan import plan
from fuente.shown.section import section
from fuente.study.analysis import Analysis
from fuente.workshop.bill import as_csv, bill
from fuente.workshop.drawn import nest_drawing, panel_drawing
from fuente.workshop.panels import panels_dxf
from fuente.workshop.room import room_of, shown_situation

APART = 200.0  # mm between sheets in one file


def stem(analysis: Analysis) -> str:
    """A file name from the design's name."""
    return re.sub(r"[^a-z0-9]+", "-", analysis.system.name.lower()).strip("-") or "design"


def export_csv(analysis: Analysis, path: Path) -> None:
    """The list."""
    write_text(path, as_csv(bill(analysis), analysis.system.units))


def export_svg(analysis: Analysis, path: Path) -> None:
    """The section at true millimetres."""
    drawing = section(analysis, shown_situation(analysis))
    write_text(path, svg(drawing, analysis.system.name, analysis.system.units))


def export_section_dxf(analysis: Analysis, path: Path) -> None:
    """The section at true millimetres."""
    write_text(path, section_dxf(section(analysis, shown_situation(analysis)), analysis.system.units))


def export_plan_dxf(analysis: Analysis, path: Path) -> None:
    """The plan at true millimetres."""
    write_text(path, section_dxf(plan(analysis), analysis.system.units))


def export_plan_svg(analysis: Analysis, path: Path) -> None:
    """The plan at true millimetres."""
    write_text(path, svg(plan(analysis), analysis.system.name, analysis.system.units))


def export_panels_dxf(analysis: Analysis, path: Path) -> None:
    """Panels side by side at true millimetres."""
    write_text(path, panels_dxf(bill(analysis).panels))


def export_nests_dxf(analysis: Analysis, path: Path) -> None:
    """Every sheet with its cuts in one file, one beside the other, at true millimetres."""
    room = room_of(analysis)
    drawings = [
        nest_drawing(nest, lot.soft)
        for lot in (*room.lots, *(p.lot for p in room.pads))
        for nest in room.laid(lot).nests
    ]
    whole, x = Drawing(()), 0.0
    for drawing in drawings:
        left, _, right, _ = drawing.bounds()
        whole = whole + drawing.moved(x - left)
        x += right - left + APART
    if not drawings:
        raise FuenteError("Nothing is cut from sheets in this design.")
    write_text(path, section_dxf(whole, analysis.system.units))


def export_xlsx(analysis: Analysis, path: Path) -> None:
    """Parts, cuts and bill as a workbook."""
    from fuente.workshop.workbook import workbook

    write_bytes(path, workbook(analysis))


def export_pieces(analysis: Analysis, folder: Path) -> list[Path]:
    """Every panel and every sheet as a file of its own, SVG and DXF at true millimetres; what was written."""
    room, units = room_of(analysis), analysis.system.units
    drawings = {f"panel-{plain_name(p.id)}": panel_drawing(p) for p in room.bill.panels}
    for lot in (*room.lots, *(p.lot for p in room.pads)):
        for k, nest in enumerate(room.laid(lot).nests, 1):
            drawings[f"sheet-{plain_name(lot.key)}-{k}"] = nest_drawing(nest, lot.soft)
    written = []
    for name, drawing in drawings.items():
        for ending, words in ((".svg", svg(drawing, name, units)), (".dxf", section_dxf(drawing, units))):
            path = folder / f"{stem(analysis)}-{name}{ending}"
            write_text(path, words)
            written.append(path)
    return written


def plain_name(words: str) -> str:
    """Part of a file name."""
    return re.sub(r"[^a-z0-9]+", "-", words.lower()).strip("-")


def export_all(analysis: Analysis, folder: Path) -> list[Path]:
    """Every file; the list of what was written. The PDF comes from the ui package, which alone knows Qt."""
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise FuenteError(f"“{folder}” cannot be made: {error.strerror or error}.") from None
    name = stem(analysis)
    jobs = (
        (f"{name}-parts.csv", export_csv),
        (f"{name}-section.svg", export_svg),
        (f"{name}-section.dxf", export_section_dxf),
        (f"{name}-plan.svg", export_plan_svg),
        (f"{name}-plan.dxf", export_plan_dxf),
        (f"{name}-panels.dxf", export_panels_dxf),
        (f"{name}-lists.xlsx", export_xlsx),
    )
    written = []
    for file, job in jobs:
        job(analysis, folder / file)
        written.append(folder / file)
    return written
