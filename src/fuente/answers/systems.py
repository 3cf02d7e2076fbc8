"""Quick answers about systems of several tanks. Functions take and give SI."""

from __future__ import annotations

import math
from collections.abc import Mapping

from fuente.answers.question import Answer, Input, Output
from fuente.catalogue import trade_sizes
from fuente.errors import EntryError
from fuente.hydraulics.header import depth_of, part_full_flow
from fuente.hydraulics.pipes import VINYL_HOSE, Pipe
from fuente.network.duct import Duct, Spout
from fuente.network.ducts import Ducts
from fuente.network.model import WayKind
from fuente.water.properties import GRAVITY


def _positive(**values: float) -> None:
    for name, value in values.items():
        if not value > 0:
            raise EntryError(f"{name} must be above zero.")


def manifold_ducts(
    outlets: int, spacing: float, bore: float, branch_bore: float, branch_length: float, branch_k: float
) -> list[Duct]:
    """A header from ``in`` with a branch from each of its nodes to open outlets; a tee's straight loss of 0.3 on the
    way.
    """
    ducts: list[Duct] = []
    for i in range(1, outlets + 1):
        node = f"h{i}" if i > 1 else "in"
        if i > 1:
            before = f"h{i - 1}" if i > 2 else "in"
            ducts.append(Duct(f"header {i}", f"Header {i}", before, node, Pipe(bore, spacing, 0.3)))
        branch = Pipe(branch_bore, branch_length, branch_k)
        ducts.append(Spout(f"branch {i}", f"Branch {i}", node, "out", branch, WayKind.BRANCH, "", False, 0.0, 0.0))
    return ducts


def manifold(
    flow: float,
    outlets: float,
    spacing: float,
    bore: float,
    branch_bore: float,
    branch_length: float = 0.3,
    branch_k: float = 4.0,
) -> Mapping[str, float]:
    """What the first and the last outlet of a header get, all outlets at one height and fully open.

    The whole row is solved as a network (gradient method). The header's own speed head, which favours the last outlets
    a little, is left out; ±10 %. k of a branch holds its tee, valve, bends and exit.
    """
    count = round(outlets)
    if not 1 <= count <= 500 or abs(outlets - count) > 1e-9:
        raise EntryError("outlets is a whole number from 1 to 500.")
    _positive(flow=flow, spacing=spacing, bore=bore, branch_bore=branch_bore)
    if branch_length <= 0 and branch_k <= 0:
        raise EntryError("A branch needs a length or a loss.")
    ducts = manifold_ducts(count, spacing, bore, branch_bore, branch_length, branch_k)
    group = Ducts(ducts, ["in", "out"])
    head = 1.0
    for _ in range(80):  # Newton on the head at which the row takes the flow; it rises ever more slowly, so it closes
        gained, by_level, flows = group.exchange([head, -1.0])
        step = (flow + gained[0]) / by_level[0, 0]
        head = max(head - step, head / 4)
        if abs(step) < 1e-12 * head:
            break
    _, _, flows = group.exchange([head, -1.0])
    shares = [q for duct, q in zip(ducts, flows.tolist(), strict=True) if isinstance(duct, Spout)]
    return {
        "first_flow": shares[0],
        "last_flow": shares[-1],
        "last_of_first": shares[-1] / shares[0],
        "head": head,
        "header_velocity": flow / (math.pi / 4 * bore**2),
    }


def equalising_bulkhead(
    flow: float, bore: float, length: float = 0.05, k: float = 1.5, count: float = 1
) -> Mapping[str, float]:
    """How far two sumps joined by bulkheads stand apart while water moves between them.

    Entrance and exit are in k. The one that gives stands higher: does it spill? ±10 %.
    """
    _positive(flow=flow, bore=bore, count=count)
    pipe = Pipe(bore, length, k)
    each = flow / count
    return {"difference": pipe.head_loss(each), "velocity": each / pipe.area}


def hose_suction(flow: float, bore: float, length: float, k: float = 1.0, lift: float = 0.0) -> Mapping[str, float]:
    """Suction at a pump's intake behind a hose: friction, entrance, speed head, and the height of the pump over the
    water.

    Thin soft hose folds at about half a metre of suction; use ribbed hose there, and throttle after the pump only. ±15
    %.
    """
    _positive(flow=flow, bore=bore)
    pipe = Pipe(bore, length, k, VINYL_HOSE)
    speed = flow / pipe.area
    return {"suction": pipe.head_loss(flow) + speed**2 / (2 * GRAVITY) + lift, "velocity": speed}


def parallel_bores(large: float, small: float, length: float, k: float = 1.5, flow: float = 0.0) -> Mapping[str, float]:
    """How many small bores carry as much as one large at the same loss, which is more than their areas say.

    At the flow given, or at 1 m/s in the large one. Both runs have the same length and the same k on their own bore.
    """
    _positive(large=large, small=small)
    if length <= 0 and k <= 0:
        raise EntryError("length or k must be above zero.")
    one = Pipe(large, length, k)
    wanted = flow or one.area
    loss = one.head_loss(wanted)
    other = Pipe(small, length, k).flow_at(loss)
    ratio = wanted / other
    return {
        "count": float(math.ceil(ratio - 1e-3)),
        "ratio": ratio,
        "area_ratio": (large / small) ** 2,
        "loss": loss,
    }


def pump_cost(power: float, price: float, hours: float = 24.0) -> Mapping[str, float]:
    """What a pump costs a year: watts by hours by the price of a kilowatt-hour, in any money."""
    _positive(power=power, hours=hours)
    if hours > 24:
        raise EntryError("A day has 24 hours.")
    energy = power * hours * 365.25 * 3600
    return {"cost_per_year": energy / 3.6e6 * price, "energy_per_year": energy}


def pipe_sizer(
    flow: float,
    length: float,
    price: float,
    pipe_price: float,
    k: float = 6.0,
    years: float = 5.0,
    efficiency: float = 0.25,
) -> Mapping[str, float]:
    """The metric pressure pipe that costs least over some years: pipe bought once against watts for its friction.

    pipe_price is that of a metre of 32 mm pipe; other sizes by their outside squared, as weight goes. Of a pump's watts
    a quarter reaches the water, as is usual for small ones. ±20 %; what fittings cost is left out.
    """
    _positive(flow=flow, length=length, price=price, pipe_price=pipe_price, years=years, efficiency=efficiency)
    rows = []
    for size in trade_sizes():
        pipe = Pipe(size.bore, length, k, size.roughness)
        loss = pipe.head_loss(flow)
        watts = pipe.water.density * GRAVITY * flow * loss / efficiency
        yearly = pump_cost(watts, price)["cost_per_year"]
        bought = pipe_price * length * (size.outside / 0.032) ** 2
        rows.append((bought + yearly * years, size, loss, watts, yearly, bought, flow / pipe.area))
    best = min(range(len(rows)), key=lambda i: rows[i][0])
    total, size, loss, watts, yearly, bought, speed = rows[best]
    return {
        "outside": size.outside,
        "bore": size.bore,
        "velocity": speed,
        "head_loss": loss,
        "power": watts,
        "cost_per_year": yearly,
        "pipe_cost": bought,
        "total": total,
        "total_smaller": rows[max(best - 1, 0)][0],
        "total_larger": rows[min(best + 1, len(rows) - 1)][0],
    }


def header(flow: float, bore: float, slope: float = 0.02) -> Mapping[str, float]:
    """A common drain header that falls gently and runs part full, by Manning's equation, n = 0.010; ±15 %.

    Half full is quiet and leaves air over the water; above that a wave closes it, and it backs up. fill is the depth
    over the bore, 1 where it runs full.
    """
    _positive(flow=flow, bore=bore, slope=slope)
    fill = depth_of(flow, bore, slope)
    depth = 1.0 if fill is None else fill
    return {
        "fill": depth,
        "velocity": part_full_flow(bore, slope, depth)[1],
        "half_capacity": part_full_flow(bore, slope, 0.5)[0],
        "full_capacity": part_full_flow(bore, slope, 1.0)[0],
    }


SYSTEMS = (
    Answer(
        "manifold",
        "Share of the far outlet on a manifold",
        (
            Input("flow", "flow", "Flow into it"),
            Input("outlets", "number", "Outlets"),
            Input("spacing", "length", "From outlet to outlet"),
            Input("bore", "length", "Header bore"),
            Input("branch_bore", "length", "Branch bore"),
            Input("branch_length", "length", "Branch length", "300 mm"),
            Input("branch_k", "number", "Branch losses, K", "4"),
        ),
        (
            Output("last_of_first", "fraction", "of the first is what the last gets"),
            Output("first_flow", "flow", "first outlet"),
            Output("last_flow", "flow", "last outlet"),
            Output("head", "head", "head at the start"),
            Output("header_velocity", "speed", "speed at the start"),
        ),
        manifold,
        ("rack", "header", "far tank", "spray bar"),
    ),
    Answer(
        "equalising-bulkhead",
        "Two sumps joined by a bulkhead",
        (
            Input("flow", "flow", "Flow between them"),
            Input("bore", "length", "Bore"),
            Input("length", "length", "Length", "50 mm"),
            Input("k", "number", "Losses, K", "1.5"),
            Input("count", "number", "How many side by side", "1"),
        ),
        (Output("difference", "length", "level difference"), Output("velocity", "speed", "speed")),
        equalising_bulkhead,
        ("join", "connect", "level"),
    ),
    Answer(
        "hose-suction",
        "Suction in front of a pump",
        (
            Input("flow", "flow", "Flow"),
            Input("bore", "length", "Hose bore"),
            Input("length", "run", "Hose length"),
            Input("k", "number", "Losses, K", "1"),
            Input("lift", "head", "Pump over the water", "0 m"),
        ),
        (Output("suction", "head", "suction"), Output("velocity", "speed", "speed")),
        hose_suction,
        ("collapse", "intake", "canister"),
    ),
    Answer(
        "parallel-bores",
        "Small bores for one large",
        (
            Input("large", "length", "Large bore"),
            Input("small", "length", "Small bore"),
            Input("length", "length", "Length", "60 mm"),
            Input("k", "number", "Losses, K", "1.5"),
            Input("flow", "flow", "Flow, 0 for 1 m/s", "0 L/h"),
        ),
        (
            Output("count", "number", "small ones"),
            Output("ratio", "number", "exactly"),
            Output("area_ratio", "number", "by area alone"),
            Output("loss", "length", "loss of each"),
        ),
        parallel_bores,
        ("bulkheads", "equal", "fittings"),
    ),
    Answer(
        "pump-cost",
        "A pump's cost a year",
        (
            Input("power", "power", "Power"),
            Input("price", "number", "Price of a kilowatt-hour"),
            Input("hours", "number", "Hours a day", "24"),
        ),
        (Output("cost_per_year", "number", "a year"), Output("energy_per_year", "energy", "a year")),
        pump_cost,
        ("electricity", "running cost", "watts"),
    ),
    Answer(
        "pipe-sizer",
        "Pipe against watts",
        (
            Input("flow", "flow", "Flow"),
            Input("length", "run", "Length of pipe"),
            Input("price", "number", "Price of a kilowatt-hour"),
            Input("pipe_price", "number", "Price of a metre of 32 mm pipe"),
            Input("k", "number", "Losses, K", "6"),
            Input("years", "number", "Years to count", "5"),
            Input("efficiency", "fraction", "Of the watts that reach the water", "25 %"),
        ),
        (
            Output("outside", "length", "outside, costs least"),
            Output("bore", "fine_length", "bore"),
            Output("velocity", "speed", "speed in it"),
            Output("head_loss", "head", "lost in it"),
            Output("power", "power", "of the pump's watts"),
            Output("cost_per_year", "number", "for them a year"),
            Output("pipe_cost", "number", "for the pipe"),
            Output("total", "number", "together over the years"),
            Output("total_smaller", "number", "one size narrower"),
            Output("total_larger", "number", "one size wider"),
        ),
        pipe_sizer,
        ("diameter", "electricity", "bore", "plumbing cost"),
    ),
    Answer(
        "header",
        "Common drain header",
        (
            Input("flow", "flow", "Flow of all drains"),
            Input("bore", "length", "Bore"),
            Input("slope", "fraction", "Fall along its length", "2 %"),
        ),
        (
            Output("fill", "fraction", "of the bore filled"),
            Output("velocity", "speed", "speed"),
            Output("half_capacity", "flow", "at half full"),
            Output("full_capacity", "flow", "brim full"),
        ),
        header,
        ("gutter", "drain", "rack", "slope"),
    ),
)
