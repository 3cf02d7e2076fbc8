"""Which tanks a filter is duplicated to."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from fuente.devices.filtering import FilterSpec
from fuente.document.system import System
from fuente.one_line import within
from fuente.ui import theme
from fuente.ui.label import Label

_ID = Qt.ItemDataRole.UserRole


class TankPicker(QDialog):
    """A list of the other tanks to tick; those that have such a filter already say so and start without a tick."""

    def __init__(self, system: System, spec: FilterSpec, parent: QWidget | None = None):
        super().__init__(parent)
        self.setWindowTitle(f"Duplicate {within(spec.name)}")
        self.resize(theme.px(380), theme.px(460))
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(20), theme.px(16), theme.px(20), theme.px(16))
        column.setSpacing(theme.px(8))
        words = Label(
            f"The same {within(spec.name)}, its air with it, into each tank that is ticked. One undo takes all of it"
            " back."
        )
        words.setObjectName("subheading")
        words.setWordWrap(True)
        column.addWidget(words)
        self.list = QListWidget()
        self.list.setAccessibleName("Tanks")
        has = {f.tank for f in system.filters if f.kind == spec.kind}
        for tank in system.tanks:
            if tank.id == spec.tank:
                continue
            item = QListWidgetItem(tank.name + (" · has one" if tank.id in has else ""))
            item.setData(_ID, tank.id)
            item.setFlags(Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Unchecked if tank.id in has else Qt.CheckState.Checked)
            self.list.addItem(item)
        self.list.itemChanged.connect(lambda _: self._count())
        column.addWidget(self.list, 1)
        row = QHBoxLayout()
        for name, state in (("All", Qt.CheckState.Checked), ("None", Qt.CheckState.Unchecked)):
            button = QPushButton(name)
            button.clicked.connect(lambda _=False, s=state: self._all(s))
            row.addWidget(button)
        row.addStretch(1)
        cancel = QPushButton("Cancel")
        cancel.clicked.connect(self.reject)
        row.addWidget(cancel)
        self.go = QPushButton()
        self.go.setObjectName("primary")
        self.go.setDefault(True)
        self.go.clicked.connect(self.accept)
        row.addWidget(self.go)
        column.addLayout(row)
        self._count()

    def tanks(self) -> list[str]:
        """Ids of the ticked tanks."""
        items = (self.list.item(i) for i in range(self.list.count()))
        return [str(item.data(_ID)) for item in items if item.checkState() == Qt.CheckState.Checked]

    def _all(self, state: Qt.CheckState) -> None:
        for i in range(self.list.count()):
            self.list.item(i).setCheckState(state)

    def _count(self) -> None:
        count = len(self.tanks())
        self.go.setText(f"Duplicate to {count} tank{'' if count == 1 else 's'}")
        self.go.setEnabled(count > 0)
