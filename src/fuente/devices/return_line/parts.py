"""Pump, pipe, valve and outlets of a return."""

from __future__ import annotations

from fuente.catalogue import fitting
from fuente.devices.pieces import ELECTRIC, Parts, Piece, Pipe, Shelf, Thing, fittings_of, note, tool
from fuente.devices.pumping import pump_piece
from fuente.devices.return_line.network import end_of
from fuente.devices.return_line.spec import ReturnSpec
from fuente.devices.site import Site
from fuente.network.model import Solution
from fuente.one_line import within

OVER = 0.05  # m over the tank's rim that the pipe goes


def parts(line: ReturnSpec, site: Site, solution: Solution) -> Parts:
    """In the order of the water."""
    tank, pump_floor = end_of(line, site), site.vessels[line.source].floor
    found: list[Piece] = [
        pump_piece(f"{line.id}.pump", line.pump),
        Pipe(id=f"{line.id}.rise", pipe=line.pipe, length=tank.rim + OVER - pump_floor, notes=(note("return: up"),)),
        Pipe(id=f"{line.id}.run", pipe=line.pipe, length=line.run, notes=(note("return: sideways"),)),
        *fittings_of(line.id, line.fittings, line.pipe, note("return")),
    ]
    if line.valve != "none":
        second = note("the second line behind the air holes; fit it where you can reach it")
        found.append(tool(f"{line.id}.valve", fitting(line.valve).name, second, pipe=line.pipe, fits=line.valve))
    if line.lamp:
        found.append(
            Thing(
                id=f"{line.id}.lamp",
                name="Steriliser with its lamp and sleeve",
                shelf=Shelf.EQUIPMENT,
                length=line.lamp.length,
                diameter=line.lamp.diameter,
                about=note("{w:power}", w=line.lamp.watts),
                notes=(note("upright, so that air leaves it; unions at both ends"),),
            )
        )
    for outlet in line.outlets:
        hole = note("air hole {d:length}", d=outlet.hole) if outlet.hole else note("no air hole")
        found.append(
            Pipe(
                id=f"{line.id}.{outlet.name}",
                pipe=outlet.pipe,
                run=f"{line.id}.{outlet.name}",
                length=max(tank.rim + OVER - tank.floor - outlet.height, 0.0),
                exact=True,
                notes=(
                    note(
                        "down into the tank" if line.tank in site.homes else "down into the vessel",
                        of=within(outlet.name),
                    ),
                    hole,
                ),
            )
        )
    return Parts(tuple(found), (ELECTRIC,))
