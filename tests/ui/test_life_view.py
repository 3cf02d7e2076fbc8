"""Living water by hand: limits typed, a start chosen, charts turned, pinned, read and saved."""

from __future__ import annotations

import csv
import datetime

import pytest
from PySide6.QtCore import QDate, Qt, QThreadPool
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel
from ui_hands import type_into

from fuente.demo.nursery import nursery
from fuente.devices.base import Change, Edit
from fuente.document.system import set_value
from fuente.life.load import THETA
from fuente.shown.carrying import carrying, two_digits
from fuente.study.cleaned import cleaned
from fuente.study.known import analysed
from fuente.study.limits import Limits, Pace, said
from fuente.ui import life_view
from fuente.ui.limit_bars import LimitBars
from fuente.units import UnitSystem


@pytest.fixture
def life(window):
    """The view of the reading room, worked out."""
    window.show_stage("media")
    view = window.page("media").life
    view.work_now()
    return view


def texts(widget):
    return [label.text() for label in widget.findChildren(QLabel)]


def click(button):
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)


def test_a_bar_for_each_place_and_what_it_carries(life, demo):
    paces = Limits(analysed(demo)).paces
    bars = life.bars.widget().findChildren(LimitBars)
    assert [b.pace.place.cell for b in bars] == [p.place.cell for p in paces]
    held = bars[0].held_back()
    assert max(held, key=held.get) == "ammonia"
    assert "waits for ammonia" in life.pace.text()
    feed = Limits(analysed(demo)).carries.feed * 86400e3
    card = texts(life.card.parentWidget())
    assert f"{two_digits(feed):.0f} g/day" in card
    assert any("of feed carried" in t for t in card)
    # Nitrate is over its limit, and says so by a mark as well as by colour.
    assert any(t.endswith("mg/L ◆") for t in card + texts(life))


def test_how_long_a_bar_is_by_hand(qtbot, demo):
    """Whole where a place would do all that more by it: half more with half more surface, THETA³ with 3 °C more."""
    place = Limits(analysed(demo)).paces[0].place
    gains = {"surface": 0.25, "contact": 0.5, "oxygen": 3.0, "temperature": THETA**3 - 1, "ph": 0.0}
    bars = LimitBars(Pace(place, 0.9, 1.0, 1.0, gains, "oxygen"), UnitSystem.METRIC)
    qtbot.addWidget(bars)
    whole = {"surface": 0.5, "contact": 0.5, "oxygen": 1.0, "temperature": 1.0, "ph": 0.0, "ammonia": 0.1}
    assert bars.held_back() == pytest.approx(whole, abs=1e-3)
    # What waits for ammonia is held back by the rest only as far as it is at work: at IDLE of what it could, whole.
    waits = LimitBars(Pace(place, 0.4, 1.0, 1.0, gains, "ammonia"), UnitSystem.METRIC)
    qtbot.addWidget(waits)
    part = {k: 0.5 * v for k, v in whole.items()} | {"ammonia": 0.6}
    assert waits.held_back() == pytest.approx(part, abs=1e-3)


def test_a_limit_is_typed_and_undone(life, window):
    before = life.carries.big[0][0]
    type_into(life.keeping.fields["oxygen_limit"], "7 mg/L")
    assert window.workspace.system.keeping.oxygen_limit == pytest.approx(7e-3)
    life.work_now()
    assert life.carries.big[0][0] != before
    window.workspace.undo()
    assert window.workspace.system.keeping.oxygen_limit == pytest.approx(4e-3)
    assert "4" in life.keeping.fields["oxygen_limit"].text()


def test_what_cannot_be_typed_is_said(life, window):
    type_into(life.keeping.fields["share"], "300 %")
    assert window.workspace.system.keeping.share == 0.25
    type_into(life.keeping.dose, "50 mg/L")
    assert window.workspace.system.keeping.dose == 2e-3


def test_a_start_is_chosen(life, window):
    assert "ammonium chloride" in life.words.text()
    assert life.keeping.dose.isVisible()
    assert not life.keeping.moved.isVisible()
    life.keeping.way.chosen.emit("seeded")
    assert life.keeping.moved.isVisible()
    type_into(life.keeping.moved, "20 %")
    life.work_now()
    assert window.workspace.system.keeping.start == "seeded"
    assert window.workspace.system.keeping.moved == pytest.approx(0.2)
    assert "from the first day" in life.words.text()


@pytest.mark.parametrize(
    ("key", "says", "lines"),
    [("nitrate", "In the long run", 1), ("cut", "hours", 3), ("warmth", "all dead", 7)],
)
def test_charts_are_turned(life, key, says, lines):
    click(life.buttons[key])
    assert life.shown_chart == key
    life.work_now()
    assert says in life.words.text()
    assert len(life.chart.chart.lines) == lines
    assert life.chart.accessibleDescription() == life.words.text()


def test_values_under_the_pointer(life):
    life.turn("nitrate")
    life.work_now()
    chart = life.chart.chart
    life.chart.show_values(float(chart.times[40]) - 1e-6)
    rows = life.chart.said.splitlines()
    assert rows[0].endswith("weeks")
    assert f"{chart.lines[0].values[40]:.3g}" in rows[1]
    assert "to" in rows[1]


def test_a_variant_is_pinned_beside_the_next(life, window):
    life.turn("nitrate")
    life.work_now()
    first = life.chart.chart
    click(life.pin)
    assert life.pin.text() == "Let the pinned go"
    window.workspace.edit(set_value("More", ("keeping", "share"), 0.6))
    life.work_now()
    assert life.chart.pinned is first
    assert life.chart.chart.lines[0].values.max() < first.lines[0].values.max()
    top = life.chart.plot.viewRange()[1][1]
    assert top > first.lines[0].values.max()
    click(life.pin)
    assert life.chart.pinned is None


def test_a_chart_is_saved_as_picture_drawing_and_table(life, tmp_path):
    life.turn("nitrate")
    life.work_now()
    for ending in ("png", "svg", "csv"):
        life.write(tmp_path / f"chart.{ending}")
    assert QImage(str(tmp_path / "chart.png")).width() > 300
    assert "<svg" in (tmp_path / "chart.svg").read_text()[:600]
    rows = list(csv.reader((tmp_path / "chart.csv").open()))
    assert rows[0] == ["weeks", "nitrate (NO₃), mg/L", "nitrate (NO₃), least, mg/L", "nitrate (NO₃), most, mg/L"]
    assert len(rows) == len(life.chart.chart.times) + 1
    assert float(rows[7][1]) == pytest.approx(life.chart.chart.lines[0].values[6], rel=1e-4)
    life.write(tmp_path / "gone" / "chart.csv")
    assert "could not be saved" in life.error.text()


def test_it_is_worked_out_aside_when_shown(window, qtbot, monkeypatch):
    monkeypatch.setattr(life_view, "SOON", 1)
    window.set_document(nursery(), None)
    window.show_stage("media")
    view = window.page("media").life
    qtbot.waitUntil(lambda: view.carries is not None and view.chart.chart is not None, timeout=60_000)
    assert view.tank.isVisible()
    # What is worked out of a design that is no more is not shown.
    view.work()
    window.workspace.edit(set_value("Feed", ("devices", "tub-1", "feed"), 0.0))
    assert view._of is None


def test_a_start_has_a_day_and_tests(life, window, monkeypatch):
    from fuente.ui.tested_dialog import TestedDialog

    life.keeping.started.setDate(QDate(2026, 11, 1))
    assert window.workspace.system.keeping.started == "2026-11-01"

    def answered(dialog):
        assert not dialog.made
        dialog.accept()
        assert "Type what a test read" in dialog.error.text()
        type_into(dialog.fields["ammonia"], "5 kg/L")
        assert dialog.error.text()
        dialog.day.setDate(QDate(2026, 11, 14))
        type_into(dialog.fields["ammonia"], "0.9 mg/L")
        type_into(dialog.fields["nitrite"], "1.2 mg/L")
        dialog.accept()
        return dialog.result()

    monkeypatch.setattr(TestedDialog, "exec", answered)
    click(life.keeping.test)
    (test,) = window.workspace.record.tests_of("tank")
    assert (test.date, test.ammonia, test.nitrite, test.nitrate) == ("2026-11-14", 0.9e-3, 1.2e-3, None)
    life.work_now()
    assert len(life.chart.chart.points) == 2
    assert "Through your tests" in life.words.text()
    window.workspace.undo()
    assert window.workspace.system.keeping.started == ""
    assert len(window.workspace.record.tests_of("tank")) == 1


def test_a_start_becomes_a_calendar(life, window, tmp_path):
    from icalendar import Calendar

    window.workspace.edit(set_value("Day", ("keeping", "started"), "2026-11-01"))
    life.work_now()
    life.write(tmp_path / "start.ics")
    events = Calendar.from_ical((tmp_path / "start.ics").read_text()).walk("VEVENT")
    titles = [str(e["summary"]) for e in events]
    assert titles[0].startswith("Dose 12.5 mL of ammonia solution (10 %)")
    assert events[0]["dtstart"].dt.isoformat() == "2026-11-01"
    assert any(t.startswith("Test ammonia and nitrite") for t in titles)
    animals = next(e for e in events if str(e["summary"]).startswith("First animals"))
    ready = life.chart.chart.uprights[0][0] * 7
    assert (animals["dtstart"].dt - datetime.date(2026, 11, 1)).days == round(ready)
    assert "do not dose above pH" in life.words.text()
    life.turn("nitrate")
    life.work_now()
    life.write(tmp_path / "no.ics")
    assert "Only a start" in life.error.text()


def test_hours_of_air_on_the_card(life):
    rows = texts(life.air.parentWidget())
    at = rows.index("with everything off")
    assert rows[at + 1].startswith("29 h (")
    half, stone = rows[rows.index("with half the animals") + 1], rows[rows.index("with an air stone, 2.0 L/min") + 1]
    assert half == "over 72 h" or int(half.split()[0]) > 30
    assert stone == "over 72 h"


def test_nothing_fed_is_said(window, demo):
    window.workspace.edit(set_value("Feed", ("devices", "tank", "feed"), 0.0))
    window.workspace.edit(set_value("Animals", ("devices", "tank", "heads"), 0))
    window.show_stage("media")
    view = window.page("media").life
    view.work_now()
    assert "No feed is known" in view.pace.text()


def test_both_views_and_another_theme(life, window):
    life.turn("cut")
    life.keeping.way.chosen.emit("fish")
    click(life.to_load)
    page = window.page("media")
    assert page.load_table.isVisible()
    click(page.to_life)
    assert life.isVisible()
    window.switch_theme()
    after = window.page("media").life
    assert after is not life
    assert after.shown_chart == "cut"
    assert after.keeping.way.value() == "fish"
    window.switch_theme()


def test_in_us_units_nothing_is_metric(life, window):
    window.switch_units()
    life.turn("warmth")
    life.work_now()
    assert "°F" in life.words.text()
    assert "°C" not in life.words.text()
    found = carrying(analysed(window.workspace.system), UnitSystem.US)
    said_there = [row.value for _, rows in found.parts for row in rows]
    assert said_there
    assert not [words for words in said_there if words.endswith(" L") or " g/day" in words]
    window.switch_units()


def test_new_water_over_the_limit_is_said(demo):
    keeping = demo.keeping.model_copy(update={"nitrate": 50e-3})
    found = carrying(analysed(demo.model_copy(update={"keeping": keeping})), UnitSystem.METRIC)
    (row,) = found.parts[1][1]
    assert (row.label, row.value, row.bad) == ("new water has", "50 mg/L", True)


def test_said_in_words(demo):
    paces = Limits(analysed(demo)).paces
    for pace in paces:
        busy = pace._replace(limit="contact", now=pace.most, gains={**pace.gains, "contact": 0.34, "surface": 0.0})
        words = said(busy._replace(gains={"contact": 0.34, "surface": 0.0}))
        assert words == (
            "Flow through it sets the pace: more media would change nothing; twice the flow would carry a third more."
        )
        full = said(busy._replace(limit="surface", gains={"surface": 0.45, "contact": 0.0}))
        assert full == "Surface sets the pace: half more would carry about half more."


def test_each_start_asks_what_it_wants(life, window):
    panel = life.keeping
    asked = {
        "fishless": {"dose", "slow"},
        "seeded": {"moved", "stood", "slow"},
        "bucket": {"dose", "media", "bucket", "bucket_warm", "stood", "slow"},
        "fish": {"slow"},
        "mature": set(),
    }
    for way, fields in asked.items():
        panel.way.chosen.emit(way)
        assert {k for k, row in panel._rows.items() if not row.isHidden()} == fields
    panel.way.chosen.emit("bucket")
    type_into(panel.boxes["bucket"], "60 L")
    assert window.workspace.system.keeping.bucket == pytest.approx(0.06)
    type_into(panel.boxes["stood"], "5 h")
    assert window.workspace.system.keeping.stood == pytest.approx(5 * 3600)
    life.work_now()
    assert "in 60 L with air" in life.words.text()


def test_a_year_shows_progress_and_can_be_stopped(life, qtbot):
    life.turn("year")
    life.work()
    qtbot.waitUntil(lambda: life.cancel.isVisible(), timeout=20000)
    life._came(0.4)
    assert (life.busy.value(), life.busy.maximum()) == (400, 1000)
    click(life.cancel)
    assert "Stopped" in life.words.text()
    assert not life.busy.isVisible()
    assert not life.cancel.isVisible()
    life.work()
    qtbot.waitUntil(lambda: life.chart.chart is not None and life.chart.chart.title == "A year", timeout=60000)
    assert not life.cancel.isVisible()


def test_a_dose_is_typed(life):
    life.turn("dose")
    assert life.dosing.isVisible()
    type_into(life.amount, "3 g")
    life.work_now()
    assert life.words.text().startswith("3 g makes")
    life.turn("nitrate")
    assert not life.dosing.isVisible()


def test_places_are_pressed_to_be_cleaned_on_one_day(life, qtbot, demo):
    bars = life.bars.widget().findChildren(LimitBars)
    before = life.pace.text()
    click(bars[0])
    qtbot.waitUntil(lambda: "cleaned on one day" in life.pace.text(), timeout=20000)
    one = life.pace.text()
    found = cleaned(Limits(analysed(demo)), (bars[0].pace.place.id,))
    assert f"carries {two_digits(found.feed * 86400e3):.0f} g/day at once" in one
    QTest.keyClick(bars[1], Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: " and " in life.pace.text() and "cleaned on" in life.pace.text(), timeout=20000)
    assert life.pace.text() != one
    click(bars[0])
    click(bars[1])
    assert life.pace.text() == before


def test_what_is_on_its_way_is_not_told_of_another_design(window, qtbot, demo):
    """Many tanks are being worked out when they give place to one; their names would not be found."""
    window.set_document(nursery(), None)
    window.show_stage("media")
    page = window.page("media")
    page.view("life")
    life, told = page.life, []
    life.side.show_air = told.append
    life.turn("dose")
    life.work()
    qtbot.waitUntil(lambda: life.chart.chart is not None, timeout=60_000)  # its hours of air are on their way now
    window.workspace.edit(Edit("One tank", (Change(("devices",), demo.devices),)))
    QThreadPool.globalInstance().waitForDone(60_000)
    qtbot.wait(50)
    assert told == []
