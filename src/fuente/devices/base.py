"""What every kind of device shares: specs, fragments of network, parts, tasks and findings."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from enum import IntEnum
from typing import Any, Literal, Protocol

from pydantic import BaseModel, ConfigDict, Field

from fuente.catalogue import fitting
from fuente.network.aeration import Lift
from fuente.network.model import Cell, Group, Link
from fuente.units import UnitSystem, fill

Path = tuple[str | int, ...]


class Spec(BaseModel):
    """A frozen part of the document. SI units, as each field's description says."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False, strict=False, defer_build=True)


def measured(
    default: Any, quantity: str, label: str, low: float, high: float, why: str = "", step: float | None = None
) -> Any:
    """A field with a quantity, a label for cards, limits in SI, and a sensible step for the arrow keys."""
    from fuente.units import QUANTITIES

    si = QUANTITIES[quantity].si or "1"
    text = f"{label}, {si}." if not why else f"{label}, {si}. {why}"
    extra: dict[str, Any] = {"quantity": quantity, "label": label, "step": step}
    bounds: dict[str, Any] = {"ge": low, "le": high}
    if default is ...:
        return Field(description=text, json_schema_extra=extra, **bounds)
    return Field(default, description=text, json_schema_extra=extra, **bounds)


def picked(default: str, label: str, options: Mapping[str, str], why: str = "") -> Any:
    """A field in which the builder picks one of several words (value → words)."""
    extra: dict[str, Any] = {"label": label, "options": [[k, v] for k, v in options.items()]}
    return Field(default, description=f"{label}: {', '.join(options)}. {why}".strip(), json_schema_extra=extra)


class Basin(Protocol):
    """What other devices need to know of the tank that they stand in: elevations and inside sizes in m."""

    def __hash__(self) -> int: ...
    @property
    def id(self) -> str: ...
    @property
    def name(self) -> str: ...
    @property
    def floor(self) -> float: ...
    @property
    def rim(self) -> float: ...
    @property
    def stand(self) -> float: ...
    @property
    def thickness(self) -> float: ...
    @property
    def length(self) -> float: ...
    @property
    def inner_length(self) -> float: ...
    @property
    def inner_width(self) -> float: ...
    @property
    def inner_height(self) -> float: ...


class Home(Basin, Protocol):
    """A tank as the filters see it that clean its water."""

    @property
    def offset(self) -> float: ...
    @property
    def temperature(self) -> float: ...
    @property
    def cover(self) -> float: ...
    @property
    def fed(self) -> float: ...
    @property
    def protein(self) -> float: ...
    @property
    def digs(self) -> bool: ...
    @property
    def gravel(self) -> float: ...


class FittingCount(Spec):
    """So many of one fitting in a run of pipe."""

    kind: str = Field(description="Id of a fitting in the catalogue.")
    count: int = Field(1, ge=0, le=99, description="How many.")


def fittings_k(fittings: tuple[FittingCount, ...]) -> float:
    """Sum of loss coefficients."""
    return sum(fitting(f.kind).k * f.count for f in fittings)


@dataclass(frozen=True)
class Fragment:
    """Cells and links of one device, and the cells where others join it (port name → cell id)."""

    cells: tuple[Cell, ...] = ()
    links: tuple[Link, ...] = ()
    ports: Mapping[str, str] = field(default_factory=dict)
    marks: Mapping[str, float] = field(default_factory=dict)
    lifts: tuple[Lift, ...] = ()  # tubes that wait for air
    displaced: tuple[tuple[str, float, float, float], ...] = ()  # of other cells: id, bottom m, top m, volume m³
    groups: tuple[Group, ...] = ()
    footprints: tuple[tuple[str, float], ...] = ()  # of other cells' plan: id, m² that it walls off


@dataclass(frozen=True)
class Outline:
    """What a device takes of the ground, m, seen from above: left end, from the back line of what it stands at, its
    sizes; ``base`` is the elevation of its underside. What stands ``inside`` a water lies in its outline. A round one
    has its diameter as both sizes; a corner one is a quarter round of its length.
    """

    name: str
    left: float
    back: float
    length: float
    width: float
    base: float = 0.0
    shape: str = "box"  # box, round, corner
    inside: bool = False
    wall: float = 0.0


@dataclass(frozen=True)
class Change:
    """One value to put at a path of the document."""

    path: Path
    value: Any


@dataclass(frozen=True)
class Edit:
    """A named change of the document: what undo calls it, and the values that it sets."""

    name: str
    changes: tuple[Change, ...]


class Rank(IntEnum):
    """How much a finding matters."""

    STOP = 0
    FIX = 1
    CONSIDER = 2

    @property
    def word(self) -> str:
        """The rank as it is shown."""
        return ("Stop", "Fix", "Consider")[self]


@dataclass(frozen=True)
class Finding:
    """A judgement with its number, its reason and a way out.

    ``text`` says what is and by how much; ``why`` the reason; ``action`` names the change that ``edit`` makes.
    ``owner`` is the station that it belongs to. Lengths and volumes stand in the text as {name:quantity} slots that are
    filled from ``values``, so that both unit systems read well.
    """

    code: str
    rank: Rank
    text: str
    why: str
    owner: str
    values: Mapping[str, float] = field(default_factory=dict)
    action: str = ""
    edit: Edit | None = None
    margin: float | None = None  # SI, how far from fulfilled: negative is short
    unless: str = ""  # code of a finding that explains this one: where that is, this is left out
    others: tuple[tuple[str, Edit], ...] = ()  # what else would do where the first remedy does not: action and edit
    also: str = ""  # how the sentence goes on where others of the kind say the same; empty where each is told apart

    def filled(self, system: UnitSystem) -> str:
        """The sentence in a unit system."""
        return fill(self.text, self.values, system)

    def reason(self, system: UnitSystem) -> str:
        """The reason in a unit system."""
        return fill(self.why, self.values, system)

    def offer(self, system: UnitSystem) -> str:
        """What its button says."""
        return fill(self.action, self.values, system)


@dataclass(frozen=True)
class Verdict:
    """One line about a state: words with slots as in Finding, and how good it is."""

    text: str
    values: Mapping[str, float] = field(default_factory=dict)
    rank: Rank | None = None  # None: fine

    def filled(self, system: UnitSystem) -> str:
        """The line in a unit system."""
        return fill(self.text, self.values, system)


@dataclass(frozen=True)
class Reading:
    """A computed figure on a station's card, with the explanation that opens under it."""

    label: str
    value: float | str
    quantity: str = ""
    why: str = ""
    source: str = ""
    sure: str = ""


@dataclass(frozen=True)
class Choice:
    """A field of the document that a card lets the builder decide."""

    path: Path
    label: str
    quantity: str  # of units.QUANTITIES, or "choice", "text", "flag", "count", "fittings"
    value: Any
    options: tuple[tuple[Any, str], ...] = ()
    step: float | None = None
    fold: bool = False
    make: Callable[[Any], Edit] | None = None  # the edit of a choice that sets more than its own value
    density: float = 0.0  # kg/m³ of a volume that may be typed as a weight too; 0 for none
    plan: float = 0.0  # m² of a thickness that may be typed as a volume too; 0 for none


@dataclass(frozen=True)
class Station:
    """A place along the water: its row in the list and its card."""

    id: str
    name: str
    headline: str
    values: Mapping[str, float]
    used: float | None = None  # share of what is available, for the bar
    note: str = ""
    big: tuple[Reading, ...] = ()
    choices: tuple[Choice, ...] = ()
    readings: tuple[Reading, ...] = ()
    cells: tuple[str, ...] = ()
    owner: str = ""  # id of the device that it is a row of
    pumped: bool = False
    glyph: str = "chamber"
    why: Reading | None = None
    # What else can be done here, label and edit; worked out when the menu opens, not on every move of a handle.
    commands: Callable[[], tuple[tuple[str, Edit], ...]] | None = None
    many: bool = False  # whether it can be duplicated to tanks of the builder's choice
    swaps: bool = False  # whether another kind can take its place


@dataclass(frozen=True)
class Task:
    """Upkeep: what, how often in s, and why; and what it wants: minutes, m³ of water that goes, tools, its steps.

    ``place`` is where, an id that the log knows it by (its owner unless given), with a name. A ``living`` one costs
    bacteria, so that two of them keep apart; of a ``pair`` one is done in turn. ``clogs`` are the ways whose loss tells
    when it is due (all of its owner's for ``*``); ``does`` is what it leaves; ``uses`` what it takes from the shelf, by
    consumable and pieces or m³.
    """

    id: str
    name: str
    interval: float
    why: str
    owner: str
    place: str = ""
    place_name: str = ""
    minutes: float = 5.0
    litres: float = 0.0
    tools: tuple[str, ...] = ()
    how: tuple[str, ...] = ()
    living: bool = False
    pair: str = ""
    clogs: tuple[str, ...] = ()
    does: Literal["cleaned", "swapped", "done"] = "done"
    uses: tuple[tuple[str, float], ...] = ()
    room: str = ""  # id of the room that is emptied for it, as the cleaning situation knows it
