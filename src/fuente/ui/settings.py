"""What the window remembers: its place, recent files, theme and text size."""

from __future__ import annotations

import json
from pathlib import Path

from PySide6.QtCore import QByteArray, QSettings

from fuente.document.journal import state_folder

MOST_RECENT = 8


def _store() -> QSettings:
    folder = state_folder()
    return QSettings(str(folder / "window.ini"), QSettings.Format.IniFormat)


def recent() -> list[Path]:
    """Files opened or saved lately that still exist."""
    value = _store().value("recent", [])
    names = [value] if isinstance(value, str) else [str(v) for v in value] if isinstance(value, list | tuple) else []
    return [Path(n) for n in names if Path(n).is_file()]


def remember(path: Path) -> None:
    """Put a file on top of the recent ones."""
    path = path.resolve()
    names = [str(path), *(str(p) for p in recent() if p != path)]
    _store().setValue("recent", names[:MOST_RECENT])


def looked_at(path: Path) -> tuple[str, str]:
    """The page and the station at which a file was left; empty where it never was."""
    found = _places().get(str(path.resolve()), ["", ""])
    return (str(found[0]), str(found[1])) if isinstance(found, list) and len(found) == 2 else ("", "")


def keep_looked_at(path: Path, stage: str, station: str) -> None:
    """Remember the page and the station of a file, for as many as are recent."""
    name = str(path.resolve())
    known = {k: v for k, v in _places().items() if k != name}
    kept = {name: [stage, station], **known}
    _store().setValue("places", json.dumps(dict(list(kept.items())[:MOST_RECENT])))


def _places() -> dict[str, object]:
    try:
        held = json.loads(str(_store().value("places", "{}")))
    except ValueError:
        return {}
    return held if isinstance(held, dict) else {}


def geometry() -> QByteArray | None:
    """The window's last place."""
    value = _store().value("geometry")
    return value if isinstance(value, QByteArray) else None


def keep_geometry(value: QByteArray) -> None:
    """Remember the window's place."""
    _store().setValue("geometry", value)


def choice(name: str, default: str) -> str:
    """A remembered word."""
    return str(_store().value(name, default))


def keep(name: str, value: str) -> None:
    """Remember a word."""
    _store().setValue(name, value)
