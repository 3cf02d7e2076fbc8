"""The link to a controller on this machine: it listens, records what comes, and survives whatever is sent."""

from __future__ import annotations

import contextlib
import datetime
import time
from pathlib import Path

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtNetwork import QAbstractSocket, QTcpSocket

from fuente.errors import FuenteError
from fuente.instruments.protocol import HOST, LONGEST, PORT, Hello, Reader, Sensor
from fuente.instruments.recorder import Recorder
from fuente.instruments.store import Store, store_path
from fuente.units import UnitSystem, shown

AGAIN = 4000  # ms until a lost link is tried again
TICK = 500  # ms between two looks at what was said
SILENT = 15.0  # s without a value after which what is shown is old
BUFFER = 16 * LONGEST  # bytes that wait at most: a flood waits at its own end
MOST = 64 * 1024  # bytes that are read at once, so that a flood leaves the window its time
THIN = 3600.0  # s between two thinnings


class InstrumentsLink(QObject):
    """One controller. ``changed`` when values or the state of the link are others."""

    changed = Signal()

    def __init__(self, parent: QObject | None = None):
        super().__init__(parent)
        self.port = PORT
        self.wanted = False
        self.said = "Not connected."
        self.reader, self.recorder = Reader(), Recorder()
        self.store: Store | None = None
        self._heard = 0.0
        self._thinned = 0.0
        self._day: datetime.date | None = None
        self.socket = QTcpSocket(self)
        self.socket.setReadBufferSize(BUFFER)
        self.socket.readyRead.connect(self._read)
        self.socket.connected.connect(self._connected)
        self.socket.disconnected.connect(self._lost)
        self.socket.errorOccurred.connect(self._failed)
        self.again = QTimer(self, singleShot=True, interval=AGAIN)
        self.again.timeout.connect(self._try)
        self.tick = QTimer(self, interval=TICK)
        self.tick.timeout.connect(self._tick)

    # -- the link -------------------------------------------------------------------------------------------------

    def connect_to(self, port: int, design: Path | None = None) -> None:
        """Listen to a port of this machine; ``design`` is beside which it is recorded, or nothing."""
        self.disconnect_from()
        self.port, self.wanted = port, True
        if design is not None:
            try:
                self.store = Store(store_path(design))
            except FuenteError as error:
                self.said = str(error)
        self._try()
        self.tick.start()

    def disconnect_from(self) -> None:
        """No more."""
        self.wanted = False
        self.again.stop()
        self.tick.stop()
        self.socket.abort()
        self.reader, self.recorder = Reader(), Recorder(self.recorder.span)
        if self.store is not None:
            self.store.close()
            self.store = None
        self.said = "Not connected."
        self.changed.emit()

    @property
    def connected(self) -> bool:
        """Whether somebody is at the other end."""
        return self.socket.state() == QAbstractSocket.SocketState.ConnectedState

    @property
    def live(self) -> bool:
        """Whether what is shown was said just now."""
        return self.connected and time.monotonic() - self._heard < SILENT

    def _try(self) -> None:
        if self.wanted and self.socket.state() == QAbstractSocket.SocketState.UnconnectedState:
            self.said = f"Looking for a controller on port {self.port} …"
            self.socket.connectToHost(HOST, self.port)
            self.changed.emit()

    def _connected(self) -> None:
        self.reader = Reader()
        self.said = f"Connected on port {self.port}."
        self.changed.emit()

    def _lost(self) -> None:
        self.said = f"The controller on port {self.port} is gone; it is looked for again."
        if self.wanted:
            self.again.start()
        self.changed.emit()

    def _failed(self, _: object) -> None:
        if self.wanted and not self.connected:
            self.said = f"No controller answers on port {self.port}; it is looked for again."
            self.again.start()
            self.changed.emit()

    def _read(self) -> None:
        """Some of what came; the rest at the next turn."""
        for frame in self.reader.feed(bytes(self.socket.read(MOST).data())):
            self.recorder.take(frame)
            self._heard = time.monotonic()
            if isinstance(frame, Hello):
                self.said = f"{frame.name}, on port {self.port}"
        if self.socket.bytesAvailable() > 0:
            QTimer.singleShot(0, self, self._read)

    # -- what is done with it -------------------------------------------------------------------------------------

    def _tick(self) -> None:
        rows = self.recorder.due(time.monotonic(), time.time())
        if self.store is not None and rows:
            with contextlib.suppress(FuenteError):
                self.store.add(rows, self.recorder.span)
            if time.monotonic() - self._thinned > THIN:
                self._thinned = time.monotonic()
                with contextlib.suppress(FuenteError):
                    self.store.thin(time.time())
        self.changed.emit()

    def sensors(self) -> list[tuple[Sensor, float | None]]:
        """Each sensor with its latest value, SI; None where it said nothing yet."""
        return [(s, self.recorder.latest.get(s.id)) for s in self.recorder.sensors.values()]

    def finished_day(self, zone: datetime.tzinfo) -> list[object]:
        """Entries for the log of the day before, once a day."""
        today = datetime.datetime.now(zone).date()
        if self._day is None:
            self._day = today
        if self.store is None or today <= self._day:
            return []
        day, self._day = self._day, today
        return list(self.store.day(self.recorder.sensors.values(), day, zone))

    def waters(self, units: UnitSystem) -> dict[str, str]:
        """By cell what is said of its water, as it is written on the section; nothing while it is silent."""
        if not self.live:
            return {}
        found: dict[str, list[str]] = {}
        for sensor, value in self.sensors():
            if value is not None and sensor.kind in ("level", "temperature", "ph") and sensor.place:
                found.setdefault(sensor.place, []).append(words_of(sensor, value, units))
        return {key: " · ".join(words) for key, words in found.items()}


def words_of(sensor: Sensor, value: float, units: UnitSystem) -> str:
    """A value as it is read."""
    if sensor.kind == "ph":
        return f"pH {value:.2f}"
    quantity = {"level": "level", "temperature": "temperature", "flow": "flow", "power": "power"}.get(sensor.kind)
    if quantity is None:
        return f"{value * 1e3:.1f} mg/L"
    return shown(value, quantity, units)
