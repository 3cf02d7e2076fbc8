"""Colours, type and the style sheet, for light and dark grounds."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, replace
from functools import lru_cache
from importlib.resources import files

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QFont, QFontDatabase, QGuiApplication, QPalette
from PySide6.QtWidgets import QApplication


@dataclass(frozen=True)
class Theme:
    """Colours by role. Text roles keep 4.5:1 on the grounds they stand on."""

    name: str
    ground: str  # drawing and inputs
    panel: str
    panel2: str
    bar: str
    bar_ink: str
    ink: str
    muted: str
    rule: str
    line: str  # of glass and baffles
    water_top: str
    water_low: str
    surface: str
    fall: str
    fall_text: str
    pumped: str
    pumped_text: str
    air: str
    living: str
    stop: str
    caution: str
    chosen: str
    accent: str
    gravel: str
    shell: str  # of an ornament
    muck: str
    warm: str  # a heater


LIGHT = Theme(
    "light",
    "#FFFFFF",
    "#F5F8F7",
    "#EDF1F0",
    "#22303A",
    "#F2F6F6",
    "#22303A",
    "#56656E",
    "#D3DCDA",
    "#22303A",
    "#A5D3DD",
    "#6FB1C2",
    "#2C7A8D",
    "#63ABBD",
    "#226577",
    "#B5652B",
    "#8F4C1B",
    "#6F62A6",
    "#2F7A4F",
    "#A93B2A",
    "#8A5A10",
    "#DFEBEC",
    "#2F7C8F",
    "#B9B09A",
    "#C8B79E",
    "#A8946F",
    "#F3D9C6",
)
DARK = Theme(
    "dark",
    "#1A2329",
    "#202B32",
    "#29353D",
    "#11181D",
    "#E8EEEE",
    "#E6ECEC",
    "#A6B4BA",
    "#3B4952",
    "#C9D3D6",
    "#2F6A78",
    "#1F4B57",
    "#6FC0D1",
    "#3E8FA3",
    "#8CCBD9",
    "#C87A40",
    "#E5A573",
    "#A398D8",
    "#6FBF90",
    "#F08D7C",
    "#E3B45F",
    "#2A3E46",
    "#5FB3C6",
    "#6E6754",
    "#5E5242",
    "#6B5C41",
    "#6A4630",
)

FAMILY = "Inter"
LARGE = 1.3  # text from which less stands beside each other


@dataclass
class _Use:
    """What the application paints with: asked some hundred times a frame, so not a property of Qt's."""

    theme: Theme
    scale: float = 1.0
    paper: bool = False


_use = _Use(LIGHT)


@contextmanager
def on_paper(text_scale: float) -> Iterator[None]:
    """Light, in plain glyphs, at a text size: for what is printed."""
    before = replace(_use)
    _use.theme, _use.scale, _use.paper = LIGHT, text_scale, True
    try:
        yield
    finally:
        _use.theme, _use.scale, _use.paper = before.theme, before.scale, before.paper


def load_fonts() -> None:
    """Register the shipped type."""
    for name in ("Inter-Regular.otf", "Inter-Medium.otf", "Inter-SemiBold.otf"):
        QFontDatabase.addApplicationFontFromData(files("fuente.ui.fonts").joinpath(name).read_bytes())


def font(size: int, weight: QFont.Weight = QFont.Weight.Normal) -> QFont:
    """The shipped type at a pixel size for 100 % text, with tabular figures."""
    return _font(size, weight, _use.scale, _use.paper)


@lru_cache(maxsize=128)
def _font(size: int, weight: QFont.Weight, scaled: float, paper: bool) -> QFont:
    made = QFont(FAMILY)
    made.setPixelSize(max(8, round(size * scaled)))
    made.setWeight(weight)
    # Paper gets plain glyphs: a PDF whose figures are alternates cannot be searched.
    made.setFeature(QFont.Tag("calt" if paper else "tnum"), 0 if paper else 1)
    return made


MEDIUM = QFont.Weight.Medium
BOLD = QFont.Weight.DemiBold


def scale() -> float:
    """Text size against the usual: the application's own setting."""
    return _use.scale


def px(size: float) -> int:
    """A length on the eight-pixel grid, grown with the text."""
    return round(size * scale())


def current() -> Theme:
    """The theme in use."""
    return _use.theme


def wants_dark() -> bool:
    """Whether the desktop asks for a dark ground."""
    hints = QGuiApplication.styleHints()
    return hints is not None and hints.colorScheme() == Qt.ColorScheme.Dark


def color(name: str) -> QColor:
    """A colour of the theme by its role."""
    return QColor(getattr(current(), name))


def apply(app: QApplication, name: str, text_scale: float = 1.0) -> None:
    """Put a theme and a text size on the whole application."""
    _use.theme = DARK if name == "dark" else LIGHT
    _use.scale = text_scale
    style = app.style()
    if style is None or style.name() != "fusion":
        app.setStyle("Fusion")
    app.setFont(font(13))
    t = current()
    palette = QPalette()
    roles = {
        QPalette.ColorRole.Window: t.panel,
        QPalette.ColorRole.WindowText: t.ink,
        QPalette.ColorRole.Base: t.ground,
        QPalette.ColorRole.AlternateBase: t.panel2,
        QPalette.ColorRole.Text: t.ink,
        QPalette.ColorRole.Button: t.panel2,
        QPalette.ColorRole.ButtonText: t.ink,
        QPalette.ColorRole.Highlight: t.accent,
        QPalette.ColorRole.HighlightedText: "#FFFFFF" if t is LIGHT else "#10181C",
        QPalette.ColorRole.ToolTipBase: t.bar,
        QPalette.ColorRole.ToolTipText: t.bar_ink,
        QPalette.ColorRole.PlaceholderText: t.muted,
        QPalette.ColorRole.Link: t.accent,
    }
    for role, value in roles.items():
        palette.setColor(role, QColor(value))
    for role in (QPalette.ColorRole.WindowText, QPalette.ColorRole.Text, QPalette.ColorRole.ButtonText):
        palette.setColor(QPalette.ColorGroup.Disabled, role, QColor(t.muted))
    app.setPalette(palette)
    app.setStyleSheet(sheet(t))


def sheet(t: Theme) -> str:
    """The style sheet."""
    return _grounds(t) + _controls(t) + _lists(t)


def _grounds(t: Theme) -> str:
    """Surfaces, the bar at the top, and words on them."""
    p = px
    return f"""
* {{ font-family: "{FAMILY}"; }}
QWidget {{ font-size: {p(13)}px; color: {t.ink}; }}
QMainWindow, QDialog {{ background: {t.panel}; }}
QToolTip {{ background: {t.bar}; color: {t.bar_ink}; border: none; padding: {p(6)}px; }}
#panel, QScrollArea#panel {{ background: {t.panel}; border: none; }}
#ground {{ background: {t.ground}; }}
#bar {{ background: {t.bar}; }}
#bar QLabel {{ color: {t.bar_ink}; }}
#bar QLabel#quiet {{ color: {"#B9C6CB" if t is LIGHT else t.muted}; font-size: {p(12)}px; }}
#bar QLabel#title {{ font-size: {p(15)}px; font-weight: 600; }}
#bar QPushButton {{ background: transparent; color: {t.bar_ink}; border: 1px solid #6A7982; border-radius: {p(6)}px;
  padding: {p(5)}px {p(12)}px; }}
#bar QPushButton:hover {{ background: #34444F; }}
#bar QPushButton:focus {{ border: 2px solid #8CCBD9; }}
#bar QPushButton#stage {{ border: none; border-bottom: 3px solid transparent; border-radius: 0;
  padding: {p(14)}px {p(10 if scale() < 1.3 else 5)}px {p(11)}px; font-size: {p(14)}px; color: #B9C6CB; }}
#bar QPushButton#stage:checked {{ color: #FFFFFF; border-bottom: 3px solid #63ABBD; font-weight: 600; }}
#bar QPushButton#stage:focus {{ background: #34444F; }}
QLabel#heading {{ font-size: {p(17)}px; font-weight: 600; }}
QLabel#subheading, QLabel#quiet {{ color: {t.muted}; font-size: {p(12)}px; }}
QLabel#section {{ color: {t.muted}; font-size: {p(12)}px; font-weight: 600; }}
QLabel#big {{ font-size: {p(21)}px; font-weight: 600; }}
QLabel#value {{ font-weight: 600; }}
QLabel#error {{ color: {t.stop}; font-size: {p(12)}px; }}
QLabel#why {{ background: {t.chosen}; border-left: 3px solid {t.accent}; padding: {p(10)}px; border-radius: {p(3)}px; }}
QFrame#tile {{ background: {t.ground}; border: 1px solid {t.rule}; border-radius: {p(8)}px; }}
QFrame#rule {{ background: {t.rule}; max-height: 1px; border: none; }}
"""


def _controls(t: Theme) -> str:
    """What is typed into, chosen or pressed."""
    p = px
    return f"""
QLineEdit, QComboBox, QDateEdit, QPlainTextEdit {{
  background: {t.ground}; border: 1px solid {t.rule}; border-radius: {p(5)}px;
  padding: {p(4)}px {p(8)}px; selection-background-color: {t.accent}; }}
QLineEdit:focus, QComboBox:focus, QDateEdit:focus, QPlainTextEdit:focus {{
  border: 2px solid {t.accent}; padding: {p(3)}px {p(7)}px; }}
QLineEdit[bad="true"] {{ border: 2px solid {t.stop}; }}
QComboBox::drop-down, QDateEdit::drop-down {{ border: none; width: {p(18)}px; }}
QComboBox QAbstractItemView {{ background: {t.ground}; color: {t.ink}; border: 1px solid {t.rule};
  selection-background-color: {t.chosen}; selection-color: {t.ink}; }}
QPushButton {{ background: {t.ground}; border: 1px solid {t.rule}; border-radius: {p(6)}px;
    padding: {p(6)}px {p(14)}px; }}
QPushButton:hover {{ background: {t.panel2}; }}
QPushButton:focus {{ border: 2px solid {t.accent}; padding: {p(5)}px {p(13)}px; }}
QPushButton:disabled {{ color: {t.muted}; background: {t.panel2}; }}
QPushButton#choice:checked {{ background: {t.accent}; color: {"#FFFFFF" if t is LIGHT else "#0F171B"};
  border-color: {t.accent}; font-weight: 600; }}
QPushButton#primary {{ background: {t.accent}; color: {"#FFFFFF" if t is LIGHT else "#0F171B"};
    border: none; font-weight: 600; }}
QPushButton#primary:focus {{ border: 2px solid {t.ink}; }}
QPushButton#link, QPushButton#fold {{ background: transparent; border: none; color: {t.accent}; font-weight: 600;
  text-align: right; padding: {p(4)}px {p(6)}px; }}
QPushButton#fold {{ text-align: left; padding-left: 0; }}
QPushButton#link:hover, QPushButton#fold:hover {{ text-decoration: underline; }}
QPushButton#link:focus, QPushButton#fold:focus {{ border: 1px dotted {t.accent}; }}
QPushButton#benchcard {{ text-align: left; padding: {p(8)}px {p(12)}px; }}
QPushButton#benchcard:focus {{ padding: {p(7)}px {p(11)}px; }}
QProgressBar {{ background: {t.panel2}; border: none; border-radius: {p(4)}px; }}
QProgressBar::chunk {{ background: {t.accent}; border-radius: {p(4)}px; }}
QPushButton#reading {{ background: transparent; border: none; text-align: left; padding: 0; color: {t.muted}; }}
QPushButton#reading:hover {{ color: {t.accent}; }}
QPushButton#reading:focus {{ border-bottom: 1px dotted {t.accent}; }}
"""


def _lists(t: Theme) -> str:
    """What scrolls: lists, tables, menus."""
    p = px
    return f"""
QScrollArea {{ border: none; background: transparent; }}
QScrollBar:vertical {{ background: transparent; width: {p(9)}px; margin: 0; }}
QScrollBar::handle:vertical {{ background: {t.rule}; border-radius: {p(4)}px; min-height: {p(24)}px; }}
QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; width: 0; }}
QScrollBar:horizontal {{ background: transparent; height: {p(9)}px; }}
QScrollBar::handle:horizontal {{ background: {t.rule}; border-radius: {p(4)}px; }}
QTableView, QListView {{ background: {t.ground}; border: 1px solid {t.rule}; border-radius: {p(6)}px;
    gridline-color: {t.rule};
  selection-background-color: {t.chosen}; selection-color: {t.ink}; alternate-background-color: {t.panel}; }}
QHeaderView::section {{ background: {t.panel2}; color: {t.muted}; border: none; border-bottom: 1px solid {t.rule};
  padding: {p(5)}px {p(6)}px {p(5)}px {p(13)}px; font-size: {p(12)}px; }}
QHeaderView::up-arrow, QHeaderView::down-arrow {{ subcontrol-position: top center; width: {p(8)}px; height: {p(6)}px; }}
QMenu {{ background: {t.ground}; border: 1px solid {t.rule}; padding: {p(4)}px; }}
QMenu::item {{ padding: {p(6)}px {p(20)}px; }}
QMenu::item:selected {{ background: {t.chosen}; color: {t.ink}; }}
QMenu::item:disabled {{ color: {t.muted}; }}
QMenuBar {{ background: {t.bar}; color: {t.bar_ink}; }}
QMenuBar::item {{ color: {t.bar_ink}; background: transparent; padding: {p(3)}px {p(9)}px; }}
QMenuBar::item:selected {{ background: #34444F; }}
QCheckBox {{ spacing: {p(8)}px; }}
QCheckBox:focus {{ color: {t.accent}; }}
{_ticks(t)}"""


def _ticks(t: Theme) -> str:
    """Tick boxes, of forms and of lists: the style's own outline is darker than its ground, so lost on a dark one."""
    mark = files("fuente.ui") / "marks" / f"tick-{t.name}.svg"
    boxes = ("QCheckBox::indicator", "QListView::indicator")

    def each(state: str) -> str:
        return ", ".join(box + state for box in boxes)

    return f"""
{each("")} {{ width: {px(14)}px; height: {px(14)}px; border: 1px solid {t.muted}; border-radius: {px(3)}px;
  background: {t.ground}; }}
{each(":checked")} {{ background: {t.accent}; border-color: {t.accent}; image: url("{mark}"); }}
{each(":disabled")} {{ background: {t.panel2}; border-color: {t.rule}; }}
{each(":checked:disabled")} {{ background: {t.muted}; }}
"""
