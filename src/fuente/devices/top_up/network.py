"""Fresh water as a source, a valve and a way to waste."""

from __future__ import annotations

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Fragment
from fuente.devices.site import Port, Site
from fuente.devices.top_up.spec import TopUp
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.network.laws import Standpipe
from fuente.network.level_curve import LevelCurve
from fuente.network.model import Cell, Law, Link, WayKind
from fuente.network.supplies import Feed, FloatValve
from fuente.one_line import within

RESERVOIR_HEIGHT = 0.3  # m: how tall a reservoir is taken to be; only its litres matter
_OVER = 0.5  # m that it stands over the float


def source_id(spec: TopUp) -> str:
    """Id of the cell that the water comes from."""
    return f"{spec.id}.source"


def valve_id(spec: TopUp) -> str:
    """Id of the float's or drip's link."""
    return f"{spec.id}.valve"


def waste_id(spec: TopUp) -> str:
    """Id of the cell that takes what goes to waste, and of the link to it with ``.line``."""
    return f"{spec.id}.waste"


def port_of(spec: TopUp, site: Site) -> Port:
    """Where it lets its water in: the chamber that is chosen, the pump's, or all of a vessel without chambers."""
    into = site.vessels[spec.into]
    return into.port(spec.chamber or "pump")


def outside(cell_id: str, name: str, source: bool) -> Cell:
    """A cell that stands for the world outside: it gives or takes without end."""
    return Cell(cell_id, name, -1000.0, -999.0, LevelCurve.prism(-1000.0, -999.0, 1e4), sink=True, source=source)


def lower(spec: TopUp, site: Site) -> Fragment:
    """Cells and links into its water."""
    into = site.vessels[spec.into]
    pump, floor, rim, water = port_of(spec, site).leave, into.floor, into.rim, site.water
    whose = "the sump's" if into.ports else f"{into.name}'s"
    if spec.source in ("reservoir", "mains") and floor + spec.level >= rim:
        raise SpecError(f"The float of {spec.name} shuts above {whose} rim.")
    cells: list[Cell] = []
    links: list[Link] = []
    marks = {}
    law: Law
    if spec.source == "reservoir":
        foot = floor + spec.level + _OVER
        curve = LevelCurve.prism(foot, foot + RESERVOIR_HEIGHT, spec.volume / RESERVOIR_HEIGHT)
        cell = Cell(
            source_id(spec), f"Reservoir of {within(spec.name)}", foot, foot + RESERVOIR_HEIGHT, curve, owner=spec.id
        )
        law = FloatValve(floor + spec.level, spec.band, spec.most, foot)
        marks[cell.id] = foot + RESERVOIR_HEIGHT - 1e-6
        cells.append(cell)
    elif spec.source != "none":
        cell = outside(source_id(spec), "The mains", True)
        law = FloatValve(floor + spec.level, spec.band, spec.most, None) if spec.source == "mains" else Feed(spec.drip)
        cells.append(cell)
    if cells:
        links.append(Link(valve_id(spec), spec.name, cells[0].id, pump, law, WayKind.TOP_UP, spec.id))
    if spec.waste:
        mouth = floor + spec.waste_mouth
        if mouth >= rim:
            raise SpecError(f"The overflow of {spec.name} stands above {whose} rim.")
        size = pipe_size(spec.waste_pipe)
        pipe = Pipe(size.bore, 1.0, fitting("entrance_reentrant").k + 1.9, size.roughness, water)
        bore = size.bore
        cells.append(outside(waste_id(spec), "Waste", False))
        line = Standpipe(mouth, mouth - 0.5, pipe, 0.6 * bore, 1.4 * bore)
        links.append(
            Link(f"{waste_id(spec)}.line", "Overflow to waste", pump, waste_id(spec), line, WayKind.WASTE, spec.id)
        )
    return Fragment(tuple(cells), tuple(links), {}, marks)
