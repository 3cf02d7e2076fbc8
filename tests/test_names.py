"""Names are the builder's, in every sentence and every file: never a slot, a mark, a formula or a command."""

from __future__ import annotations

import csv
import datetime
import json
import xml.etree.ElementTree as ET

import ezdxf
import icalendar
import openpyxl
import pypdf
import pytest

from fuente.cli import main
from fuente.demo import DEMOS
from fuente.devices.shop import Shop
from fuente.document import files
from fuente.drawing.primitives import Label
from fuente.findings import findings
from fuente.shown.section import section
from fuente.shown.start_plan import as_calendar as start_calendar
from fuente.shown.stations import stations
from fuente.study.known import analysed
from fuente.units import UnitSystem, fill
from fuente.upkeep.calendar_file import as_calendar
from fuente.upkeep.csv_log import write_csv
from fuente.upkeep.due import due
from fuente.upkeep.entry import Entry
from fuente.upkeep.learned import Learned
from fuente.upkeep.places import places_of
from fuente.workshop import export
from fuente.workshop.bill import as_csv, bill
from nasty import FORMULAS, MARKUP, NAMES, named

METRIC = UnitSystem.METRIC
NOW = datetime.datetime(2026, 11, 25, 18, 0, tzinfo=datetime.UTC)
SMALL = ["reading-room", "courtyard-trough"]


def told(system):
    """Every sentence, label and word of a design's findings, cards and drawing."""
    analysis = analysed(system)
    for f in findings(analysis):
        yield from (f.filled(METRIC), f.why, f.action or "")
    for situation in analysis.names():
        yield str(getattr(analysis.try_situation(situation), "verdict", ""))
    for station in stations(analysis):
        yield from (station.name, fill(station.headline, station.values, METRIC))
        for reading in station.readings:
            yield from (reading.label, fill(str(reading.value), {}, METRIC), fill(reading.why, {}, METRIC))
        for choice in station.choices:
            yield from (choice.label, *(fill(name, {}, METRIC) for _, name in choice.options))
    for shape in section(analysis, analysis.situation("running")).flat().shapes:
        if isinstance(shape, Label):
            yield fill(shape.text, shape.values, METRIC)


@pytest.mark.parametrize("demo", SMALL)
def test_every_sentence_keeps_the_name_and_nothing_else_changes(demo):
    """With a tail behind each name, all sentences are those of before with that tail."""
    plain, tailed = list(told(DEMOS[demo]())), list(told(named(DEMOS[demo](), MARKUP)))
    assert len(plain) == len(tailed)
    assert sum(MARKUP in words for words in tailed) > 10
    for before, after in zip(plain, tailed, strict=True):
        assert after.replace(MARKUP, "") == before


@pytest.mark.parametrize("name", NAMES)
@pytest.mark.parametrize("demo", SMALL)
def test_every_file_is_well_formed(demo, name, tmp_path):
    analysis = analysed(named(DEMOS[demo](), name))
    written = export.export_all(analysis, tmp_path)
    assert {p.suffix for p in written} >= {".csv", ".xlsx", ".dxf", ".svg", ".pdf"} - {".pdf"}
    seen = 0
    for path in written:
        if path.suffix == ".svg":
            text = "".join(ET.parse(path).getroot().itertext())
            tags = {e.tag.rpartition("}")[2] for e in ET.parse(path).getroot().iter()}
            assert not tags & {"script", "img", "image"}
            seen += name in text
        elif path.suffix == ".dxf":
            assert not ezdxf.readfile(path).audit().errors
        elif path.suffix == ".csv":
            rows = list(csv.reader(path.read_text(encoding="utf-8").splitlines()))
            assert len({len(row) for row in rows if row}) <= 3
            seen += any(name in cell for row in rows for cell in row)
        elif path.suffix == ".xlsx":
            book = openpyxl.load_workbook(path)
            cells = [c for sheet in book for row in sheet.iter_rows() for c in row]
            assert not [c for c in cells if c.data_type == "f"]
            seen += any(name in str(c.value) for c in cells)
    assert seen >= 2


@pytest.mark.parametrize("name", [MARKUP, NAMES[1]])
def test_the_book_and_the_templates_show_the_name(name, tmp_path, qapp):
    from fuente.ui.book import export_book
    from fuente.ui.templates import export_templates

    analysis = analysed(named(DEMOS["reading-room"](), name))
    for act in (export_book, export_templates):
        act(analysis, tmp_path / "a.pdf")
        pages = pypdf.PdfReader(tmp_path / "a.pdf").pages
        assert pages
    export_book(analysis, tmp_path / "a.pdf")
    text = "".join("".join(page.extract_text().split()) for page in pypdf.PdfReader(tmp_path / "a.pdf").pages)
    assert "".join(name.split()) in text


@pytest.mark.parametrize("formula", FORMULAS)
def test_no_cell_is_a_formula(formula, tmp_path):
    """Cells that another program would compute are made text; numbers stay numbers."""
    system = named(DEMOS["reading-room"](), head=formula)
    analysis = analysed(system)
    places = places_of(analysis)
    write_csv(tmp_path / "log.csv", [Entry(NOW, "note", "tank", None, formula), Entry(NOW, "ph", "tank", 7.0)], places)
    (tmp_path / "parts.csv").write_text(as_csv(bill(analysis), METRIC), encoding="utf-8")
    numbers = 0
    for path in tmp_path.iterdir():
        for row in csv.reader(path.read_text(encoding="utf-8").splitlines()):
            for cell in row:
                if cell.lstrip()[:1] in ("=", "+", "-", "@"):
                    float(cell)
                numbers += cell.replace(".", "", 1).isdigit()
    assert numbers
    export.export_xlsx(analysis, tmp_path / "lists.xlsx")
    for sheet in openpyxl.load_workbook(tmp_path / "lists.xlsx"):
        assert not [c for row in sheet.iter_rows() for c in row if c.data_type == "f"]


@pytest.mark.parametrize("name", NAMES)
def test_calendars_come_back_with_the_name(name):
    system = named(DEMOS["reading-room"](), name)
    rows = due(Learned(analysed(system), [], NOW))
    found = icalendar.Calendar.from_ical(as_calendar(system.name, rows, NOW, METRIC))
    events = [e for e in found.walk() if e.name == "VEVENT"]
    assert len(events) == len(rows)
    assert any(name in str(e["summary"]) for e in events)
    assert start_calendar((), "2026-11-25", name).count("BEGIN:VCALENDAR") == 1


@pytest.mark.parametrize("name", NAMES)
def test_the_shell_says_names_as_they_are(name, tmp_path, capsys):
    path = tmp_path / "room.fuente"
    files.save(named(DEMOS["reading-room"](), name), path)
    for command in ("solve", "due", *(("check", "carries") if name == MARKUP else ())):
        assert main([command, str(path), "--json"]) in (0, 1)
        assert json.loads(capsys.readouterr().out) is not None
        assert main([command, str(path)]) in (0, 1)
        shown = capsys.readouterr()
        assert name in shown.out or name in NAMES[:1] or command in ("carries",)
        assert not shown.err


def test_ends_of_lines_and_turned_text_leave_names():
    system = named(DEMOS["reading-room"](), "a\u2028b\u0085c\nd\u202ee\x00f")
    assert system.tanks[0].name.endswith("a b c d e f")
    assert Shop(currency="€\u2028").currency == "€"
