"""Nitrate between water changes, and what would keep it under a limit."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

from fuente.life.inputs import ALKALINITY, SALT, TEMPERATURE
from fuente.life.plants import plant_uptake
from fuente.life.renewal import NITRATE_ION, batch_share, drip_share
from fuente.study.living import LivingWater
from fuente.water.properties import HEAT_CAPACITY

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

DAY = 86400.0
YEAR = 365.25 * DAY
_RUNS = 1e-12  # m³/s
PLANTS = 16.0  # marsh plants on a m², at 25 cm
MARSH = plant_uptake(1.0)  # kg of nitrogen by m² of growing marsh plants and second, ±60 %


@dataclass(frozen=True)
class Renewal:
    """What keeps a water's nitrate under a limit: the share changed at each interval, or running in a day as a drip,
    or m² of marsh plants on top of the changes that there are; litres (m³) of either a week. Infinite where nothing of
    the kind would. What new water runs in by itself, by drips and floats, takes its part first.
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
    left = max(left - runs_off(water) * max(top - new, 0.0), 0.0)
    whole = float(water.water.volumes.sum())
    tanks = sum(float(water.water.volumes[k]) for k in water.tanks.values())
    share = batch_share(left, tanks, keeping.interval, top, new)
    drip = drip_share(left, whole, top, new)
    gone = keeping.share * tanks * max(top - new, 0.0) / keeping.interval
    plants = max(left - gone, 0.0) / MARSH
    week = 7 * DAY
    return Renewal(share, drip, plants, share * tanks * week / keeping.interval, drip * whole * 7)


@dataclass(frozen=True)
class Changed:
    """What the builder's changes do: each cools the tanks by so many K and brings their alkalinity (kg/m³) to so much,
    from what it is in the long run; salt in kg that each wants; and in a year m³ of water, heat in J to warm it, and
    money for both.
    """

    cools: float
    alkalinity: float
    salt: float
    water: float
    heat: float
    money: float


def changed(study: Analysis) -> Changed | None:
    """Of the changes as they are kept, the tanks' water taken together; None without any. Heat as heaters give it, at
    the price of a kilowatt-hour; heat that a warm room gives is counted too: ±30 %.
    """
    system, keeping = study.system, study.system.keeping
    if keeping.share <= 0:
        return None
    water = LivingWater(study)
    at = list(water.tanks.values())
    volumes = water.water.volumes[at]
    tanks = float(volumes.sum())
    living, y = water.dripping, study.kept(f"mature {water.growth}", water.mature)
    warm = float((living.of(y, TEMPERATURE)[at] * volumes).sum()) / tanks
    soft = float((living.of(y, ALKALINITY)[at] * volumes).sum()) / tanks
    times = YEAR / keeping.interval
    litres = keeping.share * tanks
    heat = max(HEAT_CAPACITY * litres * (warm - keeping.cold) * times, 0.0)
    money = litres * times * keeping.water_price + heat / 3.6e6 * study.space.price
    return Changed(
        keeping.share * (warm - keeping.cold),
        soft + keeping.share * (keeping.alkalinity - soft),
        litres * float(water.inputs.brings[SALT]),
        litres * times,
        heat,
        money if system.tanks else 0.0,
    )


def runs_off(water: LivingWater) -> float:
    """Water in m³/s that runs to waste for new water that comes in by itself."""
    gone = float(-water.water.flows.sum())
    return gone if gone > _RUNS else 0.0


def peak(study: Analysis) -> float:
    """Nitrate in kg/m³ as NO₃ just before a change, in the long run; infinite without changes."""
    keeping = study.system.keeping
    water = LivingWater(study)
    left = max(float(water.inputs.ammonia.sum() - water.inputs.plants.sum() - water.inputs.anoxic.sum()), 0.0)
    tanks = sum(float(water.water.volumes[k]) for k in water.tanks.values())
    whole, drip = float(water.water.volumes.sum()), runs_off(water)
    if drip > 0:
        # Between changes it rises by e^(−kt) towards left/drip, and a change takes its share of it.
        grown, stands = math.exp(-drip * keeping.interval / whole), left / drip
        share = keeping.share * tanks / whole
        return keeping.nitrate + NITRATE_ION * stands * (1 - grown) / (1 - (1 - share) * grown)
    if keeping.share <= 0:
        return math.inf if left > 0 else keeping.nitrate
    return keeping.nitrate + NITRATE_ION * left * keeping.interval / (tanks * keeping.share)
