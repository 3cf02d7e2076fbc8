"""What was measured stands beside the design: through files, old versions, crashes and undo."""

import json
from pathlib import Path

import pytest

from fuente.document import files, record
from fuente.document.journal import Journal, _last_good
from fuente.document.record import EMPTY, Entry, Record
from fuente.document.system import set_value
from fuente.errors import DocumentError
from fuente.session.session import Session

DATA = Path(__file__).parent / "data"
SEEN = Entry(date="2026-05-04", what="power-cut", value=0.052, expected=0.049)


class Nobody:
    """A listener that only keeps what was refused."""

    said = ""

    def __getattr__(self, name):
        return lambda *a: setattr(self, "said", a[0]) if name == "refused" else None


def test_it_is_saved_and_read_with_the_design(demo, tmp_path):
    path = tmp_path / "a.fuente"
    later = Entry(date="2026-06-01", what="power-cut", value=0.05)
    kept = EMPTY.added(SEEN).added(later)
    files.save(demo, path, kept)
    assert files.load_all(path) == (demo, kept)
    assert files.load(path) == demo
    assert kept.last("power-cut") == later
    assert kept.last("hose-off") is None
    files.save(demo, path)  # nothing to keep: the text of a design alone
    assert "record" not in json.loads(path.read_text())


def test_measurements_of_version_3_move_there():
    data = json.loads((DATA / "version-3-reading-room.fuente").read_text())
    data["measurements"] = [{"trial": "power-cut", "value": 0.04, "date": "2025-11-03"}]
    system, kept = files.parse_all(json.dumps(data).encode())
    assert [(e.what, e.value, e.date, e.expected) for e in kept.entries] == [("power-cut", 0.04, "2025-11-03", None)]
    assert "measurements" not in system.model_dump()


@pytest.mark.parametrize(
    ("rows", "says"),
    [
        ([{"kind": "measured"}], "record"),
        (7, "record"),
        ([{**SEEN.model_dump(), "value": 9.0}], "record"),
        ([{**SEEN.model_dump(), "date": "yesterday"}], "record"),
    ],
)
def test_a_damaged_record_is_a_sentence(demo, rows, says):
    data = {**files.data_of(demo), "record": rows}
    with pytest.raises(DocumentError, match=says):
        files.parse(json.dumps(data).encode())


def test_a_session_keeps_it_through_undo_saves_it_and_a_crash_gives_it_back(demo, tmp_path):
    path = tmp_path / "a.fuente"
    files.save(demo, path)
    session = Session(demo, path, Nobody())
    assert not session.dirty
    session.edit(set_value("Rename", ("name",), "Another"))
    session.write_down(SEEN)
    assert session.dirty
    found = _last_good(session.journal.path)
    assert found.record.entries == (SEEN,)
    session.undo()
    assert session.system == demo
    assert session.record.entries == (SEEN,)
    session.autosave()
    assert not session.dirty
    assert files.load_all(path) == (demo, Record(entries=(SEEN,)))


def test_a_full_record_refuses_and_keeps_what_it_has(demo, monkeypatch):
    monkeypatch.setattr(record, "MOST", 1)
    nobody = Nobody()
    session = Session(demo, None, nobody, record=EMPTY.added(SEEN))
    session.write_down(SEEN)
    assert "takes no more" in nobody.said
    assert len(session.record.entries) == 1
    assert not session.dirty or session.path is None


def test_a_journal_of_a_design_alone_has_an_empty_record(demo, tmp_path):
    journal = Journal(tmp_path)
    journal.write("Edit", demo, None)
    assert _last_good(journal.path).record == EMPTY
