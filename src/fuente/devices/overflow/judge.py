"""What Fuente would change of an overflow: its holes, its room, its drains while they run and when they are blocked."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.catalogue import PIPES, pipe_size, wider_pipe
from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.contract import Study
from fuente.devices.overflow.modes import covered_rise, state, states, trimmed_opening
from fuente.devices.overflow.network import cell_id
from fuente.devices.overflow.parts import glass_left
from fuente.devices.overflow.spec import Drain, Overflow
from fuente.devices.rules import judged_by
from fuente.devices.site import Site

SIPHON_SHARE = 0.94  # of the flow, when the valve is trimmed: the rest keeps the open channel awake
_TANK_MARGIN = 0.010  # m under a tank's rim with a drain blocked


def holes(overflow: Overflow, site: Site, study: Study) -> Iterable[Finding]:
    """Holes too near an edge of the floor panel or to each other."""
    tank = site.tank
    found: list[Finding] = []
    for i, drain in enumerate(overflow.drains):
        saw = site.shop.fitting_for(drain.pipe).saw
        edge, _ = glass_left(overflow, tank, i, site.shop)
        if edge < saw - 1e-9:
            found.append(
                Finding(
                    "hole-edge",
                    Rank.CONSIDER,
                    "A drain's hole leaves {edge:length} of glass to the edge; keep {saw:length}.",
                    "A hole's width of glass keeps a crack from running out. A longer box or a smaller fitting helps.",
                    f"{overflow.id}.drains",
                    {"edge": edge, "saw": saw},
                    margin=edge - saw,
                )
            )
            break
    return tuple(found)


def tank_full(over: Overflow, site: Site, study: Study) -> Iterable[Finding]:
    """Little room over the running water in the tank."""
    left = study.running.freeboard(over.tank)
    if 0 < left < 0.015:
        crest = round(over.crest - (0.02 - left), 4)
        yield Finding(
            "tank-full",
            Rank.FIX,
            "The tank runs {left:level} under its rim; waves and a blocked tooth take more.",
            "Keep {0.015:length} at least, {0.02:length} after this change.",
            over.id,
            {"left": left},
            "Lower crest",
            Edit("Lower overflow crest", (Change((*over.path, "crest"), crest),)),
            left - 0.015,
        )


def screen_covered(over: Overflow, site: Site, study: Study) -> Iterable[Finding]:
    """Drifting plants over half of the screen."""
    if not over.screen:
        return
    head = study.running.level[over.tank] - site.tank.floor - over.crest
    rise = covered_rise(over, head)
    left = study.running.freeboard(over.tank) - rise
    if left < _TANK_MARGIN - 1e-9:
        lower = round(over.crest - (_TANK_MARGIN + 0.002 - left), 3)
        yield Finding(
            "screen-covered",
            Rank.FIX,
            "Plants over half of the screen raise the tank by {rise:level}; {left:level} are left under its rim."
            if left >= 0
            else "Plants over half of the screen raise the tank by {rise:level}, {over:level} over its rim.",
            "The same flow over half of the crest is a sheet some 1.6 times as thick. A lower crest, a longer weir or"
            " wider openings help, and lifting the plants off every week.",
            over.id,
            {"rise": rise, "left": left, "over": -left},
            "Lower crest",
            Edit("Lower overflow crest", (Change((*over.path, "crest"), lower),)),
            left - _TANK_MARGIN,
        )


def drain_blocked(over: Overflow, site: Site, study: Study) -> Iterable[Finding]:
    """The pump goes on while the drain is shut."""
    blocked = study.situation("drain_blocked").numbers
    spilled, left = blocked["spilled"], blocked["left"]
    flow = study.through(study.running, site.end_of(over.into).id)
    values = {"spilled": spilled, "left": max(left, 0), "rise": blocked["rise"], "flow": flow}
    roles = [d.role for d in over.drains]
    emergency = roles.index("emergency") if "emergency" in roles else None
    owner = f"{over.id}.drains"
    if spilled > 1e-7:
        if emergency is not None:
            edit, action = _bigger_drain(over, emergency), "Widen emergency"
        else:
            edit, action = add_emergency(over, site, study), "Add emergency"
        yield Finding(
            "drain-blocked",
            Rank.STOP,
            "With the drain blocked the pump puts {spilled:volume} over the tank's rim.",
            "The pump keeps pumping. Either the tank can hold the whole pump chamber above its weir, or an emergency"
            " drain takes the full flow.",
            owner,
            values,
            action if edit else "",
            edit,
            left - _TANK_MARGIN,
        )
    elif left < _TANK_MARGIN and emergency is not None:
        edit = _bigger_drain(over, emergency)
        yield Finding(
            "drain-blocked",
            Rank.FIX,
            "With the drain blocked the tank rises to {left:level} under its rim before the emergency takes"
            " {flow:flow}.",
            "Leave {0.01:length} for waves.",
            owner,
            values,
            "Widen emergency" if edit else "",
            edit,
            left - _TANK_MARGIN,
        )
    if emergency is None and study.running.volume[site.tank.id] > 0.4 and spilled <= 1e-7:
        yield Finding(
            "no-emergency",
            Rank.CONSIDER,
            "There is no emergency drain; if the drain blocks the pump chamber runs dry.",
            "The tank can hold the water, but the pump then runs without. Above 400 L most builders add a dry pipe.",
            owner,
            values,
            "Add emergency",
            add_emergency(over, site, study),
        )


def emergency_wet(over: Overflow, site: Site, study: Study) -> Iterable[Finding]:
    """The emergency drain runs while all is well."""
    emergency = next((i for i, d in enumerate(over.drains) if d.role == "emergency"), None)
    if emergency is None:
        return
    wet = state(over, emergency, study.running).flow
    if wet > 1e-7:
        level = study.running.level[cell_id(over)] - site.tank.floor
        mouth = round(min(level + 0.012, over.crest - 0.002), 4)
        yield Finding(
            "emergency-wet",
            Rank.FIX,
            "The emergency drain carries {wet:flow} while all is well.",
            "Keep it dry and clear: once it gurgles, a main drain has failed.",
            f"{over.id}.drains",
            {"wet": wet},
            "Raise its mouth",
            Edit("Raise emergency mouth", (Change((*over.path, "drains", emergency, "mouth"), mouth),)),
            others=tuple(
                ("Widen main drain", wider)
                for wider in (_bigger_drain(over, k) for k, d in enumerate(over.drains) if d.role != "emergency")
                if wider is not None
            ),
        )


def _bigger_drain(over: Overflow, drain: int) -> Edit | None:
    now = pipe_size(over.drains[drain].pipe)
    larger = sorted(
        (
            p
            for p in PIPES.values()
            if p.family == now.family and p.bore > now.bore * 1.08 and _same_grade(p.id, now.id)
        ),
        key=lambda p: p.bore,
    )
    if not larger:
        return None
    path: Path = (*over.path, "drains", drain, "pipe")
    return Edit("Widen drain", (Change(path, larger[0].id),))


def _same_grade(a: str, b: str) -> bool:
    return a.rsplit("-", 1)[-1] == b.rsplit("-", 1)[-1]


def add_emergency(over: Overflow, site: Site, study: Study) -> Edit:
    """A dry pipe of the main drain's next size, a little over the running water in the box."""
    tank = site.tank
    widest = max(over.drains, key=lambda d: d.mouth)
    level = study.running.level[cell_id(over)] - tank.floor
    mouth = min(max(level + 0.012, widest.mouth + 0.02), over.crest - 0.005)
    dry = Drain(role="emergency", pipe=widest.pipe, mouth=round(mouth, 3), run=widest.run, fittings=widest.fittings)
    return Edit("Add emergency drain", (Change((*over.path, "drains"), (*over.drains, dry)),))


def drains(over: Overflow, site: Site, study: Study) -> Iterable[Finding]:
    """Quiet means a trimmed siphon, or an open channel under half of its limit."""
    quiet = site.space.quiet
    runs = states(over, study.running)
    total = sum(s.flow for s in runs)
    for k, s in enumerate(runs):
        if s.drain.role == "siphon":
            yield from _siphon(over, site, study, k, total, quiet)
        elif s.mode == "gulping" or (s.mode == "open" and s.flow > s.open_capacity):
            edit, action = _relief(over, study, k, total)
            yield Finding(
                "drain-gulps",
                Rank.FIX,
                "The open channel is asked for {flow:flow} and gulps; it runs open to {limit:flow}.",
                "Over 7/24 of its bore falling water traps air, which surges and is loud.",
                f"{over.id}.drains",
                {"flow": s.flow, "limit": s.open_capacity},
                action if edit else "",
                edit,
                s.open_capacity - s.flow,
            )
        elif s.mode == "open" and not s.quiet and quiet and s.drain.role == "open":
            edit, action = _relief(over, study, k, total)
            yield Finding(
                "drain-heard",
                Rank.FIX,
                "The open channel carries {flow:flow}; it is quiet up to {limit:flow}.",
                "Half of what it can carry open is quiet.",
                f"{over.id}.drains",
                {"flow": s.flow, "limit": s.open_capacity / 2},
                action if edit else "",
                edit,
                s.open_capacity / 2 - s.flow,
            )


def _trim(over: Overflow, study: Study, index: int, total: float) -> Edit | None:
    """The siphon's valve set so that it takes all but a trickle of the flow; None where it cannot."""
    opening = trimmed_opening(over, index, study.running, SIPHON_SHARE * total)
    if opening is None:
        return None
    path: Path = (*over.path, "drains", index, "valve")
    return Edit("Trim siphon valve", (Change(path, round(opening, 3)),))


def _relief(over: Overflow, study: Study, index: int, total: float) -> tuple[Edit | None, str]:
    """What takes load off an open channel: the siphon beside it, else a wider pipe."""
    drains_here = over.drains
    siphons = [k for k, d in enumerate(drains_here) if d.role == "siphon"]
    edit = _trim(over, study, siphons[0], total) if siphons else None
    if edit is not None:
        return edit, "Trim siphon"
    return _wider((*over.path, "drains", index), drains_here[index].pipe), "Wider pipe"


def _siphon(over: Overflow, site: Site, study: Study, index: int, total: float, quiet: bool) -> Iterable[Finding]:
    s = states(over, study.running)[index]
    if s.mode == "full siphon":
        return
    edit = _trim(over, study, index, total)
    yield Finding(
        "siphon-gulps",
        Rank.FIX if quiet else Rank.CONSIDER,
        "The siphon does not stay full: it is {mode} at {flow:flow}.".replace("{mode}", s.mode),
        "A siphon that could carry more than the pump gives draws its box down and gulps air. Trim its valve until the"
        " open channel takes a trickle.",
        f"{over.id}.drains",
        {"flow": s.flow},
        "Trim siphon" if edit else "",
        edit,
    )


def _wider(path: Path, pipe: str) -> Edit | None:
    wider = wider_pipe(pipe)
    return Edit("Widen pipe", (Change((*path, "pipe"), wider),)) if wider else None


judge = judged_by(holes, tank_full, screen_covered, drain_blocked, emergency_wet, drains)
