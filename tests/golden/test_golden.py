"""A rebuild leaves what Fuente says as it was: levels, flows, findings, cards, parts and drawings, to 1e-9."""

from __future__ import annotations

import gzip
import json
import math
from typing import Any

import pytest

from golden.recorder import cases, known, path_of, record, timed

CLOSE = 1e-9


def differences(old: Any, new: Any, where: str = "") -> list[str]:
    """Where two recordings part: numbers by more than CLOSE, absolutely or by their size."""
    if isinstance(old, bool) or isinstance(new, bool) or old is None or new is None:
        return [] if old == new else [f"{where}: {old!r} → {new!r}"]
    if isinstance(old, int | float) and isinstance(new, int | float):
        same = math.isclose(old, new, rel_tol=CLOSE, abs_tol=CLOSE) or old == new
        return [] if same else [f"{where}: {old!r} → {new!r}"]
    if type(old) is not type(new):
        return [f"{where}: {old!r} → {new!r}"]
    if isinstance(old, dict):
        found = [f"{where}/{k}: gone" for k in old.keys() - new.keys()]
        found += [f"{where}/{k}: new" for k in new.keys() - old.keys()]
        for key in old.keys() & new.keys():
            found += differences(old[key], new[key], f"{where}/{key}")
        return found
    if isinstance(old, list):
        if len(old) != len(new):
            gone = [x for x in old if x not in new][:2]
            more = [x for x in new if x not in old][:2]
            return [f"{where}: {len(old)} → {len(new)} items; gone {gone!r:.400}; new {more!r:.400}"]
        return [d for i, (a, b) in enumerate(zip(old, new, strict=True)) for d in differences(a, b, f"{where}/{i}")]
    return [] if old == new else [f"{where}: {old!r:.300} → {new!r:.300}"]


@pytest.mark.slow
@pytest.mark.parametrize("name", cases())
def test_nothing_is_lost(name):
    old = json.loads(gzip.decompress(path_of(name).read_bytes()))
    found = differences(old, record(cases()[name](), known(name), timed(name)))
    assert not found, "\n".join(found[:25])


def test_a_difference_is_seen():
    """The comparison itself can fail, in a number, a word, a key and a length."""
    old = {"a": [1.0, "x"], "b": None}
    assert differences(old, {"a": [1.0 + 1e-12, "x"], "b": None}) == []
    for other in (
        {"a": [1.0 + 1e-6, "x"], "b": None},
        {"a": [1.0, "y"], "b": None},
        {"a": [1.0], "b": None},
        {"a": [1.0, "x"]},
    ):
        assert differences(old, other)
