"""The builder's own media over all designs: a file beside the window's settings, read when the window opens."""

from __future__ import annotations

import json
from pathlib import Path

from pydantic import ValidationError

from fuente.document.journal import state_folder
from fuente.document.media import OwnMedium


def _file() -> Path:
    return state_folder() / "own-media.json"


def all_own() -> tuple[OwnMedium, ...]:
    """Every medium in it; what cannot be read is left out."""
    try:
        rows = json.loads(_file().read_text("utf-8"))
    except (OSError, ValueError):
        return ()
    found = []
    for row in rows if isinstance(rows, list) else ():
        try:
            found.append(OwnMedium.model_validate(row))
        except ValidationError:
            continue
    return tuple(found)


def keep(made: OwnMedium) -> None:
    """Put a medium into it."""
    _write((*(m for m in all_own() if m.id != made.id), made))


def forget(gone: OwnMedium) -> None:
    """Take a medium out of it; designs that hold it keep it."""
    _write(tuple(m for m in all_own() if m.id != gone.id))


def _write(media: tuple[OwnMedium, ...]) -> None:
    path = _file()
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        fresh = path.with_suffix(".new")
        fresh.write_text(json.dumps([m.figures() for m in media], indent=1, ensure_ascii=False) + "\n", "utf-8")
        fresh.replace(path)
    except OSError:
        return  # a state folder that cannot be written keeps nothing; the design has it all the same
