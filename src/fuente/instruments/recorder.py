"""Values as they come, at the rate that is kept: the mean of each span, whatever the clock of the wall does."""

from __future__ import annotations

from dataclasses import dataclass, field

from fuente.instruments.protocol import Frame, Hello, Reading, Sensor


@dataclass
class Recorder:
    """The latest value of each sensor, and means over ``span`` s of a clock that never goes back. It holds two numbers
    a sensor, however much comes.
    """

    span: float = 60.0
    sensors: dict[str, Sensor] = field(default_factory=dict)
    latest: dict[str, float] = field(default_factory=dict)
    _sums: dict[str, tuple[float, int]] = field(default_factory=dict)
    _begun: float | None = None

    def take(self, frame: Frame) -> None:
        """One frame."""
        if isinstance(frame, Hello):
            self.sensors = {s.id: s for s in frame.sensors}
            gone = self.latest.keys() - self.sensors.keys()
            for key in gone:
                self.latest.pop(key, None)
                self._sums.pop(key, None)
        elif isinstance(frame, Reading) and frame.id in self.sensors:
            self.latest[frame.id] = frame.value
            total, count = self._sums.get(frame.id, (0.0, 0))
            self._sums[frame.id] = total + frame.value, count + 1

    def due(self, clock: float, wall: float) -> list[tuple[str, float, float]]:
        """Rows to keep (sensor, moment, mean) once a span is over by the ``clock`` in s; ``wall`` is the moment."""
        if self._begun is None:
            self._begun = clock
        if clock - self._begun < self.span:
            return []
        self._begun = clock
        rows = [(key, wall, total / count) for key, (total, count) in self._sums.items() if count]
        self._sums = {}
        return rows
