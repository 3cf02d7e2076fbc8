"""The log: only added to, corrected by later entries, shared by two windows, and nothing acknowledged is ever lost."""

from __future__ import annotations

import datetime
import os
import signal
import sqlite3
import subprocess
import sys
import time
from pathlib import Path

import pytest

from fuente.errors import DocumentError, EntryError
from fuente.upkeep.entry import Entry
from fuente.upkeep.log import Log, backup_path, log_path

START = datetime.datetime(2026, 4, 2, 9, 0, tzinfo=datetime.UTC)


def entry(k=0, what="nitrate", value=0.02, **more):
    return Entry(START + datetime.timedelta(hours=k), what, "tank", value, **more)


@pytest.fixture
def log(tmp_path):
    made = Log(tmp_path / "pond.fuente-log")
    yield made
    made.close()


def test_what_is_kept_is_read_back_as_it_was(log, tmp_path):
    kept = log.add(entry(0), entry(1, "note", None, text="one shy axolotl"))
    assert [e.id for e in kept] == [1, 2]
    again = Log(log.path)
    assert again.entries == log.entries
    assert again.entries[0].when == START
    assert again.entries[1].text == "one shy axolotl"
    again.close()
    assert log_path(tmp_path / "pond.fuente") == log.path


def test_entries_stand_by_their_moment_not_by_their_number(log):
    log.add(entry(5), entry(1), entry(3))
    assert [e.when.hour for e in log.entries] == [10, 12, 14]
    assert [e.when.hour for e in log.written] == [14, 10, 12]


def test_a_correction_stands_for_the_first_and_stays_readable(log):
    (first,) = log.add(entry(0, value=0.2))
    log.add(entry(0, value=0.02, corrects=first.id))
    assert [e.value for e in log.of("nitrate")] == [0.02]
    (second,) = log.of("nitrate")
    log.add(entry(0, value=0.025, corrects=second.id))
    assert [e.value for e in log.of("nitrate")] == [0.025]
    assert [e.value for e in log.written] == [0.2, 0.02, 0.025]
    log.take_back(log.of("nitrate")[0], START)
    assert log.entries == []
    assert len(log.written) == 4


def test_the_file_itself_refuses_to_be_changed(log):
    log.add(entry())
    other = sqlite3.connect(log.path)
    for statement in ("UPDATE entries SET value = 1", "DELETE FROM entries"):
        with pytest.raises(sqlite3.IntegrityError, match="only added to"):
            other.execute(statement)
    other.close()


def test_two_windows_see_each_other_s(log):
    other = Log(log.path)
    log.add(entry(0))
    assert other.entries == []
    assert other.refresh()
    assert not other.refresh()
    other.add(entry(1))
    assert log.refresh()
    assert [e.id for e in log.entries] == [1, 2] == [e.id for e in other.entries]
    other.close()


def test_all_or_none(log):
    with pytest.raises(EntryError, match="number"):
        log.add(entry(0), entry(1, value=float("nan")))
    assert log.entries == []
    with pytest.raises(EntryError, match="offset"):
        Entry(datetime.datetime(2026, 1, 1), "note")


def test_texts_lose_what_ends_a_line(log):
    log.add(entry(0, "note", None, text="a\nb\u2028c\x00d\u202ee"))
    assert log.entries[0].text == "a b c d e"


def test_a_damaged_file_is_put_aside_and_its_backup_taken(tmp_path):
    path = tmp_path / "pond.fuente-log"
    made = Log(path)
    made.add(entry(0), entry(1))
    assert made.back_up()
    assert not made.back_up()  # it is fresh
    made.add(entry(2))
    made.close()
    raw = bytearray(path.read_bytes())
    raw[0:4000] = os.urandom(4000)
    path.write_bytes(raw)
    again = Log(path)
    assert [e.when.hour for e in again.entries] == [9, 10]
    assert "backup was taken" in again.said
    assert (tmp_path / "pond.fuente-log.damaged").exists()
    again.add(entry(3))
    again.close()


def test_without_a_backup_a_new_one_is_begun_and_said(tmp_path):
    path = tmp_path / "pond.fuente-log"
    path.write_bytes(b"no database at all, " * 40)
    made = Log(path)
    assert "new one was begun" in made.said
    made.add(entry())
    made.close()
    assert (tmp_path / "pond.fuente-log.damaged").read_bytes().startswith(b"no database")


def test_another_program_s_database_is_left_alone(tmp_path):
    path = tmp_path / "pond.fuente-log"
    db = sqlite3.connect(path)
    db.execute("CREATE TABLE theirs (x)")
    db.commit()
    db.close()
    made = Log(path)
    assert "no log of Fuente's" in made.said
    made.close()
    aside = sqlite3.connect(tmp_path / "pond.fuente-log.damaged")
    assert aside.execute("SELECT name FROM sqlite_master").fetchone() == ("theirs",)
    aside.close()


@pytest.mark.skipif(os.geteuid() == 0, reason="nothing is read-only for root")
def test_a_folder_that_cannot_be_written(tmp_path):
    path = tmp_path / "pond.fuente-log"
    made = Log(path)
    made.add(entry())
    made.close()
    tmp_path.chmod(0o500)
    try:
        again = Log(path)
        assert len(again) == 1
        with pytest.raises(DocumentError, match="writ"):
            again.add(entry(1))
        again.close()
    finally:
        tmp_path.chmod(0o700)


def test_a_file_that_cannot_be_written_is_read(tmp_path, monkeypatch):
    """As a read-only folder does: WAL cannot be set up."""
    path = tmp_path / "pond.fuente-log"
    made = Log(path)
    made.add(entry())
    made.close()

    def refused(self):
        raise sqlite3.OperationalError("attempt to write a readonly database")

    monkeypatch.setattr(Log, "_connected", refused)
    again = Log(path)
    assert len(again) == 1
    assert not again.writable
    assert "read and not written" in again.said
    with pytest.raises(DocumentError, match="not written"):
        again.add(entry(1))
    again.close()


def test_a_full_disk_loses_nothing_that_was_acknowledged(tmp_path):
    """SQLite's own limit of pages stands for the disk: what does not fit is refused whole, and the rest stays."""
    made = Log(tmp_path / "pond.fuente-log")
    made.add(*[entry(k) for k in range(50)])
    pages = made._db.execute("PRAGMA page_count").fetchone()[0]
    made._db.execute(f"PRAGMA max_page_count = {pages + 1}")
    with pytest.raises(DocumentError, match=r"full.*Nothing of this was kept"):
        made.add(*[entry(k, "note", None, text="x" * 1000) for k in range(200)])
    assert len(made) == 50
    made._db.execute("PRAGMA max_page_count = 100000")
    made.add(entry(99))
    made.close()
    again = Log(tmp_path / "pond.fuente-log")
    assert len(again) == 51
    again.close()


_WRITER = """
import datetime, sys
from pathlib import Path
from fuente.upkeep.entry import Entry
from fuente.upkeep.log import Log
log = Log(Path(sys.argv[1]))
start = datetime.datetime(2026, 4, 2, tzinfo=datetime.timezone.utc)
for k in range(10_000):
    log.add(Entry(start + datetime.timedelta(minutes=k), "nitrate", "tank", float(k)))
    print(k, flush=True)
"""


@pytest.mark.parametrize("after", [0.25, 0.6])
def test_killed_in_the_middle_of_ten_thousand_writes(tmp_path, after):
    """All that was acknowledged is there, in order, and at most one more."""
    path = tmp_path / "pond.fuente-log"
    with subprocess.Popen(
        [sys.executable, "-c", _WRITER, str(path)], stdout=subprocess.PIPE, env={**os.environ}, text=True
    ) as writer:
        assert writer.stdout is not None
        assert writer.stdout.readline().strip() == "0"
        time.sleep(after)
        writer.send_signal(signal.SIGKILL)
        acknowledged = [0, *(int(line) for line in writer.stdout.read().split("\n") if line.strip().isdigit())]
    log = Log(path)
    values = [e.value for e in log.entries]
    assert values == [float(k) for k in range(len(values))]
    assert len(acknowledged) <= len(values) <= len(acknowledged) + 1
    assert not log.said
    log.close()


def test_ten_thousand_entries_are_read_at_once(tmp_path):
    made = Log(tmp_path / "a-log")
    made.add(*[entry(k) for k in range(10_000)])
    made.close()
    again = Log(tmp_path / "a-log")
    assert len(again) == 10_000
    assert len(again.of("nitrate", "tank")) == 10_000
    again.close()


def test_a_copy_is_whole_and_put_in_place_at_once(log, tmp_path):
    log.add(entry(0), entry(1))
    target = tmp_path / "elsewhere.fuente-log"
    log.copy_to(target)
    again = Log(target)
    assert again.entries == log.entries
    again.close()
    assert [p.name for p in tmp_path.iterdir() if p.suffix == ".new"] == []
    assert backup_path(log.path) == Path(str(log.path) + "~")
