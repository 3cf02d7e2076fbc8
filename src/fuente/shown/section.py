"""The section of the whole system, to scale, in any situation; with many tanks, the elevation of their rack."""

from __future__ import annotations

from collections.abc import Mapping

from fuente.devices import kind_of
from fuente.devices.air_supply.sketch import sketch as sketch_air
from fuente.devices.base import Basin
from fuente.devices.filtering import Vessel
from fuente.devices.hang_on.sketch import sketch as sketch_hang_on
from fuente.devices.header.sketch import sketch as sketch_header
from fuente.devices.join.sketch import sketch as sketch_join
from fuente.devices.manifold.sketch import sketch as sketch_manifold
from fuente.devices.overflow.sketch import sketch as sketch_overflow
from fuente.devices.overflow.sketch import span
from fuente.devices.return_line.sketch import sketch as sketch_return
from fuente.devices.standpipe.sketch import sketch as sketch_standpipe
from fuente.devices.sump.sketch import sketch as sketch_sump
from fuente.devices.sump.spec import Sump
from fuente.devices.tank.sketch import Share, front
from fuente.devices.tank.sketch import sketch as sketch_tank
from fuente.devices.tank.spec import Tank
from fuente.devices.top_up.sketch import sketch as sketch_top_up
from fuente.document.system import System
from fuente.drawing.primitives import Drawing, Label, Point, Polyline, Primitive
from fuente.network.model import Solution
from fuente.study.analysis import Analysis, Situation
from fuente.study.lowering import foot_of
from fuente.study.sites import span_of, vessels_of

_RISER = 0.12  # m right of everything: where manifolds rise


def section(analysis: Analysis, situation: Situation, focus: str = "") -> Drawing:
    """Tanks, filters and pipes with the situation's water; ``focus`` is the chosen tank. Millimetres."""
    system = analysis.system
    solution = situation.solution
    drawing = Drawing(())
    many = len(system.tanks) > 1
    shares = tank_shares(analysis, situation) if many else {}
    busy = {f.tank for f in system.filters if kind_of(f).inside}
    behind, before = _standpipes(system, solution, focus, many)
    drawing += behind
    for tank in system.tanks:
        if many and all(o.tank != tank.id for o in system.overflows):
            drawing += front(tank, tank.offset, solution, shares.get(tank.id), tank.id == focus, tank.id in busy)
        else:
            drawing += _tank(system, tank, solution).moved(tank.offset * 1000)
    drawing += _filters(analysis, solution, focus, many)
    drawing += before + _drains(system, solution)
    for i, device in enumerate(system.devices):
        drawing += sketch_sump(device, solution, ("devices", i))
    for i, join in enumerate(system.joins):
        first, second = system.device(join.first), system.device(join.second)
        leaves, enters = _beside(first, join.chamber, second, join.entry, join.style == "level")
        drawing += sketch_join(join, solution, ("joins", i), leaves, enters)
    drawing += _returns(analysis, solution)
    for i, top_up in enumerate(system.top_ups):
        device = system.device(top_up.into)
        at = (_x(device, -1), _x(device, -1) + device.widths()[-1])
        drawing += sketch_top_up(top_up, solution, ("top_ups", i), at, device.floor, device.rim)
    drawing += _airs(analysis, solution)
    for device in system.devices:
        if any(c.role == "pump" for c in device.chambers[-1:]):
            drawing += _marks(analysis.about(device.id), situation, many)
    return drawing


def _filters(analysis: Analysis, solution: Solution, focus: str, many: bool) -> Drawing:
    """Filters of other kinds; with many tanks, handles only in the chosen one."""
    drawing = Drawing(())
    for i, spec in enumerate(analysis.system.filters):
        made = kind_of(spec).sketch(spec, analysis.sites[spec.id], solution, ("filters", i))
        chosen = not many or focus in (spec.tank, spec.id)
        drawing += made if chosen else Drawing(made.shapes)
    return drawing


def _airs(analysis: Analysis, solution: Solution) -> Drawing:
    """The air pumps beside everything, with a manifold over each row of tanks."""
    system = analysis.system
    drawing = Drawing(())
    right = max(v.right for v in vessels_of(system).values()) * 1000
    tanks = {t.id: t for t in system.tanks}
    for i, air in enumerate(system.airs):
        ends: dict[str, tuple[Point, Point]] = {}
        for drop in air.drops:
            spec = system.filter(drop.to)
            at = kind_of(spec).air_at
            if at is not None:
                x, y = at(spec, analysis.sites[spec.id])
                aside = 500 * float(getattr(spec, "bore", 0.02)) + 7
                ends[drop.to] = ((x, y), (x - aside, tanks[spec.tank].rim * 1000 + 14))
        rows = sorted({tanks[system.filter(d.to).tank].rim * 1000 + 60 + 26 * i for d in air.drops}) or [
            air.height * 1000
        ]
        drawing += sketch_air(air, solution, ("airs", i), (right + 190 + 260 * i, air.height * 1000), ends, rows)
    return drawing


def tank_shares(analysis: Analysis, situation: Situation) -> dict[str, Share]:
    """What each tank gets in a situation, the least and the most marked."""
    solution = situation.solution
    fed = {b.tank for m in analysis.system.manifolds for row in m.rows for b in row.branches}
    fed |= {line.tank for line in analysis.system.returns} | {f.tank for f in analysis.system.filters}
    flows = {t.id: analysis.moved(solution, t.id) for t in analysis.system.tanks if t.id in fed}
    if not flows or max(flows.values()) < 1e-7:
        return {key: Share(0.0, 0.0, "", "still") for key in flows}
    turns = {key: q / max(analysis.running.volume[key], 1e-6) for key, q in flows.items()}
    least, most = min(turns, key=turns.__getitem__), max(turns, key=turns.__getitem__)
    even = turns[most] < 1.1 * max(turns[least], 1e-12)
    found = {}
    for key, q in flows.items():
        mark = "" if even else "least" if key == least else "most" if key == most else ""
        found[key] = Share(q, turns[key] / turns[most], mark)
    return found


def _tank(system: System, tank: Tank, solution: Solution) -> Drawing:
    start, end = tank.thickness, tank.length - tank.thickness
    for flow in system.overflows:
        if flow.tank == tank.id:
            a, b = span(flow, tank)
            if flow.side == "left":
                start = b + flow.wall
            else:
                end = a - flow.wall
    spans = sorted(span_of(f) for f in system.filters if f.tank == tank.id and kind_of(f).inside)
    if not spans:
        return sketch_tank(tank, solution, start, end)
    edges = [0.0, *(b for _, b in spans)], [*(a for a, _ in spans), tank.inner_length]
    a, b = max(zip(*edges, strict=True), key=lambda gap: gap[1] - gap[0])
    if b - a < 0.45 * tank.inner_length:  # a plate under the gravel leaves no gap, but water over it
        return sketch_tank(tank, solution, start, end)
    return sketch_tank(tank, solution, start, end, (a + tank.thickness, b + tank.thickness))


def _x(device: Sump, chamber: int) -> float:
    """Left inner end of a chamber in the drawing, m."""
    return device.offset + device.thickness + device.starts()[chamber]


def _middle(device: Sump, chamber: int) -> Point:
    return _x(device, chamber) + device.widths()[chamber] / 2, device.floor


def _standpipes(system: System, solution: Solution, focus: str, many: bool) -> tuple[Drawing, Drawing]:
    """The pipes down behind the tanks, and what stands in them."""
    behind, before = Drawing(()), Drawing(())
    vessels = vessels_of(system)
    rows: dict[float, int] = {stand: n for n, stand in enumerate(sorted({t.stand for t in system.tanks}))}
    for i, pipe in enumerate(system.standpipes):
        tank = system.tank(pipe.tank)
        falls = system.header(pipe.into)
        end = falls.low_end if falls else vessels[pipe.into].floor + pipe.release
        shift = 0.035 * rows[tank.stand]
        handles = not many or tank.id == focus
        down, up = sketch_standpipe(pipe, tank, tank.offset, solution, ("standpipes", i), end, shift, handles)
        behind += down
        before += up
    return behind, before


def _drains(system: System, solution: Solution) -> Drawing:
    drawing = Drawing(())
    vessels = vessels_of(system)
    for i, header in enumerate(system.headers):
        above = system.header(header.into)
        inlet = (
            (above_start(system, above.id), above.low_end)
            if above
            else _inlet(system, vessels, header.into, header.release)
        )
        drawing += sketch_header(header, solution, ("headers", i), above_start(system, header.id), inlet)
    for i, flow in enumerate(system.overflows):
        tank = system.tank(flow.tank)
        x, y = _inlet(system, vessels, flow.into, 0.0)
        inlet = (x - tank.offset, foot_of(system, flow, vessels) if system.header(flow.into) else y)
        rim = vessels[system.ends_in(flow.into)].rim
        local = sketch_overflow(flow, tank, solution, ("overflows", i), inlet, rim)
        drawing += local.moved(tank.offset * 1000)
    for i, box in enumerate(system.hang_ons):
        tank = system.tank(box.tank)
        x, y = _inlet(system, vessels, box.into, 0.0)
        drawing += sketch_hang_on(box, tank, solution, ("hang_ons", i), (x - tank.offset, y)).moved(tank.offset * 1000)
    return drawing


def _inlet(system: System, vessels: Mapping[str, Vessel], into: str, over: float) -> Point:
    """Where a drain comes down in its filter, m."""
    end = system.ends_in(into)
    sump = next((d for d in system.devices if d.id == end), None)
    if sump is not None:
        x, floor = _middle(sump, 0)
        return x, floor + over
    vessel = vessels[end]
    return vessel.left + min(0.15, (vessel.right - vessel.left) / 3), vessel.floor + over


def above_start(system: System, header_id: str) -> float:
    """Left end in m of a header: under the leftmost tank that drains into it."""
    tanks = [system.tank(s.tank) for s in system.standpipes if s.into == header_id]
    tanks += [system.tank(o.tank) for o in system.overflows if o.into == header_id]
    return min((t.offset for t in tanks), default=0.0)


def _beside(first: Sump, chamber: str, second: Sump, entry: str, level: bool) -> tuple[Point, Point]:
    """Where a join leaves and enters, m: at the walls that face each other, or over the chamber it falls into."""
    a = [c.id for c in first.chambers].index(chamber)
    b = [c.id for c in second.chambers].index(entry)
    right = first.offset <= second.offset
    leaves = first.offset + (first.length if right else 0.0)
    enters = second.offset + (0.0 if right else second.length)
    if level:
        inside = -first.thickness - 0.02 if right else first.thickness + 0.02
        return (leaves + inside, first.floor), (enters - inside, second.floor)
    return (_x(first, a) + first.widths()[a] - 0.08, first.floor), (
        _x(second, b) + second.widths()[b] / 2,
        second.floor,
    )


def _returns(analysis: Analysis, solution: Solution) -> Drawing:
    system = analysis.system
    drawing = Drawing(())
    for i, line in enumerate(system.returns):
        device = system.device(line.source)
        tank = system.tank(line.tank)
        width = device.widths()[-1]
        at = (_x(device, -1) + max(width * 0.62, width - 0.06) - tank.offset, device.floor)
        top = (device.offset + device.length - tank.offset, device.rim)
        pump = next(k.a for k in analysis.network.links if k.owner == line.id)
        lift = solution.level[line.tank] - solution.level[pump]
        drawing += sketch_return(line, tank, solution, ("returns", i), at, top, lift).moved(tank.offset * 1000)
    tanks: Mapping[str, tuple[Basin, float]] = {t.id: (t, t.offset) for t in system.tanks}
    ends = [t.offset + t.length for t in system.tanks] + [d.offset + d.length for d in system.devices]
    for i, manifold in enumerate(system.manifolds):
        pumps: dict[str, tuple[Point, float]] = {}
        for n, feeder in enumerate(manifold.feeders):
            device = system.device(feeder.source)
            width = device.widths()[-1]
            x = _x(device, -1) + max(width * 0.62 - 0.08 * n, min(0.05, width / 2))
            pumps[feeder.id] = ((x, device.floor), device.rim)
        loops: dict[str, Point] = {}
        for loop in manifold.loops:
            device = system.device(loop.into)
            index = [c.id for c in device.chambers].index(loop.chamber) if loop.chamber else 0
            x, floor = _middle(device, index)
            loops[loop.id] = (x + 0.05, floor)
        side = max(ends) + _RISER * (i + 1)
        drawing += sketch_manifold(manifold, tanks, solution, ("manifolds", i), pumps, loops, side)
    return drawing


def _marks(analysis: Analysis, situation: Situation, many: bool) -> Drawing:
    """The running level under other situations; what a power cut would do over the running one."""
    shapes: list[Primitive] = []
    if situation.name == "rest":  # nothing runs: there is no running level to compare with
        return Drawing(())
    sump = analysis.sump
    x0 = _x(sump, -1) * 1000
    x1 = x0 + sump.widths()[-1] * 1000
    cell = analysis.pump_cell
    if situation.name == "running":
        cut = analysis.peek("power_cut")
        if isinstance(cut, Situation):
            y = min(cut.solution.level[cell], sump.rim) * 1000
            bad = cut.verdict.rank is not None
            left = cut.numbers["left"]
            shapes.append(Polyline(((x0, y), (x1, y)), "mark-stop" if bad else "mark", sump.id))
            words = "power cut: {left:length} left" if left > 0.0005 else "power cut: it spills"
            style = "label-stop" if bad else "label-mark"
            shapes.append(Label((x1 + 22, y), words, style, "left", values=(("left", left),)))
    else:
        running = analysis.running
        y = running.level[cell] * 1000
        shapes.append(Polyline(((x0, y), (x1, y)), "mark", sump.id))
        shapes.append(Label((x1 + 22, y), "running level", "label-mark", "left"))
        if not many:
            for tank in analysis.system.tanks:
                shapes += _ghost(running, situation.solution, tank)
    return Drawing(tuple(shapes))


def _ghost(running: Solution, now: Solution, tank: Tank) -> list[Primitive]:
    cell = tank.id
    if abs(running.level[cell] - now.level[cell]) < 0.0005:
        return []
    y = running.level[cell] * 1000
    a, b = (tank.offset + tank.length * 0.3) * 1000, (tank.offset + tank.length - tank.thickness) * 1000
    return [
        Polyline(((a, y), (b, y)), "mark", cell),
        Label((a + 8, y + 24), "running level", "label-mark", "left"),
    ]
