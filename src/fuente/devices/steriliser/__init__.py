"""Steriliser loops."""

from __future__ import annotations

from fuente.devices.filtering import FilterKind, Site
from fuente.devices.first_sizes import beside_tank
from fuente.devices.pumping import PumpSpec
from fuente.devices.steriliser.card import card
from fuente.devices.steriliser.care import care
from fuente.devices.steriliser.judge import judge, surface
from fuente.devices.steriliser.network import lower
from fuente.devices.steriliser.parts import parts
from fuente.devices.steriliser.sketch import sketch
from fuente.devices.steriliser.spec import Steriliser

LAMPS = ((5, 0.2), (9, 0.25), (11, 0.3), (18, 0.4), (36, 0.5), (55, 0.7), (80, 0.9))  # W, m; typical classes


def first(site: Site) -> Steriliser:
    """A lamp that gives 450 J/m² at one turnover an hour."""
    want = site.volume / 3600
    watts, length = next(((w, x) for w, x in LAMPS if _dose(w, x, want) >= 450), LAMPS[-1])
    step = 100e-3 / 3600
    most = max(round(1.5 * want / step), 2) * step
    hose = "hose-12" if want < 500e-3 / 3600 else "hose-16" if want < 1200e-3 / 3600 else "hose-25"
    under = site.tank.floor > 0.35
    return Steriliser(
        id=site.new_id("steriliser"),
        tank=site.tank.id,
        stand=0.2 if under else 0.15,
        offset=round(site.tank.offset + 0.1 if under else beside_tank(site, 0.25), 2),
        watts=watts,
        length=length,
        pump=PumpSpec(
            name="Small pump",
            max_head=round(max(0.8, 0.5 + want * 3600e3 / 2500), 1),
            max_flow=most,
            watts=max(round(most * 3.6e6 / 90), 3),
        ),
        hose=hose,
        run=round(site.tank.rim + 0.3 if under else 1.0, 1),
        outlet=round(site.depth - 0.02, 3),
    )


def _dose(watts: float, length: float, flow: float) -> float:
    from fuente.devices.lamps import dose

    return dose(Steriliser(id="x", watts=watts, length=length), flow)


KIND = FilterKind(
    id="steriliser",
    name="Steriliser loop",
    said="A lamp in a closed chamber with its own small pump: it clears green water and kills germs that pass it.",
    glyph="lamp",
    spec=Steriliser,
    first=first,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    size=lambda s: ("lamp", s.watts, "power"),
    surface=surface,
    schools=(),
    inside=False,
)
