"""The command line as scripts use it: a fresh process where it matters, the entry point elsewhere."""

import json
import re
import subprocess
import sys

import pytest

from fuente.cli import main
from fuente.document.files import save
from fuente.document.system import apply, set_value


@pytest.fixture
def file(demo, tmp_path):
    path = tmp_path / "demo.fuente"
    save(demo, path)
    return str(path)


def run(capsys, *arguments):
    code = main(list(arguments))
    out = capsys.readouterr()
    return code, out.out, out.err


def test_answer_as_json_in_a_real_process():
    done = subprocess.run(
        [sys.executable, "-m", "fuente", "answer", "weir", "flow=900 gph", "length=16 in", "--json"],
        capture_output=True,
        text=True,
        timeout=60,
    )
    assert done.returncode == 0
    assert 0.010 < json.loads(done.stdout)["head"] < 0.0125
    assert done.stderr == ""


def test_list_says_what_goes_in_and_comes_out(capsys):
    code, out, _ = run(capsys, "answer", "--list", "--json")
    entries = {e["name"]: e for e in json.loads(out)}
    assert code == 0
    assert [i["name"] for i in entries["pipe-loss"]["inputs"]] == [
        "flow",
        "bore",
        "length",
        "k",
        "temperature",
        "salinity",
    ]
    assert entries["pipe-loss"]["outputs"][0] == {"name": "head_loss", "unit": "m", "label": "head lost"}


def test_solve_gives_levels_volumes_and_flows(capsys, file):
    code, out, _ = run(capsys, "solve", file, "--json")
    got = json.loads(out)
    assert code == 0
    cells = {c["id"]: c for c in got["cells"]}
    assert cells["sump.pump"]["depth"] == pytest.approx(0.215)
    assert sum(c["volume"] for c in got["cells"]) + got["pipes"] == pytest.approx(got["total"])
    assert sum(k["holds"] for k in got["links"]) == pytest.approx(got["pipes"])
    assert 0.5e-3 < next(k["holds"] for k in got["links"] if k["id"] == "overflow.drain.0") < 0.7e-3
    flows = {k["id"]: k["flow"] for k in got["links"]}
    assert flows["return.pump"] == pytest.approx(flows["overflow.weir"])
    code, out, _ = run(capsys, "solve", file, "--situation", "power-cut", "--json")
    assert json.loads(out)["total"] == pytest.approx(got["total"], rel=1e-9)


def test_solve_in_words(capsys, file):
    code, out, _ = run(capsys, "solve", file, "--situation", "valve-leaks")
    assert code == 0
    assert re.search(r"^Valve leaks: [\d.]+ mm left$", out, re.M)
    assert "Moving bed" in out


def test_check_exits_1_on_a_stop(capsys, file, demo, tmp_path):
    code, out, _ = run(capsys, "check", file)
    assert code == 0
    assert "Second outlet has no air hole" in out
    worse = apply(demo, set_value("x", ("devices", "return", "outlets", 1, "height"), 0.2))
    path = tmp_path / "worse.fuente"
    save(worse, path)
    code, out, _ = run(capsys, "check", str(path), "--json")
    assert code == 1
    assert json.loads(out)[0]["rank"] == "stop"


def test_export_writes_every_file(capsys, file, tmp_path):
    folder = tmp_path / "bench"
    code, out, _ = run(capsys, "export", file, "--to", str(folder))
    assert code == 0
    names = sorted(p.name for p in folder.iterdir())
    assert names == [
        "reading-room-tank-lists.xlsx",
        "reading-room-tank-panels.dxf",
        "reading-room-tank-parts.csv",
        "reading-room-tank-plan.dxf",
        "reading-room-tank-plan.pdf",
        "reading-room-tank-plan.svg",
        "reading-room-tank-section.dxf",
        "reading-room-tank-section.svg",
    ]
    assert len(out.splitlines()) == 8


def test_build_writes_the_book_templates_and_every_sheet(capsys, file, tmp_path):
    folder = tmp_path / "build"
    code, out, _ = run(capsys, "build", file, "--to", str(folder))
    assert code == 0
    names = {p.name for p in folder.iterdir()}
    assert {p.rsplit("/", 1)[-1] for p in out.splitlines()} == names
    for wanted in ("book.pdf", "templates.pdf", "lists.xlsx", "sheet-glass-8-1.dxf", "panel-sump-long.svg"):
        assert f"reading-room-tank-{wanted}" in names


def test_steps_say_what_is_done_and_what_waits(capsys, file):
    import datetime

    from fuente.document import files
    from fuente.document.record import EMPTY, Built

    system, _ = files.load_all(file)
    when = datetime.datetime.now(datetime.UTC).isoformat(timespec="seconds")
    record = EMPTY.added(Built(when=when, step="sump:fillet", done=True, wait=3600.0))
    with open(file, "w", encoding="utf-8") as out_file:
        out_file.write(files.text_of(system, record))
    code, out, _ = run(capsys, "steps", file, "--json")
    assert code == 0
    rows = {r["id"]: r for r in json.loads(out)["steps"]}
    assert rows["sump:fillet"]["stand"] == "curing"
    assert rows["sump:mark"]["stand"] == "held"
    assert rows["sump:mark"]["after"] == ["sump:fillet"]
    assert rows["sump:fillet"]["wait"] == pytest.approx(207360.0)
    assert rows["sump:clean"]["minutes"] > 0
    code, out, _ = run(capsys, "steps", file)
    assert code == 0
    assert "curing  Sump: Draw the inner fillet" in out


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["answer", "nonsense"], "no quick answer"),
        (["answer", "weir", "flow"], "not key=value"),
        (["solve", "missing.fuente"], "There is no file"),
        (["solve"], "Missing argument"),
        (["check", "/dev/null"], "not an ordinary file"),
        (["frobnicate"], "no command or file"),
        (["valve"], "trials, valves, wet-test"),
        (["demo", "attic"], "no demo"),
        (["answer", "weir", "--colour"], "No such option"),
    ],
)
def test_bad_input_is_one_line_and_2(capsys, arguments, words):
    code, out, err = run(capsys, *arguments)
    assert code == 2
    assert words in err
    assert len(err.strip().splitlines()) == 1
    assert out == ""


def test_unknown_situation_and_chamber(capsys, file):
    assert run(capsys, "solve", file, "--situation", "eclipse")[0] == 2
    code, _, err = run(capsys, "solve", file, "--situation", "cleaning", "--chamber", "attic")
    assert code == 2
    assert "socks, foam, bed, trap, pump" in err


def test_damaged_file_is_a_sentence(capsys, tmp_path):
    path = tmp_path / "bad.fuente"
    path.write_text('{"format": "fuente", ')
    code, _, err = run(capsys, "solve", str(path))
    assert code == 2
    assert "damaged at line 1" in err


def test_wet_test_follows_the_water(capsys, file):
    code, out, _ = run(
        capsys,
        "wet-test",
        file,
        "--fault",
        "power-cut@30",
        "--fault",
        "check-valve-leak@30=1.0",
        "--until",
        "900",
        "--json",
    )
    got = json.loads(out)
    assert code == 0
    assert got["conservation"] < 1e-9 * got["total"]
    assert len(got["time"]) == len(got["levels"]["tank"]) == len(got["flows"]["return.pump"])
    assert got["time"][0] == 0
    assert got["time"][-1] == pytest.approx(900)
    assert got["peaks"]["sump.pump"]["level"] == pytest.approx(max(got["levels"]["sump.pump"]))
    assert got["spilled"] == 0


def test_wet_test_in_words_and_its_kinds(capsys, file):
    code, out, _ = run(capsys, "wet-test", file, "--fault", "hose-off@10", "--until", "10 min")
    assert code == 0
    assert "on the floor" in out
    code, out, _ = run(capsys, "wet-test", file, "--kinds")
    assert "check-valve-leak" in out
    assert run(capsys, "wet-test", file, "--fault", "meteor@3")[0] == 2
    assert run(capsys, "wet-test", file, "--until", "tomorrow")[0] == 2


def test_trials_exit_1_when_one_fails(capsys, file):
    code, out, _ = run(capsys, "trials", file)
    assert code == 1
    assert "FAIL  Cut the power, valve held open" in out
    assert "pass  Cut the power, valve tight" in out
