"""Keep by hand: a line typed and kept, a task ticked, opened and put off, an entry corrected, two windows, files."""

from __future__ import annotations

import datetime

import icalendar
import pytest
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel

from fuente.demo.back_room import back_room
from fuente.demo.reading_room import reading_room
from fuente.ui.month import export_month
from fuente.upkeep.log import Log, log_path


def texts(widget):
    return [label.text() for label in widget.findChildren(QLabel)]


def typed(page, words):
    page.line.edit.setFocus()
    page.line.edit.clear()
    QTest.keyClicks(page.line.edit, words)


def enter(page):
    QTest.keyClick(page.line.edit, Qt.Key.Key_Return)
    page.work_now()


def test_a_line_is_read_as_chips_and_kept_by_enter(keep, tmp_path):
    typed(keep, "no3 20, ph 7.4, foam 18 mm")
    assert [r.words for r in keep.line.reads][:2] == ["Nitrate 20 mg/L", "pH 7.4"]
    assert "Nitrate 20 mg/L" in texts(keep.line)
    enter(keep)
    assert keep.line.edit.text() == ""
    log = Log(log_path(tmp_path / "room.fuente"))
    assert [(e.what, e.value) for e in log.entries] == [("nitrate", 0.02), ("ph", 7.4), ("drop", 0.018)]
    log.close()
    assert keep.model.rowCount() == 3
    assert "3 entries" in keep.side.count.text()


def test_what_is_doubtful_says_so_before_it_is_kept(keep):
    typed(keep, "no3 900")
    assert any("far outside what is usual?" in t for t in texts(keep.line))


def test_two_readings_make_a_trend_with_a_forecast(keep):
    assert keep.trends.chart.isHidden()
    for words in ("20 days ago foam 21 mm", "10 days ago foam 26 mm", "foam 31 mm"):
        typed(keep, words)
        enter(keep)
    assert not keep.trends.chart.isHidden()
    assert keep.trends.chart.trend.points[-1][1] == pytest.approx(31.0)
    assert "clean by" in keep.trends.chart.trend.due[1]
    keep.trends.chart.show_values(keep.trends.chart.trend.points[0][0])
    assert "21 mm" in keep.trends.chart.said
    keep.trends.chart.fit()
    before = keep.trends.chart.plot.viewRange()[0]
    QTest.keyClick(keep.trends.chart, Qt.Key.Key_Plus)
    assert keep.trends.chart.plot.viewRange()[0] != before
    QTest.keyClick(keep.trends.chart, Qt.Key.Key_F)
    assert keep.trends.chart.plot.viewRange()[0] == pytest.approx(before, rel=1e-9)


def test_a_tick_writes_it_down_and_moves_the_task_on(keep):
    (row,) = [r for r in keep.due.rows if r.row.task.id == "sump.socks.socks"]
    QTest.mouseClick(row.box, Qt.MouseButton.LeftButton, pos=QPoint(6, row.box.height() // 2))
    keep.work_now()
    (again,) = [d for d in keep.found.rows if d.task.id == "sump.socks.socks"]
    assert again.left(datetime.date.today()) == 7
    assert keep.book.entries[-1].what == "swapped"


def test_a_task_is_opened_put_off_done_otherwise_and_given_its_own_interval(keep, window):
    from fuente.ui.keep_due import TaskDialog

    row = next(d for d in keep.found.rows if d.task.id == "sump.foam.pad.0")
    from fuente.study.known import analysed
    from fuente.upkeep.due import meanwhile

    units = window.workspace.units
    dialog = TaskDialog(row, units, meanwhile(analysed(window.workspace.system), row.task, units), keep)
    assert [box.accessibleName() for box in dialog.steps] == list(row.task.how)
    assert "Meanwhile, with that chamber empty" in texts(dialog)
    dialog.days.setValue(9)
    QTest.mouseClick(dialog.later, Qt.MouseButton.LeftButton)
    assert dialog.answer == "later"
    keep.answered(row, dialog.answer, "", dialog.days.value())
    keep.work_now()
    moved = next(d for d in keep.found.rows if d.task.id == row.task.id)
    assert moved.postponed
    keep.answered(row, "differently", "only shaken")
    keep.work_now()
    assert keep.book.entries[-1].text == "only shaken"
    keep.answered(row, "interval", every=40)
    assert window.workspace.system.upkeep.intervals[0].every == 40 * 86400
    assert window.workspace.history.undo_name == "Set a task's interval"
    window.workspace.undo()
    assert window.workspace.system.upkeep.intervals == ()


def test_a_correction_stands_for_the_first(keep):
    typed(keep, "no3 200")
    enter(keep)
    keep.corrected(keep.model.rows[0], "no3 20")
    keep.work_now()
    assert [e.value for e in keep.book.entries] == [0.02]
    keep.take_back(keep.model.rows[0])
    keep.work_now()
    assert keep.model.rowCount() == 0
    assert len(keep.book.log.written) == 3


def test_two_windows_on_one_design_see_each_other_s(keep, tmp_path):
    other = Log(log_path(tmp_path / "room.fuente"))
    typed(keep, "temp 17.8")
    enter(keep)
    other.refresh()
    assert [e.what for e in other.entries] == ["temperature"]
    other.add(*[e for e in other.entries for _ in range(1)])
    keep._look()
    keep.work_now()
    assert keep.model.rowCount() == 2
    other.close()


def test_in_a_rack_the_tank_is_asked_for(window):
    window.set_document(back_room(), None)
    window.show_stage("keep")
    page = window.page("keep")
    page.work_now()
    before = page.model.rowCount()
    typed(page, "no3 15")
    enter(page)
    assert "in which tank" in page.line.error.text()
    box = page.line.choices[0]
    box.setCurrentIndex(box.findText("B3"))
    QTest.keyClick(page.line.edit, Qt.Key.Key_Return)
    page.work_now()
    assert page.model.rowCount() == before + 1
    assert page.found.learned.places.name(page.book.entries[-1].place) == "B3"


def test_a_demo_brings_its_year_and_what_it_means(window):
    window.set_document(reading_room(), None)
    window.show_stage("keep")
    page = window.page("keep")
    page.work_now()
    assert page.model.rowCount() > 300
    heads = [t.head for t in page.found.told]
    assert any("pump is ageing" in h for h in heads)
    assert any("heater reads" in h for h in heads)
    assert any("pump is ageing" in t for t in texts(page.side))
    assert page.trends.buttons["drop@sump.foam"].isChecked()
    QTest.mouseClick(page.trends.buttons["flow@return"], Qt.MouseButton.LeftButton)
    assert "L/h" in page.trends.chart.trend.up
    kept = page.kept()
    assert kept["key"] == "flow@return"
    assert not (log_path(window.workspace.path) if window.workspace.path else None)


def test_the_list_of_entries_keeps_its_share_of_the_page(window):
    window.set_document(reading_room(), None)
    window.show_stage("keep")
    page = window.page("keep")
    page.work_now()
    QTest.qWait(1)
    row = page.table.rowHeight(0)
    assert page.table.viewport().height() >= 4 * row
    assert page.trends.chart.height() > page.table.height()


def test_it_is_worked_out_aside_when_shown(window, qtbot):
    window.set_document(reading_room(), None)
    window.show_stage("keep")
    page = window.page("keep")
    with qtbot.waitSignal(page.worked, timeout=20000):
        pass
    assert page.found is not None
    assert page.trends.busy.isHidden()


def test_what_was_written_goes_with_the_design(window, tmp_path):
    window.set_document(reading_room(), None)
    window.show_stage("keep")
    page = window.page("keep")
    page.work_now()
    count = page.model.rowCount()
    path = tmp_path / "mine.fuente"
    window.workspace.save(path)
    assert log_path(path).exists()
    assert len(page.book.entries) == count
    assert page.book.log.path == log_path(path)


def test_files_of_it(keep, tmp_path):
    typed(keep, "no3 20")
    enter(keep)
    keep.files.write_calendar(tmp_path / "a.ics")
    events = icalendar.Calendar.from_ical((tmp_path / "a.ics").read_bytes()).walk("VEVENT")
    assert len(events) == len(keep.found.rows)
    keep.files.write_month(tmp_path / "a.pdf")
    assert (tmp_path / "a.pdf").read_bytes().startswith(b"%PDF")
    keep.files.write_csv(tmp_path / "a.csv")
    assert "nitrate" in (tmp_path / "a.csv").read_text()
    keep.files.write_calendar(tmp_path / "no" / "where.ics")
    assert keep.line.error.text()


def test_a_csv_file_is_mapped_and_read(keep, tmp_path):
    from fuente.study.known import analysed
    from fuente.ui.csv_dialog import CsvDialog
    from fuente.upkeep.places import places_of

    path = tmp_path / "old.csv"
    path.write_text("a,b,c\n2026-10-01,no3,20\n2026-10-02,no3,thick\n")
    places = places_of(analysed(keep.workspace.system))
    dialog = CsvDialog(path, places, keep.workspace.units, keep.book.entries)
    assert not dialog.keep.isEnabled()
    for key, head in (("when", "a"), ("what", "b"), ("value", "c")):
        dialog.boxes[key].setCurrentIndex(dialog.boxes[key].findData(head))
    assert "1 new, 0 there already, 1 that cannot be read" in dialog.count.text()
    assert "Row 3" in dialog.shown.toPlainText()


def test_a_name_is_never_markup(keep, window):
    from fuente.document.system import set_value

    window.workspace.edit(set_value("name", ("devices", "tank", "name"), "<img src=/etc/passwd>{x:y}"))
    typed(keep, "no3 20")
    enter(keep)
    for label in keep.findChildren(QLabel):
        if "<img" in label.text():
            assert label.textFormat() == Qt.TextFormat.PlainText


def test_tests_of_the_log_overlay_the_start(keep, window):
    """What is typed on Keep stands on the start's curve, once it is known when it was started."""
    from fuente.document.system import set_value

    typed(keep, "5 days ago nh3 1.2, 5 days ago no2 0.2")
    enter(keep)
    window.show_stage("media")
    life = window.page("media").life
    life.work_now()
    assert not life.chart.chart.points
    begun = (datetime.date.today() - datetime.timedelta(days=12)).isoformat()
    window.workspace.edit(set_value("started", ("keeping", "started"), begun))
    life.work_now()
    values = [v for points in life.chart.chart.points for v in points.values]
    assert values


def test_today_s_clogging_goes_into_the_design_where_the_builder_agrees(keep, window, qtbot):
    """After the edit the running design has the difference that was read, to a hundredth; one undo takes it back."""
    from fuente.study.known import analysed
    from fuente.upkeep.places import drop_over, places_of

    for words in ("9 days ago foam 24 mm", "foam 30 mm"):
        typed(keep, words)
        enter(keep)
    before = window.workspace.system
    assert not keep.trends.agree.isHidden()
    QTest.mouseClick(keep.trends.agree, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: window.workspace.system != before, timeout=20000)
    study = analysed(window.workspace.system)
    assert drop_over(study, places_of(study).by_id("sump.foam"), study.running) == pytest.approx(0.030, rel=0.015)
    assert window.workspace.history.undo_name == "Set clogging as read"
    window.workspace.undo()
    assert window.workspace.system == before


def test_upkeep_s_own_ways_are_one_edit(keep, window):
    from fuente.ui.upkeep_dialog import UpkeepDialog

    dialog = UpkeepDialog(window.workspace.system, keep)
    assert dialog.edit() is None
    dialog.apart.setValue(21)
    QTest.keyClicks(dialog.name, "Wipe the lid")
    QTest.mouseClick(dialog.add, Qt.MouseButton.LeftButton)
    QTest.mouseClick(dialog.media["zeolite"], Qt.MouseButton.LeftButton)
    dialog.sweep.setValue(4)
    window.workspace.edit(dialog.edit())
    upkeep = window.workspace.system.upkeep
    assert upkeep.apart == 21 * 86400
    assert [t.name for t in upkeep.own] == ["Wipe the lid"]
    assert {d.medium for d in upkeep.dosed} == {"carbon", "zeolite"}
    keep.work_now()
    ids = {d.task.id for d in keep.found.rows}
    assert {"own.wipe-the-lid", "dose.zeolite.tank", "system.sweep"} <= ids
    assert window.workspace.history.undo_name == "Change upkeep"


def test_a_photograph_lies_beside_the_log(keep, tmp_path):
    from PySide6.QtGui import QImage

    picture = tmp_path / "eggs.png"
    QImage(8, 8, QImage.Format.Format_RGB32).save(str(picture))
    keep.files.add_photo(picture)
    entry = keep.book.entries[-1]
    assert entry.what == "photo"
    assert (tmp_path / entry.text).read_bytes() == picture.read_bytes()
    keep.files.add_photo(tmp_path / "nowhere.png")
    assert "not kept" in keep.line.error.text()


def test_a_pump_s_wear_goes_into_the_design_where_the_builder_agrees(window):
    from fuente.ui.keep_side import SaidCard

    window.set_document(reading_room(), None)
    window.show_stage("keep")
    page = window.page("keep")
    page.work_now()
    (card,) = [c for c in page.side.findChildren(SaidCard) if hasattr(c, "button")]
    before = window.workspace.analysis.running.flow["return.pump"]
    QTest.mouseClick(card.button, Qt.MouseButton.LeftButton)
    told = next(t for t in page.found.told if t.put)
    assert window.workspace.system.by_id["return"].pump.wear == pytest.approx(told.put[1])
    after = window.workspace.analysis.running.flow["return.pump"]
    assert 0.88 * before < after < 0.98 * before
    assert window.workspace.history.undo_name == "Set the pump's wear"


def test_a_crash_of_a_design_without_a_file_keeps_its_log(window, monkeypatch):
    """What was written is in the log that lies with the journal, and comes back with it."""
    import os

    from fuente.document import journal
    from fuente.document.system import set_value

    window.set_document(reading_room(), None)
    window.workspace.edit(set_value("x", ("name",), "Mine"))
    window.show_stage("keep")
    page = window.page("keep")
    page.work_now()
    typed(page, "no3 33")
    enter(page)
    before = len(page.book.entries)
    mine = window.workspace.journal.path
    dead = mine.with_name(mine.name.replace(f"{os.getpid()}-", "999999999-", 1))
    logs = journal.state_folder() / "logs"
    page.book.log.copy_to(logs / f"{dead.stem}.fuente-log")  # as a killed window leaves them
    dead.write_bytes(mine.read_bytes())
    (one,) = [r for r in journal.orphans() if r.journal == dead]
    monkeypatch.setattr(window, "_may_leave", lambda: True)
    window._bring_back(one)
    window.show_stage("keep")
    again = window.page("keep")
    again.work_now()
    assert len(again.book.entries) == before
    assert any(e.what == "nitrate" and e.value == pytest.approx(0.033) for e in again.book.entries)
    assert not list(logs.glob(f"{dead.stem}.*"))


def test_a_chip_says_the_day_where_it_is_not_today(keep):
    def chips(words):
        keep.line.edit.setText(words)
        shown = (keep.line.chips.itemAt(k).widget() for k in range(keep.line.chips.count()))
        return [label.text() for label in shown if isinstance(label, QLabel) and "Nitrate" in label.text()]

    today = datetime.date.today()
    (now,) = chips("no3 20")
    (before,) = chips("no3 20 yesterday")
    day = today - datetime.timedelta(days=1)
    assert before == f"{day.day} {day:%B}{f' {day:%Y}' if day.year != today.year else ''} · {now}"
    (ahead,) = chips(f"{today.year + 1}-01-31 no3 20")
    assert ahead == f"{now} · {today.year + 1}-01-31 lies ahead; kept as of now?"


def test_paper_leaves_the_window_its_style(keep, tmp_path):
    """Written from a window, a page takes no second: nothing is styled anew, whatever is open."""
    told = []

    class Heard(QLabel):
        def changeEvent(self, event):
            super().changeEvent(event)
            told.append(event.type())

    label = Heard("Level", keep)
    label.show()
    told.clear()
    export_month("Room", keep.found.rows, datetime.date(2026, 11, 1), tmp_path / "month.pdf")
    assert (tmp_path / "month.pdf").stat().st_size > 1000
    assert QEvent.Type.StyleChange not in told
    assert QEvent.Type.PaletteChange not in told
