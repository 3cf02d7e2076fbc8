"""Media & load by hand: what filters carry, what is used up, weights typed for litres."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from ui_hands import type_into

from devices_of import sumps
from fuente.demo.trough import trough
from fuente.study.analysis import Analysis
from fuente.study.carries import carries


@pytest.fixture
def page(window):
    """The page with the trough, whose filters stand in a row."""
    window.set_document(trough(), None)
    window.show_stage("media")
    window.page("media").view("load")
    return window.page("media")


def test_each_filter_and_all_of_it_with_two_figures(page):
    found = carries(Analysis(trough()))
    assert page.carries.words(0) == [c.name for c in found]
    feeds = [float(w.split()[0].replace("\u202f", "")) for w in page.carries.words(2)]
    assert feeds == pytest.approx([c.feed * 86400e3 for c in found], rel=0.05)
    assert page.carries.words(5)[:2] == ["its flow sets the pace"] * 2


def test_one_filter_alone_is_all_of_it(window):
    window.show_stage("media")
    window.page("media").view("load")
    assert window.page("media").carries.words(0) == ["Sump"]


def test_foam_floss_and_chemical_media_are_compared_for_the_water(page, window):
    page._turn(1)
    table = page.used_table
    assert table.isVisible()
    assert not page.media_table.isVisible()
    assert not page.add.isVisible()
    assert table.words(0)[:4] == [f"Foam, {ppi} ppi" for ppi in (10, 20, 30, 45)]
    water = window.workspace.situation.solution.volume["trough"]
    carbon = table.words(0).index("Activated carbon")
    assert table.words(6)[carbon] == f"{water:.3g} L, {water * 0.48:.1f} kg"
    assert "2 4" in page.media_words.text().replace("\u202f", " ")
    window.switch_theme()
    after = window.page("media")
    assert after.tables.currentWidget() is after.used_table
    window.switch_theme()
    QTest.keyClick(window, Qt.Key.Key_U, Qt.KeyboardModifier.ControlModifier)
    assert "Per gallon" in [
        window.page("media").used_table.model().headerData(c, Qt.Orientation.Horizontal) for c in range(8)
    ]
    window.switch_units()


def test_media_are_typed_in_kilograms(window):
    """The reading room's carriers weigh 145 kg/m³ dry: a kilogram and a half are 10.3 L."""
    window.workspace.select("sump.bed")
    field = window.page("water").card.field(("devices", "sump", "chambers", 2, "fill", "volume"))
    assert "kg dry; type litres or kilograms" in field.toolTip()
    type_into(field, "1.5 kg")
    assert sumps(window.workspace.system)[0].chambers[2].fill.volume == pytest.approx(1.5 / 145)
    type_into(field, "9 L")
    assert sumps(window.workspace.system)[0].chambers[2].fill.volume == pytest.approx(0.009)


def test_rules_for_how_much_are_shown_and_typed(window):
    from ui_hands import type_into

    window.show_stage("media")
    page = window.page("media")
    page.view("load")
    page._turn(2)
    rows = [[page.amounts_table.rows.index(r, c).data() for c in range(5)] for r in range(3)]
    assert [row[0] for row in rows] == ["Surface for the feed", "Litres of media", "Kilograms of media"]
    assert rows[2][2].endswith("◆")
    assert not page.lift.isVisible()
    assert "Only surface knows the feed" in page.media_words.text()
    type_into(page.schools.fields["kilos"], "0.4 kg")
    assert window.workspace.system.schools.kilos == pytest.approx(0.4)
    assert not page.amounts_table.rows.index(2, 2).data().endswith("◆")
    window.workspace.undo()
    assert window.workspace.system.schools.kilos == 1.0
    page._turn(0)
    assert page.lift.isVisible()
