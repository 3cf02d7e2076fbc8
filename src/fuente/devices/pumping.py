"""Pumps and air holes, as returns and manifolds share them."""

from __future__ import annotations

import itertools
import math

from pydantic import Field, model_validator

from fuente.catalogue import PIPES, pipe_size, wider_pipe
from fuente.devices.base import Change, Choice, Edit, Finding, Path, Rank, Reading, Spec, measured
from fuente.devices.pieces import Note, Shelf, Thing, note
from fuente.devices.shop import Shop
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.pumps import PumpCurve
from fuente.one_line import Line
from fuente.water.properties import GRAVITY, Water

PLACES = ((False, "in the water"), (True, "beside the filter"))
SUCTION_K = 1.4  # a bulkhead and a bend
MOST_SUCTION, HOSE_FOLDS, SUCTION_SPEED = 1.0, 0.5, 1.2  # m, m, m/s
YEAR = 365.25 * 86400
BACKWARDS_K = 3.0  # a standing centrifugal pump, on the pipe's bore; typical


class PumpSpec(Spec):
    """A pump by the two numbers on its box, or by its curve's points."""

    name: Line = Field("Submersible pump", max_length=80)
    max_head: float = measured(3.0, "head", "Greatest head", 0.2, 60)
    max_flow: float = measured(1.2e-3, "flow", "Flow at no head", 5e-6, 0.05)
    points: tuple[tuple[float, float], ...] = Field((), max_length=60, description="(flow m³/s, head m), rising flow.")
    watts: float = measured(40, "power", "Power", 0, 5000)
    speed: float = measured(1.0, "fraction", "Speed", 0.2, 1.0, step=0.05)
    wear: float = measured(1.0, "fraction", "Head left of new", 0.2, 1.0, "What wear and lime have left.", step=0.05)
    stages: int = Field(1, ge=1, le=4, description="Equal pumps one behind the other.")
    beside: bool = Field(False, description="Whether it stands beside its filter and draws through a pipe.")
    axis: float = measured(0.1, "length", "Its axis above the filter's floor", -2.0, 4.0, "Only beside it.", step=0.01)
    suction: str = Field("40-pn10", description="Suction pipe, an id of the catalogue; only beside its filter.")
    suction_length: float = measured(0.6, "run", "Suction pipe", 0.05, 20.0, "Only beside its filter.", step=0.05)

    @model_validator(mode="after")
    def _suction_known(self) -> PumpSpec:
        if self.suction not in PIPES:
            raise ValueError(f"The catalogue has no pipe “{self.suction[:40]}”.")
        return self

    @model_validator(mode="after")
    def _curve_falls(self) -> PumpSpec:
        flows = [q for q, _ in self.points]
        heads = [h for _, h in self.points]
        rising = any(b <= a for a, b in itertools.pairwise(flows))
        if self.points and (len(self.points) < 2 or rising or min(flows) < 0):
            raise ValueError("A pump's points need rising flow, two or more of them.")
        if any(b >= a for a, b in itertools.pairwise(heads)):
            raise ValueError("A pump's head must fall as its flow rises.")
        return self


def pump_curve(pump: PumpSpec) -> PumpCurve:
    """The curve of a pump, or of several in a row: their heads add up."""
    n = pump.stages
    if pump.points:
        made = PumpCurve.from_points(tuple((q, h * n) for q, h in pump.points))
        return PumpCurve(made.max_head, made.max_flow, made.points, pump.speed, pump.wear)
    return PumpCurve(pump.max_head * n, pump.max_flow, (), pump.speed, pump.wear)


def suction_pipe(pump: PumpSpec, water: Water) -> Pipe:
    """The pipe in front of a pump that stands beside its filter: bulkhead, a bend, its length."""
    size = pipe_size(pump.suction)
    return Pipe(size.bore, pump.suction_length, SUCTION_K, size.roughness, water)


def with_suction(pump: PumpSpec, rising: Pipe) -> Pipe:
    """The rising pipe with the suction pipe in series, as length and losses on its own bore.

    Losses go by the fourth power of the bores, friction in smooth pipe by 4.75 (Blasius); 3 % off where roughness
    counts.
    """
    if not pump.beside:
        return rising
    front = suction_pipe(pump, rising.water)
    ratio = rising.bore / front.bore
    return Pipe(
        rising.bore,
        rising.length + front.length * ratio**4.75,
        rising.k + front.k * ratio**4,
        rising.roughness,
        rising.water,
    )


def riser_holds(pump: PumpSpec, bore: float, length: float, water: Water) -> float:
    """Water in m³ that a rising pipe of a bore and a length in m holds, with the suction pipe before its pump."""
    front = suction_pipe(pump, water)
    return math.pi / 4 * bore**2 * length + (front.area * front.length if pump.beside else 0.0)


def suction_head(pump: PumpSpec, flow: float, level: float, floor: float, water: Water) -> float:
    """Suction in m at the pump's eye: friction, speed head, and how far it stands over the water (m, elevations)."""
    front = suction_pipe(pump, water)
    speed = flow / front.area
    return front.head_loss(flow) + speed**2 / (2 * GRAVITY) + floor + pump.axis - level


def pump_readings(
    pump: PumpSpec, flow: float, level: float, floor: float, price: float, water: Water, shop: Shop
) -> tuple[Reading, ...]:
    """Watts and money of a year, and the suction of a pump that stands beside its filter."""
    yearly = pump_power(pump) * YEAR
    found = [
        Reading(
            "Power in a year",
            yearly,
            "energy",
            "Watts on the box by the cube of the speed, day and night:"
            f" {shop.in_money(yearly / 3.6e6 * price)} a year at {shop.in_money(price, 2)} a kWh.",
        )
    ]
    if pump.beside:
        found.append(
            Reading(
                "Suction at its eye",
                suction_head(pump, flow, level, floor, water),
                "head",
                "Friction and bends in the suction pipe, speed head, and its height over the water. Below nothing it is"
                " under pressure and primes by itself.",
                "Darcy–Weisbach",
                "±15 %",
            )
        )
    return tuple(found)


def judge_pump(
    pump: PumpSpec, path: Path, owner: str, flow: float, level: float, floor: float, water: Water
) -> tuple[Finding, ...]:
    """A pump beside its filter: does it prime, does its suction fold a hose, does water rush in."""
    if not pump.beside:
        return ()
    found = []
    over = floor + pump.axis - level
    if over > 0:
        lower = round(pump.axis - over - 0.05, 2)
        edit = Edit("Lower the pump", (Change((*path, "axis"), lower),)) if lower > -2 else None
        found.append(
            Finding(
                "pump-primes",
                Rank.FIX,
                "The pump stands {over:level} over the water it draws: it does not prime by itself.",
                "After a power cut air gathers in it, and it runs dry when the power returns. Set its axis under the"
                " running level, or fit a foot valve and fill it by hand.",
                owner,
                {"over": over},
                "Lower pump" if edit else "",
                edit,
                -over,
            )
        )
    suction = suction_head(pump, flow, level, floor, water)
    size = pipe_size(pump.suction)
    wider = wider_pipe(pump.suction)
    edit = Edit("Widen suction pipe", (Change((*path, "suction"), wider),)) if wider else None
    if suction > MOST_SUCTION or (size.family == "hose" and "corrugated" not in size.id and suction > HOSE_FOLDS):
        soft = size.family == "hose"
        found.append(
            Finding(
                "suction-high",
                Rank.FIX,
                "The pump sucks with {suction:head} at its eye"
                + (": a soft hose folds." if soft else ": it may draw air or cavitate."),
                "Throttle on the outlet side only; in front of a pump take a wide, short, stiff pipe.",
                owner,
                {"suction": suction},
                "Wider suction" if edit else "",
                edit,
                MOST_SUCTION - suction,
            )
        )
    elif flow / size.area > SUCTION_SPEED:
        found.append(
            Finding(
                "suction-fast",
                Rank.CONSIDER,
                "Water runs at {speed:speed} in the suction pipe.",
                "Under {1.2:speed} a pump gets its water without drawing air.",
                owner,
                {"speed": flow / size.area},
                "Wider suction" if edit else "",
                edit,
            )
        )
    return tuple(found)


def pump_power(pump: PumpSpec) -> float:
    """Power in W: the box's watts by the cube of the speed, for every stage."""
    return pump.watts * pump.speed**3 * pump.stages


def pump_choices(pump: PumpSpec, path: Path, label: str = "Pump") -> tuple[list[Choice], list[Choice]]:
    """Fields of a pump: those that stand on the card, and those that fold away."""
    front = [
        Choice((*path, "max_head"), f"{label}, greatest head", "head", pump.max_head, step=0.1),
        Choice((*path, "max_flow"), f"{label}, flow at no head", "flow", pump.max_flow, step=100e-3 / 3600),
        Choice((*path, "speed"), f"{label} speed", "fraction", pump.speed, step=0.05),
    ]
    folded = [
        Choice((*path, "watts"), f"{label} power", "power", pump.watts, fold=True),
        Choice((*path, "wear"), f"{label}, head left of new", "fraction", pump.wear, step=0.05, fold=True),
        Choice((*path, "stages"), f"{label}, number in series", "count", pump.stages, fold=True),
        Choice((*path, "beside"), f"{label} stands", "choice", pump.beside, PLACES, fold=True),
        Choice((*path, "name"), f"{label} is called", "text", pump.name, fold=True),
        Choice((*path, "points"), "Curve, flow : head", "curve", pump.points, fold=True),
    ]
    if pump.beside:
        folded += [
            Choice((*path, "axis"), f"{label} axis above floor", "length", pump.axis, step=0.01, fold=True),
            Choice((*path, "suction"), "Suction pipe", "choice", pump.suction, _pipes(), fold=True),
            Choice((*path, "suction_length"), "Suction length", "run", pump.suction_length, step=0.05, fold=True),
        ]
    return (front[2:] if pump.points else front), folded


def _pipes() -> tuple[tuple[str, str], ...]:
    return tuple((p.id, p.name) for p in PIPES.values())


def pump_for(max_head: float, max_flow: float, head: float, need: float) -> tuple[float, float]:
    """Box numbers of the next class that reaches a flow at a head, on steps that pumps are sold in."""
    top, most = max(max_head, head * 1.35), max_flow
    step = 500e-3 / 3600
    most = -(-most // step) * step
    while top * (1 - (need / most) ** 2) < head or need >= most:
        most += step
        top = max(top, head * 1.35)
    return round(top, 1), most


def pump_piece(part_id: str, pump: PumpSpec, *notes: Note, count: int = 1) -> Thing:
    """A pump on the list, by the two numbers on its box and its watts."""
    return Thing(
        id=part_id,
        name=pump.name,
        shelf=Shelf.EQUIPMENT,
        count=count,
        about=note("{h:head} at no flow, {q:flow} at no head", h=pump.max_head, q=pump.max_flow),
        notes=(note("{w:power}", w=pump.watts), *notes),
    )
