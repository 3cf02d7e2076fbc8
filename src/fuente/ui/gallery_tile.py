"""One kind of filter in the gallery: a small section of the builder's own tank with its first layout in it."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from fuente.devices import filter_kind
from fuente.devices.filtering import FilterKind, FilterSpec
from fuente.document.system import System, apply
from fuente.drawing.primitives import Dimension, Drawing, Polygon, Polyline
from fuente.errors import FuenteError
from fuente.findings.adding import Promise
from fuente.shown.section import section
from fuente.study.filters import add_filter
from fuente.study.known import analysed
from fuente.study.sites import new_site
from fuente.ui import theme
from fuente.ui.painting import paint_drawing
from fuente.ui.zoomed import Box
from fuente.units import UnitSystem, fill, shown

COLUMNS = 4
_WALK = {Qt.Key.Key_Right: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: COLUMNS, Qt.Key.Key_Up: -COLUMNS}


ASPECT = 1.9  # of a tile's picture, width by height
SHARE = 0.7  # of its height, or of its width, that the filter takes


def closely(drawing: Drawing, owner: str) -> Box:
    """What to show of a drawing so that what belongs to an owner is seen: all of it, or, where a long tank would leave
    it a few pixels, as much around it as a tile has room for. mm: left, foot, right, top, within the drawing's ends.
    """
    x0, y0, x1, y1 = whole = drawing.bounds()
    points = [
        p
        for s in drawing.shapes
        if isinstance(s, Polygon | Polyline) and (s.owner == owner or s.owner.startswith(f"{owner}."))
        for p in s.points
    ]
    if not points:
        return whole
    a0, a1 = min(x for x, _ in points), max(x for x, _ in points)
    b0, b1 = min(y for _, y in points), max(y for _, y in points)
    tall = min(max((b1 - b0) / SHARE, (a1 - a0) / SHARE / ASPECT), y1 - y0)
    wide = tall * ASPECT
    if wide >= x1 - x0 or a1 - a0 > wide:
        return whole
    left = min(max((a0 + a1 - wide) / 2, x0), x1 - wide)
    foot = min(max((b0 + b1 - tall) / 2, y0), y1 - tall)
    return left, foot, left + wide, foot + tall


class Tile(QWidget):
    """One kind: its picture, its name."""

    picked = Signal()
    taken = Signal()
    walked = Signal(int)  # so many tiles on

    def __init__(
        self, kind: FilterKind, spec: FilterSpec | FuenteError, units: UnitSystem, parent: QWidget | None = None
    ):
        super().__init__(parent)
        self.kind, self.spec, self.units = kind, spec, units
        self.drawing: Drawing | None = None
        self.failed = "" if isinstance(spec, FilterSpec) else str(spec)
        self.seen: Box | None = None  # the part of it that is shown, mm
        self.figures = ""
        self.promise: Promise | None = None
        self.against = ""  # why it does not fit into a row
        self.chosen = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(kind.name)
        self.setAccessibleDescription(kind.said)
        self.setMinimumHeight(theme.px(152))
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def sizeHint(self) -> QSize:
        """Four in a row."""
        return QSize(theme.px(230), theme.px(160))

    def draw(self, system: System) -> None:
        """Solve the tank with this filter alone, and keep its section."""
        assert isinstance(self.spec, FilterSpec)
        tank = system.tank(self.spec.tank)
        tank = tank.model_copy(update={"offset": 0.0, "rack": ""})
        alone = System(devices=(tank,), salinity=system.salinity, schools=system.schools)
        try:
            site_spec = filter_kind(self.spec).first(new_site(alone, tank.id))
            alone = apply(alone, add_filter(alone, site_spec))
            analysis = analysed(alone)
            running = analysis.situation("running")
            whole = section(analysis, running)
            blowers = {
                d.id for d in alone.devices if d.air_lines()
            }  # the picture is of the filter, not of what blows into it
            self.drawing = Drawing(
                tuple(s for s in whole.shapes if s.owner not in blowers and not isinstance(s, Dimension))
            )
            self.seen = closely(self.drawing, site_spec.id)
            what, value, quantity = self.kind.size(site_spec)
            flow = analysis.moved(running.solution, tank.id)
            air = sum(q for key, q in running.solution.flow.items() if key.startswith("air."))
            size = shown(value, quantity, self.units) if quantity else f"{value:g}"
            words = f"{what} {size}, moves {{flow:flow}}" + (" on {air:air_flow} of air" if air > 0 else "")
            self.figures = fill(words, {"flow": flow, "air": air}, self.units)
        except (FuenteError, ValueError) as error:
            self.failed = str(error) if isinstance(error, FuenteError) else f"{self.kind.name} does not fit this tank."
        self.update()

    def words(self) -> str:
        """What is said of it under the gallery."""
        if self.failed:
            return f"{self.kind.said} {self.failed}"
        first = f"{self.kind.said} First layout: {self.figures}." if self.figures else self.kind.said
        first = self.against or first
        return f"{first} {self.promise.words(self.units)}" if self.promise else first

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose it."""
        self.setFocus()
        self.picked.emit()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Take it."""
        self.picked.emit()
        self.taken.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Space chooses, Enter takes; arrows walk."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.picked.emit()
            self.taken.emit()
        elif event.key() == Qt.Key.Key_Space:
            self.picked.emit()
        elif event.key() in _WALK:
            self.walked.emit(_WALK[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)

    def focusInEvent(self, event: object) -> None:
        """Walking chooses, as in every list."""
        self.picked.emit()
        super().focusInEvent(event)  # type: ignore[arg-type]

    def paintEvent(self, event: QPaintEvent) -> None:
        """Picture and name."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        t = theme.current()
        box = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        painter.setPen(QPen(theme.color("accent") if self.chosen else theme.color("rule"), 2 if self.chosen else 1))
        painter.setBrush(theme.color("chosen") if self.chosen else theme.color("ground"))
        painter.drawRoundedRect(box, 6, 6)
        painter.setFont(theme.font(13, theme.MEDIUM))
        line = painter.fontMetrics().height()
        name = QRectF(box.x() + theme.px(10), box.bottom() - line - theme.px(6), box.width() - theme.px(20), line)
        painter.setPen(theme.color("ink" if not self.failed else "muted"))
        painter.drawText(
            name,
            Qt.AlignmentFlag.AlignLeft,
            painter.fontMetrics().elidedText(self.kind.name, Qt.TextElideMode.ElideRight, int(name.width())),
        )
        picture = QRectF(
            box.x() + theme.px(10), box.y() + theme.px(8), box.width() - theme.px(20), name.y() - box.y() - theme.px(14)
        )
        if self.drawing is None:
            painter.setFont(theme.font(12))
            painter.setPen(theme.color("muted"))
            painter.drawText(picture, Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, self.failed or "…")
            return
        x0, y0, x1, y1 = self.seen or self.drawing.bounds()
        scale = min(picture.width() / (x1 - x0), picture.height() / (y1 - y0))
        left = picture.center().x() - scale * (x0 + x1) / 2
        base = picture.center().y() + scale * (y0 + y1) / 2
        painter.setClipRect(picture)
        assert t is not None
        paint_drawing(painter, self.drawing, (scale, left, base), self.units, words=False)
