"""An overflow's two rows and cards: the weir, and the drains."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.base import Basin, Change, Choice, Edit, Path, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.options import chamber_choice, pipe_options
from fuente.devices.overflow.modes import DrainState, capacity, covered_rise, states
from fuente.devices.overflow.network import cell_id, weir_id
from fuente.devices.overflow.schools import drains_for
from fuente.devices.overflow.spec import ROLE_NAMES, DrainRole, Overflow
from fuente.devices.site import Site
from fuente.network.model import Solution

SCHOOLS = (
    (("open",), "one vented open channel"),
    (("siphon", "emergency"), "siphon + dry emergency"),
    (("siphon", "open", "emergency"), "siphon + open + dry"),
)
_OWN = "own arrangement"


def card(overflow: Overflow, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """Weir and drains."""
    tank, path = site.tank, overflow.path
    return _weir(overflow, tank, solution, path), _drains(overflow, site, solution, path)


def _weir(overflow: Overflow, tank: Basin, solution: Solution, path: Path) -> Station:
    crest = tank.floor + overflow.crest
    head = solution.level[tank.id] - crest
    room = tank.rim - crest

    def choice(
        field: str, label: str, quantity: str = "length", step: float | None = None, fold: bool = False
    ) -> Choice:
        return Choice((*path, field), label, quantity, getattr(overflow, field), step=step, fold=fold)

    return Station(
        overflow.id,
        "Overflow weir",
        "{head:level} over {free:length} of teeth" if overflow.teeth else "{head:level} over {free:length}",
        {"head": max(head, 0.0), "free": overflow.free_weir},
        used=max(0.0, min(1.0, head / room)),
        glyph="weir",
        cells=(tank.id, cell_id(overflow)),
        big=(
            Reading("over the crest", max(head, 0.0), "level"),
            Reading("from crest to rim", room, "level"),
        ),
        choices=(
            choice("crest", "Crest above the tank's floor", step=0.001),
            choice("weir", "Weir length"),
            choice("teeth", "Taken by teeth", "fraction", 0.05),
            choice("screen", "Taken by a plant screen", "fraction", 0.05, fold=not overflow.screen),
            *((choice("screen_opening", "Screen openings", "fine_length"),) if overflow.screen else ()),
            choice("box_length", "Box along the tank"),
            choice("box_width", "Box across the tank"),
            Choice((*path, "side"), "End of the tank", "choice", overflow.side, (("left", "left"), ("right", "right"))),
            choice("wall", "Box wall", step=0.001, fold=True),
        ),
        readings=(
            Reading("Free weir", overflow.free_weir, "length", "Weir length less its teeth and its screen."),
            *_covered(overflow, max(head, 0.0), room),
            Reading(
                "Flow over it", solution.flow[weir_id(overflow)], "flow", "What the pump returns comes over the weir."
            ),
            Reading(
                "Falls into the box",
                max(solution.level[tank.id] - solution.level[cell_id(overflow)], 0.0),
                "length",
                "From the tank's water to the box's; a long fall is heard.",
            ),
        ),
        why=Reading(
            "Why this head",
            head,
            "length",
            "The flow goes over the free length of the crest: flow = ⅔·√(2g)·C·length·head^1.5, with C near 0.6 by the "
            "crest's height. A longer weir or fewer teeth make a thinner sheet.",
            "Kindsvater and Carter 1957",
            "±2 % above {0.03:length}, ±10 % in a thin sheet",
        ),
    )


def _covered(overflow: Overflow, head: float, room: float) -> tuple[Reading, ...]:
    """What plants before the screen do to the tank."""
    if not overflow.screen:
        return ()
    rise = covered_rise(overflow, head)
    why = f"Plants over half of the screen leave half of the crest: the water stands {{{rise:g}:level}} higher."
    return (Reading("Left with the screen half covered", room - head - rise, "level", why),)


def _drains(overflow: Overflow, site: Site, solution: Solution, path: Path) -> Station:
    tank, margin = site.tank, site.space.margin
    runs = states(overflow, solution)
    flow = sum(s.flow for s in runs)
    emergency = [i for i, d in enumerate(overflow.drains) if d.role == "emergency"]
    safe = emergency or list(range(len(overflow.drains)))
    most = sum(capacity(overflow, i, solution, tank.rim - margin) for i in safe)
    noise = "quiet" if all(s.quiet for s in runs) else "gulps" if any(s.mode == "gulping" for s in runs) else "heard"
    rule = next((name for key, name in SCHOOLS if key == _roles(overflow)), _OWN)
    main = max(runs, key=lambda s: s.flow)
    return Station(
        f"{overflow.id}.drains",
        {1: "Drain", 2: "Drains, two pipes", 3: "Drains, three pipes"}.get(len(runs), f"Drains, {len(runs)} pipes"),
        "{flow:flow} of {most:flow}, " + noise,
        {"flow": flow, "most": most},
        used=min(1.0, flow / most) if most > 0 else 1.0,
        note=rule,
        glyph="standpipe",
        cells=(cell_id(overflow),),
        big=(
            Reading(f"now, mostly {main.mode}", flow, "flow"),
            Reading("emergency alone" if emergency else "at most", most, "flow"),
        ),
        choices=tuple(_drain_choices(overflow, site, path)),
        readings=(
            *(_drain_reading(s) for s in runs),
            Reading("Speed in the fullest", main.speed, "speed", "Flow by the pipe's cross-section."),
        ),
        why=_why(most, emergency),
    )


def _roles(overflow: Overflow) -> tuple[str, ...]:
    return tuple(d.role for d in overflow.drains)


def _drain_choices(overflow: Overflow, site: Site, path: Path) -> list[Choice]:
    """Which pipes there are, and each pipe's own."""

    def by_rule(chosen: tuple[DrainRole, ...]) -> Edit:
        return Edit("Change drain rule", (Change((*path, "drains"), drains_for(overflow, chosen)),))

    roles, options = _roles(overflow), pipe_options()
    rules = SCHOOLS if roles in dict(SCHOOLS) else ((roles, _OWN), *SCHOOLS)
    choices = [Choice((*path, "drains"), "Drain rule", "choice", roles, rules, make=by_rule)]
    for i, drain in enumerate(overflow.drains):
        name = ROLE_NAMES[drain.role]
        where = (*path, "drains", i)
        choices.append(Choice((*where, "pipe"), f"{name} pipe", "choice", drain.pipe, options))
        choices.append(Choice((*where, "mouth"), f"{name} mouth above floor", "length", drain.mouth, step=0.002))
        if drain.valve is not None:
            choices.append(Choice((*where, "valve"), f"{name} valve open", "fraction", drain.valve, step=0.01))
        choices.append(Choice((*where, "run"), f"{name} sideways run", "length", drain.run, fold=True))
        choices.append(Choice((*where, "fittings"), f"{name} fittings", "fittings", drain.fittings, fold=True))
        if drain.role == "open":
            choices.append(Choice((*where, "vent"), f"{name} vent covered at", "length", drain.vent, fold=True))
    choices.append(Choice((*path, "release"), "Pipes end above sump floor", "length", overflow.release, fold=True))
    choices += chamber_choice(path, site, overflow.into, overflow.chamber, "Pipes end in", "the first chamber")
    return choices


def _drain_reading(s: DrainState) -> Reading:
    """What runs through a drain and how, or how it stands."""
    still = s.flow < 1e-8
    return Reading(
        ROLE_NAMES[s.drain.role],
        s.mode if still else s.flow,
        "" if still else "flow",
        f"Runs as: {s.mode}. Bore {{{pipe_size(s.drain.pipe).bore:g}:fine_length}}, {{{s.speed:g}:speed}}. "
        f"As an open channel it would carry {{{s.open_capacity:g}:flow}}; half of that is quiet.",
        "Wyly and Eaton 1961; energy from level to level",
        "±15 %, gulping ±30 %",
    )


def _why(most: float, emergency: list[int]) -> Reading:
    """What its drains carry."""
    return Reading(
        "Why this much",
        most,
        "flow",
        (
            "The emergency pipe alone, with the box filled to your margin under the tank's rim"
            if emergency
            else "All pipes with the box filled to your margin under the tank's rim"
        )
        + ": the fall pays for entrance, pipe, bends and exit once the mouth is drowned; before that the mouth"
        " itself is the limit, first as a round weir, then as an orifice.",
        "energy from level to level; Darcy–Weisbach",
        "±15 %",
    )
