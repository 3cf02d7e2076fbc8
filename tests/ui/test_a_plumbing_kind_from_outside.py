"""A kind of plumbing costs one folder and one line too: a chute through a crock that Fuente does not know goes all the
way.
"""

from __future__ import annotations

import math
from typing import Literal

import pytest
from pydantic import Field
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel

from devices_of import overflows, returns
from fuente.devices import KINDS, register
from fuente.devices.base import (
    Change,
    Choice,
    Edit,
    Finding,
    Fragment,
    Rank,
    Reading,
    Station,
    Task,
    measured,
)
from fuente.devices.contract import Device, End, Kind
from fuente.devices.edits import added, taken_out
from fuente.devices.pieces import Parts, tool
from fuente.devices.site import Vessel
from fuente.document.system import System, apply
from fuente.drawing.primitives import Drawing, Handle, box
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.network.laws import Weir
from fuente.network.level_curve import LevelCurve
from fuente.network.model import Cell, Link, WayKind
from fuente.shown.section import section
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.wet_test import run
from fuente.units import UnitSystem
from fuente.workshop.bill import bill, tasks

SIDE = 0.2  # m: the crock's plan is a square


class Crock(Device):
    """A notch in the tank's rim, a clay crock under it, and a lip over which it pours into the sump."""

    kind: Literal["crock"] = "crock"
    id: str = Field("crock", max_length=40)
    name: str = Field("Settling crock", max_length=80)
    tank: str = "tank"
    into: str = "sump"
    crest: float = measured(0.44, "length", "Notch above the tank's floor", 0.05, 3.0, step=0.001)
    notch: float = measured(0.03, "length", "Notch's width", 0.005, 0.5)

    @property
    def home(self):
        return self.tank

    def ports(self):
        return ("inlet",)

    def ends(self):
        return (End(self.tank, "stands", "water"), End(self.into, "drains", "inlet"))

    def falls(self):
        return ((self.tank, self.crest),)


def floor_of(site):
    return site.tank.floor - 0.35


def lower(spec, site):
    floor, sump = floor_of(site), site.vessels[spec.into]
    cell = Cell(spec.id, spec.name, floor, floor + 0.3, LevelCurve.prism(floor, floor + 0.3, SIDE**2), owner=spec.id)
    crest = site.tank.floor + spec.crest
    return Fragment(
        (cell,),
        (
            Link(
                f"{spec.id}.notch",
                "Notch",
                site.tank.id,
                spec.id,
                Weir(crest, spec.notch, spec.crest),
                WayKind.DRAIN,
                spec.id,
            ),
            Link(f"{spec.id}.lip", "Lip", spec.id, sump.inlet, Weir(floor + 0.2, 0.1, 0.2), WayKind.DRAIN, spec.id),
        ),
        {"inlet": spec.id},
    )


def card(spec, site, study, solution):
    flow, path = solution.flow[f"{spec.id}.notch"], spec.path
    choices = tuple(
        Choice(
            (*path, name),
            type(spec).model_fields[name].json_schema_extra["label"],
            "length",
            getattr(spec, name),
            step=0.001,
        )
        for name in ("crest", "notch")
    )
    why = Reading("Why", flow, "flow", "What stands over the notch runs.")
    big = (Reading("through it", flow, "flow"),)
    return (
        Station(
            spec.id,
            spec.name,
            "{q:flow} through the crock",
            {"q": flow},
            big=big,
            choices=choices,
            cells=(spec.id,),
            why=why,
        ),
    )


def sketch(spec, site, look):
    x, y, up = (site.tank.offset + 0.1) * 1000, floor_of(site) * 1000, (site.tank.floor + spec.crest) * 1000
    grip = Handle(
        (x, up), "y", (*spec.path, "crest"), spec.crest, 0.05, 3.0, "crest of the notch", "notch", owner=spec.id
    )
    return Drawing((box(x, y, x + SIDE * 1000, y + 300, "media", spec.id),), (grip,))


def judge(spec, site, study):
    flow = study.running.flow[f"{spec.id}.notch"]
    if flow > 60e-3 / 3600:
        lower_by = Edit(
            "Raise the notch",
            (Change((*spec.path, "crest"), study.running.level[spec.tank] - site.tank.floor + 0.001),),
        )
        text = "The crock gets {q:flow}; mud settles in less than half of that."
        yield Finding(
            "crock-fast", Rank.FIX, text, "Mud needs rest.", spec.id, {"q": flow}, "Raise the notch", lower_by
        )


KIND = Kind(
    id="crock",
    name="Settling crock",
    spec=Crock,
    order=52,
    lower=lower,
    card=card,
    sketch=sketch,
    judge=judge,
    at_home=True,
    parts=lambda spec, site, solution: Parts((tool(f"{spec.id}.pot", "Glazed crock"),)),
    care=lambda spec, site, solution: (Task(f"{spec.id}.empty", "Empty the crock", 1e6, "Mud rots.", spec.id),),
    vessel=lambda spec, site: Vessel(
        spec.id,
        spec.name,
        spec.id,
        spec.id,
        floor_of(site),
        floor_of(site) + 0.3,
        0.1,
        0.1 + SIDE,
        floor_of(site) + 0.2,
    ),
)


@pytest.fixture
def crock():
    """The kind, known for one test."""
    register(KIND)
    yield KIND
    KINDS.drop(KIND)


def with_crock(system, below=0.004, **own):
    """The demo with a crock whose notch lies some m below its water."""
    level = Analysis(system).running.level["tank"] - Analysis(system).network.cell("tank").floor
    return apply(system, Edit("Add a crock", added(Crock(crest=level - below, **own))))


def test_the_water_goes_two_ways_and_none_is_lost(crock, demo):
    before, analysis = Analysis(demo), Analysis(with_crock(demo))
    now = analysis.running
    through = now.flow["crock.notch"]
    # A weir as wide as its box after Kindsvater and Carter: 2/3 · (0.602 + 0.075 h/p) · √(2g) · (b − 0.9 mm) · (h + 1
    # mm)^1.5.
    head = now.level["tank"] - now.network.cell("tank").floor - analysis.system.device("crock").crest
    assert 0 < head < 0.004
    assert through == pytest.approx(2 / 3 * 0.6026 * math.sqrt(2 * 9.80665) * 0.0291 * (head + 0.001) ** 1.5, rel=0.01)
    assert now.flow["crock.lip"] == pytest.approx(through, rel=1e-6)
    pump, weir = f"{returns(demo)[0].id}", f"{overflows(demo)[0].id}.weir"
    pumped = next(q for way, q in now.flow.items() if way.startswith(pump))
    assert now.flow[weir] + through == pytest.approx(pumped, rel=1e-6)
    assert now.flow[weir] < before.running.flow[weir]
    assert now.total == pytest.approx(before.running.total, rel=0.02)
    # A power cut drains the tank no lower than the notch, and the wet test ends where the situation stands.
    cut = analysis.situation("power_cut").solution
    ended = run(analysis, [Fault("power-cut", 10.0)], 3600.0).history
    assert cut.level["crock"] == pytest.approx(ended.level("crock")[-1], abs=1e-3)
    assert cut.flow["crock.notch"] == pytest.approx(0.0, abs=1e-9)


def test_it_is_drawn_listed_ordered_looked_after_and_judged(crock, demo):
    analysis = Analysis(with_crock(demo))
    drawing = section(analysis, analysis.situation("running"))
    assert any(getattr(s, "owner", "") == "crock" for s in drawing.shapes)
    assert any(h.path == ("devices", "crock", "crest") for h in drawing.handles)
    assert "Glazed crock" in {line.row(UnitSystem.METRIC).what for line in bill(analysis).lines}
    assert "crock.empty" in {t.id for t in tasks(analysis)}
    finding = next(f for f in findings(analysis) if f.code == "crock-fast")
    assert finding.values["q"] == analysis.running.flow["crock.notch"]
    mended = Analysis(apply(analysis.system, finding.edit))
    assert "crock-fast" not in {f.code for f in findings(mended)}


def test_it_is_kept_in_the_file_and_its_connections_are_checked(crock, demo):
    system = with_crock(demo)
    again = System.model_validate_json(system.model_dump_json())
    assert again == system
    assert type(again.device("crock")) is Crock
    with pytest.raises(FuenteError, match="not there"):
        with_crock(demo, into="nowhere")
    with pytest.raises(FuenteError, match="takes no drain"):
        with_crock(demo, into="tank")
    gone = apply(system, Edit("Take out", taken_out(system.devices, [system.device("crock")])))
    assert gone == demo


def test_others_drain_into_it(crock, demo):
    """A box's drains can end in it: it is a vessel like Fuente's own."""
    overflow = overflows(demo)[0]
    system = apply(with_crock(demo), Edit("Into the crock", (Change((*overflow.path, "into"), "crock"),)))
    now = Analysis(system).running
    drained = sum(q for way, q in now.flow.items() if way.startswith(f"{overflow.id}.drain"))
    assert drained > 0
    assert now.flow["crock.lip"] == pytest.approx(drained + now.flow["crock.notch"], rel=1e-6)


def test_by_hand_in_the_window(crock, window):
    work = window.workspace
    work.edit(Edit("Add a crock", added(with_crock(work.system).device("crock"))))
    work.check_now()
    page = window.page("water")
    page.list.choose("crock") if hasattr(page.list, "choose") else work.select("crock")
    assert page.card.findChild(QLabel, "heading").text() == "Settling crock"
    row = next(r for r in page.findings.rows if r.finding.code == "crock-fast")
    QTest.mouseClick(row.action, Qt.MouseButton.LeftButton)
    work.check_now()
    assert "crock-fast" not in {f.code for f in work.findings}
    assert work.history.undo_name == "Raise the notch"
    work.undo()
    work.undo()
    assert "crock" not in work.system.by_id
