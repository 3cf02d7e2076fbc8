"""A new kind costs one folder and one line: here one that Fuente does not know, from outside the package, goes all the
way.
"""

from __future__ import annotations

from typing import Literal

import pytest
from pydantic import Field
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel

from fuente.devices import KINDS, register
from fuente.devices.base import Change, Edit, Finding, Fragment, Rank, Reading, Station, Task, measured
from fuente.devices.filtering import FilterKind, FilterSpec, choices_of
from fuente.devices.pieces import Parts, Shelf, tool
from fuente.document.system import System, apply, set_value
from fuente.drawing.primitives import Drawing, Handle, box
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.network.beds import Bed, hole_loss
from fuente.network.level_curve import LevelCurve
from fuente.network.model import Cell, Link, WayKind
from fuente.shown.section import section
from fuente.study.analysis import Analysis
from fuente.study.filters import add_filter
from fuente.study.sites import new_site
from fuente.units import UnitSystem
from fuente.workshop.bill import bill


class Basket(FilterSpec):
    """A basket of moss whose paddle pushes a fixed flow through it."""

    kind: Literal["moss_basket"] = "moss_basket"
    name: str = Field("Moss basket", max_length=80)
    at: float = measured(0.05, "length", "From the left wall", 0.0, 5.0)
    length: float = measured(0.12, "length", "Length", 0.02, 1.0)

    @property
    def span_inside(self):
        return self.at, self.at + self.length

    push: float = measured(120e-3 / 3600, "flow", "Its paddle pushes", 0.0, 1.0)


class Paddle:
    """A fixed flow while there is water to push."""

    def __init__(self, flow, floor):
        self.push, self.floor = flow, floor

    def flow(self, a, b):
        share = min(max((a - self.floor) / 0.01, 0.0), 1.0)
        return self.push * share, self.push / 0.01 if 0 < share < 1 else 0.0, 0.0


def lower(spec, site):
    floor, rim = site.tank.floor, site.tank.rim
    cell = Cell(f"{spec.id}.in", spec.name, floor, rim, LevelCurve.prism(floor, rim, spec.length * 0.1), owner=spec.id)
    links = (
        Link(
            f"{spec.id}.bed",
            "Into the moss",
            site.tank.id,
            cell.id,
            Bed(floor, 0.1, hole_loss(4e-4)),
            WayKind.PAD,
            spec.id,
        ),
        Link(f"{spec.id}.out", "Paddle", cell.id, site.tank.id, Paddle(spec.push, floor), WayKind.LIFT, spec.id),
    )
    return Fragment(
        (cell,), links, {"in": cell.id}, {}, (), ((site.tank.id, floor, rim, spec.length * 0.1 * (rim - floor)),)
    )


def card(spec, site, study, solution):
    path = spec.path
    flow = solution.flow[f"{spec.id}.out"]
    return (
        Station(
            spec.id,
            spec.name,
            "{q:flow} through the moss",
            {"q": flow},
            big=(Reading("through it", flow, "flow"),),
            choices=choices_of(spec, path, "length push at"),
            readings=(),
            why=Reading("Why", flow, "flow", "It is pushed."),
        ),
    )


def sketch(spec, site, look):
    path = spec.path
    x = (site.tank.offset + spec.at) * 1000
    shape = box(x, site.tank.floor * 1000, x + spec.length * 1000, site.tank.floor * 1000 + 150, "media", spec.id)
    grip = Handle(
        (x + spec.length * 1000, site.tank.floor * 1000 + 75),
        "x",
        (*path, "length"),
        spec.length,
        0.02,
        1.0,
        "length of the basket",
        "basket",
        owner=spec.id,
    )
    return Drawing((shape,), (grip,))


def judge(spec, site, study):
    path = spec.path
    if spec.push < 200e-3 / 3600:
        yield Finding(
            "moss-slow",
            Rank.FIX,
            "The moss gets {q:flow}; it wants twice that.",
            "Moss that stands still rots.",
            spec.id,
            {"q": spec.push},
            "Push harder",
            Edit("Push harder", (Change((*path, "push"), 240e-3 / 3600),)),
        )


KIND = FilterKind(
    id="moss_basket",
    name="Basket of moss",
    said="Moss in a basket, and a paddle.",
    glyph="plant",
    spec=Basket,
    first=lambda site: Basket(id=site.new_id("moss"), tank=site.tank.id),
    lower=lower,
    card=card,
    sketch=sketch,
    parts=lambda spec, site, solution: Parts((tool(f"{spec.id}.moss", "Living moss", shelf=Shelf.MEDIA, count=2),)),
    care=lambda spec, site, solution: (Task(f"{spec.id}.trim", "Trim the moss", 1e6, "It grows.", spec.id),),
    judge=judge,
    size=lambda spec: ("long", spec.length, "length"),
    surface=lambda spec, schools: spec.length * 10,
)


@pytest.fixture
def moss():
    """The kind, known for one test."""
    register(KIND)
    yield KIND
    KINDS.drop(KIND)


def test_it_is_solved_drawn_judged_ordered_and_kept(moss, demo):
    system = apply(demo, add_filter(demo, moss.first(new_site(demo, "tank"))))
    analysis = Analysis(system)
    assert analysis.running.flow["moss.out"] == pytest.approx(120e-3 / 3600)
    assert analysis.running.flow["moss.bed"] == pytest.approx(120e-3 / 3600, rel=1e-6)
    drawing = section(analysis, analysis.situation("power_cut"))
    assert any(getattr(s, "owner", "") == "moss" for s in drawing.shapes)
    assert any(h.path == ("devices", "moss", "length") for h in drawing.handles)
    finding = next(f for f in findings(analysis) if f.code == "moss-slow")
    mended = Analysis(apply(system, finding.edit))
    assert not [f for f in findings(mended) if f.code == "moss-slow"]
    assert "Living moss" in {line.row(UnitSystem.METRIC).what for line in bill(analysis).lines}
    again = System.model_validate_json(system.model_dump_json())
    assert again == system
    assert type(again.filters[0]) is Basket


def test_an_unknown_kind_and_a_second_of_a_name_are_sentences(moss, demo):
    from dataclasses import replace

    with pytest.raises(FuenteError, match="already"):
        register(replace(moss, name="Another"))
    text = (
        apply(demo, add_filter(demo, moss.first(new_site(demo, "tank"))))
        .model_dump_json()
        .replace("moss_basket", "moss_cask")
    )
    with pytest.raises(ValueError, match="no kind of device “moss_cask”"):
        System.model_validate_json(text)


def test_it_stands_in_the_gallery_and_is_added_and_mended_by_hand(moss, window, qtbot):
    """The window knows it like its own: picture, row, card, drawing, finding."""
    from fuente.ui.gallery import Gallery

    gallery = Gallery(window.workspace, "tank", window)
    gallery.show()
    tile = next(t for t in gallery.tiles if t.kind.id == "moss_basket")
    QTest.mouseClick(tile, Qt.MouseButton.LeftButton)
    QTest.mouseClick(gallery.add, Qt.MouseButton.LeftButton)
    assert window.workspace.history.undo_name == "Add basket of moss"
    page = window.page("water")
    assert window.workspace.selected == "moss"
    assert page.card.findChild(QLabel, "heading").text() == "Moss basket"
    assert any(getattr(s, "owner", "") == "moss" for s in page.view.drawing().shapes)
    # What its own judge would change is changed with it: its finding's remedy, tried.
    assert all(r.finding.code != "moss-slow" for r in page.findings.rows)
    assert window.workspace.system.filters[0].push == pytest.approx(240e-3 / 3600)
    slow = set_value("slow", ("devices", "moss", "push"), 60e-3 / 3600)
    assert window.workspace.edit(slow)
    row = next(r for r in page.findings.rows if r.finding.code == "moss-slow")
    QTest.mouseClick(row.action, Qt.MouseButton.LeftButton)
    assert window.workspace.system.filters[0].push == pytest.approx(240e-3 / 3600)
    for _ in range(3):
        window.workspace.undo()
    assert not window.workspace.system.filters
