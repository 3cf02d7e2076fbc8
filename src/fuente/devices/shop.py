"""How and from what the builder builds: joint order, gaps, stock, leftovers, fittings in the hand, glue, money."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from fuente.catalogue import PIPES, Bulkhead, bulkhead, bulkhead_for, pipe_size, saws_sold, take_off
from fuente.devices.base import Spec, measured, picked
from fuente.errors import FuenteError
from fuente.one_line import Line
from fuente.structure.plates import ALLOWED

_DAY = 86400.0
WALLS = {"on": "walls stand on the bottom", "round": "walls stand round the bottom"}
ENDS = {"between": "ends between front and back", "outside": "front and back between the ends"}
STRESSES = {"workshop": "19.2 MPa over a safety of 3.8", "long": "7 MPa, its long-duration value"}
EDGES = {"cut": "as cut", "seamed": "seamed, safe to touch", "ground": "ground flat"}
MATERIALS = ("glass", "acrylic", "plywood")
Material = Literal["glass", "acrylic", "plywood"]


class StockSheet(Spec):
    """A sheet that the builder buys, instead of the usual size."""

    kind: Literal["sheet"] = "sheet"
    material: Material = "glass"
    thickness: float = measured(0.0, "fine_length", "Thickness", 0.0, 0.06, "0 for any.", step=0.001)
    length: float = measured(2.0, "length", "Length", 0.05, 8.0, step=0.05)
    width: float = measured(1.2, "length", "Width", 0.05, 4.0, step=0.05)
    price: float = Field(0.0, ge=0.0, le=1e5, description="Price of one, in any money; 0 where it is not known.")


class LeftoverSheet(Spec):
    """A piece of sheet that is there."""

    kind: Literal["sheet"] = "sheet"
    material: Material = "glass"
    thickness: float = measured(0.006, "fine_length", "Thickness", 0.001, 0.06, step=0.001)
    length: float = measured(0.5, "length", "Length", 0.02, 8.0, step=0.01)
    width: float = measured(0.3, "length", "Width", 0.02, 4.0, step=0.01)
    count: int = Field(1, ge=1, le=99)


class LeftoverFoam(Spec):
    """A piece of foam that is there."""

    kind: Literal["foam"] = "foam"
    ppi: float = Field(20.0, ge=5.0, le=100.0)
    thickness: float = measured(0.05, "fine_length", "Thickness", 0.002, 0.3, step=0.005)
    length: float = measured(0.5, "length", "Length", 0.02, 8.0, step=0.01)
    width: float = measured(0.3, "length", "Width", 0.02, 4.0, step=0.01)
    count: int = Field(1, ge=1, le=99)


class LeftoverPipe(Spec):
    """A length of pipe or hose that is there."""

    kind: Literal["pipe"] = "pipe"
    pipe: str = Field("32-pn10", description="An id of the catalogue.")
    length: float = measured(1.0, "run", "Length", 0.02, 100.0, step=0.05)
    count: int = Field(1, ge=1, le=99)

    @model_validator(mode="after")
    def _known(self) -> LeftoverPipe:
        if self.pipe not in PIPES:
            raise ValueError(f"The catalogue has no pipe “{self.pipe[:40]}”.")
        return self


class LeftoverFitting(Spec):
    """Fittings that are there."""

    kind: Literal["fitting"] = "fitting"
    fitting: str = Field("elbow", description="An id of the catalogue, or a bulkhead by ``bulkhead``.", max_length=40)
    pipe: str = Field("32-pn10", description="The pipe that it fits, an id of the catalogue.")
    count: int = Field(1, ge=1, le=999)

    @model_validator(mode="after")
    def _known(self) -> LeftoverFitting:
        if self.pipe not in PIPES:
            raise ValueError(f"The catalogue has no pipe “{self.pipe[:40]}”.")
        return self


class HandTakeOff(Spec):
    """What a fitting takes off a pipe's run at each end, measured; it stands for the catalogue's."""

    fits: str = Field("elbow", max_length=40, description="The catalogue's kind of fitting.")
    pipe: str = Field("32-pn10", description="The pipe that it fits, an id of the catalogue.")
    length: float = measured(0.018, "fine_length", "Taken off at each end", 0.0, 0.5, step=0.0005)


Leftover = Annotated[LeftoverSheet | LeftoverFoam | LeftoverPipe | LeftoverFitting, Field(discriminator="kind")]


class HandFitting(Spec):
    """A bulkhead fitting measured with a ruler. It stands for the catalogue's of its size, everywhere."""

    size: str = Field("32 mm", max_length=20, description="Its nominal size, as the catalogue names it.")
    thread: float = measured(0.041, "fine_length", "Thread, over its crests", 0.008, 0.25, step=0.0005)
    flange: float = measured(0.064, "fine_length", "Flange", 0.012, 0.4, step=0.0005)
    nut: float = measured(0.064, "fine_length", "Nut, over its corners", 0.012, 0.4, step=0.0005)
    gasket: float = measured(0.003, "fine_length", "Gasket, thick", 0.0005, 0.02, step=0.0005)

    @model_validator(mode="after")
    def _whole(self) -> HandFitting:
        try:
            bulkhead(self.size)
        except FuenteError as error:
            raise ValueError(str(error)) from None
        if self.flange <= self.thread + 0.004:
            raise ValueError("A flange is wider than its thread: measure it again.")
        return self

    @property
    def saws(self) -> tuple[float, float]:
        """Least and greatest hole in m: its thread passes with a millimetre, its gasket lies on 4 mm all round."""
        return self.thread + 0.001, max(self.flange - 0.008, self.thread + 0.001)


class Price(Spec):
    """What something costs at one supplier; the cheapest of those that are known is taken."""

    what: Line = Field(max_length=200, description="What, as the list names it in metric units.")
    amount: float = Field(ge=0.0, le=1e6, description="In any money, for one of its unit.")
    supplier: Line = Field("", max_length=80)


class Shop(Spec):
    """The builder's workshop."""

    walls: Literal["on", "round"] = picked("on", "Walls", WALLS)
    ends: Literal["between", "outside"] = picked("between", "Ends", ENDS)
    stress: Literal["workshop", "long"] = picked("workshop", "Stress allowed in glass", STRESSES)
    glue: float = measured(0.001, "fine_length", "Glue gap", 0.0, 0.004, "Between two panels.", step=0.0005)
    clearance: float = measured(0.001, "fine_length", "Baffle clearance", 0.0, 0.01, "At each side.", step=0.0005)
    edges: Literal["cut", "seamed", "ground"] = picked("seamed", "Panels' edges", EDGES)
    grind: float = measured(0.0, "fine_length", "Lost by grinding an edge", 0.0, 0.005, "Added when cut.", step=0.0005)
    kerf: float = measured(0.003, "fine_length", "Saw's kerf", 0.0, 0.01, "Of acrylic and board.", step=0.0005)
    trim: float = measured(0.0, "length", "Unused along a sheet's edges", 0.0, 0.1, step=0.005)
    squeeze: float = measured(0.005, "length", "Pads wider than their place", 0.0, 0.05, "To hold tight.", step=0.001)
    bead: float = measured(0.006, "fine_length", "Inner bead, deep", 0.001, 0.02, step=0.001)
    cure: float = measured(_DAY / 2.5e-3, "number", "Curing", 0.0, 1e10, "Seconds for each m of a bead's depth.")
    before_water: float = measured(5 * _DAY, "days", "Cured, then dry for", 0.0, 60 * _DAY, step=_DAY)
    cement: float = measured(_DAY, "hours", "Solvent cement, under pressure after", 0.0, 14 * _DAY, step=3600.0)
    cartridge: float = measured(0.31e-3, "volume", "Silicone in a cartridge", 1e-5, 1e-2)
    bar: float = measured(3.0, "run", "Pipe sold by", 0.2, 20.0, step=0.5)
    saws: tuple[float, ...] = Field((), max_length=60, description="Hole saws that are there, m; none for any.")
    sheets: tuple[StockSheet, ...] = Field((), max_length=60, description="What the builder buys sheet as.")
    leftovers: tuple[Leftover, ...] = Field((), max_length=300, description="What is there already.")
    fittings: tuple[HandFitting, ...] = Field((), max_length=60, description="Fittings in the hand.")
    take_offs: tuple[HandTakeOff, ...] = Field((), max_length=100, description="Fittings' take-offs, as measured.")
    prices: tuple[Price, ...] = Field((), max_length=1000, description="What things cost the builder.")
    currency: Line = Field("", max_length=8, description="Written behind prices; empty for none.")
    budget: float = Field(0.0, ge=0.0, le=1e7, description="What it may cost, in that money; 0 for no limit.")
    ready_pad: float = Field(0.0, ge=0.0, le=1e5, description="Price of a ready-made pad; 0 for none.")
    ready_made: float = Field(0.0, ge=0.0, le=1e7, description="Price of a ready-made filter; 0 for none.")

    @model_validator(mode="after")
    def _whole(self) -> Shop:
        sizes = [bulkhead(f.size).size for f in self.fittings]
        if len(set(sizes)) != len(sizes):
            raise ValueError("Two fittings in the hand have the same size: keep the one that you will use.")
        return self

    def in_money(self, amount: float, digits: int = 0) -> str:
        """An amount in the builder's money."""
        said = f"{amount:,.{digits}f}".replace(",", "\u202f")
        return f"{said} {self.currency}" if self.currency else said

    def allowed(self, material: str) -> float | None:
        """Stress in Pa that a sheet is designed for, where the builder's school says another than the usual."""
        return ALLOWED[self.stress] if material == "glass" else None

    def fitting_for(self, pipe_id: str) -> Bulkhead:
        """The bulkhead that takes a pipe: the one in the hand where it was measured, else the catalogue's."""
        usual = bulkhead_for(pipe_size(pipe_id))
        for each in self.fittings:
            if bulkhead(each.size).size == usual.size:
                return self.as_measured(each, usual)
        return usual

    def taken_off(self, kind: str, pipe_id: str) -> float | None:
        """What a fitting takes off a run at each end, m: as measured, else as is usual; None for what lies in none."""
        for each in self.take_offs:
            if (each.fits, each.pipe) == (kind, pipe_id):
                return each.length
        return take_off(kind, pipe_size(pipe_id))

    def as_measured(self, each: HandFitting, usual: Bulkhead) -> Bulkhead:
        """The catalogue's fitting with the measured sizes, and the hole that passes the thread and not the flange."""
        low, high = each.saws
        return Bulkhead(usual.size, usual.bore, low, high, self.saw_for(low, high, usual.saw), each.flange, each.gasket)

    def saw_for(self, low: float, high: float, usual: float) -> float:
        """The saw to take for a hole between two diameters in m: one that is there, else the usual if it fits, else the
        smallest that is sold and passes; the least hole itself where none does.
        """
        for saws in (sorted(self.saws), (usual,), saws_sold()):
            for saw in saws:
                if low - 1e-6 <= saw <= high + 1e-6:
                    return saw
        return low
