"""A sump of every role: cells, volumes by hand, levels, and what cannot be built."""

import itertools
import math

import pytest
from pydantic import ValidationError

from amounts import LPH
from fuente.catalogue import stock
from fuente.devices.site import Site
from fuente.devices.sump.chambers import WIDTHS, commands, new_chamber
from fuente.devices.sump.network import lower, pad_spans
from fuente.devices.sump.spec import ROLE_NAMES, Baffle, Chamber, Fill, Pad, Sump, cell_ids
from fuente.devices.tank.spec import Tank
from fuente.document.system import System
from fuente.hydraulics.weirs import weir_head
from fuente.network import Link, Network, steady
from fuente.network.level_curve import LevelCurve
from fuente.network.model import FLOOR, Cell
from fuente.water.properties import water

SINK = Cell(FLOOR, "floor", -1000.0, -999.0, LevelCurve.prism(-1000.0, -999.0, 1e4), sink=True)
ROLES = [r for r in ROLE_NAMES if r != "pump"]
FLOW = 2000 * LPH

SITE = Site(Tank(), water(20))


class Fixed:
    def __init__(self, q):
        self.q = q

    def flow(self, a, b):
        return self.q, 0.0, 0.0


def row(*roles: str) -> Sump:
    """Chambers of these roles in a long sump, crests falling by 15 mm."""
    made = []
    for i, role in enumerate(roles):
        made.append(new_chamber(role, f"{role}-{i}", WIDTHS[role][1], round(0.3 - 0.015 * i, 3), 0.384, 0.392, FLOW))
    return Sump(length=2.6, chambers=(*made, Chamber(id="pump", role="pump", level=0.15)))


def run(sump: Sump, flow: float = FLOW):
    fragment = lower(sump, SITE)
    pump = Link("pump", "pump", fragment.ports["pump"], fragment.ports["inlet"], Fixed(flow), "pump")
    return steady(Network((*fragment.cells, SINK), (*fragment.links, pump), fragment.marks))


@pytest.mark.parametrize("role", ROLES)
def test_every_role_alone_runs_and_stands_at_its_crest(role):
    sump = row(role)
    solution = run(sump)
    chamber = sump.chambers[0]
    last = cell_ids(sump, chamber)[-1]
    free = sump.inner_width * (1 - chamber.exit.teeth)
    assert solution.imbalance < 1e-12
    assert solution.depth(last) == pytest.approx(chamber.exit.top + weir_head(FLOW, free, chamber.exit.top), abs=1e-6)


def test_all_roles_in_one_row_step_down_along_the_water():
    sump = row(*ROLES)
    solution = run(sump)
    for chamber in sump.chambers[:-1]:
        for before, after in zip(cell_ids(sump, chamber), cell_ids(sump, chamber)[1:], strict=False):
            assert solution.level[before] >= solution.level[after] - 1e-12
    assert not solution.spilling


def test_volume_of_a_plain_chamber_by_hand():
    sump = row("inlet")
    curve = lower(sump, SITE).cells[0].curve
    assert curve.volume(sump.floor + 0.2) == pytest.approx(0.2 * WIDTHS["inlet"][1] * sump.inner_width)


def test_carriers_and_foam_and_media_displace_what_is_solid():
    bed = row("moving_bed")
    fill = bed.chambers[0].fill
    cell = lower(bed, SITE).cells[0]
    crest = bed.chambers[0].exit.top
    plan = WIDTHS["moving_bed"][1] * bed.inner_width
    solid = fill.volume * (1 - stock().medium(fill.medium).void)
    assert cell.curve.volume(bed.floor + crest) == pytest.approx(plan * crest - solid)
    wall = row("foam")
    cells = [c for c in lower(wall, SITE).cells if c.id.startswith("sump.foam")]
    height = wall.chambers[0].pads[0].height
    total = sum(c.curve.volume(wall.floor + height) for c in cells)
    thickness = sum(p.thickness for p in wall.chambers[0].pads)
    expected = (WIDTHS["foam"][1] - 0.03 * thickness) * wall.inner_width * height
    assert total == pytest.approx(expected, rel=1e-9)


def test_baffle_thickness_is_taken_off():
    thin, thick = row("inlet", "heater"), row("inlet", "heater")
    chambers = [
        c.model_copy(update={"exit": c.exit.model_copy(update={"thickness": 0.012})}) for c in thick.chambers[:-1]
    ]
    thick = Sump.model_validate({**thick.model_dump(), "chambers": (*chambers, thick.chambers[-1])})
    assert thin.widths()[-1] - thick.widths()[-1] == pytest.approx(2 * 0.006)
    assert sum(thin.widths()) + 2 * 0.006 == pytest.approx(thin.inner_length)


def test_a_notch_stands_higher_than_a_full_crest():
    plain = row("inlet")
    notched = plain.chambers[0].model_copy(update={"exit": plain.chambers[0].exit.model_copy(update={"notch": 0.1})})
    sump = Sump.model_validate({**plain.model_dump(), "chambers": (notched, plain.chambers[-1])})
    assert run(sump).level["sump.inlet-0"] > run(plain).level["sump.inlet-0"] + 0.01


def test_short_baffle_of_a_clean_out_is_drowned_while_it_runs():
    sump = row("clean_out", "heater")
    low = sump.chambers[0].model_copy(update={"exit": sump.chambers[0].exit.model_copy(update={"top": 0.15})})
    sump = Sump.model_validate({**sump.model_dump(), "chambers": (low, *sump.chambers[1:])})
    solution = run(sump)
    a, b = solution.level["sump.clean_out-0"], solution.level["sump.heater-1"]
    assert 0 < a - b < 0.001
    assert a > sump.floor + 0.15


def test_pads_stand_inside_their_chamber_in_order():
    chamber = row("foam").chambers[0]
    spans = pad_spans(chamber, chamber.width)
    assert spans[0][0] >= 0
    assert spans[-1][1] <= chamber.width + 1e-12
    assert all(b[0] == pytest.approx(a[1]) for a, b in itertools.pairwise(spans))


PUMP = {"id": "p", "role": "pump", "level": 0.2}


@pytest.mark.parametrize(
    ("chambers", "words"),
    [
        ([PUMP, PUMP], "same id"),
        ([{"id": "a", "role": "inlet", "width": 0.2, "exit": {"top": 0.3}}], "last chamber must stand at the wall"),
        ([{"id": "a", "role": "inlet", "width": 0.2}, PUMP], "needs a baffle"),
        ([{"id": "a", "role": "inlet", "width": 0.86, "exit": {"top": 0.3}}, PUMP], "leave"),
        (
            [{"id": "a", "role": "inlet", "width": 0.2, "exit": {"top": 0.39}}, {**PUMP, "level": 0.395}],
            "above the sump's rim",
        ),
        ([{"id": "a", "role": "foam", "width": 0.2, "exit": {"top": 0.3}}, PUMP], "at least one pad"),
        ([{"id": "a", "role": "trap", "width": 0.1, "exit": {"top": 0.3}}, PUMP], "under-baffle"),
        ([{"id": "a", "role": "socks", "width": 0.1, "exit": {"top": 0.3}}, PUMP], "socks described"),
        (
            [{"id": "a", "role": "inlet", "width": 0.2, "exit": {"top": 0.3, "gap": 0.299}}, PUMP],
            "nothing of it is left",
        ),
        ([{"id": "a", "role": "pump", "width": 0.2, "exit": {"top": 0.3}}, PUMP], "Only the last"),
    ],
)
def test_what_cannot_be_built_is_a_sentence(chambers, words):
    with pytest.raises(ValidationError, match=words):
        Sump(chambers=chambers)


def test_pads_thicker_than_their_chamber_and_unknown_media():
    with pytest.raises(ValidationError, match="thicker together"):
        Chamber(id="f", role="foam", width=0.1, pads=(Pad(thickness=0.06), Pad(thickness=0.06)), exit=Baffle())
    filled = row("foam", "media")
    chambers = tuple(
        c.model_copy(update={"fill": Fill(medium="moonstone")}) if c.role == "media" else c for c in filled.chambers
    )
    with pytest.raises(ValidationError, match="no media “moonstone”"):
        System(devices=(Tank(), filled.model_copy(update={"chambers": chambers})))


def test_commands_of_the_last_chamber_add_before_it():
    sump = row("foam", "moving_bed")
    names = [name for name, _ in commands(sump, 2, ("devices", "sump"), FLOW)]
    assert names
    assert all(n.startswith("Add") and n.endswith("before it") for n in names)
    first = [name for name, _ in commands(sump, 0, ("devices", "sump"), FLOW)]
    assert "Move it upstream" not in first
    assert "Move it downstream" in first


def test_a_full_sump_offers_no_more_chambers():
    sump = row("foam", "moving_bed")
    short = Sump.model_validate({**sump.model_dump(), "length": sum(sump.widths()[:-1]) + 0.1 + 0.028})
    assert not [n for n, _ in commands(short, 0, ("devices", "sump"), FLOW) if n.startswith("Add") and "pad" not in n]
    assert math.isfinite(short.widths()[-1])
