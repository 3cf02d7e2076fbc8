"""Quick answers about filters that builders make: load, media, air, foam, drums, sieves. Functions take and give SI."""

from __future__ import annotations

import math
from collections.abc import Mapping

from fuente.catalogue import stock
from fuente.errors import EntryError
from fuente.hydraulics.air import AirPump, Drop, share_air
from fuente.hydraulics.airlift import airlift_flow, best_air, drift_flux_flow
from fuente.life.compare import compare
from fuente.life.load import (
    ALKALINITY_OF_NITROGEN,
    OXYGEN_OF_NITROGEN,
    ammonia_made,
    areal_rate,
    surface_needed,
)
from fuente.water.properties import GRAVITY, free_ammonia_fraction

_DAY = 86400.0


def positive(**values: float) -> None:
    for name, value in values.items():
        if not value > 0:
            raise EntryError(f"{name} must be above zero.")


def share(**values: float) -> None:
    for name, value in values.items():
        if not 0 < value <= 1:
            raise EntryError(f"{name} is a share of 0 to 100 %.")


def ammonia(feed: float, protein: float) -> Mapping[str, float]:
    """Total ammonia nitrogen that the animals give off: feed × protein × 0.092 (Timmons and Ebeling); ±20 %.

    Nitrifying it takes 4.57 g of oxygen and 7.05 g of alkalinity as CaCO₃ for every gram of nitrogen.
    """
    positive(feed=feed)
    share(protein=protein)
    nitrogen = ammonia_made(feed, protein)
    return {
        "ammonia_nitrogen": nitrogen,
        "oxygen": OXYGEN_OF_NITROGEN * nitrogen,
        "alkalinity": ALKALINITY_OF_NITROGEN * nitrogen,
    }


def media_needed(
    feed: float,
    protein: float = 0.45,
    temperature: float = 24.0,
    medium_id: str = "wheel_10",
    ammonia_kept: float = 5e-4,
    oxygen: float = 6e-3,
    ph: float = 7.5,
    salinity: float = 0.0,
    spare: float = 1.5,
) -> Mapping[str, float]:
    """Surface and litres of media for a load, by the areal rate r = k·S^0.7 (Rusten et al. 2006), S the ammonia kept.

    Outer surface that water reaches counts. Where oxygen lets less through than the ammonia that is there, it limits,
    and oxygen_limits is 1. spare multiplies the surface. ±40 %: borrow mature media and raise feed in steps.
    """
    positive(feed=feed, ammonia_kept=ammonia_kept, spare=spare)
    share(protein=protein)
    stuff = stock().medium(medium_id)
    rate, limit = areal_rate(ammonia_kept, temperature, oxygen, salinity, ph)
    surface = spare * surface_needed(ammonia_made(feed, protein), rate)
    volume = surface / stuff.surface
    return {
        "surface": surface,
        "volume": volume,
        "wet_mass": volume * stuff.wet_density(),
        "areal_rate": rate * 1e3 * _DAY,
        "oxygen_limits": 1.0 if limit == "oxygen" else 0.0,
    }


def free_ammonia(total: float, ph: float, temperature: float, salinity: float = 0.0) -> Mapping[str, float]:
    """The part of total ammonia that harms: un-ionised NH₃ by pH and temperature (Emerson et al. 1975); ±2 %, 5 % in
    salt.
    """
    share = free_ammonia_fraction(ph, temperature, salinity)
    return {"free": total * share, "fraction": share}


def airlift(
    bore: float, length: float, submergence: float, air_flow: float, friction_factor: float = 0.025, k: float = 0.0
) -> Mapping[str, float]:
    """Water that a tube lifts on air (Stenning and Martin 1968), with drift flux beside it and the air that lifts most.

    length is the tube over the injector, submergence the part of it under water; k is what stands in series, a sponge
    or a bed. Past the best air more air lifts less. ±25 %.
    """
    lifted = airlift_flow(bore, length, submergence, air_flow, friction_factor, k)
    best, most = best_air(bore, length, submergence, friction_factor, k)
    return {
        "water_flow": lifted,
        "drift_flux": drift_flux_flow(bore, length, submergence, air_flow, friction_factor, k),
        "best_air": best,
        "best_flow": most,
    }


def air_pump(
    max_pressure: float,
    max_flow: float,
    drops: float,
    depth: float,
    length: float = 1.5,
    bore: float = 0.004,
    wanted: float = 1e-3 / 60,
    diffuser: float = 0.0,
) -> Mapping[str, float]:
    """What each of so many equal drops of an air pump gets, and how many drops it carries at a wanted flow each.

    A straight pressure curve between the box's two numbers; water depth, diffuser, and the line's friction. ±20 %. A
    pump below the water needs check valves or a loop above it.
    """
    count = round(drops)
    if not 1 <= count <= 500 or abs(drops - count) > 1e-9:
        raise EntryError("drops is a whole number from 1 to 500.")
    positive(max_pressure=max_pressure, max_flow=max_flow, depth=depth, bore=bore, wanted=wanted)
    pump, line = AirPump(max_pressure, max_flow), Drop(depth, length, bore, 0.0, diffuser)
    pressure, flows = share_air(pump, [line] * count)
    needed = line.threshold + line.loss(wanted)
    return {
        "flow_each": flows[0],
        "total": sum(flows),
        "pressure": pressure,
        "carries": math.floor(pump.flow(needed) / wanted + 1e-9),
        "depth_pressure": line.threshold,
    }


def bottle_bed(
    feed: float,
    bottle: float = 2e-3,
    protein: float = 0.45,
    temperature: float = 24.0,
    medium_id: str = "wheel_10",
    fill: float = 2 / 3,
    air_per_litre: float = 1.0,
    spare: float = 1.5,
) -> Mapping[str, float]:
    """How many bottles of moving carriers carry a load, filled to a share of their volume, and the air to roll them.

    Air of 0.5 to 3 L/min for each litre of carriers, by design rule; 1 is a gentle roll. New carriers float and hardly
    turn for weeks: judge the bed then. ±40 %.
    """
    positive(bottle=bottle, air_per_litre=air_per_litre)
    share(fill=fill)
    need = media_needed(feed, protein, temperature, medium_id, spare=spare)["volume"]
    count = math.ceil(need / (bottle * fill) - 1e-9)
    each = bottle * fill
    return {
        "media": need,
        "bottles": float(count),
        "media_each": each,
        "air_each": each * air_per_litre / 60,
        "air": count * each * air_per_litre / 60,
    }


def carrier_holes(
    flow: float, least: float, margin: float = 0.8, speed: float = 0.15, wall: float = 0.5e-3
) -> Mapping[str, float]:
    """Holes that keep carriers in: bore a share of the carrier's least dimension, and how many for a flow.

    speed is that in the holes; slow holes do not suck carriers on. The loss is the jets' with C = 0.62. ±20 %.
    """
    positive(flow=flow, least=least, speed=speed)
    share(margin=margin)
    bore = least * margin
    area = math.pi / 4 * bore**2
    count = math.ceil(flow / (area * speed) - 1e-9)
    real = flow / (count * area)
    return {
        "hole": bore,
        "count": float(count),
        "speed": real,
        "loss": (real / 0.62) ** 2 / (2 * GRAVITY),
        "pitch": 2 * bore,
    }


def media_compare(medium_id: str, other: str, surface: float, lift: float = 10.0) -> Mapping[str, float]:
    """Two media side by side for one living surface: litres, cost, minutes a cleaning, weight wet, and bags under a
    lift limit.

    Outer surface that water reaches, typical values of the catalogue; cost in any money a litre.
    """
    found: dict[str, float] = {}
    for prefix, key in (("", medium_id), ("other_", other)):
        line = compare(stock().medium(key), surface, lift)
        found[f"{prefix}volume"] = line.volume
        found[f"{prefix}cost"] = line.cost
        found[f"{prefix}cost_per_area"] = line.per_area
        found[f"{prefix}cleaning"] = line.minutes * 60
        found[f"{prefix}wet_mass"] = line.wet
        found[f"{prefix}bags"] = float(line.bags)
    return found
