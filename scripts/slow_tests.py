"""Writes tests/slow.txt: the tests that ./check --fast leaves out, by what they took.

    python -m pytest -n 2 --durations=0 --durations-min=0.1 > out; python scripts/slow_tests.py out [more outs]

What the file lists already stays, so that a few new tests can be added alone; give --afresh to begin again.
"""

from __future__ import annotations

import re
import sys
from pathlib import Path

LONG = 0.15  # s, on two cores of a small virtual machine
FILE = Path(__file__).resolve().parent.parent / "tests" / "slow.txt"
_LINE = re.compile(r"\s*([\d.]+)s (?:call|setup|teardown)\s+([^\s\[]+)")


def slow(words: str) -> set[str]:
    """Names of the tests, without their parameters, of which one took too long."""
    took: dict[str, float] = {}
    for line in words.splitlines():
        if found := _LINE.match(line):
            took[found[2]] = max(took.get(found[2], 0.0), float(found[1]))
    return {name for name, seconds in took.items() if seconds >= LONG}


if __name__ == "__main__":
    outs = [a for a in sys.argv[1:] if a != "--afresh"]
    before = set() if "--afresh" in sys.argv or not FILE.exists() else set(FILE.read_text().split())
    names = before.union(*(slow(Path(out).read_text()) for out in outs))
    FILE.write_text("\n".join(sorted(names)) + "\n")
    print(f"{len(names)} tests are slow")
