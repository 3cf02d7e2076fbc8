"""Handles by keyboard: the next one in a direction, and how much a key moves one."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt

from fuente.drawing.primitives import Handle

ARROWS: dict[int, tuple[int, int]] = {
    Qt.Key.Key_Up: (0, 1),
    Qt.Key.Key_Down: (0, -1),
    Qt.Key.Key_Right: (1, 0),
    Qt.Key.Key_Left: (-1, 0),
}


def first(handles: Sequence[Handle], selected: str) -> int | None:
    """The handle with which one begins: one of the chosen station, else the leftmost."""
    if not handles:
        return None
    mine = [i for i, h in enumerate(handles) if h.owner == selected]
    return mine[0] if mine else min(range(len(handles)), key=lambda i: handles[i].at)


def toward(handles: Sequence[Handle], at: int, way: tuple[int, int]) -> int:
    """The nearest handle in a direction, what lies beside it counted double; where there is none, the same."""
    x, y = handles[at].at
    best, found = float("inf"), at
    for i, handle in enumerate(handles):
        dx, dy = handle.at[0] - x, handle.at[1] - y
        ahead = dx * way[0] + dy * way[1]
        aside = abs(dx * way[1]) + abs(dy * way[0])
        # Handles of one line stand at one height: those that are level go on in the order of the water.
        if i == at or ahead < 0 or (ahead == 0 and (aside or i < at)):
            continue
        if ahead < aside / 4:
            continue
        far = ahead + 2 * aside
        if far < best:
            best, found = far, i
    return found


def along(handle: Handle, key: int) -> int:
    """Whether a key moves a handle, and which way: 1, −1, or 0 for not at all."""
    way = ARROWS.get(key, (0, 0))
    return way[0] if handle.axis == "x" else way[1]
