"""The log of Fuente itself, the report made of it, and the man page."""

from __future__ import annotations

import datetime
import logging
import re
import shutil
import subprocess
import sys

import pytest
from click.testing import CliRunner

from fuente import diary
from fuente.cli import cli, commands, main
from fuente.demo.reading_room import reading_room
from fuente.document import files
from fuente.manual import page
from nasty import named


@pytest.fixture
def kept(tmp_path, monkeypatch):
    """The log in a folder of its own."""
    monkeypatch.setenv("FUENTE_STATE", str(tmp_path / "state"))
    monkeypatch.setattr(sys, "excepthook", sys.excepthook)
    for handler in list(diary.log.handlers):
        diary.log.removeHandler(handler)
    yield tmp_path
    for handler in list(diary.log.handlers):
        handler.close()
        diary.log.removeHandler(handler)
    diary.log.propagate = True
    diary.log.setLevel(logging.NOTSET)


def test_what_nobody_caught_is_in_the_log_and_in_the_report(kept, capsys):
    said, secret = [], "Mia's tank"
    diary.keep(said.append)
    diary.noted("opened", reading_room())
    try:
        raise ValueError(secret)
    except ValueError:
        sys.excepthook(*sys.exc_info())
    assert "fuente report" in said[0]
    assert "ValueError" in capsys.readouterr().err
    text = diary.report(reading_room())
    assert "ValueError" in text
    assert "test_what_nobody_caught" in text
    assert "1 tank" in text
    assert "power_cut" in text
    assert "Mia" not in text
    assert str(kept.home()) not in text


def test_the_report_has_no_name_of_a_design(kept, tmp_path, monkeypatch):
    """Names of the design, of its file and of the user's folders are in neither the log nor the report."""
    secret = "Zanzibar"
    system = named(reading_room(), secret)
    path = tmp_path / secret / f"{secret}.fuente"
    path.parent.mkdir()
    files.save(system, path)
    monkeypatch.setenv("HOME", str(tmp_path / secret))
    diary.keep()
    diary.noted("opened", system)
    diary.log.info(diary.nameless(f"“{secret}” in {path} cannot be read"))
    target = tmp_path / "report.txt"
    assert main(["report", str(target), "--design", str(path)]) == 0
    text = target.read_text()
    assert text.startswith("Fuente ")
    assert "1 × tank" in text
    assert secret not in text
    assert secret not in diary.diary_path().read_text()


def test_the_log_is_bounded(kept):
    diary.keep()
    for n in range(12_000):
        diary.log.info("line %d %s", n, "x" * 90)
    folder = diary.diary_path().parent
    assert sum(p.stat().st_size for p in folder.iterdir()) <= diary.LARGEST * (diary.OLDER + 1)
    assert len(list(folder.iterdir())) == diary.OLDER + 1
    assert "line 11999" in diary.report()


def test_a_report_goes_over_nothing_else(kept, tmp_path, capsys):
    letter = tmp_path / "letter.txt"
    letter.write_text("Dear librarian")
    assert main(["report", str(letter)]) == 2
    assert "no report" in capsys.readouterr().err
    assert letter.read_text() == "Dear librarian"
    path = tmp_path / "room.fuente"
    files.save(reading_room(), path)
    before = path.read_bytes()
    assert main(["report", str(path)]) == 0  # a design is what it is about, and is not written to
    assert "1 × tank" in capsys.readouterr().out
    assert path.read_bytes() == before


def test_the_man_page_has_every_command_and_option():
    text = page(cli, datetime.date(2026, 11, 28))
    assert len(commands()) > 15
    for name in commands():
        assert f".SS fuente {name.replace('-', chr(92) + '-')}" in text
    for command in cli.commands.values():
        for option in command.params:
            if not command.hidden and option.param_type_name == "option":
                assert all(o.replace("-", "\\-") in text for o in option.opts)


@pytest.mark.skipif(not shutil.which("groff"), reason="no groff here")
def test_the_man_page_is_sound_and_fits(tmp_path):
    text = page(cli)
    found = subprocess.run(
        ["groff", "-man", "-Tutf8", "-ww", "-Kutf8"], input=text, capture_output=True, text=True, check=True
    )
    assert found.stderr == ""
    assert "2026" in page(cli, datetime.date(2026, 1, 1))
    assert "home-built aquarium" in re.sub("[‐-]", "-", found.stdout)


def test_the_help_lists_everything_whole():
    found = CliRunner().invoke(cli, ["--help"]).output.partition("Commands:")[2]
    for name, command in cli.commands.items():
        assert (f"\n  {name} " in found) is not command.hidden
    assert "..." not in found.replace('gph"...', "").replace("]...", "")
    assert "FILE.fuente" in found
