"""Quick answers about flow. Functions take and give SI."""

from __future__ import annotations

from collections.abc import Mapping

from fuente.answers.question import Answer, Input, Output
from fuente.errors import EntryError
from fuente.hydraulics import drains, weirs
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.pumps import PumpCurve, operating_point
from fuente.water.properties import water


def _positive(**values: float) -> None:
    for name, value in values.items():
        if not value > 0:
            raise EntryError(f"{name} must be above zero.")


def pipe_loss(
    flow: float, bore: float, length: float, k: float = 0.0, temperature: float = 25.0, salinity: float = 0.0
) -> Mapping[str, float]:
    """Head lost in a pipe with its fittings: Darcy–Weisbach, friction by Colebrook, fittings by k with the exit in it.

    Smooth plastic, 1.5 µm. ±10 %, most of it in the fittings.
    """
    _positive(flow=flow, bore=bore)
    pipe = Pipe(bore, length, k, water=water(temperature, salinity))
    return {
        "head_loss": pipe.head_loss(flow),
        "velocity": flow / pipe.area,
        "reynolds": pipe.reynolds(flow),
        "friction_factor": pipe.friction(flow),
    }


def pump_point(
    lift: float,
    bore: float,
    length: float,
    k: float = 0.0,
    max_head: float | None = None,
    max_flow: float | None = None,
    points: tuple[tuple[float, float], ...] = (),
    temperature: float = 25.0,
) -> Mapping[str, float]:
    """Where a pump's curve meets lift and plumbing. k holds every loss of the pipe, the exit too.

    Box numbers give a parabola, H = Hmax·(1 − (Q/Qmax)²), a guess of ±15 %; points give the maker's curve, ±10 %.
    """
    if points:
        curve = PumpCurve.from_points(points)
    elif max_head is None or max_flow is None:
        raise EntryError("pump-point needs max_head and max_flow, or points.")
    else:
        _positive(max_head=max_head, max_flow=max_flow)
        curve = PumpCurve(max_head, max_flow)
    _positive(bore=bore)
    pipe = Pipe(bore, length, k, water=water(temperature))
    flow, head, _ = operating_point(curve, lift, pipe.loss_and_slope, "that lift")
    return {"flow": flow, "head": head}


def siphon_drain(drop: float, bore: float, length: float, k: float = 0.0) -> Mapping[str, float]:
    """A drain that runs full between two levels. k without the exit, whose loss of 1.0 is added. ±10 %."""
    _positive(drop=drop, bore=bore)
    flow, speed = drains.full_siphon(drop, Pipe(bore, length, k))
    return {"flow": flow, "velocity": speed}


def open_drain(bore: float, fill: float = drains.OPEN_CHANNEL_FILL) -> Mapping[str, float]:
    """What a vented upright pipe carries as a film on its wall, 7/24 full at most. Wyly and Eaton 1961; ±15 %.

    Half of it is quiet.
    """
    _positive(bore=bore, fill=fill)
    if fill > drains.OPEN_CHANNEL_FILL + 1e-9:
        raise EntryError("A vented drain traps air above 7/24 of its bore; fill must be 7/24 or less.")
    return {"flow": drains.open_channel_capacity(bore, fill)}


def weir(flow: float, length: float, crest: float = 0.3) -> Mapping[str, float]:
    """Height of the sheet over a straight crest. length is the free crest, without teeth; crest its height over the
    floor before it. Kindsvater and Carter 1957; ±2 % above 30 mm, ±10 % in a thin sheet.
    """
    _positive(flow=flow, length=length, crest=crest)
    return {"head": weirs.weir_head(flow, length, crest)}


def gap(flow: float, width: float, gap: float) -> Mapping[str, float]:
    """Level lost under a baffle and the speed there: submerged sluice, C = 0.65; ±8 %."""
    _positive(flow=flow, width=width, gap=gap)
    return {"drop": weirs.gap_drop(flow, width, gap), "velocity": flow / (width * gap)}


def turnover(flow: float, volume: float) -> Mapping[str, float]:
    """How often an hour the flow passes the volume of water."""
    _positive(flow=flow, volume=volume)
    return {"per_hour": flow * 3600 / volume}


def bucket_flow(volume: float, time: float) -> Mapping[str, float]:
    """Flow from a timed bucket. Time three fills and take the middle one; a second off in ten is 10 %."""
    _positive(volume=volume, time=time)
    return {"flow": volume / time}


_PIPE = (
    Input("bore", "length", "Bore inside"),
    Input("length", "run", "Length of pipe"),
    Input("k", "number", "Sum of fitting losses, K", "0"),
)
FLOW = (
    Answer(
        "pipe-loss",
        "Head lost in a pipe",
        (
            Input("flow", "flow", "Flow"),
            *_PIPE,
            Input("temperature", "temperature", "Water temperature", "25 degC"),
            Input("salinity", "salinity", "Salinity", "0"),
        ),
        (
            Output("head_loss", "head", "head lost"),
            Output("velocity", "speed", "speed"),
            Output("reynolds", "number", "Reynolds number"),
            Output("friction_factor", "number", "friction factor"),
        ),
        pipe_loss,
        ("friction", "hose", "pressure", "fittings"),
    ),
    Answer(
        "pump-point",
        "Real flow of a pump at its lift",
        (
            Input("max_head", "head", "Greatest head", None, (), True),
            Input("max_flow", "flow", "Flow at no head", None, (), True),
            Input("points", "points", "Or curve points, L/h:m", None, (), True),
            Input("lift", "head", "Lift, water to water"),
            *_PIPE,
        ),
        (Output("flow", "flow", "real flow"), Output("head", "head", "head there")),
        pump_point,
        ("real flow at", "head", "return", "box number"),
    ),
    Answer(
        "siphon-drain",
        "Full siphon drain",
        (Input("drop", "head", "Drop, water to water"), *_PIPE),
        (Output("flow", "flow", "flow"), Output("velocity", "speed", "speed")),
        siphon_drain,
        ("gravity", "overflow", "bulkhead drains"),
    ),
    Answer(
        "open-drain",
        "Open channel drain",
        (Input("bore", "length", "Bore inside"), Input("fill", "number", "Share of the bore filled", "7/24")),
        (Output("flow", "flow", "flow at that fill"),),
        open_drain,
        ("standpipe", "vented", "quiet", "gravity"),
    ),
    Answer(
        "weir",
        "Sheet over a weir",
        (
            Input("flow", "flow", "Flow"),
            Input("length", "length", "Free crest length"),
            Input("crest", "length", "Crest above the floor", "300 mm"),
        ),
        (Output("head", "length", "height over the crest"),),
        weir,
        ("overflow", "baffle", "teeth"),
    ),
    Answer(
        "gap",
        "Gap under a baffle",
        (Input("flow", "flow", "Flow"), Input("width", "length", "Width across"), Input("gap", "length", "Gap")),
        (Output("drop", "length", "level lost"), Output("velocity", "speed", "speed")),
        gap,
        ("underflow", "sluice", "bubble trap"),
    ),
    Answer(
        "turnover",
        "Turnover",
        (Input("flow", "flow", "Flow"), Input("volume", "volume", "Water volume")),
        (Output("per_hour", "count_per_hour", "turnover"),),
        turnover,
        ("times an hour",),
    ),
    Answer(
        "bucket-flow",
        "Flow from a timed bucket",
        (Input("volume", "volume", "Bucket filled to"), Input("time", "time", "Time to fill")),
        (Output("flow", "flow", "flow"),),
        bucket_flow,
        ("measure", "jug"),
    ),
)
