"""Air lines into a sump's chambers: what they want and get, what is judged, what cannot be."""

import pytest

from devices_of import air_supplies, sumps, swapped
from fuente.demo.reading_room import reading_room
from fuente.devices.air_supply.spec import AirPumpSpec, AirSupplySpec, DropSpec
from fuente.devices.base import Change, Edit, Rank
from fuente.document.system import apply, set_value
from fuente.errors import EntryError
from fuente.findings.judge import findings
from fuente.hydraulics.air import DIFFUSER_PRESSURE
from fuente.shown.stations import stations
from fuente.study.known import analysed
from fuente.study.movers import movers

LPM = 1e-3 / 60
BED, PLACE = "bed", "sump.bed"
OF_AIR = ("bed-no-air", "bed-still", "bed-wild", "air-starved")


def blown(flow=30 * LPM, pressure=20e3, **drop):
    """The reading room with a line to its moving bed."""
    pump = AirPumpSpec(max_flow=flow, max_pressure=pressure)
    line = DropSpec(to="sump", chamber=BED, **drop)
    return swapped(reading_room(), AirSupplySpec(id="air", height=2.0, pump=pump, drops=(line,)))


def told(system):
    return {f.code: f for f in findings(analysed(system)) if f.code in OF_AIR}


def test_a_bed_wants_air_by_its_carriers_and_its_rule():
    """1 L/min for each litre of carriers rolls it gently, 2.5 hard; other chambers 1 L/min for 20 L of water."""
    system = reading_room()
    litres = next(c.fill.volume for c in sumps(system)[0].chambers if c.id == BED) * 1000
    assert analysed(system).air_wish(PLACE) == pytest.approx(litres * LPM)
    hard = apply(system, set_value("x", ("schools", "roll"), "hard"))
    assert analysed(hard).air_wish(PLACE) == pytest.approx(2.5 * litres * LPM)
    sump = sumps(system)[0]
    k = next(i for i, c in enumerate(sump.chambers) if c.role == "foam")
    chamber, width = sump.chambers[k], sump.widths()[k]
    water = width * sump.inner_width * chamber.exit.top * 1000
    assert analysed(system).air_wish(f"sump.{chamber.id}") == pytest.approx(water / 20 * LPM)


def test_air_changes_no_level_and_is_what_the_pump_pushes_through():
    """All that the pump gives comes out in the bed: its straight curve at depth, diffuser, check valve and line."""
    still, study = analysed(reading_room()), analysed(blown(end="diffuser", bore=0.02, length=0.05, spacing=0.05))
    for name in ("running", "power_cut"):
        a, b = still.situation(name).solution.level, study.situation(name).solution.level
        assert all(abs(a[key] - b[key]) < 1e-9 for key in a)
    depth = study.running.level["sump.bed"] - study.airs["air"].supply.drops[0].lift.injector
    need = 997.0 * 9.81 * depth + DIFFUSER_PRESSURE + 400.0  # wide and short: the line and its valve take little
    assert study.running.flow["air.sump.bed.air"] == pytest.approx(30 * LPM * (1 - need / 20e3), rel=0.03)


def test_a_bed_without_air_is_told_and_led_to():
    """The remedy gives it what it wants, and brings nothing."""
    system = reading_room()
    finding = told(system)["bed-no-air"]
    assert finding.rank is Rank.CONSIDER
    assert finding.owner == PLACE
    mended = apply(system, finding.edit)
    assert not told(mended)
    study = analysed(mended)
    assert study.running.flow["air.sump.bed.air"] == pytest.approx(study.air_wish(PLACE), rel=0.05)
    before, after = ({f.code for f in findings(analysed(s))} for s in (system, mended))
    assert after <= before


def test_too_little_and_too_much_air():
    """Half of the wish and 3.2 times it are the limits; a line too deep for the pump brings none."""
    wish = analysed(reading_room()).air_wish(PLACE)

    def at(times):
        flat = ((0.0, 30e3), (times * wish, 29e3), (times * wish * 1.0001, 1e-3))  # gives what it gives at any depth
        pump = AirPumpSpec(points=flat)
        line = DropSpec(to="sump", chamber=BED, bore=0.02, spacing=0.05)
        return told(swapped(reading_room(), AirSupplySpec(id="air", height=2.0, pump=pump, drops=(line,))))

    assert set(at(0.49)) == {"bed-still"}
    assert at(0.51) == {}
    assert at(3.19) == {}
    assert set(at(3.21)) == {"bed-wild"}
    starved = told(blown(pressure=900.0))
    assert set(starved) == {"air-starved"}
    assert starved["air-starved"].owner == PLACE


def test_a_second_bed_can_have_the_first_pump_or_its_own():
    """On a design with an air pump both are offered; the first does not starve what hangs on it."""
    system = blown()
    sump = sumps(system)[0]
    bed = next(c for c in sump.chambers if c.id == BED)
    more = bed.model_copy(update={"id": "more", "name": "Second bed", "width": 0.1, "heaters": 0})
    sump = sump.model_copy(update={"chambers": (*sump.chambers[:-1], more, sump.chambers[-1]), "length": 1.3})
    system = swapped(system, sump)
    finding = next(f for f in findings(analysed(system)) if f.code == "bed-no-air")
    assert finding.owner == "sump.more"
    assert [name for name, _ in finding.others] == ["Air pump of its own"]
    own = apply(system, finding.others[0][1])
    assert len(air_supplies(own)) == 2
    assert len(air_supplies(apply(system, finding.edit))) == 1
    assert not told(own)


def test_what_only_bubbles_is_no_mover():
    assert [m.owner for m in movers(analysed(blown()))] == ["return"]


def test_the_card_has_its_valve_and_its_command():
    """A chamber without a line can get one from its menu; with one its valve stands on its card."""
    without = next(s for s in stations(analysed(reading_room())) if s.id == PLACE)
    assert "Connect an air line" in [name for name, _ in without.commands()]
    card = next(s for s in stations(analysed(blown())) if s.id == PLACE)
    assert "Connect an air line" not in [name for name, _ in card.commands()]
    assert card.choices[1].label == "Its air valve"
    assert {r.label: r.value for r in card.readings}["Air it gets"] > 0
    pump = next(s for s in stations(analysed(blown())) if s.id == "sump.pump")
    assert "Connect an air line" not in [name for name, _ in pump.commands()]


@pytest.mark.parametrize(
    ("chamber", "words"),
    [("pump", "takes no air there"), ("nowhere", "a chamber that is not there"), ("", "takes no air")],
)
def test_lines_that_lead_nowhere(chamber, words):
    air = AirSupplySpec(id="air", drops=(DropSpec(to="sump", chamber=chamber),))
    with pytest.raises(EntryError, match=words):
        apply(reading_room(), Edit("x", (Change(air.path, air),)))


def test_one_line_a_chamber():
    air = air_supplies(blown())[0]
    with pytest.raises(EntryError, match="same place"):
        apply(blown(), Edit("x", (Change(air.path, air.model_copy(update={"drops": air.drops * 2})),)))
    second = air.model_copy(update={"id": "air-2"})
    with pytest.raises(EntryError, match="same place"):
        apply(blown(), Edit("x", (Change(second.path, second),)))


def test_taking_the_sump_out_takes_the_line_out():
    air = AirSupplySpec(id="x", drops=(DropSpec(to="sump", chamber=BED), DropSpec(to="other")))
    left = air.past(sumps(reading_room())[0])
    assert [d.to for d in left.drops] == ["other"]
