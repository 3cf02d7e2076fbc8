"""A rack entered at once: rows and columns of equal tanks with their drains, common drain and manifold.

Afterwards every tank, drain and branch is a part of the document like any other.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from pydantic import ValidationError

from fuente.catalogue import PipeSize, ball_valve_angle, pipe_size, trade_sizes
from fuente.devices.base import Change, Edit, FittingCount
from fuente.devices.contract import Device
from fuente.devices.edits import added, taken_out
from fuente.devices.header.spec import HeaderSpec
from fuente.devices.homes import HomeSpec
from fuente.devices.join.spec import JoinSpec
from fuente.devices.manifold.spec import Branch, Feeder, Manifold, SupplyRow
from fuente.devices.pumping import PumpSpec
from fuente.devices.sentences import first_sentence
from fuente.devices.standpipe.spec import StandpipeSpec
from fuente.devices.sump.spec import Sump
from fuente.devices.tank.spec import Tank
from fuente.errors import EntryError
from fuente.hydraulics.header import depth_of
from fuente.hydraulics.pipes import Pipe
from fuente.water.properties import GRAVITY

HIGHEST, LONGEST = 4.0, 40.0  # m: where a tank may stand, and how long a common drain may be
ROW_SPEED = 0.9  # m/s in row pipes: slow enough that the last tee sees nearly what the first does
HEADER_FILL = 0.5  # of a common drain's bore
_HOSES = ((500e-3 / 3600, "hose-12"), (900e-3 / 3600, "hose-16"), (1500e-3 / 3600, "hose-19"), (1.0, "hose-25"))
BESIDE = 0.4  # m between a rack and what stood there before
_FLOW_SPARE = 2.0  # flow at no head over the flow that is wanted
TOP_SPARE = 0.35  # m of head left for the valves of the highest row
BRANCH_K = 3.5  # of a branch without its valve, about


_PARTS = {m.__name__: m for m in (Tank, StandpipeSpec, HeaderSpec, Branch, SupplyRow, PumpSpec, Feeder, Manifold)}


@dataclass(frozen=True)
class Rack:
    """What a rack is entered by. m, 1/s; rows count from the floor."""

    name: str = "Rack"
    rows: int = 4
    columns: int = 6
    length: float = 0.6
    width: float = 0.3
    height: float = 0.3
    glass: float = 0.005
    gap: float = 0.02
    lowest: float = 0.70
    pitch: float = 0.45
    turnover: float = 3 / 3600
    temperature: float = 23.0
    stock: str = ""
    air_hole: float = 0.004
    angle: float | None = None  # degrees from open of every valve; None sets each row by its height
    device: str = "sump"  # what it drains into; empty where every tank has filters of its own

    def check(self) -> None:
        """Raise EntryError with one sentence where it cannot be built."""
        if not (1 <= self.rows <= 20 and 1 <= self.columns <= 40):
            raise EntryError("A rack has 1 to 20 rows and 1 to 40 columns.")
        if self.rows * self.columns > 400:
            raise EntryError("A system holds 400 tanks at most.")
        if not self.turnover > 0:
            raise EntryError("A rack's tanks need a turnover above zero: their pipes and pump are sized by it.")
        if min(self.length, self.width, self.height) < 0.1 or max(self.length, self.width, self.height) > 3:
            raise EntryError("A rack's tanks measure 100 mm to 3 m each way.")
        top = self.lowest + (self.rows - 1) * self.pitch
        if top > HIGHEST:
            raise EntryError(f"The highest row would stand {top:.1f} m over the floor; {HIGHEST:.0f} m is the most.")
        if self.columns * (self.length + self.gap) > LONGEST:
            raise EntryError(
                f"A row would be {self.columns * (self.length + self.gap):.0f} m long; {LONGEST:.0f} m is the most."
            )
        if self.pitch < self.height + 0.08:
            raise EntryError(
                f"Rows {1000 * self.pitch:.0f} mm apart leave no hand over tanks of {1000 * self.height:.0f} mm; "
                f"take {1000 * self.height + 80:.0f} mm at least."
            )


def _tag(name: str, taken: set[str]) -> str:
    stem = "".join(c if c.isalnum() else "-" for c in name.lower())[:12].strip("-") or "rack"
    if stem not in taken:
        return stem
    return next(f"{stem}-{n}" for n in range(2, 1000) if f"{stem}-{n}" not in taken)


def metric_for(flow: float, speed: float) -> PipeSize:
    """The narrowest metric PN10 pipe from 25 mm in which a flow in m³/s keeps under a speed in m/s."""
    sizes = trade_sizes()
    return next((p for p in sizes if flow / p.area <= speed), sizes[-1])


def _header_pipe(flow: float, slope: float) -> PipeSize:
    sizes = trade_sizes()
    for size in sizes:
        fill = depth_of(flow, size.bore, slope)
        if fill is not None and fill <= HEADER_FILL and size.bore > 0.045:
            return size
    return sizes[-1]


def _first_in_line(devices: Mapping[str, Device], vessel: str) -> str:
    """The vessel that water meets first on its way to another over joins."""
    joins = [d for d in devices.values() if isinstance(d, JoinSpec)]
    seen = {vessel}
    while True:
        before = next((j.first for j in joins if j.second == vessel and j.first not in seen), None)
        if before is None:
            return vessel
        seen.add(before)
        vessel = before


def add_rack(devices: Mapping[str, Device], rack: Rack, replace: bool = False) -> Edit:
    """The edit that puts a rack on a sump: tanks, a standpipe each, one common drain, one manifold with one pump; or
    tanks alone, which stand for filters of their own.

    ``replace`` takes out the tanks that are there, with all that joins them; else the rack stands right of them. Raises
    EntryError.
    """
    rack.check()
    try:
        return _add_rack(devices, rack, replace)
    except ValidationError as error:
        raise EntryError(f"This rack cannot be built. {first_sentence(error, _PARTS.get(error.title))}") from None


def _add_rack(devices: Mapping[str, Device], rack: Rack, replace: bool) -> Edit:
    device = devices.get(rack.device)
    if not rack.device:
        return _tanks_alone(devices, rack, replace)
    if not isinstance(device, Sump):
        raise EntryError("A rack needs a filter to stand on.")
    homes = [d for d in devices.values() if isinstance(d, HomeSpec)]
    tag = _tag(rack.name, {t.rack for t in homes} | {*devices})
    left = 0.0 if replace else max((t.offset + t.length + BESIDE for t in homes), default=0.0)
    water = rack.height - rack.glass - 0.03  # 30 mm under the rim
    each = rack.turnover * (rack.length - 2 * rack.glass) * (rack.width - 2 * rack.glass) * water
    total = each * rack.rows * rack.columns
    header = _header(rack, tag, total, device, _first_in_line(devices, rack.device))
    tanks = [_tank(rack, tag, left, r, c) for r in range(rack.rows) for c in range(rack.columns)]
    drain, mouth = metric_for(each, 0.25), round(water - 0.008, 3)
    elbows = (FittingCount(kind="elbow", count=2),)
    pipes = [
        StandpipeSpec(
            id=f"{t.id}-drain", tank=t.id, into=header.id, pipe=drain.id, mouth=mouth, run=0.2, fittings=elbows
        )
        for t in tanks
    ]
    manifold = _manifold(rack, tag, tanks, total, each, water, device.floor)
    changes: list[Change] = []
    if replace:
        gone = [*homes, *(d for d in devices.values() if d.passes_to)]
        changes += taken_out(devices.values(), gone)
        changes.append(Change(("space", "turnover"), rack.turnover))
    changes += added(*tanks, *pipes, header, manifold)
    return Edit(f"Add rack of {rack.rows} × {rack.columns}", tuple(changes))


def _tanks_alone(devices: Mapping[str, Device], rack: Rack, replace: bool) -> Edit:
    homes = [d for d in devices.values() if isinstance(d, HomeSpec)]
    tag = _tag(rack.name, {t.rack for t in homes} | {*devices})
    left = 0.0 if replace else max((t.offset + t.length + BESIDE for t in homes), default=0.0)
    tanks = [_tank(rack, tag, left, r, c) for r in range(rack.rows) for c in range(rack.columns)]
    changes = [*taken_out(devices.values(), homes)] if replace else []
    if replace:
        changes.append(Change(("space", "turnover"), rack.turnover))
    return Edit(f"Add rack of {rack.rows} × {rack.columns}", (*changes, *added(*tanks)))


def _tank(rack: Rack, tag: str, left: float, row: int, column: int) -> Tank:
    """A tank by its place; ``left`` m is the rack's left edge."""
    return Tank(
        id=f"{tag}-{row + 1}-{column + 1}",
        name=f"{chr(65 + row % 26)}{column + 1}",
        length=rack.length,
        width=rack.width,
        height=rack.height,
        thickness=rack.glass,
        bottom=rack.glass,
        stand=rack.lowest + row * rack.pitch,
        temperature=rack.temperature,
        cover=0.9,
        stock=rack.stock,
        offset=left + column * (rack.length + rack.gap),
        rack=tag,
    )


def _header(rack: Rack, tag: str, total: float, sump: Sump, into: str) -> HeaderSpec:
    """The common drain for a flow in m³/s, between the lowest row and the sump's rim. Raises EntryError."""
    low_end = max(rack.lowest - 0.12, sump.rim + 0.05)
    if low_end > rack.lowest - 0.04:
        raise EntryError(
            f"The lowest row stands {1000 * rack.lowest:.0f} mm high and leaves no fall into the sump; "
            f"take {1000 * (sump.rim + 0.1):.0f} mm at least."
        )
    size = _header_pipe(total, 0.01)
    return HeaderSpec(
        id=f"{tag}-drain",
        name=f"Common drain of {rack.name}" if rack.name else "Common drain",
        into=into,
        pipe=size.id,
        length=round(rack.columns * (rack.length + rack.gap), 2),
        low_end=round(low_end, 3),
        down=size.id,
        release=round(min(0.25, sump.inner_height - 0.05), 3),
    )


def _manifold(
    rack: Rack, tag: str, tanks: list[Tank], total: float, each: float, water: float, pump_floor: float
) -> Manifold:
    row_pipe = metric_for(each * rack.columns, ROW_SPEED)
    main = metric_for(total, 1.2)
    hose = next(h for q, h in _HOSES if each < q)
    heights = [round(rack.lowest + r * rack.pitch + rack.height + 0.05, 3) for r in range(rack.rows)]
    size = pipe_size(hose)
    speed_head = (each / size.area) ** 2 / (2 * GRAVITY)
    rows = []
    for r, height in enumerate(heights):
        # What a low row has to spare is about its height under the highest; its valves take it.
        spare = TOP_SPARE + (heights[-1] - height)
        angle = round(ball_valve_angle(max(spare / speed_head - BRANCH_K, 0.1)))
        branches = tuple(
            Branch(
                tank=tank.id,
                spacing=rack.length + rack.gap if c else 0.1,
                pipe=hose,
                length=0.35,
                angle=angle if rack.angle is None else rack.angle,
                mouth=round(water - 0.02, 3),
                air_hole=rack.air_hole,
                air_height=round(water - 0.01, 3),
            )
            for c, tank in enumerate(tanks[r * rack.columns : (r + 1) * rack.columns])
        )
        rows.append(SupplyRow(height=height, pipe=row_pipe.id, lead=0.3, branches=branches))
    # The pump must reach the highest row with what the way there loses and something left for a valve that still acts.
    top = heights[-1] - pump_floor
    main_pipe, row = Pipe(main.bore, top + 2.0, 6.0), Pipe(row_pipe.bore, rack.columns * rack.length, 2.0)
    head = top + main_pipe.head_loss(total) + 0.4 * row.head_loss(each * rack.columns) + TOP_SPARE
    step = 500e-3 / 3600
    most = math.ceil(_FLOW_SPARE * total / step) * step
    shutoff = head / (1 - (total / most) ** 2)
    pump = PumpSpec(
        name="Pump of the rack",
        max_head=round(math.ceil(shutoff * 10) / 10, 1),
        max_flow=most,
        watts=float(round(9810 * total * head / 0.25)),  # a quarter of the power reaches the water, as is usual
    )
    feeder = Feeder(id="pump", source=rack.device, pump=pump, pipe=main.id, run=1.0)
    return Manifold(
        id=f"{tag}-manifold",
        name=f"Manifold of {rack.name}" if rack.name else "Manifold",
        feeders=(feeder,),
        riser=main.id,
        rows=tuple(rows),
    )


@dataclass(frozen=True)
class Described:
    """What is said of a rack: its pump and the head in m that it gives at most, its common drain's and its
    rows' pipe.
    """

    pump: str
    head: float
    drain: str
    row: str


def described(devices: Sequence[Device]) -> Described:
    """The last rack among devices."""
    manifold = [d for d in devices if isinstance(d, Manifold)][-1]
    header = [d for d in devices if isinstance(d, HeaderSpec)][-1]
    pump = manifold.feeders[0].pump
    return Described(pump.name, pump.max_head, header.pipe, manifold.rows[0].pipe)
