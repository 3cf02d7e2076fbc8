"""What the application imports, and what that costs."""

from __future__ import annotations

import os
import subprocess
import sys

ASKED = """
import inspect, sys
read = []
told = inspect.getsource
def getsource(what):
    read.append(what.__name__)
    return told(what)
inspect.getsource = getsource
import fuente.ui.window
import colorsys
print([name for name in read if name.split(".")[0] in ("fuente", "numpy", "pydantic", "colorsys")])
"""


def test_qts_binding_reads_the_source_of_no_module_that_is_imported():
    """It would for each of the hundreds that follow it: half a second of a start on a slow machine."""
    env = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    told = subprocess.run([sys.executable, "-c", ASKED], capture_output=True, text=True, env=env, timeout=60)
    assert told.returncode == 0, told.stderr
    assert told.stdout.split("\n")[0] == "[]"
