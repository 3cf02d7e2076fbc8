"""The section of the whole system, to scale, in any situation; with many tanks, the elevation of their rack."""

from __future__ import annotations

from fuente.devices import kind_of
from fuente.devices.contract import Look
from fuente.devices.homes import HomeSpec
from fuente.devices.site import Port, Vessel
from fuente.drawing.primitives import Drawing, Label, Polyline, Primitive
from fuente.network.model import Solution
from fuente.shown.shares import tank_shares
from fuente.study.analysis import Analysis
from fuente.study.situation import Situation

SEEN = 0.0005  # m by which a level must differ before both are drawn


def section(analysis: Analysis, situation: Situation, focus: str = "") -> Drawing:
    """Tanks, filters and pipes with the situation's water; ``focus`` is the chosen tank. Millimetres."""
    many = len(analysis.system.tanks) > 1
    shares = tank_shares(analysis, situation) if many else {}
    look = Look(analysis, situation.solution, situation.name, focus, many, shares)
    drawing = Drawing(())
    for device in analysis.ordered:
        made = kind_of(device).sketch(device, analysis.sites[device.id], look)
        bare = kind_of(device).at_home and not look.chosen(device.home, device.id)
        drawing += Drawing(made.shapes, (), made.behind) if bare else made
    for vessel, well in analysis.wells():
        if well.mark_path:
            drawing += _marks(analysis, situation, vessel, well, many)
    return drawing.flat()


def own_section(analysis: Analysis, situation: Situation, device_id: str) -> Drawing:
    """One device alone, as the section has it: what is not cut by itself is looked at so. Millimetres, no handles."""
    device = analysis.system.device(device_id)
    look = Look(analysis, situation.solution, situation.name, "", len(analysis.system.tanks) > 1)
    made = kind_of(device).sketch(device, analysis.sites[device.id], look)
    return Drawing(made.shapes, (), made.behind).flat()


def _marks(analysis: Analysis, situation: Situation, vessel: Vessel, well: Port, many: bool) -> Drawing:
    """The running level under other situations; what a power cut would do over the running one."""
    shapes: list[Primitive] = []
    if situation.name == "rest":  # nothing runs: there is no running level to compare with
        return Drawing(())
    x0, x1, cell = well.left * 1000, well.right * 1000, well.leave
    if situation.name == "running":
        cut = analysis.peek("power_cut")
        if isinstance(cut, Situation):
            y = min(cut.solution.level[cell], vessel.rim) * 1000
            bad = cut.verdict.rank is not None
            left = cut.numbers["left"]
            shapes.append(Polyline(((x0, y), (x1, y)), "mark-stop" if bad else "mark", vessel.id))
            words = "power cut: {left:level} left" if left > SEEN else "power cut: it spills"
            style = "label-stop" if bad else "label-mark"
            shapes.append(Label((x1 + 22, y), words, style, "left", values=(("left", left),)))
    else:
        running = analysis.running
        y = running.level[cell] * 1000
        shapes.append(Polyline(((x0, y), (x1, y)), "mark", vessel.id))
        shapes.append(Label((x1 + 22, y), "running level", "label-mark", "left"))
        if not many:
            for tank in analysis.system.tanks:
                shapes += _ghost(running, situation.solution, tank)
    return Drawing(tuple(shapes))


def _ghost(running: Solution, now: Solution, tank: HomeSpec) -> list[Primitive]:
    cell = tank.id
    if abs(running.level[cell] - now.level[cell]) < SEEN:
        return []
    y = running.level[cell] * 1000
    a, b = (tank.offset + tank.length * 0.3) * 1000, (tank.offset + tank.length - tank.thickness) * 1000
    return [
        Polyline(((a, y), (b, y)), "mark", cell),
        Label((a + 8, y + 24), "running level", "label-mark", "left"),
    ]
