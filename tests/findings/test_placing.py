"""A filter before or after another of its tank: their water passes both and nothing new is to mend, or why not."""

from __future__ import annotations

import functools

import pytest

from fuente.demo.starter import starter
from fuente.demo.trough import trough
from fuente.devices.base import Rank
from fuente.devices.beside import BesideSpec
from fuente.document.system import apply
from fuente.errors import FuenteError
from fuente.findings.adding import added_well, promised
from fuente.findings.judge import findings
from fuente.findings.placing import Place, neighbours, placed_well
from fuente.study.filters import first_layouts
from fuente.study.known import analysed


@functools.cache
def alone(kind):
    """The starter with one filter, as it is added."""
    system = starter()
    return apply(system, added_well(system, first(system, kind)))


def first(system, kind):
    return next(s for k, s in first_layouts(system, system.tanks[0].id) if k.id == kind)


def beside(system):
    return next(f for f in system.filters if isinstance(f, BesideSpec))


@functools.cache
def in_row(kind, other, after):
    """The second placed: document, and the ids of the first and the second in the order of the water."""
    system = alone(other)
    spec = first(system, kind)
    made = apply(system, placed_well(system, spec, Place(beside(system).id, after)))
    ids = (beside(system).id, spec.id)
    return made, ids if after else ids[::-1]


@pytest.mark.parametrize(
    ("kind", "other", "after"),
    [
        ("sock", "trickle_tower", True),
        ("plant_bed", "trickle_tower", True),
        ("trickle_tower", "plant_bed", True),
        ("sock", "plant_bed", True),
        ("trickle_tower", "trickle_tower", True),
        ("sock", "trickle_tower", False),
        ("plant_bed", "sock", False),
    ],
)
def test_the_same_water_passes_both_and_nothing_new_is_to_mend(kind, other, after):
    system = alone(other)
    made, (one, two) = in_row(kind, other, after)
    study = analysed(made)
    flow = study.running.flow
    assert made.filter(one).drain.into == two
    assert made.filter(two).feed.way == "fed"
    assert f"{two}.feed" not in flow
    assert flow[f"{one}.out"] > 1e-5
    assert flow[f"{two}.out"] == pytest.approx(flow[f"{one}.out"], rel=1e-3)
    before = {(f.code, f.owner) for f in findings(analysed(system))}
    assert not [f for f in findings(study) if f.rank < Rank.CONSIDER and (f.code, f.owner) not in before]


@pytest.mark.parametrize(("kind", "after"), [("sock", True), ("sock", False), ("plant_bed", True)])
def test_the_first_stands_as_high_as_its_water_falls_from(kind, after):
    """By hand: its outlet lies 60 mm over where its pipe ends, and that 20 mm over the other's standing water."""
    made, (one, two) = in_row(kind, "trickle_tower", after)
    study = analysed(made)
    upper = made.filter(one)
    vessel = study.sites[one].vessels[two]
    ends = vessel.floor + upper.drain.release
    assert ends == pytest.approx(max(vessel.stands, vessel.foot or vessel.floor) + 0.02, abs=1e-3)
    falls = upper.stand + upper.drain.height - ends
    assert falls >= 0.06 - 1e-3
    assert falls == pytest.approx(0.06, abs=2e-3) or kind == "plant_bed"  # it stood high enough
    assert ends < vessel.rim


def test_a_raised_filter_gets_a_pump_that_lifts_as_much_higher():
    made, (one, _) = in_row("trickle_tower", "trickle_tower", True)
    old, new = alone("trickle_tower").filter(one), made.filter(one)
    assert new.stand > old.stand + 0.1
    assert new.feed.pump.max_head == pytest.approx(old.feed.pump.max_head + new.stand - old.stand, abs=0.011)
    assert new.feed.pump.watts > old.feed.pump.watts


def test_what_would_flood_is_refused_and_says_how():
    """A tower over drums whose only way out is a pump: when that stops, all that the first pumps goes on the floor."""
    system = trough()
    drums = first(system, "drum_train")
    system = apply(system, added_well(system, drums))
    with pytest.raises(FuenteError, match=r"does not fit before drum train here: .* onto the floor"):
        placed_well(system, first(system, "plant_bed"), Place(drums.id, False))


def test_a_row_goes_on_at_its_end_or_begins_anew_at_its_start():
    system = trough()
    spec = first(system, "sock")
    row = [f for f in system.filters if isinstance(f, BesideSpec)]
    assert len(row) > 2
    found = neighbours(system, spec)
    ids = {f.id for f in row}
    last = [f.id for f in row if f.drain.into not in ids]
    starts = [f.id for f in row if f.feed.way != "fed" and f.feed.source not in ids]
    assert [p.other for p in found if p.after] == last
    assert [p.other for p in found if not p.after] == starts
    assert len(found) < 2 * len(row)


def test_what_stands_in_the_tank_joins_no_row():
    system = alone("sock")
    assert neighbours(system, first(system, "sponge")) == ()
    assert neighbours(starter(), first(starter(), "sock")) == ()
    assert len(neighbours(system, first(system, "sock"))) == 2


def test_a_promise_says_what_stands_higher_for_it():
    system = alone("trickle_tower")
    spec = first(system, "plant_bed")
    tower = beside(system)
    made = promised(system, spec, lambda: placed_well(system, spec, Place(tower.id, False)))
    stands = apply(system, made.edit).filter(tower.id).stand
    assert made.raised == (((tower.name, pytest.approx(stands - tower.stand)),) if stands > tower.stand else ())
    up = promised(
        system,
        first(system, "trickle_tower"),
        lambda: placed_well(system, first(system, "trickle_tower"), Place(tower.id, True)),
    )
    ((name, by),) = up.raised
    assert (name, by > 0.1) == (tower.name, True)
