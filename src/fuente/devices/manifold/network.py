"""A manifold as ducts: pumps to the riser, the riser from row to row, tees along each row, a branch at every tee."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache

from fuente.catalogue import ball_valve_k, fitting, pipe_size
from fuente.devices.base import Basin, Fragment, fittings_k
from fuente.devices.contract import Study
from fuente.devices.manifold.spec import Branch, Feeder, Manifold, SideLoop, SupplyRow
from fuente.devices.pumping import BACKWARDS_K, pump_curve, riser_holds, with_suction
from fuente.devices.site import Site
from fuente.errors import FuenteError, SpecError
from fuente.hydraulics.drains import air_hole_breaks
from fuente.hydraulics.pipes import Pipe, spray_bar_k
from fuente.network.duct import Duct, PumpDuct, Spout
from fuente.network.ducts import Ducts
from fuente.network.model import WayKind
from fuente.water.properties import Water

_SHUT_K = 1e4


def pump_id(spec: Manifold, feeder: Feeder) -> str:
    """Id of a pump's duct."""
    return f"{spec.id}.{feeder.id}"


def branch_id(spec: Manifold, tank: str) -> str:
    """Id of a tank's branch."""
    return f"{spec.id}.to.{tank}"


def loop_id(spec: Manifold, loop: SideLoop) -> str:
    """Id of a side loop's duct."""
    return f"{spec.id}.{loop.id}"


def node_id(spec: Manifold, row: int, place: int) -> str:
    """Name of the tee of a row's branch; place -1 is the row's start on the riser."""
    return f"{spec.id}:{row}" if place < 0 else f"{spec.id}:{row}.{place}"


def bar_k(branch: Branch) -> float:
    """Loss of a spray bar on the branch's bore."""
    return spray_bar_k(pipe_size(branch.pipe).bore, branch.holes, branch.hole_bore)


def branch_loss(branch: Branch) -> float:
    """Loss coefficient of a branch without its valve: tee, fittings, and the exit or the spray bar."""
    end = 1.0 if branch.form == "open" else bar_k(branch)
    return fitting("tee_branch").k + fittings_k(branch.fittings) + end


def hole_works(branch: Branch) -> bool:
    """Whether the branch's air hole passes enough air to break a back-siphon; the ratio holds at any flow."""
    return branch.air_hole > 0 and air_hole_breaks(branch.air_hole, pipe_size(branch.pipe).bore, 1e-4)


@lru_cache(maxsize=4096)
def _spout(key: str, branch: Branch, tank: Basin, node: str, owner: str, height: float, water: Water) -> Spout:
    size = pipe_size(branch.pipe)
    valve = ball_valve_k(branch.angle)
    k = branch_loss(branch) + (_SHUT_K if valve is None else valve)
    mouth = tank.floor + branch.mouth
    breaks = max(mouth, tank.floor + branch.air_height) if hole_works(branch) else mouth
    c = branch.correction
    pipe = Pipe(size.bore, branch.length * c, k * c, size.roughness, water)
    return Spout(
        key,
        f"Branch to {tank.name}",
        node,
        tank.id,
        pipe,
        WayKind.BRANCH,
        owner,
        valve is None,
        mouth,
        breaks,
        comes_to=tank.id,
        drains=height > mouth and valve is not None,
        holds=pipe.area * branch.length,
    )


def ducts_of(spec: Manifold, site: Site) -> list[Duct]:
    """Pumps, riser, rows, branches and loops as ducts."""
    tanks, water = site.homes, site.water
    ducts: list[Duct] = []
    for f in spec.feeders:
        source = site.vessels[f.source]
        well = source.port("pump")
        assert well.intake is not None
        ducts.append(_feeder(spec, f, well.leave, source.floor, well.intake, water))
    riser = pipe_size(spec.riser)
    for i, row in enumerate(spec.rows):
        start = node_id(spec, i, -1)
        if i:
            length = abs(row.height - spec.rows[i - 1].height)
            pipe = Pipe(riser.bore, max(length, 0.01), fitting("tee_straight").k, riser.roughness, water)
            ducts.append(
                Duct(
                    f"{spec.id}.riser.{i}",
                    f"Riser to row {i + 1}",
                    node_id(spec, i - 1, -1),
                    start,
                    pipe,
                    WayKind.MAIN,
                    spec.id,
                    comes_to=ducts[0].a,
                    drains=True,
                )
            )
        ducts += _row(spec, i, row, start, tanks, water)
    for loop in spec.loops:
        into = site.vessels[loop.into]
        cell, floor = into.port(loop.chamber or "inlet").entry, into.floor
        size = pipe_size(loop.pipe)
        valve = ball_valve_k(loop.angle)
        k = fitting("tee_branch").k + loop.loss + 1.0 + (_SHUT_K if valve is None else valve)
        pipe = Pipe(size.bore, loop.length, k, size.roughness, water)
        mouth = floor + loop.height
        name = f"{loop.kind.replace('_', ' ').capitalize()} loop"
        ducts.append(
            Spout(
                loop_id(spec, loop),
                name,
                node_id(spec, 0, -1),
                cell,
                pipe,
                WayKind.LOOP,
                spec.id,
                valve is None,
                mouth=mouth,
                breaks_at=mouth,
            )
        )
    return ducts


def lower(spec: Manifold, site: Site) -> Fragment:
    """One group."""
    ducts = ducts_of(spec, site)
    pumps = [d.a for d in ducts if isinstance(d, PumpDuct)]
    return Fragment(groups=(Ducts(ducts, (*pumps, *(d.b for d in ducts if isinstance(d, Spout)))),))


def check(spec: Manifold, site: Site, study: Study) -> None:
    """Raise FuenteError where a pump's mark leaves it dry."""
    for feeder in spec.feeders:
        well = site.vessels[feeder.source].port("pump")
        mark = study.network.marks.get(well.leave)
        if mark is not None and well.intake is not None and mark <= well.intake:
            raise FuenteError("The running level is marked at or below the pump's intake: raise the mark.")


def _feeder(spec: Manifold, feeder: Feeder, cell: str, floor: float, intake: float, water: Water) -> PumpDuct:
    size = pipe_size(feeder.pipe)
    rise = max(spec.rows[0].height - floor, 0.1)
    c = feeder.correction
    k = (fittings_k(feeder.fittings) + (0.0 if feeder.valve == "none" else fitting(feeder.valve).k)) * c
    pipe = with_suction(feeder.pump, Pipe(size.bore, (rise + feeder.run) * c, k, size.roughness, water))
    leak = 1.0 if feeder.valve == "none" else feeder.leak
    return PumpDuct(
        pump_id(spec, feeder),
        feeder.pump.name,
        cell,
        node_id(spec, 0, -1),
        pipe,
        WayKind.PUMP,
        spec.id,
        False,
        pump_curve(feeder.pump),
        intake,
        True,
        leak,
        feeder.valve != "none",
        BACKWARDS_K,
        comes_to=cell,
        drains=True,
        holds=riser_holds(feeder.pump, size.bore, rise + feeder.run, water),
    )


def _row(
    spec: Manifold, index: int, row: SupplyRow, start: str, tanks: Mapping[str, Basin], water: Water
) -> list[Duct]:
    size = pipe_size(row.pipe)
    ducts: list[Duct] = []
    at = start
    for k, branch in enumerate(row.branches):
        tank = tanks[branch.tank]
        if branch.mouth > tank.inner_height + 0.5:
            raise SpecError(f"The outlet in {tank.name} ends more than 500 mm above its rim.")
        node = node_id(spec, index, k)
        turn = fitting("tee_branch" if index else "elbow").k if k == 0 else fitting("tee_straight").k
        length = branch.spacing + (row.lead if k == 0 else 0.0)
        pipe = Pipe(size.bore, max(length, 0.01), turn, size.roughness, water)
        # Over its tank's water a row drains through its branches once air gets in.
        over = row.height > tank.floor + branch.mouth
        name = f"Row {index + 1}, piece {k + 1}"
        key = f"{spec.id}.row.{index}.{k}"
        ducts.append(Duct(key, name, at, node, pipe, WayKind.MAIN, spec.id, comes_to=tank.id, drains=over))
        ducts.append(_spout(branch_id(spec, branch.tank), branch, tank, node, spec.id, row.height, water))
        at = node
    return ducts
