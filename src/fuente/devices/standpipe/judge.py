"""What Fuente would change of a standpipe."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.catalogue import wider_pipe
from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.draining import drain_run
from fuente.devices.rules import judged_by
from fuente.devices.site import Site
from fuente.devices.standpipe.network import link_id
from fuente.devices.standpipe.spec import StandpipeSpec


def noise(spec: StandpipeSpec, site: Site, study: Study) -> Iterable[Finding]:
    """A drain that gulps or is heard."""
    tank, path, quiet = site.tank, spec.path, site.space.quiet
    run = drain_run(link_id(spec), study.running)
    if run.mode != "gulping" and (run.quiet or not quiet):
        return ()
    wider = wider_pipe(spec.pipe)
    edit = Edit(f"Widen drain of {tank.name}", (Change((*path, "pipe"), wider),)) if wider else None
    gulps = run.mode == "gulping"
    return (
        Finding(
            "drain-gulps" if gulps else "drain-heard",
            Rank.FIX if gulps else Rank.CONSIDER,
            f"The drain of {tank.name} " + ("gulps at {flow:flow}." if gulps else "is heard at {flow:flow}."),
            "Quiet means an open channel under half of what it can carry: here {limit:flow}. Less flow or a wider"
            " pipe.",
            spec.tank,
            {"flow": run.flow, "limit": run.open_capacity / 2},
            "Wider drain" if edit else "",
            edit,
            run.open_capacity / 2 - run.flow,
            also="and so do" if gulps else "and so are",
        ),
    )


def blocked_drain(spec: StandpipeSpec, site: Site, study: Study) -> Iterable[Finding]:
    """One tank of many whose drain is blocked: what the pump chamber holds goes over its rim."""
    alike = [d for d in site.devices.values() if isinstance(d, StandpipeSpec)]
    bare = [s for s in alike if not study.drains(True, s.tank)]
    if not bare or bare[0] is not spec:  # said once, for all of them
        return
    blocked = study.situation("drain_blocked")
    spilled = blocked.numbers["spilled"]
    if spilled < 1e-6:
        return
    more = []
    for pipe in bare:
        tank = site.homes[pipe.tank]
        mouth = round(min(pipe.mouth + 0.014, tank.inner_height - 0.006), 3)
        key = f"{pipe.id}-2"
        if key not in site.devices and mouth > pipe.mouth:
            dry = pipe.model_copy(update={"id": key, "mouth": mouth, "emergency": True})
            more.append(Change(dry.path, dry))
    edit = Edit("Fit second drains", tuple(more)) if more else None
    name = site.homes[study.most_exposed()].name
    yield Finding(
        "tank-drain-blocked",
        Rank.FIX,
        f"If the drain of {name} blocks, {{spilled:volume}} goes over its rim.",
        "Leaves or a snail suffice. The pump sends that tank all that the pump chamber can spare. A second, dry drain"
        " in every tank, a little higher and into the same common drain, is the passive way out.",
        study.most_exposed(),
        {"spilled": spilled},
        "Fit second drains" if edit else "",
        edit,
        -spilled,
    )


judge = judged_by(noise, blocked_drain)
