"""What Fuente would change of a hang-on filter."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, clogged
from fuente.devices.pocket import cell_id, flow_of
from fuente.devices.pocket_shown import starved
from fuente.devices.rim_box.network import clean_id, feed_id, lip_of
from fuente.devices.rim_box.spec import SKIMS, RimBox
from fuente.devices.rules import judged_by
from fuente.life.load import foam_surface
from fuente.network.model import Solution
from fuente.one_line import within

BAGS_REACHED = 0.5  # of a bag's surface, as water goes round it too; an assumption
HEAVY = 12.0  # kg on a rim from which a rail or a foot under the box is wanted; an assumption
SPLASH = 0.06  # m of fall from the lip to the tank's water that is heard
BRIM = 0.015  # m under its rim that is too little


def foam_living(spec: RimBox) -> float:
    """Living surface of its block, m²."""
    return spec.bulk * foam_surface(spec.ppi)


def bag_living(spec: RimBox, site: Site) -> float:
    """Living surface of its bag, m², as far as water reaches it."""
    if spec.media <= 0:
        return 0.0
    return BAGS_REACHED * spec.media * site.medium(spec.medium).living(site.ruled(spec).surface == "core")


def surface(spec: RimBox, site: Site) -> float:
    """Of both."""
    return foam_living(spec) + bag_living(spec, site)


def lives(spec: RimBox, site: Site) -> tuple[tuple[str, float], ...]:
    """The block's in the water before it, the bag's behind."""
    return ((cell_id(spec), foam_living(spec)), (clean_id(spec), bag_living(spec, site)))


def grow(spec: RimBox, site: Site, factor: float) -> Edit | None:
    """A wider one, as far as the tank's end goes."""
    wider = round(spec.wide * factor + 0.005, 2)
    if wider > min(site.tank.inner_width + 0.02, 2.0):
        return None
    return Edit("Wider box", (Change((*spec.path, "wide"), wider),))


def hangs(spec: RimBox, site: Site, solution: Solution) -> float:
    """kg that hang on the rim: its water, its media, and a box of plastic."""
    water = site.water.density * (solution.volume[cell_id(spec)] + solution.volume[clean_id(spec)])
    media = spec.media * site.medium(spec.medium).dry if spec.media > 0 else 0.0
    walls = (2 * (spec.off + spec.wide) * spec.height + spec.off * spec.wide) * 0.004 * 1200
    return water + media + walls


def air_into(spec: RimBox, solution: Solution) -> float:
    """Air that its line brings, m³/s at the room's pressure."""
    return sum(q for key, q in solution.flow.items() if key.endswith(f".{feed_id(spec)}"))


def shared(spec: RimBox, site: Site, study: Study) -> Iterable[Finding]:
    """Dirt that is long due."""
    yield from clogged(spec, spec.path)


def still(spec: RimBox, site: Site, study: Study) -> Iterable[Finding]:
    """No air, or nothing that moves."""
    name = within(spec.name)
    if spec.on_air and spec.id not in site.drops:
        yield Finding(
            "no-air",
            Rank.STOP,
            f"No air line leads to {name}.",
            "Without air its lift stands still, and what lives in it dies within hours. Add a drop to an air pump.",
            spec.id,
        )
    elif spec.on_air and air_into(spec, study.running) <= 1e-9:
        yield starved(spec)
    elif flow_of(spec, study.running) < 1e-9:
        yield Finding(
            "filter-still",
            Rank.STOP,
            f"Nothing flows through {name}.",
            "Its pump or its air does not lift over the lip, or it draws air. What lives in it dies within hours.",
            spec.id,
        )


def overtops(spec: RimBox, site: Site, study: Study) -> Iterable[Finding]:
    """Water over the block instead of through it."""
    over = study.running.flow[f"{spec.id}.over"]
    if over <= 1e-7:
        return
    room = spec.height
    higher = round(min(room, spec.block + 0.03), 3)
    edit = Edit("Higher block", (Change((*spec.path, "block"), higher),)) if higher > spec.block + 0.004 else None
    yield Finding(
        "overtops",
        Rank.FIX,
        "{over:flow} goes over its block instead of through it.",
        "Water takes the easy way. Rinse the block, take a coarser one, or one that stands higher.",
        spec.id,
        {"over": over},
        "Higher block" if edit else "",
        edit,
        -over,
    )


def brim(spec: RimBox, site: Site, study: Study) -> Iterable[Finding]:
    """Water that stands near its rim."""
    room = study.running.freeboard(cell_id(spec))
    if room < BRIM:
        higher = round(spec.height + 0.03, 2)
        yield Finding(
            "vessel-brim",
            Rank.FIX,
            f"{spec.name} runs {{room:level}} under its rim.",
            "A block that clogs raises it over the rim, onto the floor. Higher walls, a longer lip, or less flow.",
            spec.id,
            {"room": room},
            "Higher walls" if higher <= 1.0 else "",
            Edit("Higher walls", (Change((*spec.path, "height"), higher),)) if higher <= 1.0 else None,
            room - BRIM,
        )


def heavy(spec: RimBox, site: Site, study: Study) -> Iterable[Finding]:
    """More than a rim should carry."""
    mass = hangs(spec, site, study.running)
    if mass > HEAVY:
        yield Finding(
            "rim-load",
            Rank.CONSIDER,
            "{mass:mass} hang on the rim of its tank.",
            "Glass bears it badly on a few millimetres of edge: a shelf or a foot under the box takes the weight.",
            spec.id,
            {"mass": mass},
            margin=HEAVY - mass,
        )


def splashes(spec: RimBox, site: Site, study: Study) -> Iterable[Finding]:
    """A long fall from its lip."""
    fall = lip_of(spec, site) - study.running.level[site.tank.id]
    if fall > SPLASH:
        yield Finding(
            "lip-falls",
            Rank.CONSIDER,
            "Water falls {fall:level} from its lip into the tank: it splashes and is heard.",
            "A longer lip and a higher water level let it glide; falling water brings air along.",
            spec.id,
            {"fall": fall},
            margin=SPLASH - fall,
        )


def skims_dry(spec: RimBox, site: Site, study: Study) -> Iterable[Finding]:
    """A skimming inlet that a little evaporation leaves dry."""
    deep = study.running.level[site.tank.id] - site.tank.floor - spec.intake
    if spec.inlet == "skim" and spec.drive == "pump" and deep < SKIMS - 0.005:
        lower = round(spec.intake + deep - SKIMS, 3)
        yield Finding(
            "skim-dry",
            Rank.FIX,
            "Its skimming inlet draws only {deep:level} under the water: it sucks air.",
            "It follows the water only as far as its float or your hand sets it: a little lower, and looked at daily.",
            spec.id,
            {"deep": max(deep, 0.0)},
            "Set it lower" if lower > 0 else "",
            Edit("Lower inlet", (Change((*spec.path, "intake"), lower),)) if lower > 0 else None,
            deep - SKIMS + 0.005,
        )


judge = judged_by(shared, still, overtops, brim, heavy, splashes, skims_dry)
