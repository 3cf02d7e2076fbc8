"""Answers that are there already: a design that was solved is not solved again.

The answer depends on the document alone, so it is kept by the document: to undo is then instant, and so is a remedy
that was tried before its button was pressed. Only what was asked last is kept.
"""

from __future__ import annotations

from threading import Lock

from fuente.document.system import System
from fuente.study.analysis import Analysis, Answers

MOST = 2000  # cells of all designs that are kept: some 25 MB

# A plain dict, which remembers hashes: to look over an OrderedDict hashes every design that it holds again.
_kept: dict[System, tuple[Answers, int]] = {}
_lock = Lock()


def analysed(system: System, before: Analysis | None = None) -> Analysis:
    """A design with what is known of it, and a place for what will be; ``before`` as for Analysis."""
    with _lock:
        found = _kept.pop(system, None)
        if found is not None:
            _kept[system] = found  # asked last
    if found is not None:
        return Analysis(system, before, found[0])
    made = Analysis(system, before)
    with _lock:
        _kept[system] = made.answers, len(made.network.cells)
        cells = sum(count for _, count in _kept.values())
        while len(_kept) > 1 and cells > MOST:
            cells -= _kept.pop(next(iter(_kept)))[1]
    return made


def forget() -> None:
    """Keep nothing: for what measures or compares."""
    with _lock:
        _kept.clear()
