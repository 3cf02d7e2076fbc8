"""Build: panels and parts, each panel to scale with its holes, and the files for the bench."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QAbstractItemView,
    QFileDialog,
    QGridLayout,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QScrollArea,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from fuente.devices.base import Panel, Parts
from fuente.errors import FuenteError
from fuente.ui import theme
from fuente.ui.workspace import Workspace
from fuente.units import UnitSystem, shown
from fuente.workshop.bill import in_order, parts, table
from fuente.workshop.export import export_csv, export_panels_dxf, export_section_dxf, export_svg, stem


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
        for hx, hy, diameter, name in panel.holes:
            centre = QPointF(x + hx * scale, y + h - hy * scale)
            p.setPen(QPen(theme.color("pumped"), 1.4))
            p.drawEllipse(centre, diameter * scale / 2, diameter * scale / 2)
            p.setPen(theme.color("ink"))
            words = f"{name} {shown(diameter, 'length', self._units)}"
            fm = p.fontMetrics()
            p.drawText(QPointF(centre.x() - fm.horizontalAdvance(words) / 2, centre.y() + fm.height() / 3), words)
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


class BuildPage(QWidget):
    """The list at the left; the chosen panel, the files and the cautions at the right."""

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self._parts = Parts()
        row = QHBoxLayout(self)
        row.setContentsMargins(theme.px(16), theme.px(14), theme.px(16), theme.px(14))
        row.setSpacing(theme.px(16))
        left = QVBoxLayout()
        self.head = QLabel()
        self.head.setObjectName("heading")
        self.sub = QLabel()
        self.sub.setObjectName("subheading")
        self.sub.setWordWrap(True)
        left.addWidget(self.head)
        left.addWidget(self.sub)
        self.table = QTableWidget(0, 4)
        self.table.setHorizontalHeaderLabels(["Count", "What", "Size", "Note"])
        self.table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.table.verticalHeader().hide()
        self.table.setShowGrid(False)
        self.table.setWordWrap(False)
        self.table.setAccessibleName("Panels and parts")
        header = self.table.horizontalHeader()
        for column, width in ((0, 60), (1, 232), (2, 170)):
            header.setSectionResizeMode(column, QHeaderView.ResizeMode.Interactive)
            self.table.setColumnWidth(column, theme.px(width))
        header.setStretchLastSection(True)
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        self.table.itemSelectionChanged.connect(self._chosen)
        left.addWidget(self.table, 1)
        row.addLayout(left, 1)
        right = QVBoxLayout()
        right.setSpacing(theme.px(8))
        self.view = PanelView()
        right.addWidget(self.view, 1)
        self.about = QLabel()
        self.about.setWordWrap(True)
        self.about.setObjectName("why")
        right.addWidget(self.about)
        right.addWidget(_section("Files for the bench"))
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
        right.addLayout(grid)
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
        row.addWidget(area)
        workspace.changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Follow the workspace."""
        w = self.workspace
        self._parts = parts(w.analysis)
        panels = in_order(self._parts)
        mass = sum(p.mass * p.count for p in panels if p.material == "glass")
        sheets = sum(p.count for p in panels)
        self.head.setText("To order and cut")
        heavy = max((p.mass for p in panels), default=0.0)
        lines = f"{len(self._parts.parts)} {'other ' if sheets else ''}lines, in the order of the build"
        glass = f"{shown(mass, 'mass', w.units)} of glass, " if mass else ""
        self.sub.setText(
            f"{sheets} panels, {glass}the heaviest {shown(heavy, 'mass', w.units)}; {lines}" if sheets else lines
        )
        rows = table(self._parts, w.units)
        self.view.setVisible(bool(panels))
        self.about.setVisible(bool(panels))
        chosen = self.table.currentRow()
        self.table.blockSignals(True)
        self.table.clearSpans()
        self.table.setRowCount(0)
        self._panel_at: dict[int, Panel] = {}
        group = ""
        for i, (kind, count, what, size, note) in enumerate(rows):
            if kind != group:
                group = kind
                at = self.table.rowCount()
                self.table.insertRow(at)
                item = QTableWidgetItem(kind)
                item.setFont(theme.font(12, theme.BOLD))
                item.setFlags(Qt.ItemFlag.ItemIsEnabled)
                self.table.setItem(at, 0, item)
                self.table.setSpan(at, 0, 1, 4)
            at = self.table.rowCount()
            self.table.insertRow(at)
            if i < len(panels):
                self._panel_at[at] = panels[i]
            for column, text in enumerate((count, what, size, note)):
                item = QTableWidgetItem(text)
                item.setToolTip(text)
                if column == 0:
                    item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
                self.table.setItem(at, column, item)
        self.table.blockSignals(False)
        self.table.verticalHeader().setDefaultSectionSize(theme.px(27))
        if chosen < 0:
            plates = [r for r, p in self._panel_at.items() if p.holes]
            chosen = plates[0] if plates else next(iter(self._panel_at), -1)
        if 0 <= chosen < self.table.rowCount():
            self.table.selectRow(chosen)
        self._chosen()
        self.cautions.setText("".join(f"<p style='margin:0 0 4px 0'>{c}</p>" for c in self._parts.cautions))

    def _chosen(self) -> None:
        panel = self._panel_at.get(self.table.currentRow())
        units = self.workspace.units
        self.view.show_panel(panel, units)
        if panel is None:
            item = self.table.item(self.table.currentRow(), 3) if self.table.currentRow() >= 0 else None
            self.about.setText(
                item.text() if item and item.text() else "Choose a panel to see how it is cut and why it holds."
            )
            return
        words = [f"{panel.name}, {shown(panel.mass, 'mass', units)} each; {panel.note}."]
        if panel.needed:
            words.append(
                f"Brim full, or with one side empty, it needs {shown(panel.needed, 'fine_length', units)} by the plate"
                f" model; at {shown(panel.thickness, 'fine_length', units)} its safety is {panel.safety:.1f} (3.8 is"
                " usual for glass)."
            )
        if panel.mass > 20:
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


def _section(words: str) -> QLabel:
    label = QLabel(words)
    label.setObjectName("section")
    return label
