"""How styles look on paper: the light palette, and line widths in mm of paper."""

from __future__ import annotations

from dataclasses import dataclass

INK = "#22303A"
FALL = "#3E8FA3"
PUMPED = "#B5652B"


@dataclass(frozen=True)
class Look:
    """Fill and stroke of a style on white paper; width in mm on paper, dashes likewise."""

    fill: str | None = None
    stroke: str | None = None
    width: float = 0.2
    dash: tuple[float, ...] = ()
    opacity: float = 1.0


LOOKS: dict[str, Look] = {
    "water": Look("#A9D3DC"),
    "nappe": Look("#A9D3DC"),
    "surface": Look(None, "#2F7C8F", 0.35),
    "glass": Look(INK),
    "acrylic": Look("#4B5B66"),
    "plywood": Look("#9A8F7C"),
    "baffle": Look(INK),
    "teeth": Look("#7E8C94"),
    "gravel": Look("#C9C3B4"),
    "pad-coarse": Look("#DCE7E4", "#6F8A88", 0.15),
    "pad-medium": Look("#BFD3D0", "#5B7977", 0.15),
    "pad-fine": Look("#9DBBB8", "#466A68", 0.15),
    "sock": Look("#EDF3F2", "#6F8A88", 0.2),
    "plate": Look("#7E8C94"),
    "media": Look("#D7D2BF", "#8B8467", 0.15),
    "carrier": Look("#FFFFFF", "#2F7A4F", 0.2),
    "plant": Look(None, "#2F7A4F", 0.35),
    "heater": Look("#F3E2D6", "#A0522D", 0.2),
    "pump": Look("#FFF8F2", PUMPED, 0.4),
    "tube": Look(None, "#5C6B75", 0.25),
    "bubble": Look("#FFFFFF", "#6F62A6", 0.2),
    "air-line": Look("#6F62A6"),
    "air-still": Look("#CFCBDD", "#6F62A6", 0.15),
    "air-pump": Look("#F4F2FA", "#6F62A6", 0.4),
    "shell": Look("#C9B9A4", "#7A6650", 0.25),
    "cavity": Look("#F7FAFA"),
    "bottle": Look("#5C6B75"),
    "drum": Look("#3F5B6B"),
    "screen": Look(None, INK, 0.4, (0.8, 0.5)),
    "muck": Look("#B9A98A"),
    "brush": Look(None, "#6F8A88", 0.3),
    "lamp": Look("#E9E4F6", "#6F62A6", 0.3),
    "ring": Look("#FFFFFF", "#5C6B75", 0.25),
    "hole": Look("#FFFFFF", PUMPED, 0.25),
    "pipe-fall": Look("#6BB0C1"),
    "pipe-dry": Look("#E4EAE9", "#7E8C94", 0.2),
    "pipe-pumped": Look(PUMPED),
    "pipe-back": Look("#D9A173", PUMPED, 0.2, (1.2, 0.8)),
    "pipe-still": Look("#D9D2CB", "#8A7461", 0.2),
    "valve": Look("#FFFFFF", PUMPED, 0.25),
    "valve-handle": Look(None, PUMPED, 0.5),
    "bar-room": Look("#E4EAE9"),
    "bar": Look("#3E8FA3"),
    "bar-least": Look("#A93B2A"),
    "bar-most": Look("#B5652B"),
    "chosen": Look(None, "#2F7C8F", 0.4),
    "sheet": Look("#F4F7F6", INK, 0.3),
    "cut-panel": Look("#CFE6EA", "#2F7C8F", 0.25),
    "cut-pad": Look("#DCE7E4", "#6F8A88", 0.25),
    "offcut": Look("#FFFFFF", "#7E8C94", 0.2, (1.2, 0.8)),
    "score": Look(None, PUMPED, 0.4),
    "edge": Look(None, INK, 0.35),
    "cross": Look(None, PUMPED, 0.15),
    "number": Look(PUMPED),
    "mark": Look(None, "#5C6B75", 0.2, (1.2, 0.8)),
    "mark-stop": Look(None, "#A93B2A", 0.3, (1.6, 0.9)),
}

LABELS: dict[str, tuple[str, float]] = {
    "label": (INK, 2.4),
    "label-strong": ("#1C5563", 2.8),
    "label-share": (INK, 2.4),
    "label-small": ("#33424C", 1.9),
    "label-tag": ("#33424C", 1.9),
    "label-under": ("#46555F", 2.2),
    "label-fall": ("#226577", 2.4),
    "label-pumped": ("#8A4A1C", 2.4),
    "label-air": ("#57499A", 2.4),
    "label-number": ("#FFFFFF", 2.2),
    "label-mark": ("#46555F", 2.0),
    "label-stop": ("#A93B2A", 2.2),
}


def look(style: str) -> Look:
    """The look of a style; unknown ones are drawn as plain lines, so that a new device is never invisible."""
    return LOOKS.get(style, Look(None, INK, 0.2))


def pad_grade(ppi: float) -> str:
    """The style of a foam pad by its pores per inch."""
    return "pad-coarse" if ppi < 16 else "pad-medium" if ppi < 36 else "pad-fine"
