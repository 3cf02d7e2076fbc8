"""How long the hand waits with a very large rack: ./check --campaign runs it, or python scripts/waits.py ROWS COLUMNS.

Opens the rack, edits it and looks at every page, with a timer that ticks all the while; for each, the ms that the call
itself took and the longest gap between two ticks until everything that it began aside is there.
"""

from __future__ import annotations

import json
import os
import sys
import tempfile
import time
from collections.abc import Callable

os.environ["QT_QPA_PLATFORM"] = "offscreen"
os.environ["OPENBLAS_NUM_THREADS"] = "1"
os.environ["FUENTE_STATE"] = tempfile.mkdtemp()

from PySide6.QtCore import QTimer

from fuente.demo.back_room import joined_sumps
from fuente.devices.recipes.racks import Rack, add_rack
from fuente.document.system import apply, set_value
from fuente.memory import calm_collector, share_threads
from fuente.ui.app import load_pages
from fuente.ui.application import application
from fuente.ui.stages import STAGES
from fuente.ui.window import MainWindow

PATIENCE = 120.0  # s for anything to settle
CALM = 1.0  # s without anything under way


def measured(rows: int, columns: int) -> dict[str, tuple[float, float]]:
    """By what was done: ms of the call, and ms of the longest gap."""
    app = application("light", 1.0)
    share_threads()
    calm_collector()
    before = joined_sumps()
    system = apply(before, add_rack(before.by_id, Rack(rows=rows, columns=columns, device="pumping", pitch=0.42), True))
    load_pages()  # as the application does aside
    window = MainWindow()
    window.resize(1280, 800)
    window.show()
    app.processEvents()
    last, gaps = [time.perf_counter()], list[float]()

    def tick() -> None:
        now = time.perf_counter()
        gaps.append(now - last[0])
        last[0] = now

    timer = QTimer(interval=5)
    timer.timeout.connect(tick)
    timer.start()
    found: dict[str, tuple[float, float]] = {}

    def busy() -> bool:
        work = window.workspace
        return window.opening.waits or work is None or work.checking or work.session.coming is not None

    def act(name: str, deed: Callable[[], object]) -> None:
        gaps.clear()
        last[0] = began = time.perf_counter()
        deed()
        took = time.perf_counter() - began
        calm = time.perf_counter()
        while time.perf_counter() - calm < CALM and time.perf_counter() - began < PATIENCE:
            app.processEvents()
            time.sleep(0.001)
            if busy():
                calm = time.perf_counter()
        found[name] = took * 1e3, max(gaps) * 1e3

    def show(solved: object) -> None:
        window.set_document(system, None, later=True, solved=solved)  # type: ignore[arg-type]

    manifold = next(d.id for d in system.devices if d.kind == "manifold")
    angles = iter(range(20, 80))

    def edit() -> None:
        assert window.workspace is not None
        path = ("devices", manifold, "rows", 0, "branches", 3, "angle")
        window.workspace.edit(set_value("Turn valve", path, float(next(angles))))

    act("open", lambda: window.opening.solved(system, "rack", show))
    for key in STAGES:
        act(f"first look at {key}", lambda key=key: window.show_stage(key))  # type: ignore[misc]
        act(f"edit on {key}", edit)
    for key in STAGES:
        act(f"back to {key}", lambda key=key: window.show_stage(key))  # type: ignore[misc]
    window.show_stage("water")
    act("power cut", lambda: window.workspace and window.workspace.show("power_cut"))
    act("other units", window.switch_units)
    act("undo", window.undo)
    return found


if __name__ == "__main__":
    made = measured(*(int(n) for n in sys.argv[1:3] or ("8", "25")))
    print(json.dumps(made))
    sys.stdout.flush()
    os._exit(0)
