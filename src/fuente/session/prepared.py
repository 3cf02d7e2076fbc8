"""What a page needs of a design before it can be painted: of a very large one it is worked out aside first."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from contextlib import suppress

from fuente.errors import FuenteError
from fuente.study.analysis import Analysis
from fuente.study.carries import carries
from fuente.study.loads import loads
from fuente.workshop.room import room_of

Prepare = Callable[[Analysis], object]


def _build(analysis: Analysis) -> None:
    room = room_of(analysis)
    for lot in (*room.lots, *(p.lot for p in room.pads)):
        room.laid(lot)
    _ = room.steps, room.runs, room.lengths, room.owners


def _media(analysis: Analysis) -> None:
    loads(analysis)
    carries(analysis)
    _ = room_of(analysis).bill


PREPARE: Mapping[str, Prepare] = {"build": _build, "media": _media}  # by the key of the page


def prepare(key: str, analysis: Analysis) -> None:
    """Work out what a page needs, once; what cannot be the page itself says."""
    if not prepared(key, analysis):
        with suppress(FuenteError):
            PREPARE[key](analysis)
        analysis.kept(f"page {key}", lambda: True)


def prepared(key: str, analysis: Analysis) -> bool:
    """Whether it is there, or the page needs nothing."""
    return key not in PREPARE or f"page {key}" in analysis.answers.more
