"""A short run of the campaign against damaged files, kills and command lines, and that it would see a fault."""

from __future__ import annotations

import importlib.util
import json
import random
import sys
from pathlib import Path

import pytest

from fuente.document import files


@pytest.fixture(scope="module")
def campaign():
    path = Path(__file__).parents[1] / "scripts" / "campaign.py"
    spec = importlib.util.spec_from_file_location("campaign", path)
    made = importlib.util.module_from_spec(spec)
    sys.modules["campaign"] = made
    spec.loader.exec_module(made)
    yield made
    del sys.modules["campaign"]


@pytest.fixture(autouse=True)
def state(tmp_path, monkeypatch):
    monkeypatch.setenv("FUENTE_STATE", str(tmp_path))


def test_damaged_files_are_refused_in_a_sentence(campaign):
    bad = []
    table = campaign.try_files(400, random.Random(3), bad)
    assert bad == []
    assert table["files"] == 400
    assert 0 < table["opened all the same"] < 200


@pytest.mark.slow
def test_what_was_acknowledged_survives_a_kill(campaign):
    bad = []
    table = campaign.try_kills(6, random.Random(3), bad)
    assert bad == []
    assert table["acknowledged and lost"] == 0


@pytest.mark.slow
def test_command_lines_never_end_in_a_traceback(campaign):
    bad = []
    table = campaign.try_lines(60, random.Random(3), bad)
    assert bad == []
    assert table["exit 2"] > 10


def test_it_would_see_a_loader_that_breaks(campaign, monkeypatch):
    monkeypatch.setattr(files, "parse_all", lambda raw, name="": json.loads(raw))
    bad = []
    campaign.try_files(40, random.Random(3), bad)
    assert bad
