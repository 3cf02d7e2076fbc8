"""What is wrong with a filter is found, with its number, and its button mends it."""

from __future__ import annotations

import pytest

from devices_of import FILTERS, air_supplies
from fuente.devices.base import Rank
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply
from fuente.findings import findings
from fuente.study.filters import add_filter
from fuente.study.known import analysed
from fuente.study.sites import new_site
from fuente.units import UnitSystem

DAY, LPH = 86400.0, 1e-3 / 3600
TANK = Tank(length=1.2, width=0.5, height=0.5, stand=0.9, temperature=22.0, feed=3e-3 / DAY)
LOW = Tank(length=2.4, width=1.2, height=0.9, thickness=0.019, bottom=0.019, braced=True, stand=0.0, feed=60e-3 / DAY)

# kind, what is wrong, the finding's code, and whether its button mends all of it
CASES = [
    (
        "sponge",
        {"ppi": 45.0, "length": 0.05, "width": 0.05, "height": 0.05, "tubes": 1, "bore": 0.02},
        "face-fast",
        True,
    ),
    ("sponge", {"height": 0.6, "outlet": 0.7}, "block-high", True),
    ("sponge", {"outlet": 0.6}, "outlet-high", True),
    ("sponge", {"injector": 0.4}, "air-shallow", True),
    ("sponge", {"dirt": 60.0}, "filter-dirty", True),
    ("bottle_bed", {"hole": 0.0095}, "carriers-escape", True),
    ("bottle_bed", {"fill": 0.95}, "bed-full", True),
    ("bottle_bed", {"age": 0.0}, "carriers-new", True),
    ("bottle_bed", {"hang": 0.32, "injector": 0.33, "outlet": 0.47}, "bottle-dry", True),
    ("foam_wall", {"twin": "twin", "ppi": 30.0, "second": 10.0, "schools": {"finest": "last"}}, "pad-order", True),
    (
        "foam_wall",
        {
            "drive": "pump",
            "ppi": 45.0,
            "thickness": 0.15,
            "dirt": 14.0,
            "pump": {"max_head": 4.0, "max_flow": 9000 * LPH},
            "hose": "50-pn10",
        },
        "behind-low",
        False,
    ),
    ("foam_wall", {"shape": "corner", "reach": 0.16, "thickness": 0.08}, "bend-tight", True),
    ("ornament", {"gap": 0.012, "animal": 0.004}, "gap-wide", True),
    ("ornament", {"gaps": 5, "gap": 0.004}, "gap-fast", True),
    (
        "ornament",
        {"shell": "plastic", "wall": 0.002, "ballast": 0.0, "medium": "plastic_ball", "media": 0.0022, "foam": 0.0},
        "floats",
        True,
    ),
    ("ornament", {"lid": False}, "no-access", True),
    ("ornament", {"exit": 0.003}, "exit-narrow", True),
    ("ornament", {"exit": 0.03, "animal": 0.004}, "exit-wide", True),
    ("under_gravel", {"grain": 0.001}, "grain-fine", True),
    ("under_gravel", {"gravel": 0.02}, "gravel-thin", True),
    (
        "canister",
        {"layers": [{"medium": "foam", "ppi": 30, "share": 0.2}, {"medium": "foam", "ppi": 10, "share": 0.2}]},
        "layer-order",
        True,
    ),
    ("canister", {"held": "loose"}, "media-bypassed", True),
    (
        "canister",
        {"dirt": 12.0, "hose": "hose-16", "bores": 1, "length": 4.0, "pump": {"max_head": 6.0, "max_flow": 4000 * LPH}},
        "hose-folds",
        False,
    ),
    (
        "canister",
        {"diameter": 0.5, "height": 0.8, "layers": [{"medium": "gravel", "share": 0.5}]},
        "media-heavy",
        False,
    ),
    ("trickle_tower", {"length": 1.0, "width": 1.0, "holes": 60}, "wetting", True),
    ("trickle_tower", {"holes": 4}, "tray-over", True),
    ("trickle_tower", {"holes": 900}, "tray-shallow", True),
    ("trickle_tower", {"hole": 0.002, "holes": 600}, "holes-clog", True),
    ("plant_bed", {"grain": 0.002}, "grain-fine", True),
    ("sock", {"dirt": 400.0, "micron": 50e-6}, "overtops", True),
    ("steriliser", {"watts": 2.0}, "dose-low", True),
    ("steriliser", {"age": 400 * DAY}, "lamp-old", True),
]
ON_THE_FLOOR = [
    ("bottle_bed", {"holes": 5, "hole": 0.006, "roll": "hard"}, "holes-fast", True),
    ("sieve_bed", {"length": 0.12, "width": 0.12, "media": 0.0}, "screen-small", True),
    (
        "sieve_bed",
        {"tube": 0.025, "wall": 0.002, "bars": 1, "load": 60.0, "width": 0.9, "length": 0.9, "legs": 8},
        "frame-sags",
        True,
    ),
    ("sieve_bed", {"dirt": 400.0}, "past-screen", True),
]


def codes(system):
    return {f.code: f for f in findings(analysed(system))}


def wrong(kind, tank, changes):
    bare = System(devices=(tank,))
    spec = FILTERS[kind].first(new_site(bare, tank.id))
    data = spec.model_dump()
    for key, value in changes.items():
        data[key] = {**data[key], **value} if isinstance(value, dict) else value
    return apply(bare, add_filter(bare, type(spec).model_validate(data)))


def check(kind, tank, changes, code, mends):
    system = wrong(kind, tank, changes)
    found = codes(system)
    assert code in found, sorted(found)
    finding = found[code]
    for units in UnitSystem:
        assert "{" not in finding.filled(units)
    assert finding.why
    if not mends:
        return
    assert finding.edit is not None, finding.text
    assert finding.action
    after = codes(apply(system, finding.edit))
    assert code not in after, after[code].filled(UnitSystem.METRIC)


@pytest.mark.parametrize(("kind", "changes", "code", "mends"), CASES, ids=[f"{c[0]}: {c[2]}" for c in CASES])
def test_found_and_mended(kind, changes, code, mends):
    check(kind, TANK, changes, code, mends)


@pytest.mark.parametrize(
    ("kind", "changes", "code", "mends"), ON_THE_FLOOR, ids=[f"{c[0]}: {c[2]}" for c in ON_THE_FLOOR]
)
def test_found_and_mended_on_the_floor(kind, changes, code, mends):
    check(kind, LOW, changes, code, mends)


def drums(**change):
    bare = System(devices=(LOW,))
    train = FILTERS["drum_train"].first(new_site(bare, "tank"))
    rows = [d.model_dump() for d in train.drums]
    for k, own in change.items():
        rows[int(k[1:])].update(own)
    return apply(bare, add_filter(bare, type(train).model_validate({**train.model_dump(), "drums": rows})))


@pytest.mark.parametrize(
    ("change", "code"),
    [
        ({"d2": {"mesh": 0.012}}, "mesh-wide"),
        ({"d2": {"mesh": 0.0}}, "no-screen"),
        ({"d2": {"media": 0.075}}, "bed-full"),
        ({"d1": {"role": "foam", "ppi": 30.0}, "d2": {"role": "foam", "ppi": 10.0}}, "drum-order"),
    ],
)
def test_a_drum_s_faults_are_found_and_mended(change, code):
    system = drums(**change)
    found = codes(system)
    assert code in found, sorted(found)
    assert code not in codes(apply(system, found[code].edit))


def test_a_flange_too_wide_for_its_drum_takes_rubber_seals():
    bare = System(devices=(LOW,))
    train = FILTERS["drum_train"].first(new_site(bare, "tank"))
    assert train.seal == "grommet"  # the first layout knows it
    system = apply(bare, add_filter(bare, train.model_copy(update={"seal": "bulkhead"})))
    finding = codes(system)["flange-curve"]
    assert finding.margin < 0
    assert "flange-curve" not in codes(apply(system, finding.edit))


def test_diggers_and_plates_do_not_live_together():
    system = wrong("under_gravel", TANK.model_copy(update={"digs": True}), {})
    assert codes(system)["diggers"].rank is Rank.FIX
    assert "diggers" not in codes(wrong("under_gravel", TANK, {}))


def test_nothing_flows_is_a_stop_for_every_kind_that_a_pump_drives():
    """A pump that does not reach: said at once, for whatever lives in it dies within hours."""
    for kind in ("canister", "trickle_tower", "plant_bed", "sock"):
        bare = System(devices=(TANK,))
        spec = FILTERS[kind].first(new_site(bare, "tank"))
        if kind == "canister":
            weak = spec.model_copy(
                update={"pump": spec.pump.model_copy(update={"max_head": 0.2, "max_flow": 1e-5}), "outlet": 0.75}
            )
        else:
            weak = spec.model_copy(
                update={
                    "feed": spec.feed.model_copy(update={"pump": spec.feed.pump.model_copy(update={"max_head": 0.2})})
                }
            )
        found = codes(apply(bare, add_filter(bare, weak)))
        assert found["filter-still"].rank is Rank.STOP


def test_more_air_than_the_best_is_too_much_and_its_valve_mends_it():
    system = wrong("sponge", TANK, {"bore": 0.01})
    pump = air_supplies(system)[0].pump.model_copy(update={"max_flow": 60e-3 / 60})
    system = apply(system, _edit(("devices", "air", "pump"), pump))
    system = apply(system, _edit(("devices", "air", "drops", 0, "opening"), 1.0))
    found = codes(system)
    assert "too-much-air" in found
    assert found["too-much-air"].action == "Balance air valves"
    values = found["too-much-air"].values
    assert found["too-much-air"].margin == pytest.approx(values["best"] - values["air"])
    assert values["air"] > 1.3 * values["best"]
    assert "too-much-air" not in codes(apply(system, found["too-much-air"].edit))


def test_a_pump_under_the_water_without_a_check_valve_siphons():
    system = wrong("sponge", TANK, {})
    low = apply(system, _edit(("devices", "air", "height"), 0.3))
    low = apply(low, _edit(("devices", "air", "drops", 0, "check"), False))
    finding = codes(low)["air-siphon"]
    assert finding.rank is Rank.STOP
    assert "air-siphon" not in codes(apply(low, finding.edit))


def test_a_pump_too_weak_for_the_depth_is_a_stop():
    system = wrong("sponge", TANK, {})
    weak = apply(system, _edit(("devices", "air", "pump", "max_pressure"), 2.5e3))
    found = codes(weak)
    assert found["air-deep"].rank is Rank.STOP
    assert "air-starved" in found


def _edit(path, value):
    from fuente.document.system import set_value

    return set_value("x", path, value)
