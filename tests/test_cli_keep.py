"""The log, what is due and the calendar from the shell."""

from __future__ import annotations

import json

import icalendar
import pypdf
import pytest
from click.testing import CliRunner

from fuente.cli import cli
from fuente.demo.back_room import back_room
from fuente.demo.reading_room import reading_room
from fuente.document import files
from fuente.upkeep.log import Log, log_path


@pytest.fixture
def design(tmp_path):
    path = tmp_path / "room.fuente"
    files.save(reading_room(), path)
    return path


def run(*words):
    return CliRunner().invoke(cli, [str(w) for w in words])


def test_a_line_is_kept_and_said(design):
    found = run("log", design, "no3 20, ph 7.4, foam 18 mm")
    assert found.exit_code == 0
    assert found.output.splitlines()[:2] == ["Nitrate 20 mg/L", "pH 7.4"]
    rows = json.loads(run("log", design, "--json").output)
    assert [(r["what"], r["place"], r["value"]) for r in rows] == [
        ("nitrate", "tank", 0.02),
        ("ph", "tank", 7.4),
        ("drop", "sump.foam", 0.018),
    ]
    assert "Nitrate 20 mg/L" in run("log", design).output


def test_csv_out_and_in(design, tmp_path):
    run("log", design, "no3 20")
    table = tmp_path / "log.csv"
    assert run("log", design, "--to", table).exit_code == 0
    again = run("log", design, "--take", table)
    assert "0 kept, 1 there already, 0 unread" in again.output
    table.write_text("date,no3\n2026-01-05,15\nsoon,15\n")
    more = run("log", design, "--take", table)
    assert "1 kept" in more.output
    assert "Row 3" in more.output
    book = Log(log_path(design))
    assert len(book) == 2
    book.close()


def test_in_a_rack_the_tank_must_be_said(tmp_path):
    path = tmp_path / "rack.fuente"
    files.save(back_room(), path)
    found = run("log", path, "no3 20")
    assert "in which tank" in str(found.exception or found.output)
    assert run("log", path, "no3 20", "--tank", "rack-1-1").exit_code == 0


def test_what_is_due_as_data(design):
    run("log", design, "10 days ago foam 24 mm, new socks")
    rows = json.loads(run("due", design, "--json").output)
    by_id = {r["id"]: r for r in rows}
    assert by_id["sump.socks.socks"]["last"]
    assert (
        by_id["sump.foam.pad.2"]["early"] is None
        or by_id["sump.foam.pad.2"]["early"] <= by_id["sump.foam.pad.2"]["due"]
    )
    assert [r["due"] for r in rows] == sorted(r["due"] for r in rows)
    assert "Change the socks" in run("due", design).output


def test_calendar_and_month(design, tmp_path):
    ics, pdf = tmp_path / "a.ics", tmp_path / "a.pdf"
    assert run("calendar", design, "--to", ics).exit_code == 0
    rows = json.loads(run("due", design, "--json").output)
    assert len(icalendar.Calendar.from_ical(ics.read_bytes()).walk("VEVENT")) == len(rows)
    assert run("calendar", design, "--to", pdf, "--month", "2027-02").exit_code == 0
    text = " ".join(pypdf.PdfReader(pdf).pages[0].extract_text().split())
    assert "February 2027" in text
    assert "Change the socks" in text
    assert run("calendar", design, "--to", pdf, "--month", "soon").exit_code != 0
