"""Nitrate between water changes, and what would keep it under a limit."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

from fuente.life.plants import plant_uptake
from fuente.life.renewal import NITRATE_ION, batch_share, drip_share
from fuente.study.living import LivingWater

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

DAY = 86400.0
MARSH = plant_uptake(1.0)  # kg of nitrogen by m² of growing marsh plants and second, ±60 %


@dataclass(frozen=True)
class Renewal:
    """What keeps a water's nitrate under a limit: the share changed at each interval, or running in a day as a drip,
    or m² of marsh plants on top of the changes that there are; litres (m³) of either a week. Infinite where nothing of
    the kind would.
    """

    share: float
    drip: float
    plants: float
    litres: float
    dripped: float


def renewal(study: Analysis, limit: float | None = None) -> Renewal | None:
    """For all of a design's water, which is taken as one; None where nothing is fed. ``limit`` kg/m³ as NO₃, the
    builder's unless given. Plants and anoxic places that are there take their part first. ±20 %, as the feed's protein.
    """
    keeping = study.system.keeping
    water = LivingWater(study)
    inputs = water.inputs
    made = float(inputs.ammonia.sum())
    if made <= 0:
        return None
    left = max(made - float(inputs.plants.sum()) - float(inputs.anoxic.sum()), 0.0)
    top = (keeping.nitrate_limit if limit is None else limit) / NITRATE_ION
    new = keeping.nitrate / NITRATE_ION
    whole = float(water.water.volumes.sum())
    tanks = sum(float(water.water.volumes[k]) for k in water.tanks.values())
    share = batch_share(left, tanks, keeping.interval, top, new)
    drip = drip_share(left, whole, top, new)
    gone = keeping.share * tanks * max(top - new, 0.0) / keeping.interval
    plants = max(left - gone, 0.0) / MARSH
    week = 7 * DAY
    return Renewal(share, drip, plants, share * tanks * week / keeping.interval, drip * whole * 7)


def peak(study: Analysis) -> float:
    """Nitrate in kg/m³ as NO₃ just before a change, in the long run; infinite without changes."""
    keeping = study.system.keeping
    water = LivingWater(study)
    left = max(float(water.inputs.ammonia.sum() - water.inputs.plants.sum() - water.inputs.anoxic.sum()), 0.0)
    tanks = sum(float(water.water.volumes[k]) for k in water.tanks.values())
    if keeping.share <= 0:
        return math.inf if left > 0 else keeping.nitrate
    return keeping.nitrate + NITRATE_ION * left * keeping.interval / (tanks * keeping.share)
