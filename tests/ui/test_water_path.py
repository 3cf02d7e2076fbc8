"""The Water path driven by hand: drag, type, undo, situations, findings, keyboard."""

from unittest.mock import patch

import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QMouseEvent, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel, QPushButton
from ui_hands import drag, handle, point, type_into

from devices_of import overflows, returns, sumps
from fuente.devices.base import Change, Edit
from fuente.document.system import set_value
from fuente.drawing.primitives import Dimension
from fuente.units import UnitSystem, shown

CREST = ("devices", "sump", "chambers", 2, "exit", "top")


def row_text(page, station_id: str) -> str:
    """What a row paints."""
    return next(f"{look.name}: {look.words}" for look in page.list.looks if look.id == station_id)


def surface(page, owner: str) -> float:
    return next(
        s for s in page.view.drawing().shapes if getattr(s, "style", "") == "surface" and s.owner == owner
    ).points[0][1]


def test_dragging_a_crest_moves_level_and_label_while_it_moves(path_page):
    page, w = path_page, path_page.workspace
    w.select("sump.bed")
    before = surface(page, "sump.bed")
    label = page.card._readings[0][1].text()
    scale = page.view._frame()[0]
    drag(page.view, handle(page.view, CREST), 0, -round(8 * scale + 1), release=False)
    assert w.history.undo_name == ""  # not let go yet
    assert surface(page, "sump.bed") > before + 4
    assert page.card._readings[0][1].text() != label
    QTest.mouseRelease(page.view, Qt.MouseButton.LeftButton)
    assert sumps(w.system)[0].chambers[2].exit.top > 0.275
    assert w.history.undo_name == "Raise crest"
    w.undo()
    assert surface(page, "sump.bed") == pytest.approx(before, abs=0.05)
    assert page.card._readings[0][1].text() == label
    assert w.history.redo_name == "Raise crest"


def test_escape_puts_a_dragged_handle_back(path_page):
    page, w = path_page, path_page.workspace
    drag(page.view, handle(page.view, CREST), 0, -6, release=False)
    assert sumps(w.system)[0].chambers[2].exit.top != 0.27
    page.view.setFocus()
    QTest.keyClick(page.view, Qt.Key.Key_Escape)
    assert sumps(w.system)[0].chambers[2].exit.top == 0.27
    QTest.mouseRelease(page.view, Qt.MouseButton.LeftButton)
    assert w.history.undo_name == ""


def test_a_baffle_moved_sideways_gives_to_one_and_takes_from_the_next(path_page):
    page, w = path_page, path_page.workspace
    widths = sumps(w.system)[0].widths()
    drag(page.view, handle(page.view, ("devices", "sump", "chambers", 1, "width")), 5, 0)
    now = sumps(w.system)[0].widths()
    assert now[1] > widths[1]
    assert now[1] + now[2] == pytest.approx(widths[1] + widths[2])
    assert now[4] == pytest.approx(widths[4])
    assert w.history.undo_name.startswith("Widen")


def test_handles_by_keyboard(path_page):
    """Arrows go from handle to handle and leave the station; Ctrl moves one; Space chooses its station."""
    page, w = path_page, path_page.workspace
    view = page.view
    before = w.selected
    view.setFocus(Qt.FocusReason.TabFocusReason)
    index = [h.path for h in view.drawing().handles].index(CREST)
    for key in (Qt.Key.Key_Right, Qt.Key.Key_Left, Qt.Key.Key_Up, Qt.Key.Key_Down):
        QTest.keyClick(view, key)
    assert w.selected == before
    view._focus = index
    QTest.keyClick(view, Qt.Key.Key_Space)
    assert w.selected == "sump.bed"
    QTest.keyClick(view, Qt.Key.Key_Up, Qt.KeyboardModifier.ControlModifier)
    assert sumps(w.system)[0].chambers[2].exit.top == pytest.approx(0.271)
    both = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    QTest.keyClick(view, Qt.Key.Key_Down, both)
    assert sumps(w.system)[0].chambers[2].exit.top == pytest.approx(0.261)
    QTest.keyClick(view, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)  # not its way
    assert sumps(w.system)[0].chambers[2].exit.top == pytest.approx(0.261)


def test_the_arrows_reach_every_handle(path_page):
    """From any handle, arrows alone come to every other one."""
    from fuente.ui.handle_keys import ARROWS, toward

    handles = path_page.view.drawing().handles
    seen, ahead = {0}, [0]
    while ahead:
        at = ahead.pop()
        for way in ARROWS.values():
            to = toward(handles, at, way)
            if to not in seen:
                seen.add(to)
                ahead.append(to)
    assert seen == set(range(len(handles)))


def test_the_section_is_one_tab_stop(path_page, window):
    path_page.view.setFocus(Qt.FocusReason.TabFocusReason)
    QTest.keyClick(path_page.view, Qt.Key.Key_Tab)
    assert not path_page.view.hasFocus()


def test_typing_on_the_drawing_ends_with_enter_and_with_escape(path_page, qtbot):
    """Unchanged Enter and Esc both go back to the drawing, with nothing edited."""
    page, w = path_page, path_page.workspace
    before = w.system
    for key in (Qt.Key.Key_Return, Qt.Key.Key_Escape):
        page.view.setFocus(Qt.FocusReason.TabFocusReason)
        QTest.keyClick(page.view, Qt.Key.Key_Return)
        box = page._popup
        assert box.hasFocus()
        QTest.keyClick(box, key)
        assert not box.isVisible()
        assert page.view.hasFocus()
    QTest.keyClick(page.view, Qt.Key.Key_Return)
    QTest.keyClicks(page._popup, "lots")
    QTest.keyClick(page._popup, Qt.Key.Key_Return)
    assert page._popup.isVisible()  # what cannot be read stays, and says why
    QTest.keyClick(page._popup, Qt.Key.Key_Escape)
    assert w.system == before


def test_the_section_comes_nearer_about_the_pointer_and_back(path_page):
    """A wheel leaves what is under the pointer there; a drag moves the sheet; F4 shows the station, then all of it."""
    view = path_page.view
    spot = QPointF(view.width() * 0.3, view.height() * 0.6)
    under, scale = view.to_drawing(spot), view._frame()[0]
    wheel(view, spot, 3)
    assert view._frame()[0] == pytest.approx(scale * 1.25**3)
    assert view.to_drawing(spot) == pytest.approx(under)
    free = next(
        QPointF(x, y)
        for x in range(8, view.width(), 16)
        for y in range(8, view.height(), 16)
        if view.handle_at(QPointF(x, y)) is None
    )
    held = view.to_drawing(free)
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=free.toPoint())
    move = QMouseEvent(
        QEvent.Type.MouseMove,
        free + QPointF(30, 10),
        view.mapToGlobal(free + QPointF(30, 10)),
        Qt.MouseButton.NoButton,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
    )
    QApplication.sendEvent(view, move)
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=free.toPoint())
    assert view.to_drawing(free + QPointF(30, 10)) == pytest.approx(held)
    wheel(view, spot, -9)
    assert view.zoom == 1.0
    assert view._frame()[0] == pytest.approx(scale)
    path_page.workspace.select("sump.bed")
    path_page.look_closely()
    x0, y0, x1, y1 = view.box_of("sump.bed")
    for corner in ((x0, y0), (x1, y1)):
        assert view.rect().contains(view.to_screen(corner).toPoint())
    assert view.zoom > 1.5
    path_page.look_closely()
    assert view.zoom == 1.0


def wheel(view, spot, notches):
    event = QWheelEvent(
        spot,
        view.mapToGlobal(spot),
        QPoint(),
        QPoint(0, 120 * notches),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(view, event)


def test_double_click_on_a_dimension_types_it(path_page, qtbot):
    page, w = path_page, path_page.workspace
    shape = next(s for s in page.view.drawing().shapes if isinstance(s, Dimension) and s.path)
    spot = page.view._dimension_box(shape).center()
    event = QMouseEvent(
        QEvent.Type.MouseButtonDblClick,
        QPointF(spot),
        page.view.mapToGlobal(QPointF(spot)),
        Qt.MouseButton.LeftButton,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
    )
    QApplication.sendEvent(page.view, event)
    assert page._popup is not None
    type_into(page._popup, "430")
    assert sumps(w.system)[0].height == pytest.approx(0.43)
    assert w.history.undo_name == "Set height"


def test_typing_twelve_inches(path_page):
    page, w = path_page, path_page.workspace
    w.select("sump.bed")
    field = page.card.field(CREST)
    type_into(field, "12 in")
    assert sumps(w.system)[0].chambers[2].exit.top == pytest.approx(0.3048)
    assert field.text() == "305 mm"
    w.undo()
    assert field.text() == "270 mm"


def test_a_bad_entry_says_what_it_would_take_and_keeps_the_old(path_page):
    page, w = path_page, path_page.workspace
    w.select("sump.bed")
    field = page.card.field(CREST)
    type_into(field, "wet")
    assert "type 32 mm, 3/4 in or 2 ft" in page.card._error.text()
    assert page.card._error.isVisible()
    assert sumps(w.system)[0].chambers[2].exit.top == 0.27
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert field.text() == "270 mm"
    assert not page.card._error.isVisible()


def test_what_cannot_be_built_is_refused_with_the_reason(path_page):
    page, w = path_page, path_page.workspace
    w.select("sump.bed")
    field = page.card.field(("devices", "sump", "chambers", 2, "width"))
    type_into(field, "700 mm")
    assert "leave" in page.card._error.text()
    assert sumps(w.system)[0].chambers[2].width == pytest.approx(0.22)
    assert field.text() == "220 mm"


def test_arrows_nudge_and_run_together_in_undo(path_page):
    page, w = path_page, path_page.workspace
    w.select("sump.bed")
    field = page.card.field(CREST)
    field.setFocus()
    for _ in range(3):
        QTest.keyClick(field, Qt.Key.Key_Up)
    assert sumps(w.system)[0].chambers[2].exit.top == pytest.approx(0.273)
    w.undo()
    assert sumps(w.system)[0].chambers[2].exit.top == pytest.approx(0.27)


def test_units_switch_everywhere_at_once(window, path_page, qtbot):
    w = path_page.workspace
    w.select("sump.bed")
    QTest.keyClick(window, Qt.Key.Key_U, Qt.KeyboardModifier.ControlModifier)
    assert w.units is UnitSystem.US
    assert path_page.card.field(CREST).text() == "10 5/8 in"
    assert "gph" in row_text(path_page, "return")
    row = [s.id for s in w.stations].index("return")
    qtbot.waitUntil(lambda: "gph" in path_page.list.item(row).text())  # what is read aloud follows
    assert window.bar.units.text() == "US units"
    assert all("mm" not in b.verdict for b in path_page.strip.buttons.values())
    type_into(path_page.card.field(CREST), "11")
    assert sumps(w.system)[0].chambers[2].exit.top == pytest.approx(11 * 0.0254)


def test_situations_say_their_verdict_and_change_the_picture(path_page):
    page = path_page
    assert page.strip.buttons["valve_leaks"].verdict.endswith("left")
    running = surface(page, "sump.pump")
    QTest.mouseClick(page.strip.buttons["power_cut"], Qt.MouseButton.LeftButton)
    assert page.workspace.situation_name == "power_cut"
    assert surface(page, "sump.pump") > running + 40
    assert page.strip.buttons["power_cut"].isChecked()


def test_a_finding_explains_and_mends_itself(path_page):
    page, w = path_page, path_page.workspace
    row = next(r for r in page.findings.rows if r.finding.code == "no-air-hole")
    QTest.mouseClick(row.text, Qt.MouseButton.LeftButton)
    row = next(r for r in page.findings.rows if r.finding.code == "no-air-hole")
    assert row.why.isVisible()
    assert "check valve sticks" in row.why.text()
    assert w.selected == "return"
    QTest.mouseClick(row.action, Qt.MouseButton.LeftButton)
    assert returns(w.system)[0].outlets[1].hole > 0
    assert w.history.undo_name == "Add air hole to second outlet"
    assert all(r.finding.code != "no-air-hole" for r in page.findings.rows)
    w.undo()
    assert any(r.finding.code == "no-air-hole" for r in page.findings.rows)


def test_mending_all_leaves_nothing_to_fix(path_page):
    page = path_page
    for _ in range(6):
        rows = [r for r in page.findings.rows if r.finding.rank < 2 and r.action]
        if not rows:
            break
        QTest.mouseClick(rows[0].action, Qt.MouseButton.LeftButton)
    assert "to fix" not in page.findings.head.text()


def test_clicking_water_selects_its_station_and_rows_do_too(path_page):
    page, w = path_page, path_page.workspace
    trap = next(s for s in page.view.drawing().shapes if getattr(s, "style", "") == "water" and s.owner == "sump.trap")
    xs, ys = zip(*trap.points, strict=True)
    spot = page.view.to_screen(((min(xs) + max(xs)) / 2, min(ys) + (max(ys) - min(ys)) * 0.75))
    QTest.mouseClick(page.view, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, point(spot))
    assert w.selected == "sump.trap"
    page.list.setCurrentRow(0)
    assert w.selected == "tank"
    assert page.card._station.id == "tank"


def test_drain_school_changes_the_pipes(path_page):
    page, w = path_page, path_page.workspace
    w.select("overflow.drains")
    box = page.card.field(("devices", "overflow", "drains"))
    box.setCurrentIndex(box.findText("siphon + dry emergency"))
    box.activated.emit(box.currentIndex())
    assert [d.role for d in overflows(w.system)[0].drains] == ["siphon", "emergency"]
    assert w.history.undo_name == "Change drain rule"


def test_a_pump_that_is_too_weak_is_shown_not_crashed(path_page):
    page, w = path_page, path_page.workspace
    w.select("return")
    type_into(page.card.field(("devices", "return", "pump", "max_head")), "0.9 m")
    assert "does not reach" in page.findings.rows[0].finding.text
    assert page.strip.buttons["power_cut"].verdict == "cannot run"
    w.undo()
    assert page.strip.buttons["power_cut"].verdict.endswith("left")


def test_pump_curve_from_points(path_page):
    page, w = path_page, path_page.workspace
    w.select("return")
    field = page.card.field(("devices", "return", "pump", "points"))
    field.setModified(True)
    type_into(field, "0:3.6, 2500:2.9, 5000:0.2")
    assert len(returns(w.system)[0].pump.points) == 3
    assert all(f.code != "pump-guess" for f in w.findings)


def test_fittings_are_counted_in_their_dialog(path_page, qtbot):
    from fuente.ui.composed_fields import FittingsDialog

    w = path_page.workspace
    dialog = FittingsDialog(returns(w.system)[0].fittings)
    qtbot.addWidget(dialog)
    type_into(dialog._edits["elbow"], "5")
    assert {f.kind: f.count for f in dialog.value()}["elbow"] == 5


def test_screens_survive_large_text_and_dark(window, path_page):
    with patch.object(window, "show_stage", wraps=window.show_stage) as shown:
        window._retheme("dark", 1.5)
        assert shown.called
    QApplication.processEvents()
    page = window.page("water")
    assert page.view.width() > 200
    assert page.strip._columns < 7  # the strip breaks into two rows
    window._retheme("light", 1.0)


def choose(card, label: str) -> None:
    """Open the card's menu and take an entry."""
    QTest.mouseClick(card.commands_button, Qt.MouseButton.LeftButton)
    action = next(a for a in card.menu.actions() if a.text() == label)
    card.menu.close()
    action.trigger()


def test_chambers_are_added_moved_and_taken_out(path_page):
    page, w = path_page, path_page.workspace
    w.edit(set_value("Longer", ("devices", "sump", "length"), 1.15))
    w.select("sump.bed")
    choose(page.card, "Add plant chamber after it")
    roles = [c.role for c in sumps(w.system)[0].chambers]
    assert roles == ["socks", "foam", "moving_bed", "plants", "trap", "pump"]
    assert w.history.undo_name == "Add plant chamber"
    assert any("Plant chamber" in page.list.item(i).text() for i in range(page.list.count()))
    w.select("sump.plants-1")
    choose(page.card, "Move it upstream")
    assert [c.role for c in sumps(w.system)[0].chambers][2] == "plants"
    w.select("sump.plants-1")
    choose(page.card, "Take it out")
    assert [c.role for c in sumps(w.system)[0].chambers] == ["socks", "foam", "moving_bed", "trap", "pump"]


def test_every_kind_of_chamber_can_be_added_and_runs(path_page):
    page, w = path_page, path_page.workspace
    w.edit(set_value("Longer", ("devices", "sump", "length"), 1.6))
    w.select("sump.foam")
    labels = [name for name, _ in page.card._station.commands() if name.startswith("Add") and name.endswith("after it")]
    assert len(labels) == 9
    for label in labels:
        w.select("sump.foam")
        choose(page.card, label)
        assert w.analysis.running.imbalance < 1e-11, label
        assert w.analysis.situation("power_cut").solution.total == pytest.approx(w.analysis.running.total, rel=1e-9)
        w.undo()


def test_an_outlet_more_and_less(path_page):
    page, w = path_page, path_page.workspace
    w.select("return")
    choose(page.card, "Add an outlet")
    assert returns(w.system)[0].outlets[2].name == "Third outlet"
    choose(page.card, "Take out the last outlet")
    assert len(returns(w.system)[0].outlets) == 2


def test_a_timed_bucket_corrects_the_plumbing(path_page):
    page, w = path_page, path_page.workspace
    w.select("return")
    path = ("devices", "return", "correction")
    field = page.card.field(path)
    type_into(field, "3000 L/h")
    assert w.analysis.through(w.analysis.running, "sump") == pytest.approx(3000e-3 / 3600, rel=1e-2)
    assert returns(w.system)[0].correction > 1
    assert w.history.undo_name == "Fit plumbing to a timed bucket"
    type_into(field, "9000 L/h")
    assert "greatest flow" in page.card._error.text()
    w.undo()
    assert returns(w.system)[0].correction == 1.0


def test_numbers_are_said_with_their_bands(path_page, qtbot):
    """Once they are worked out aside: over the drawing, on the strip, in the findings; an edit takes them away."""
    work = path_page.workspace
    session = work.session
    work.show("valve_leaks")
    assert "(" not in path_page.view.legend
    work.try_timer.start(10)
    qtbot.waitUntil(lambda: session.bands is not None, timeout=20000)
    assert path_page.view.legend == "5.5 mm (1.5 to 9.4) left"
    assert (
        path_page.strip.buttons["power_cut"].toolTip().startswith("76 mm (72 to 80) left; oxygen under 4.00 mg/L after")
    )
    rows = [row.text.text() for row in path_page.findings.rows]
    assert any("5.5 mm (1.5 to 9.4) would be left in the sump" in words for words in rows)
    work.edit(set_value("Raise mark", ("devices", "sump", "chambers", 4, "level"), 0.216))
    assert session.bands is None
    assert "(" not in path_page.view.legend


def test_the_power_cut_says_how_long_oxygen_lasts(window, path_page):
    """Once it is worked out aside, the margin's place on the strip goes to the hours; the tip keeps both."""
    from fuente.session import remedies_aside

    session = window.workspace.session
    button = path_page.strip.buttons["power_cut"]
    assert "left" in button.verdict
    session.remedied(remedies_aside(session.system, session.analysis, session.findings, lambda _: True))
    assert button.verdict == session.air.short
    assert "left" in button.toolTip()
    assert "oxygen under 4.00 mg/L after" in button.toolTip()
    window.workspace.show("power_cut")
    assert "oxygen under 4.00 mg/L after" in path_page.view.legend
    window.workspace.edit(set_value("", ("devices", "tank", "temperature"), 291.0))
    assert session.air is None
    assert "left" in button.verdict


def test_the_card_has_the_figures_of_the_situation_that_is_shown(path_page):
    """Levels of the power cut on the card, and said; running's again afterwards."""
    page, w = path_page, path_page.workspace
    w.select("sump.pump")
    before = page.card.copied_words()[1]
    w.show("power_cut")
    cut = w.analysis.situation("power_cut").solution
    stands = shown(cut.depth("sump.pump"), "level", UnitSystem.METRIC)
    assert f"Stands\t{stands}" in page.card.copied_words()[1]
    assert f"Stands\t{stands}" not in before
    labels = [label.text() for label in page.card.findChildren(QLabel)]
    assert any("figures of: power cut" in words for words in labels)
    w.show("running")
    assert page.card.copied_words()[1] == before


def test_a_field_whose_entry_builds_its_card_anew_outlives_it(path_page, qtbot):
    """Enter in a field, and the card comes with other rows: what was there goes when the key is over."""
    page, w = path_page, path_page.workspace
    w.select("return")
    curve = next(c.path for s in w.stations if s.id == "return" for c in s.choices if c.quantity == "curve")
    for words in ("1000 L/h : 0.5 m; 3000 L/h : 0.1 m", "2500 L/h : 2.7 m; 5000 L/h : 0.2 m"):
        field = page.card.field(curve)
        page.card._key = ()  # whatever else it shows, it is built anew
        type_into(field, words)
        QApplication.processEvents()
    assert page.card.field(curve) is not field


def test_folded_fields_are_made_when_they_are_asked_for_and_say_what_is_now(path_page):
    page, w = path_page, path_page.workspace
    w.select("return")
    away = next(c for s in w.stations if s.id == "return" for c in s.choices if c.fold and c.quantity == "length")
    assert all(c.path != away.path for c, _ in page.card._fields)
    w.edit(Edit("Longer", (Change(away.path, away.value + 0.123),)))  # the card stays, and its fields are not there yet
    next(b for b in page.card.findChildren(QPushButton) if b.text().endswith(" more")).click()
    field = next(f for c, f in page.card._fields if c.path == away.path)
    assert field.isVisible()
    assert field.text() == shown(away.value + 0.123, away.quantity, UnitSystem.METRIC)


def test_further_fields_stand_under_heads_that_fold(path_page):
    """As they were left, on the next card too; a field is found whether its head is open or not."""
    page, w = path_page, path_page.workspace
    w.select("tank")

    def heads():
        return {b.text(): b for b in page.card.findChildren(QPushButton) if b.text()[:1] in ("▾", "▸")}

    more = next(b for b in page.card.findChildren(QPushButton) if b.text().endswith(" more"))
    QTest.mouseClick(more, Qt.MouseButton.LeftButton)
    names = [words[2:] for words in heads()]
    assert names[:2] == ["Animals and feed", "Warmth and light"]
    field = page.card.field(("devices", "tank", "heaters"))
    assert field.isVisible()
    QTest.mouseClick(heads()["▾ Warmth and light"], Qt.MouseButton.LeftButton)
    assert not field.isVisible()
    shut = next(words for words in heads() if words.startswith("▸"))
    assert shut.startswith("▸ Warmth and light · ")
    w.select("sump.pump")
    w.select("tank")
    more = next(b for b in page.card.findChildren(QPushButton) if b.text().endswith(" more"))
    QTest.mouseClick(more, Qt.MouseButton.LeftButton)
    assert not page.card.field(("devices", "tank", "heaters")).isVisible()
    QTest.mouseClick(heads()[shut], Qt.MouseButton.LeftButton)
    assert page.card.field(("devices", "tank", "heaters")).isVisible()
