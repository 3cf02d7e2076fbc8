"""The lists as a workbook: parts, cuts, pipe, steps and bill, a sheet each."""

from __future__ import annotations

import io
from collections.abc import Iterable, Sequence

from fuente.study.analysis import Analysis
from fuente.units import shown
from fuente.workshop.bill import table
from fuente.workshop.cells import Value, harmless
from fuente.workshop.piping import name_of
from fuente.workshop.purchase import purchase
from fuente.workshop.room import room_of
from fuente.workshop.words import remark


def workbook(analysis: Analysis) -> bytes:
    """The workbook as bytes."""
    from openpyxl import Workbook
    from openpyxl.styles import Font

    room, units = room_of(analysis), analysis.system.units
    made = Workbook()
    made.remove(made.worksheets[0])

    def sheet(title: str, heads: Sequence[str], rows: Iterable[Sequence[Value]]) -> None:
        page = made.create_sheet(title)
        page.append(list(heads))
        for cell in page[1]:
            cell.font = Font(bold=True)
        for each in rows:
            page.append([harmless(v) for v in each])
        page.freeze_panes = "A2"
        for column in page.columns:
            wide = max(len(str(cell.value or "")) for cell in column)
            page.column_dimensions[column[0].column_letter].width = min(max(wide + 2, 8), 60)

    sheet("Parts", ("Group", "Count", "What", "Size", "Note"), (tuple(each) for each in table(room.bill, units)))
    sheet(
        "Panels, mm",
        ("What", "Count", "Length mm", "Width mm", "Thickness mm", "Material", "Mass kg each"),
        (
            (p.name, p.count, p.length * 1e3, p.width * 1e3, p.thickness * 1e3, p.material, round(p.mass, 2))
            for p in room.bill.panels
        ),
    )
    sheet(
        "Sheets, mm",
        ("Sheet", "Number", "Piece", "x mm", "y mm", "Length mm", "Width mm"),
        (
            (lot.key, k, p.item.name, p.at.x * 1e3, p.at.y * 1e3, p.at.length * 1e3, p.at.width * 1e3)
            for lot in (*room.lots, *(pad.lot for pad in room.pads))
            for k, nest in enumerate(room.laid(lot).nests, 1)
            for p in nest.placed
        ),
    )
    sheet(
        "Pipe",
        ("Run", "Times", "Piece", "Length", "Length mm", "From", "To"),
        (
            (r.title, r.count, p.number, shown(p.length, "length", units), round(p.length * 1e3, 1), *_ends(p))
            for r in room.runs
            for p in r.pieces
        ),
    )
    sheet(
        "Steps",
        ("Number", "What", "Body", "Minutes", "Hands", "Then wait h", "For", "Check"),
        (
            (
                k,
                remark(s.title, units),
                s.body,
                round(s.minutes),
                s.hands,
                round(s.wait / 3600, 1),
                s.waits_for,
                remark(s.check, units),
            )
            for k, s in enumerate(room.steps, 1)
        ),
    )
    total = purchase(analysis, units)
    sheet(
        "Bill",
        ("Group", "What", "Amount", "Unit", "One costs", "Cost", "Price is"),
        ((b.group, b.what, b.amount, b.unit, b.each, b.cost, b.source) for b in total.lines),
    )
    sheet("Cautions", ("Before you cut, drill and fill",), ((c,) for c in room.bill.cautions))
    out = io.BytesIO()
    made.save(out)
    return out.getvalue()


def _ends(piece: object) -> tuple[str, str]:
    from fuente.workshop.piping import CutPiece

    assert isinstance(piece, CutPiece)
    return name_of(piece.start.kind), name_of(piece.end.kind)
