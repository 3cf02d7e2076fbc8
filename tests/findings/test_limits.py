"""Where every judgement begins: one value of a design just inside the limit, and just outside.

The limits are written here apart from the rules, as the sentences and docs state them: 1.5 m/s in an outlet, 15 mm
under a tank's rim, ten kilograms to lift. Each case names a design, a field, a value with which nothing is said and
one, a little on, with which the finding stands; what it says is its limit, from the wrong side.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import cache

import pytest

from devices_of import FILTERS
from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.demo.trough import trough
from fuente.devices import kind_of
from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.lamps import LampSpec
from fuente.devices.sump.spec import Baffle, Chamber, Pad
from fuente.devices.tank.spec import Tank
from fuente.document.media import OwnMedium
from fuente.document.system import System, apply
from fuente.findings import findings
from fuente.findings.judge import RULES
from fuente.study.analysis import Analysis
from fuente.study.filters import add_filter
from fuente.study.known import analysed
from fuente.study.sites import new_site

DAY, HOUR, LPH = 86400.0, 3600.0, 1e-3 / 3600
TANK = Tank(length=1.2, width=0.5, height=0.5, stand=0.9, temperature=22.0, feed=3e-3 / DAY)
LOW = Tank(length=2.4, width=1.2, height=0.9, thickness=0.019, bottom=0.019, braced=True, stand=0.0, feed=60e-3 / DAY)
STOP, FIX, CONSIDER = Rank.STOP, Rank.FIX, Rank.CONSIDER
SUMP = ("devices", "sump")
WELL = (*SUMP, "chambers", 4, "level")
RETURN_PUMP = ("devices", "return", "pump", "max_flow")
CASCADE_PUMP = ("devices", "return", "feeders", 0, "pump", "max_flow")


def changed(base: Callable[[], System], *changes: tuple) -> Callable[[], System]:
    """A design with other values."""
    return lambda: apply(base(), Edit("", tuple(Change(path, value) for path, value in changes)))


def lone(kind: str, tank: Tank = TANK, **own) -> Callable[[], System]:
    """A tank with one filter of a kind, some of its fields set."""

    def make() -> System:
        bare = System(devices=(tank,))
        spec = FILTERS[kind].first(new_site(bare, tank.id))
        data = spec.model_dump()
        for key, value in own.items():
            data[key] = {**data[key], **value} if isinstance(value, dict) else value
        return apply(bare, add_filter(bare, type(spec).model_validate({**data, "id": "it"})))

    return make


def wide_joined() -> System:
    """The back room on two 50 mm joins, its plants last: the figures of several cases are this design's."""
    chambers = (
        Chamber(id="inlet", role="inlet", width=0.26, exit=Baffle(top=0.30)),
        Chamber(
            id="foam",
            role="foam",
            width=0.2,
            pads=(
                Pad(ppi=20, thickness=0.05, height=0.34, dirt=5),
                Pad(ppi=30, thickness=0.05, height=0.34, dirt=6),
            ),
            exit=Baffle(top=0.27),
        ),
        Chamber(id="plants", role="plants", width=0.45, level=0.26),
    )
    join = ("devices", "join")
    changes = (
        Change(("devices", "settling", "chambers"), chambers),
        Change((*join, "chamber"), "plants"),
        Change((*join, "pipe"), "50-pn10"),
        Change((*join, "count"), 2),
    )
    return apply(back_room(), Edit("", changes))


def small_socks() -> System:
    """The reading room with socks of 100 mm and 200 micron."""
    at = ("devices", "sump", "chambers", 0, "socks")
    return apply(reading_room(), Edit("", (Change((*at, "micron"), 200e-6), Change((*at, "diameter"), 0.1))))


@dataclass(frozen=True)
class Case:
    """``well`` and ``ill`` are values of the field, close to each other; ``shown`` reads the finding, which is at its
    ``limit``.
    """

    code: str
    rank: Rank
    base: Callable[[], System]
    path: tuple
    well: float
    ill: float
    shown: Callable[[Finding], float]
    limit: float
    within: float = 0.02  # share of the limit


def value(name: str) -> Callable[[Finding], float]:
    return lambda f: f.values[name]


def ratio(a: str, b: str) -> Callable[[Finding], float]:
    return lambda f: f.values[a] / f.values[b]


def less(a: str, b: str) -> Callable[[Finding], float]:
    return lambda f: f.values[a] - f.values[b]


def one_warmth() -> System:
    """The back room with all its tanks at 22 °C."""
    room = back_room()
    return apply(room, Edit("", tuple(Change((*t.path, "temperature"), 22.0) for t in room.tanks)))


def evenly_blown() -> System:
    """The nursery with its air valves set."""
    room = nursery()
    found = next(f for f in findings(analysed(room)) if f.code == "air-uneven")
    assert found.edit is not None
    return apply(room, found.edit)


IT = ("devices", "it")


LAMP = ("devices", "return", "lamp")


def lamped() -> System:
    """The reading room's return with a lamp in it."""
    return changed(reading_room, (LAMP, LampSpec(length=1.0, watts=60.0)))()


def skimming() -> System:
    """A hang-on filter that draws from the surface."""
    return lone("rim_box", inlet="skim", drive="pump")()


def on_edges() -> System:
    """The reading room's tank on a frame that holds its edges alone."""
    return changed(reading_room, (("devices", "tank", "full_bed"), False))()


def stacked() -> System:
    """A canister whose rings lie on its foam without a divider."""
    layers = [{"ppi": 20.0, "thickness": 0.03}, {"medium": "ring", "thickness": 0.1}]
    return lone("canister", layers=layers, height=0.35, foot=0.0)()


def pressing(f: Finding) -> float:
    """kg/m² on the foam of a bore of 0.2 m or so."""
    return f.values["mass"] / stacked().device("it").area


def lost(f: Finding) -> float:
    """Share of the tank that runs out: 1.2 by 0.5 m outside."""
    return f.values["spilled"] / analysed(lone("canister")()).running.volume["tank"]


FED, DRUM_HIGH = (*IT, "feed", "pump", "max_flow"), (*IT, "drums", 0, "height")
CASES = [
    # What must fit and hold.
    Case("hand-room", CONSIDER, reading_room, ("space", "service"), 0.25944, 0.26048, value("want"), 0.66 - 0.40),
    Case("space", STOP, reading_room, ("space", "length"), 0.9017, 0.8981, value("room"), 0.9),
    Case("space", STOP, reading_room, ("space", "depth"), 0.4006, 0.39901, value("room"), 0.4),
    Case("space", STOP, reading_room, ("space", "height"), 0.401, 0.39939, value("room"), 0.4),
    Case(
        "tank-wall", FIX, reading_room, ("devices", "tank", "thickness"), 0.013523, 0.013476, ratio("now", "need"), 1.0
    ),
    Case("tank-bottom", FIX, on_edges, ("devices", "tank", "bottom"), 0.01519, 0.01503, ratio("now", "need"), 1.0),
    Case("sump-wall", FIX, reading_room, (*SUMP, "thickness"), 0.0075766, 0.0075464, ratio("now", "need"), 1.0, 0.02),
    Case(
        "sump-bottom",
        FIX,
        changed(reading_room, ((*SUMP, "full_bed"), False)),
        (*SUMP, "bottom"),
        0.0085107,
        0.0084463,
        ratio("now", "need"),
        1.0,
        0.02,
    ),
    Case(
        "baffle",
        FIX,
        reading_room,
        (*SUMP, "chambers", 0, "exit", "thickness"),
        0.0038193,
        0.0038018,
        ratio("now", "need"),
        1.0,
        0.02,
    ),
    Case("fall-full", CONSIDER, lone("trickle_tower"), FED, 0.000946, 0.000954, ratio("each", "half"), 1.0, 0.03),
    Case("vessel-brim", FIX, lone("drum_train", LOW), DRUM_HIGH, 0.82457, 0.82356, value("room"), 0.03),
    # Water in a sump.
    Case("power-cut", FIX, reading_room, ("space", "margin"), 0.075943, 0.076553, ratio("left", "wanted"), 1.0),
    Case("mark-above-crest", CONSIDER, reading_room, WELL, 0.2539813, 0.2540097, value("over"), 0.002),
    Case("splash", CONSIDER, reading_room, WELL, 0.17244, 0.17176, value("fall"), 0.08),
    Case(
        "pump-starved", FIX, small_socks, (*SUMP, "chambers", 4, "intake"), 0.1646, 0.16526, value("cover"), 0.02, 0.02
    ),
    Case("evaporation", CONSIDER, reading_room, ("space", "humidity"), 0.22321, 0.22055, value("days"), 7 * DAY),
    Case("evaporation", CONSIDER, reading_room, WELL, 0.15937, 0.15874, value("days"), 7 * DAY),
    Case(
        "gap-fast", FIX, reading_room, (*SUMP, "chambers", 3, "under", "gap"), 0.011921, 0.011819, value("speed"), 0.2
    ),
    Case("trap-fast", CONSIDER, cascade, CASCADE_PUMP, 13737.0 * LPH, 13786.0 * LPH, value("speed"), 0.1),
    Case(
        "no-trap",
        CONSIDER,
        changed(reading_room, ((*SUMP, "chambers", 3, "role"), "clean_out"), (RETURN_PUMP, 16000 * LPH)),
        (*SUMP, "chambers", 2, "width"),
        0.32022,
        0.3215,
        value("speed"),
        0.03,
    ),
    Case(
        "bed-full",
        CONSIDER,
        reading_room,
        (*SUMP, "chambers", 2, "fill", "volume"),
        0.015939,
        0.016003,
        value("share"),
        0.7,
    ),
    Case(
        "carriers-escape",
        FIX,
        reading_room,
        (*SUMP, "chambers", 2, "exit", "tooth_gap"),
        0.0079918,
        0.0080238,
        ratio("slot", "size"),
        0.8,
    ),
    Case(
        "heater-stuck",
        CONSIDER,
        reading_room,
        (*SUMP, "chambers", 4, "heater_watts"),
        7.55,
        7.75,
        less("hot", "target"),
        5.0,
    ),
    Case(
        "heater-small",
        CONSIDER,
        reading_room,
        ("space", "coldest"),
        9.11,
        9.075,
        lambda f: f.values["target"] - f.values["cold"],
        0.5,
        0.05,
    ),
    # Ways down and up.
    Case("tank-full", FIX, reading_room, ("devices", "overflow", "crest"), 0.5095606, 0.5096177, value("left"), 0.015),
    Case(
        "outlet-fast",
        CONSIDER,
        reading_room,
        ("devices", "return", "pump", "max_flow"),
        6558.8 * LPH,
        6586.7 * LPH,
        value("speed"),
        1.5,
    ),
    Case(
        "return-fast",
        CONSIDER,
        reading_room,
        ("devices", "return", "pump", "max_flow"),
        10819.0 * LPH,
        10862.0 * LPH,
        value("speed"),
        2.0,
    ),
    Case(
        "turnover", FIX, reading_room, ("space", "turnover"), 9.6802 / HOUR, 9.7241 / HOUR, ratio("got", "wanted"), 0.9
    ),
    Case(
        "turnover-high",
        CONSIDER,
        reading_room,
        ("space", "turnover"),
        5.4591 / HOUR,
        5.4373 / HOUR,
        ratio("got", "wanted"),
        1.6,
    ),
    Case(
        "outlet-dry",
        CONSIDER,
        reading_room,
        ("devices", "return", "outlets", 0, "height"),
        0.5024996,
        0.5025562,
        value("over"),
        1e-4,
        1.0,
    ),
    Case(
        "suction-fast",
        CONSIDER,
        changed(
            reading_room,
            *(
                (("devices", "return", "pump", k), v)
                for k, v in (("beside", True), ("suction", "32-pn10"), ("suction_length", 0.05))
            ),
        ),
        RETURN_PUMP,
        3906.0 * LPH,
        3925.0 * LPH,
        value("speed"),
        1.2,
    ),
    Case("sumps-apart", CONSIDER, wide_joined, ("devices", "join", "length"), 3.4001, 3.4581, value("apart"), 0.025),
    Case(
        "fall-tight",
        FIX,
        changed(cascade, (("devices", "fall", "count"), 1), (("devices", "fall", "pipe"), "50-pn10")),
        CASCADE_PUMP,
        15182.0 * LPH,
        15243.0 * LPH,
        ratio("flow", "most"),
        0.6,
    ),
    Case(
        "main-fast",
        CONSIDER,
        changed(cascade, (("devices", "return", "feeders", 0, "pipe"), "32-pn10")),
        CASCADE_PUMP,
        7200.2 * LPH,
        7264.6 * LPH,
        value("speed"),
        2.0,
    ),
    Case(
        "loop-share",
        FIX,
        cascade,
        ("devices", "return", "loops", 0, "share"),
        0.25793,
        0.2569,
        ratio("share", "wanted"),
        1.25,
    ),
    Case(
        "loop-share",
        FIX,
        cascade,
        ("devices", "return", "loops", 0, "share"),
        0.42824,
        0.42996,
        ratio("share", "wanted"),
        0.75,
    ),
    Case("top-up-level", FIX, cascade, ("devices", "top-up", "level"), 0.23946, 0.24042, less("level", "mark"), 0.03),
    Case("top-up-stuck", FIX, cascade, ("devices", "top-up", "volume"), 0.10831, 0.1087, ratio("v", "room"), 1.0),
    Case(
        "drip-low",
        FIX,
        changed(cascade, (("devices", "top-up", "source"), "drip"), (("devices", "top-up", "waste"), True)),
        ("devices", "top-up", "drip"),
        2.80733e-08,
        2.79736e-08,
        ratio("drip", "rate"),
        1.0,
    ),
    # Air.
    Case(
        "air-near-limit",
        CONSIDER,
        nursery,
        ("devices", "air", "pump", "max_pressure"),
        3254.2,
        3203.2,
        value("share"),
        0.7,
    ),
    Case(
        "air-deep",
        STOP,
        nursery,
        ("devices", "air", "pump", "max_pressure"),
        2251.132,
        2249.524,
        ratio("have", "need"),
        1.0,
    ),
    # Filters.
    Case("bed-full", CONSIDER, lone("bottle_bed"), (*IT, "fill"), 0.69509, 0.69788, value("fill"), 2 / 3 + 0.03),
    Case("bottle-dry", CONSIDER, lone("bottle_bed"), (*IT, "height"), 0.3587, 0.36014, value("over"), 0.02, 0.05),
    Case(
        "screen-small", FIX, lone("sieve_bed", LOW), (*IT, "spare"), 0.0015967, 0.00160082, ratio("want", "have"), 1.02
    ),
    Case("frame-sags", FIX, lone("sieve_bed", LOW), (*IT, "width"), 1.1745, 1.1792, ratio("sag", "allowed"), 1.0),
    Case("grain-fine", FIX, lone("plant_bed", LOW), (*IT, "grain"), 0.0040112, 0.0039907, value("grain"), 0.004),
    Case("gravel-dry", CONSIDER, trough, ("devices", "plants", "gravel"), 0.35064, 0.35189, value("dry"), 0.12),
    Case(
        "bed-flooded",
        CONSIDER,
        lone("plant_bed", LOW),
        (*IT, "grain"),
        0.0018628,
        0.0018071,
        lambda f: min(f.values["over"], 1e-5),
        0.0,
        0.0,
    ),
    Case(
        "socks-few",
        CONSIDER,
        lone("sock", LOW),
        (*IT, "diameter"),
        0.10961,
        0.10918,
        lambda f: f.values["each"] / LPH,
        1500.0,
    ),
    Case("lamp-old", CONSIDER, lone("steriliser"), (*IT, "age"), 269.34 * DAY, 270.51 * DAY, value("age"), 270 * DAY),
    Case("dose-low", FIX, lone("steriliser"), (*IT, "watts"), 2.250421, 2.247206, value("dose"), 150.0),
    Case(
        "share-low",
        CONSIDER,
        lone("steriliser"),
        (*IT, "pump", "speed"),
        0.45039,
        0.44805,
        lambda f: f.values["turn"] * HOUR,
        0.5,
        0.02,
    ),
    Case(
        "surface-short",
        FIX,
        lone("sponge"),
        ("devices", "tank", "feed"),
        0.036928 / DAY,
        0.037221 / DAY,
        ratio("have", "need"),
        1.0,
    ),
    Case("rim-load", CONSIDER, lone("rim_box", wide=0.4), (*IT, "off"), 0.12814, 0.1284, value("mass"), 12.0),
    Case("lip-falls", CONSIDER, lone("rim_box"), (*IT, "over"), 0.0111, 0.0113, value("fall"), 0.06),
    Case(
        "skim-dry",
        FIX,
        lone("rim_box", inlet="skim", drive="pump"),
        (*IT, "intake"),
        0.4241,
        0.4243,
        value("deep"),
        0.015,
    ),
    Case("vessel-brim", FIX, lone("rim_box", drive="pump"), (*IT, "lip"), 0.24095, 0.2412, value("room"), 0.015),
    Case("dose-low", FIX, lamped, (*LAMP, "watts"), 18.96, 18.92, value("dose"), 150.0),
    Case("lamp-old", CONSIDER, lamped, (*LAMP, "age"), 269 * DAY, 271 * DAY, value("age"), 270 * DAY),
    Case("foam-pressed", CONSIDER, stacked, (*IT, "layers", 1, "thickness"), 0.14985, 0.15015, pressing, 100.0),
    Case("canister-too-high", FIX, lone("canister"), (*IT, "stand"), 0.64999999, 0.65000001, value("over"), 0.0),
    Case("canister-hand-room", CONSIDER, lone("canister"), (*IT, "stand"), 0.5499, 0.5501, value("free"), 0.1),
    Case("hose-off-floods", CONSIDER, lone("canister"), (*IT, "intake"), 0.2932, 0.2927, lost, 1 / 3),
    # One limit of what the builder lifts: 10 kg unless said; two people lift what is in a drum.
    Case("media-heavy", CONSIDER, lone("canister"), (*IT, "diameter"), 0.46012, 0.46104, value("mass"), 10.0),
    Case(
        "media-heavy",
        CONSIDER,
        changed(lone("canister"), (("space", "lift"), 6.0)),
        (*IT, "diameter"),
        0.3564,
        0.3571,
        value("mass"),
        6.0,
    ),
    Case(
        "media-heavy",
        CONSIDER,
        changed(
            reading_room,
            ((*SUMP, "chambers", 2, "role"), "media"),
            ((*SUMP, "chambers", 2, "fill", "medium"), "gravel"),
            ((*SUMP, "chambers", 2, "fill", "held"), "basket"),
        ),
        (*SUMP, "chambers", 2, "fill", "volume"),
        0.0062593,
        0.0062974,
        value("mass"),
        10.0,
    ),
    Case(
        "media-heavy",
        CONSIDER,
        changed(lone("drum_train", LOW), (("space", "lift"), 3.0)),
        (*IT, "drums", 2, "media"),
        0.025964,
        0.026155,
        value("mass"),
        6.0,
    ),
    Case(
        "mesh-wide",
        FIX,
        lone("drum_train", LOW),
        (*IT, "drums", 2, "mesh"),
        0.007985,
        0.008017,
        ratio("mesh", "size"),
        0.8,
    ),
    Case(
        "wetting",
        FIX,
        lone("trickle_tower", LOW),
        (*IT, "length"),
        1.7999,
        1.8071,
        lambda f: f.values["wet"] * HOUR,
        4.0,
    ),
    Case(
        "wetting",
        FIX,
        lone("trickle_tower", LOW),
        (*IT, "length"),
        0.28913,
        0.28799,
        lambda f: f.values["wet"] * HOUR,
        25.0,
    ),
    Case("holes-clog", CONSIDER, lone("trickle_tower", LOW), (*IT, "hole"), 0.0040041, 0.0039881, value("hole"), 0.004),
    Case(
        "tray-shallow", CONSIDER, lone("trickle_tower", LOW), (*IT, "hole"), 0.0063733, 0.0063989, value("depth"), 0.01
    ),
    Case("grain-fine", FIX, lone("under_gravel"), (*IT, "grain"), 0.0020034, 0.0019946, value("grain"), 0.002),
    Case("gravel-thin", CONSIDER, lone("under_gravel"), (*IT, "gravel"), 0.040041, 0.039881, value("depth"), 0.04),
    Case("gap-wide", FIX, lone("ornament"), (*IT, "gap"), 0.0047881, 0.0048174, ratio("gap", "animal"), 0.8),
    Case("exit-narrow", FIX, lone("ornament"), (*IT, "exit"), 0.006011, 0.005987, ratio("exit", "passes"), 1.0),
    Case("exit-wide", FIX, lone("ornament"), (*IT, "exit"), 0.011947, 0.012043, ratio("open", "animal"), 1.0),
    Case(
        "behind-low",
        FIX,
        lone(
            "foam_wall",
            drive="pump",
            ppi=45.0,
            thickness=0.1,
            hose="50-pn10",
            pump={"max_head": 4.0, "max_flow": 9000 * LPH},
        ),
        (*IT, "dirt"),
        10.691,
        10.762,
        value("drop"),
        0.05,
        0.02,
    ),
    Case("behind-narrow", FIX, lone("foam_wall", drive="pump"), (*IT, "behind"), 0.0501, 0.0499, value("fits"), 0.05),
    Case(
        "bend-tight",
        CONSIDER,
        lone("foam_wall", shape="corner", thickness=0.06),
        (*IT, "reach"),
        0.18049,
        0.17977,
        ratio("inner", "deep"),
        2.0,
    ),
    Case(
        "hose-folds",
        FIX,
        lone("canister", hose="hose-16", bores=1, length=2.0, pump={"max_head": 6.0}),
        (*IT, "pump", "max_flow"),
        2003.7 * LPH,
        2014.5 * LPH,
        value("sucks"),
        0.5,
        0.02,
    ),
    Case(
        "flow-half",
        CONSIDER,
        lone("canister", hose="hose-16", pump={"max_head": 1.6}),
        (*IT, "length"),
        6.47,
        6.5271,
        value("share"),
        0.5,
    ),
    Case(
        "face-fast",
        CONSIDER,
        lone("sponge", ppi=45.0, width=0.05, height=0.05, tubes=1, bore=0.02),
        (*IT, "length"),
        0.26431,
        0.26293,
        value("speed"),
        4e-3,
    ),
    Case(
        "bed-still",
        FIX,
        nursery,
        ("devices", "air", "drops", 0, "opening"),
        0.061152,
        0.060332,
        ratio("air", "want"),
        0.5,
        0.02,
    ),
    Case(
        "bed-wild",
        CONSIDER,
        nursery,
        ("devices", "air", "drops", 0, "opening"),
        0.44805,
        0.45039,
        ratio("air", "want"),
        3.2,
        0.02,
    ),
    Case(
        "header-tight",
        FIX,
        wide_joined,
        ("devices", "rack-manifold", "feeders", 0, "pump", "max_flow"),
        24479.0 * LPH,
        24577.0 * LPH,
        ratio("flow", "most"),
        0.75,
    ),
    Case(
        "one-temperature",
        CONSIDER,
        one_warmth,
        ("devices", "rack-1-1", "temperature"),
        23.49841,
        23.50106,
        less("high", "low"),
        1.5,
    ),
    Case(
        "socks-full",
        CONSIDER,
        lone("sock", LOW, micron=25e-6),
        (*IT, "dirt"),
        2.4884,
        2.4981,
        ratio("high", "room"),
        0.7,
    ),
    Case(
        "pipe-fast",
        CONSIDER,
        changed(
            lone(
                "drum_train",
                LOW,
                drain={"way": "pump", "pump": {"max_flow": 4000 * LPH, "max_head": 3}},
                feed={"pipe": "32-pn10", "bends": 0, "height": 0.4},
            ),
            *(((*IT, "drums", k, "outlet"), 0.4) for k in (0, 1)),
        ),
        (*IT, "drain", "pump", "max_flow"),
        3218.9 * LPH,
        3230.0 * LPH,
        value("speed"),
        1.2,
    ),
    Case(
        "restart-dry",
        CONSIDER,
        changed(wide_joined, (("devices", "pumping", "chambers", 2, "intake"), 0.15)),
        ("devices", "pumping", "length"),
        0.83044,
        0.82712,
        ratio("spare", "hold"),
        0.5,
    ),
    Case(
        "gravel-slow",
        CONSIDER,
        lone("under_gravel", bore=0.012, tubes=1),
        (*IT, "width"),
        0.36420,
        0.36531,
        value("speed"),
        0.15e-3,
    ),
    Case("socks-fit", FIX, small_socks, (*SUMP, "chambers", 0, "width"), 0.1121, 0.1118, ratio("width", "ring"), 1.0),
    Case("drain-heard", FIX, small_socks, RETURN_PUMP, 7460.0 * LPH, 7495.0 * LPH, ratio("flow", "limit"), 1.0),
    Case(
        "header-heard",
        CONSIDER,
        back_room,
        ("devices", "rack-manifold", "feeders", 0, "pump", "max_flow"),
        11700.0 * LPH,
        11780.0 * LPH,
        ratio("flow", "half"),
        1.0,
    ),
    Case(
        "settles-little",
        CONSIDER,
        lone("drum_train", LOW),
        (*IT, "drain", "pump", "max_flow"),
        137.5 * LPH,
        138.4 * LPH,
        value("share"),
        1.0,
    ),
    Case(
        "air-uneven",
        FIX,
        evenly_blown,
        ("devices", "air", "drops", 3, "opening"),
        0.0648,
        0.0636,
        ratio("least", "want"),
        0.6,
    ),
    Case(
        "air-one-open",
        CONSIDER,
        evenly_blown,
        ("devices", "air", "pump", "max_flow"),
        0.0001160,
        0.0001147,
        value("lost"),
        0.5,
    ),
]


@cache
def design(base: Callable[[], System]) -> System:
    return base()


def put(case: Case, x: float) -> System:
    return apply(design(case.base), Edit("", (Change(case.path, x),)))


def judge_of(analysis: Analysis, code: str) -> Callable[[Analysis], Iterable[Finding]]:
    """Who tells of a code in a design: a device's own judge, or a rule of the whole system."""
    for device in analysis.ordered:

        def own(other: Analysis, key: str = device.id) -> Iterable[Finding]:
            spec = other.system.by_id[key]
            return kind_of(spec).judge(spec, other.sites[key], other)

        if any(f.code == code for f in own(analysis)):
            return own
    return next(rule for rule in RULES if any(f.code == code for f in rule(analysis)))


@pytest.mark.parametrize("case", CASES, ids=[f"{c.code} by {c.path[-1]}" for c in CASES])
def test_a_judgement_begins_at_its_limit_and_its_button_mends_it(case):
    ill = analysed(put(case, case.ill))
    before = findings(ill)
    finding = next((f for f in before if f.code == case.code), None)
    assert finding is not None, "it is not told at all"
    assert case.shown(finding) == pytest.approx(case.limit, rel=case.within, abs=1e-4 if case.within == 0 else 1e-6)
    assert finding.rank is case.rank
    if finding.margin is not None:  # it is just short of what would be enough
        grain = max(0.06 * max(abs(case.limit), 0.02), 1e-3 * max(map(abs, finding.values.values()), default=0.0))
        assert -grain <= finding.margin <= 1e-9
    told = judge_of(ill, case.code)(analysed(put(case, case.well), ill))
    assert case.code not in {f.code for f in told}, "it is told where all is well"
    if finding.edit is None:
        assert not finding.action
        return
    assert finding.action
    after = findings(analysed(apply(ill.system, finding.edit), ill))  # from its neighbour's levels, as in the window
    assert (case.code, finding.owner) not in {(f.code, f.owner) for f in after}, finding.edit.name
    known = {(f.code, f.owner) for f in before}
    assert {(f.code, f.owner) for f in after if f.rank is STOP} <= known, finding.edit.name


def hung(**own) -> Callable[[], System]:
    """The reading room on a hang-on overflow."""
    box = HangOn(id="hung", tank="tank", into="sump", crest=0.49, tube="32-pn10", **own)
    return changed(reading_room, (("devices", "overflow"), None), (("devices", "hung"), box))


BOX_LONG, DROPS = ("devices", "overflow", "box_length"), ("devices", "air", "drops")
ALONE = Tank(id="alone", name="Alone", length=0.6, width=0.3, height=0.36, thickness=0.006, stand=0.8, offset=3.0)
FINE = OwnMedium(name="Fine grit", size=0.0029)


def drums_out(height: float) -> Callable[[], System]:
    """A drum train whose first bulkhead is at a height."""
    return changed(lone("drum_train", LOW), ((*IT, "drums", 0, "outlet"), height))


def no_spare(width: float) -> Callable[[], System]:
    """The reading room without its dry drain, its tank of a width."""
    drains = reading_room().device("overflow").drains[:2]
    return changed(reading_room, (("devices", "overflow", "drains"), drains), (("devices", "tank", "width"), width))


def boxed(medium: str) -> Callable[[], System]:
    """A box of media, or of the builder's own fine grit."""
    box = changed(lone("sponge"), ((*IT, "style"), "box"))
    if medium != "own":
        return changed(box, ((*IT, "medium"), medium))
    return changed(box, (("media",), (FINE,)), ((*IT, "medium"), FINE.id))


BED_WATTS, FOAM_EXIT = (*SUMP, "chambers", 2, "heater_watts"), (*SUMP, "chambers", 1, "exit")
NO_DRAIN = changed(reading_room, (("devices", "overflow"), None))
PUMPED = {"drive": "pump", "hose": "hose-12", "pump": {"max_flow": 100 * LPH}}


# code, rank, a design of which it is said, and one of which it is not
SAID = [
    ("shell-unsafe", STOP, lone("ornament", shell="metal"), lone("ornament")),
    ("shell-unsafe", FIX, lone("ornament", shell="unknown"), lone("ornament")),
    ("ornament-high", CONSIDER, lone("ornament", height=0.6), lone("ornament")),
    (
        "fine-on-top",
        CONSIDER,
        lone("canister", layers=[{"medium": "ring", "share": 0.3}, {"medium": "foam", "ppi": 45, "share": 0.2}]),
        lone("canister", layers=[{"medium": "ring", "share": 0.3}, {"medium": "foam", "ppi": 20, "share": 0.2}]),
    ),
    ("screen-drowned", FIX, lone("sieve_bed", LOW, feed={"way": "level"}), lone("sieve_bed", LOW)),
    ("air-idle", FIX, changed(nursery, (("devices", "air", "drops"), ())), nursery),
    ("no-flow", STOP, changed(reading_room, (("devices", "return", "pump", "max_head"), 0.5)), reading_room),
    ("one-tube", CONSIDER, hung(tubes=1), hung(tubes=2)),
    ("siphon-breaks", STOP, hung(tubes=2, tube_end=0.05, stand=0.05), hung(tubes=2, tube_end=0.12, stand=0.05)),
    ("bulkhead-dry", CONSIDER, drums_out(0.80), drums_out(0.77)),
    ("no-emergency", CONSIDER, no_spare(0.64), no_spare(0.62)),  # 400 L by its width
    ("tempered-hole", STOP, changed(reading_room, (("devices", "tank", "tempered"), "bottom")), reading_room),
    ("hole-edge", CONSIDER, changed(reading_room, (BOX_LONG, 0.09)), changed(reading_room, (BOX_LONG, 0.14))),
    ("tube-slow", CONSIDER, hung(tubes=4), hung(tubes=2)),
    ("no-air", STOP, changed(nursery, (DROPS, nursery().device("air").drops[1:])), nursery),
    ("drain-gulps", FIX, changed(back_room, (("devices", "rack-1-1-drain", "pipe"), "hose-16")), back_room),
    ("no-supply", CONSIDER, changed(reading_room, (("devices", "alone"), ALONE)), reading_room),
    ("pump-short", FIX, changed(cascade, (CASCADE_PUMP, 900 * LPH)), cascade),
    ("overtops-dirty", CONSIDER, reading_room, cascade),
    ("pads-spill", STOP, changed(reading_room, ((*SUMP, "height"), 0.35)), reading_room),
    ("no-drain", STOP, NO_DRAIN, reading_room),
    (
        "cleaning-heater",
        CONSIDER,
        changed(reading_room, (BED_WATTS, 75.0), ((*FOAM_EXIT, "gap"), 0.02)),
        changed(reading_room, (BED_WATTS, 75.0)),
    ),
    ("gravel-slow", CONSIDER, lone("under_gravel", **PUMPED), lone("under_gravel")),
    ("box-fine", FIX, boxed("own"), boxed("ring")),
]


@cache
def judged(make: Callable[[], System]) -> tuple[Finding, ...]:
    return findings(analysed(make()))


@pytest.mark.parametrize(("code", "rank", "wrong", "right"), SAID, ids=[f"{c[0]}, {c[1].name}" for c in SAID])
def test_what_is_said_of_one_design_is_not_said_of_another(code, rank, wrong, right):
    assert {f.rank for f in judged(wrong) if f.code == code} == {rank}
    assert code not in {f.code for f in judged(right)}
