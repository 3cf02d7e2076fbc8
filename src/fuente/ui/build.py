"""Build: panels and parts, each panel to scale with its holes, and the files for the bench."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from fuente.devices.pieces import Panel
from fuente.errors import FuenteError
from fuente.ui import theme
from fuente.ui.grid import Cell, Grid, Line
from fuente.ui.stage_page import StagePage
from fuente.ui.workspace import Workspace
from fuente.units import UnitSystem, shown
from fuente.workshop.bill import Bill, bill, table
from fuente.workshop.export import export_csv, export_panels_dxf, export_section_dxf, export_svg, stem
from fuente.workshop.words import about


class PanelView(QWidget):
    """A panel to scale with its sizes and holes."""

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.setObjectName("ground")
        self.setMinimumHeight(theme.px(150))
        self.setAccessibleName("Panel to scale")
        self._panel: Panel | None = None
        self._units = UnitSystem.METRIC

    def show_panel(self, panel: Panel | None, units: UnitSystem) -> None:
        """Show a panel."""
        self._panel, self._units = panel, units
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Outline, holes, dimensions."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), theme.color("ground"))
        panel = self._panel
        if panel is None:
            p.setPen(theme.color("muted"))
            p.setFont(theme.font(12))
            p.drawText(
                QRectF(self.rect()), Qt.AlignmentFlag.AlignCenter, "Choose a panel in the list to see it to scale."
            )
            return
        pad = theme.px(46)
        scale = min((self.width() - 2 * pad) / panel.length, (self.height() - 2 * pad) / panel.width)
        w, h = panel.length * scale, panel.width * scale
        x, y = (self.width() - w) / 2, (self.height() - h) / 2
        fill = QColor(theme.color("water_top"))
        fill.setAlpha(70)
        p.setPen(QPen(theme.color("line"), 1.6))
        p.setBrush(fill)
        p.drawRect(QRectF(x, y, w, h))
        p.setBrush(theme.color("ground"))
        p.setFont(theme.font(11, theme.MEDIUM))
        for hole in panel.holes:
            if hole.x is None or hole.y is None:
                continue
            centre = QPointF(x + hole.x * scale, y + h - hole.y * scale)
            p.setPen(QPen(theme.color("pumped"), 1.4))
            p.drawEllipse(centre, hole.diameter * scale / 2, hole.diameter * scale / 2)
            p.setPen(theme.color("ink"))
            words = f"{hole.name}\n{shown(hole.diameter, 'length', self._units)}"
            room = QRectF(centre.x() - theme.px(60), centre.y() - theme.px(20), theme.px(120), theme.px(40))
            p.drawText(room, Qt.AlignmentFlag.AlignCenter, words)
        p.setPen(theme.color("muted"))
        words = shown(panel.length, "length", self._units)
        p.drawText(QRectF(x, y + h + theme.px(6), w, theme.px(20)), Qt.AlignmentFlag.AlignHCenter, words)
        p.save()
        p.translate(x - theme.px(8), y + h / 2)
        p.rotate(-90)
        words = shown(panel.width, "length", self._units)
        p.drawText(QPointF(-p.fontMetrics().horizontalAdvance(words) / 2, 0), words)
        p.restore()
        p.drawText(
            QRectF(theme.px(10), theme.px(6), self.width() - theme.px(20), theme.px(22)),
            Qt.AlignmentFlag.AlignLeft,
            f"1 : {1 / (scale / (self.logicalDpiX() / 25.4) / 1000):.0f}",
        )
        p.end()


class BuildPage(StagePage):
    """The list at the left; the chosen panel, the files and the cautions at the right."""

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._bill = Bill()
        row = QHBoxLayout(self)
        row.setContentsMargins(theme.px(16), theme.px(14), theme.px(16), theme.px(14))
        row.setSpacing(theme.px(16))
        row.addLayout(self._left(), 1)
        row.addWidget(self._right())
        workspace.changed.connect(self.refresh)
        self.refresh()

    def _left(self) -> QVBoxLayout:
        """The list."""
        left = QVBoxLayout()
        self.head = QLabel()
        self.head.setObjectName("heading")
        self.sub = QLabel()
        self.sub.setObjectName("subheading")
        self.sub.setWordWrap(True)
        left.addWidget(self.head)
        left.addWidget(self.sub)
        self.table = Grid(("Count", "What", "Size", "Note"), "Panels and parts")
        self.table.setWordWrap(False)
        for column, width in ((0, 60), (1, 224), (2, 200)):
            self.table.setColumnWidth(column, theme.px(width))
        self.table.horizontalHeader().setStretchLastSection(True)
        self.table.chosen.connect(self._chosen)
        left.addWidget(self.table, 1)
        return left

    def _right(self) -> QScrollArea:
        """The chosen panel, the files, the cautions."""
        right = QVBoxLayout()
        right.setSpacing(theme.px(8))
        self.view = PanelView()
        right.addWidget(self.view, 1)
        self.about = QLabel()
        self.about.setWordWrap(True)
        self.about.setObjectName("why")
        right.addWidget(self.about)
        right.addWidget(_section("Files for the bench"))
        right.addLayout(self._files())
        self.done = QLabel()
        self.done.setObjectName("quiet")
        self.done.setWordWrap(True)
        right.addWidget(self.done)
        right.addWidget(_section("Before you cut, drill and fill"))
        self.cautions = QLabel()
        self.cautions.setWordWrap(True)
        right.addWidget(self.cautions)
        holder = QWidget()
        holder.setLayout(right)
        area = QScrollArea()  # in large text it is higher than a small screen
        area.setWidgetResizable(True)
        area.setFrameShape(QScrollArea.Shape.NoFrame)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        holder.setObjectName("panel")
        area.setWidget(holder)
        area.setFixedWidth(theme.px(456))
        return area

    def _files(self) -> QGridLayout:
        """A button for each file."""
        grid = QGridLayout()
        grid.setSpacing(theme.px(8))
        files = (
            ("Plan, PDF", "plan.pdf", self._pdf, "Section, list and cautions to print"),
            ("List, CSV", "parts.csv", export_csv, "Everything to order, for a spreadsheet"),
            ("Panels, DXF", "panels.dxf", export_panels_dxf, "Panels and holes at 1:1 in millimetres"),
            ("Section, DXF", "section.dxf", export_section_dxf, "The section at 1:1 in millimetres"),
            ("Section, SVG", "section.svg", export_svg, "The section at 1:1 in millimetres"),
        )
        for at, (name, suffix, act, tip) in enumerate(files):
            button = QPushButton(name)
            button.setToolTip(tip)
            button.setStyleSheet(f"padding: {theme.px(6)}px {theme.px(6)}px;")
            button.clicked.connect(lambda _=False, s=suffix, a=act: self._export(s, a))
            grid.addWidget(button, at // 3, at % 3)
        return grid

    def refresh(self) -> None:
        """Follow the workspace."""
        w = self.workspace
        self._bill = bill(w.analysis)
        panels = self._bill.panels
        mass = sum(p.mass * p.count for p in panels if p.material == "glass")
        sheets = sum(p.count for p in panels)
        self.head.setText("To order and cut")
        heavy = max((p.mass for p in panels), default=0.0)
        lines = f"{len(self._bill.lines)} {'other ' if sheets else ''}lines, in the order of the build"
        glass = f"{shown(mass, 'mass', w.units)} of glass, " if mass else ""
        self.sub.setText(
            f"{sheets} panels, {glass}the heaviest {shown(heavy, 'mass', w.units)}; {lines}" if sheets else lines
        )
        self.view.setVisible(bool(panels))
        self.about.setVisible(bool(panels))
        self.table.show_lines(_lines(self._bill, w.units))
        if self.table.current() is None:
            drilled = [p for p in panels if p.holes]
            first = next(iter([*drilled, *panels]), None)
            if first is not None:
                self.table.choose(first.id)
        self._chosen()
        self.cautions.setText("".join(f"<p style='margin:0 0 4px 0'>{c}</p>" for c in self._bill.cautions))

    def _chosen(self) -> None:
        key, units = self.table.current(), self.workspace.units
        panel = next((p for p in self._bill.panels if p.id == key), None)
        self.view.show_panel(panel, units)
        if panel is None:
            line = next((line for line in self._bill.lines if line.piece.id == key), None)
            said = line.row(units).note if line else ""
            self.about.setText(said or "Choose a panel to see how it is cut and why it holds.")
            return
        words = [f"{panel.name}, {shown(panel.mass, 'mass', units)} each; {about(panel, units)}."]
        if panel.needed:
            words.append(
                f"Brim full, or with one side empty, it needs {shown(panel.needed, 'fine_length', units)} by the plate"
                f" model; at {shown(panel.thickness, 'fine_length', units)} its safety is {panel.safety:.1f} (3.8 is"
                " usual for glass)."
            )
        if panel.mass > self.workspace.system.space.lift:
            words.append("Two people lift it.")
        self.about.setText(" ".join(words))

    def _pdf(self, analysis, path: Path) -> None:  # type: ignore[no-untyped-def]
        from fuente.ui.pdf import export_pdf

        export_pdf(analysis, path)

    def _export(self, suffix: str, act) -> None:  # type: ignore[no-untyped-def]
        analysis = self.workspace.analysis
        folder = self.workspace.path.parent if self.workspace.path else Path.home()
        start = folder / f"{stem(analysis)}-{suffix}"
        name, _ = QFileDialog.getSaveFileName(self, "Write the file", str(start), f"*{start.suffix}")
        if name:
            self.write(Path(name), act)

    def write(self, path: Path, act) -> None:  # type: ignore[no-untyped-def]
        """Write a file and say so, or say why not."""
        try:
            act(self.workspace.analysis, path)
        except (FuenteError, OSError) as error:
            self.done.setText(f"Not written: {error}")
            return
        self.done.setText(f"Written: {path}")


def _lines(total: Bill, units: UnitSystem) -> list[Line]:
    """The list's rows, a heading before each group."""
    keys = [p.id for p in total.panels] + [line.piece.id for line in total.lines]
    found: list[Line] = []
    group = ""
    for key, each in zip(keys, table(total, units), strict=True):
        if each.group != group:
            group = each.group
            found.append(Line((Cell(group, bold=True),)))
        words = (each.what, each.size, each.note)
        found.append(Line((Cell(each.many, right=True), *(Cell(t, tip=t) for t in words)), key))
    return found


def _section(words: str) -> QLabel:
    label = QLabel(words)
    label.setObjectName("section")
    return label
