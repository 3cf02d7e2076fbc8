"""A log of what Fuente itself did and where it failed, in the user's state folder; and the report made from it.

Neither holds a name out of a design: of an edit the kinds of what it changed, of a failure where in Fuente it was.
"""

from __future__ import annotations

import logging
import platform
import re
import sys
import traceback
from collections import Counter
from collections.abc import Callable
from importlib import metadata
from logging.handlers import RotatingFileHandler
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

from fuente import __version__
from fuente.document.journal import state_folder

if TYPE_CHECKING:
    from fuente.document.system import System

LARGEST, OLDER = 256 * 1024, 3  # bytes of a file, and how many older ones stay
_LIBRARIES = ("PySide6-Essentials", "numpy", "scipy", "pydantic", "pyqtgraph", "fluids", "gsw", "pint", "ezdxf")
log = logging.getLogger("fuente")


def diary_path() -> Path:
    """Where the log is."""
    return state_folder() / "log" / "fuente.log"


def keep(on_failure: Callable[[str], None] | None = None) -> None:
    """Write the log from now on, and what nobody caught into it; ``on_failure`` then gets a sentence."""
    if not log.handlers:
        try:
            diary_path().parent.mkdir(parents=True, exist_ok=True)
            handler = RotatingFileHandler(
                diary_path(), maxBytes=LARGEST, backupCount=OLDER, encoding="utf-8", delay=True
            )
        except OSError:
            return
        handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(message)s"))
        log.addHandler(handler)
        log.setLevel(logging.INFO)
        log.propagate = False
    log.info("Fuente %s on Python %s, %s", __version__, platform.python_version(), platform.platform())

    def uncaught(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt):
            sys.__excepthook__(kind, error, trace)
            return
        log.error("uncaught\n%s", nameless("".join(traceback.format_exception(kind, error, trace))))
        sys.__excepthook__(kind, error, trace)
        if on_failure is not None:
            on_failure(
                "Something went wrong inside Fuente. Your design is kept. “fuente report” writes what we need to know."
            )

    sys.excepthook = uncaught


def noted(what: str, system: System) -> None:
    """A design in the log: how large it is and what kinds are in it."""
    kinds = Counter(d.kind for d in system.devices)
    log.info("%s: %s", what, ", ".join(f"{count} {kind}" for kind, count in sorted(kinds.items())))


def nameless(text: str) -> str:
    """Without the user's folders, and without what stands in quotes, where names and what was typed may be."""
    found = text.replace(str(Path.home()), "~")
    found = re.sub(r'File "[^"\n]*?((?:site-packages|src)/[^"\n]+)"', r'File "\1"', found)
    found = re.sub(r"“[^”]*”", "“…”", found)
    found = re.sub(r"(?m)^(\w*(?:Error|Exception|Interrupt)\b): .*$", r"\1", found)
    return re.sub(r"(/[\w.~-]+)+\.fuente\b[\w~-]*", "….fuente", found)


def report(system: System | None = None) -> str:
    """What a bug report needs: versions, the design's kinds where one is given, the end of the log; no names."""
    rows = [f"Fuente {__version__}", f"Python {platform.python_version()} on {platform.platform()}"]
    for name in _LIBRARIES:
        try:
            rows.append(f"{name} {metadata.version(name)}")
        except metadata.PackageNotFoundError:
            rows.append(f"{name} is not there")
    if system is not None:
        kinds = Counter(d.kind for d in system.devices)
        rows += ["", f"Design: format {system.version}, units {system.units}"]
        rows += [f"  {count} × {kind}" for kind, count in sorted(kinds.items())]
        rows += _solved(system)
    rows += ["", "Log:"]
    try:
        kept = diary_path().read_text("utf-8", errors="replace").splitlines()[-400:]
    except OSError:
        kept = ["  there is none yet"]
    return nameless("\n".join([*rows, *kept])) + "\n"


def _solved(system: System) -> list[str]:
    from fuente.errors import FuenteError
    from fuente.study.known import analysed

    analysis = analysed(system)
    rows = []
    for name in analysis.names():
        state = analysis.try_situation(name)
        if isinstance(state, FuenteError):
            rows.append(f"  {name}: no state ({type(state).__name__})")
        else:
            off = state.solution.imbalance
            rows.append(f"  {name}: {len(state.solution.level)} cells, water off by {off:.1e} m³/s")
    return rows
