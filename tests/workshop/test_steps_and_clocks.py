"""The build in order: what comes before what, and clocks that run from the record."""

from __future__ import annotations

import datetime

import pytest

from fuente.demo import DEMOS
from fuente.demo.reading_room import reading_room
from fuente.demo.starter import starter
from fuente.devices.base import Change, Edit
from fuente.devices.pieces import Note
from fuente.document import files
from fuente.document.record import EMPTY, Built, Record
from fuente.document.system import apply
from fuente.errors import DocumentError
from fuente.study.filters import add_filter, first_layouts
from fuente.study.known import analysed
from fuente.units import UnitSystem
from fuente.workshop.clocks import Stand, build_stand, done, next_step, opened
from fuente.workshop.joints import beads, cartridges, cure_of, cure_time
from fuente.workshop.room import Room, room_of
from fuente.workshop.step import Step
from fuente.workshop.words import remark

HOUR = 3600.0
START = datetime.datetime(2026, 11, 20, 9, 0, tzinfo=datetime.UTC)


@pytest.fixture(scope="module")
def room() -> Room:
    return room_of(analysed(reading_room()))


def by_id(room):
    return {s.id: s for s in room.steps}


@pytest.mark.parametrize("name", list(DEMOS))
def test_every_design_has_an_order(name):
    made = room_of(analysed(DEMOS[name]())).steps
    seen: set[str] = set()
    for step in made:
        assert step.id not in seen
        assert set(step.after) <= seen, step.id
        seen.add(step.id)
        assert step.minutes > 0
        assert (step.wait > 0) == bool(step.waits_for)
        for words in (step.title, step.check, *step.act):
            for units in (UnitSystem.METRIC, UnitSystem.US):
                said = remark(words, units)
                assert said
                assert "{" not in said
    assert made[-1].id == "all:watch"
    assert next(s.id for s in made if s.id.startswith("all:")) == "all:fill"


def test_dry_before_wet_and_tested_before_filled(room):
    order = [s.id for s in room.steps]
    rows = [
        ("sump:drill:sump.socks.plate", "sump:shell"),
        ("sump:clean", "sump:dry"),
        ("sump:shell", "sump:fillet"),
        ("sump:fillet", "sump:baffles"),
        ("sump:baffles", "sump:leak"),
        ("sump:leak", "sump:media"),
        ("pipe:cement", "all:fill"),
        ("sump:media", "all:fill"),
        ("all:fill", "return.low:first"),
        ("return.low:first", "overflow.siphon:first"),
        ("overflow.siphon:first", "return.cut:first"),
    ]
    for before, after in rows:
        assert order.index(before) < order.index(after), (before, after)


def test_cautions_stand_where_they_apply(room):
    found = by_id(room)
    assert any("Tempered glass" in c for c in found["overflow:drill:overflow.drain.0.hole"].cautions)
    assert any("no flame" in c for c in found["pipe:cement"].cautions)
    assert any("licensed electrician" in c for c in found["sump:things"].cautions)
    assert any("structural engineer" in c for c in found["all:fill"].cautions)
    assert found["sump:shell"].hands == 2


def test_cure_follows_the_bead_and_the_label(room):
    """6 mm at a day for 2.5 mm; 5 days dry before water on top where water comes next."""
    found = by_id(room)
    assert found["sump:fillet"].wait == pytest.approx(6 / 2.5 * 24 * HOUR)
    assert found["sump:baffles"].wait == pytest.approx(6 / 2.5 * 24 * HOUR + 5 * 24 * HOUR)
    slow = apply(
        reading_room(),
        Edit("Label", (Change(("shop", "cure"), 12 * HOUR / 1e-3), Change(("shop", "bead"), 0.003))),
    )
    # 12 hours a millimetre of the label; the bead is 3, half of the 8 mm glass is deeper.
    assert by_id(room_of(analysed(slow)))["sump:fillet"].wait == pytest.approx(4 * 12 * HOUR)


def test_beads_by_hand(room):
    """The shell of 900 × 400 × 400 with 8 mm glass: foot of four walls, and four corners."""
    shop = room.shop
    shell = [p for p in room.bill.panels if p.body == "sump" and p.faces]
    found = beads(shell, shop)
    length = 2 * 0.9 + 2 * 0.382 + 4 * 0.391
    assert sum(b.length for b in found) == pytest.approx(length)
    assert sum(b.volume for b in found) == pytest.approx(length * (0.001 * 0.008 + 0.006**2 / 2))
    assert cartridges(0.0, shop) == 0
    assert cartridges(0.31e-3, shop) == 2  # a fifth is lost
    assert cure_of([], shop) == 0
    with pytest.raises(Exception, match="depth"):
        cure_time(-1.0, shop)


def test_clocks_hold_the_next_step_back(room):
    all_steps = room.steps
    record = EMPTY
    now = START
    for key in ("sump:drill:sump.socks.plate", "sump:clean", "sump:dry", "sump:shell", "sump:fillet"):
        record = record.added(*done(by_id(room)[key], now))
    later = now + datetime.timedelta(hours=10)
    stood = {s.step.id: s for s in build_stand(all_steps, record, later)}
    fillet, mark = stood["sump:fillet"], stood["sump:mark"]
    assert fillet.stand is Stand.CURING
    assert fillet.left(later) == pytest.approx((57.6 - 10) * HOUR)
    assert mark.stand is Stand.HELD
    assert mark.held_by is not None
    assert mark.held_by.id == "sump:fillet"
    assert mark.until == now + datetime.timedelta(hours=57.6)
    assert stood["sump:baffles"].until is None  # not its own turn yet: its step before is open
    free = {s.step.id: s for s in build_stand(all_steps, record, now + datetime.timedelta(hours=58))}
    assert free["sump:fillet"].stand is Stand.DONE
    assert free["sump:mark"].stand is Stand.READY
    # Something else can be done meanwhile; with all else done, the next is what is free soonest.
    upcoming = next_step(tuple(stood.values()))
    assert upcoming is not None
    assert upcoming.stand is Stand.READY
    only = tuple(s for s in stood.values() if s.step.id in ("sump:fillet", "sump:mark", "sump:baffles"))
    waiting = next_step(only)
    assert waiting is not None
    assert waiting.step.id == "sump:mark"
    assert next_step(tuple(s for s in free.values() if s.step.id == "sump:fillet")) is None


def test_a_step_can_be_opened_again_and_written_about(room):
    step = by_id(room)["sump:clean"]
    record = EMPTY.added(*done(step, START))
    record = record.added(Built(when=START.isoformat(), step=step.id, note="one edge chipped"))
    record = record.added(*opened(step, START + datetime.timedelta(hours=1)))
    stood = next(s for s in build_stand(room.steps, record, START) if s.step.id == step.id)
    assert stood.stand is Stand.HELD  # the drilling before it is open
    assert [n.note for n in stood.notes] == ["one edge chipped"]


def test_clocks_outlive_the_program_in_the_file(tmp_path, room):
    step = by_id(room)["sump:fillet"]
    record = EMPTY.added(*done(step, START))
    path = tmp_path / "a.fuente"
    path.write_text(files.text_of(reading_room(), record))
    _, read = files.load_all(path)
    assert read == record
    stood = next(s for s in build_stand(room.steps, read, START + datetime.timedelta(hours=1)) if s.step.id == step.id)
    assert stood.left(START + datetime.timedelta(hours=1)) == pytest.approx(56.6 * HOUR)
    raw = path.read_text().replace("+00:00", "")
    path.write_text(raw)
    with pytest.raises(DocumentError):
        files.load_all(path)


def test_a_design_that_changed_keeps_what_was_done(room):
    """A wider bead later on lengthens no clock that already runs; a step that is gone is forgotten."""
    record = Record(
        entries=(*done(by_id(room)["sump:fillet"], START), Built(when=START.isoformat(), step="x:y", done=True))
    )
    wide = apply(reading_room(), Edit("Bead", (Change(("shop", "bead"), 0.01),)))
    stood = build_stand(room_of(analysed(wide)).steps, record, START)
    assert next(s for s in stood if s.step.id == "sump:fillet").left(START) == pytest.approx(57.6 * HOUR)
    assert "x:y" not in {s.step.id for s in stood}


def test_of_two_that_cure_the_longer_holds():
    """A step after two: the one that ends later says until when; one that is open comes before both."""

    def step(key, wait=0.0, after=()):
        return Step(key, "x", Note(key), (), Note("x"), 1.0, wait=wait, waits_for="x" if wait else "", after=after)

    rows = (step("short", HOUR), step("long", 5 * HOUR), step("last", after=("long", "short")))
    record = EMPTY.added(*done(rows[0], START)).added(*done(rows[1], START))
    last = build_stand(rows, record, START)[-1]
    assert last.held_by is rows[1]
    assert last.until == START + datetime.timedelta(hours=5)
    again = build_stand(rows, record.added(*opened(rows[0], START)), START)[-1]
    assert (again.held_by, again.until) == (rows[0], None)


def corner_foam():
    """The window tank with a foam wall round its corner, on a dam."""
    system = starter()
    spec = next(spec for kind, spec in first_layouts(system, system.tanks[0].id) if kind.id == "foam_wall")
    corner = spec.model_copy(update={"shape": "corner", "dam": 0.03, "walls": 1})
    return apply(system, add_filter(system, type(spec).model_validate(corner.model_dump())))


def test_what_a_kind_alone_wants_done():
    """Rails at their mark, foam, dam and notches of a corner wall in that order; bottles are cut before they are
    drilled; a sieve's frame hardens before its screen.
    """
    made = room_of(analysed(corner_foam())).steps
    wall = [s for s in made if s.id.startswith("foam")]
    names = [s.id.split(":", 1)[1] for s in wall]
    rails, foam, dam, notches = (names.index(n) for n in ("rails", "foam", "dam", "notches"))
    assert rails < foam < dam < notches
    assert wall[rails].wait == pytest.approx(4 / 2.5 * 24 * HOUR)
    said = " ".join(remark(a, UnitSystem.METRIC) for a in wall[rails].act)
    assert "from the corner" in said
    air = [s.id for s in room_of(analysed(DEMOS["nursery-on-air"]())).steps]
    assert air.index("bed-1:cut") < air.index("bed-1:drill:bed-1.holes.foot") < air.index("bed-1:roll")
    trough = {s.id: s for s in room_of(analysed(DEMOS["courtyard-trough"]())).steps}
    assert trough["sieve:frame"].wait == 24 * HOUR
    assert trough["sieve:screen"].after == ("sieve:frame",)
    assert "sieve.start:first" in trough  # its pump is started low too


def test_a_name_is_never_a_slot():
    """A sump and a medium called like slots stay as they are called."""
    named = apply(reading_room(), Edit("x", (Change(("devices", "sump", "chambers", "pump", "name"), "{h:length}"),)))
    fill = by_id(room_of(analysed(named)))["all:fill"]
    said = [remark(a, UnitSystem.METRIC) for a in fill.act]
    assert any(words.startswith("{h:length}: 2") and words.endswith("over its floor") for words in said)
