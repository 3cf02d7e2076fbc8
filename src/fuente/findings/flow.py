"""Flow, noise and bubbles."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.catalogue import wider_pipe
from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.overflow.modes import states, trimmed_opening
from fuente.devices.return_line.card import law_in
from fuente.devices.return_line.network import curve, link_id
from fuente.devices.sump.card import slow_speed
from fuente.devices.sump.network import cell_ids
from fuente.devices.sump.spec import Baffle, Chamber
from fuente.study.analysis import Analysis

SIPHON_SHARE = 0.94  # of the flow, when the valve is trimmed: the rest keeps the open channel awake
BUBBLE_RISE = 0.03  # m/s, a bubble of 0.3 mm
FAST_PIPE = 2.0  # m/s
FAST_GAP = 0.2  # m/s


def turnover(analysis: Analysis) -> Iterable[Finding]:
    """Flow wanted against flow got."""
    wanted = analysis.system.space.turnover
    for i, line in enumerate(analysis.system.returns):
        flow = analysis.running.flow[link_id(line)]
        volume = analysis.running.volume[line.tank]
        got = flow / volume
        values = {"got": got, "wanted": wanted, "flow": flow}
        if got < 0.9 * wanted:
            need = wanted * volume
            law = law_in(line, analysis.running)
            lift = law.lift(analysis.running.level[analysis.pump_cell], analysis.running.level[line.tank])
            head = lift + law.loss(need)[0]
            stronger = _pump_for(line.pump.max_head, line.pump.max_flow, head, need)
            base: Path = ("returns", i, "pump")
            edit = Edit(
                "Take a stronger pump",
                (
                    Change((*base, "max_head"), stronger[0]),
                    Change((*base, "max_flow"), stronger[1]),
                    Change((*base, "points"), ()),
                    Change((*base, "speed"), 1.0),
                    Change((*base, "name"), f"Pump of the {stronger[1] * 3.6e6:.0f} L/h class"),
                ),
            )
            yield Finding(
                "turnover",
                Rank.FIX,
                "The tank turns over {got:per_hour}; you want {wanted:per_hour}.",
                "At the real head the pump gives {flow:flow}. A pump with this curve, or a wider pipe, would do.",
                line.id,
                values,
                "Stronger pump",
                edit,
                got - 0.9 * wanted,
            )
        elif got > 1.6 * wanted:
            yield Finding(
                "turnover-high",
                Rank.CONSIDER,
                "The tank turns over {got:per_hour}, more than the {wanted:per_hour} you want.",
                "Slow it on the outlet side or by the pump's speed, never at its intake.",
                line.id,
                values,
                "Slow the pump",
                _slower(analysis, i, wanted * volume),
                1.6 * wanted - got,
            )


def _slower(analysis: Analysis, index: int, need: float) -> Edit | None:
    line = analysis.system.returns[index]
    law = law_in(line, analysis.running)
    lift = law.lift(analysis.running.level[analysis.pump_cell], analysis.running.level[line.tank])
    head = lift + law.loss(need)[0]
    for percent in range(95, 19, -5):
        speed = percent / 100
        if curve(line.model_copy(update={"pump": line.pump.model_copy(update={"speed": speed})})).head(need) < head:
            best = min(speed + 0.05, 1.0)
            return (
                None
                if best >= line.pump.speed
                else Edit("Slow the pump", (Change(("returns", index, "pump", "speed"), best),))
            )
    return None


def _pump_for(max_head: float, max_flow: float, head: float, need: float) -> tuple[float, float]:
    """Box numbers of the next class that reaches a flow at a head, on steps that pumps are sold in."""
    top, most = max(max_head, head * 1.35), max_flow
    step = 500e-3 / 3600
    most = -(-most // step) * step
    while top * (1 - (need / most) ** 2) < head or need >= most:
        most += step
        top = max(top, head * 1.35)
    return round(top, 1), most


def guessed_curve(analysis: Analysis) -> Iterable[Finding]:
    """Box numbers only."""
    for line in analysis.system.returns:
        if curve(line).is_guess:
            flow = analysis.running.flow[link_id(line)]
            yield Finding(
                "pump-guess",
                Rank.CONSIDER,
                "The flow of {flow:flow} rests on the two numbers of the pump's box: about ±15 %.",
                "A curve of points from its maker, or a timed bucket at the outlet, makes it sure.",
                line.id,
                {"flow": flow},
            )


def drains(analysis: Analysis) -> Iterable[Finding]:
    """Quiet means a trimmed siphon, or an open channel under half of its limit."""
    quiet = analysis.system.space.quiet
    for i, over in enumerate(analysis.system.overflows):
        runs = states(over, analysis.running)
        total = sum(s.flow for s in runs)
        for k, s in enumerate(runs):
            if s.drain.role == "siphon":
                yield from _siphon(analysis, i, k, total, quiet)
            elif s.mode == "gulping" or (s.mode == "open" and s.flow > s.open_capacity):
                edit, action = _relief(analysis, i, k, total)
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
                edit, action = _relief(analysis, i, k, total)
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


def _trim(analysis: Analysis, overflow: int, index: int, total: float) -> Edit | None:
    """The siphon's valve set so that it takes all but a trickle of the flow; None where it cannot."""
    over = analysis.system.overflows[overflow]
    opening = trimmed_opening(over, index, analysis.running, SIPHON_SHARE * total)
    if opening is None:
        return None
    path: Path = ("overflows", overflow, "drains", index, "valve")
    return Edit("Trim siphon valve", (Change(path, round(opening, 3)),))


def _relief(analysis: Analysis, overflow: int, index: int, total: float) -> tuple[Edit | None, str]:
    """What takes load off an open channel: the siphon beside it, else a wider pipe."""
    drains_here = analysis.system.overflows[overflow].drains
    siphons = [k for k, d in enumerate(drains_here) if d.role == "siphon"]
    edit = _trim(analysis, overflow, siphons[0], total) if siphons else None
    if edit is not None:
        return edit, "Trim siphon"
    return _wider(("overflows", overflow, "drains", index), drains_here[index].pipe), "Wider pipe"


def _siphon(analysis: Analysis, overflow: int, index: int, total: float, quiet: bool) -> Iterable[Finding]:
    over = analysis.system.overflows[overflow]
    s = states(over, analysis.running)[index]
    if s.mode == "full siphon":
        return
    edit = _trim(analysis, overflow, index, total)
    yield Finding(
        "siphon-gulps",
        Rank.FIX if quiet else Rank.CONSIDER,
        "The siphon does not stay full: it is {mode} at {flow:flow}.".replace("{mode}", s.mode),
        "A siphon that could carry more than the pump gives draws its box down and gulps air. Trim its valve until the open "
        "channel takes a trickle.",
        f"{over.id}.drains",
        {"flow": s.flow},
        "Trim siphon" if edit else "",
        edit,
    )


def _wider(path: Path, pipe: str) -> Edit | None:
    wider = wider_pipe(pipe)
    return Edit("Widen pipe", (Change((*path, "pipe"), wider),)) if wider else None


def fast_return(analysis: Analysis) -> Iterable[Finding]:
    """Fast water in the rising pipe costs head."""
    for i, line in enumerate(analysis.system.returns):
        flow = analysis.running.flow[link_id(line)]
        law = law_in(line, analysis.running)
        speed = flow / law.pipe.area
        if speed > FAST_PIPE:
            edit = _wider(("returns", i), line.pipe)
            yield Finding(
                "return-fast",
                Rank.FIX if speed > 1.5 * FAST_PIPE else Rank.CONSIDER,
                "Water runs at {speed:speed} in the return and loses {lost:head}.",
                "Under 2 m/s friction stays small against the lift.",
                line.id,
                {"speed": speed, "lost": law.loss(flow)[0]},
                "Wider pipe" if edit else "",
                edit,
                FAST_PIPE - speed,
            )


def gaps(analysis: Analysis) -> Iterable[Finding]:
    """Narrow gaps under baffles."""
    sump = analysis.sump
    index = [d.id for d in analysis.system.devices].index(sump.id)
    flow = analysis.flow
    for k, chamber in enumerate(sump.chambers):
        for field in ("under", "exit"):
            baffle: Baffle | None = getattr(chamber, field)
            if baffle is None or baffle.gap <= 0:
                continue
            speed = flow / (sump.inner_width * baffle.gap)
            if speed > FAST_GAP:
                gap = -(-flow / (sump.inner_width * 0.15) // 0.005) * 0.005
                path: Path = ("devices", index, "chambers", k, field, "gap")
                yield Finding(
                    "gap-fast",
                    Rank.FIX,
                    f"Water goes under the baffle of {chamber.title.lower()} at {{speed:speed}}.",
                    "Fast water stirs up dirt and carries bubbles; 0.15 m/s is gentle.",
                    f"{sump.id}.{chamber.id}",
                    {"speed": speed},
                    "Widen gap",
                    Edit("Widen gap", (Change(path, round(gap, 3)),)) if gap < baffle.top - 0.01 else None,
                    FAST_GAP - speed,
                )


def bubbles(analysis: Analysis) -> Iterable[Finding]:
    """Bubbles carried to the pump."""
    sump = analysis.sump
    flow = analysis.flow
    index = [d.id for d in analysis.system.devices].index(sump.id)
    traps = [c for c in sump.chambers if c.role == "trap"]
    if not traps:
        pump = sump.chambers[-1]
        speed = slow_speed(sump, pump, flow)
        if speed > BUBBLE_RISE:
            yield Finding(
                "no-trap",
                Rank.CONSIDER,
                "No bubble trap, and water sinks at {speed:speed} in the pump chamber: small bubbles go along.",
                "An over-under-over baffle before the pump, or slower water, lets them rise.",
                f"{sump.id}.{pump.id}",
                {"speed": speed},
            )
        return
    speed = min(slow_speed(sump, c, flow) for c in traps)
    if speed > 0.1:
        trap = min(traps, key=lambda c: slow_speed(sump, c, flow))
        k = [c.id for c in sump.chambers].index(trap.id)
        yield Finding(
            "trap-fast",
            Rank.FIX if speed > 0.2 else Rank.CONSIDER,
            "Water goes down the bubble trap at {speed:speed}; bubbles under {size:fine_length} go along.",
            "A bubble of 1 mm rises at about 0.2 m/s, one of 0.3 mm at 0.03 m/s.",
            f"{sump.id}.{trap.id}",
            {"speed": speed, "size": 0.0003 * (speed / 0.03) ** 0.5},
            "Widen trap",
            _widen(analysis, index, k, trap.width * (speed / 0.09)),
            0.1 - speed,
        )


def _widen(analysis: Analysis, device: int, chamber: int, width: float) -> Edit | None:
    sump = analysis.system.devices[device]
    spare = sump.widths()[-1] - 0.12
    wanted = min(width, sump.chambers[chamber].width + spare)
    if wanted <= sump.chambers[chamber].width + 0.004:
        return None
    path: Path = ("devices", device, "chambers", chamber, "width")
    return Edit("Widen trap", (Change(path, round(wanted, 3)),))


def falls(analysis: Analysis) -> Iterable[Finding]:
    """Splash where water falls far into the pump chamber."""
    sump = analysis.sump
    if len(sump.chambers) < 2:
        return
    before: Chamber = sump.chambers[-2]
    if before.exit is None:
        return
    fall = sump.floor + before.exit.top - analysis.running.level[cell_ids(sump, sump.chambers[-1])[0]]
    if fall > 0.08:
        yield Finding(
            "splash",
            Rank.CONSIDER,
            "Water falls {fall:length} into the pump chamber and carries bubbles to the pump.",
            "A crest nearer to the running level, or a higher mark, is quieter; the mark also costs freeboard.",
            f"{sump.id}.{sump.chambers[-1].id}",
            {"fall": fall},
        )


RULES = (turnover, guessed_curve, drains, fast_return, gaps, bubbles, falls)
