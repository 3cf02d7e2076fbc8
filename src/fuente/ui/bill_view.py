"""The bill as a table: prices are typed into it."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QVBoxLayout, QWidget

from fuente.devices.shop import Shop
from fuente.ui import theme
from fuente.ui.grid import Cell, Grid, Line
from fuente.units import UnitSystem
from fuente.workshop.purchase import Bought, Purchase, amount_of, unit_of
from fuente.workshop.told import Told, money, money_fine


class BillView(QWidget):
    """What is bought; a price that is typed counts as the builder's own."""

    priced = Signal(str, object)  # key, amount or None

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.setObjectName("ground")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(16), 0, theme.px(16), 0)
        self.table = Grid(
            ("What", "How much", "One costs", "Cost", "Price from"), "What is bought", right=(1, 2, 3), parent=self
        )
        self.table.fits(theme.px(40))
        self.table.types()
        self.table.rows.typed.connect(self._typed)
        column.addWidget(self.table)
        self._purchase = Purchase((), 0.0, 0.0)
        self._shop, self._units = Shop(), UnitSystem.METRIC

    def show_purchase(self, total: Purchase, shop: Shop, units: UnitSystem) -> None:
        """Show what is bought."""
        self._purchase, self._shop, self._units = total, shop, units
        lines: list[Line] = []
        group = ""
        for each in total.lines:
            if each.group != group:
                group = each.group
                lines.append(Line((Cell(group, bold=True),)))
            lines.append(self._line(each))
        self.table.show_lines(lines)

    def _line(self, each: Bought) -> Line:
        unit, size = unit_of(each, self._units)
        much = "" if each.there and not each.amount else amount_of(each, self._units)
        if each.there:
            much += f"{' + ' if much else ''}{each.there:.0f} there"
        one = "price?" if each.each is None else f"{each.each * size:.4g}"
        cost = "" if each.cost is None else money_fine(each.cost, self._shop)
        tint = "" if each.each is not None else "accent"
        tip = f"Price of one {unit}; type your own, empty it for none"
        return Line(
            (
                Cell(each.what, tip=each.what),
                Cell(much, right=True),
                Cell(one, right=True, typed=True, tint=tint, tip=tip),
                Cell(cost, right=True),
                Cell(each.source or "not given", tint="" if each.source else "muted"),
            ),
            each.key,
        )

    def show_group(self, group: str) -> None:
        """Scroll to a group."""
        for k, line in enumerate(self.table.rows.lines):
            if line.heads and line.cells[0].text == group:
                self.table.scrollTo(self.table.model().index(k, 0), Grid.ScrollHint.PositionAtTop)
                return

    def _typed(self, row: int, column: int, words: str) -> None:
        key = str(self.table.rows.lines[row].of)
        text = words.strip().replace(",", ".")
        if not text:
            self.priced.emit(key, None)
            return
        try:
            amount = float(text)
        except ValueError:
            return
        each = next(b for b in self._purchase.lines if b.key == key)
        if 0 <= amount <= 1e6:
            self.priced.emit(key, amount / unit_of(each, self._units)[1])

    def told(self) -> Told:
        """What it comes to."""
        total, shop = self._purchase, self._shop
        year = total.power + total.used
        rows = [
            ("Lines without a price", f"{total.unknown}"),
            ("Power for a year, without heaters", money(total.power, shop)),
            ("Foam used up in a year", money(total.used, shop)),
        ]
        if shop.budget:
            left = shop.budget - total.total
            words = f"{money(left, shop)} left" if left >= 0 else f"{money(-left, shop)} over"
            rows.append((f"Budget of {money(shop.budget, shop)}", words))
        if shop.ready_made:
            saves = shop.ready_made - total.total
            words = f"{money(saves, shop)} dearer" if saves >= 0 else f"{money(-saves, shop)} cheaper"
            rows.append((f"Ready-made at {money(shop.ready_made, shop)}", words))
        why = (
            "Typical prices stand for sheet, foam and media until you type your own. What has no price yet is not in"
            " the sum. What you have already counts nothing."
        )
        figures = ((money(total.total, shop), "", "to buy, as far as it is known"), (money(year, shop), "", "a year"))
        return Told("The bill", "", figures, tuple(rows), why)
