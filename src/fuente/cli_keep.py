"""The commands ``log``, ``due`` and ``calendar``: what was seen, what is due, and when."""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from fuente import plain
from fuente.errors import EntryError

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis
    from fuente.upkeep.due import Due
    from fuente.upkeep.entry import Entry
    from fuente.upkeep.log import Log


def log_command(read: Callable[[str], Analysis]) -> click.Command:
    """The command; ``read`` opens a file."""

    @click.command("log")
    @click.argument("file")
    @click.argument("line", required=False, default="")
    @click.option("--tank", default="", help="Id of the tank that is meant where a line names none.")
    @click.option("--last", default=20, show_default=True, help="How many entries are listed where no line is given.")
    @click.option("--take", "source", default="", help="Read a CSV file into the log: when, what, where, value, text.")
    @click.option("--to", "target", default="", help="Write all entries into a CSV file.")
    @click.option("--json", "as_json", is_flag=True, help="Entries with their moment, SI values and places by id.")
    def log(file: str, line: str, tank: str, last: int, source: str, target: str, as_json: bool) -> None:
        """Write a line into the log, such as "no3 20, ph 7.4, foam 18 mm"; without one, list what is there."""
        from fuente.upkeep.csv_log import read_csv, write_csv
        from fuente.upkeep.entry import now
        from fuente.upkeep.places import places_of
        from fuente.upkeep.typed_line import day_of, read_line, said

        analysis = read(file)
        units, places = analysis.system.units, places_of(analysis)
        book = _log(file)
        try:
            if source:
                found = read_csv(Path(source), places, units, book.entries)
                book.add(*found.entries)
                for problem in found.problems:
                    click.echo(problem, err=True)
                counts = len(found.entries), len(found.known), len(found.problems)
                click.echo("{} kept, {} there already, {} unread.".format(*counts))
                return
            if target:
                write_csv(Path(target), book.entries, places)
                click.echo(target)
                return
            if line:
                moment = now()
                found_rows = read_line(line, moment, places, units, tank)
                for row in found_rows:
                    if row.entry.place == "" and row.others:
                        raise EntryError(f"“{row.words}”: in which tank? Name it, or give --tank.")
                kept = book.add(*[r.entry for r in found_rows])
                for row in found_rows:
                    told = ": ".join(filter(None, (day_of(row.entry, moment.date()), row.words)))
                    click.echo(told + (f" ({row.doubt})" if row.doubt else ""))
                if as_json:
                    click.echo(plain.as_json([_plain(e) for e in kept]))
                return
            rows = book.entries[-max(last, 0) :] if last else []
            if as_json:
                click.echo(plain.as_json([_plain(e) for e in rows]))
                return
            for entry in rows:
                click.echo(f"{entry.when:%Y-%m-%d %H:%M}  {said(entry, places, units)}")
        finally:
            book.close()

    return log


def due_command(read: Callable[[str], Analysis]) -> click.Command:
    """The command; ``read`` opens a file."""

    @click.command("due")
    @click.argument("file")
    @click.option("--json", "as_json", is_flag=True, help="Tasks with their days, reasons, minutes and m³ of water.")
    def due_(file: str, as_json: bool) -> None:
        """What is due, the soonest first, and why."""
        rows, _ = _due(file, read)
        if as_json:
            click.echo(plain.as_json([_plain_due(r) for r in rows]))
            return
        for row in rows:
            click.echo(f"{row.day:%Y-%m-%d}  {row.task.name}  ({row.task.minutes:.0f} min; {row.why})")

    return due_


def calendar_command(read: Callable[[str], Analysis]) -> click.Command:
    """The command; ``read`` opens a file."""

    @click.command("calendar")
    @click.argument("file")
    @click.option("--to", "target", required=True, help="The .ics file, or a .pdf of the month.")
    @click.option("--month", default="", help="Of the .pdf: such as 2026-12; this month unless given.")
    def calendar_(file: str, target: str, month: str) -> None:
        """What is due as an iCalendar file, or as a month to print."""
        import datetime

        from fuente.document.files import write_bytes
        from fuente.upkeep.calendar_file import as_calendar
        from fuente.upkeep.entry import now

        rows, analysis = _due(file, read)
        path = Path(target)
        if path.suffix.lower() == ".pdf":
            from fuente.ui.month import export_month

            try:
                first = datetime.date.fromisoformat(f"{month}-01") if month else now().date().replace(day=1)
            except ValueError:
                raise EntryError(f"“{month[:20]}” is no month; write 2026-12.") from None
            export_month(analysis.system.name, rows, first, path)
        else:
            write_bytes(path, as_calendar(analysis.system.name, rows, now(), analysis.system.units))
        click.echo(target)

    return calendar_


def instruments_command(read: Callable[[str], Analysis]) -> click.Command:
    """The command; ``read`` opens a file."""

    @click.command("instruments")
    @click.argument("file")
    @click.option("--port", default=8733, show_default=True, help="On this machine alone; 0 for any that is free.")
    @click.option("--rate", default=1.0, show_default=True, help="Values of every sensor by second.")
    @click.option("--speed", default=1.0, show_default=True, help="Simulated seconds by second.")
    @click.option("--fault", "faults", multiple=True, help="As for wet-test: kind@seconds or kind@seconds=number.")
    @click.option("--until", default=0.0, help="Stop after so many seconds; 0 for never.")
    def instruments(file: str, port: int, rate: float, speed: float, faults: tuple[str, ...], until: float) -> None:
        """Play a controller for a design: levels, temperature, flow, pH, power, outlets. Nothing real is switched."""
        import time

        from fuente.instruments.server import Server
        from fuente.instruments.simulated import Simulated
        from fuente.study.faults import read_fault

        if not 0 <= port <= 65535 or not 0.01 <= rate <= 1000 or not 0 <= speed <= 10_000:
            raise EntryError("A port is 0 to 65535, a rate 0.01 to 1000 by second, a speed up to 10 000.")
        analysis = read(file)
        simulated = Simulated(analysis, [read_fault(text) for text in faults])
        simulated.values(0.0)  # what cannot run is said before anybody listens
        try:
            server = Server(simulated, port, rate, speed)
        except OSError as error:
            raise EntryError(f"Port {port} cannot be used: {error.strerror}.") from None
        with server:
            click.echo(f"Listening on 127.0.0.1:{server.port}, {len(simulated.sensors)} sensors; Ctrl+C ends it.")
            begun = time.monotonic()
            try:
                while until <= 0 or time.monotonic() - begun < until:
                    time.sleep(0.2)
            except KeyboardInterrupt:
                pass

    return instruments


def _log(file: str) -> Log:
    from fuente.upkeep.log import Log, log_path

    book = Log(log_path(Path(file)))
    if book.said:
        print(book.said, file=sys.stderr)
    return book


def _due(file: str, read: Callable[[str], Analysis]) -> tuple[list[Due], Analysis]:
    from fuente.upkeep.due import due
    from fuente.upkeep.entry import now
    from fuente.upkeep.learned import Learned
    from fuente.upkeep.log import log_path

    analysis = read(file)
    entries: list[Entry] = []
    if log_path(Path(file)).exists():
        book = _log(file)
        entries = list(book.entries)
        book.close()
    return due(Learned(analysis, entries, now()), analysis.system.units), analysis


def _plain(entry: Entry) -> dict[str, Any]:
    return {
        "id": entry.id,
        "when": entry.when.isoformat(timespec="seconds"),
        "what": entry.what,
        "place": entry.place,
        "value": entry.value,
        "text": entry.text,
        "source": entry.source,
    }


def _plain_due(row: Due) -> dict[str, Any]:
    task = row.task
    return {
        "id": task.id,
        "name": task.name,
        "owner": task.owner,
        "place": task.place,
        "due": row.day.isoformat(),
        "early": row.early.isoformat() if row.early else None,
        "late": row.late.isoformat() if row.late else None,
        "last": row.last.isoformat() if row.last else None,
        "why": row.why,
        "moved": row.moved,
        "minutes": task.minutes,
        "litres": task.litres,
        "living": task.living,
        "steps": list(task.how),
    }
