"""Filters that hang on the rim."""

from __future__ import annotations

from fuente.devices.filtering import FilterKind, Site, grid
from fuente.devices.pumping import PumpSpec
from fuente.devices.rim_box.card import card
from fuente.devices.rim_box.care import care
from fuente.devices.rim_box.judge import grow, judge, lives, surface
from fuente.devices.rim_box.network import lower, wish
from fuente.devices.rim_box.parts import parts
from fuente.devices.rim_box.sketch import air_at, sketch
from fuente.devices.rim_box.spec import RimBox

LIP = 0.2  # m over its floor
TURNS = 4 / 3600  # of the tank a second, as far as such a box goes
SUNK = 0.75  # of its tube under water: an airlift to a rim that stands higher moves little
MOST = 1500e-3 / 3600  # m³/s that it takes


def first(site: Site) -> RimBox:
    """On the right end, its block by the load as far as the end is wide; four turns an hour, 1 500 L/h at most."""
    tank = site.tank
    thickness = 0.08
    most = max(grid(min(tank.inner_width, 0.8), 0.01) - 0.01, 0.1)
    wide = min(max(grid(site.foam(20.0) / (thickness * 0.22), 0.01), 0.12), most)
    flow = min(max(site.volume * TURNS, 150e-3 / 3600), MOST)
    lift = tank.rim + 0.03 - site.level
    low = 0.03  # m over the floor where air enters
    sunk = (site.depth - low) / (site.depth - low + lift)
    drive = "air" if site.schools.drive == "air" and sunk >= SUNK else "pump"
    spout = round(min(max(0.5 * wide, flow / 2.5e-3), wide), 2)
    hose = "hose-12" if flow < 300e-3 / 3600 else "hose-16" if flow < 600e-3 / 3600 else "hose-25"
    head = round(max(2.5 * lift + 0.4, 0.6), 1)
    return RimBox(
        id=site.new_id("hang-on"),
        tank=tank.id,
        wide=round(wide, 2),
        off=0.16,
        height=0.27,
        lip=LIP,
        spout=spout,
        block=0.25,
        thickness=thickness,
        drive=drive,
        intake=round(0.3 * site.depth, 2) if drive == "pump" else low,
        hose=hose if drive == "pump" else "25-pn16",
        pump=PumpSpec(
            name="Small pump",
            max_head=head,
            max_flow=round(1.5 * flow * 3.6e6 / 50 + 0.5) * 50e-3 / 3600,
            watts=max(round(1.5 * flow * 3.6e6 * 0.008), 3),
        ),
    )


KIND = FilterKind(
    id="rim_box",
    name="Hang-on filter",
    said="A box on the rim: water is lifted in, goes through a block, and glides back over a lip.",
    glyph="rim_box",
    spec=RimBox,
    first=first,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    size=lambda s: ("block", s.bulk, "volume"),
    surface=surface,
    living=lives,
    schools=("surface", "drive"),
    grow=grow,
    inside=False,
    air=True,
    wish=wish,
    air_at=air_at,
)
