"""Keep listens to the simulated controller: values live, its loss, garbage and floods."""

from __future__ import annotations

import contextlib
import socket
import threading

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel

from fuente.demo.reading_room import reading_room
from fuente.instruments.protocol import Hello, Reading, Sensor, encode
from fuente.instruments.server import Server
from fuente.instruments.simulated import Simulated
from fuente.study.known import analysed
from fuente.ui.instruments_link import BUFFER


@pytest.fixture
def server():
    made = Server(Simulated(analysed(reading_room())), rate=20.0)
    with made:
        yield made


def press(page, port):
    page.live.port.setValue(port)
    QTest.mouseClick(page.live.button, Qt.MouseButton.LeftButton)


def test_values_stand_in_the_list_and_in_the_water(keep, server, window, qtbot, tmp_path):
    link = keep.workspace.link
    link.recorder.span = 0.5
    press(keep, server.port)
    qtbot.waitUntil(lambda: link.live and len(link.recorder.latest) == len(server.simulated.sensors), timeout=8000)
    qtbot.waitUntil(lambda: any("L/h" in label.text() for label in keep.live.findChildren(QLabel)), timeout=4000)
    assert "simulated" in keep.live.state.text()
    window.show_stage("water")
    view = window.page("water").view
    qtbot.waitUntil(lambda: "tank" in view.live, timeout=4000)
    assert "mm" in view.live["tank"]
    assert "°C" in view.live["tank"]
    assert not view.grab().isNull()
    qtbot.waitUntil(lambda: link.store is not None and link.store.count() > 3, timeout=6000)
    assert (tmp_path / "room.fuente-instruments").exists()


def test_its_loss_is_said_and_it_is_found_again(keep, qtbot):
    first = Server(Simulated(analysed(reading_room())), rate=20.0).start()
    port = first.port
    press(keep, port)
    link = keep.workspace.link
    qtbot.waitUntil(lambda: link.live, timeout=8000)
    first.close()
    qtbot.waitUntil(lambda: not link.connected, timeout=8000)
    assert "is gone" in link.said or "No controller" in link.said
    link.again.setInterval(100)
    with Server(Simulated(analysed(reading_room())), port, rate=20.0):
        link.again.start()
        qtbot.waitUntil(lambda: link.live, timeout=10000)
    press(keep, port)
    assert "Not connected" in keep.live.state.text()


def test_nobody_there_is_said(keep, qtbot):
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    press(keep, port)
    qtbot.waitUntil(lambda: "No controller answers" in keep.workspace.link.said, timeout=8000)


def test_garbage_and_a_flood_leave_the_window_its_time(keep, qtbot):
    """A liar that sends without an end: values still come through, and no more than its buffer waits here."""
    listener = socket.create_server(("127.0.0.1", 0))
    over = threading.Event()
    hello = encode(Hello("liar", (Sensor("t", "temperature", "tank", "<b>Tank</b>"),)))
    flood = (b"\xff" * 700 + b"\n" + encode(Reading("t", 17.5)) + b'{"id": "t", "value": "x"}\n') * 200

    def lie():
        with contextlib.suppress(OSError):
            link, _ = listener.accept()
            link.sendall(hello)
            while not over.is_set():
                link.sendall(flood)
            link.close()

    thread = threading.Thread(target=lie, daemon=True)
    thread.start()
    press(keep, listener.getsockname()[1])
    link = keep.workspace.link
    qtbot.waitUntil(lambda: link.recorder.latest.get("t") == 17.5 and link.reader.dropped > 500, timeout=8000)
    assert link.socket.bytesAvailable() <= BUFFER
    typed = keep.line.edit
    QTest.keyClicks(typed, "no3 20")
    assert typed.text() == "no3 20"
    qtbot.waitUntil(lambda: "were no frames" in keep.live.state.text(), timeout=4000)
    for label in keep.live.findChildren(QLabel):
        if "<b>" in label.text():
            assert label.textFormat() == Qt.TextFormat.PlainText
    over.set()
    link.disconnect_from()
    listener.close()
