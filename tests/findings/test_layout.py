"""Layouts satisfy every Stop and Fix rule, or name the wish and the number."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from devices_of import sumps
from fuente.devices.base import Rank
from fuente.devices.tank.spec import Tank
from fuente.document.system import Space
from fuente.errors import FuenteError
from fuente.findings import judge
from fuente.findings.layout import Wishes, lay_out, proposals


def tank(length=1.2, width=0.5, height=0.5, thickness=0.012, stand=0.8) -> Tank:
    return Tank(length=length, width=width, height=height, thickness=thickness, bottom=thickness, stand=stand)


def test_a_usual_tank_is_laid_out_without_a_fix():
    made = lay_out(tank(), Space(length=1.1, depth=0.45, height=0.7), Wishes())
    assert made.unmet == ()
    assert [f for f in judge(made.system) if f.rank < Rank.CONSIDER] == []
    sump = sumps(made.system)[0]
    assert sump.length <= 1.1
    assert sump.width <= 0.45
    assert sump.height <= 0.5
    assert [c.role for c in sump.chambers] == ["socks", "foam", "moving_bed", "trap", "pump"]


def test_no_room_says_how_much_is_missing():
    with pytest.raises(FuenteError, match=r"\d+ mm are missing"):
        lay_out(tank(), Space(length=0.5, depth=0.45, height=0.7), Wishes())
    with pytest.raises(FuenteError, match="no sump of use"):
        lay_out(tank(), Space(length=1.0, depth=0.45, height=0.25), Wishes())


def test_thin_walls_of_the_tank_come_back_with_their_number():
    made = lay_out(tank(thickness=0.006), Space(length=1.1, depth=0.45, height=0.7), Wishes())
    assert made.system.tanks[0].thickness > 0.006 or any(f.code == "tank-wall" for f in made.unmet)


def test_proposals_differ_and_can_be_stopped():
    space = Space(length=1.1, depth=0.45, height=0.7)
    made = proposals(tank(), space, Wishes())
    assert len({tuple(c.role for c in sumps(p.system)[0].chambers) for p in made}) == len(made) >= 3
    told = []
    proposals(tank(), space, Wishes(), lambda share: told.append(share) or len(told) < 3)
    assert len(told) <= 5


def test_the_progress_of_a_layout_is_a_share():
    told = []
    lay_out(tank(), Space(length=1.1, depth=0.45, height=0.7), Wishes(), progress=lambda s: told.append(s) or True)
    assert told == pytest.approx([n / 24 for n in range(len(told))])
    assert len(told) >= 2


@settings(max_examples=8)
@given(st.floats(0.9, 2.2), st.floats(0.45, 0.8), st.floats(0.45, 0.65), st.floats(3, 9))
def test_layouts_meet_their_rules_or_say_which(length, width, height, turnover):
    big = tank(round(length, 2), round(width, 2), round(height, 2), 0.019, 0.9)
    space = Space(length=round(length - 0.05, 2), depth=round(width, 2), height=0.78, turnover=turnover / 3600)
    made = lay_out(big, space, Wishes())
    left = [f for f in judge(made.system) if f.rank < Rank.CONSIDER]
    assert {f.code for f in left} == {f.code for f in made.unmet}
    assert not any(f.rank is Rank.STOP for f in left)
    for finding in made.unmet:
        assert finding.values or finding.margin is not None
