"""What Fuente would change of bottle beds."""

from __future__ import annotations

import math
from collections.abc import Iterable

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.bottle_bed.sizing import wish
from fuente.devices.bottle_bed.spec import BottleBed
from fuente.devices.contract import Study
from fuente.devices.filtering import Site
from fuente.devices.pocket import air_of, flow_of
from fuente.devices.pocket_shown import judge_pocket
from fuente.devices.rules import judged_by
from fuente.devices.schools import FILL

MARGIN = 0.8  # of a carrier's least dimension: the largest hole that surely holds it
HOLD = 0.25  # m/s in a hole from which carriers are sucked on; an assumption
MOST = {"holes": 2000, "top_holes": 2000, "cap_holes": 500}
WEEK = 7 * 86400.0


def surface(spec: BottleBed, site: Site) -> float:
    """Living surface, m²."""
    return spec.media * site.medium(spec.medium).living(site.ruled(spec).surface == "core")


def grow(spec: BottleBed, site: Site, factor: float) -> Edit | None:
    """More bottles."""
    path = spec.path
    more = math.ceil(spec.tubes * factor - 1e-9)
    if more > 12 or spec.at + more * (spec.diameter + 0.01) > site.tank.inner_length:
        return None
    return Edit("Add bottles" if more - spec.tubes > 1 else "Add a bottle", (Change((*path, "tubes"), more),))


USUAL_DEPTH = 0.25  # m of water over the air's entry


def heard(spec: BottleBed, air: float, flow: float) -> str:
    """How loud its air is, in a word: by how fast it breaks, coarser from an open line, growing as it rises from
    deeper, and with what whistles in holes that water passes fast. An assumption.
    """
    speed = air / (spec.tubes * math.pi / 4 * spec.diameter**2)
    speed *= 1.6 if spec.end == "open" else 1.0
    speed *= math.sqrt(max(spec.outlet - spec.injector, 0.02) / USUAL_DEPTH)
    speed *= 1.3 if flow / spec.narrowest > HOLD else 1.0
    return "a whisper" if speed < 5e-3 else "a murmur" if speed < 20e-3 else "in the next room"


def shared(spec: BottleBed, site: Site, study: Study) -> Iterable[Finding]:
    """What every filter in a tank says."""
    solution, path = study.running, spec.path
    yield from list(judge_pocket(spec, site, solution, path))


def carriers_escape(spec: BottleBed, site: Site, study: Study) -> Iterable[Finding]:
    """Holes that its carriers pass."""
    path = spec.path
    stuff = site.medium(spec.medium)
    rows = (("hole", "holes"), ("top_hole", "top_holes"), ("cap_hole", "cap_holes"))
    wide = [(bore, many) for bore, many in rows if getattr(spec, many) and getattr(spec, bore) > MARGIN * stuff.size]
    if wide:
        better = round(math.floor(MARGIN * stuff.size * 2000) / 2000, 4)
        widest = max(getattr(spec, bore) for bore, _ in wide)
        changes: list[Change] = []
        for bore, many in wide:
            more = math.ceil(getattr(spec, many) * (getattr(spec, bore) / better) ** 2)
            changes += [Change((*path, bore), better), Change((*path, many), min(more, MOST[many]))]
        yield Finding(
            "carriers-escape",
            Rank.FIX,
            "Holes of {hole:fine_length} let carriers of {size:fine_length} jam or pass.",
            "Holes must be clearly smaller than the media: four fifths of its least dimension at most.",
            spec.id,
            {"hole": widest, "size": stuff.size},
            "Smaller holes, more of them",
            Edit("Change holes", tuple(changes)),
            MARGIN * stuff.size - widest,
        )


def holes_fast(spec: BottleBed, site: Site, study: Study) -> Iterable[Finding]:
    """Water in the holes that holds an animal against them."""
    solution, path = study.running, spec.path
    flow = flow_of(spec, solution)
    speed = flow / spec.narrowest
    if speed > HOLD:
        # Holes set the flow while they are few: as many as leave their loss small beside the bottle's own.
        least = 0.12 * spec.diameter**2
        wanted = max(2 * spec.narrowest / spec.tubes * speed / HOLD, math.pi / 4 * least)
        changes: list[Change] = []
        for bore, many, area in (("hole", "holes", spec.open_area), ("top_hole", "top_holes", spec.way_out)):
            one = math.pi / 4 * getattr(spec, bore) ** 2
            more = getattr(spec, many) + math.ceil((wanted - area / spec.tubes) / one)
            if more > getattr(spec, many):
                changes.append(Change((*path, many), min(more, MOST[many])))
        yield Finding(
            "holes-fast",
            Rank.CONSIDER,
            "Water runs at {speed:speed} through the holes: carriers cling to them.",
            "More holes slow it down.",
            spec.id,
            {"speed": speed},
            "More holes",
            Edit("More holes", tuple(changes)),
        )


def bed_full(spec: BottleBed, site: Site, study: Study) -> Iterable[Finding]:
    """A bed fuller than its school turns."""
    path = spec.path
    limit = FILL[site.ruled(spec).fill] + 0.03
    if spec.fill > limit:
        yield Finding(
            "bed-full",
            Rank.CONSIDER,
            "The bottles are {fill:fraction} full; your rule is {wanted:fraction}.",
            "Fuller beds hold more surface and turn less.",
            spec.id,
            {"fill": spec.fill, "wanted": limit - 0.03},
            "Take carriers out",
            Edit("Take carriers out", (Change((*path, "fill"), round(limit - 0.03, 3)),)),
        )


def bed_still(spec: BottleBed, site: Site, study: Study) -> Iterable[Finding]:
    """Air that does not turn it, or scours it."""
    solution = study.running
    air, want = air_of(spec, solution), wish(spec, site)
    if 0 < air < 0.5 * want:
        yield Finding(
            "bed-still",
            Rank.FIX,
            "The bed gets {air:air_flow}; it wants {want:air_flow} to roll.",
            "A bed that stands strains dirt and clogs. Open its valve, or take fewer carriers.",
            spec.id,
            {"air": air, "want": want},
        )
    elif air > 3.2 * want:
        yield Finding(
            "bed-wild",
            Rank.CONSIDER,
            "The bed gets {air:air_flow}, {times} what rolls it.".replace("{times}", f"{air / want:.0f} times"),
            "It is loud, wears the carriers and throws water about. Turn its valve down.",
            spec.id,
            {"air": air, "want": want},
        )


def carriers_new(spec: BottleBed, site: Site, study: Study) -> Iterable[Finding]:
    """Carriers that still float."""
    path = spec.path
    settled = site.medium(spec.medium).matures * WEEK
    if spec.age < settled:
        yield Finding(
            "carriers-new",
            Rank.CONSIDER,
            "New carriers float and hardly turn: judge the bed in {left:days}.",
            "A film grows on them and takes their float; how long is the medium's own. Do not force them by air.",
            spec.id,
            {"left": settled - spec.age},
            "Carriers are broken in",
            Edit("Carriers are old", (Change((*path, "age"), max(60 * 86400.0, settled)),)),
        )


def brittle(spec: BottleBed, site: Site, study: Study) -> Iterable[Finding]:
    """Carriers that break when they are knocked about."""
    if site.medium(spec.medium).brittle and (spec.roll == "hard" or spec.entry == "centre"):
        gentle = (("roll", "gentle"), ("entry", "side"))
        yield Finding(
            "carriers-brittle",
            Rank.CONSIDER,
            f"{site.medium(spec.medium).name} break in a hard tumble or over a jet in the middle.",
            "Air along one side rolls them gently and keeps them whole.",
            spec.id,
            {},
            "Roll it from the side",
            Edit("Roll it from the side", tuple(Change((*spec.path, n), v) for n, v in gentle)),
        )


def bottle_dry(spec: BottleBed, site: Site, study: Study) -> Iterable[Finding]:
    """A bottle that stands out of the water."""
    solution, path = study.running, spec.path
    top = site.tank.floor + spec.hang + spec.height
    over = top - solution.level[site.tank.id]
    if over > 0.02:
        yield Finding(
            "bottle-dry",
            Rank.CONSIDER,
            "The bottle stands {over:level} out of the water.",
            "Its bubbles then burst at its top and splash. Hang it lower or cut it shorter.",
            spec.id,
            {"over": over},
            "Hang it lower" if spec.hang > over else "",
            Edit(
                "Hang lower",
                tuple(Change((*path, n), round(getattr(spec, n) - over, 3)) for n in ("hang", "injector", "outlet")),
            )
            if spec.hang > over
            else None,
            0.02 - over,
        )


judge = judged_by(shared, carriers_escape, holes_fast, bed_full, bed_still, carriers_new, brittle, bottle_dry)
