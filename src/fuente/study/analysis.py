"""What follows from a System: the network in every situation, each with its verdict."""

from __future__ import annotations

from collections.abc import Container, Iterable, Mapping
from copy import copy
from dataclasses import replace
from functools import cached_property

from fuente.devices import kind_of
from fuente.devices.base import Rank, Verdict
from fuente.devices.hang_on import network as hang_on_network
from fuente.devices.overflow import network as overflow_network
from fuente.devices.return_line import network as return_network
from fuente.devices.return_line.spec import ReturnSpec
from fuente.devices.standpipe import network as standpipe_network
from fuente.devices.sump import network as sump_network
from fuente.devices.sump.spec import Chamber, Sump
from fuente.devices.tank.spec import Tank
from fuente.document.system import System
from fuente.errors import FuenteError, PumpTooWeak
from fuente.hydraulics.porous import Porous, felt, foam
from fuente.life.heat import evaporation
from fuente.network import Network, Solution, settle, steady
from fuente.network.aeration import Aeration
from fuente.network.beds import Bed, Sealed, Through
from fuente.network.ducts import Ducts, PumpDuct
from fuente.network.laws import Pad, ReturnLine, Sheet, Standpipe
from fuente.network.model import FLOOR, Law
from fuente.network.supplies import FloatValve
from fuente.study.air_open import air_open, wide_open
from fuente.study.cleaning import cleaning
from fuente.study.evaporated import evaporated
from fuente.study.lowering import bodies, lower
from fuente.study.pipe_blocked import pipe_blocked, pumped_outs
from fuente.study.sites import crest_of, sites
from fuente.study.situation import MOVERS, TITLES, Situation

LARGE = 32  # cells from which only the running state is solved at once
DIRTY = 25.0  # times the clean loss at which most builders reach for a pad; an assumption, stated on the card


class Analysis:
    """Everything that is computed of one System. Each situation is solved when it is first asked for.

    ``before`` is the analysis of a neighbouring design, whose levels are good first guesses.
    """

    def __init__(self, system: System, before: Analysis | None = None, clean: str = ""):
        self.system = system
        self.sites = sites(system)
        self.whole: Network = lower(system, self.sites)  # floats and drips too
        floats = {k.id: None for k in self.whole.links if isinstance(k.law, FloatValve)}
        self.network: Network = self.whole.replace_links(floats) if floats else self.whole
        self.clean = clean
        self._focus = ""
        self._flows: dict[tuple[str, int], float] = {}
        self._done: dict[str, Situation] = {}
        self._failed: dict[str, FuenteError] = {}
        self._wide: dict[str, tuple[dict[str, float], int]] = {}
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

    def about(self, device_id: str) -> Analysis:
        """The same analysis, looking at another filter; situations are shared."""
        other = copy(self)
        other._focus = device_id
        return other

    @cached_property
    def bodies(self) -> list[list[str]]:
        """Ids of cells that share water, a list for each body."""
        return bodies(self.network)

    @property
    def has_sump(self) -> bool:
        """Whether the system has a sump at all: many tanks run without one."""
        return bool(self.system.devices)

    @property
    def below(self) -> str:
        """What the vessels are called that water comes down into."""
        return "sump" if self.has_sump else "filters"

    @property
    def sump(self) -> Sump:
        """The sump that is looked at: the one asked for, else the one that the first pump stands in."""
        system = self.system
        sources = [line.source for line in system.returns]
        sources += [f.source for m in system.manifolds for f in m.feeders]
        chosen = self._focus or (sources[0] if sources else "")
        if not system.devices:
            raise FuenteError("This system has no sump.")
        return system.device(chosen) if chosen else system.devices[0]

    @property
    def pump_cell(self) -> str:
        """Id of the pump chamber's cell."""
        return sump_network.cell_ids(self.sump, self.sump.chambers[-1])[-1]

    def sump_cells(self) -> list[str]:
        """Ids of all cells of all filters with walls of their own."""
        devices = {d.id for d in self.system.devices}
        devices |= {f.id for f in self.system.filters if kind_of(f).vessel is not None}
        return [c.id for c in self.network.cells if c.owner in devices]

    @property
    def running(self) -> Solution:
        """The running state."""
        return self.situation("running").solution

    @property
    def flow(self) -> float:
        """Water through the filter that is looked at, m³/s: what runs into it from elsewhere."""
        return self.flow_in(self.running)

    def flow_in(self, solution: Solution) -> float:
        """The same in any solution."""
        key = (self.sump.id, id(solution))
        if key not in self._flows:
            self._flows[key] = self._flow_in(solution)
        return self._flows[key]

    def _flow_in(self, solution: Solution) -> float:
        inside = {c.id for c in self.network.cells if c.owner == self.sump.id}
        total = 0.0
        for way in self.network.ways:
            if (way.b in inside) != (way.a in inside):
                q = solution.flow[way.id]
                total += max(q if way.b in inside else -q, 0.0)
        return total

    def supply(self, solution: Solution, tank_id: str) -> float:
        """What pumps and manifolds give a tank, m³/s."""
        return sum(solution.flow[key] for key in self._feeds.get(tank_id, ()))

    def moved(self, solution: Solution, tank_id: str) -> float:
        """What pumps give a tank and its own filters turn over in it, m³/s."""
        return sum(max(solution.flow[key], 0.0) for key in self._movers.get(tank_id, ()))

    @cached_property
    def _movers(self) -> dict[str, list[str]]:
        """Ids of the ways that feed each tank or turn its water over: lifts and pumps, and pipes back from filters."""
        found = {key: list(ways) for key, ways in self._feeds.items()}
        tanks = {t.id for t in self.system.tanks}
        owners = {f.id for f in self.system.filters}
        for way in self.network.ways:
            if way.b in tanks and (way.kind in ("lift", "inner-pump", "feed-pump") or way.owner in owners):
                found.setdefault(way.b, []).append(way.id)
        return found

    @cached_property
    def _feeds(self) -> dict[str, list[str]]:
        """Ids of the ways that feed each tank."""
        found: dict[str, list[str]] = {}
        for way in self.network.ways:
            if way.kind in ("pump", "branch"):
                found.setdefault(way.b, []).append(way.id)
        return found

    def returns(self, **change: object) -> dict[str, Law | None]:
        """Return laws with some attributes changed."""
        return {k: replace(law, **change) for k, law in self.laws.items() if isinstance(law, ReturnLine)}  # type: ignore[arg-type]

    @cached_property
    def pump_ducts(self) -> dict[str, PumpDuct]:
        """The manifolds' pumps by id."""
        ducts = (d for g in self.network.groups if isinstance(g, Ducts) for d in g.ducts)
        return {d.id: d for d in ducts if isinstance(d, PumpDuct)}

    def standing(self, leak: float, network: Network | None = None) -> Network:
        """All pumps off, their valves letting a share of the free back-flow through; where there is no valve, all of it."""
        base = network or self.calm
        lines: dict[str, Law | None] = {
            k: replace(law, on=False, leak=leak if law.valve else 1.0)
            for k, law in self.laws.items()
            if isinstance(law, ReturnLine)
        }
        base = base.replace_links(lines)
        if not base.groups:
            return base
        off = {k: {"on": False, "leak": leak if d.valve else 1.0} for k, d in self.pump_ducts.items()}
        return base.with_groups(
            g.changed(off) if isinstance(g, Ducts) else g.changed(on=False) if isinstance(g, Aeration) else g
            for g in base.groups
        )

    @cached_property
    def airs(self) -> dict[str, Aeration]:
        """The groups of the air pumps by id."""
        return {g.supply.id: g for g in self.network.groups if isinstance(g, Aeration)}

    @cached_property
    def calm(self) -> Network:
        """The network without fresh water and waste, which are slow: what a state of minutes is judged by."""
        slow: dict[str, Law | None] = {k.id: None for k in self.network.links if k.kind in ("top-up", "waste")}
        return self.network.replace_links(slow) if slow else self.network

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
        """Names of all situations that this system can be in, in the order of the strip."""
        gone = set()
        if not self.system.airs:
            gone.add("air_open")
        if not self.has_sump:
            gone |= {"valve_leaks", "cleaning"}
        if not pumped_outs(self.system):
            gone.add("pipe_blocked")
        if not self.drains(False) or not (self.system.returns or self.system.manifolds):
            gone.add("drain_blocked")
        return [name for name in TITLES if name not in gone]

    def situation(self, name: str) -> Situation:
        """One situation, solved once. Raises FuenteError where the water finds no state."""
        if name in self._failed:
            raise self._failed[name]
        if name not in self._done:
            try:
                self._done[name] = getattr(self, f"_{name}")()
            except FuenteError as error:
                self._failed[name] = error
                raise
        return self._done[name]

    def peek(self, name: str) -> Situation | FuenteError | None:
        """One situation: solved now in a small system, None where a large one has not been solved for it yet."""
        if name in self._done or name in self._failed or not self.large:
            return self.try_situation(name)
        return None

    @property
    def large(self) -> bool:
        """Whether the situations take longer than a frame: they are then solved aside."""
        return len(self.network.cells) > LARGE

    def try_situation(self, name: str) -> Situation | FuenteError:
        """One situation, or the reason why there is none."""
        try:
            return self.situation(name)
        except FuenteError as error:
            return error

    def at_rest(self) -> Situation:
        """Still water with the marks as they are: what is shown where nothing can run."""
        off = self.standing(0.0)
        start = {c.id: c.floor + 0.6 * (c.rim - c.floor) for c in off.cells if not c.sink}
        for flow in self.system.overflows:
            start[flow.tank] = self.system.tank(flow.tank).floor + flow.crest
            start[overflow_network.cell_id(flow)] = self.system.tank(flow.tank).floor + 0.02
        for pipe in self.system.standpipes:
            start[pipe.tank] = self.system.tank(pipe.tank).floor + pipe.mouth
        for header in self.system.headers:
            start[header.id] = header.low_end
        for cell in self.sump_cells() if self.has_sump else ():
            start[cell] = min(self.network.marks.get(self.pump_cell, start[cell]), self.network.cell(cell).rim - 0.01)
        return Situation("rest", "At rest", settle(off, start), Verdict("nothing runs", {}, Rank.STOP))

    def _settle(self, name: str, network: Network, start: Mapping[str, float]) -> Solution:
        return settle(network, start, self._guess.get(name))

    def settled(self, name: str, network: Network, start: Mapping[str, float] | None = None) -> Solution:
        """Where the water goes from the running levels, or others, in a changed network; what is known of that situation is a guess."""
        solution = self._settle(name, network, self.running.level if start is None else start)
        self._guess[name] = solution.level
        return solution

    def _running(self) -> Situation:
        for line in self.system.returns:
            self._reaches(line)
        for duct in self.pump_ducts.values():
            mark = self.network.marks.get(duct.a)
            if mark is not None and mark <= duct.intake:
                raise FuenteError("The running level is marked at or below the pump's intake: raise the mark.")
        solution = steady(self.network, self._guess.get("running"))
        if self.pump_ducts and all(solution.flow[key] < 1e-9 for key in self.pump_ducts):
            raise PumpTooWeak(
                f"{self.system.manifolds[0].name}: the pump reaches no tank; take a stronger one, or open a valve."
            )
        rank = Rank.STOP if solution.spilling else None
        if self.has_sump:
            level, words = solution.depth(self.pump_cell), "sump {level:length}"
        else:
            moved = sum(max(solution.flow[w.id], 0.0) for w in self.network.ways if w.kind in MOVERS)
            level, words = moved, "{level:flow} moved"
            rank = rank or (Rank.STOP if self.system.filters and moved < 1e-9 else None)
        words = "water over the rim" if solution.spilling else words
        return Situation("running", TITLES["running"], solution, Verdict(words, {"level": level}, rank))

    def crest_of(self, tank: Tank) -> float:
        """Height in m over a tank's floor to which its drains take it: the lowest crest or mouth, its rim where it has none."""
        system = self.system
        crest = crest_of(system, tank.id)
        return tank.inner_height if crest is None else crest

    def _reaches(self, line: ReturnSpec) -> None:
        law = self.laws[return_network.link_id(line)]
        assert isinstance(law, ReturnLine)
        source = self.network.marks.get(self._pump_cell_of(line.source))
        if source is None:
            return
        tank = self.system.tank(line.tank)
        lift = law.lift(source, tank.floor + self.crest_of(tank))
        if law.curve.shutoff <= lift:
            raise PumpTooWeak(
                f"The pump does not reach {tank.name}: it lifts {law.curve.shutoff:.2f} m at most and the water "
                f"must rise {lift:.2f} m; take a stronger pump or lower the outlet."
            )
        if source <= law.intake:
            raise FuenteError("The running level is marked at or below the pump's intake: raise the mark.")

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
        solution = self._settle(name, self.standing(leak), self.running.level)
        left = self.freeboard(solution) if self.sump_cells() else self.tank_freeboard(solution)
        spilled = solution.volume.get(FLOOR, 0.0)
        numbers = {"left": left, "spilled": spilled, "back": self._gained(solution)}
        wanted = self.system.space.margin
        if spilled > 1e-7:
            verdict = Verdict("{spilled:volume} on the floor", numbers, Rank.STOP)
        else:
            tight = bool(self.sump_cells()) and left < wanted - 1e-6
            verdict = Verdict("{left:length} left", numbers, Rank.FIX if tight else None)
        return Situation(name, TITLES[name], solution, verdict, numbers)

    def _gained(self, solution: Solution) -> float:
        """Water in m³ that came down into the filters since running."""
        return sum(solution.volume[c] - self.running.volume[c] for c in self.sump_cells())

    def _power_cut(self) -> Situation:
        return self._after_cut("power_cut", 0.0)

    def _valve_leaks(self) -> Situation:
        return self._after_cut("valve_leaks", 1.0)

    def drains(self, emergency: bool, tank: str = "") -> list[str]:
        """Link ids of drains that are, or are not, emergency drains; of one tank, or of all."""
        found = []
        for flow in self.system.overflows:
            if tank in ("", flow.tank):
                for i, drain in enumerate(flow.drains):
                    if (drain.role == "emergency") == emergency:
                        found.append(overflow_network.drain_id(flow, i))
        found += [
            standpipe_network.link_id(s)
            for s in self.system.standpipes
            if tank in ("", s.tank) and s.emergency == emergency
        ]
        if not emergency:
            found += [hang_on_network.drain_id(h) for h in self.system.hang_ons if tank in ("", h.tank)]
        return found

    def most_exposed(self) -> str:
        """Id of the tank with the least room for the water that its pump gives: the one to block a drain of."""
        tanks = self.system.tanks
        if len(tanks) == 1:
            return tanks[0].id

        def room(tank_id: str) -> float:
            cell = self.network.cell(tank_id)
            gives = self.supply(self.running, tank_id)
            spare = cell.curve.volume(cell.rim) - self.running.volume[tank_id]
            return spare if gives > 1e-9 and self.drains(False, tank_id) else float("inf")

        return min((t.id for t in tanks), key=room)

    def blocked(self, keys: Iterable[str], share: float = 1.0) -> dict[str, Law | None]:
        """Drain laws with a share of each blocked."""
        change: dict[str, Law | None] = {}
        for key in keys:
            law = self.laws[key]
            assert isinstance(law, Standpipe)
            change[key] = replace(law, open_share=1.0 - share)
        return change

    def _drain_blocked(self) -> Situation:
        tank = self.most_exposed()
        network = self.calm.replace_links(self.blocked(self.drains(False, tank)))
        solution = self._settle("drain_blocked", network, self.running.level)
        rise = solution.level[tank] - self.running.level[tank]
        own = {*self.drains(True, tank)}
        carried = sum(solution.flow[key] for key in own)
        spilled = solution.spilled
        numbers = {"rise": rise, "spilled": spilled, "left": solution.freeboard(tank), "carried": carried}
        who = "tank" if len(self.system.tanks) == 1 else self.system.tank(tank).name
        if spilled > 1e-7:
            verdict = Verdict("{spilled:volume} on the floor", numbers, Rank.STOP)
        elif carried > 1e-6:
            verdict = Verdict(f"{who} +{{rise:length}}, holds", {**numbers, "rise": max(rise, 0.0)})
        else:
            verdict = Verdict(f"{who} +{{rise:length}}, pump dry", numbers, Rank.FIX)
        return Situation("drain_blocked", TITLES["drain_blocked"], solution, verdict, numbers)

    def _pads_dirty(self) -> Situation:
        clean = self._pad_mediums()
        change: dict[str, Law | None] = {}
        for key, law in self.laws.items():
            if key in clean and isinstance(law, Pad | Sheet):
                change[key] = replace(law, medium=clean[key].dirty(DIRTY))
        soft = self.soft_beds()
        change.update({key: replace(law, dirt=DIRTY) for key, law in soft.items()})
        change.update(self.soft_pads(DIRTY))
        solution = self._settle("pads_dirty", self.calm.replace_links(change), self.running.level)
        over = [k.id for k in self.network.links if k.kind == "bypass" and solution.flow[k.id] > 1e-7]
        drop = max((self.pad_drop(solution, key) for key in change), default=0.0)
        numbers = {
            "drop": drop,
            "level": solution.depth(self.pump_cell) if self.has_sump else 0.0,
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

    def soft_beds(self) -> dict[str, Bed | Sealed | Through]:
        """Beds, sponges and foam of filters, by link id: what clogs."""
        return {
            k: law
            for k, law in self.laws.items()
            if isinstance(law, Bed | Sealed | Through) and law.soft.straight + law.soft.square > 0
        }

    def soft_pads(self, dirt: float) -> dict[str, Law | None]:
        """Upright foam of filters at so many times its clean loss, by link id."""
        owners = {f.id: float(getattr(f, "dirt", 1.0)) for f in self.system.filters}
        return {
            k.id: replace(k.law, medium=k.law.medium.dirty(dirt / owners[k.owner]))
            for k in self.network.links
            if isinstance(k.law, Pad) and k.owner in owners
        }

    def _air_open(self) -> Situation:
        return air_open(self)

    def _pipe_blocked(self) -> Situation:
        return pipe_blocked(self)

    def wide_open(self, air_id: str) -> dict[str, float]:
        """What each filter on an air pump would lose of its air, as a share, if the valve that matters most fell wide open."""
        if air_id not in self._wide:
            self._wide[air_id] = wide_open(self, air_id)
        return self._wide[air_id][0]

    def opened_most(self, air_id: str) -> int:
        """Position of that valve's drop."""
        self.wide_open(air_id)
        return self._wide[air_id][1]

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
        return self.evaporation_of({c.id for c in self.network.cells})

    def evaporation_of(self, body: Container[str]) -> float:
        """The same of a body of water, by the ids of its cells."""
        space = self.system.space
        first = self.system.tanks[0].temperature
        areas: dict[float, float] = {}
        for tank in self.system.tanks:
            if tank.id not in body:
                continue
            wet = tank.inner_length * tank.inner_width * (1 - tank.cover)
            areas[tank.temperature] = areas.get(tank.temperature, 0.0) + wet
        for device in self.system.devices:
            if sump_network.cell_ids(device, device.chambers[0])[0] in body:
                areas[first] = areas.get(first, 0.0) + device.inner_length * device.inner_width
        beside = {f.id: f.tank for f in self.system.filters if kind_of(f).vessel is not None}
        for cell in self.network.cells:
            if cell.owner in beside and cell.id in body:
                home = self.system.tank(beside[cell.owner]).temperature
                areas[home] = areas.get(home, 0.0) + cell.curve.volume_and_area(cell.rim)[1]
        return sum(evaporation(a, t, space.air, space.humidity) for t, a in areas.items())

    def guess(self, name: str) -> Mapping[str, float]:
        """Levels from which a situation is solved: those of a neighbouring design, or the running ones."""
        return self._guess.get(name, self.running.level)

    def _evaporated(self) -> Situation:
        return evaporated(self)

    def _cleaning(self) -> Situation:
        return cleaning(self)
