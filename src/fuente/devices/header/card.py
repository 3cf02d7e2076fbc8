"""A common drain's row and card."""

from __future__ import annotations

from fuente.devices.base import Choice, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.header.network import link_id
from fuente.devices.header.spec import HeaderSpec
from fuente.devices.options import chamber_choice, pipe_options
from fuente.devices.site import Site
from fuente.hydraulics.drains import open_channel_capacity
from fuente.network.model import Solution
from fuente.network.supplies import FULL, Header


def law_in(spec: HeaderSpec, solution: Solution) -> Header:
    """Its law in a solution."""
    law = solution.network.link(link_id(spec)).law
    assert isinstance(law, Header)
    return law


def capacity(spec: HeaderSpec, solution: Solution) -> float:
    """What it carries in m³/s before it runs full, the down pipe as it stands."""
    law = law_in(spec, solution)
    link = solution.network.link(link_id(spec))
    return law.flow(law.invert + (FULL if spec.form == "pipe" else 1.0) * spec.depth, solution.level[link.b])[0]


def card(spec: HeaderSpec, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """The header as a station."""
    flow = max(solution.flow[link_id(spec)], 0.0)
    depth = max(solution.level[spec.id] - spec.low_end, 0.0)
    most = capacity(spec, solution)
    law = law_in(spec, solution)
    return (
        Station(
            spec.id,
            spec.name,
            "{flow:flow} of {most:flow}",
            {"flow": flow, "most": most},
            used=min(1.0, flow / most) if most > 0 else 1.0,
            glyph="standpipe",
            cells=(spec.id,),
            big=(Reading("now", flow, "flow"), Reading("before it runs full", most, "flow")),
            choices=_choices(spec, site),
            readings=(
                Reading("Water in it stands", depth, "level", "Over the low end's floor."),
                Reading("Full to", min(depth / spec.depth, 9.9), "fraction", "Depth over its bore or height."),
                Reading(
                    "Down pipe, open channel",
                    open_channel_capacity(law.down.bore),
                    "flow",
                    "Up to here falling water leaves a core of air and is quiet under half of it.",
                    "Wyly and Eaton 1961",
                    "±15 %",
                ),
            ),
            why=Reading(
                "Why this much",
                most,
                "flow",
                "A sloping pipe carries by its fall and how deep it runs; over nine tenths of its bore it carries no"
                " more. The down pipe's mouth is a weir, then an orifice. Whichever passes less is the limit; beyond it"
                " water backs up into the tanks' drains.",
                "Manning with n = 0.010; weir and orifice at the mouth",
                "±15 %",
            ),
        ),
    )


def _choices(spec: HeaderSpec, site: Site) -> tuple[Choice, ...]:
    path, pipes = spec.path, pipe_options()
    sizes = (
        (Choice((*path, "pipe"), "Header pipe", "choice", spec.pipe, pipes),)
        if spec.form == "pipe"
        else (
            Choice((*path, "gutter_width"), "Gutter width", "length", spec.gutter_width, step=0.005),
            Choice((*path, "gutter_height"), "Gutter height", "length", spec.gutter_height, step=0.005),
        )
    )
    return (
        Choice((*path, "form"), "Form", "choice", spec.form, (("pipe", "closed pipe"), ("gutter", "open gutter"))),
        *sizes,
        Choice((*path, "down"), "Pipe down to the sump", "choice", spec.down, pipes),
        Choice((*path, "slope"), "Fall along it", "fraction", spec.slope, step=0.005),
        Choice((*path, "low_end"), "Low end above the room's floor", "length", spec.low_end, step=0.01),
        Choice((*path, "length"), "Length", "run", spec.length, step=0.1, fold=True),
        Choice((*path, "run"), "Sideways run of the fall", "length", spec.run, fold=True),
        Choice((*path, "fittings"), "Fittings of the fall", "fittings", spec.fittings, fold=True),
        Choice((*path, "release"), "Ends above the sump's floor", "length", spec.release, fold=True),
        *chamber_choice(path, site, spec.into, spec.chamber, "Ends in", "the first chamber"),
        Choice((*path, "name"), "Name", "text", spec.name, fold=True),
    )
