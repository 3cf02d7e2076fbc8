"""Quick answers about living water: oxygen, new water, heat, starting, load. Functions take and give SI."""

from __future__ import annotations

import math
from collections.abc import Mapping

from fuente.errors import EntryError
from fuente.life.gas import STILL, THETA
from fuente.life.heat import evaporation as evaporated
from fuente.life.heat import heat_loss_per_kelvin
from fuente.life.load import OXYGEN_OF_DIRT, OXYGEN_OF_FEED, ammonia_made, areal_rate
from fuente.life.renewal import NITRATE_ION, batch_share, drip_renews, drip_share
from fuente.water.properties import HEAT_CAPACITY, free_ammonia_fraction, oxygen_saturation

DAY = 86400.0
_NITRIFIED = 4.57  # kg of oxygen by kg of nitrogen
_SOLUTION_NITROGEN = 14.007 / 17.031  # of ammonia's weight
_SALT_NITROGEN = 14.007 / 53.49  # of ammonium chloride's
_FEWER = 0.5  # of its dose after which half a chemical medium is swapped


def _positive(**values: float) -> None:
    for name, value in values.items():
        if not value > 0:
            raise EntryError(f"{name} must be above zero.")


def oxygen(temperature: float, salinity: float = 0.0, altitude: float = 0.0) -> Mapping[str, float]:
    """Oxygen in balance with air.

    Benson and Krause 1984, with pressure by the standard atmosphere; 0.2 %.
    """
    full = oxygen_saturation(temperature, salinity, altitude) * 1e-3
    return {"saturation": full, "four_fifths": 0.8 * full}


def drip(
    volume: float, rate: float, made: float = 0.0, nitrate: float = 0.0, new: float = 0.0, days: float = 7 * DAY
) -> Mapping[str, float]:
    """New water that drips in while as much runs off: what is renewed in a day, and where nitrate goes.

    A fraction d of the volume a day renews 1 − e^(−d) of it. Nitrate (as NO₃) falls or rises by the same exponential to
    new + made/Q; ``made`` is nitrogen.
    """
    _positive(volume=volume, rate=rate)
    share = rate * DAY / volume
    stands = new + NITRATE_ION * made / rate
    after = stands + (nitrate - stands) * math.exp(-rate * days / volume)
    return {"share": share, "renewed": drip_renews(share), "stands": stands, "after": after, "litres": rate * 7 * DAY}


def water_change(
    volume: float, share: float, nitrate: float, new: float = 0.0, temperature: float = 25.0, cold: float = 18.0
) -> Mapping[str, float]:
    """A share of a water changed at once: litres, nitrate after it, how far it cools, and the heat to bring it back.

    Mixing by volume; 4.17 MJ/m³K.
    """
    _positive(volume=volume)
    if not 0 <= share <= 1:
        raise EntryError("A change is from nothing to all of it, 0 to 100 %.")
    litres = share * volume
    return {
        "litres": litres,
        "after": nitrate + share * (new - nitrate),
        "cools": share * (temperature - cold),
        "heat": litres * HEAT_CAPACITY * (temperature - cold),
    }


def heater(glass: float, surface: float, temperature: float, coldest: float) -> Mapping[str, float]:
    """Heater for the coldest room: what is lost through glass and surface, and two that share it.

    Glass 5.5 W/m²K, open surface about 15 with what evaporates; ±40 %. Two of half the size fail more gracefully than
    one.
    """
    _positive(glass=glass, surface=surface)
    per_kelvin = heat_loss_per_kelvin(glass, surface)
    lost = per_kelvin * max(temperature - coldest, 0.0)
    return {"watts": lost, "each_of_two": 0.6 * lost, "per_kelvin": per_kelvin}


def heater_stuck(
    volume: float, glass: float, surface: float, watts: float, temperature: float, room: float
) -> Mapping[str, float]:
    """A heater that is stuck on: where it takes the water, and hours until it is 3 K over what is kept.

    T − room goes to watts/UA by e^(−UA·t/C), losses as for a heater; ±40 %.
    """
    _positive(volume=volume, glass=glass, surface=surface, watts=watts)
    per_kelvin = heat_loss_per_kelvin(glass, surface)
    ends = room + watts / per_kelvin
    if ends <= temperature + 3:
        return {"ends": ends, "hours": math.inf}
    start = ends - temperature
    return {"ends": ends, "hours": volume * HEAT_CAPACITY / per_kelvin * math.log(start / (start - 3))}


def evaporation(
    area: float, temperature: float, room: float, humidity: float = 0.5, cover: float = 0.0
) -> Mapping[str, float]:
    """Water that an open surface loses, a day and a week.

    ASHRAE's pool equation in still air, activity 0.5; ±40 %. What is covered loses nothing.
    """
    _positive(area=area)
    if not 0 <= cover <= 1 or not 0 <= humidity <= 1:
        raise EntryError("Cover and humidity are from 0 to 100 %.")
    rate = evaporated(area * (1 - cover), temperature, room, humidity)
    return {"a_day": rate * DAY, "a_week": rate * 7 * DAY}


def start_dose(
    volume: float, target: float = 2e-3, strength: float = 0.1, ph: float = 7.5, temperature: float = 25.0
) -> Mapping[str, float]:
    """Ammonia to start without animals: what brings a water to a target of ammonia nitrogen.

    A solution of so much ammonia by weight (998 − 410·strength kg/m³, up to 25 %), or ammonium chloride (26 % N). Free
    ammonia by Emerson et al. 1975: from 0.3 mg/L on nitrite bacteria stand still.
    """
    _positive(volume=volume, target=target)
    if not 0.005 <= strength <= 0.3:
        raise EntryError("An ammonia solution has from 0.5 to 30 %.")
    nitrogen = volume * target
    return {
        "solution": nitrogen / _SOLUTION_NITROGEN / (strength * (998.0 - 410.0 * strength)),
        "salt": nitrogen / _SALT_NITROGEN,
        "nitrogen": nitrogen,
        "free": target * free_ammonia_fraction(ph, temperature),
    }


def carbon(volume: float, dose: float = 1.0, life: float = 42 * DAY) -> Mapping[str, float]:
    """Carbon for a water, by grams a litre: how much, and when half of it is swapped.

    A dose of about 1 g/L lasts some six weeks, typical, ±50 %; half swapped at half of its life is never all new nor
    all spent.
    """
    _positive(volume=volume, dose=dose, life=life)
    mass = dose * volume
    return {"mass": mass, "half": mass / 2, "swap": _FEWER * life}


def hours_of_air(
    volume: float,
    surface: float,
    feed: float,
    temperature: float = 25.0,
    least: float = 4e-3,
    protein: float = 0.45,
    begins: float = 0.9,
) -> Mapping[str, float]:
    """Hours with everything off until oxygen is down to a least: animals, dirt and what nitrifies use it, still water
    takes it up.

    Use 0.4 + 0.25 kg by kg of feed and 4.57 by kg of nitrogen; uptake half a metre a day through the surface, 2 %
    more by °C. It begins at a share of saturation. ±50 %; half the animals last more than twice as long. ``battery`` is
    the air, coarse, half a metre down, that holds the least.
    """
    _positive(volume=volume, surface=surface, feed=feed)
    full = oxygen_saturation(temperature) * 1e-3
    if not 0 < least < full:
        raise EntryError(f"At that temperature water holds {full * 1e3:.1f} mg/L at most.")
    use = feed * (OXYGEN_OF_FEED + OXYGEN_OF_DIRT) + _NITRIFIED * ammonia_made(feed, protein)
    takes = surface * STILL * THETA ** (temperature - 20.0)
    first = max(begins * full, least)

    def hours(used: float) -> float:
        ends = full - used / takes
        return math.inf if ends >= least else volume / takes * math.log((first - ends) / (least - ends))

    missing = max(use - takes * (full - least), 0.0)
    return {
        "hours": hours(use),
        "half_stock": hours(use / 2),
        "use": use,
        "battery": missing / (0.279 * 0.01 * (full - least) / full),
    }


def carries(
    area: float, temperature: float = 25.0, ammonia: float = 5e-4, protein: float = 0.45, salinity: float = 0.0
) -> Mapping[str, float]:
    """Feed that a living surface carries at an ammonia that is lived with.

    Areal rate k·S^0.7 at 6 mg/L of oxygen (Rusten et al. 2006), 0.092 of the protein becomes ammonia nitrogen; ±40 %.
    """
    _positive(area=area, ammonia=ammonia, protein=protein)
    rate, _ = areal_rate(ammonia, temperature, 6e-3, salinity)
    return {"feed": area * rate / ammonia_made(1.0, protein), "nitrogen": area * rate}


def nitrate(
    volume: float,
    feed: float,
    limit: float = 40e-3,
    new: float = 5e-3,
    interval: float = 7 * DAY,
    protein: float = 0.45,
) -> Mapping[str, float]:
    """What keeps nitrate (as NO₃) under a limit: a share changed each interval, or a drip, or marsh plants.

    Peak before a change = new + made·T/(V·s); a drip stands at new + made/Q; marsh plants take 0.4 g of nitrogen a m²
    and day, ±60 %.
    """
    _positive(volume=volume, feed=feed, interval=interval)
    if limit <= new:
        raise EntryError("New water has as much nitrate as the limit: no change brings it lower.")
    made = ammonia_made(feed, protein)
    top, fresh = limit / NITRATE_ION, new / NITRATE_ION
    share = batch_share(made, volume, interval, top, fresh)
    return {
        "share": share,
        "litres": share * volume,
        "drip": drip_share(made, volume, top, fresh),
        "plants": made * DAY / 0.4e-3,
        "rises": NITRATE_ION * made * interval / volume,
    }
