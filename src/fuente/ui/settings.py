"""What the window remembers: its place, recent files, theme and text size."""

from __future__ import annotations

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
