"""The build, step by step, from the parts of every device: what to do, what to look at, how long it cures."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from fuente.catalogue import bulkhead_for, pipe_size
from fuente.devices import kind_of
from fuente.devices.contract import Device
from fuente.devices.pieces import (
    ELECTRIC,
    PLUMBER,
    Face,
    Fixing,
    Hole,
    Joint,
    Medium,
    Note,
    Pad,
    Panel,
    Parts,
    Shelf,
    Thing,
    note,
)
from fuente.devices.shop import Shop
from fuente.study.analysis import Analysis
from fuente.workshop.bill import alike, made_of
from fuente.workshop.joints import beads, cartridges, cure_of
from fuente.workshop.piping import CutPiece, Run, name_of, runs_of

HOUR, DAY = 3600.0, 86400.0
HEAVY = 20.0  # kg: two people
SMALL = 0.012  # m: holes that a drill makes

# Cautions, each worded once; steps name theirs.
GLASS = "Glass cutting and drilling: goggles, gloves, water on the bit. Tempered glass shatters when drilled."
GLUE = "Silicone, primer and solvent cement: ventilation, gloves, no flame."
LIFT = "Lifting: glass, wet media, full vessels; two people for what is more than you lift alone."
FLOOD = "Water where it must not be: outdoors or over a tray, and stay by it. Nothing plugged in while it fills."
FLOOR = "Load: a full system can exceed a floor's rating; ask a structural engineer."
BITE = "Hot and turning tools: clamp the work, sleeves tight, both hands behind the bit."


@dataclass(frozen=True)
class Step:
    """One step: what it is about, what to do, what to check; minutes of work (typical, ±50 %), hands and tools; how
    long to wait afterwards, s, and for what; ``after`` are steps that must be done, and waited for, before it.
    """

    id: str
    body: str
    title: Note
    act: tuple[Note, ...]
    check: Note
    minutes: float
    hands: int = 1
    tools: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    wait: float = 0.0
    waits_for: str = ""
    after: tuple[str, ...] = ()
    shows: str = ""  # id of the piece, nest or run to draw beside it


def steps(analysis: Analysis) -> tuple[Step, ...]:
    """All steps of a design, in the order of the work: each body built and tested dry and wet, then joined, loaded,
    filled and started. Bodies that are made alike share their steps.
    """
    shop, lift = analysis.system.shop, analysis.system.space.lift
    homes = {t.id for t in analysis.system.tanks}
    bodies: list[Step] = []
    tests: list[Step] = []
    loading: list[Step] = []
    titled = [(title_of(device), parts) for device, parts in made_of(analysis)]
    for (owner, title, parts), times in _alike_together(analysis):
        whole = [*_drilled(owner, title, parts, homes), *_box(owner, title, parts, shop, lift)]
        whole += _fitted(owner, title, parts)
        wet = _wet_test(owner, title, parts)
        bodies += _chained(_times(step, times) for step in whole)
        if wet is not None:
            tests.append(replace(_times(wet, times), after=tuple(s.id for s in whole)))
        loading += [_times(step, times) for step in _loaded(owner, title, parts, lift)]
    pipes = _chained(_plumbed(runs_of(titled, shop), shop))
    tested = tuple(s.id for s in (tests or bodies))
    joined = tuple(s.id for s in pipes[-1:])
    loading = [replace(s, after=(*tested, *joined)) for s in loading]
    ready = (*tested, *joined, *(s.id for s in loading))
    last = _chained([*_filled(analysis), *_first(analysis), _watched()], ready)
    return (*bodies, *tests, *pipes, *loading, *last)


def title_of(device: Device) -> str:
    """A device by its name; by its kind where it has none of its own."""
    return kind_of(device).name if "“" in device.title else device.title


def _alike_together(analysis: Analysis) -> list[tuple[tuple[str, str, Parts], int]]:
    """Every device's parts in build order; of those that are made alike the first, and how many there are."""
    found: dict[object, tuple[tuple[str, str, Parts], int]] = {}
    for device, parts in made_of(analysis):
        key = (device.kind, tuple(alike(p) for p in parts.pieces))
        if key in found:
            (owner, _, first), times = found[key]
            found[key] = (owner, kind_of(device).name, first), times + 1
        else:
            found[key] = (device.id, title_of(device), parts), 1
    return list(found.values())


def _times(step: Step, times: int) -> Step:
    """The same for so many bodies."""
    return step if times == 1 else replace(step, body=f"{times} × {step.body}", minutes=step.minutes * times)


def _chained(row: Iterable[Step], first: tuple[str, ...] = ()) -> list[Step]:
    """Each after the one before it."""
    found: list[Step] = []
    for step in row:
        found.append(replace(step, after=(found[-1].id,) if found else first))
    return found


def _once(notes: Iterable[Note]) -> tuple[Note, ...]:
    """Each remark once."""
    found: list[Note] = []
    for each in notes:
        if each not in found:
            found.append(each)
    return tuple(found)


# -- a body -------------------------------------------------------------------------------------------------------


def _drilled(owner: str, title: str, parts: Parts, homes: set[str]) -> Iterator[Step]:
    """Holes in what is bought whole and in panels, before anything is joined."""
    for piece in parts.pieces:
        if isinstance(piece, Panel) and piece.holes:
            yield _holes(f"{owner}:drill:{piece.id}", title, piece.name, piece.holes, piece.material, piece.id)
    groups: dict[tuple[str, float], list[Hole]] = {}
    for piece in parts.pieces:
        if isinstance(piece, Hole):
            groups.setdefault((piece.name, round(piece.diameter, 4)), []).append(piece)
    for (name, _), holes in groups.items():
        material = "glass" if holes[0].body in homes else "plastic"
        yield _holes(f"{owner}:drill:{holes[0].id}", title, name, tuple(holes), material, holes[0].id)


def _holes(key: str, title: str, name: str, holes: tuple[Hole, ...], material: str, shows: str) -> Step:
    count, hole, glass = sum(h.count for h in holes), holes[0], material == "glass"
    small = 0 < hole.diameter < SMALL
    act = [Note("Lay the template on, or mark the middles from two edges; mark the wet side")]
    if hole.diameter:
        each = "hole" if count == 1 else "holes"
        act.append(note(f"{count} {each} of {{d:length}}, {_way(glass, small)}", d=hole.diameter))
    for at in holes:
        if at.x is not None and at.y is not None:
            up = "from the back" if at.face is Face.FLOOR else "up"
            act.append(note(f"middle {{x:length}} from the left, {{y:length}} {up}", x=at.x, y=at.y))
    return Step(
        key,
        title,
        Note(f"Drill {_plain(name, title)}"),
        _once([*act, *hole.notes]),
        Note("what goes through passes; its flange or ring lies flat all round"),
        6.0 + (15.0 if glass else 0.5 if small else 6.0) * count,
        2 if glass else 1,
        ("template", "diamond hole saw" if glass else "drill" if small else "hole saw", "water" if glass else "clamps"),
        (GLASS,) if glass else (BITE,),
        shows=shows,
    )


def _plain(name: str, title: str) -> str:
    """What is drilled, without whose it is, which stands over it."""
    own = name.removeprefix(f"{title}: ").removesuffix(", drilled")
    return own[:1].lower() + own[1:]


def _way(glass: bool, small: bool) -> str:
    if glass:
        return "slowly and under water, from both faces where you can reach both"
    return "deburred" if small else "slowly, from both faces where you can reach both, then deburred"


def _box(owner: str, title: str, parts: Parts, shop: Shop, lift: float) -> list[Step]:
    """A box of panels: cleaned, dry-fitted, its shell glued, then what stands in it."""
    panels = [p for p in parts.panels if p.body]
    shell = [p for p in panels if p.faces]
    inner = [p for p in panels if not p.faces and p.bonded]
    loose = [p for p in panels if not p.faces and not p.bonded]
    if not panels:
        return []
    heavy = max(p.mass for p in panels)
    hands = 2 if heavy > min(lift, HEAVY) or shell else 1
    count = sum(p.count for p in panels)
    found = [
        Step(
            f"{owner}:clean",
            title,
            Note("Check and clean the panels"),
            (
                note(f"Measure all {count} panels against the list, and their edges by a straight edge"),
                note("Wipe every edge that is glued with alcohol on a fresh cloth; touch none of them again"),
            ),
            note("sizes within 1 mm, edges ground, no chip at a glued edge"),
            5 + 3.0 * count,
            1,
            ("tape measure", "alcohol", "lint-free cloth", "gloves"),
            (GLUE, LIFT) if heavy > lift else (GLUE,),
        )
    ]
    if shell:
        found += _shell_steps(owner, title, shell, shop, hands)
    if inner:
        found += _inner_steps(owner, title, inner, shop, bool(shell))
    if loose:
        found.append(
            Step(
                f"{owner}:ledges",
                title,
                Note("Lay in what comes out again"),
                tuple(Note(_rests(p)) for p in loose),
                note("lifts out with one hand and does not rock"),
                10.0 * len(loose),
                shows=loose[0].id,
            )
        )
    return found


def _rests(panel: Panel) -> str:
    return f"{panel.name} on its ledges, a finger's hole or a knob to lift it by"


def _shell_steps(owner: str, title: str, shell: list[Panel], shop: Shop, hands: int) -> list[Step]:
    by = {face: p for p in shell for face in p.faces}
    order = [f for f in (Face.FLOOR, Face.BACK, Face.LEFT, Face.RIGHT, Face.FRONT) if f in by]
    acrylic = all(p.material == "acrylic" for p in shell)
    across = _diagonal(by)
    found = [
        Step(
            f"{owner}:dry",
            title,
            Note("Dry-fit the box"),
            (
                Note(
                    "Stand it up with tape alone, in the order of gluing: "
                    + ", ".join(f.value for f in order if f is not Face.FLOOR)
                    + (" on the bottom" if shop.walls == "on" else ", then the bottom between them")
                ),
                note("Put tape along both sides of every seam, a bead's width away"),
            ),
            note("both diagonals of the rim {d:length}, within 1 mm of each other", d=across),
            25,
            hands,
            ("masking tape", "square", "tape measure", "spacers"),
            (LIFT,),
            shows=f"plan.{owner}",
        )
    ]
    total = beads(shell, shop)
    volume = sum(b.volume for b in total)
    length = sum(b.length for b in total)
    what = "solvent cement along every edge, from a needle" if acrylic else "a bead of {g:fine_length} on every edge"
    act = [note(f"In one go, {what}: {{l:run}} in all, {_cartridges(volume, shop)}", g=shop.glue * 3, l=length)]
    for face in order:
        words = {
            Face.FLOOR: "the bottom, flat on its foam or board",
            Face.BACK: "the back; tape holds it upright",
            Face.LEFT: "the left end, against the back",
            Face.RIGHT: "the right end, against the back",
            Face.FRONT: "the front last, with the second pair of hands",
        }[face]
        act.append(Note(f"Set {words}"))
    act.append(note("Press until the glue is {g:fine_length} thick everywhere, tape at three heights", g=shop.glue))
    found.append(
        Step(
            f"{owner}:shell",
            title,
            Note("Glue the shell"),
            tuple(act),
            note("diagonals {d:length} again, walls square to the bottom, no gap in any seam", d=across),
            15 + 6.0 * len(order),
            max(hands, 2),
            ("caulking gun", "silicone without mould-stop", "tape", "square"),
            (GLUE, LIFT),
            shows=shell[0].id,
        )
    )
    found.append(
        Step(
            f"{owner}:fillet",
            title,
            Note("Draw the inner fillet"),
            (
                note(
                    "A bead of {b:fine_length} along every inner corner, drawn in one go; tape off while it is wet",
                    b=shop.bead,
                ),
                note("Leave it where it stands; do not lean on it"),
            ),
            note("one smooth bead without a bubble or a step"),
            20,
            1,
            ("caulking gun", "fillet tool", "tape"),
            (GLUE,),
            cure_of(shell, shop),
            "the shell's beads to cure",
            shows=f"plan.{owner}",
        )
    )
    return found


def _cartridges(volume: float, shop: Shop) -> str:
    count = cartridges(volume, shop)
    return f"{count} cartridge{'s' if count > 1 else ''}"


def _diagonal(by: dict[Face, Panel]) -> float:
    """Of the rim, m, over the outer edges."""
    xs = [(p.x, p.x + _span(panel, p.lies, "x")) for panel in by.values() for p in panel.places]
    ys = [(p.y, p.y + _span(panel, p.lies, "y")) for panel in by.values() for p in panel.places]
    return math.hypot(max(b for _, b in xs) - min(a for a, _ in xs), max(b for _, b in ys) - min(a for a, _ in ys))


def _span(panel: Panel, lies: str, axis: str) -> float:
    if axis not in lies:
        return panel.thickness
    return panel.length if lies.index(axis) == 0 else panel.width


def _inner_steps(owner: str, title: str, inner: list[Panel], shop: Shop, in_shell: bool) -> list[Step]:
    marks = []
    for p in (p for p in inner if p.bonded > 1):  # a comb lies on its baffle
        for place in p.places:
            along = place.x if place.lies == "yz" else place.y
            marks.append(note(p.name + ": {x:length} from the left outer face, {z:length} up", x=along, z=place.z))
    volume = sum(b.volume for b in beads(inner, shop))
    found = [
        Step(
            f"{owner}:mark",
            title,
            Note("Mark where the inner panels stand"),
            tuple(marks),
            note(
                "marks on both long walls at one height and distance; each panel slides in with {c:fine_length} at"
                " each side",
                c=shop.clearance,
            ),
            5 + 3.0 * len(inner),
            1,
            ("tape measure", "grease pencil", "square"),
            shows=f"plan.{owner}",
        ),
        Step(
            f"{owner}:baffles",
            title,
            Note("Glue what stands inside"),
            (
                note(f"Along the water, each on its spacers, beaded on both sides: {_cartridges(volume, shop)} in all"),
                *(Note(_foot(p)) for p in inner),
            ),
            note("upright by the square, crest level from wall to wall, spacers come out without pull"),
            8.0 * len(inner) + 10,
            2,
            ("caulking gun", "spacers", "square", "tape"),
            (GLUE,),
            cure_of(inner, shop) + shop.before_water,
            "all beads to cure, then to stand dry before water",
            shows=inner[0].id,
        ),
    ]
    return found


def _foot(panel: Panel) -> str:
    if panel.bonded == 1:
        return f"{panel.name}: flat on it"
    return f"{panel.name}: " + ("foot and both sides" if panel.bonded >= 3 else "both sides, its foot stays open")


def _fitted(owner: str, title: str, parts: Parts) -> list[Step]:
    """Bulkheads and seals."""
    joints = [p for p in parts.pieces if isinstance(p, Joint)]
    if not joints:
        return []
    count = sum(j.count for j in joints)
    rubber = any(j.fixing is Fixing.SEAL for j in joints)
    curved = any(isinstance(p, Thing) and p.diameter and p.shelf is Shelf.EQUIPMENT for p in parts.pieces)
    side = "outside, where the curved wall lets it seat" if curved else "on the wet side, where water presses it on"
    act = [Note(f"Gasket {side}; no silicone between gasket and wall")]
    if rubber:
        act.append(Note("Rubber seals: wet the pipe, push and turn; deburr it first"))
    act += [note("Hand-tight and a quarter turn; hold the body, turn the nut"), *(_sized(j) for j in joints)]
    return [
        Step(
            f"{owner}:bulkheads",
            title,
            Note(f"Fit {count} bulkhead{'s' if count > 1 else ''}" if not rubber else f"Fit {count} seals"),
            _once(act),
            note("the gasket shows evenly all round and does not turn with the nut"),
            6.0 * count,
            2,
            ("wrench or strap", "clean cloth"),
            shows=joints[0].id,
        )
    ]


def _sized(joint: Joint) -> Note:
    """Which size a bulkhead is, and what for."""
    size = (joint.fit or bulkhead_for(pipe_size(joint.pipe))).size
    what = next((n for n in joint.notes), Note())
    return replace(what, text=f"{size}: {what.text}" if what.text else size)


def _wet_test(owner: str, title: str, parts: Parts) -> Step | None:
    """Water into what was drilled or glued, chamber by chamber."""
    shell = any(p.faces for p in parts.panels)
    if not shell and not any(isinstance(p, Joint) for p in parts.pieces):
        return None
    chambers = 1 + sum(p.count for p in parts.panels if not p.faces and p.bonded >= 3)
    act = [note("Outdoors or over a tray, level, plugs in every bulkhead, dry paper under every seam")]
    if shell and chambers > 1:
        act.append(Note(f"Fill one of the {chambers} chambers to its crest, wait an hour, then the next"))
    act.append(note("Then to the rim, and a day outside on dry paper"))
    return Step(
        f"{owner}:leak",
        title,
        Note("Leak test"),
        tuple(act),
        note("paper dry after a day; no baffle bows or creaks; no neighbour fills by more than a trickle"),
        45,
        1,
        ("hose", "tray or lawn", "dry paper"),
        (FLOOD, LIFT),
        DAY,
        "a day with water in it",
    )


def _loaded(owner: str, title: str, parts: Parts, lift: float) -> list[Step]:
    """Rinsed media, pads, equipment without power."""
    soft = [p for p in parts.pieces if isinstance(p, Medium | Pad)]
    things = [p for p in parts.pieces if isinstance(p, Thing) and p.shelf is Shelf.EQUIPMENT]
    wired = ELECTRIC in parts.cautions or any(p.about.values for p in things)
    found = []
    if soft:
        act = [Note("Rinse everything in tap water now, in old tank water from the first fish on")]
        for piece in soft:
            if isinstance(piece, Medium):
                words = f"{piece.name}, {{v:volume}}" + (f", in {piece.bags} bags" if piece.bags else "")
                act.append(note(words, v=piece.bulk))
            else:
                pores = f", {piece.ppi:g} ppi" if piece.ppi else ""
                act.append(Note(f"{piece.form}{pores}, {piece.count} of it"))
        weight = sum(p.wet or 0.0 for p in soft if isinstance(p, Medium))
        found.append(
            Step(
                f"{owner}:media",
                title,
                Note("Rinse and load pads and media"),
                _once(act),
                note("coarse before fine along the water; no gap at an edge that water can take"),
                10 + 4.0 * len(soft),
                2 if weight > lift else 1,
                ("bucket", "scissors or long knife"),
                (LIFT,) if weight > lift else (),
                shows=soft[0].id,
            )
        )
    if things:
        found.append(
            Step(
                f"{owner}:things",
                title,
                Note("Set equipment, nothing plugged in" if wired else "Set what is bought whole"),
                _once(Note(f"{p.name}{f' × {p.count}' if p.count > 1 else ''}") for p in things),
                Note(
                    "every cable hangs in a drip loop lower than its socket; heaters stay under water when it drains"
                    if wired
                    else "it stands firm and level, and comes out again without tools"
                ),
                5.0 * len(things),
                1,
                (),
                (ELECTRIC,) if wired else (),
                shows=things[0].id,
            )
        )
    return found


# -- plumbing -----------------------------------------------------------------------------------------------------


def _plumbed(runs: tuple[Run, ...], shop: Shop) -> Iterator[Step]:
    if not runs:
        return
    for k, run in enumerate(runs):
        act = [note(f"Piece {p.number}: {{l:length}}{_between(p)}", l=p.length) for p in run.pieces]
        times = f", {run.count} of it" if run.count > 1 else ""
        yield Step(
            f"pipe:{run.owner}:dry",
            "Plumbing",
            note(f"Cut and dry-fit: {run.title}{times}, {{l:run}}", l=run.length),
            tuple(act),
            note("square cuts, deburred; it reaches without pull; a line across every joint to find it again"),
            (6.0 + 4.0 * len(run.pieces)) * run.count,
            1,
            ("pipe saw or cutter", "deburrer", "marker"),
            shows=f"run.{k}",
        )
    sockets = sum(r.sockets * r.count for r in runs)
    yield Step(
        "pipe:cement",
        "Plumbing",
        Note("Cement the pipes"),
        (
            Note(
                f"{sockets} sockets: primer on both, cement on both, push in and a quarter turn to the marks, hold half"
                " a minute"
            ),
            Note("Not the unions' faces, the valves' inner parts or what must come apart"),
        ),
        note("an even bead round every socket, marks meet"),
        5 + 2.0 * sockets,
        1,
        ("primer", "solvent cement", "cloth"),
        (GLUE, PLUMBER),
        shop.cement,
        "the cement to harden for pressure",
    )


def _between(piece: CutPiece) -> str:
    """What it joins, and what the drawing lacks for it."""
    ends = {piece.start.kind, piece.end.kind}
    words = "" if ends == {"end"} else f", {name_of(piece.start.kind)} to {name_of(piece.end.kind)}"
    return words + (" (too short for its sockets: give the run more room)" if piece.short > 0 else "")


# -- water --------------------------------------------------------------------------------------------------------


def _filled(analysis: Analysis) -> Iterator[Step]:
    marks = []
    network = analysis.network
    for cell, level in network.marks.items():
        floor = network.cell(cell).floor
        marks.append(note(f"{network.cell(cell).name}: " + "{h:length} over its floor", h=level - floor))
    yield Step(
        "all:fill",
        "Everything",
        Note("Fill and mark the levels"),
        (
            Note("Everything in its place, level and carried all over; every plug pulled"),
            note("Fill slowly where the water comes in, and look at every joint on the way"),
            *marks[:8],
        ),
        note("stand still for ten minutes: no level falls"),
        60,
        1,
        ("hose", "tape for marks"),
        (FLOOD, FLOOR),
    )


def _first(analysis: Analysis) -> Iterator[Step]:
    """What every kind wants when water first runs through it, the water's way."""
    found = []
    for device in analysis.ordered:
        kind = kind_of(device)
        for each in kind.commission(device, analysis.sites[device.id]) if kind.commission else ():
            found.append((title_of(device), each))
    for title, each in sorted(found, key=lambda pair: pair[1].turn):
        yield Step(
            f"{each.id}:first",
            title,
            Note(each.title),
            (each.act,),
            each.check,
            each.minutes,
            cautions=(ELECTRIC, FLOOD),
        )


def _watched() -> Step:
    return Step(
        "all:watch",
        "Everything",
        Note("Run it for a day and look"),
        (
            Note(
                "Wet test page: write down the level of each vessel, running and after a power cut, beside what was"
                " expected"
            ),
            Note("Then the water is ready for its start: Media & load has the plan"),
        ),
        note("measured levels within a finger of those expected; dry paper under everything"),
        20,
        1,
        ("paper", "tape measure"),
        (),
        DAY,
        "a day of running under your eyes",
    )
