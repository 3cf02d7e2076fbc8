"""A name is shown as it stands on every page: no label, tooltip or table head reads it as markup."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QAbstractItemView, QLabel, QPushButton, QTableView, QWidget

from fuente.demo import DEMOS
from fuente.ui.label import RichLabel
from fuente.ui.stages import STAGES
from nasty import MARKUP, named


def tips(window):
    """Every tooltip: of widgets, and of the cells of tables."""
    for widget in window.findChildren(QWidget):
        yield widget.toolTip()
    for view in window.findChildren(QAbstractItemView):
        model = view.model()
        if model is not None:
            for row in range(min(model.rowCount(), 60)):
                for column in range(model.columnCount() if isinstance(view, QTableView) else 1):
                    yield str(model.data(model.index(row, column), Qt.ItemDataRole.ToolTipRole) or "")


@pytest.mark.parametrize("key", ["reading-room", "courtyard-trough"])
def test_no_page_reads_a_name_as_markup(window, key, qapp):
    window.set_document(named(DEMOS[key](), MARKUP), None)
    seen = rich = 0
    for stage in STAGES:
        window.show_stage(stage)
        page = window.page(stage)
        if hasattr(page, "work_now"):
            page.work_now()
        qapp.processEvents()
    for label in window.findChildren(QLabel):
        seen += "<img" in label.text()
        if isinstance(label, RichLabel):
            rich += 1
            assert "<img" not in label.text()
        else:
            assert "</" not in label.text()  # no markup of Fuente's own in a label that is plain
            assert label.textFormat() == Qt.TextFormat.PlainText, (label.text(), type(label), label.parent())
    assert seen >= 5
    assert rich
    assert not [words for words in tips(window) if "<img" in words and Qt.mightBeRichText(words)]


def test_the_reason_of_every_figure_shows_the_name(window):
    """Its own markup, the builder's name escaped in it: walked station by station, each of its figures opened."""
    window.set_document(named(DEMOS["reading-room"](), "<u>x</u>"), None)
    page = window.page("water")
    seen = 0
    for row in range(page.list.count()):
        page.list.setCurrentRow(row)
        for button in page.card.findChildren(QPushButton):
            if button.toolTip() == "Show why":
                button.click()
                why = page.card._why_label
                assert all("<u>" not in label.text() for label in page.card.findChildren(RichLabel))
                seen += "<b>" in why.text()
    assert seen > 20


def test_messages_are_plain(window):
    window.message.say("<b>x</b>")
    (said,) = [label for label in window.message.findChildren(QLabel) if label.text() == "<b>x</b>"]
    assert said.textFormat() == Qt.TextFormat.PlainText
