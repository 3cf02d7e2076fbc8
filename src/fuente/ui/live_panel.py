"""Live values of a controller on this machine: its port, its state, and what every sensor says."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QPushButton, QSpinBox, QVBoxLayout, QWidget

from fuente.instruments.protocol import PORT
from fuente.ui.instruments_link import InstrumentsLink, words_of
from fuente.ui.side_panel import section, small
from fuente.ui.told_panel import plain
from fuente.ui.workspace import Workspace


class LivePanel(QWidget):
    """Under what the log says."""

    def __init__(self, workspace: Workspace, link: InstrumentsLink, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace, self.link = workspace, link
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(section("Instruments"))
        row = QHBoxLayout()
        self.port = QSpinBox()
        self.port.setRange(1, 65535)
        self.port.setValue(PORT)
        self.port.setAccessibleName("Port on this machine")
        self.port.setPrefix("port ")
        row.addWidget(self.port)
        self.button = QPushButton("Connect")
        self.button.setToolTip("Listens to a controller on this machine; it switches nothing.")
        self.button.clicked.connect(self.press)
        row.addWidget(self.button)
        row.addStretch(1)
        column.addLayout(row)
        self.state = small("")
        column.addWidget(self.state)
        self.grid = QGridLayout()
        self.grid.setColumnStretch(0, 1)
        column.addLayout(self.grid)
        self._values: dict[str, tuple[QWidget, QWidget]] = {}
        link.changed.connect(self.refresh)
        self.refresh()

    def press(self) -> None:
        """Connect, or no more."""
        if self.link.wanted:
            self.link.disconnect_from()
        else:
            self.link.connect_to(self.port.value(), self.workspace.path)

    def refresh(self) -> None:
        """Follow the link."""
        self.button.setText("Disconnect" if self.link.wanted else "Connect")
        self.port.setEnabled(not self.link.wanted)
        dropped = f" {self.link.reader.dropped} lines were no frames." if self.link.reader.dropped else ""
        silent = " Silent." if self.link.connected and not self.link.live else ""
        self.state.setText(self.link.said + silent + dropped)
        rows = self.link.sensors()
        if [s.id for s, _ in rows] != list(self._values):
            for pair in self._values.values():
                for widget in pair:
                    widget.deleteLater()
            self._values = {}
            for n, (sensor, _) in enumerate(rows[:40]):
                name, value = plain(sensor.name or sensor.id), plain("")
                name.setWordWrap(True)
                value.setObjectName("value")
                value.setAlignment(Qt.AlignmentFlag.AlignRight)
                self.grid.addWidget(name, n, 0)
                self.grid.addWidget(value, n, 1)
                self._values[sensor.id] = name, value
        units, live = self.workspace.units, self.link.live
        for sensor, number in rows:
            if sensor.id in self._values:
                words = "…" if number is None or not live else words_of(sensor, number, units)
                self._values[sensor.id][1].setText(words)  # type: ignore[attr-defined]
