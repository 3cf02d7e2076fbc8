"""What follows from a System: the network in every situation, each with its verdict."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

from fuente.devices.base import Rank, Verdict
from fuente.devices.overflow import network as overflow_network
from fuente.devices.return_line import network as return_network
from fuente.devices.sump import network as sump_network
from fuente.devices.sump.spec import Chamber, Sump
from fuente.document.assemble import lower
from fuente.document.system import System
from fuente.errors import FuenteError, PumpTooWeak
from fuente.hydraulics.porous import Porous, felt, foam
from fuente.life.heat import evaporation
from fuente.network import Cell, LevelCurve, Link, Network, Solution, settle, steady
from fuente.network.laws import Gap, Pad, ReturnLine, Sheet, Standpipe
from fuente.network.model import FLOOR, Law

BUCKET = "bucket"
DIRTY = 25.0  # times the clean loss at which most builders reach for a pad; an assumption, stated on the card

TITLES = {
    "running": "Running",
    "power_cut": "Power cut",
    "valve_leaks": "Valve leaks",
    "drain_blocked": "Drain blocked",
    "pads_dirty": "Pads dirty",
    "evaporated": "Evaporated",
    "cleaning": "Cleaning",
}


@dataclass(frozen=True)
class Situation:
    """A state of the water with its one-line verdict."""

    name: str
    title: str
    solution: Solution
    verdict: Verdict
    numbers: Mapping[str, float] = field(default_factory=dict)


class Analysis:
    """Everything that is computed of one System. Each situation is solved when it is first asked for.

    ``before`` is the analysis of a neighbouring design, whose levels are good first guesses.
    """

    def __init__(self, system: System, before: Analysis | None = None, clean: str = ""):
        self.system = system
        self.network: Network = lower(system)
        self.clean = clean
        self._done: dict[str, Situation] = {}
        self._guess: dict[str, Mapping[str, float]] = {}
        if before is not None and [c.id for c in before.network.cells] == [c.id for c in self.network.cells]:
            self._guess = dict(before._guess)
            self._guess.update({name: s.solution.level for name, s in before._done.items()})
        if clean != (before.clean if before else ""):
            self._guess.pop("cleaning", None)

    # -- pieces ---------------------------------------------------------------------------------------------------

    @cached_property
    def laws(self) -> dict[str, Law]:
        """Each link's law by id."""
        return {k.id: k.law for k in self.network.links}

    @property
    def sump(self) -> Sump:
        """The filter that the first return pumps from."""
        return self.system.device(self.system.returns[0].source) if self.system.returns else self.system.devices[0]

    @property
    def pump_cell(self) -> str:
        """Id of the pump chamber's cell."""
        return sump_network.cell_ids(self.sump, self.sump.chambers[-1])[-1]

    def sump_cells(self) -> list[str]:
        """Ids of all cells of all filters."""
        devices = {d.id for d in self.system.devices}
        return [c.id for c in self.network.cells if c.owner in devices]

    @property
    def running(self) -> Solution:
        """The running state."""
        return self.situation("running").solution

    @property
    def flow(self) -> float:
        """Water over the pumps, m³/s."""
        return self.running.kind_flow("pump")

    def returns(self, **change: object) -> dict[str, Law | None]:
        """Return laws with some attributes changed."""
        return {k: replace(law, **change) for k, law in self.laws.items() if isinstance(law, ReturnLine)}  # type: ignore[arg-type]

    def cleaned(self) -> Chamber:
        """The chamber that the cleaning situation is about: the chosen one, or the dirtiest by its role."""
        chambers = self.sump.chambers
        for chamber in chambers:
            if chamber.id == self.clean:
                return chamber
        for role in ("clean_out", "foam", "inlet", "socks"):
            for chamber in chambers[:-1]:
                if chamber.role == role:
                    return chamber
        return chambers[0]

    # -- situations -----------------------------------------------------------------------------------------------

    def names(self) -> list[str]:
        """Names of all situations, in the order of the strip."""
        return list(TITLES)

    def situation(self, name: str) -> Situation:
        """One situation, solved once. Raises FuenteError where the water finds no state."""
        if name not in self._done:
            self._done[name] = getattr(self, f"_{name}")()
        return self._done[name]

    def try_situation(self, name: str) -> Situation | FuenteError:
        """One situation, or the reason why there is none."""
        try:
            return self.situation(name)
        except FuenteError as error:
            return error

    def at_rest(self) -> Situation:
        """Still water with the marks as they are: what is shown where nothing can run."""
        off = self.network.replace_links(self.returns(on=False, leak=0.0))
        start = {c.id: c.floor + 0.6 * (c.rim - c.floor) for c in off.cells if not c.sink}
        for flow in self.system.overflows:
            start[flow.tank] = self.system.tank(flow.tank).floor + flow.crest
            start[overflow_network.cell_id(flow)] = self.system.tank(flow.tank).floor + 0.02
        for cell in self.sump_cells():
            start[cell] = min(self.network.marks.get(self.pump_cell, 0.0), self.network.cell(cell).rim - 0.01)
        return Situation("rest", "At rest", settle(off, start), Verdict("nothing runs", {}, Rank.STOP))

    def _settle(self, name: str, network: Network, start: Mapping[str, float]) -> Solution:
        return settle(network, start, self._guess.get(name))

    def _running(self) -> Situation:
        for line in self.system.returns:
            law = self.laws[return_network.link_id(line)]
            assert isinstance(law, ReturnLine)
            source = self.network.marks[self._pump_cell_of(line.source)]
            tank = self.system.tank(line.tank)
            crests = [o.crest for o in self.system.overflows if o.tank == tank.id]
            lift = law.lift(source, tank.floor + (crests[0] if crests else tank.inner_height))
            if law.curve.shutoff <= lift:
                raise PumpTooWeak(
                    f"The pump does not reach {tank.name}: it lifts {law.curve.shutoff:.2f} m at most and the water "
                    f"must rise {lift:.2f} m; take a stronger pump or lower the outlet."
                )
            if source <= law.intake:
                raise FuenteError("The running level is marked at or below the pump's intake: raise the mark.")
        solution = steady(self.network, self._guess.get("running"))
        level = solution.depth(self.pump_cell)
        rank = Rank.STOP if solution.spilling else None
        words = "water over the rim" if solution.spilling else "sump {level:length}"
        return Situation("running", TITLES["running"], solution, Verdict(words, {"level": level}, rank))

    def _pump_cell_of(self, device_id: str) -> str:
        device = self.system.device(device_id)
        return sump_network.cell_ids(device, device.chambers[-1])[-1]

    def freeboard(self, solution: Solution) -> float:
        """Least distance in m from the water to the rim in any filter."""
        return min((solution.freeboard(c) for c in self.sump_cells()), default=0.0)

    def tank_freeboard(self, solution: Solution) -> float:
        """Least distance in m from the water to the rim of any tank."""
        return min(solution.freeboard(t.id) for t in self.system.tanks)

    def _after_cut(self, name: str, leak: float) -> Situation:
        change = self.returns(on=False, leak=leak)
        for line in self.system.returns:  # no valve: nothing holds
            key = return_network.link_id(line)
            law = change[key]
            if line.valve == "none" and isinstance(law, ReturnLine):
                change[key] = replace(law, leak=1.0)
        solution = self._settle(name, self.network.replace_links(change), self.running.level)
        left = self.freeboard(solution)
        spilled = solution.volume.get(FLOOR, 0.0)
        numbers = {"left": left, "spilled": spilled, "back": self._gained(solution)}
        wanted = self.system.space.margin
        if spilled > 1e-7:
            verdict = Verdict("{spilled:volume} on the floor", numbers, Rank.STOP)
        else:
            verdict = Verdict("{left:length} left", numbers, Rank.FIX if left < wanted - 1e-6 else None)
        return Situation(name, TITLES[name], solution, verdict, numbers)

    def _gained(self, solution: Solution) -> float:
        """Water in m³ that came down into the filters since running."""
        return sum(solution.volume[c] - self.running.volume[c] for c in self.sump_cells())

    def _power_cut(self) -> Situation:
        return self._after_cut("power_cut", 0.0)

    def _valve_leaks(self) -> Situation:
        return self._after_cut("valve_leaks", 1.0)

    def drains(self, emergency: bool) -> list[str]:
        """Link ids of drains that are, or are not, emergency drains."""
        found = []
        for flow in self.system.overflows:
            for i, drain in enumerate(flow.drains):
                if (drain.role == "emergency") == emergency:
                    found.append(overflow_network.drain_id(flow, i))
        return found

    def _drain_blocked(self) -> Situation:
        shut = self.drains(False)
        change: dict[str, Law | None] = {}
        for key in shut:
            law = self.laws[key]
            assert isinstance(law, Standpipe)
            change[key] = replace(law, open_share=0.0)
        solution = self._settle("drain_blocked", self.network.replace_links(change), self.running.level)
        tank = self.system.tanks[0].id
        rise = solution.level[tank] - self.running.level[tank]
        carried = solution.kind_flow("drain")
        spilled = solution.spilled
        numbers = {"rise": rise, "spilled": spilled, "left": self.tank_freeboard(solution), "carried": carried}
        if spilled > 1e-7:
            verdict = Verdict("{spilled:volume} on the floor", numbers, Rank.STOP)
        elif carried > 1e-6:
            verdict = Verdict("tank +{rise:length}, holds", {**numbers, "rise": max(rise, 0.0)})
        else:
            verdict = Verdict("tank +{rise:length}, pump dry", numbers, Rank.FIX)
        return Situation("drain_blocked", TITLES["drain_blocked"], solution, verdict, numbers)

    def _pads_dirty(self) -> Situation:
        clean = self._pad_mediums()
        change: dict[str, Law | None] = {}
        for key, law in self.laws.items():
            if key in clean and isinstance(law, Pad | Sheet):
                change[key] = replace(law, medium=clean[key].dirty(DIRTY))
        solution = self._settle("pads_dirty", self.network.replace_links(change), self.running.level)
        over = [k.id for k in self.network.links if k.kind == "bypass" and solution.flow[k.id] > 1e-7]
        drop = max((self.pad_drop(solution, key) for key in change), default=0.0)
        numbers = {
            "drop": drop,
            "level": solution.depth(self.pump_cell),
            "over": float(len(over)),
            "left": self.freeboard(solution),
            "spilled": solution.spilled,
        }
        if solution.spilled > 1e-7:
            verdict = Verdict("{spilled:volume} on the floor", numbers, Rank.STOP)
        elif not change:
            verdict = Verdict("no pads", numbers)
        elif over:
            verdict = Verdict("water goes round", numbers, Rank.CONSIDER)
        else:
            verdict = Verdict("drop {drop:length}", numbers)
        return Situation("pads_dirty", TITLES["pads_dirty"], solution, verdict, numbers)

    def _pad_mediums(self) -> dict[str, Porous]:
        """The clean medium of every pad and sock by link id."""
        found: dict[str, Porous] = {}
        for device in self.system.devices:
            for chamber in device.chambers:
                base = f"{device.id}.{chamber.id}"
                for k, pad in enumerate(chamber.pads):
                    found[f"{base}.pad.{k}"] = foam(pad.ppi)
                if chamber.role == "socks" and chamber.socks:
                    found[f"{base}.socks"] = felt(chamber.socks.micron)
        return found

    def pad_drop(self, solution: Solution, link_id: str) -> float:
        """Level difference in m across a pad."""
        link = next(k for k in self.network.links if k.id == link_id)
        return solution.level[link.a] - solution.level[link.b]

    def evaporation_rate(self) -> float:
        """Water lost to the air, m³/s, tanks under their covers and filters open."""
        space = self.system.space
        temperature = self.system.tanks[0].temperature
        area = 0.0
        for tank in self.system.tanks:
            area += tank.inner_length * tank.inner_width * (1 - tank.cover)
        for device in self.system.devices:
            area += device.inner_length * device.inner_width
        return evaporation(area, temperature, space.air, space.humidity)

    def _evaporated(self) -> Situation:
        line = self.system.returns[0]
        law = self.laws[return_network.link_id(line)]
        assert isinstance(law, ReturnLine)
        marks = {**self.network.marks, self.pump_cell: law.intake + 0.008}
        low = Network(self.network.cells, self.network.links, marks)
        solution = steady(low, self._guess.get("evaporated", self.running.level))
        gone = self.running.total - solution.total
        rate = self.evaporation_rate()
        days = gone / rate if rate > 0 else float("inf")
        numbers = {"gone": gone, "rate": rate * 86400, "days": days}
        rank = Rank.FIX if days < 3 * 86400 else None
        verdict = Verdict("dry in {days:days}" if days < 1e9 else "does not fall", numbers, rank)
        return Situation("evaporated", TITLES["evaporated"], solution, verdict, numbers)

    def _cleaning(self) -> Situation:
        chamber = self.cleaned()
        off = self.network.replace_links(self.returns(on=False, leak=0.0))
        rest = self.situation("power_cut").solution
        cells = sump_network.cell_ids(self.sump, chamber)
        bucket = Cell(BUCKET, "The bucket", -1000.0, -999.0, LevelCurve.prism(-1000.0, -999.0, 1e4), sink=True)
        hoses = [
            Link(f"{BUCKET}.{cell}", "Hose to the bucket", cell, BUCKET, Gap(off.cell(cell).floor, 0.05, 0.01), "hose")
            for cell in cells
        ]
        emptied = Network((*off.cells, bucket), (*off.links, *hoses), off.marks)
        solution = self._settle("cleaning", emptied, rest.level)
        carried = solution.volume[BUCKET]
        own = sum(rest.volume[c] for c in cells)
        others = [c for c in self.sump.chambers if c.id != chamber.id and self._fell(c, rest, solution)]
        numbers = {"carried": carried, "own": own, "others": float(len(others))}
        if not others:
            verdict = Verdict("{carried:volume}, apart", numbers)
        else:
            verdict = Verdict("{carried:volume}, " + f"{len(others)} others fall", numbers, Rank.CONSIDER)
        return Situation("cleaning", TITLES["cleaning"], solution, verdict, numbers)

    def _fell(self, chamber: Chamber, before: Solution, after: Solution) -> bool:
        cells = sump_network.cell_ids(self.sump, chamber)
        return any(before.level[c] - after.level[c] > 0.02 for c in cells)
