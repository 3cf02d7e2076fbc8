"""What Keep works out of the log, aside."""

from __future__ import annotations

from typing import Any

from fuente.study.analysis import Analysis
from fuente.upkeep.due import Due, due
from fuente.upkeep.entry import Entry
from fuente.upkeep.learned import Learned
from fuente.upkeep.stock import Costs, Kept, costs, shelf
from fuente.upkeep.telling import Told, chips


class Found:
    """What was worked out of the log, aside."""

    def __init__(self, learned: Learned, rows: list[Due], stock: list[Kept], money: Costs, keys: list[tuple[str, str]]):
        self.learned, self.rows, self.stock, self.money, self.keys = learned, rows, stock, money, keys
        self.told: list[Told] = []


def worked_out(study: Analysis, entries: list[Entry], at: Any, units: Any) -> Found:
    learned = Learned(study, entries, at)
    rows = due(learned, units)
    return Found(learned, rows, shelf(study, entries, at.date()), costs(study, entries, at), chips(learned))
