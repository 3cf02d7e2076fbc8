"""Files are read as what they should be: ordinary ones of a sensible size, no pipes, devices or files of /proc."""

from __future__ import annotations

import os
import stat
from pathlib import Path

from fuente.errors import DocumentError
from fuente.one_line import one_line


def read_ordinary(path: Path, largest: int, too_large: str) -> bytes:
    """All of a file, at most so many bytes. Raises DocumentError with a sentence; ``too_large`` is what it is then."""
    name = one_line(path.name)[:80]
    try:
        # Not to wait for who writes into a pipe, nor to become the master of a terminal.
        handle = os.open(path, os.O_RDONLY | os.O_NONBLOCK | os.O_NOCTTY | os.O_CLOEXEC)
    except FileNotFoundError:
        raise DocumentError(f"There is no file “{name}” in {one_line(str(path.parent))[-200:]}.") from None
    except OSError as error:
        raise DocumentError(f"“{name}” cannot be read: {error.strerror or error}.") from None
    what = os.fstat(handle)
    if not stat.S_ISREG(what.st_mode) or what.st_size > largest:
        os.close(handle)
        if stat.S_ISDIR(what.st_mode):
            raise DocumentError(f"“{name}” is a folder, not a file.")
        raise DocumentError(too_large if stat.S_ISREG(what.st_mode) else f"“{name}” is not an ordinary file.")
    try:
        with os.fdopen(handle, "rb") as file:
            held = file.read(largest + 1)
    except OSError as error:
        raise DocumentError(f"“{name}” cannot be read: {error.strerror or error}.") from None
    if len(held) > largest:
        raise DocumentError(too_large)
    if held and not what.st_size:
        raise DocumentError(f"“{name}” is not an ordinary file.")  # made up as it is read, as those of /proc are
    return held
