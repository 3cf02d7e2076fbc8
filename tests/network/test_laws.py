"""Every law: slopes that are its derivatives, flow that rises with the upper and falls with the lower level."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from amounts import LPH
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.porous import felt, foam
from fuente.hydraulics.pumps import PumpCurve
from fuente.network.beds import Bed, Drips, Film, FloatFed, Resistance, Sealed, Through, bed_loss, hole_loss
from fuente.network.laws import Bulkhead, Gap, Pad, Sheet, Spill, Standpipe, Weir
from fuente.network.returning import Outlet, ReturnLine
from fuente.network.supplies import Falls, FloatValve, Header, Lines, RimSiphon
from fuente.water.properties import water

STUFF = water(20)
LINE = ReturnLine(
    PumpCurve(3.6, 5000 * LPH),
    Pipe(0.0284, 2.6, 5.1),
    (Outlet(1.26, 1.306, 0.0212, 3.1), Outlet(1.27, 1.27, 0.0212, 3.1)),
    0.15,
)
LAWS = {
    "weir": Weir(0.3, 0.4, 0.3),
    "gap": Gap(0.1, 0.4, 0.04),
    "pad": Pad(0.0, 0.4, 0.35, 0.05, foam(30).dirty(5), STUFF),
    "sheet": Sheet(0.1, 0.24, 0.15, 0.0025, felt(200e-6), STUFF),
    "bulkhead": Bulkhead(0.15, Pipe(0.0284, 0.06, 1.5)),
    "standpipe": Standpipe(0.2, -0.6, Pipe(0.0362, 1.0, 3.0), 0.05, 0.08),
    "siphon": Standpipe(0.2, -0.6, Pipe(0.0284, 1.0, 9.0), 0.011, 0.028),
    "spill": Spill(0.4, 1.0),
    "header": Header(0.1, 0.0678, 0.0, 0.01, 2.4, Pipe(0.0678, 0.9, 3.0), -0.7),
    "gutter": Header(0.1, 0.06, 0.08, 0.005, 2.4, Pipe(0.0452, 0.9, 3.0), -0.7),
    "lines": Lines(Bulkhead(0.15, Pipe(0.0362, 0.06, 1.5)), 2),
    "float": FloatValve(0.25, 0.02, 2e-5, 0.1),
    "bed": Bed(0.08, 0.2, bed_loss(foam(20), 0.03, 0.08, STUFF), hole_loss(8e-4), 4.0),
    "through": Through(Bulkhead(0.15, Pipe(0.0362, 0.06, 1.5)), 2, bed_loss(foam(20), 0.1, 0.1, STUFF), 3.0),
    "float-fed": FloatFed(Bulkhead(0.05, Pipe(0.0362, 0.3, 2.0)), 1, 0.3, 0.05),
    "drips": Drips(0.1, 6e-4),
    "sealed": Sealed(0.05, Pipe(0.0127, 2.4, 4.0), 1, Resistance(40.0, 2e5)),
    "film": Film(0.0, 0.05, 0.4),
    "falls": Falls(Standpipe(0.2, -0.6, Pipe(0.0362, 1.0, 3.0), 0.05, 0.08), 3, 0.5),
    "rim-siphon": RimSiphon(0.12, 0.14, Pipe(0.0284, 0.6, 2.4)),
}
level = st.floats(0.02, 0.48)


@pytest.mark.parametrize("name", LAWS)
@given(a=level, b=level)
def test_slopes_are_derivatives(name, a, b):
    law = LAWS[name]
    assume(abs(a - b) > 1e-4)
    h = 1e-7
    q, by_a, by_b = law.flow(a, b)
    up, down = law.flow(a + h, b)[0], law.flow(a - h, b)[0]
    left, right = law.flow(a, b + h)[0], law.flow(a, b - h)[0]
    # Where a formula has a corner (a brim, a mouth, equal levels) its two one-sided slopes differ: those are left out.
    assume(abs((up - q) - (q - down)) < 2e-2 * abs(up - down) + 1e-14)
    assume(abs((left - q) - (q - right)) < 2e-2 * abs(left - right) + 1e-14)
    assert by_a == pytest.approx((up - down) / (2 * h), rel=3e-2, abs=2e-6)
    assert by_b == pytest.approx((left - right) / (2 * h), rel=3e-2, abs=2e-6)


@pytest.mark.parametrize("name", LAWS)
@given(a=level, b=level, more=st.floats(1e-5, 0.05))
def test_more_head_never_means_less_flow(name, a, b, more):
    law = LAWS[name]
    q = law.flow(a, b)[0]
    slack = 1e-12 + 3e-4 * abs(q)  # Villemonte's share falls a hair faster than the free flow rises, deep under water
    assert law.flow(a + more, b)[0] >= q - slack
    assert law.flow(a, b + more)[0] <= q + slack


@pytest.mark.parametrize("name", ["weir", "gap", "pad", "bulkhead", "sheet", "bed", "through"])
@given(a=level, b=level)
def test_two_way_laws_are_the_same_both_ways(name, a, b):
    assert LAWS[name].flow(a, b)[0] == pytest.approx(-LAWS[name].flow(b, a)[0], rel=1e-12, abs=1e-15)


@pytest.mark.parametrize("name", ["weir", "gap", "pad", "bulkhead", "sheet"])
def test_equal_levels_move_nothing_but_could(name):
    """Without a slope there the solvers would see two cells that do not know each other."""
    q, by_a, by_b = LAWS[name].flow(0.34, 0.34)
    assert abs(q) < 1e-12
    assert by_a > 1e-3
    assert by_b < -1e-3


@pytest.mark.parametrize("name", ["standpipe", "siphon", "spill"])
def test_falls_are_one_way(name):
    assert LAWS[name].flow(0.05, 0.45)[0] == 0.0


def test_pump_fades_out_at_its_intake_and_lifts_less_when_higher():
    full = LINE.flow(0.25, 1.3)[0]
    assert full > 2000 * LPH
    assert LINE.flow(0.154, 1.3)[0] < full
    assert LINE.flow(0.15, 1.3)[0] == 0.0
    assert LINE.flow(0.25, 1.4)[0] < full


def test_back_siphon_stops_at_the_hole_and_at_the_mouth():
    from dataclasses import replace

    off = replace(LINE, on=False, leak=1.0)
    both = -off.flow(0.3, 1.32)[0]
    first = max(outlet.breaks_at for outlet in LINE.outlets)
    assert both > -off.flow(0.3, first + 0.001)[0] > 0
    assert off.flow(0.3, first)[0] == 0.0  # air that one outlet draws stops the other on the same tee
    lower = min(outlet.breaks_at for outlet in LINE.outlets)
    alone = replace(off, outlets=tuple(o for o in LINE.outlets if o.breaks_at == lower))
    assert -alone.flow(0.3, (first + lower) / 2)[0] > 0
    assert replace(off, leak=0.0).flow(0.3, 1.32)[0] == 0.0
    assert -replace(off, leak=0.1).flow(0.3, 1.32)[0] == pytest.approx(both / 10)


def test_a_dearer_back_way_slows_the_siphon():
    from dataclasses import replace

    off = replace(LINE, on=False, leak=1.0)
    assert -replace(off, reverse_k=40.0).flow(0.3, 1.32)[0] < -off.flow(0.3, 1.32)[0]


def test_beds_lose_what_darcy_and_forchheimer_say():
    """By hand: foam of 20 ppi, 100 mm thick on 0.1 m², and a hole of 8 cm² after it, in a row."""
    medium, flow, area, thick = foam(20), 2000 * LPH, 0.1, 0.1
    speed = flow / area
    pressure = thick * (STUFF.viscosity * speed / medium.permeability + STUFF.density * medium.inertia * speed**2)
    hole = (flow / (0.62 * 8e-4)) ** 2 / (2 * 9.80665)
    drop = 3 * pressure / (STUFF.density * 9.80665) + hole
    law = Bed(0.0, 0.05, bed_loss(medium, area, thick, STUFF), hole_loss(8e-4), 3.0)
    assert law.flow(0.2 + drop, 0.2)[0] == pytest.approx(flow, rel=1e-3)


@given(drop=st.floats(1e-4, 0.3), dirt=st.floats(1, 100))
def test_a_line_with_a_bed_is_the_two_in_a_row(drop, dirt):
    """What passes loses in pipe and bed together exactly the drop."""
    pipe, bed = Pipe(0.0127, 2.4, 4.0), Resistance(40.0, 2e5)
    q = Sealed(0.0, pipe, 2, bed, dirt).flow(0.3 + drop, 0.3)[0]
    assert pipe.head_loss(q / 2) + bed.times(dirt).loss(q) == pytest.approx(drop, rel=1e-6)
    assert Sealed(0.0, pipe, 2, bed, dirt, open_share=0.0).flow(0.3 + drop, 0.3)[0] == 0


def test_a_float_holds_by_the_water_that_it_hangs_in():
    valve = FloatFed(Bulkhead(0.05, Pipe(0.0362, 0.3, 2.0)), 1, 0.3, 0.05)
    full = valve.by_float(0.6, 0.4, 0.2)[0]
    assert full == pytest.approx(Bulkhead(0.05, Pipe(0.0362, 0.3, 2.0)).flow(0.6, 0.4)[0])
    assert 0 < valve.by_float(0.6, 0.4, 0.27)[0] < full
    assert valve.by_float(0.6, 0.4, 0.3)[0] == 0
    stuck = FloatFed(valve.one, 1, 0.3, 0.05, "open")
    assert stuck.by_float(0.6, 0.4, 0.35)[0] == pytest.approx(full)


def test_a_film_keeps_what_runs_through_it():
    law = Film(0.0, 0.05, 0.4)
    q = 600 * LPH
    held = 0.4 * q**0.6
    assert law.flow(held / 0.05, -1.0)[0] == pytest.approx(q, rel=1e-9)
