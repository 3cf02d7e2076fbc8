"""The workshop: how the builder joins, what sheet is bought as, what is left over, the fitting in the hand, money."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QPushButton,
    QTabWidget,
    QVBoxLayout,
    QWidget,
)

from fuente.devices.base import Change, Edit
from fuente.devices.shop import EDGES, ENDS, STRESSES, WALLS, Shop
from fuente.errors import FuenteError
from fuente.typed import parse
from fuente.ui import theme
from fuente.ui.fields import ChoiceBox, QuantityEdit
from fuente.ui.label import Label
from fuente.ui.told_panel import plain
from fuente.ui.workspace import Workspace
from fuente.units import UnitSystem, shown
from fuente.workshop import entered

_JOINTS = ("glue", "clearance", "grind", "kerf", "trim", "squeeze")
_CURING = ("bead", "before_water", "cement", "cartridge", "bar")


class ShopDialog(QDialog):
    """Every value is an edit of the design, to be undone like any other."""

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.setWindowTitle("Workshop")
        self.setMinimumWidth(theme.px(560))
        column = QVBoxLayout(self)
        self.tabs = QTabWidget()
        self.error = plain("", "error")
        self.fields: dict[str, QWidget] = {}
        self.tabs.addTab(self._joints(), "Joints")
        self.tabs.addTab(self._glue(), "Curing")
        self.left = _Things(self, "leftovers", entered.leftover_words, self._leftover_form())
        self.tabs.addTab(self.left, "Leftovers")
        self.stock = _Things(self, "sheets", entered.stock_words, self._stock_form())
        self.tabs.addTab(self.stock, "Stock")
        self.hand = _Things(self, "fittings", entered.hand_words, self._hand_form())
        self.tabs.addTab(self.hand, "Fittings")
        self.tabs.addTab(self._money(), "Money, saws")
        column.addWidget(self.tabs)
        column.addWidget(self.error)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.accept)
        column.addWidget(buttons)
        workspace.refused.connect(self._say)  # not the label's own: what Qt also has stays connected to the dead

    def _say(self, sentence: str) -> None:
        self.error.setText(sentence)

    @property
    def shop(self) -> Shop:
        """As it is now."""
        return self.workspace.system.shop

    @property
    def units(self) -> UnitSystem:
        """In which sizes are shown."""
        return self.workspace.units

    def put(self, name: str, value: Any) -> bool:
        """Change one value of the workshop."""
        self.error.setText("")
        return self.workspace.edit(Edit(f"Change {name.replace('_', ' ')}", (Change(("shop", name), value),)))

    # -- values ---------------------------------------------------------------------------------------------------

    def _quantities(self, names: tuple[str, ...], form: QFormLayout) -> None:
        for name in names:
            extra = Shop.model_fields[name].json_schema_extra
            assert isinstance(extra, dict)
            box = QuantityEdit(str(extra["quantity"]), getattr(self.shop, name), self.units, extra.get("step"))  # type: ignore[arg-type]
            box.setAccessibleName(str(extra["label"]))
            box.committed.connect(lambda value, n=name: self.put(n, value))
            self.fields[name] = box
            form.addRow(str(extra["label"]), box)

    def _joints(self) -> QWidget:
        page, form = _page()
        rows = (
            ("walls", "Walls", WALLS),
            ("ends", "Ends", ENDS),
            ("edges", "Glass edges", EDGES),
            ("stress", "Stress allowed in glass", STRESSES),
        )
        for name, title, options in rows:
            box = ChoiceBox(tuple(options.items()), getattr(self.shop, name))
            box.setAccessibleName(title)
            box.chosen.connect(lambda value, n=name: self.put(n, value))
            self.fields[name] = box
            form.addRow(title, box)
        self._quantities(_JOINTS, form)
        return page

    def _glue(self) -> QWidget:
        page, form = _page()
        hours = QLineEdit(f"{self.shop.cure * 1e-3 / 3600:.3g}")
        hours.setAccessibleName("Hours of curing for a millimetre")
        hours.editingFinished.connect(lambda: self._cured(hours.text()))
        self.fields["cure"] = hours
        form.addRow("Cures in hours for each mm, by its label", hours)
        self._quantities(_CURING, form)
        return page

    def _cured(self, words: str) -> None:
        try:
            value = float(words.replace(",", "."))
        except ValueError:
            self.error.setText("Type hours, such as 9.6.")
            return
        if abs(value * 3.6e6 - self.shop.cure) > 1.0:
            self.put("cure", value * 3.6e6)

    def _money(self) -> QWidget:
        page, form = _page()
        for name, title in (
            ("currency", "Currency"),
            ("budget", "Budget"),
            ("ready_made", "A ready-made filter costs"),
            ("ready_pad", "A ready-made pad costs"),
        ):
            box = QLineEdit(f"{getattr(self.shop, name) or ''}")
            box.setAccessibleName(title)
            box.editingFinished.connect(lambda n=name, b=box: self._amount(n, b.text()))
            self.fields[name] = box
            form.addRow(title, box)
        saws = QLineEdit(", ".join(shown(s, "length", self.units, unit=False) for s in self.shop.saws))
        saws.setAccessibleName("Hole saws that you have")
        saws.setPlaceholderText("35, 44, 60 mm; empty for any")
        saws.editingFinished.connect(lambda: self._sawn(saws.text()))
        self.fields["saws"] = saws
        form.addRow("Hole saws that you have", saws)
        return page

    def _amount(self, name: str, words: str) -> None:
        if name == "currency":
            value: Any = words.strip()[:8]
        else:
            try:
                value = float(words.replace(",", ".") or 0)
            except ValueError:
                self.error.setText("Type an amount, such as 250.")
                return
        if value != getattr(self.shop, name):
            self.put(name, value)

    def _sawn(self, words: str) -> None:
        unit = "in" if self.units == UnitSystem.US else "mm"
        try:
            saws = tuple(
                sorted(
                    parse(w if any(c.isalpha() for c in w) else f"{w} {unit}", "length")
                    for w in words.split(",")
                    if w.strip()
                )
            )
        except FuenteError as error:
            self.error.setText(str(error))
            return
        if saws != self.shop.saws:
            self.put("saws", saws)

    # -- things ---------------------------------------------------------------------------------------------------

    def _leftover_form(self) -> _Form:
        kinds = (("sheet", "sheet"), ("foam", "foam"), ("pipe", "pipe"), ("fitting", "fitting"))
        return _Form(self.units, kinds, entered.leftover)

    def _stock_form(self) -> _Form:
        return _Form(self.units, (("stock", "sheet"),), entered.stock)

    def _hand_form(self) -> _Form:
        return _Form(self.units, (("hand", "bulkhead"),), entered.hand)


def _page() -> tuple[QWidget, QFormLayout]:
    page = QWidget()
    form = QFormLayout(page)
    form.setContentsMargins(theme.px(12), theme.px(12), theme.px(12), theme.px(12))
    form.setSpacing(theme.px(7))
    return page, form


class _Things(QWidget):
    """A list of things with a line to add one, and a key to take one out."""

    def __init__(self, dialog: ShopDialog, name: str, words: Any, form: _Form):
        super().__init__()
        self._dialog, self._name, self._words, self.form = dialog, name, words, form
        column = QVBoxLayout(self)
        self.list = QListWidget()
        self.list.setAccessibleName(name)
        column.addWidget(self.list, 1)
        column.addWidget(form)
        row = QHBoxLayout()
        self.add = QPushButton("Add")
        self.add.setObjectName("primary")
        self.add.clicked.connect(self._add)
        self.remove = QPushButton("Take out")
        self.remove.clicked.connect(self._remove)
        row.addWidget(self.add)
        row.addWidget(self.remove)
        row.addStretch(1)
        column.addLayout(row)
        self.refresh()

    def refresh(self) -> None:
        """What there is now."""
        self.list.clear()
        for each in getattr(self._dialog.shop, self._name):
            self.list.addItem(self._words(each, self._dialog.units))
        self.remove.setEnabled(self.list.count() > 0)

    def _add(self) -> None:
        try:
            made = self.form.made()
        except FuenteError as error:
            self._dialog.error.setText(str(error))
            return
        if self._dialog.put(self._name, (*getattr(self._dialog.shop, self._name), made)):
            self.refresh()

    def _remove(self) -> None:
        at = max(self.list.currentRow(), 0)
        now = getattr(self._dialog.shop, self._name)
        if now and self._dialog.put(self._name, (*now[:at], *now[at + 1 :])):
            self.refresh()


class _Form(QWidget):
    """A kind and its sizes, typed as builders say them: 500 x 300 x 6 mm."""

    def __init__(self, units: UnitSystem, kinds: tuple[tuple[str, str], ...], make: Any):
        super().__init__()
        self._units, self._make = units, make
        form = QFormLayout(self)
        form.setContentsMargins(0, 0, 0, 0)
        self.kind = ChoiceBox(kinds, kinds[0][0])
        self.kind.setAccessibleName("Kind")
        if len(kinds) > 1:
            form.addRow("Kind", self.kind)
        self.what = QLineEdit()
        self.what.setAccessibleName("What it is")
        self.sizes = QLineEdit()
        self.sizes.setAccessibleName("Sizes")
        self.count = QLineEdit("1")
        self.count.setAccessibleName("How many")
        self._what_label, self._sizes_label, self._count_label = Label(), Label(), Label()
        form.addRow(self._what_label, self.what)
        form.addRow(self._sizes_label, self.sizes)
        form.addRow(self._count_label, self.count)
        self.kind.chosen.connect(self._relabel)
        self._relabel(kinds[0][0])

    def _relabel(self, kind: object) -> None:
        what, sizes, count = entered.LABELS[str(kind)]
        self._what_label.setText(what[0])
        self.what.setPlaceholderText(what[1])
        self._sizes_label.setText(sizes[0])
        self.sizes.setPlaceholderText(sizes[1] if self._units == UnitSystem.METRIC else sizes[2])
        self.sizes.setVisible(bool(sizes[0]))
        self._sizes_label.setVisible(bool(sizes[0]))
        self._count_label.setText(count)
        self.count.setText("" if count == "Price" else "1")
        self.count.setVisible(bool(count))
        self._count_label.setVisible(bool(count))

    def made(self) -> Any:
        """What was typed. Raises EntryError."""
        return self._make(
            str(self.kind.value()),
            self.what.text().strip(),
            entered.sizes(self.sizes.text(), self._units),
            self.count.text().strip(),
        )
