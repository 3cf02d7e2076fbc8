"""What a tank's card shows of its standpipe."""

from __future__ import annotations

from fuente.devices.base import Basin, Choice, Path, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.draining import drain_run, most
from fuente.devices.offered import Offer
from fuente.devices.options import chamber_choice, pipe_options
from fuente.devices.site import Site
from fuente.devices.standpipe.network import link_id
from fuente.devices.standpipe.spec import StandpipeSpec
from fuente.network.model import Solution


def choices(spec: StandpipeSpec, site: Site, path: Path, pipes: tuple[tuple[str, str], ...]) -> tuple[Choice, ...]:
    """Its fields."""
    what = "Emergency drain" if spec.emergency else "Drain"
    yes_no = ((True, "with a strainer"), (False, "open"))
    return (
        Choice((*path, "mouth"), f"{what} mouth above floor", "length", spec.mouth, step=0.002),
        Choice((*path, "pipe"), f"{what} pipe", "choice", spec.pipe, pipes),
        Choice((*path, "strainer"), f"{what} mouth", "choice", spec.strainer, yes_no, fold=True),
        Choice((*path, "run"), f"{what}, sideways run", "length", spec.run, fold=True),
        Choice((*path, "fittings"), f"{what} fittings", "fittings", spec.fittings, fold=True),
        *chamber_choice(path, site, spec.into, spec.chamber, f"{what} ends in", "the first chamber"),
    )


def readings(spec: StandpipeSpec, tank: Basin, solution: Solution, margin: float) -> tuple[Reading, ...]:
    """How it runs, and what it could carry."""
    run = drain_run(link_id(spec), solution)
    what = "Emergency drain" if spec.emergency else "Drain"
    return (
        Reading(
            f"{what} runs",
            run.mode,
            "",
            f"{{{run.flow:g}:flow}} at {{{run.speed:g}:speed}}; quiet as an open channel up to "
            f"{{{run.open_capacity / 2:g}:flow}}.",
            "Wyly and Eaton 1961; energy from level to level",
            "±15 %, gulping ±30 %",
        ),
        Reading(
            f"{what} could carry",
            most(link_id(spec), solution, tank.rim - margin),
            "flow",
            "With the water your margin under the rim, the header as it stands.",
        ),
    )


def card(spec: StandpipeSpec, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """It has no row of its own: its tank's card shows it."""
    return ()


def offers(spec: StandpipeSpec, site: Site, study: Study, solution: Solution, device_id: str) -> Offer | None:
    """Its fields and how it runs, on its tank's card."""
    if spec.tank != device_id:
        return None
    found = readings(spec, site.tank, solution, site.space.margin)
    return Offer(choices(spec, site, spec.path, pipe_options()), found)
