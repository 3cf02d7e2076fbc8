"""What Fuente would change of a plant bed."""

from __future__ import annotations

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.box_walls import box_walls
from fuente.devices.contract import Study
from fuente.devices.filtering import Site
from fuente.devices.plant_bed.network import ids
from fuente.devices.plant_bed.spec import PlantBed
from fuente.devices.plumbing_shown import judge_lines
from fuente.life.load import ammonia_made
from fuente.life.plants import plant_uptake


def surface(spec: PlantBed, site: Site) -> float:
    """Living surface in m²: half of the grains' own under water, as in any gravel."""
    depth = min(spec.gravel, spec.drain.height)
    return 0.5 * spec.plan * depth * 6 * (1 - spec.void) / spec.grain


def lives(spec: PlantBed, site: Site) -> tuple[tuple[str, float], ...]:
    """Living surface by cell: half of it in each half of the water."""
    return tuple((cell, surface(spec, site) / 2) for cell in ids(spec))


def uptake(spec: PlantBed) -> float:
    """Nitrogen in kg/s that the plants take while they grow."""
    return plant_uptake(spec.plan * spec.planted, spec.plants)


def made(spec: PlantBed, site: Site, study: Study) -> float:
    """Nitrogen in kg/s that the feed of all tanks on its water gives off as ammonia."""
    body = next((b for b in study.bodies if spec.tank in b), (spec.tank,))
    return sum(ammonia_made(t.fed, t.protein) for key, t in site.homes.items() if key in body)


def grow(spec: PlantBed, site: Site, factor: float) -> Edit | None:
    """A longer one."""
    path = spec.path
    longer = round(spec.length * factor + 0.05, 1)
    return None if longer > 12 else Edit("Longer plant bed", (Change((*path, "length"), longer),))


def judge(spec: PlantBed, site: Site, study: Study) -> tuple[Finding, ...]:
    """Water over the gravel, fine grain, dry gravel."""
    solution, path = study.running, spec.path
    _head, foot = ids(spec)
    found = list(judge_lines(spec, site, solution, path, ids(spec)))
    found += box_walls(spec.id, spec.name, spec.length, spec.width, spec.height)
    over = solution.flow.get(f"{spec.id}.over", 0.0)
    if over > 1e-7 and spec.gravel > 0:
        found.append(
            Finding(
                "bed-flooded",
                Rank.CONSIDER,
                "{over:flow} runs over the gravel instead of through it.",
                "Coarser gravel, a wider bed, or less flow. Part of the water going over is no harm to plants, and"
                " filters nothing.",
                spec.id,
                {"over": over},
                "Coarser gravel",
                Edit("Coarser gravel", (Change((*path, "grain"), round(min(spec.grain * 1.6, 0.05), 3)),)),
                -over,
            )
        )
    if spec.grain < 0.004:
        found.append(
            Finding(
                "grain-fine",
                Rank.FIX,
                "Gravel of {grain:fine_length} clogs with roots and muck within a season.",
                "{0.008:length:bare} to {0.016:length} stays open.",
                spec.id,
                {"grain": spec.grain},
                "Coarser gravel",
                Edit("Coarser gravel", (Change((*path, "grain"), 0.01),)),
            )
        )
    dry = spec.stand + spec.gravel - solution.level[foot]
    if dry > 0.12 and spec.plants == "marsh":
        found.append(
            Finding(
                "gravel-dry",
                Rank.CONSIDER,
                "{dry:level} of gravel stand dry over the water.",
                "Marsh plants want their feet wet: raise the outlet.",
                spec.id,
                {"dry": dry},
                "Raise outlet",
                Edit("Raise outlet", (Change((*path, "drain", "height"), round(spec.gravel - 0.04, 2)),)),
            )
        )
    return tuple(found)
