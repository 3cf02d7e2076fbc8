"""What the log says, what is left at home, and what a year costs."""

from __future__ import annotations

import datetime
from collections.abc import Sequence

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QFrame, QGridLayout, QPushButton, QVBoxLayout, QWidget

from fuente.one_line import within
from fuente.ui import theme
from fuente.ui.label import Label, tip
from fuente.ui.side_panel import panel, section, small
from fuente.ui.told_panel import plain
from fuente.upkeep.stock import Costs, Kept
from fuente.upkeep.telling import Told

_MARKS = {"stop": "◆ ", "watch": "▲ ", "fine": ""}


class SaidCard(QFrame):
    """One sentence: what is so, why, what to do; its rank by a bar and a mark."""

    put = Signal(object)

    def __init__(self, told: Told):
        super().__init__()
        t = theme.current()
        tone = {"stop": t.stop, "watch": t.accent, "fine": t.living}[told.rank]
        self.setStyleSheet(f"SaidCard {{ background: {t.chosen}; border-left: 3px solid {tone}; border-radius: 3px; }}")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(10), theme.px(8), theme.px(10), theme.px(8))
        column.setSpacing(theme.px(2))
        head = plain(_MARKS[told.rank] + told.head)
        head.setStyleSheet("font-weight: 600; background: transparent;")
        for label, words in ((head, None), (plain(told.why), told.why), (plain(told.act), told.act)):
            if words == "":
                continue
            label.setWordWrap(True)
            if words is not None:
                label.setStyleSheet("background: transparent;")
            if words == told.act:
                label.setStyleSheet(f"background: transparent; color: {t.accent}; font-weight: 600;")
            column.addWidget(label)
        if told.put is not None:
            self.button = QPushButton("Put it into the design")
            self.button.setObjectName("link")
            self.button.setToolTip(f"Sets the pump's head left of new to {100 * told.put[1]:.0f} %.")
            self.button.clicked.connect(lambda: self.put.emit(told.put))
            column.addWidget(self.button, 0, Qt.AlignmentFlag.AlignLeft)
        self.setAccessibleName(f"{told.head}. {told.why} {told.act}")


class KeepSide(QWidget):
    """The right column."""

    put = Signal(object)  # a device and a share: what the design could learn

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.area, column = panel(16, self)
        self.area.setMinimumWidth(0)
        self.area.setMaximumWidth(16777215)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.addWidget(self.area)
        self.title = Label("What the log says")
        self.title.setObjectName("heading")
        column.addWidget(self.title)
        self.count = small("")
        column.addWidget(self.count)
        self.said = QVBoxLayout()
        self.said.setSpacing(theme.px(8))
        column.addLayout(self.said)
        column.addWidget(section("Left at home"))
        self.stock = QGridLayout()
        column.addLayout(self.stock)
        column.addWidget(section("Costs"))
        self.costs = QGridLayout()
        column.addLayout(self.costs)
        self.below = QVBoxLayout()
        column.addLayout(self.below)
        column.addStretch(1)

    def show_count(self, count: int, first: datetime.date | None) -> None:
        """How much is written."""
        since = f" since {first.day} {first:%B %Y}" if first is not None else ""
        self.count.setText(f"{count} entries{since}" if count else "Nothing is written yet: type what you see.")

    def show_told(self, rows: Sequence[Told]) -> None:
        """The sentences."""
        while self.said.count():
            item = self.said.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.deleteLater()
        for row in rows:
            card = SaidCard(row)
            card.put.connect(self.put)
            self.said.addWidget(card)

    def show_stock(self, rows: Sequence[Kept], today: datetime.date) -> None:
        """What is left, and when to order."""
        t = theme.current()
        made = []
        for kept in rows:
            if kept.left is None:
                made.append((kept.name, "not counted", t.muted, f"Write “bought 10 {within(kept.name)}” once."))
                continue
            left = "none" if kept.left < 0.5 else f"{kept.left:.0f}"
            tone, mark = t.ink, ""
            tip = f"{kept.a_year:.0f} a year."
            if kept.empty is not None:
                tip += f" Empty on {kept.empty.day} {kept.empty:%B %Y}."
            if kept.order is not None and (kept.order - today).days <= 14:
                tone = t.pumped_text
                mark = " ▲ order now" if kept.order <= today else f" ▲ order by {kept.order.day} {kept.order:%b}"
            elif kept.empty is not None:
                mark = f", to {kept.empty:%B}" if (kept.empty - today).days < 330 else f", to {kept.empty:%b %Y}"
            made.append((kept.name, left + mark, tone, tip))
        self._fill(self.stock, made)

    def show_costs(self, costs: Costs, currency: str) -> None:
        """A year behind and ahead."""
        ink = theme.current().ink
        unit = f" {currency}" if currency else ""
        rows = [
            (
                "Power, last year",
                f"{costs.power_behind:.0f}{unit}",
                ink,
                "What is plugged in, by the days since the log began, a year at most.",
            ),
            ("Spent, last year", f"{costs.used_behind:.0f}{unit}", ink, "By the log."),
            (
                "Power, next year",
                f"{costs.power_ahead:.0f}{unit}",
                ink,
                "What is plugged in, by the hours of a year; heaters left out.",
            ),
            (
                "Used up, next year",
                f"{costs.used_ahead:.0f}{unit}",
                ink,
                "; ".join(f"{name} {cost:.0f}{unit}" for name, cost in costs.by_device)
                + (f"; {costs.unpriced} things have no price" if costs.unpriced else ""),
            ),
        ]
        if costs.ready_made > 0:
            rows.append(("the bought filter instead", f"{costs.ready_made:.0f}{unit}", ink, "Your own price of it."))
        self._fill(self.costs, rows)

    def _fill(self, grid: QGridLayout, rows: Sequence[tuple[str, str, str, str]]) -> None:
        while grid.count():
            item = grid.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.deleteLater()
        for n, (name, value, tone, hint) in enumerate(rows):
            label, number = plain(name), plain(value)
            label.setWordWrap(True)
            number.setStyleSheet(f"font-weight: 600; color: {tone};")
            number.setAlignment(Qt.AlignmentFlag.AlignRight)
            for each in (label, number):
                each.setToolTip(tip(hint))
            grid.addWidget(label, n, 0)
            grid.addWidget(number, n, 1)
        grid.setColumnStretch(0, 1)
