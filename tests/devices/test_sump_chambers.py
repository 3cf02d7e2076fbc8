"""A new chamber's contents by rule of thumb, and what can be done to the row of them."""

from __future__ import annotations

import math

import pytest

from fuente.demo.cascade import cascade
from fuente.demo.reading_room import reading_room
from fuente.devices.sump.chambers import WIDTHS, commands, new_chamber
from fuente.devices.sump.spec import ROLE_NAMES
from fuente.document.system import apply, set_value

LPH = 1e-3 / 3600
ACROSS, DEEP = 0.384, 0.392


def chamber(role, width=0.2, crest=0.28, flow=3000 * LPH, **more):
    return new_chamber(role, "new", width, crest, ACROSS, DEEP, flow, **more)


@pytest.mark.parametrize(("lph", "count"), [(1000, 1), (2500, 1), (2600, 2), (5100, 3), (12000, 3)])
def test_socks_by_the_flow_and_the_room(lph, count):
    """2 500 L/h on each; three of 115 mm stand side by side in 384 mm."""
    made = chamber("socks", flow=lph * LPH)
    assert made.socks.count == count
    assert made.socks.plate == pytest.approx(0.28 + 0.045)
    assert made.socks.length == 0.24
    assert made.exit.teeth == 0.2
    assert chamber("socks", crest=0.2).socks.length == 0.2
    assert chamber("socks", crest=0.36).socks.plate == pytest.approx(DEEP - 0.01)


@pytest.mark.parametrize(
    ("width", "pads"), [(0.18, ((20, 0.065), (30, 0.065))), (0.12, ((20, 0.035), (30, 0.035))), (0.1, ((20, 0.05),))]
)
def test_foam_in_two_grades_or_one(width, pads):
    """50 mm of the chamber stay free; on steps of 5 mm; two pads from 30 mm each on."""
    made = chamber("foam", width=width)
    assert [(p.ppi, p.thickness) for p in made.pads] == [(g, pytest.approx(t)) for g, t in pads]
    assert [p.height for p in made.pads] == pytest.approx([0.28 + 0.055] * len(pads))
    assert chamber("foam", crest=0.35).pads[0].height == pytest.approx(DEEP - 0.012)


def test_media_stand_four_centimetres_over_the_crest_in_bags():
    made = chamber("media")
    assert made.fill.volume == pytest.approx(0.2 * ACROSS * 0.32, abs=6e-5)
    assert made.fill.held == "bags"
    assert chamber("media", crest=0.36).fill.volume == pytest.approx(0.2 * ACROSS * (DEEP - 0.02), abs=6e-5)


def test_a_moving_bed_starts_half_full_behind_teeth():
    made = chamber("moving_bed", heaters=(2, 75.0))
    assert made.fill.volume == pytest.approx(0.2 * ACROSS * 0.28 * 0.5, abs=6e-5)
    assert (made.exit.teeth, made.exit.tooth_gap) == (0.4, 0.006)
    assert (made.heaters, made.heater_watts) == (2, 75.0)


@pytest.mark.parametrize("lph", [1000, 6000, 12000])
def test_a_traps_gap_is_gentle(lph):
    """0.14 m/s under it, on the next 5 mm, 30 mm at least."""
    made = chamber("trap", width=0.1, flow=lph * LPH)
    wanted = lph * LPH / (ACROSS * 0.14)
    assert made.under.gap == pytest.approx(max(math.ceil(wanted / 0.005 - 1e-9) * 0.005, 0.03))
    assert made.under.top == pytest.approx(0.28 + 0.06)
    assert chamber("trap", crest=0.36).under.top == pytest.approx(DEEP - 0.005)


def test_a_clean_out_stands_apart_behind_a_low_crest():
    assert chamber("clean_out").exit.top == pytest.approx(0.75 * 0.28)


def done(system, index, sump="sump"):
    """Every command of a chamber: its words → the row of roles that it makes."""
    spec = system.by_id[sump]
    found = commands(spec, index, spec.path, 3000 * LPH)
    return {words: [c.role for c in apply(system, edit).by_id[sump].chambers] for words, edit in found}


def test_the_row_changes_as_its_commands_say():
    row = ["socks", "foam", "moving_bed", "trap", "pump"]
    first = commands(reading_room().by_id["sump"], 0, ("devices", "sump"), 3000 * LPH)
    assert "Move it upstream" not in dict(first)
    assert [c.role for c in dict(first)["Take it out"].changes[0].value] == row[1:]
    middle = done(reading_room(), 1)
    assert middle["Move it upstream"] == ["foam", "socks", *row[2:]]
    assert middle["Move it downstream"] == ["socks", "moving_bed", "foam", *row[3:]]
    assert middle["Take it out"] == ["socks", *row[2:]]
    last = done(reading_room(), 4)
    assert not {"Take it out", "Move it upstream", "Move it downstream"} & last.keys()
    assert "Move it downstream" not in done(reading_room(), 3)  # the pump chamber stays last


def test_a_chamber_takes_its_length_from_the_pump_chamber():
    """100 mm and a baffle stay there; a role that wants more is not offered."""
    system = cascade()
    spec = system.by_id["lower"]
    spare = spec.widths()[-1] - 0.1 - 0.006
    found = commands(spec, 0, spec.path, 3000 * LPH)
    offered = {words for words, _ in found if words.startswith("Add ") and words.endswith("after it")}
    wanted = {r for r, (least, _) in WIDTHS.items() if r != "pump" and least <= spare}
    assert len(offered) == len(wanted)
    for words, edit in found:
        for role, name in ROLE_NAMES.items():
            if words == f"Add {name.lower()} after it":
                made = edit.changes[0].value[1]
                assert made.role == role
                assert made.width == pytest.approx(min(WIDTHS[role][1], spare), abs=6e-4)
                crests = [spec.chambers[0].exit.top, spec.chambers[1].exit.top]
                crest = made.exit.top / (0.75 if role == "clean_out" else 1.0)
                assert crest == pytest.approx(sum(crests) / 2, abs=1e-3)


def test_pads_are_added_finer_and_taken_out_from_the_end():
    system = reading_room()
    spec = system.by_id["sump"]
    found = dict(commands(spec, 1, spec.path, 3000 * LPH))
    more = found["Add a finer pad"].changes[0].value
    assert [p.ppi for p in more] == [20, 30, 45, 55]
    assert (more[-1].thickness, more[-1].height) == (0.025, 0.345)
    assert [p.ppi for p in found["Take out the last pad"].changes[0].value] == [20, 30]
    # 125 mm of foam and 30 more stand in 161 mm less 5, and not in 159.
    for width, fits in ((0.161, True), (0.159, False)):
        narrow = apply(system, set_value("x", (*spec.path, "chambers", 1, "width"), width)).by_id["sump"]
        assert ("Add a finer pad" in dict(commands(narrow, 1, spec.path, 3000 * LPH))) is fits
