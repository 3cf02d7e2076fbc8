"""The reading-room tank: axolotls over a 900 mm sump, with two honest flaws for Fuente to find."""

from __future__ import annotations

from fuente.devices.base import FittingCount
from fuente.devices.overflow.spec import Drain, Overflow
from fuente.devices.pumping import PumpSpec
from fuente.devices.return_line.spec import OutletSpec, ReturnSpec
from fuente.devices.site import Space
from fuente.devices.sump.spec import Baffle, Chamber, Fill, Pad, Socks, Sump
from fuente.devices.tank.spec import Tank
from fuente.document.system import System
from fuente.document.upkeep import Dosed, Upkeep


def reading_room() -> System:
    """A 1500 × 600 × 550 mm cool-water tank over a 900 × 400 × 400 mm sump.

    Its flaws: the second outlet has no air hole, so a leaking check valve would drain the tank to that outlet; and the
    heaters stand in the pump chamber, the only one that falls as water evaporates.
    """
    return System(
        name="Reading-room tank",
        place="Harbour Hill Library",
        space=Space(length=1.2, depth=0.5, height=0.66, air=20, coldest=12, turnover=6.5 / 3600),
        devices=(_tank(), _overflow(), _sump(), _line()),
        upkeep=Upkeep(dosed=(Dosed(medium="carbon", tank="tank"),)),
    )


def _tank() -> Tank:
    """Cool water, a little gravel."""
    return Tank(
        id="tank",
        name="Reading-room tank",
        length=1.5,
        width=0.6,
        height=0.55,
        thickness=0.015,
        bottom=0.015,
        stand=0.80,
        gravel=0.012,
        temperature=17.0,
        cover=0.6,
        stock="Six axolotls and a shoal of white clouds",
        feed=6e-3 / 86400,
    )


def _overflow() -> Overflow:
    """A siphon, an open channel, and a pipe that stays dry."""
    return Overflow(
        id="overflow",
        tank="tank",
        into="sump",
        side="left",
        crest=0.492,
        weir=0.56,
        teeth=0.25,
        box_length=0.15,
        box_width=0.40,
        drains=(
            Drain(
                role="siphon",
                pipe="32-pn10",
                mouth=0.34,
                run=0.25,
                valve=0.46,
                fittings=(FittingCount(kind="elbow_45", count=2),),
            ),
            Drain(
                role="open", pipe="40-pn10", mouth=0.40, run=0.25, fittings=(FittingCount(kind="elbow_45", count=2),)
            ),
            Drain(
                role="emergency",
                pipe="40-pn10",
                mouth=0.43,
                run=0.2,
                fittings=(FittingCount(kind="elbow_45", count=1),),
            ),
        ),
        release=0.27,
    )


def _sump() -> Sump:
    """Socks, foam, a moving bed, a bubble trap, the pump."""
    return Sump(
        id="sump",
        name="Sump",
        length=0.9,
        width=0.4,
        height=0.4,
        thickness=0.008,
        bottom=0.008,
        stand=0.08,
        offset=0.1,
        chambers=(
            Chamber(
                id="socks",
                role="socks",
                width=0.16,
                socks=Socks(count=2, micron=250e-6, diameter=0.12, length=0.24, plate=0.34, dirt=2.0),
                exit=Baffle(top=0.298, teeth=0.3),
            ),
            Chamber(
                id="foam",
                role="foam",
                name="Foam wall 20 · 30 · 45",
                width=0.175,
                pads=(
                    Pad(ppi=20, thickness=0.05, height=0.345, dirt=8),
                    Pad(ppi=30, thickness=0.05, height=0.345, dirt=10),
                    Pad(ppi=45, thickness=0.025, height=0.345, dirt=12),
                ),
                exit=Baffle(top=0.284),
            ),
            Chamber(
                id="bed",
                role="moving_bed",
                width=0.22,
                fill=Fill(medium="wheel_10", volume=0.011, held="loose"),
                exit=Baffle(top=0.27, teeth=0.4, tooth_gap=0.006),
            ),
            Chamber(
                id="trap",
                role="trap",
                width=0.086,
                under=Baffle(top=0.33, gap=0.04),
                exit=Baffle(top=0.252),
            ),
            Chamber(id="pump", role="pump", level=0.215, intake=0.085, heaters=2, heater_watts=75),
        ),
    )


def _line() -> ReturnSpec:
    """One pump, two outlets; neither has an air hole."""
    return ReturnSpec(
        id="return",
        source="sump",
        tank="tank",
        pump=PumpSpec(name="Submersible pump", max_head=3.6, max_flow=5000e-3 / 3600, watts=45),
        pipe="32-pn10",
        run=1.3,
        valve="swing_check",
        outlets=(
            OutletSpec(name="First outlet", pipe="25-pn16", height=0.45),
            OutletSpec(name="Second outlet", pipe="25-pn16", height=0.464),
        ),
    )
