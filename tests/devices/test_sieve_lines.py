"""A sieve with several pumps and several ways in, beside the same with one of each."""

from __future__ import annotations

import pytest

from devices_of import FILTERS
from fuente.devices.base import Change, Edit
from fuente.devices.pieces import Joint
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.shown.section import section
from fuente.shown.stations import stations
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.filters import add_filter
from fuente.study.sites import new_site
from fuente.study.wet_test import run

LOW = Tank(length=2.4, width=1.2, height=0.9, thickness=0.019, bottom=0.019, braced=True, stand=0.0, feed=2e-7)


def sieve(*changes):
    bare = System(devices=(LOW,))
    first = FILTERS["sieve_bed"].first(new_site(bare, "tank")).model_copy(update={"id": "it"})
    system = apply(bare, add_filter(bare, first))
    return apply(system, Edit("x", tuple(Change(("devices", "it", k), v) for k, v in changes))) if changes else system


def two():
    spec = sieve().device("it")
    half = spec.drain.pump.model_copy(update={"max_flow": spec.drain.pump.max_flow / 2})
    small = spec.drain.model_copy(update={"pump": half})
    return sieve(("drain", small), ("drains", (small,)))


def test_two_pumps_give_more_than_one_and_as_much_as_they_show():
    one = Analysis(sieve(("drain", two().device("it").drain)))
    both = Analysis(two())
    state = both.running
    assert state.flow["it.out2.out"] == pytest.approx(state.flow["it.out"], rel=1e-6)
    whole = state.flow["it.out"] + state.flow["it.out2.out"]
    assert whole > 1.5 * one.running.flow["it.out"]
    card = next(s for s in stations(both, both.situation("running")) if s.id == "it")
    assert card.values["flow"] == pytest.approx(whole)
    assert {k.owner for k in both.network.links if k.id.startswith("it.")} == {"it"}


def test_one_of_two_pumps_out_leaves_the_other():
    both = Analysis(two())
    out = both.situation("pump_out")
    assert out.about == "it"
    assert 0.3 < out.numbers["share"] < 0.75
    cut = run(both, (Fault("power-cut", 5),), 1800).history
    assert cut.volumes.sum(axis=1) == pytest.approx(cut.volumes[0].sum(), rel=1e-12)


def test_a_second_way_in_lets_a_stronger_pump_run():
    """A pump that outruns one pipe in, and no longer outruns two."""
    spec = sieve().device("it")
    strong = spec.drain.pump.model_copy(update={"max_flow": 6e-3, "max_head": 4.0})
    drain = spec.drain.model_copy(update={"pump": strong, "pipe": "75-pn10"})
    thin = spec.feed.model_copy(update={"pipe": "63-pn10"})
    one = Analysis(sieve(("drain", drain), ("feed", thin)))
    more = Analysis(sieve(("drain", drain), ("feed", thin), ("feeds", (thin, thin))))
    assert "pump-outruns" in {f.code for f in findings(one)}
    low = one.running.level["it.chamber"]
    assert more.running.level["it.chamber"] > low + 0.02
    assert more.running.flow["it.out"] > 1.2 * one.running.flow["it.out"]


def test_its_parts_are_all_its_own():
    study = Analysis(two())
    spec, site = study.system.device("it"), study.sites["it"]
    pieces = FILTERS["sieve_bed"].parts(spec, site, study.running).pieces
    ids = [p.id for p in pieces]
    assert len(ids) == len(set(ids))
    assert "it.out2.drain.pump" in ids
    assert "it.out2.feed.pipe" not in ids
    bodies = {b for p in pieces if isinstance(p, Joint) for b in p.between}
    assert bodies <= {"it", "tank"}


def test_further_lines_come_and_go_on_its_card():
    study = Analysis(sieve())
    card = next(s for s in stations(study, study.situation("running")) if s.id == "it")
    commands = dict(card.commands())
    system = apply(study.system, commands["Add another pump"])
    system = apply(system, commands["Add another way in"])
    spec = system.device("it")
    assert (len(spec.drains), len(spec.feeds)) == (1, 1)
    study = Analysis(system)
    card = next(s for s in stations(study, study.situation("running")) if s.id == "it")
    labels = [c.label for c in card.choices]
    assert "Way out 2, leads to" in labels
    assert "Way in 2, draws from" in labels
    back = apply(system, dict(card.commands())["Take out the last pump"])
    assert back.device("it").drains == ()
    drawn = section(study, study.situation("running"))
    pumps = [s for s in drawn.shapes if getattr(s, "style", "") == "pump" and getattr(s, "owner", "") == "it"]
    assert len(pumps) == 2


def test_where_further_lines_may_not_lead():
    spec = sieve().device("it")
    lost = spec.drain.model_copy(update={"into": "nowhere"})
    with pytest.raises(FuenteError, match="not there"):
        sieve(("drains", (lost,)))
    with pytest.raises(FuenteError, match="a pipe or a pump"):
        sieve(("feeds", (spec.feed.model_copy(update={"way": "fed"}),)))
    with pytest.raises(FuenteError, match="the float holds the water over the screen"):
        Analysis(sieve(("feeds", (spec.feed.model_copy(update={"hold": spec.screen}),))))
