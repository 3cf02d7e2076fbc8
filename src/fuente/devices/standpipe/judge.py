"""What Fuente would change of a standpipe."""

from __future__ import annotations

from fuente.catalogue import wider_pipe
from fuente.devices.base import Basin, Change, Edit, Finding, Path, Rank
from fuente.devices.draining import drain_run
from fuente.devices.standpipe.network import link_id
from fuente.devices.standpipe.spec import StandpipeSpec
from fuente.network.model import Solution


def judge(spec: StandpipeSpec, tank: Basin, solution: Solution, path: Path, quiet: bool) -> tuple[Finding, ...]:
    """A drain that gulps or is heard."""
    run = drain_run(link_id(spec), solution)
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
            "Quiet means an open channel under half of what it can carry: here {limit:flow}. Less flow or a wider pipe.",
            spec.tank,
            {"flow": run.flow, "limit": run.open_capacity / 2},
            "Wider drain" if edit else "",
            edit,
            run.open_capacity / 2 - run.flow,
        ),
    )
