"""What a power cut does to those who breathe the water: judged once the hours are known, which takes a while."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.base import Finding
from fuente.study.air_hours import FOLLOWED, NIGHT, SHORT, AirHours, battery
from fuente.study.analysis import Analysis

CODE = "oxygen-cut"


def breath(study: Analysis, air: AirHours | None) -> Iterable[Finding]:
    """A finding where oxygen runs out before a night is over."""
    if air is None or air.rank is None or air.usual is None:
        return
    tank = study.system.tank(air.tank)
    whose = f" of {tank.name}" if len(study.system.tanks) > 1 else ""
    band = ""
    if air.poor is not None:
        late = "over {end:hours}" if air.good is None else "{late:hours}"
        band = f" ({{early:hours}} to {late})"
    night = "before a night is over" if air.usual >= SHORT else "before anybody may be home"
    yield Finding(
        CODE,
        air.rank,
        f"In a power cut the oxygen{whose} is under {{limit:concentration}} after {{hours:hours}}{band}, {night}.",
        "Animals, films and dirt go on breathing while nothing brings oxygen but the still surface; the band is half"
        " and twice of that. Keep an air stone on a battery at hand, one for each tank: about {watts:charge} for a"
        " night. Fewer animals, more surface or less cover last longer. Rinse what stood still before its water goes"
        " back.",
        tank.id,
        values={
            "limit": air.limit,
            "hours": air.usual * 3600,
            "early": (air.poor or 0.0) * 3600,
            "late": (air.good or 0.0) * 3600,
            "end": FOLLOWED * 3600,
            "watts": battery(len(study.system.tanks), NIGHT),
        },
    )
