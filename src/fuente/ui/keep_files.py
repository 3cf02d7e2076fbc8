"""Ways out of Keep and into it: calendar, month, chart, CSV, photographs."""

from __future__ import annotations

import shutil
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import QFileDialog

from fuente.document.files import write_bytes
from fuente.errors import FuenteError
from fuente.study.known import analysed
from fuente.upkeep.calendar_file import as_calendar
from fuente.upkeep.entry import Entry, now
from fuente.upkeep.places import places_of

if TYPE_CHECKING:
    from fuente.ui.keep import KeepPage


class KeepFiles:
    """The files of one page."""

    def __init__(self, page: KeepPage):
        self.page = page

    def _folder(self) -> Path:
        return self.page.workspace.path.parent if self.page.workspace.path is not None else Path.home()

    def calendar(self) -> None:
        """Ask where to, and write the calendar."""
        name, _ = QFileDialog.getSaveFileName(
            self.page, "Calendar file", str(self._folder() / "upkeep.ics"), "Calendar (*.ics)"
        )
        if name:
            self.write_calendar(Path(name))

    def write_calendar(self, path: Path) -> None:
        """What is due as an iCalendar file."""
        rows = self.page.found.rows if self.page.found is not None else []
        name, units = self.page.workspace.system.name, self.page.workspace.units
        self._tried(lambda: write_bytes(path, as_calendar(name, rows, now(), units)))

    def month(self) -> None:
        """Ask where to, and write the month."""
        name, _ = QFileDialog.getSaveFileName(self.page, "This month", str(self._folder() / "month.pdf"), "PDF (*.pdf)")
        if name:
            self.write_month(Path(name))

    def write_month(self, path: Path) -> None:
        """This month, to print."""
        from fuente.ui.month import export_month

        rows = self.page.found.rows if self.page.found is not None else []
        self._tried(lambda: export_month(self.page.workspace.system.name, rows, now().date().replace(day=1), path))

    def save(self) -> None:
        """Ask where to, and save the chart."""
        name, _ = QFileDialog.getSaveFileName(
            self.page, "Save chart", str(self._folder() / "trend.png"), "Picture (*.png);;Table (*.csv)"
        )
        if name:
            self._tried(lambda: self.page.trends.chart.write(Path(name)))

    def photo(self) -> None:
        """Ask for a photograph, and keep it."""
        kinds = "Pictures (*.png *.jpg *.jpeg *.webp)"
        name, _ = QFileDialog.getOpenFileName(self.page, "Photograph", str(self._folder()), kinds)
        if name:
            self.add_photo(Path(name))

    def add_photo(self, source: Path) -> None:
        """Copy a photograph beside the log, and write it down."""
        path = self.page.workspace.path
        if path is None:
            self.page.line.say("Save the design first: photographs lie beside its file.")
            return
        folder = path.with_name(path.name + "-photos")
        at = now()
        target = folder / f"{at:%Y%m%d-%H%M%S}{source.suffix.lower()}"
        try:
            if not source.is_file() or source.stat().st_size > 60_000_000:
                raise FuenteError("A photograph is a file of 60 MB at most.")
            folder.mkdir(exist_ok=True)
            shutil.copyfile(source, target)
        except (OSError, FuenteError) as error:
            self.page.line.say(f"The photograph was not kept: {error}")
            return
        self.page.keep([Entry(at, "photo", "", None, f"{folder.name}/{target.name}")])

    def give(self) -> None:
        """Ask where to, and write the log as CSV."""
        name, _ = QFileDialog.getSaveFileName(
            self.page, "The log as CSV", str(self._folder() / "log.csv"), "Table (*.csv)"
        )
        if name:
            self.write_csv(Path(name))

    def write_csv(self, path: Path) -> None:
        """All entries as a table."""
        from fuente.upkeep.csv_log import write_csv

        places = places_of(analysed(self.page.workspace.system))
        self._tried(lambda: write_csv(path, self.page.book.entries, places))

    def take(self) -> None:
        """Ask for a CSV file, and read it."""
        name, _ = QFileDialog.getOpenFileName(
            self.page, "Read a CSV file", str(self._folder()), "Tables (*.csv *.txt *.tsv)"
        )
        if name:
            from fuente.ui.csv_dialog import CsvDialog

            places = places_of(analysed(self.page.workspace.system))
            try:
                dialog = CsvDialog(Path(name), places, self.page.workspace.units, self.page.book.entries, self.page)
            except FuenteError as error:
                self.page.line.say(str(error))
                return
            if dialog.exec() and dialog.read is not None:
                self.page.keep(dialog.read.entries)

    def _tried(self, act: Any) -> None:
        try:
            act()
        except (FuenteError, OSError) as error:
            self.page.line.say(str(error))
