"""What Fuente would change of a steriliser."""

from __future__ import annotations

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.filtering import Site
from fuente.devices.pocket import flow_of
from fuente.devices.steriliser.spec import Steriliser

UVC = 0.30  # of a lamp's watts come out as short ultraviolet; typical of low-pressure lamps
CLEAR = 0.7  # of it that clear water and sleeve let through on the mean; an assumption
ALGAE, GERMS = 150.0, 450.0  # J/m²: what clears green water, and what most germs want; typical
LAMP_LIFE = 270 * 86400.0  # s until it gives about six tenths


def surface(spec: Steriliser, site: Site) -> float:
    """It carries no life."""
    return 0.0


def dose(spec: Steriliser, flow: float) -> float:
    """Dose in J/m² (0.1 mJ/cm²): lamp's ultraviolet over the chamber's wall, for as long as water stays in it.

    Irradiance of a line source at the annulus's mean diameter; the lamp loses four tenths over its life.
    A factor of two.
    """
    if flow <= 0:
        return 0.0
    left = max(1 - 0.4 * spec.age / LAMP_LIFE, 0.3)
    mean = (spec.diameter + spec.sleeve) / 2
    irradiance = UVC * CLEAR * left * spec.watts / (3.1416 * mean * spec.length)
    return irradiance * spec.water / flow


def judge(spec: Steriliser, site: Site, study: Study) -> tuple[Finding, ...]:
    """Dose, share, lamp."""
    solution, path = study.running, spec.path
    flow = flow_of(spec, solution)
    found: list[Finding] = []
    if flow < 1e-9:
        return (
            Finding(
                "filter-still",
                Rank.FIX,
                "Nothing flows through the steriliser.",
                "A lamp in standing water overheats it.",
                spec.id,
            ),
        )
    given = dose(spec, flow)
    if given < ALGAE:
        slower = round(max(spec.pump.speed * given / GERMS, 0.2), 2)
        found.append(
            Finding(
                "dose-low",
                Rank.FIX,
                "Water gets {dose:number} J/m² of ultraviolet: too little even for green water.",
                "150 clear green water, 450 are what most germs want. Slower water, or a stronger lamp. A factor of"
                " two.",
                spec.id,
                {"dose": given},
                "Slow the pump",
                Edit("Slow the pump", (Change((*path, "pump", "speed"), slower),)),
                given - ALGAE,
            )
        )
    turn = flow / solution.volume[site.tank.id]
    if turn < 0.5 / 3600:
        found.append(
            Finding(
                "share-low",
                Rank.CONSIDER,
                "It takes the tank's water {turn:per_hour}: most germs never meet it.",
                "One turnover an hour or more keeps ahead of what multiplies.",
                spec.id,
                {"turn": turn},
            )
        )
    if spec.age > LAMP_LIFE:
        found.append(
            Finding(
                "lamp-old",
                Rank.CONSIDER,
                "The lamp has burnt for {age:days}.",
                "It still glows and gives little ultraviolet. Change it every nine months.",
                spec.id,
                {"age": spec.age},
                "Changed it",
                Edit("Change lamp", (Change((*path, "age"), 0.0),)),
            )
        )
    return tuple(found)
