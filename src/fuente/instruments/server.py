"""The simulated controller on a loopback socket. It listens to this machine alone and switches nothing real."""

from __future__ import annotations

import contextlib
import socket
import socketserver
import threading
import time
from collections.abc import Callable

from fuente.instruments.protocol import HOST, LONGEST, encode, switched
from fuente.instruments.simulated import Simulated

_MOST_CLIENTS = 8


class Server:
    """Serves a simulation until it is closed. ``rate`` frames of every sensor by second of the wall, ``speed``
    simulated s by s.
    """

    def __init__(self, simulated: Simulated, port: int = 0, rate: float = 1.0, speed: float = 1.0):
        self.simulated, self.rate, self.speed = simulated, max(rate, 0.01), max(speed, 0.0)
        self._lock = threading.Lock()
        self._begun = time.monotonic()
        self._over = threading.Event()
        self._clients = 0
        outer = self

        class Handler(socketserver.BaseRequestHandler):
            """One listener."""

            def handle(self) -> None:
                outer.talk(self.request)

        class Tcp(socketserver.ThreadingTCPServer):
            """On loopback only."""

            allow_reuse_address = True
            daemon_threads = True
            block_on_close = False

        self._tcp = Tcp((HOST, port), Handler)
        self.port = int(self._tcp.server_address[1])
        self._thread = threading.Thread(target=self._tcp.serve_forever, kwargs={"poll_interval": 0.1}, daemon=True)

    def start(self) -> Server:
        """Listen."""
        self._thread.start()
        return self

    def close(self) -> None:
        """No more."""
        self._over.set()
        self._tcp.shutdown()
        self._tcp.server_close()

    def __enter__(self) -> Server:
        return self.start()

    def __exit__(self, *_: object) -> None:
        self.close()

    @property
    def time(self) -> float:
        """Simulated s since the start."""
        return (time.monotonic() - self._begun) * self.speed

    def talk(self, request: socket.socket) -> None:
        """Hello, then values until the other end is gone; its lines may switch outlets."""
        if self._clients >= _MOST_CLIENTS:
            return
        self._clients += 1
        request.settimeout(1.0 / self.rate)
        listens = _Lines(lambda line: self._heard(line))
        try:
            request.sendall(encode(self.simulated.hello()))
            while not self._over.is_set():
                with self._lock:
                    rows = self.simulated.values(self.time)
                request.sendall(b"".join(encode(r) for r in rows))
                until = time.monotonic() + 1.0 / self.rate
                while (left := until - time.monotonic()) > 0 and not self._over.is_set():
                    request.settimeout(max(left, 0.001))
                    try:
                        data = request.recv(4096)
                    except TimeoutError:
                        break
                    if not data:
                        return
                    listens.feed(data)
        except OSError:
            return
        finally:
            self._clients -= 1
            with contextlib.suppress(OSError):
                request.close()

    def _heard(self, line: bytes) -> None:
        command = switched(line)
        if command is not None:
            with self._lock:
                self.simulated.switch(*command, self.time)


class _Lines:
    """Lines out of what comes, none of them longer than a frame."""

    def __init__(self, take: Callable[[bytes], None]):
        self._take, self._rest = take, b""

    def feed(self, data: bytes) -> None:
        *lines, self._rest = (self._rest + data).split(b"\n")
        for line in lines:
            self._take(line)
        if len(self._rest) > LONGEST:
            self._rest = b""
