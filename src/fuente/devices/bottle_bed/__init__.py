"""Moving beds in bottles."""

from __future__ import annotations

from fuente.devices.bottle_bed.card import card
from fuente.devices.bottle_bed.care import care
from fuente.devices.bottle_bed.judge import grow, judge, surface
from fuente.devices.bottle_bed.network import lower
from fuente.devices.bottle_bed.parts import parts
from fuente.devices.bottle_bed.sizing import BOTTLES, wish
from fuente.devices.bottle_bed.sketch import air_at, sketch
from fuente.devices.bottle_bed.spec import BottleBed
from fuente.devices.filtering import FilterKind, Site
from fuente.devices.pocket import all_in
from fuente.devices.schools import FILL
from fuente.errors import SpecError


def first(site: Site) -> BottleBed:
    """The fewest bottles that carry the load, of the largest size that stands in the water."""
    share = FILL[site.schools.fill]
    need = site.media("wheel_10")
    fitting = [b for b in BOTTLES if b[1] < 0.92 * site.depth and b[0] < 0.6 * site.tank.inner_width]
    if not fitting:
        raise SpecError(f"No bottle stands in {site.depth * 1000:.0f} mm of water.")
    diameter, height = next((b for b in reversed(fitting) if _volume(b) * share <= 1.2 * need), fitting[0])
    room = max(int((site.tank.inner_length - site.room - 0.02) // (diameter + 0.01)), 1)
    count = min(max(1, -(-need // (_volume((diameter, height)) * share))), room)
    return BottleBed(
        id=site.new_id("bottles"),
        tank=site.tank.id,
        at=round(max(min(site.room, site.tank.inner_length - count * (diameter + 0.01)), 0.01), 3),
        tubes=int(count),
        diameter=diameter,
        height=height,
        fill=round(share, 3),
        hang=round(max(min(site.depth - height - 0.01, 0.1), 0.01), 3),
        injector=round(max(min(site.depth - height - 0.01, 0.1), 0.01) + 0.01, 3),
        outlet=round(max(min(site.depth - height - 0.01, 0.1), 0.01) + height - 0.02, 3),
        holes=max(12, round(60 * diameter / 0.11)),
        hole=0.006,
        end=site.schools.air,
        roll=site.schools.roll,
    )


def _volume(bottle: tuple[float, float]) -> float:
    return 0.7854 * bottle[0] ** 2 * bottle[1]


KIND = FilterKind(
    id="bottle_bed",
    name="Bottle moving bed",
    said="Carriers roll on air in a bottle with holes that they cannot pass.",
    glyph="bottle",
    spec=BottleBed,
    first=first,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    size=lambda s: ("bottles", float(s.tubes), ""),
    surface=surface,
    living=all_in(surface),
    schools=("fill", "air", "roll", "surface"),
    grow=grow,
    wish=wish,
    air_at=air_at,
    air=True,
)
