"""What Fuente would change of a train of drums."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.catalogue import Bulkhead, Medium, pipe_size
from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.contract import Study
from fuente.devices.drum_train.network import drum_id
from fuente.devices.drum_train.spec import Drum, DrumTrain
from fuente.devices.filtering import STANDING, Site
from fuente.devices.plumbing import flow_in
from fuente.devices.plumbing_shown import judge_lines
from fuente.devices.rules import judged_by
from fuente.devices.schools import FILL
from fuente.hydraulics.drains import full_siphon
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.settling import DIRT, PARTICLE, fall_speed
from fuente.life.load import foam_surface
from fuente.structure.walls import largest_flange, stands_off


def living(spec: DrumTrain, drum: Drum, site: Site) -> float:
    """Living surface of a drum's media, m²."""
    schools, stuff = site.ruled(spec), site.medium(drum.medium)
    return living_share(drum, stuff, schools.still) * drum.media * stuff.living(schools.surface == "core")


def living_share(drum: Drum, stuff: Medium, still: str) -> float:
    """Of a drum's media that counts as living: carriers that stand still strain, and by one school live on as well."""
    stands = stuff.kind == "carrier" and drum.role != "moving"
    return (STANDING if still == "living" else 0.0) if stands else 1.0


def lives(spec: DrumTrain, site: Site) -> tuple[tuple[str, float], ...]:
    """Living surface in m² by drum; brushes and settling count for nothing."""
    found = []
    for k, drum in enumerate(spec.drums):
        if drum.holds_media:
            found.append((drum_id(spec, k), living(spec, drum, site)))
        elif drum.role == "foam":
            found.append((drum_id(spec, k), foam_surface(drum.ppi) * drum.foam * drum.area))
    return tuple(found)


def surface(spec: DrumTrain, site: Site) -> float:
    """All living surface, m²."""
    return sum((m2 for _, m2 in lives(spec, site)), 0.0)


def grow(spec: DrumTrain, site: Site, factor: float) -> Edit | None:
    """More media in the drums that hold some, to two thirds of their height over the grid."""
    path = spec.path
    changes = []
    own = sum(living(spec, d, site) for d in spec.drums if d.holds_media)
    if own <= 0:
        return None
    factor = 1 + (factor - 1) * surface(spec, site) / own  # the foam stays as it is
    for k, drum in enumerate(spec.drums):
        if drum.holds_media:
            most = 0.66 * drum.area * (drum.outlet - drum.grid)
            if drum.media * factor > most:
                return None
            changes.append(Change((*path, "drums", k, "media"), round(drum.media * factor + 5e-4, 3)))
    return Edit("Add media to the drums", tuple(changes)) if changes else None


def flush_of(spec: DrumTrain, k: int, level: float, site: Site) -> tuple[float, float]:
    """Litres (m³) and time in s of one flush of a drum, from half its depth of fall on the mean."""
    drum = spec.drums[k]
    depth = max(level - spec.stand, 0.0)
    volume = drum.flush * drum.area * depth
    size = pipe_size(spec.flush_pipe)
    flow, _ = full_siphon(
        max(depth * (1 - drum.flush / 2), 0.02), Pipe(size.bore, spec.flush_run, 3.0, size.roughness, site.water)
    )
    return volume, volume / flow if flow > 0 else 0.0


def _flanges(spec: DrumTrain, site: Site, path: Path) -> list[Finding]:
    """The flange that stands furthest off its curved wall, and the drums that have such."""
    if spec.seal != "bulkhead":
        return []
    holes: list[tuple[int, Bulkhead]] = []
    for k in range(len(spec.drums) - 1):
        size = site.shop.fitting_for(spec.drums[k].pipe)
        holes += [(k, size), (k + 1, size)]
    if spec.drain.way != "pump":
        holes.append((len(spec.drums) - 1, site.shop.fitting_for(spec.drain.pipe)))
    short = {
        k: (largest_flange(spec.drums[k].diameter, b.gasket, spec.soft) - b.flange, b)
        for k, b in holes
        if b.flange > largest_flange(spec.drums[k].diameter, b.gasket, spec.soft)
    }
    if not short:
        return []
    worst, (margin, size) = min(short.items(), key=lambda item: item[1][0])
    numbers = sorted(k + 1 for k in short)
    which = (
        f"Drum {numbers[0]}" if len(numbers) == 1 else f"Drums {', '.join(map(str, numbers[:-1]))} and {numbers[-1]}"
    )
    falls = stands_off(spec.drums[worst].diameter, size.flange, spec.soft)
    return [
        Finding(
            "flange-curve",
            Rank.FIX,
            f"{which}: a flange of {{flange:length}} stands {{falls:fine_length}} off its curved wall.",
            "A third of the gasket takes up that much and no more. Take rubber seals for pipe, a narrower bulkhead, or"
            " a wider drum; the gasket goes on the outside of a curved wall, where it seats.",
            spec.id,
            {"flange": size.flange, "falls": falls},
            "Take rubber seals",
            Edit("Take rubber seals", (Change((*path, "seal"), "grommet"),)),
            margin,
        )
    ]


def shared(spec: DrumTrain, site: Site, study: Study) -> Iterable[Finding]:
    """What its pipes and its flanges say."""
    solution, path = study.running, spec.path
    cells = [drum_id(spec, k) for k in range(len(spec.drums))]
    yield from [*judge_lines(spec, site, solution, path, cells), *_flanges(spec, site, path)]


def each_drum(spec: DrumTrain, site: Site, study: Study) -> Iterable[Finding]:
    """Each drum by itself, one after the other."""
    solution = study.running
    flow = flow_in(spec, solution)
    for k, drum in enumerate(spec.drums):
        path: Path = (*spec.path, "drums", k)
        deep = solution.level[drum_id(spec, k)] - spec.stand
        if drum.holds_media:
            yield from _screen(spec, drum, k, path, site.medium(drum.medium))
        if k + 1 < len(spec.drums):
            yield from _way_on(spec, drum, k, path, deep)
        if drum.role == "settle" and flow > 0:
            yield from _settles(spec, drum, k, flow / drum.area, site)
        if drum.role == "moving" and drum.media > 0:
            yield from _fill(spec, drum, k, path, deep, FILL[site.ruled(spec).fill])
        if drum.holds_media:
            yield from _weight(spec, drum, k, site)


def _screen(spec: DrumTrain, drum: Drum, k: int, path: Path, stuff: Medium) -> Iterable[Finding]:
    """A screen that its media passes, or none."""
    better = round(0.6 * stuff.size, 4)
    if drum.mesh > 0.8 * stuff.size:
        yield Finding(
            "mesh-wide",
            Rank.FIX,
            f"Drum {k + 1}: a screen of {{mesh:fine_length}} lets media of {{size:fine_length}} through.",
            "Holes and screens clearly smaller than the media.",
            spec.id,
            {"mesh": drum.mesh, "size": stuff.size},
            "Finer screen",
            Edit("Finer screen", (Change((*path, "mesh"), better),)),
        )
    elif drum.mesh <= 0:
        yield Finding(
            "no-screen",
            Rank.FIX,
            f"Drum {k + 1} has no screen over its way out.",
            "Media wanders into pipes and pumps.",
            spec.id,
            {},
            "Give it a screen",
            Edit("Give it a screen", (Change((*path, "mesh"), better),)),
        )


def _way_on(spec: DrumTrain, drum: Drum, k: int, path: Path, deep: float) -> Iterable[Finding]:
    """A bulkhead that is not under water; deep m is the water in its drum."""
    bore = pipe_size(drum.pipe).bore
    if drum.outlet > deep - bore / 2:
        yield Finding(
            "bulkhead-dry",
            Rank.CONSIDER,
            f"The bulkhead out of drum {k + 1} is not fully under water.",
            "Part-full it carries less and gulps. Set it lower, or raise the water.",
            spec.id,
            {},
            "Lower bulkhead",
            Edit("Lower bulkhead", (Change((*path, "outlet"), round(max(deep - bore, 0.05), 2)),)),
        )


def _settles(spec: DrumTrain, drum: Drum, k: int, rate: float, site: Site) -> Iterable[Finding]:
    """Water that rises faster than dirt falls; rate is in m/s."""
    fall = fall_speed(PARTICLE, DIRT, site.water)
    if rate > fall:
        yield Finding(
            "settles-little",
            Rank.CONSIDER,
            f"Drum {k + 1} settles {{share:fraction}} of dirt of {{0.0001:fine_length}}: water rises at"
            " {rate:slow_speed}.",
            "A wider drum, or two side by side, keeps more; what it does not keep clogs the next drum.",
            spec.id,
            {"share": fall / rate, "rate": rate},
        )


def _fill(spec: DrumTrain, drum: Drum, k: int, path: Path, deep: float, wanted: float) -> Iterable[Finding]:
    """A bed fuller than its school turns."""
    share = drum.media / (drum.area * max(deep, 1e-6))
    if share > wanted + 0.03:
        yield Finding(
            "bed-full",
            Rank.CONSIDER,
            f"Drum {k + 1} is {{share:fraction}} full of carriers.",
            "Fuller beds hold more and turn less.",
            spec.id,
            {"share": share},
            "Take carriers out",
            Edit("Take carriers out", (Change((*path, "media"), round(drum.media * wanted / share, 3)),)),
        )


def _weight(spec: DrumTrain, drum: Drum, k: int, site: Site) -> Iterable[Finding]:
    """Media that two people do not lift."""
    wet = drum.media * site.medium(drum.medium).wet_density()
    if wet > 2 * site.space.lift:
        yield Finding(
            "media-heavy",
            Rank.CONSIDER,
            f"Wet, the media in drum {k + 1} weighs {{mass:mass}}.",
            f"Hold it in {-(-wet // site.space.lift):.0f} bags that one person lifts.",
            spec.id,
            {"mass": wet},
        )


def drum_order(spec: DrumTrain, site: Site, study: Study) -> Iterable[Finding]:
    """A finer drum before a coarser one."""
    path = spec.path
    coarse = {"settle": 0.0, "brush": 1.0, "foam": 2.0}
    at = [k for k, d in enumerate(spec.drums) if d.role in coarse]
    grade = {
        k: coarse[spec.drums[k].role] + (spec.drums[k].ppi / 100 if spec.drums[k].role == "foam" else 0.0) for k in at
    }
    wanted = sorted(at, key=lambda k: grade[k])
    if [grade[k] for k in at] != [grade[k] for k in wanted]:
        drums = list(spec.drums)
        for k, other in zip(at, wanted, strict=True):  # bulkheads stay where they are
            stays = spec.drums[k]
            drums[k] = spec.drums[other].model_copy(
                update={"outlet": stays.outlet, "pipe": stays.pipe, "count": stays.count}
            )
        yield Finding(
            "drum-order",
            Rank.FIX,
            "A finer drum stands before a coarser one.",
            "Coarse before fine, along the water.",
            spec.id,
            {},
            "Put coarse first",
            Edit("Put coarse drums first", (Change((*path, "drums"), tuple(drums)),)),
        )


judge = judged_by(shared, each_drum, drum_order)
