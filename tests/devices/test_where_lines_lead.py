"""Drains, drips and filters' outlets lead to a chamber that is chosen, and fresh water into any vessel."""

from __future__ import annotations

import pytest

from devices_of import FILTERS
from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.demo.starter import bare
from fuente.devices.base import Change, Edit
from fuente.devices.manifold.spec import SideLoop
from fuente.devices.recipes.growing import commands_for
from fuente.devices.top_up.spec import TopUp
from fuente.document.system import apply, set_value
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.shown.section import section
from fuente.shown.stations import stations
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.filters import add_filter
from fuente.study.sites import new_site
from fuente.study.wet_test import run


def ways(study, owner):
    return {k.id: k for k in study.whole.links if k.owner == owner}


def test_an_overflow_s_drains_end_in_the_chamber_that_is_chosen(demo):
    """Past socks and foam: what fell into the socks falls into the moving bed, and the pads stand still."""
    study = Analysis(apply(demo, set_value("x", ("devices", "overflow", "chamber"), "bed")))
    drains = [k for k in ways(study, "overflow").values() if k.kind == "drain"]
    assert drains
    assert {k.b for k in drains} == {"sump.bed"}
    running = study.running
    assert running.flow["sump.foam.pad.0"] == pytest.approx(0.0, abs=1e-9)
    supplied = study.supply(running, "tank")
    assert sum(running.flow[k.id] for k in drains) == pytest.approx(supplied, rel=1e-6)
    drawn = section(study, study.situation("running"))
    bed = study.sites["tank"].vessels["sump"].ports["bed"]
    ends = [s.points[-1][0] / 1000 for s in drawn.shapes if getattr(s, "style", "") == "pipe-fall"]
    assert any(bed.left < x < bed.right for x in ends)


def test_its_card_offers_the_chambers_by_name(demo):
    study = Analysis(demo)
    rows = stations(study, study.situation("running"))
    offered = [c for s in rows for c in s.choices if c.path == ("devices", "overflow", "chamber")]
    assert len(offered) == 1
    assert dict(offered[0].options)["bed"] == "Moving bed"
    assert offered[0].options[0][0] == ""


@pytest.mark.parametrize("demo", [back_room, cascade])
def test_headers_and_standpipes_too(demo):
    made = demo()
    led = [
        d
        for d in made.devices
        if {"chamber", "into"} <= {*type(d).model_fields} and len(made.by_id[d.into].ports()) > 2
    ]
    assert led
    spec = led[0]
    chamber = next(p for p in made.by_id[spec.into].ports() if p not in ("inlet", "pump"))
    study = Analysis(apply(made, set_value("x", (*spec.path, "chamber"), chamber)))
    entry = study.sites[made.tanks[0].id].vessels[spec.into].ports[chamber].entry
    assert entry in {k.b for k in ways(study, spec.id).values()}


def test_a_chamber_that_is_not_there_is_refused(demo):
    with pytest.raises(FuenteError, match="a chamber that is not there"):
        apply(demo, set_value("x", ("devices", "overflow", "chamber"), "attic"))


def test_a_filter_beside_leads_into_a_chamber(demo):
    first = FILTERS["plant_bed"].first(new_site(demo, "tank"))
    data = first.model_dump()
    data["drain"] |= {"into": "sump", "chamber": "trap", "release": 0.3}
    study = Analysis(apply(demo, add_filter(demo, type(first).model_validate(data))))
    links = ways(study, first.id)
    assert links[f"{first.id}.out"].b == "sump.trap.0"
    assert study.running.flow[f"{first.id}.out"] > 1e-6
    rows = stations(study, study.situation("running"))
    card = next(s for s in rows if s.id == first.id)
    where = ("devices", first.id, "drain")
    assert dict(next(c for c in card.choices if c.path == (*where, "chamber")).options)["trap"] == "Bubble trap"
    # Led elsewhere, it forgets the chamber of the vessel before.
    to = next(c for c in card.choices if c.path == (*where, "into")).make("tank")
    moved = apply(study.system, to).device(first.id)
    assert (moved.drain.into, moved.drain.chamber) == ("tank", "")


def test_a_loop_runs_back_to_a_chamber():
    made = back_room()
    spec = next(d for d in made.devices if d.kind == "manifold")
    loop = SideLoop(into=spec.feeders[0].source, chamber="pump")
    study = Analysis(apply(made, set_value("x", (*spec.path, "loops"), (loop,))))
    rows = stations(study, study.situation("running"))
    where = (*spec.path, "loops", 0, "chamber")
    assert any(c.path == where for s in rows for c in s.choices)


# -- fresh water ------------------------------------------------------------------------------------------------------


def topped(**changes):
    system = bare()
    made = TopUp(id="top-up", into="tank", **{"level": 0.44, **changes})
    return apply(system, Edit("Add", (Change(made.path, made),)))


def test_a_float_holds_a_tank_that_nothing_drains():
    study = Analysis(topped(most=30e-3 / 3600))
    assert study.whole.link("top-up.valve").b == "tank"
    test = run(study, (Fault("evaporation", 0, 50.0),), 4 * 3600).history
    floor = study.system.tanks[0].floor
    assert test.level("tank")[-1] - floor == pytest.approx(0.44, abs=0.011)  # within the band over which it opens


def test_a_float_stuck_open_counts_the_tank_s_own_room():
    study = Analysis(topped(volume=0.2))
    found = next(f for f in findings(study) if f.code == "top-up-stuck")
    tank = study.system.tanks[0]
    room = tank.inner_length * tank.inner_width * (tank.rim - study.running.level["tank"])
    assert found.values["room"] == pytest.approx(room, rel=1e-6)


def test_an_overflow_to_waste_alone():
    study = Analysis(topped(source="none", waste=True, waste_mouth=0.46))
    assert [k for k in ways(study, "top-up") if "valve" in k] == []
    assert study.whole.link("top-up.waste.line").a == "tank"
    rows = stations(study, study.situation("running"))
    assert next(s for s in rows if s.id == "top-up").headline.startswith("overflow to waste")
    with pytest.raises(ValueError, match="lets nothing in and nothing out"):
        topped(source="none")


def test_a_drip_into_a_tank_leaves_by_its_overflow():
    study = Analysis(topped(source="drip", drip=2e-3 / 3600, waste=True, waste_mouth=0.445, level=0.44))
    test = run(study, (), 8 * 3600).history
    assert test.spilled == 0.0
    floor = study.system.tanks[0].floor
    assert test.level("tank")[-1] - floor < 0.46


def test_a_tank_offers_it_where_nothing_drains_it(demo):
    names = [name for name, _ in commands_for(bare().by_id, bare().tanks[0])]
    assert "Add a top-up" in names
    assert "Add a top-up" not in [name for name, _ in commands_for(demo.by_id, demo.tanks[0])]


def test_its_card_leads_it_elsewhere(demo):
    made = TopUp(id="top-up", into="sump", chamber="bed", level=0.2)
    system = apply(demo, Edit("Add", (Change(made.path, made),)))
    study = Analysis(system)
    assert study.whole.link("top-up.valve").b == "sump.bed"
    rows = stations(study, study.situation("running"))
    card = next(s for s in rows if s.id == "top-up")
    edit = next(c for c in card.choices if c.path[-1] == "into").make("tank")
    moved = apply(system, edit).device("top-up")
    assert (moved.into, moved.chamber) == ("tank", "")
