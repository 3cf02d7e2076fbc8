"""The simulated controller and its link: what it says follows the water; garbage, floods and jumps harm nothing."""

from __future__ import annotations

import datetime
import json
import random
import socket
import time
import tracemalloc

import pytest
from click.testing import CliRunner
from hypothesis import given, settings
from hypothesis import strategies as st

from fuente.demo.reading_room import reading_room
from fuente.document import files
from fuente.instruments.protocol import LONGEST, Hello, Reader, Reading, Sensor, decode, encode, switched
from fuente.instruments.recorder import Recorder
from fuente.instruments.server import Server
from fuente.instruments.simulated import Simulated
from fuente.instruments.store import Store, store_path
from fuente.study.breaking import Fault
from fuente.study.known import analysed

HELLO = Hello("x", (Sensor("t", "temperature", "tank", "Tank"), Sensor("q", "flow", "return")))


@pytest.fixture
def simulated():
    return Simulated(analysed(reading_room()))


def by(rows):
    return {r.id: r.value for r in rows}


def test_it_says_what_the_water_does(simulated):
    """Levels of the running state, the pump's flow and watts; each with its noise and no more."""
    study = analysed(reading_room())
    values = by(simulated.values(10.0))
    floor = study.network.cell("tank").floor
    assert values["level.tank"] == pytest.approx(study.running.level["tank"] - floor, abs=3e-3)
    assert values["flow.return.pump"] == pytest.approx(study.running.flow["return.pump"], rel=0.05)
    assert values["power.return.pump"] == pytest.approx(reading_room().by_id["return"].draws, rel=0.05)
    assert values["temperature.tank"] == pytest.approx(17.0, abs=0.4)


def test_a_fault_and_an_outlet_move_the_water(simulated):
    simulated.values(5.0)
    assert simulated.switch("pumps", False, 30.0)
    after = by(simulated.values(400.0))
    assert after["flow.return.pump"] < 1e-6  # back through a valve that leaks a little
    assert after["power.return.pump"] == 0.0
    rose = next(k for k in after if k.startswith("level.sump"))
    fresh = by(Simulated(analysed(reading_room())).values(400.0))
    assert after[rose] > fresh[rose] + 0.02  # what was above the weir comes down
    simulated.switch("pumps", True, 500.0)
    assert by(simulated.values(900.0))["flow.return.pump"] > 1e-4
    stuck = Simulated(analysed(reading_room()), [Fault("pump-stuck", 60.0, 0.0)])
    assert by(stuck.values(300.0))["flow.return.pump"] < 1e-6
    assert not simulated.switch("espresso", True, 1.0)


def test_without_its_heater_a_tank_nears_the_room():
    made = Simulated(analysed(reading_room()))
    made._warm = (26.0, 20.0, 1e-4, 0.0)
    made.switch("heater", False, 0.0)
    assert made._temperature(0.0) == pytest.approx(26.0)
    assert made._temperature(1e4) == pytest.approx(20 + 6 * 2.718281828**-1, abs=1e-6)


def test_frames_are_read_back_as_they_were():
    reader = Reader()
    data = encode(HELLO) + encode(Reading("t", 17.25)) + encode(Reading("q", 9e-4))
    found = []
    for k in range(0, len(data), 7):  # as a socket gives it, in pieces
        found += reader.feed(data[k : k + 7])
    assert found == [HELLO, Reading("t", 17.25), Reading("q", 9e-4)]
    assert reader.dropped == 0


@pytest.mark.parametrize(
    "line",
    [
        b"not json",
        b"[]",
        b"{}",
        b'{"id": 3, "value": 1}',
        b'{"id": "t", "value": "17"}',
        b'{"id": "t", "value": true}',
        b'{"id": "t", "value": NaN}',
        b'{"id": "t", "value": 1e999}',
        b'{"id": "t", "value": 900}',
        b'{"id": "nobody", "value": 1}',
        b'{"hello": 2, "sensors": []}',
        b'{"hello": 1, "sensors": [{"id": "a", "kind": "magic"}]}',
        b"\xff\xfe\x00",
        b"[" * 5000,
        b'{"id": "t", "value": ' + b"9" * 5000 + b"}",
    ],
)
def test_what_is_no_frame_is_dropped(line):
    reader = Reader()
    reader.feed(encode(HELLO))
    assert reader.feed(line + b"\n") == []
    assert reader.dropped == 1
    assert reader.feed(encode(Reading("t", 1.0))) == [Reading("t", 1.0)]


def test_a_line_without_an_end_is_not_kept():
    reader = Reader()
    reader.feed(encode(HELLO))
    for _ in range(100):
        reader.feed(b"x" * 10_000)
    assert len(reader._rest) <= LONGEST
    assert reader.feed(b"\n" + encode(Reading("t", 2.0))) == [Reading("t", 2.0)]


def test_a_hundred_thousand_random_frames_leave_nothing_behind():
    """Frames, halves of frames and noise: no crash, and the memory of one that has seen them is that of a fresh one."""
    rng = random.Random(3)
    reader, recorder = Reader(), Recorder(span=60.0)
    for frame in reader.feed(encode(HELLO)):
        recorder.take(frame)

    def piece():
        kind = rng.randrange(5)
        if kind == 0:
            return rng.randbytes(rng.randrange(60))
        if kind == 1:
            return encode(Reading("t", rng.uniform(-100, 200)))[: rng.randrange(1, 40)]
        if kind == 2:
            return (
                json.dumps({"id": rng.choice(["t", "q", "z"]), "value": rng.choice([1, None, "x", [], 1e400])}).encode()
                + b"\n"
            )
        return encode(Reading(rng.choice("tq"), rng.uniform(0, 0.5)))

    def some(count, clock):
        for k in range(count):
            for frame in reader.feed(piece()):
                recorder.take(frame)
            recorder.due(clock + k * 0.01, clock + k * 0.01)

    some(5_000, 0.0)
    tracemalloc.start()
    some(10_000, 100.0)
    before = tracemalloc.get_traced_memory()[0]
    some(85_000, 300.0)
    grown = tracemalloc.get_traced_memory()[0] - before
    tracemalloc.stop()
    assert grown < 50_000
    assert reader.dropped > 1000
    assert set(recorder.latest) <= {"t", "q"}


@settings(max_examples=200)
@given(st.binary(max_size=300))
def test_any_bytes_are_read(data):
    decode(data)
    switched(data)
    Reader().feed(data)


def test_means_are_kept_at_the_chosen_rate_whatever_the_clock_does():
    recorder = Recorder(span=60.0)
    recorder.take(HELLO)
    kept = []
    wall = 1_000_000.0
    for second in range(601):
        recorder.take(Reading("t", float(second % 60)))
        if second == 300:
            wall -= 86_400  # someone set the clock back
        kept += recorder.due(float(second), wall + second)
    assert len(kept) == 10
    assert all(value == pytest.approx(29.5, abs=0.6) for _, _, value in kept)
    recorder.take(Hello("y", (Sensor("q", "flow"),)))
    assert "t" not in recorder.latest


def test_old_values_are_thinned_and_means_stay(tmp_path):
    store = Store(store_path(tmp_path / "a.fuente"))
    now = 1_790_000_000.0
    rows = [("t", now - 90 * 86400 + k * 600.0, 20.0 + (k % 6)) for k in range(90 * 144)]
    store.add(rows, 60.0)
    mean = sum(v for _, _, v in rows) / len(rows)
    went = store.thin(now)
    left = store.of("t")
    assert went > 0
    assert len(left) < 0.8 * len(rows)
    old = [v for t, v in left if t < now - 61 * 86400]
    assert len(old) == pytest.approx(29 * 24, abs=3)
    assert sum(old) / len(old) == pytest.approx(mean, abs=0.05)
    assert sum(1 for t, _ in left if t >= now - 2 * 86400) == 2 * 144
    assert store.thin(now) == 0
    store.close()


def test_a_day_becomes_one_entry_of_the_log(tmp_path):
    store = Store(store_path(tmp_path / "a.fuente"))
    day = datetime.date(2026, 11, 25)
    begins = datetime.datetime(2026, 11, 25, tzinfo=datetime.UTC).timestamp()
    store.add([("t", begins + k * 600, 17.0 + 0.1 * (k % 3)) for k in range(144)], 600.0)
    (entry,) = store.day(HELLO.sensors, day, datetime.UTC)
    assert (entry.what, entry.place, entry.source) == ("temperature", "tank", "instrument")
    assert entry.value == pytest.approx(17.1)
    assert store.day(HELLO.sensors, day + datetime.timedelta(days=1), datetime.UTC) == []
    store.close()


def test_it_listens_on_this_machine_alone_and_switches_its_own_outlets(simulated):
    with Server(simulated, rate=20.0, speed=60.0) as server:
        assert server._tcp.server_address[0] == "127.0.0.1"
        reader, seen = Reader(), []
        with socket.create_connection(("127.0.0.1", server.port), timeout=5) as link:
            until = time.monotonic() + 10
            link.sendall(b'garbage\n{"set": "nothing", "on": true}\n{"set": "pumps", "on": false}\n')
            while time.monotonic() < until:
                seen += reader.feed(link.recv(65536))
                last = [r for r in seen if isinstance(r, Reading) and r.id == "flow.return.pump"]
                if last and last[-1].value < 1e-6:
                    break
        assert isinstance(seen[0], Hello)
        assert last[-1].value < 1e-6
        assert reader.dropped == 0
        assert simulated.on == {"pumps": False, "heater": True}


def test_the_command_plays_and_ends(tmp_path):
    from fuente.cli import cli

    path = tmp_path / "r.fuente"
    files.save(reading_room(), path)
    found = CliRunner().invoke(cli, ["instruments", str(path), "--port", "0", "--until", "0.3"])
    assert found.exit_code == 0
    assert "Listening on 127.0.0.1:" in found.output
