"""The files for the bench, in one table: buttons, the File menu and its keys read it. Writers load when asked."""

from __future__ import annotations

from collections.abc import Callable
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

Act = Callable[["Analysis", Path], None]


def _later(module: str, name: str) -> Act:
    """A writer that is imported when it is first asked for."""

    def act(analysis: Analysis, path: Path) -> None:
        getattr(import_module(module), name)(analysis, path)

    return act


FILES: tuple[tuple[str, str, Act, str, str], ...] = (
    (
        "Build book, PDF",
        "book.pdf",
        _later("fuente.ui.book", "export_book"),
        "Section, panels, sheets, pipes, steps, bill and cautions to print",
        "Ctrl+P",
    ),
    (
        "Templates, PDF",
        "templates.pdf",
        _later("fuente.ui.templates", "export_templates"),
        "Hole templates at 1:1 with a bar to check the printer",
        "Ctrl+Shift+P",
    ),
    (
        "Lists, XLSX",
        "lists.xlsx",
        _later("fuente.workshop.export", "export_xlsx"),
        "Parts, cuts and bill as a workbook",
        "Ctrl+Shift+X",
    ),
    (
        "List, CSV",
        "parts.csv",
        _later("fuente.workshop.export", "export_csv"),
        "Everything to order, for a spreadsheet",
        "",
    ),
    (
        "Sheets, DXF",
        "sheets.dxf",
        _later("fuente.workshop.export", "export_nests_dxf"),
        "Every sheet with its cuts at true size",
        "Ctrl+Shift+D",
    ),
    (
        "Panels, DXF",
        "panels.dxf",
        _later("fuente.workshop.export", "export_panels_dxf"),
        "Panels and holes at true size",
        "",
    ),
    (
        "Section, DXF",
        "section.dxf",
        _later("fuente.workshop.export", "export_section_dxf"),
        "The section at true size",
        "",
    ),
    (
        "Plan, DXF",
        "plan.dxf",
        _later("fuente.workshop.export", "export_plan_dxf"),
        "The plan, floor by floor, at true size",
        "",
    ),
    (
        "Plan, SVG",
        "plan.svg",
        _later("fuente.workshop.export", "export_plan_svg"),
        "The plan, floor by floor, at true size",
        "",
    ),
    (
        "Section, SVG",
        "section.svg",
        _later("fuente.workshop.export", "export_svg"),
        "The section at true size",
        "",
    ),
)
