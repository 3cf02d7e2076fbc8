"""Fresh water's row and card."""

from __future__ import annotations

from fuente.devices.base import Change, Choice, Edit, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.options import chamber_choice, pipe_options
from fuente.devices.site import Site
from fuente.devices.top_up.judge import room_of
from fuente.devices.top_up.spec import TopUp
from fuente.network.model import Solution

_SOURCES = (
    ("reservoir", "float on a reservoir"),
    ("mains", "float on the mains"),
    ("drip", "constant drip"),
    ("none", "nowhere: overflow alone"),
)


def card(spec: TopUp, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """What it gives, against what evaporates and what the system takes before it spills with the pump on."""
    path, pipes = spec.path, pipe_options()
    rate, room = study.evaporation_rate(), room_of(spec, site, study)

    def take(source: str) -> Edit:
        changes = [Change((*path, "source"), source)]
        if source in ("drip", "none"):  # what drips in must have a way out
            changes.append(Change((*path, "waste"), True))
        return Edit("Change where fresh water comes from", tuple(changes))

    waters = tuple((v.id, v.name) for v in site.vessels.values() if not v.passes_to)
    choices = [
        Choice((*path, "source"), "From", "choice", spec.source, _SOURCES, make=take),
        Choice((*path, "into"), "Into", "choice", spec.into, waters, make=lambda to: _led(spec, to)),
        *chamber_choice(path, site, spec.into, spec.chamber, "In which chamber", "the pump's"),
    ]
    readings = [Reading("Evaporates", rate * 86400, "volume", "A day, by area, cover, room and humidity.", "", "±40 %")]
    if spec.source == "drip":
        choices.append(Choice((*path, "drip"), "Drip", "flow", spec.drip, step=0.1e-3 / 3600))
        words, values = "{drip:volume} a day, the rest to waste", {"drip": spec.drip * 86400}
        big = (Reading("a day", spec.drip * 86400, "volume"), Reading("of it evaporates", rate * 86400, "volume"))
    elif spec.source == "none":
        words, values = "overflow to waste at {h:length}", {"h": spec.waste_mouth}
        big = (Reading("evaporates a day", rate * 86400, "volume"), Reading("room before it spills", room, "volume"))
    else:
        choices.append(Choice((*path, "level"), "Float shuts above the floor", "length", spec.level, step=0.005))
        choices.append(Choice((*path, "most"), "Lets in at most", "flow", spec.most, step=5e-3 / 3600))
        days = spec.volume / rate if rate > 0 and spec.source == "reservoir" else float("inf")
        if spec.source == "reservoir":
            choices.insert(1, Choice((*path, "volume"), "Reservoir holds", "volume", spec.volume, step=0.005))
        words = "{v:volume} lasts {days:days}" if spec.source == "reservoir" else "from the mains"
        values = {"v": spec.volume, "days": days}
        big = (
            Reading(
                "lasts" if spec.source == "reservoir" else "an hour stuck open",
                days if spec.source == "reservoir" else spec.most * 3600,
                "days" if spec.source == "reservoir" else "volume",
            ),
            Reading("room before it spills", room, "volume"),
        )
        readings.append(Reading("Stuck open, it spills in", room / spec.most, "time", "Room by what it lets in."))
        choices.append(Choice((*path, "band"), "Float opens over", "length", spec.band, step=0.001, fold=True))
    choices += [
        Choice((*path, "waste"), "Overflow to waste", "choice", spec.waste, ((False, "none"), (True, "fitted"))),
        Choice((*path, "waste_mouth"), "Waste mouth above floor", "length", spec.waste_mouth, step=0.005),
        Choice((*path, "waste_pipe"), "Waste pipe", "choice", spec.waste_pipe, pipes, fold=True),
        Choice((*path, "name"), "Name", "text", spec.name, fold=True),
    ]
    if not spec.waste:
        choices = [c for c in choices if c.path[-1] not in ("waste_mouth", "waste_pipe")]
    return (
        Station(
            spec.id,
            spec.name,
            words,
            values,
            glyph="settle",
            pumped=True,
            big=big,
            choices=tuple(choices),
            readings=tuple(readings),
            commands=lambda: (("Take it out", Edit("Take out top-up", (Change(path, None),))),),
        ),
    )


def _led(spec: TopUp, to: str) -> Edit:
    """Another water, and no chamber of the one before."""
    return Edit("Lead fresh water elsewhere", (Change((*spec.path, "into"), to), Change((*spec.path, "chamber"), "")))
