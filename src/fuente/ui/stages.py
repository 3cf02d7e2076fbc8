"""The stages of a design, in one table: the bar, the View menu with its keys, the help and the window read it.

A page is imported when it is first shown. It may carry the signals ``gallery_wanted`` (with a tank's id or none) and
``layout_taken``; the table says which.
"""

from __future__ import annotations

from dataclasses import dataclass
from importlib import import_module
from typing import Any

from PySide6.QtWidgets import QWidget

from fuente.ui.workspace import Workspace


@dataclass(frozen=True)
class Stage:
    """One page: key, title, its module in ``fuente.ui`` and class, what the help says of it, and its signals."""

    key: str
    title: str
    module: str
    page: str
    said: str
    gallery: bool = False
    layouts: bool = False

    def made(self, workspace: Workspace, parent: QWidget) -> Any:
        """The page of a design, within what it is shown in: a whole page that is moved there is styled once more."""
        return getattr(import_module(f"fuente.ui.{self.module}"), self.page)(workspace, parent)


_ALL = (
    Stage("brief", "Brief", "brief", "BriefPage", "what is there, and a first layout", gallery=True, layouts=True),
    Stage("water", "Water path", "water_path", "WaterPath", "the section, its levels and findings", gallery=True),
    Stage("media", "Media && load", "media_page", "MediaPage", "what tanks make and media carry"),
    Stage("build", "Build", "build", "BuildPage", "panels, parts and files"),
    Stage("wet", "Wet test", "wet_page", "WetPage", "break things, and measure"),
    Stage("keep", "Keep", "keep", "KeepPage", "what is due, the log, and what it means"),
)
STAGES = {stage.key: stage for stage in _ALL}
