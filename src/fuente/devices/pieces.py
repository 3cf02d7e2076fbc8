"""What devices are made of, as data: ids, faces and quantities in SI. How a list says it is `workshop.words`'s."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum
from typing import Literal

from fuente.catalogue import Bulkhead, fitting
from fuente.catalogue import Medium as Sold
from fuente.devices.base import FittingCount

# Marks of fields for the list, which has pieces that differ only in their own fields as one line: what tells equal
# pieces apart, and what their line adds up.
OWN = {"own": True}
SUM = {"sum": True}
ELECTRIC = (
    "Electricity near water: residual-current protection, drip loops; local codes and a licensed electrician decide."
)
PLUMBER = "Plumbing to mains or drains: backflow protection, local code, licensed plumber."


class Shelf(StrEnum):
    """Where the list has a piece that is not a panel."""

    PADS = "Pads and socks"
    STRIPS = "Panels, acrylic"
    MEDIA = "Media"
    EQUIPMENT = "Equipment"
    PIPE = "Pipe"
    FITTINGS = "Fittings"
    HOLES = "Holes"


class Face(StrEnum):
    """A side of a body, as one stands before it; the floor is seen from above."""

    FLOOR = "floor"
    FRONT = "front"
    BACK = "back"
    LEFT = "left"
    RIGHT = "right"
    WALL = "wall"  # any side, or the one round wall of a drum or a bottle
    LID = "lid"


class Fixing(StrEnum):
    """How a joint holds and seals."""

    BULKHEAD = "bulkhead"
    SEAL = "rubber seal"


@dataclass(frozen=True)
class Note:
    """A remark in words, with slots as in Finding; ``of`` is a name that a builder gave, and never read as slots."""

    text: str = ""
    values: Mapping[str, float] = field(default_factory=dict)
    of: str = ""


def note(text: str = "", of: str = "", **values: float) -> Note:
    """A remark: its words, whose it is, and the values of its slots in SI."""
    return Note(text, values, of)


@dataclass(frozen=True, kw_only=True)
class Piece:
    """What every piece has: an id of its own, how many there are, and what else to know of it."""

    id: str = field(metadata=OWN)
    count: int = field(default=1, metadata=OWN | SUM)
    notes: tuple[Note, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Hole(Piece):
    """A hole through a face of a body, m: round by its diameter, or a slot by its width and height.

    ``x`` and ``y`` are its centre from the face's lower left corner seen from outside (a floor's: from its left and
    back); None where the builder spreads them.
    """

    name: str = "Hole"
    body: str = field(default="", metadata=OWN)  # id of the panel or vessel that it goes through
    face: Face = Face.WALL
    diameter: float = 0.0
    width: float = 0.0
    height: float = 0.0
    x: float | None = None
    y: float | None = None


@dataclass(frozen=True)
class Place:
    """Where a panel stands in its body: its lower left back corner, m from the body's left outer end, its back outer
    face and its underside; ``lies`` says along which axes its length and width run: x along, y to the front, z up.
    """

    x: float
    y: float
    z: float
    lies: Literal["xz", "yz", "xy", "yx"]


COMB = 0.02  # m that teeth, or the wall beside a notch, stand over the crest


@dataclass(frozen=True)
class Slots:
    """What is cut into a panel's upper edge, m: so many slots of a width, evenly spread, down to the crest."""

    count: int
    width: float
    depth: float


def slots_of(length: float, crest: float, room: float, notch: float, teeth: float, gap: float) -> Slots | None:
    """A notch, or slots between teeth that take their share of a crest of a length; None for a plain crest. All in m
    but ``teeth``, a share; ``room`` is the height of the body over its floor. Water goes through them, so that the
    panel stands over its crest by their depth.
    """
    depth = max(min(COMB, room - crest), 0.0)
    if depth <= 0 or (not notch and not teeth):
        return None
    if notch:
        return Slots(1, min(notch, length), depth)
    return Slots(max(round((1 - teeth) * length / gap), 1), gap, depth)


@dataclass(frozen=True, kw_only=True)
class Panel(Piece):
    """A sheet panel as ordered, m: the faces of its body that it makes, and what the plate model says of it. ``body``
    is the id of the device that it is part of; ``places`` has one for each of ``count``, where that is known.
    """

    name: str
    length: float
    width: float
    thickness: float
    material: str
    faces: tuple[Face, ...] = ()
    holes: tuple[Hole, ...] = ()
    safety: float | None = None
    needed: float | None = None
    body: str = ""
    places: tuple[Place, ...] = ()
    slots: Slots | None = None
    sized_by: tuple[str | int, ...] = field(default=(), metadata=OWN)  # where the design holds its thickness
    bonded: int = 4  # edges that are glued: 3 of a baffle that stands on the floor, 2 of one over a gap

    @property
    def mass(self) -> float:
        """Mass in kg of one."""
        from fuente.structure.plates import MATERIALS

        return self.length * self.width * self.thickness * MATERIALS[self.material].density


@dataclass(frozen=True, kw_only=True)
class Joint(Piece):
    """A fitting that seals a pipe through a wall; ``pipe`` is an id of the catalogue."""

    fixing: Fixing
    pipe: str
    fit: Bulkhead | None = None  # as measured in the hand; None for the usual one of its size
    between: tuple[str, ...] = field(default=(), metadata=OWN)  # ids of the bodies whose walls it goes through
    drains: tuple[str, ...] = field(default=(), metadata=OWN | SUM)  # names of the tanks that it drains


@dataclass(frozen=True, kw_only=True)
class Pipe(Piece):
    """A run of pipe, hose, tube or gutter, m.

    ``pipe`` is an id of the catalogue; tubes that it does not have say their bore. ``exact`` is cut to the millimetre.
    Pipes of one ``run`` follow each other along the water; None for the run of its device, empty for what goes by the
    metre.
    """

    form: str = "Pipe"
    pipe: str = ""
    bore: float = 0.0
    outside: float = 0.0
    length: float = 0.0
    exact: bool = False
    width: float = 0.0  # of an open gutter
    height: float = 0.0
    holes: int = 0  # of a spray bar
    hole_bore: float = 0.0
    run: str | None = field(default=None, metadata=OWN)
    drains: tuple[str, ...] = field(default=(), metadata=OWN | SUM)


@dataclass(frozen=True, kw_only=True)
class Pad(Piece):
    """Foam, felt or mesh that catches dirt, m; its pores by ppi, or its openings. ``stuff`` is what sheet it is cut
    from, ``made`` for what comes sewn or bored; ``over`` is how far it is cut past its size on each side.
    """

    form: str = "Foam pad"
    stuff: Literal["foam", "floss", "mesh", "made"] = "foam"
    over: float = 0.0
    ppi: float = 0.0
    opening: float = 0.0
    length: float = 0.0
    width: float = 0.0
    thickness: float = 0.0
    diameter: float = 0.0
    shelf: Shelf = Shelf.MEDIA

    @property
    def cut(self) -> tuple[float, float] | None:
        """Length and width in m that it takes of a sheet, a disc the square about it; None for what no sheet gives."""
        length, width = (self.length, self.width) if self.length else (self.diameter, self.diameter)
        thick = self.thickness or self.stuff == "mesh"
        if self.stuff == "made" or not (length and width and thick) or (self.stuff == "foam" and not self.ppi):
            return None
        return length + 2 * self.over, width + 2 * self.over


@dataclass(frozen=True, kw_only=True)
class Medium(Piece):
    """Loose media: m³ as it lies, kg dry and drained wet; ``medium`` is an id of the catalogue, or none with a name."""

    medium: str = ""
    name: str = ""
    bulk: float = field(default=0.0, metadata=SUM)
    dry: float | None = field(default=None, metadata=SUM)
    wet: float | None = field(default=None, metadata=SUM)
    grain: float = 0.0
    bags: int = field(default=0, metadata=SUM)


@dataclass(frozen=True, kw_only=True)
class Thing(Piece):
    """Anything that is bought or made whole, m and m³; ``pipe`` is the catalogue's id of the pipe that it fits."""

    name: str
    shelf: Shelf
    pipe: str = ""
    length: float = 0.0
    width: float = 0.0
    height: float = 0.0
    diameter: float = 0.0
    volume: float = 0.0
    mass: float = field(default=0.0, metadata=SUM)  # kg, of what is weighed rather than counted
    fits: str = ""  # of a pipe's fitting, the catalogue's kind of it
    about: Note = Note()  # what else tells its size: a mesh, a pump's two numbers
    drains: tuple[str, ...] = field(default=(), metadata=OWN | SUM)


@dataclass(frozen=True)
class FirstRun:
    """What is done and looked at when water first runs through a device: the act, what to see, and minutes. All take
    turns: floats as it fills (0), pumps started low (1), drains trimmed (2), the power cut (3).
    """

    id: str
    title: str
    turn: int
    act: Note
    check: Note
    minutes: float = 5.0


@dataclass(frozen=True)
class Making:
    """A step of a kind's own craft: what to do, what to see, minutes; and how long it then waits, s, for what. Glue
    waits by the depth of its bead: ``bead`` in m instead of ``wait``.
    """

    id: str
    title: str
    acts: tuple[Note, ...]
    check: str
    minutes: float = 15.0
    hands: int = 1
    tools: tuple[str, ...] = ()
    wait: float = 0.0
    bead: float = 0.0
    waits_for: str = ""
    before: bool = False  # whether it comes before anything is drilled


@dataclass(frozen=True)
class Parts:
    """What a device is made of, in build order, and what to take care of; ``making`` is what its kind alone wants."""

    pieces: tuple[Piece, ...] = ()
    cautions: tuple[str, ...] = ()
    making: tuple[Making, ...] = ()

    @property
    def panels(self) -> tuple[Panel, ...]:
        """The sheet panels among it."""
        return tuple(p for p in self.pieces if isinstance(p, Panel))

    @property
    def others(self) -> tuple[Piece, ...]:
        """All but the sheet panels."""
        return tuple(p for p in self.pieces if not isinstance(p, Panel))

    def __add__(self, other: Parts) -> Parts:
        cautions = self.cautions + tuple(c for c in other.cautions if c not in self.cautions)
        making = self.making + other.making
        return replace(self, pieces=self.pieces + other.pieces, cautions=cautions, making=making)


# -- pieces that many kinds have ----------------------------------------------------------------------------------


def fittings_of(
    owner: str, fittings: Iterable[FittingCount], pipe: str, *notes: Note, times: int = 1, drains: tuple[str, ...] = ()
) -> list[Piece]:
    """The fittings of a run of pipe, each kind once with its count."""
    return [
        Thing(
            id=f"{owner}.{f.kind}",
            name=fitting(f.kind).name,
            shelf=Shelf.FITTINGS,
            pipe=pipe,
            fits=f.kind,
            count=f.count * times,
            notes=notes,
            drains=drains,
        )
        for f in fittings
        if f.count
    ]


def media_of(part_id: str, stuff: Sold, bulk: float, *notes: Note, bags: int = 0) -> Medium:
    """So many m³ of a medium, with what it weighs."""
    dry, wet = bulk * stuff.dry, bulk * stuff.wet_density()
    return Medium(id=part_id, medium=stuff.id, name=stuff.name, bulk=bulk, dry=dry, wet=wet, bags=bags, notes=notes)


def box_of(part_id: str, name: str, length: float, width: float, height: float, *notes: Note) -> Thing:
    """A box or a trough by its three sizes."""
    return Thing(id=part_id, name=name, shelf=Shelf.EQUIPMENT, length=length, width=width, height=height, notes=notes)


def tool(
    part_id: str,
    name: str,
    *notes: Note,
    shelf: Shelf = Shelf.FITTINGS,
    count: int = 1,
    pipe: str = "",
    fits: str = "",
) -> Thing:
    """A thing that its name tells whole; ``fits`` is the catalogue's kind of a pipe's fitting."""
    return Thing(id=part_id, name=name, shelf=shelf, count=count, notes=notes, pipe=pipe, fits=fits)
