"""The commands ``build`` and ``steps``: files for the bench, and the build in order."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

import click

from fuente import plain

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis


def build_command(read: Callable[[str], Analysis]) -> click.Command:
    """The command; ``read`` opens a file."""

    @click.command("build")
    @click.argument("file")
    @click.option("--to", "folder", required=True, help="Folder to write into; made when it is not there.")
    def build(file: str, folder: str) -> None:
        """The build book, drill templates, every sheet and panel as DXF and SVG, lists as CSV and XLSX."""
        from fuente.ui.book import export_book
        from fuente.ui.templates import export_templates
        from fuente.workshop.export import export_all, export_pieces, stem
        from fuente.workshop.room import room_of
        from fuente.workshop.templates import templates

        analysis = read(file)
        to = Path(folder)
        written = [*export_all(analysis, to), *export_pieces(analysis, to)]
        book = to / f"{stem(analysis)}-book.pdf"
        export_book(analysis, book)
        written.append(book)
        if templates(room_of(analysis)):
            holes = to / f"{stem(analysis)}-templates.pdf"
            export_templates(analysis, holes)
            written.append(holes)
        for path in written:
            click.echo(str(path))

    return build


def steps_command(read: Callable[[str], Analysis], record_of: Callable[[str], object]) -> click.Command:
    """The command; ``read`` opens a file, ``record_of`` what was done of it."""

    @click.command("steps")
    @click.argument("file")
    @click.option("--json", "as_json", is_flag=True, help="Ids, words, minutes, waits in s, what must be done before.")
    def steps(file: str, as_json: bool) -> None:
        """The build, step by step: what is done, what cures, what can be done next."""
        import datetime

        from fuente.document.record import Record
        from fuente.workshop.clocks import build_stand
        from fuente.workshop.room import room_of
        from fuente.workshop.words import remark

        analysis = read(file)
        record = record_of(file)
        assert isinstance(record, Record)
        units = analysis.system.units
        stood = build_stand(room_of(analysis).steps, record, datetime.datetime.now(datetime.UTC))
        if as_json:
            rows = [
                {
                    "id": s.step.id,
                    "body": s.step.body,
                    "title": remark(s.step.title, units),
                    "act": [remark(a, units) for a in s.step.act],
                    "check": remark(s.step.check, units),
                    "minutes": round(s.step.minutes),
                    "hands": s.step.hands,
                    "tools": list(s.step.tools),
                    "cautions": list(s.step.cautions),
                    "wait": s.step.wait,
                    "waits_for": s.step.waits_for,
                    "after": list(s.step.after),
                    "stand": str(s.stand),
                    "done": s.done.isoformat() if s.done else None,
                    "until": s.until.isoformat() if s.until else None,
                }
                for s in stood
            ]
            click.echo(plain.as_json({"steps": rows}))
            return
        for k, s in enumerate(stood, 1):
            wait = f", then {s.step.wait / 3600:.0f} h for {s.step.waits_for}" if s.step.wait else ""
            click.echo(
                f"{k:3} {s.stand:7} {s.step.body}: {remark(s.step.title, units)} ({s.step.minutes:.0f} min{wait})"
            )

    return steps
