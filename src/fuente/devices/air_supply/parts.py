"""What an air supply is made of."""

from __future__ import annotations

from fuente.devices.air_supply.spec import AirSupplySpec
from fuente.devices.filtering import FilterSpec
from fuente.devices.pieces import ELECTRIC, Parts, Piece, Pipe, Shelf, Thing, note, tool
from fuente.devices.pocket import AIR_CAUTION
from fuente.devices.site import Site
from fuente.network.model import Solution


def parts(spec: AirSupplySpec, site: Site, solution: Solution) -> Parts:
    """Pump, manifold, valves, lines."""
    pump = spec.pump
    found: list[Piece] = [
        Thing(
            id=f"{spec.id}.pump",
            name=pump.name,
            shelf=Shelf.EQUIPMENT,
            count=spec.pumps,
            about=note(
                "{p:air_pressure} at no flow, {q:air_flow} at no pressure", p=pump.max_pressure, q=pump.max_flow
            ),
            notes=(note("{w:power}", w=pump.watts),),
        ),
        Pipe(
            id=f"{spec.id}.main",
            form="Air manifold, rigid pipe",
            bore=spec.bore,
            length=sum(d.spacing for d in spec.drops),
        ),
        tool(f"{spec.id}.valves", "Air valve", note("one for each drop"), count=len(spec.drops)),
    ]
    checks = sum(d.check for d in spec.drops)
    if checks:
        found.append(tool(f"{spec.id}.checks", "Air check valve", note("mind its direction"), count=checks))
    own = {key for key, d in site.devices.items() if isinstance(d, FilterSpec) and d.ends_its_line}
    stones = sum(d.end == "diffuser" for d in spec.drops if d.to not in own)  # theirs are on their own lists
    if stones:
        clogs = note("clogs: change it twice a year")
        found.append(tool(f"{spec.id}.stones", "Air diffuser", clogs, count=stones))
    for bore in sorted({d.bore for d in spec.drops}):
        run = sum(d.length for d in spec.drops if d.bore == bore)
        all_drops = (note("all drops"),)
        found.append(Pipe(id=f"{spec.id}.line.{bore}", form="Airline", bore=bore, length=run, notes=all_drops))
    return Parts(tuple(found), (AIR_CAUTION, ELECTRIC))
