"""Filters and air from the command line."""

import json

import pytest

from fuente.cli import main
from fuente.demo.nursery import nursery
from fuente.demo.trough import trough
from fuente.document.files import load, save


class Done:
    """What a command said."""

    def __init__(self, code, output):
        self.exit_code, self.output = code, output


@pytest.fixture
def run(capsys):
    def go(*args):
        code = main([str(a) for a in args])
        return Done(code, capsys.readouterr().out)

    return go


@pytest.fixture
def files(tmp_path):
    made = {}
    for name, system in (("trough", trough()), ("nursery", nursery())):
        made[name] = tmp_path / f"{name}.fuente"
        save(system, made[name])
    return made


def test_a_reserve_without_end_is_null_as_json_has_no_word_for_it(run, files):
    def refuse(word):
        raise AssertionError(word)

    for file in files.values():
        told = json.loads(run("solve", file, "--situation", "evaporated", "--json").output, parse_constant=refuse)
        assert told["numbers"]["days"] is None
        assert told["numbers"]["gone"] > 0


def test_a_blocked_pipe_is_solved_and_a_stop_is_an_exit_code(run, files):
    solved = run("solve", files["trough"], "--situation", "pipe-blocked", "--json")
    assert solved.exit_code == 0, solved.output
    told = json.loads(solved.output)
    assert told["spilled"] > 0.3
    assert {c["id"] for c in told["cells"]} >= {"trough", "sieve.chamber", "drums.drum.1", "plants.foot"}
    judged = run("check", files["trough"], "--json")
    assert judged.exit_code == 1
    assert "filter-pipe-blocked" in {f["code"] for f in json.loads(judged.output)}


def test_air_is_among_the_flows(run, files):
    told = json.loads(run("solve", files["nursery"], "--json").output)
    air = [link for link in told["links"] if link["kind"] == "air"]
    lifts = [link for link in told["links"] if link["kind"] == "lift"]
    assert len(air) == len(lifts) == 16
    assert sum(link["flow"] for link in air) < 12e-3 / 60
    assert all(link["flow"] > 0 for link in lifts)


def test_a_wet_test_stops_the_air(run, files):
    done = run("wet-test", files["nursery"], "--fault", "air-stops@30", "--until", "200", "--json")
    assert done.exit_code == 0, done.output
    assert "stand still" in json.loads(done.output)["verdict"]


def test_parts_of_a_train_are_written(run, files, tmp_path):
    done = run("export", files["trough"], "--to", tmp_path / "out")
    assert done.exit_code == 0, done.output
    text = "".join(p.read_text() for p in (tmp_path / "out").glob("*.csv"))
    for words in ("Sieve: equipment", "Two drums", "Plant bed", "Float valve", "Pond pump"):
        assert words in text


def test_every_demo_opens_from_its_file_as_it_was(files):
    assert load(files["trough"]) == trough()
    assert load(files["nursery"]) == nursery()
