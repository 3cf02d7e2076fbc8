"""The two-sump cascade: a large tank over a sump on a shelf that falls into a second one on the floor."""

from __future__ import annotations

from fuente.devices.base import FittingCount
from fuente.devices.join.spec import JoinSpec
from fuente.devices.manifold.spec import Branch, Feeder, Manifold, SideLoop, SupplyRow
from fuente.devices.overflow.spec import Drain, Overflow
from fuente.devices.pumping import PumpSpec
from fuente.devices.site import Space
from fuente.devices.sump.spec import Baffle, Chamber, Fill, Pad, Sump
from fuente.devices.tank.spec import Tank
from fuente.devices.top_up.spec import TopUp
from fuente.document.system import System


def cascade() -> System:
    """760 L of white clouds in cool water, a foam sump above a moving-bed sump, a steriliser on a side
    loop, a top-up.
    """
    top_up = TopUp(id="top-up", into="lower", volume=0.025, level=0.21, most=40e-3 / 3600)
    space = Space(length=1.6, depth=0.6, height=1.0, turnover=6 / 3600, air=18.0, coldest=14.0)
    return System(
        name="Two-sump cascade",
        place="Harbour Hill Library",
        space=space,
        devices=(_tank(), _overflow(), _upper(), _lower(), _fall(), _manifold(), top_up),
    )


def _tank() -> Tank:
    """Braced, in a stairwell."""
    return Tank(
        id="tank",
        name="Stairwell tank",
        length=2.0,
        width=0.7,
        height=0.6,
        thickness=0.019,
        bottom=0.019,
        braced=True,
        stand=1.05,
        gravel=0.03,
        temperature=19.0,
        cover=0.7,
        stock="A shoal of white clouds",
        feed=5e-3 / 86400,
    )


def _overflow() -> Overflow:
    """Three pipes down to the shelf."""
    return Overflow(
        id="overflow",
        tank="tank",
        into="upper",
        crest=0.535,
        weir=0.6,
        teeth=0.25,
        box_length=0.18,
        box_width=0.5,
        drains=(
            Drain(role="siphon", pipe="40-pn10", mouth=0.36, run=0.3, valve=0.5),
            Drain(role="open", pipe="50-pn10", mouth=0.43, run=0.3),
            Drain(role="emergency", pipe="50-pn10", mouth=0.47, run=0.3),
        ),
        release=0.27,
    )


def _upper() -> Sump:
    """On the shelf: three pads and the heaters."""
    return Sump(
        id="upper",
        name="Upper sump",
        length=1.0,
        width=0.45,
        height=0.4,
        stand=0.5,
        offset=0.05,
        chambers=(
            Chamber(id="inlet", role="inlet", width=0.25, exit=Baffle(top=0.32)),
            Chamber(
                id="foam",
                role="foam",
                width=0.25,
                pads=(
                    Pad(ppi=10, thickness=0.05, height=0.35, dirt=4),
                    Pad(ppi=20, thickness=0.05, height=0.35, dirt=6),
                    Pad(ppi=30, thickness=0.05, height=0.35, dirt=8),
                ),
                exit=Baffle(top=0.29),
            ),
            Chamber(id="heat", role="heater", width=0.4, heaters=2, heater_watts=100, level=0.28),
        ),
    )


def _lower() -> Sump:
    """On the floor: moving bed, bubble trap, pump."""
    return Sump(
        id="lower",
        name="Lower sump",
        length=1.2,
        width=0.45,
        height=0.4,
        thickness=0.01,
        stand=0.02,
        offset=0.86,
        chambers=(
            Chamber(
                id="bed",
                role="moving_bed",
                width=0.45,
                fill=Fill(medium="wheel_10", volume=0.03, held="loose"),
                exit=Baffle(top=0.27, teeth=0.4),
            ),
            Chamber(id="trap", role="trap", width=0.12, under=Baffle(top=0.33, gap=0.05), exit=Baffle(top=0.25)),
            Chamber(id="pump", role="pump", level=0.21, intake=0.09),
        ),
    )


def _fall() -> JoinSpec:
    """Two pipes from shelf to floor."""
    return JoinSpec(
        id="fall",
        name="Fall to the lower sump",
        first="upper",
        chamber="heat",
        second="lower",
        entry="bed",
        style="fall",
        pipe="63-pn10",
        count=2,
        height=0.26,
        release=0.25,
        length=0.2,
        fittings=(FittingCount(kind="elbow", count=1),),
    )


def _manifold() -> Manifold:
    """One pump, a spray bar, and a steriliser on a loop of its own."""
    pump = PumpSpec(name="Submersible pump", max_head=4.5, max_flow=9000e-3 / 3600, watts=95)
    return Manifold(
        id="return",
        name="Return with side loop",
        feeders=(Feeder(id="pump", source="lower", pump=pump, pipe="50-pn10", run=1.2),),
        riser="50-pn10",
        rows=(
            SupplyRow(
                height=1.72,
                pipe="50-pn10",
                lead=0.5,
                branches=(
                    Branch(
                        tank="tank",
                        spacing=0.2,
                        pipe="40-pn10",
                        length=0.4,
                        mouth=0.52,
                        air_hole=0.01,
                        air_height=0.537,
                        form="bar",
                        holes=30,
                        hole_bore=0.008,
                    ),
                ),
            ),
        ),
        loops=(
            SideLoop(id="uv", kind="steriliser", into="lower", chamber="bed", share=0.15, pipe="25-pn16", angle=20.0),
        ),
    )
