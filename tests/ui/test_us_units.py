"""US units: nothing metric is read, and what is new comes in the sizes that are sold there."""

import re

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QTableView, QWidget
from ui_hands import type_into

from devices_of import returns
from fuente.catalogue import PIPES
from fuente.demo.nursery import nursery
from fuente.demo.starter import starter
from fuente.devices.edits import pipes_in
from fuente.document.system import set_value
from fuente.ui.stages import STAGES
from fuente.units import UnitSystem

METRIC = re.compile(
    r"(?<![\w/])(?:mm|cm|m|m²|L|L/h|L/min|litres?|kg|g|g/day|ml|mL|mg/L|kPa|MPa|°C|millimet\w*|centimet\w*|met(?:er|re)s?)(?![\w¹])"
)


def words(page: QWidget):
    """Everything that a page says, with its tips and what can be chosen."""
    for widget in page.findChildren(QWidget):
        for name in ("text", "toolTip", "placeholderText", "accessibleName"):
            asked = getattr(widget, name, None)
            if callable(asked) and isinstance(said := asked(), str):
                yield said
        if isinstance(widget, QComboBox):
            yield from (widget.itemText(i) for i in range(widget.count()))
        if isinstance(widget, QTableView) and (model := widget.model()) is not None:
            for column in range(model.columnCount()):
                yield str(model.headerData(column, Qt.Orientation.Horizontal))
                yield from (str(model.data(model.index(row, column))) for row in range(model.rowCount()))


def metric_words(page: QWidget) -> set[str]:
    """What a page says in metric; a design's own metric pipe keeps its name."""
    plain = (re.sub(r"<[^>]+>|\d+ mm PN1[06]|(?:Bulkhead|Pipe), \d+ mm", " ", w) for w in words(page))
    return {w for w in plain if METRIC.search(w)}


@pytest.fixture
def laid(window):
    """A window with a layout that was made and taken in US units."""
    window.set_document(starter().model_copy(update={"units": UnitSystem.US}), None)
    brief = window.page("brief")
    brief.propose_now()
    brief._take(brief.layouts[0])
    return window


@pytest.mark.parametrize("key", list(STAGES))
def test_a_us_design_says_nothing_in_metric(laid, key):
    laid.show_stage(key)
    page = laid.page(key)
    if key == "wet":
        page.run_now()
        page.trials.run_now()
    if key == "brief":
        page.propose_now()
    if key == "media":
        assert not metric_words(page.life)
        page.view("load")
    assert not metric_words(page) - {"Panels and holes at 1:1 in millimetres", "The section at 1:1 in millimetres"}


@pytest.mark.parametrize("make", ["demo", "air"])
def test_no_card_says_anything_in_metric(window, make):
    design = window.workspace.system if make == "demo" else nursery()
    window.set_document(design.model_copy(update={"units": UnitSystem.US}), None)
    window.workspace.check_now()
    found = {}
    for station in window.workspace.stations:
        window.workspace.select(station.id)
        found.update(dict.fromkeys(metric_words(window.page("water")), station.id))
    assert not found


def test_what_is_new_comes_in_inch_pipe_and_what_was_there_stays(laid, window, demo):
    system = laid.workspace.system
    assert {PIPES[p].family for p in pipes_in(system.devices)} <= {"inch", "hose"}
    assert returns(system)[0].pipe.endswith("in-40")
    window.set_document(demo.model_copy(update={"units": UnitSystem.US}), None)
    assert window.workspace.system.devices == demo.devices
    box = window.page("water").card
    window.workspace.select("return")
    offered = [box.field(("devices", "return", "pipe")).itemText(i) for i in range(40)]
    assert "1 1/4 in schedule 40" in offered
    assert "3/4 in vinyl hose" in offered
    assert sum("PN1" in name for name in offered) == 1  # what stands there


def test_a_pump_s_curve_is_typed_and_read_in_gallons_and_feet(window, demo):
    window.set_document(demo.model_copy(update={"units": UnitSystem.US}), None)
    window.workspace.select("return")
    field = window.page("water").card.field(("devices", "return", "pump", "points"))
    type_into(field, "0:12, 700:9, 1400:1")
    points = returns(window.workspace.system)[0].pump.points
    gph, ft = 1.0515e-6, 0.3048
    assert [q for q, _ in points] == pytest.approx([0, 700 * gph, 1400 * gph], rel=1e-4)
    assert [h for _, h in points] == pytest.approx([12 * ft, 9 * ft, ft])
    field = window.page("water").card.field(("devices", "return", "pump", "points"))
    assert field.text() == "0:12, 700:9, 1400:1"


def test_units_are_remembered_and_undo_leaves_them(window):
    w = window.workspace
    window.switch_units()
    assert w.history.undo_name == ""
    w.edit(set_value("Rename", ("name",), "Other"))
    window.switch_units()
    w.undo()
    assert w.units is UnitSystem.METRIC
    w.redo()
    assert w.units is UnitSystem.METRIC
    w.undo()  # nothing is unsaved: nobody is asked
    window.switch_units()
    window.open_demo("reading-room")
    assert window.workspace.units is UnitSystem.US
    window.switch_units()


def test_a_new_design_and_a_demo_are_in_the_money_of_the_place(window, monkeypatch):
    """Prices say in what they are, until the builder writes another; a file keeps its own."""
    from fuente.ui import as_used

    monkeypatch.setattr(as_used, "_money_here", lambda: "kr")
    window.workspace.journal.clear()
    window.open_demo("reading-room")
    assert window.workspace.system.shop.currency == "kr"
    window.show_stage("media")
    page = window.page("media")
    page.life.work_now()
    said = " ".join(words(page))
    assert re.search(r"\d kr\b", said), "what changes cost"
    assert "Price of 1 000 L, kr" in said or "Price of 1\u202f000 L, kr" in said
    page.view("load")
    assert "Cost in kr." in " ".join(words(page))
    power = next(r for s in window.workspace.stations for r in s.readings if r.label == "Power in a year")
    assert re.search(r": \d+ kr a year at 0\.30 kr a kWh", power.why)
    window.workspace.journal.clear()
    window.new()
    assert window.workspace.system.shop.currency == "kr"
