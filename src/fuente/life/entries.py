"""Where the slopes of living water may differ from nothing: what a reactor's ``slopes`` fill in, in this order."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from fuente.life.inputs import (
    ALKALINITY,
    AMMONIA,
    NITRATE,
    NITRITE,
    OXYGEN,
    SUMS,
    TEMPERATURE,
    TRACER,
)

# Which rate goes by what, in the water alone and in the sums; and what the bacteria go by.
_PAIRS = (
    (AMMONIA, AMMONIA),
    (AMMONIA, NITRATE),
    (NITRATE, NITRATE),
    (NITRATE, AMMONIA),
    (OXYGEN, AMMONIA),
    (OXYGEN, NITRATE),
    (OXYGEN, OXYGEN),
    (OXYGEN, TEMPERATURE),
    (ALKALINITY, NITRATE),
    (TRACER, TRACER),
    (TEMPERATURE, TEMPERATURE),
)
_SUM_PAIRS = (
    ("nitrogen taken", AMMONIA),
    ("nitrogen taken", NITRATE),
    ("nitrogen gassed", NITRATE),
    ("oxygen from air", OXYGEN),
    ("oxygen from air", TEMPERATURE),
    ("oxygen from plants", AMMONIA),
    ("oxygen from plants", NITRATE),
    ("oxygen breathed", OXYGEN),
    ("alkalinity used", NITRATE),
    ("tracer taken", TRACER),
    ("heat made", TEMPERATURE),
    ("heat lost", TEMPERATURE),
)
_FOODS = (AMMONIA, NITRITE, OXYGEN, ALKALINITY, TEMPERATURE)
_LEAVING = ("nitrogen", "nitrogen", "nitrogen", "oxygen", "alkalinity", "salt", "tracer", "heat")


@lru_cache(maxsize=32)  # each of a dozen reactors of one water has the same
def entries_of(
    n: int, cells: bytes, flows: tuple[bytes, bytes], falls: tuple[bytes, bytes]
) -> tuple[np.ndarray, np.ndarray]:
    """Rows and columns, for n volumes and places of living surface in ``cells``; ``flows`` and ``falls`` are to which
    volume and from which water runs and falls. All of them bytes of 64-bit positions.
    """
    c, to, at, fall_to, fall_at = (np.frombuffer(each, dtype=np.int64) for each in (cells, *flows, *falls))
    p = len(c)
    every, place = np.arange(n), np.arange(p)
    rows, columns = [], []

    def add(row: np.ndarray, column: np.ndarray) -> None:
        rows.append(row)
        columns.append(column)

    for k in range(8):
        add(k * n + to, k * n + at)
    for into, by in _PAIRS:
        add(into * n + every, by * n + every)
    add(OXYGEN * n + fall_to, OXYGEN * n + fall_at)
    add(OXYGEN * n + fall_to, TEMPERATURE * n + fall_at)
    grown = 8 * n + place, 8 * n + p + place
    for made in (AMMONIA, NITRITE, NITRATE, OXYGEN, ALKALINITY):
        for what in _FOODS:
            add(made * n + c, what * n + c)
        for group in grown:
            add(made * n + c, group)
    for group in grown:
        for what in _FOODS:
            add(group, what * n + c)
        add(group, group)
    first = 8 * n + 2 * p
    for k, name in enumerate(_LEAVING):
        add(np.full(n, first + SUMS.index(f"{name} out")), k * n + every)
    for name, what in _SUM_PAIRS:
        add(np.full(n, first + SUMS.index(name)), what * n + every)
    for name, groups in (("oxygen nitrified", grown), ("alkalinity used", grown[:1])):
        sums = np.full(p, first + SUMS.index(name))
        for what in _FOODS:
            add(sums, what * n + c)
        for group in groups:
            add(sums, group)
    found = np.concatenate(rows), np.concatenate(columns)
    for each in found:
        each.flags.writeable = False
    return found
