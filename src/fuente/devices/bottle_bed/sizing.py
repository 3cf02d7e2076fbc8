"""Bottles as they are found, and the air that rolls a bed."""

from __future__ import annotations

from fuente.devices.bottle_bed.spec import BottleBed
from fuente.devices.filtering import Site
from fuente.devices.schools import AIR_PER_LITRE

CENTRE = 1.25  # times the air of a roll from the side

# Straight-walled bottles and tubes by inner diameter and height, m; typical.
BOTTLES = ((0.065, 0.16), (0.08, 0.2), (0.09, 0.25), (0.11, 0.3), (0.15, 0.4))


def wish(spec: BottleBed, site: Site) -> float:
    """Air in m³/s that rolls it as its rule wants: 0.5 to 3 L/min for each litre of carriers; from the centre, where it
    mixes and makes no roll, a quarter more, an assumption.
    """
    mixed = CENTRE if spec.entry == "centre" else 1.0
    return spec.media * 1000 * AIR_PER_LITRE[spec.roll] * 1e-3 * mixed
