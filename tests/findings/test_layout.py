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
from fuente.study.known import analysed
from fuente.study.limits import Limits


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


def test_what_a_proposal_carries_is_what_its_water_carries(demo):
    """The number on the card against the study of the same system; without a feed one is tried that hardly matters."""
    tank, space = demo.tanks[0], demo.space
    made = lay_out(tank, space, Wishes(("foam", "moving_bed", "trap")))
    assert made.fed == pytest.approx(tank.fed)
    assert made.carries == pytest.approx(Limits(analysed(made.system)).carries.feed)
    assert made.limit in ("ammonia", "nitrite", "oxygen")
    assert made.enough
    silent = lay_out(tank.model_copy(update={"feed": 0.0, "heads": 0}), space, Wishes(("foam", "moving_bed", "trap")))
    assert silent.fed == 0.0
    assert silent.carries == pytest.approx(made.carries, rel=0.05)
    assert silent.enough
    greedy = lay_out(tank.model_copy(update={"feed": 3 * made.carries}), space, Wishes(("foam", "moving_bed", "trap")))
    assert not greedy.enough


@pytest.mark.parametrize(
    ("wish", "says"),
    [
        ({"heaters": 1500, "heater_watts": 50.0}, "eaters must be at most 8"),
        ({"heaters": 2, "heater_watts": 1e6}, "at most 3.000 W"),
    ],
)
def test_more_heaters_than_a_chamber_takes_are_refused_in_words(demo, wish, says):
    wishes = Wishes(("foam", "moving_bed", "trap"), **wish)
    with pytest.raises(FuenteError, match=says):
        proposals(demo.tanks[0], demo.space, wishes)


def test_the_others_are_ranked_by_what_they_miss_and_carry(demo):
    found = proposals(demo.tanks[0], demo.space, Wishes(("socks", "foam", "moving_bed", "trap")))
    keys = [(len(m.unmet), not m.enough, -(m.carries or 0.0)) for m in found[1:]]
    assert found[0].title == "Your chambers"
    assert keys == sorted(keys)
    assert len(keys) >= 2
