"""A first layout by the trade's rules of thumb: a sump, its drains and its return for a tank, a space and
some wishes.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from pydantic import ValidationError

from fuente.catalogue import PIPES, PipeSize, trade_sizes
from fuente.devices.base import Change, FittingCount
from fuente.devices.contract import Device
from fuente.devices.edits import added, inch_sized, taken_out
from fuente.devices.glazed import plate_bottom, plate_wall
from fuente.devices.homes import HomeSpec
from fuente.devices.manifold.spec import Manifold
from fuente.devices.overflow.network import drain_pipe
from fuente.devices.overflow.spec import Drain, DrainRole, Overflow
from fuente.devices.pumping import PumpSpec, pump_for
from fuente.devices.return_line.spec import OutletSpec, ReturnSpec
from fuente.devices.sentences import first_sentence
from fuente.devices.site import Space
from fuente.devices.sump.chambers import WIDTHS, new_chamber
from fuente.devices.sump.spec import ROLE_NAMES, Chamber, Role, Sump
from fuente.devices.tank.spec import Tank
from fuente.errors import EntryError, FuenteError
from fuente.hydraulics.drains import QUIET_SHARE, open_channel_capacity, standpipe_flow
from fuente.hydraulics.weirs import weir_head
from fuente.units import UnitSystem
from fuente.water.properties import water

FULL: tuple[Role, ...] = ("socks", "foam", "moving_bed", "trap")
_SWEEP_FITTINGS = (FittingCount(kind="elbow_45", count=2),)


@dataclass(frozen=True)
class Wishes:
    """What the builder wants in the sump, along the water; the pump chamber is always last."""

    roles: tuple[Role, ...] = FULL
    heaters: int = 0
    heater_watts: float = 0.0
    name: str = "Untitled system"
    place: str = ""
    units: UnitSystem = UnitSystem.METRIC


def first_layout(tank: Tank, space: Space, wishes: Wishes) -> tuple[Device, ...]:
    """The layout by rule of thumb: the tank, an overflow, a sump and a return. Raises FuenteError where
    nothing fits, or a wish is more than a part can be.
    """
    try:
        return _first_layout(tank, space, wishes)
    except ValidationError as error:
        raise EntryError(first_sentence(error, Chamber)) from None


def _first_layout(tank: Tank, space: Space, wishes: Wishes) -> tuple[Device, ...]:
    flow, crest = _flow(tank, space)
    sump = _sump(tank, space, wishes, flow)
    inch = wishes.units == UnitSystem.US
    overflow = _overflow(tank, sump, flow, crest, space.margin, inch)
    made = (tank, overflow, sump, _return(tank, sump, flow, crest, inch))
    return tuple(map(inch_sized, made)) if inch else made


def _flow(tank: Tank, space: Space) -> tuple[float, float]:
    """Flow wanted in m³/s, and the weir's crest over the tank's floor in m."""
    crest = round(tank.inner_height - max(0.045, 0.06 * tank.inner_height), 3)
    volume = tank.inner_length * tank.inner_width * (crest + 0.01) * 0.96 - tank.gravel
    return space.turnover * volume, crest


def _down(value: float, step: float = 0.01) -> float:
    return round(math.floor(value / step + 1e-9) * step, 4)


def _up(value: float, step: float = 0.005) -> float:
    return round(math.ceil(value / step - 1e-9) * step, 4)


def _sump(tank: Tank, space: Space, wishes: Wishes, flow: float) -> Sump:
    length = _down(min(space.length - 0.02, max(tank.length, 0.6), 2.4))
    width = _down(min(space.depth - 0.02, max(tank.width, 0.3), 0.9))
    height = _down(min(space.height - space.service, 0.5, tank.stand - 0.12))
    if min(length, width) < 0.16 or height < 0.2:
        lacking = max(0.2 - height, 0.16 - length, 0.16 - width)
        raise FuenteError(
            f"The space holds no sump of use: {1000 * lacking:.0f} mm are missing under the hand room. "
            "Give it more room, or want less hand room."
        )
    heavy = 0.0
    for guess in (0.006, 0.008, 0.010, 0.012, 0.015, 0.019):
        trial = _shell(tank, length, width, height, guess)
        if plate_wall(trial).needed <= guess + 1e-9:
            heavy = guess
            break
    thickness = heavy or 0.019
    inner = length - 2 * thickness
    across = width - 2 * thickness
    # What runs down in a power cut: the sheet over the weir, and most of an overflow box.
    down = tank.inner_length * tank.inner_width * 0.012 + 0.005
    top = height - thickness - down / (inner * across) - space.margin - 0.015
    chambers = _chambers(wishes, inner, across, height - thickness, top, flow)
    sump = Sump(
        length=length,
        width=width,
        height=height,
        thickness=thickness,
        bottom=thickness,
        stand=0.06,
        offset=_down(max(0.0, min(0.1, (tank.length - length) / 2))),
        chambers=chambers,
    )
    if plate_bottom(sump).needed > sump.bottom:
        sump = sump.model_copy(update={"full_bed": True})
    return sump


def _shell(tank: Tank, length: float, width: float, height: float, thickness: float) -> Sump:
    only = Chamber(id="pump", role="pump", level=0.1)
    return Sump(length=length, width=width, height=height, thickness=thickness, bottom=thickness, chambers=(only,))


def _chambers(wishes: Wishes, inner: float, across: float, deep: float, top: float, flow: float) -> tuple[Chamber, ...]:
    roles = tuple(r for r in wishes.roles if r != "pump")
    baffle = 0.006
    trap = 2 * _up(max(flow / (0.085 * across), 0.027), 0.001) + baffle
    least = {**{k: v[0] for k, v in WIDTHS.items()}, "trap": trap}
    wish = {**{k: v[1] for k, v in WIDTHS.items()}, "trap": trap}
    glass = len(roles) * baffle
    need = sum(least[r] for r in roles) + least["pump"] + glass
    if need > inner:
        raise FuenteError(
            f"These chambers want {need * 1000:.0f} mm inside and the sump has {inner * 1000:.0f} mm: "
            f"{(need - inner) * 1000:.0f} mm are missing. Leave a chamber out or find a longer space."
        )
    spare = inner - need
    want = sum(wish[r] - least[r] for r in roles) + wish["pump"] - least["pump"]
    share = min(1.0, spare / want) if want > 0 else 0.0
    more = max(0.0, spare - want) * 0.5 / max(1, sum(r in ("moving_bed", "media", "plants") for r in roles))
    made: list[Chamber] = []
    crest = top - 0.02
    steps = {"foam": 0.018, "socks": 0.018, "media": 0.015}
    for i, role in enumerate(roles):
        width = least[role] + share * (wish[role] - least[role])
        if role in ("moving_bed", "media", "plants"):
            width += more
        width = _down(width, 0.001)
        heated = role in ("moving_bed", "heater") and wishes.heaters and not any(c.heaters for c in made)
        made.append(
            new_chamber(
                role,
                f"{role.replace('_', '-')}-{i + 1}",
                width,
                round(crest, 3),
                across,
                deep,
                flow,
                (wishes.heaters, wishes.heater_watts) if heated else (0, 0.0),
            )
        )
        following = roles[i + 1] if i + 1 < len(roles) else "pump"
        crest -= steps.get(following, 0.01)
    level = round(max(crest - 0.02, 0.12), 3)
    heat = {} if any(c.heaters for c in made) else {"heaters": wishes.heaters, "heater_watts": wishes.heater_watts}
    made.append(Chamber(id="pump", role="pump", level=level, intake=0.07, **heat))
    return tuple(made)


def _overflow(tank: Tank, sump: Sump, flow: float, crest: float, margin: float, inch: bool) -> Overflow:
    volume = tank.inner_length * tank.inner_width * crest
    roles: tuple[DrainRole, ...] = ("siphon", "open", "emergency") if volume > 0.25 else ("open", "emergency")
    release = round(max(sump.chambers[0].exit.top - 0.02 if sump.chambers[0].exit else 0.2, 0.05), 3)
    stuff = water(tank.temperature)
    # Standing heights in the box leave the emergency room to prime under the tank's rim.
    mouths = {"siphon": round(crest * 0.66, 3), "open": round(crest - 0.095, 3), "emergency": round(crest - 0.06, 3)}
    head = tank.inner_height - margin - mouths["emergency"]

    def carries(size: PipeSize) -> bool:
        drain = Drain(role="emergency", pipe=size.id, mouth=mouths["emergency"], run=0.25, fittings=_SWEEP_FITTINGS)
        fall = tank.floor + drain.mouth - sump.floor - release
        pipe = drain_pipe(drain, fall, stuff)
        got, _, _ = standpipe_flow(head, fall + head, pipe, 1.5 * pipe.bore, 2.2 * pipe.bore)
        return got >= 1.15 * flow

    sizes = trade_sizes(inch)
    wide = next((s for s in sizes if carries(s)), sizes[-1])
    if "siphon" not in roles:
        wide = next(
            (s for s in sizes if s.bore >= wide.bore and QUIET_SHARE * open_channel_capacity(s.bore) > 1.1 * flow), wide
        )
    siphon = next((s for s in sizes if flow / (math.pi / 4 * s.bore**2) < 1.6), sizes[-1])
    drains = tuple(
        Drain(
            role=role,
            pipe=siphon.id if role == "siphon" else wide.id,
            mouth=mouths[role],
            run=0.25,
            valve=0.5 if role == "siphon" else None,
            fittings=_SWEEP_FITTINGS,
        )
        for role in roles
    )
    outside = sum(PIPES[d.pipe].outside + 0.02 for d in drains)
    across = min(max(outside, 0.2), tank.inner_width)
    box = max(max(PIPES[d.pipe].outside for d in drains) + 0.04, 0.1)
    weir = 0.2
    while weir_head(flow, weir * 0.7, crest) > 0.011 and weir < tank.inner_width + box:
        weir += 0.02
    return Overflow(
        crest=crest,
        weir=round(min(weir, tank.inner_width + box), 3),
        teeth=0.3,
        box_length=round(box, 3),
        box_width=_down(max(across, min(weir - box, tank.inner_width)), 0.005),
        drains=drains,
        release=release,
    )


def _return(tank: Tank, sump: Sump, flow: float, crest: float, inch: bool) -> ReturnSpec:
    sizes = trade_sizes(inch)
    size = next((s for s in sizes if flow / (math.pi / 4 * s.bore**2) < 1.5), sizes[-1])
    branch = PIPES["0.75in-40" if inch else "25-pn16"] if flow < 1.2e-3 else size
    outlets = tuple(
        OutletSpec(
            name=name, pipe=branch.id, height=round(crest - 0.035, 3), hole=0.006, hole_height=round(crest + 0.002, 3)
        )
        for name in ("First outlet", "Second outlet")
    )
    lift = tank.floor + crest - sump.floor - sump.chambers[-1].level
    head, most = pump_for(1.0, flow * 1.2, lift * 1.25, flow)
    pump = PumpSpec(
        name="Return pump",
        max_head=head,
        max_flow=most,
        watts=round(most * 3.6e6 / 1000 * 9 * head / 3, 0),
    )
    run = round(max(sump.offset + sump.length, tank.length) - sump.offset - sump.length / 2, 2) + 0.4
    return ReturnSpec(pump=pump, pipe=size.id, run=run, outlets=outlets)


# -- reading a layout --------------------------------------------------------------------------------------------------

_LAID = (Overflow, Sump, ReturnSpec)


@dataclass(frozen=True)
class Described:
    """What is said of a layout: its sump's outside sizes in m, how many chambers, its pump and that one's flow at no
    head, m³/s.
    """

    sizes: tuple[float, float, float]
    chambers: int
    pump: str
    flow: float


def described(devices: Sequence[Device]) -> Described:
    """The first sump and return among devices."""
    sump = next(d for d in devices if isinstance(d, Sump))
    line = next(d for d in devices if isinstance(d, ReturnSpec))
    return Described((sump.length, sump.width, sump.height), len(sump.chambers), line.pump.name, line.pump.max_flow)


def wishes_of(devices: Sequence[Device]) -> Wishes | None:
    """The wishes that a sump which is there stands for; None where there is none."""
    sump = next((d for d in devices if isinstance(d, Sump)), None)
    if sump is None:
        return None
    heated = [(c.heaters, c.heater_watts) for c in sump.chambers if c.heaters]
    count, watts = heated[0] if heated else (0, 75.0)
    return Wishes(tuple(c.role for c in sump.chambers), count, watts)


def can_lay_out(devices: Sequence[Device]) -> bool:
    """Whether this recipe is for them: one tank, and nothing that feeds several."""
    homes = sum(isinstance(d, HomeSpec) for d in devices)
    return homes == 1 and not any(isinstance(d, Manifold) for d in devices)


def in_its_place(devices: Sequence[Device], layout: Sequence[Device]) -> tuple[Change, ...]:
    """Changes that put a layout's overflow, sump and return in the place of those that are there."""
    made = [d for d in layout if isinstance(d, _LAID)]
    kept = {d.id for d in made}
    gone = [d for d in devices if isinstance(d, _LAID) and d.id not in kept]
    return (*taken_out(devices, gone), *added(*made))


__all__ = [
    "FULL",
    "ROLE_NAMES",
    "Described",
    "Wishes",
    "can_lay_out",
    "described",
    "first_layout",
    "in_its_place",
    "wishes_of",
]
