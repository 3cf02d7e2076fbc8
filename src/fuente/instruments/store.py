"""What instruments said, thinned as it ages: every value kept at the chosen rate for two days, then ten minutes' means
for two months, then hours'. In a SQLite file of its own beside the design; what it says of a day goes into the log.
"""

from __future__ import annotations

import contextlib
import datetime
import sqlite3
from collections.abc import Iterable
from pathlib import Path

from fuente.errors import DocumentError
from fuente.instruments.protocol import Sensor
from fuente.upkeep.entry import Entry

SUFFIX = "-instruments"
RAW, MIDDLE = 2 * 86400.0, 60 * 86400.0  # s of age from which values are thinned
_TEN, _HOUR = 600.0, 3600.0
_LOGGED = {"temperature": "temperature", "flow": "flow", "ph": "ph", "oxygen": "oxygen", "power": "power"}


class Store:
    """Values by sensor and moment (s since 1970)."""

    def __init__(self, path: Path):
        """Open or make it. Raises DocumentError."""
        self.path = path
        try:
            self._db = sqlite3.connect(path, timeout=5.0, isolation_level=None)
            self._db.execute("PRAGMA journal_mode = WAL")
            self._db.execute("PRAGMA synchronous = NORMAL")
            self._db.execute(
                "CREATE TABLE IF NOT EXISTS said (sensor TEXT, moment REAL, value REAL, span REAL, PRIMARY KEY"
                " (sensor, moment)) WITHOUT ROWID"
            )
        except sqlite3.Error as error:
            raise DocumentError(f"“{path.name}” cannot be written: {error}.") from None

    def add(self, rows: Iterable[tuple[str, float, float]], span: float) -> None:
        """Keep rows of sensor, moment and value, each standing for so many s. Raises DocumentError."""
        try:
            self._db.execute("BEGIN IMMEDIATE")
            self._db.executemany(
                "INSERT OR REPLACE INTO said VALUES (?, ?, ?, ?)", [(s, t, v, span) for s, t, v in rows]
            )
            self._db.execute("COMMIT")
        except sqlite3.Error as error:
            with contextlib.suppress(sqlite3.Error):
                self._db.execute("ROLLBACK")
            raise DocumentError(f"“{self.path.name}” cannot be written: {error}.") from None

    def of(self, sensor: str) -> list[tuple[float, float]]:
        """All of a sensor, by moment."""
        rows = self._db.execute("SELECT moment, value FROM said WHERE sensor = ? ORDER BY moment", (sensor,))
        return [(float(t), float(v)) for t, v in rows]

    def count(self) -> int:
        """Rows."""
        return int(self._db.execute("SELECT count(*) FROM said").fetchone()[0])

    def thin(self, now: float) -> int:
        """Means for what is old; how many rows went. What lies ahead of now, by a clock that jumped, stays."""
        before = self.count()
        try:
            for age, width in ((RAW, _TEN), (MIDDLE, _HOUR)):
                self._db.execute("BEGIN IMMEDIATE")
                rows = self._db.execute(
                    "SELECT sensor, CAST(moment / ? AS INTEGER) AS slot, avg(value), count(*) FROM said"
                    " WHERE moment < ? AND span < ? GROUP BY sensor, slot",
                    (width, now - age, width),
                ).fetchall()
                self._db.execute("DELETE FROM said WHERE moment < ? AND span < ?", (now - age, width))
                self._db.executemany(
                    "INSERT OR REPLACE INTO said VALUES (?, ?, ?, ?)",
                    [(s, (slot + 0.5) * width, value, width) for s, slot, value, _ in rows],
                )
                self._db.execute("COMMIT")
        except sqlite3.Error as error:
            with contextlib.suppress(sqlite3.Error):
                self._db.execute("ROLLBACK")
            raise DocumentError(f"“{self.path.name}” cannot be written: {error}.") from None
        return before - self.count()

    def day(self, sensors: Iterable[Sensor], day: datetime.date, zone: datetime.tzinfo) -> list[Entry]:
        """The middle of each sensor's day as an entry for the log, at noon; none of a day with few values."""
        begins = datetime.datetime(day.year, day.month, day.day, tzinfo=zone)
        found = []
        for sensor in sensors:
            what = _LOGGED.get(sensor.kind)
            if what is None:
                continue
            rows = self._db.execute(
                "SELECT value FROM said WHERE sensor = ? AND moment >= ? AND moment < ? ORDER BY value",
                (sensor.id, begins.timestamp(), begins.timestamp() + 86400.0),
            ).fetchall()
            if len(rows) >= 10:
                middle = float(rows[len(rows) // 2][0])
                noon = begins + datetime.timedelta(hours=12)
                found.append(Entry(noon, what, sensor.place, middle, "", "instrument"))
        return found

    def close(self) -> None:
        """Let it go."""
        self._db.close()


def store_path(design: Path) -> Path:
    """Where a design's instruments are recorded."""
    return design.with_name(design.name + SUFFIX)
