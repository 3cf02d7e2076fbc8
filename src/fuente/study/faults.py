"""Everything that can go wrong: when it applies, and how it changes the network, with an amount and a time.

A situation is a set of these, settled; the wet test the same set in time. A new one is an entry in KINDS.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from fuente.errors import EntryError
from fuente.network.beds import Sealed, Through
from fuente.network.model import Network, WayKind
from fuente.network.returning import ReturnLine
from fuente.network.supplies import Falls, Header, Lines, RimSiphon
from fuente.study import effects
from fuente.study.breaking import DIRTY, Broken, Fault

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis


def title_of(fault: Fault) -> str:
    """A fault as it is shown."""
    return KINDS[fault.kind].title


def put(state: Broken, fault: Fault) -> None:
    """One fault more on what is broken."""
    KINDS[fault.kind].breaks(state, fault)


def broken(study: Analysis, faults: Sequence[Fault], base: Network) -> Network:
    """The network with faults in force, in the order in which they happened."""
    state = Broken(study, base)
    for fault in faults:
        put(state, fault)
    return state.network()


# -- what each kind asks for, and what it does -------------------------------------------------------------------------


@dataclass(frozen=True)
class FaultKind:
    """Something that can go wrong: name as scripts write it, words, what its number means, when it applies, what it
    does.

    Where it dries a pump, the wet test says so.
    """

    name: str
    title: str
    breaks: Callable[[Broken, Fault], None]
    applies: Callable[[Analysis], bool] = lambda _: True
    number: str = ""  # what the number is; empty for none
    default: float = 1.0
    low: float = 0.0
    high: float = 1.0
    dries: bool = False

    @property
    def quantity(self) -> str:
        """As what its number is typed and shown."""
        return "fraction" if self.high <= 1 else "number"


KINDS: Mapping[str, FaultKind] = {
    k.name: k
    for k in (
        FaultKind("power-cut", "Power cut", effects.power(False)),
        FaultKind("power-return", "Power returns", effects.power(True)),
        FaultKind(
            "check-valve-leak",
            "Check valve leaks",
            effects.leak,
            lambda s: effects.moved(s) or effects.valved(s),
            "share of the free back-flow",
        ),
        FaultKind(
            "drain-block",
            "Block the drains",
            effects.drains,
            effects.drained,
            "share blocked, the emergency left open",
            dries=True,
        ),
        FaultKind(
            "tank-drain-block",
            "Block one tank's drains",
            effects.tank_drain,
            effects.many,
            "number of the tank, 0 for the most exposed",
            0.0,
            0.0,
            400.0,
            True,
        ),
        FaultKind(
            "header-block",
            "Block the common drain",
            effects.pipes((Header,)),
            lambda s: effects.has_law(s, Header),
            "share blocked",
            0.5,
            dries=True,
        ),
        FaultKind(
            "join-block",
            "Block the pipes between vessels",
            effects.pipes((Lines, Falls, Through, Sealed)),
            lambda s: effects.has_law(s, Lines, Falls, Through, Sealed),
            "share blocked",
            dries=True,
        ),
        FaultKind(
            "filter-pipe-block",
            "Block the pipe out of a filter",
            effects.filter_pipe,
            lambda s: bool(s.pumped_outs()),
            "number of the filter that a pump fills, 1 for the first",
            1.0,
            1.0,
            400.0,
        ),
        FaultKind("all-drains-block", "Block every drain", effects.all_drains, effects.drained, "share blocked"),
        FaultKind(
            "pads-clog",
            "Clog the pads",
            effects.pads,
            lambda s: bool(effects.clean_pads(s, 1.0)),
            "clogging, × the clean loss",
            DIRTY,
            1.0,
            2000.0,
            True,
        ),
        FaultKind(
            "pad-out",
            "Take one of two pads out",
            effects.pad_out,
            lambda s: bool(effects.twins(s)),
            "number of the pair, 1 for the first",
            1.0,
            1.0,
            400.0,
        ),
        FaultKind(
            "pump-wear",
            "Pump wears",
            effects.wear,
            lambda s: effects.has_law(s, ReturnLine) or effects.moved(s),
            "share of its head that is left",
            0.8,
            0.05,
            1.0,
            True,
        ),
        FaultKind(
            "pump-stuck",
            "Pump sticks",
            effects.stuck,
            lambda s: effects.has_law(s, ReturnLine) or effects.moved(s),
            "number of the pump, 0 for all",
            0.0,
            0.0,
            16.0,
        ),
        FaultKind(
            "hose-off",
            "Return hose off",
            effects.hose_off,
            lambda s: any(k.kind in (WayKind.PUMP, WayKind.FEED_PUMP) for k in s.whole.ways),
        ),
        FaultKind(
            "intake-hose-off",
            "A closed filter's hose slips off, on its way in",
            effects.intake_hose_off,
            lambda s: bool(effects.closed(s)),
            "number of the closed vessel, 1 for the first",
            1.0,
            1.0,
            400.0,
        ),
        FaultKind(
            "outlet-hose-off",
            "A closed filter's hose slips off, on its way back",
            effects.outlet_hose_off,
            lambda s: bool(effects.closed(s)),
            "number of the closed vessel, 1 for the first",
            1.0,
            1.0,
            400.0,
        ),
        FaultKind(
            "lid-leak",
            "A closed filter's lid leaks",
            effects.lid_leaks,
            lambda s: bool(effects.closed(s)),
            "mm² of gap under it",
            2.0,
            0.0,
            500.0,
        ),
        FaultKind(
            "chamber-out",
            "Pump a chamber out",
            effects.room_emptied,
            lambda s: bool(s.rooms()),
            "number of the chamber, 1 for the first",
            1.0,
            1.0,
            200.0,
        ),
        FaultKind("float-open", "Float sticks open", effects.floats_stick("open"), effects.floated),
        FaultKind("float-shut", "Float sticks shut", effects.floats_stick("shut"), effects.floated),
        FaultKind("siphon-lost", "Siphon over the rim breaks", effects.siphon, lambda s: effects.has_law(s, RimSiphon)),
        FaultKind(
            "air-stops",
            "Air pump stops",
            effects.air_stops,
            effects.aired,
            "number of the air pump, 0 for all",
            0.0,
            0.0,
            20.0,
        ),
        FaultKind(
            "air-worn",
            "Air pump's membranes tire",
            effects.air_worn,
            effects.aired,
            "share of its pressure that is left",
            0.6,
            0.05,
            1.0,
        ),
        FaultKind(
            "air-valve-open",
            "An air valve falls wide open",
            effects.air_drop("opened"),
            effects.aired,
            "number of the drop, 0 for the most closed",
            0.0,
            0.0,
            400.0,
        ),
        FaultKind(
            "air-line-off",
            "An airline slips off",
            effects.air_drop("slipped"),
            effects.aired,
            "number of the drop, 1 for the first",
            1.0,
            1.0,
            400.0,
        ),
        FaultKind(
            "joint-weep",
            "A joint weeps",
            effects.weep,
            lambda s: bool(s.wells()),
            "litres an hour from the pump chamber",
            10.0,
            0.0,
            5000.0,
        ),
        FaultKind(
            "evaporation",
            "Water evaporates",
            effects.evaporates,
            lambda s: s.evaporation_rate() > 0,
            "times its usual rate",
            1.0,
            0.0,
            1000.0,
        ),
    )
}


def fits(study: Analysis, kind: str) -> bool:
    """Whether a system has what a fault breaks."""
    return KINDS[kind].applies(study)


def read_fault(text: str) -> Fault:
    """``power-cut@30`` or ``check-valve-leak@30=0.5``: kind, moment in s, number."""
    match = re.fullmatch(r"\s*([a-z-]+)\s*@\s*([\d.]+)\s*(?:=\s*([\d.]+))?\s*", text)
    if not match:
        raise EntryError(f"“{text[:40]}” is not a fault; write it as power-cut@30 or check-valve-leak@30=0.5.")
    name, moment, number = match.groups()
    if name not in KINDS:
        raise EntryError(f"There is no fault “{name[:40]}”; there are: {', '.join(KINDS)}.")
    kind = KINDS[name]
    try:
        time, value = float(moment), float(number) if number else kind.default
    except ValueError:
        raise EntryError(f"“{text[:40]}” holds a number that cannot be read.") from None
    if number and not kind.number:
        raise EntryError(f"{name} takes no number.")
    if not kind.low <= value <= kind.high:
        raise EntryError(f"{name} takes a number from {kind.low:g} to {kind.high:g}: {kind.number}.")
    if not 0 <= time <= 7 * 86400:
        raise EntryError("A fault happens within a week from the start.")
    return Fault(name, time, value)
