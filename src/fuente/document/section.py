"""The section of the whole system, to scale, in any situation."""

from __future__ import annotations

from fuente.devices.overflow.sketch import sketch as sketch_overflow
from fuente.devices.overflow.sketch import span
from fuente.devices.return_line.sketch import sketch as sketch_return
from fuente.devices.sump.sketch import sketch as sketch_sump
from fuente.devices.tank.sketch import sketch as sketch_tank
from fuente.document.analysis import Analysis, Situation
from fuente.drawing.primitives import Drawing, Label, Polyline, Primitive
from fuente.network.model import Solution


def section(analysis: Analysis, situation: Situation) -> Drawing:
    """Tanks, filters and pipes with the situation's water. Millimetres."""
    system = analysis.system
    solution = situation.solution
    drawing = Drawing(())
    for tank in system.tanks:
        start, end = tank.thickness, tank.length - tank.thickness
        for flow in system.overflows:
            if flow.tank == tank.id:
                a, b = span(flow, tank)
                if flow.side == "left":
                    start = b + flow.wall
                else:
                    end = a - flow.wall
        drawing += sketch_tank(tank, solution, start, end)
    for i, device in enumerate(system.devices):
        drawing += sketch_sump(device, solution, ("devices", i))
    for i, flow in enumerate(system.overflows):
        device = system.device(flow.into)
        middle = device.offset + device.thickness + device.starts()[0] + device.widths()[0] / 2
        drawing += sketch_overflow(
            flow, system.tank(flow.tank), solution, ("overflows", i), (middle, device.floor), device.rim
        )
    for i, line in enumerate(system.returns):
        device = system.device(line.source)
        chamber_start = device.offset + device.thickness + device.starts()[-1]
        width = device.widths()[-1]
        at = (chamber_start + max(width * 0.62, width - 0.06), device.floor)
        top = (device.offset + device.length, device.rim)
        lift = solution.level[line.tank] - solution.level[analysis.pump_cell]
        drawing += sketch_return(line, system.tank(line.tank), solution, ("returns", i), at, top, lift)
    drawing += _marks(analysis, situation)
    return drawing


def _marks(analysis: Analysis, situation: Situation) -> Drawing:
    """The running level under other situations; what a power cut would do over the running one."""
    shapes: list[Primitive] = []
    if situation.name == "rest":  # nothing runs: there is no running level to compare with
        return Drawing(())
    sump = analysis.sump
    x0 = (sump.offset + sump.thickness + sump.starts()[-1]) * 1000
    x1 = x0 + sump.widths()[-1] * 1000
    cell = analysis.pump_cell
    if situation.name == "running":
        cut = analysis.try_situation("power_cut")
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
        for tank in analysis.system.tanks:
            shapes += _ghost(running, situation.solution, tank.id, tank.thickness, tank.length)
    return Drawing(tuple(shapes))


def _ghost(running: Solution, now: Solution, cell: str, thickness: float, length: float) -> list[Primitive]:
    if abs(running.level[cell] - now.level[cell]) < 0.0005:
        return []
    y = running.level[cell] * 1000
    a, b = (length * 0.3) * 1000, (length - thickness) * 1000
    return [
        Polyline(((a, y), (b, y)), "mark", cell),
        Label((a + 8, y + 24), "running level", "label-mark", "left"),
    ]
