"""Another kind in a filter's place: what fits is kept, nothing new is to stop for or to fix. Life without a sump."""

import pytest

from devices_of import FILTERS, air_supplies
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.demo.starter import bare
from fuente.demo.trough import trough
from fuente.devices.base import Rank
from fuente.devices.recipes.racks import Rack, add_rack
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply, set_value
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.findings.adding import added_well, swapped_well
from fuente.shown.commands import commands_of
from fuente.study.filters import first_layouts, take_out
from fuente.study.known import analysed
from fuente.study.sites import new_site

TANK = Tank(length=1.1, width=0.5, height=0.5, thickness=0.01, stand=0.9, feed=3e-3 / 86400)


def grave(system):
    return {(f.code, f.owner) for f in findings(analysed(system)) if f.rank < Rank.CONSIDER}


def alone(kind):
    base = System(devices=(TANK,))
    return apply(base, added_well(base, FILTERS[kind].first(new_site(base, "tank"))))


@pytest.mark.parametrize("kind", ["sponge", "canister", "drum_train", "trickle_tower"])
def test_every_other_kind_can_take_its_place(kind):
    """From four kinds to all others: it builds, runs, keeps id and tank, and brings nothing to stop for or to fix."""
    system = alone(kind)
    old = system.filters[0]
    named = apply(system, set_value("n", (*old.path, "name"), "Mine"))
    old = named.filters[0]
    tried = 0
    for other, spec in first_layouts(apply(named, take_out(named, old)), "tank"):
        if other.id == kind or isinstance(spec, FuenteError):
            continue
        after = apply(named, swapped_well(named, old, spec))
        made = after.by_id[old.id]
        assert (made.kind, made.tank, made.name) == (other.id, old.tank, "Mine")
        assert len(after.filters) == 1
        strains = other.id in ("sieve_bed", "sock", "steriliser")  # nothing lives there
        bare_of_media = {("surface-short", "tank")} if strains else set()
        assert not grave(after) - grave(named) - bare_of_media, other.id
        airy = [d for d in after.devices if old.id in d.air_lines()]
        assert bool(airy) == (other.air and made.on_air), other.id
        tried += 1
    assert tried >= 8


def test_its_pipes_stay_where_they_fit():
    """A drum train fed and drained by falls: the plant bed in its place leads to the same water."""
    system = alone("drum_train")
    old = system.filters[0]
    spec = FILTERS["plant_bed"].first(new_site(apply(system, take_out(system, old)), "tank"))
    made = apply(system, swapped_well(system, old, spec)).by_id[old.id]
    assert (made.drain.into, made.feed.source) == (old.drain.into, old.feed.source)
    assert made.offset == old.offset


def test_a_swap_of_one_on_air_leaves_the_others_their_air():
    system = nursery()
    old = next(f for f in system.filters if f.kind == "sponge")
    spec = FILTERS["canister"].first(new_site(apply(system, take_out(system, old)), old.tank))
    after = apply(system, swapped_well(system, old, spec))
    before, now = air_supplies(system)[0].air_lines(), air_supplies(after)[0].air_lines()
    assert set(before) - set(now) == {old.id}


# -- without a sump ---------------------------------------------------------------------------------------------------


def test_a_bare_tank_is_a_design():
    study = analysed(bare())
    assert not study.has_sump
    assert not grave(bare())
    for name in study.names():
        assert study.situation(name).solution.spilled == 0


def test_the_sump_is_taken_out_with_what_is_nothing_without_it():
    system = reading_room()
    study = analysed(system)
    commands = dict(commands_of(study, system.by_id["sump"], None, ()))
    after = apply(system, commands["Take the whole sump out"])
    assert [d.id for d in after.devices] == ["tank"]
    assert analysed(after).running.depth("tank") == pytest.approx(0.9 * after.tanks[0].inner_height)
    assert grave(after) == {("surface-short", "tank")}  # its animals are fed, and nothing carries that now


def test_ten_tubs_on_air_need_no_sump():
    """A rack on nothing, a sponge in every tub, one air pump: each moves its water."""
    system = apply(bare(), add_rack(bare().by_id, Rack(rows=2, columns=5, device="", turnover=2 / 3600), replace=True))
    assert len(system.tanks) == 10
    assert not system.filters
    first = system.tanks[0].id
    spec = FILTERS["sponge"].first(new_site(system, first))
    after = apply(system, added_well(system, spec, [t.id for t in system.tanks[1:]]))
    study = analysed(after)
    assert all(study.moved(study.running, t.id) > 1e-6 for t in after.tanks)
    assert not grave(after)


def test_one_that_others_lead_through_is_not_swapped_for_one_in_the_tank():
    system = trough()
    old = next(f for f in system.filters if f.kind == "drum_train")
    spec = FILTERS["sponge"].first(new_site(system, old.tank))
    with pytest.raises(FuenteError, match="Other filters lead from or to two drums"):
        swapped_well(system, old, spec)
