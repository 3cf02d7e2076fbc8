"""How the water is kept: how it is started, new water, and the limits that the builder lives with."""

from __future__ import annotations

import datetime
from typing import Literal

from pydantic import Field, field_validator

from fuente.devices.base import Spec, measured, picked

_DAY = 86400.0
STARTS = {
    "fishless": "ammonia, no animals",
    "seeded": "media moved over",
    "bucket": "media matured in a bucket",
    "fish": "light feeding with animals",
    "mature": "grown already",
}


class Keeping(Spec):
    """The start, water changes, the water that they bring, and limits in the tanks. Ammonia and nitrite as nitrogen,
    nitrate as tests read it, as NO₃.
    """

    share: float = measured(0.25, "fraction", "Water changed at once", 0.0, 1.0, "0 for none.", step=0.05)
    interval: float = measured(7 * _DAY, "days", "Changed every", 0.5 * _DAY, 365 * _DAY, step=_DAY)
    nitrate: float = measured(5e-3, "concentration", "Nitrate of new water", 0.0, 0.2, "As NO₃.", step=1e-3)
    alkalinity: float = measured(0.15, "concentration", "Alkalinity of new water", 0.0, 1.0, "As CaCO₃.", step=0.01)
    ph: float = Field(7.5, ge=5.0, le=9.5, description="pH of the tanks at the alkalinity of new water.")
    cold: float = measured(18.0, "temperature", "New water comes with", 2.0, 40.0, step=1.0)
    water_price: float = Field(
        3.0, ge=0.0, le=1e4, description="Price of a cubic metre of water, waste water with it, in any money."
    )
    ammonia_limit: float = measured(
        5e-4, "concentration", "Ammonia, at most", 1e-5, 5e-3, "Total, as nitrogen.", step=1e-4
    )
    nitrite_limit: float = measured(3e-4, "concentration", "Nitrite, at most", 1e-5, 5e-3, "As nitrogen.", step=1e-4)
    nitrate_limit: float = measured(40e-3, "concentration", "Nitrate, at most", 1e-3, 1.0, "As NO₃.", step=5e-3)
    oxygen_limit: float = measured(4e-3, "concentration", "Oxygen, at least", 5e-4, 9e-3, step=5e-4)
    start: Literal["fishless", "seeded", "bucket", "fish", "mature"] = picked("fishless", "Started with", STARTS)
    dose: float = measured(
        2e-3, "concentration", "Ammonia dosed to", 1e-4, 10e-3, "As nitrogen, without animals.", step=5e-4
    )
    moved: float = measured(
        0.1, "fraction", "Film moved over", 0.0, 1.0, "Of a full film, with media that are mature.", step=0.05
    )
    stood: float = measured(
        3600.0, "hours", "Out of its water for", 0.0, 7 * _DAY, "Wet and cool, without flow.", step=3600.0
    )
    media: float = measured(
        0.5, "fraction", "Media in the bucket", 0.01, 1.0, "Of all the surface that this design has.", step=0.1
    )
    bucket: float = measured(0.02, "volume", "Water in the bucket", 1e-3, 2.0, step=1e-3)
    bucket_warm: float = measured(26.0, "temperature", "Bucket kept at", 5.0, 35.0, step=1.0)
    slow: float = measured(
        3 * _DAY, "days", "Pump turned low for", 0.0, 60 * _DAY, "So that films can hold; 0 for never.", step=_DAY
    )
    started: str = Field("", pattern=r"^(\d{4}-\d{2}-\d{2})?$", description="Day of the start; empty before it.")
    altitude: float = measured(0.0, "run", "Height above the sea", 0.0, 4000.0, "Thin air holds less oxygen.", step=100)

    @field_validator("started")
    @classmethod
    def _a_day(cls, value: str) -> str:
        if value:
            datetime.date.fromisoformat(value)  # the thirtieth of February is none
        return value
