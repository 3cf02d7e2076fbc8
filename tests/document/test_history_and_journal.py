"""Undo by name, and what a killed process leaves behind."""

import os
import signal
import subprocess
import sys
import textwrap

from fuente.document import journal
from fuente.document.history import PAUSE, History
from fuente.document.system import apply, set_value


def named(demo, name):
    return apply(demo, set_value("n", ("name",), name))


def test_undo_and_redo_by_name(demo):
    history = History(demo)
    assert not history.undo()
    history.do("Raise crest", named(demo, "a"))
    history.do("Widen gap", named(demo, "b"))
    assert history.undo_name == "Widen gap"
    history.undo()
    assert history.system.name == "a"
    assert (history.undo_name, history.redo_name) == ("Raise crest", "Widen gap")
    history.do("Add pad", named(demo, "c"))
    assert history.redo_name == ""
    history.undo()
    history.undo()
    assert history.system == demo


def test_nudges_run_together_until_something_else_happens(demo):
    history = History(demo)
    for name in "abc":
        history.do("Set name", named(demo, name), merge="name")
    history.undo()
    assert history.system == demo
    history.redo()
    history.do("Set name", named(demo, "d"), merge="name")
    history.undo()
    assert history.system.name == "c"


def test_nudges_minutes_apart_are_undone_apart(demo):
    now = [100.0]
    history = History(demo, clock=lambda: now[0])
    for name, wait in (("a", 0.0), ("b", PAUSE - 0.1), ("c", PAUSE + 0.1), ("d", 60.0)):
        now[0] += wait
        history.do("Nudge crest", named(demo, name), merge="crest")
    seen = []
    while history.undo():
        seen.append(history.system.name)
    assert seen == ["c", "b", demo.name]


def test_no_change_is_no_step(demo):
    history = History(demo)
    assert not history.do("Nothing", demo)
    assert history.undo_name == ""


def test_killed_in_the_middle_of_an_edit_and_recovered(tmp_path):
    """A real process writes two edits, half of a third, and is killed with -9."""
    code = textwrap.dedent(
        """
        import os, pathlib, sys, time
        from fuente.demo.reading_room import reading_room
        from fuente.document.journal import Journal
        from fuente.document.system import apply, set_value
        log = Journal(pathlib.Path(sys.argv[1]))
        system = reading_room()
        for name in ("first", "second"):
            system = apply(system, set_value("n", ("name",), name))
            log.write(f"Set name {name}", system, None)
        with log.path.open("a") as out:
            out.write('{"when": 1, "edit": "Set name third", "sys')
            out.flush()
        print("ready", flush=True)
        time.sleep(60)
        """
    )
    process = subprocess.Popen([sys.executable, "-c", code, str(tmp_path)], stdout=subprocess.PIPE, text=True)
    assert process.stdout.readline().strip() == "ready"
    assert journal.orphans(tmp_path) == []  # it is still alive
    os.kill(process.pid, signal.SIGKILL)
    process.wait()
    process.stdout.close()
    (found,) = journal.orphans(tmp_path)
    assert found.system.name == "second"
    assert found.edit == "Set name second"
    journal.discard(found)
    assert journal.orphans(tmp_path) == []


def test_journal_stays_short_and_is_cleared(demo, tmp_path):
    log = journal.Journal(tmp_path)
    for i in range(100):
        log.write(f"Edit {i}", demo, None)
    assert len(log.path.read_text().splitlines()) <= 41
    log.clear()
    assert not log.path.exists()


def test_a_journal_of_rubbish_is_put_aside(tmp_path):
    folder = tmp_path / "journal"
    folder.mkdir()
    (folder / "999999-x.jsonl").write_text("rubbish\n{}\n")
    assert journal.orphans(tmp_path) == []
    assert [p.name for p in folder.iterdir()] == ["999999-x.unread"]


def test_a_full_disk_is_said_and_half_a_line_spoils_no_other(demo, tmp_path, monkeypatch):
    """Half a line stays when the disk is full; the next edit stands on a line of its own."""
    book = journal.Journal(tmp_path)
    book.write("First", named(demo, "First"), None)
    whole = journal._put

    def full(out, line):
        out.write(line[:40])
        out.flush()
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(journal, "_put", full)
    book.write("Second", named(demo, "Second"), None)
    assert book.error == "Your edits are not kept against a crash: No space left on device."
    monkeypatch.setattr(journal, "_put", whole)
    book.write("Third", named(demo, "Third"), None)
    assert book.error == ""
    book.path.rename(book.path.with_name("999999999-aa.jsonl"))
    (found,) = journal.orphans(tmp_path)
    assert found.edit == "Third"


def test_a_number_that_another_process_has_now_hides_nothing(demo, tmp_path):
    """The journal is older than the process that has its number: it is a crash's."""
    child = subprocess.Popen([sys.executable, "-c", "import time; time.sleep(60)"])
    try:
        book = journal.Journal(tmp_path)
        book.write("Raise crest", named(demo, "Mine"), None)
        path = book.path.with_name(f"{child.pid}-aa.jsonl")
        book.path.rename(path)
        assert journal.orphans(tmp_path) == []  # it could be that process's own
        os.utime(path, (0, 1_000_000_000))
        assert [r.system.name for r in journal.orphans(tmp_path)] == ["Mine"]
    finally:
        child.terminate()
        child.wait()


def test_a_history_holds_only_what_each_edit_changed():
    """Of a rack's manifold the one branch that was turned; two thousand edits stay under 40 MB."""
    import gc
    import tracemalloc

    from fuente.demo.back_room import back_room

    system = back_room()
    at = next(d for d in system.devices if d.kind == "manifold")

    def turn(system, k):
        where = ("devices", at.id, "rows", k % len(at.rows), "branches", k % 6, "angle")
        return apply(system, set_value("Turn valve", where, float(k % 61)))

    after = turn(system, 1)
    rows = after.by_id[at.id].rows
    assert rows[1].branches[1].angle == 1.0
    same = [
        a is b for row, was in zip(rows, at.rows, strict=True) for a, b in zip(row.branches, was.branches, strict=True)
    ]
    assert same.count(False) == 1
    assert after.schools is system.schools
    assert after.shop is system.shop
    history = History(system)
    gc.collect()
    tracemalloc.start()
    before = tracemalloc.get_traced_memory()[0]
    for k in range(2, 202):
        history.do(f"Turn {k}", turn(history.system, k))
    gc.collect()
    each = (tracemalloc.get_traced_memory()[0] - before) / 200
    tracemalloc.stop()
    assert 2000 * each < 40e6


def test_sharing_never_changes_what_an_edit_says():
    """Whole numbers, signs and kinds of value stay those of the new design."""
    from fuente.document.system import shared

    assert shared(-0.0, 0.0) == 0.0
    assert type(shared(1, 1.0)) is int
    assert shared((1, 2, 3), (1, 2)) == (1, 2, 3)
    assert shared((1,), (1, 2)) == (1,)
    old = (1.5, ("a", "b"))
    assert shared((1.5, ("a", "b")), old) is old
