"""What Fuente would change of a steriliser."""

from __future__ import annotations

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.filtering import Site
from fuente.devices.lamps import ALGAE, GERMS, dose, lamp_old
from fuente.devices.pocket import flow_of
from fuente.devices.steriliser.spec import Steriliser


def surface(spec: Steriliser, site: Site) -> float:
    """It carries no life."""
    return 0.0


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
    found += lamp_old(spec, spec.id, path)
    return tuple(found)
