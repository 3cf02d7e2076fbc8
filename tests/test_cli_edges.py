"""The command line at its edges: least and greatest values, what is asked of a design that has it not, plain data."""

import json
import subprocess
import sys

import pytest

from fuente.cli import main
from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.demo.lantern import lantern
from fuente.devices.base import Rank
from fuente.devices.tank.spec import Tank
from fuente.document.files import load, save
from fuente.document.system import System
from fuente.findings import findings
from fuente.findings.bands import bands, with_bands
from fuente.study.analysis import Analysis
from fuente.study.faults import KINDS
from fuente.units import UnitSystem


@pytest.fixture
def files(demo, tmp_path):
    made = {}
    for name, system in (("room", demo), ("falls", cascade()), ("lantern", lantern()), ("rack", back_room())):
        made[name] = str(tmp_path / f"{name}.fuente")
        save(system, tmp_path / f"{name}.fuente")
    return made


@pytest.fixture
def run(capsys):
    def go(*arguments):
        code = main(list(arguments))
        out = capsys.readouterr()
        return code, out.out, out.err

    return go


@pytest.mark.parametrize(("until", "right"), [("0.9", False), ("1", True), ("7 day", True), ("7.01 day", False)])
def test_a_wet_test_runs_from_a_second_to_a_week(run, tmp_path, until, right):
    still = tmp_path / "still.fuente"
    save(System(devices=(Tank(),)), still)  # nothing moves in it, so that a week is soon over
    code, out, err = run("wet-test", str(still), "--until", until)
    assert code == (0 if right else 2)
    assert ("from a second to a week" in err) is not right
    assert bool(out) is right


@pytest.mark.parametrize(
    ("fault", "words"),
    [
        ("power-cut", "power-cut"),
        ("flood@30", "flood"),
        ("power-cut@soon", "soon"),
        ("power-cut@-5", "power-cut"),
        ("check-valve-leak@30=2", "check-valve-leak"),
        ("check-valve-leak@30=much", "much"),
    ],
)
def test_a_fault_that_cannot_be_is_one_line(run, files, fault, words):
    code, out, err = run("wet-test", files["room"], "--fault", fault, "--until", "60")
    assert code == 2
    assert words in err
    assert err.count("\n") == 1
    assert out == ""


def test_every_kind_of_fault_is_listed_with_its_number(run):
    code, out, _ = run("wet-test", "nothing.fuente", "--kinds")
    assert code == 0
    rows = out.splitlines()
    assert [row.split()[0] for row in rows] == list(KINDS)
    for row, kind in zip(rows, KINDS.values(), strict=True):
        assert (f"usually {kind.default:g}" in row) is bool(kind.number)


def test_a_wet_test_as_data_keeps_its_water(run, files):
    code, out, _ = run("wet-test", files["room"], "--fault", "power-cut@10", "--until", "120", "--json")
    got = json.loads(out)
    assert code == 0
    assert got["time"][0] == 0
    assert got["time"][-1] == 120
    assert got["faults"] == [{"kind": "power-cut", "time": 10.0, "value": 1.0}]
    assert {len(row) for row in got["levels"].values()} == {len(got["time"])}
    assert {len(row) for row in got["flows"].values()} == {len(got["time"])}
    assert got["conservation"] < 1e-12 * got["total"]
    for cell, peak in got["peaks"].items():
        assert peak["level"] == max(got["levels"][cell])


def test_valves_are_said_written_and_refused(run, files, tmp_path):
    code, out, err = run("valves", files["room"])
    assert (code, out) == (2, "")
    assert "no manifold" in err
    code, out, _ = run("valves", files["rack"])
    assert code == 0
    assert out.count("° from open") == 24
    target = tmp_path / "set.fuente"
    code, out, _ = run("valves", files["rack"], "--turnover", "4", "--to", str(target), "--json")
    (row,) = json.loads(out)
    assert code == 0
    assert row["manifold"] == "rack-manifold"
    assert len(row["angles"]) == 24
    assert all(0 <= angle < 90 for angle in row["angles"].values())
    branches = [b for r in load(target).device("rack-manifold").rows for b in r.branches]
    assert {b.tank: b.angle for b in branches} == pytest.approx(row["angles"], abs=0.51)  # set in whole degrees
    code, _, err = run("valves", files["rack"], "--turnover", "often")
    assert code == 2
    assert "often" in err


def test_findings_as_data_are_the_findings(run, files):
    study = Analysis(load(files["falls"]))
    found = findings(study)
    found = with_bands(found, bands(study, found), study)
    code, out, _ = run("check", files["falls"], "--json")
    got = json.loads(out)
    assert [(g["code"], g["rank"], g["owner"]) for g in got] == [(f.code, f.rank.word.lower(), f.owner) for f in found]
    assert [g["text"] for g in got] == [f.filled(UnitSystem.METRIC) for f in found]
    assert [g["action"] for g in got] == [f.action or None for f in found]
    assert code == int(any(f.rank is Rank.STOP for f in found))


def test_solved_as_data_adds_up(run, files):
    code, out, _ = run("solve", files["rack"], "--situation", "power-cut", "--json")
    got = json.loads(out)
    assert code == 0
    assert got["situation"] == "power-cut"
    assert sum(c["volume"] for c in got["cells"]) + got["pipes"] + got["spilled"] == pytest.approx(
        got["total"], rel=1e-12
    )
    for cell in got["cells"]:
        assert cell["level"] - cell["floor"] == pytest.approx(cell["depth"], abs=1e-12)
        assert cell["rim"] - cell["level"] == pytest.approx(cell["freeboard"], abs=1e-12)
    assert any(node.startswith("rack-manifold") for node in got["heads"])


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (("solve", "{lantern}", "--chamber", "pump"), "no sump"),
        (("solve", "{room}", "--situation", "cleaning", "--chamber", "attic"), "attic"),
        (("solve", "{lantern}", "--situation", "drain-blocked"), "cannot be in"),
        (("demo", "basement"), "no demo"),
        (("answer", "weir", "flow"), "not key=value"),
        (("answer", "weir", "flow=-3 L/h", "length=300 mm"), ""),
        (
            (
                "export",
                "{room}",
            ),
            "--to",
        ),
        (("nonsense",), "no command or file"),
    ],
)
def test_what_cannot_be_is_one_line_and_2(run, files, arguments, words):
    code, out, err = run(*(a.format(**files) for a in arguments))
    assert code == 2
    assert out == ""
    assert words in err
    assert err.strip()
    assert "Traceback" not in err
    assert err.count("\n") == 1


def test_answers_in_us_units(run):
    code, metric, _ = run("answer", "weir", "flow=900 gph", "length=16 in")
    us_code, us, _ = run("answer", "weir", "flow=900", "length=16", "--us")
    assert (code, us_code) == (0, 0)
    assert " mm" in metric
    assert " in" in us
    assert " mm" not in us


def test_a_quick_answer_waits_for_no_solver():
    """It is there in a quarter of a second because it loads neither the devices, the solvers nor the window."""
    ask = "import sys; from fuente.cli import main; main(['answer', 'weir', 'flow=1 L/s', 'length=400 mm', '--json'])"
    heavy = ("fuente.study", "fuente.ui", "PySide6", "scipy.sparse")
    code = f"{ask}; print([m for m in sys.modules if m.startswith({heavy})])"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout.splitlines()[-1] == "[]"
