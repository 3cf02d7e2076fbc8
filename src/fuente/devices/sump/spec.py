"""What the builder decides of a sump."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fuente.devices.base import Outline, Spec, measured, picked
from fuente.devices.contract import Device, Heater, Held, Site
from fuente.one_line import Line

Role = Literal["inlet", "socks", "foam", "media", "moving_bed", "plants", "heater", "trap", "clean_out", "pump"]
ROLE_NAMES: dict[str, str] = {
    "inlet": "Settling chamber",
    "socks": "Sock plate",
    "foam": "Foam wall",
    "media": "Media basket",
    "moving_bed": "Moving bed",
    "plants": "Plant chamber",
    "heater": "Heater chamber",
    "trap": "Bubble trap",
    "clean_out": "Clean-out chamber",
    "pump": "Pump chamber",
}


AIRED: tuple[Role, ...] = ("inlet", "foam", "media", "moving_bed", "plants", "heater", "clean_out")


class Baffle(Spec):
    """A baffle across the sump: water goes over its top, and under it where it has a gap."""

    top: float = measured(0.3, "length", "Crest above the floor", 0.01, 2.0, step=0.001)
    gap: float = measured(0.0, "length", "Gap under it", 0.0, 1.0, "0 for bonded to the floor.", step=0.001)
    notch: float = measured(0.0, "length", "Notch width", 0.0, 3.0, "0 for the full width.")
    teeth: float = measured(0.0, "fraction", "Taken by teeth", 0.0, 0.9)
    tooth_gap: float = measured(0.006, "length", "Slot between teeth", 0.001, 0.05, step=0.001)
    thickness: float = measured(0.006, "length", "Thickness", 0.002, 0.03, step=0.001)
    material: Literal["glass", "acrylic"] = "glass"

    @model_validator(mode="after")
    def _stands(self) -> Baffle:
        if self.gap > self.top - 0.005:
            raise ValueError("A baffle's gap reaches its crest: nothing of it is left.")
        return self


class Pad(Spec):
    """A foam pad, upright across the sump."""

    ppi: float = Field(20, ge=8, le=60, description="Pores per inch.", json_schema_extra={"label": "Pores per inch"})
    thickness: float = measured(0.05, "length", "Thickness", 0.005, 0.5, step=0.005)
    height: float = measured(0.3, "length", "Height", 0.02, 2.0)
    holds: bool = Field(False, description="Whether it only holds other pads in place: its pores are in no order.")
    dirt: float = Field(1.0, ge=1, le=2000, description="Its loss now over its loss when clean.")


class Socks(Spec):
    """Socks hanging in a plate."""

    count: int = Field(2, ge=1, le=24)
    micron: float = measured(200e-6, "micron", "Rating", 5e-6, 1e-3, step=25e-6)
    diameter: float = measured(0.1, "length", "Diameter", 0.05, 0.4)
    length: float = measured(0.25, "length", "Length", 0.05, 1.0)
    plate: float = measured(0.32, "length", "Plate above the floor", 0.05, 2.0)
    dirt: float = Field(1.0, ge=1, le=2000, description="Its loss now over its loss when clean.")


class Fill(Spec):
    """Media in a chamber, in litres of bulk."""

    medium: str = Field("ring", description="An id of the catalogue.")
    volume: float = measured(0.01, "volume", "Volume in bulk", 0.0, 2.0)
    held: Literal["basket", "bags", "loose"] = "basket"


WAYS = {"across": "across the sump", "up": "upwards", "down": "downwards"}


class Chamber(Spec):
    """One chamber, in the order of the water. The last one is the pump chamber and takes the length that is left."""

    id: str = Field(max_length=40)
    role: Role
    name: Line = Field("", max_length=80)
    width: float = measured(0.15, "length", "Chamber along the sump", 0.0, 4.0)
    exit: Baffle | None = Field(None, description="The baffle to the next chamber; none at the last.")
    pads: tuple[Pad, ...] = Field((), max_length=8)
    socks: Socks | None = None
    fill: Fill | None = None
    way: Literal["across", "up", "down"] = picked(
        "across", "Water crosses it", WAYS, "Of pads and media: upwards and downwards they lie on a grid."
    )
    support: float = measured(0.03, "length", "Void under what lies", 0.005, 0.5, step=0.005)
    under: Baffle | None = Field(None, description="The under-baffle in the middle of a bubble trap.")
    heaters: int = Field(0, ge=0, le=8)
    heater_watts: float = measured(0.0, "power", "Each heater", 0, 3000)
    level: float = measured(
        0.25, "length", "Running water level", 0.02, 2.0, "The mark in the pump chamber.", step=0.005
    )
    intake: float = measured(0.08, "length", "Pump needs water to", 0.005, 1.0, step=0.005)

    @property
    def title(self) -> str:
        """Its own name, or its role's."""
        return self.name or ROLE_NAMES[self.role]

    @property
    def lies(self) -> bool:
        """Whether pads or media lie in it, crossed upwards or downwards."""
        if self.way == "across" or self.role not in ("foam", "media"):
            return False
        return bool(self.pads or (self.role == "media" and self.fill and self.fill.volume > 0))

    @model_validator(mode="after")
    def _contents_fit(self) -> Chamber:
        if self.role != "pump" and self.width < 0.02:
            raise ValueError(f"{self.title} is narrower than 20 mm.")
        if self.role == "foam":
            if not self.pads:
                raise ValueError(f"{self.title} needs at least one pad.")
            if self.way == "across" and sum(p.thickness for p in self.pads) > self.width - 0.005:
                raise ValueError(f"The pads of {self.title} are thicker together than the chamber is long.")
        if self.role == "media" and self.pads and not self.lies:
            raise ValueError(
                f"Pads lie on the media of {self.title} only where water crosses it upwards or downwards: take them off"
                " first."
            )
        if self.role == "socks" and self.socks is None:
            raise ValueError(f"{self.title} needs its socks described.")
        if self.role == "trap" and (self.under is None or self.under.gap < 0.003):
            raise ValueError(f"{self.title} needs an under-baffle with a gap.")
        if self.role == "trap" and self.under and self.width - self.under.thickness < 0.02:
            raise ValueError(f"{self.title} is too narrow for its under-baffle.")
        return self


def cells_of(chamber: Chamber) -> int:
    """How many cells a chamber becomes."""
    if chamber.lies:
        return 2
    if chamber.role == "foam":
        return len(chamber.pads) + 1
    if chamber.role == "media" and chamber.fill and chamber.fill.volume > 0:
        return 2
    return 2 if chamber.role in ("trap", "socks") else 1


def cell_ids(sump: Sump, chamber: Chamber) -> tuple[str, ...]:
    """Ids of a chamber's cells along the water."""
    base = f"{sump.id}.{chamber.id}"
    count = cells_of(chamber)
    return (base,) if count == 1 else tuple(f"{base}.{k}" for k in range(count))


class Sump(Device):
    """A rectangular sump. Outside sizes; water runs from its left to its right."""

    kind: Literal["sump"] = "sump"
    id: str = Field("sump", max_length=40)
    name: Line = Field("Sump", max_length=80)
    length: float = measured(0.9, "length", "Length outside", 0.15, 6)
    width: float = measured(0.4, "length", "Width outside", 0.1, 3)
    height: float = measured(0.4, "length", "Height outside", 0.1, 2)
    thickness: float = measured(0.008, "length", "Wall thickness", 0.003, 0.04, step=0.001)
    bottom: float = measured(0.01, "length", "Bottom thickness", 0.003, 0.04, step=0.001)
    material: Literal["glass", "acrylic"] = "glass"
    braced: bool = False
    strip: float = measured(
        0.0, "length", "Strips along the rim, wide", 0.0, 0.3, "As thick as the walls; 0 for none.", step=0.01
    )
    full_bed: bool = Field(True, description="Whether its bottom lies on a full bed.")
    stand: float = measured(0.05, "length", "Underside above the floor", 0.0, 3)
    offset: float = measured(0.1, "length", "Left end from the tank's left end", -6, 10)
    chambers: tuple[Chamber, ...] = Field(min_length=1, max_length=16)

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Its four walls."""
        return (Outline(self.name, self.offset, 0.0, self.length, self.width, self.stand, wall=self.thickness),)

    @property
    def inner_length(self) -> float:
        """m."""
        return self.length - 2 * self.thickness

    @property
    def inner_width(self) -> float:
        """m."""
        return self.width - 2 * self.thickness

    @property
    def inner_height(self) -> float:
        """m."""
        return self.height - self.bottom

    @property
    def floor(self) -> float:
        """Elevation of the inner floor, m."""
        return self.stand + self.bottom

    @property
    def rim(self) -> float:
        """Elevation of the rim, m."""
        return self.stand + self.height

    def widths(self) -> tuple[float, ...]:
        """Length in m of each chamber along the sump; the last takes what is left."""
        given = [c.width for c in self.chambers[:-1]]
        baffles = sum(c.exit.thickness for c in self.chambers[:-1] if c.exit)
        return (*given, self.inner_length - sum(given) - baffles)

    def starts(self) -> tuple[float, ...]:
        """Distance in m of each chamber's start from the left inner face."""
        at, result = 0.0, []
        for chamber, width in zip(self.chambers, self.widths(), strict=True):
            result.append(at)
            at += width + (chamber.exit.thickness if chamber.exit else 0.0)
        return tuple(result)

    @model_validator(mode="after")
    def _chambers_fit(self) -> Sump:
        if self.inner_width < 0.03 or self.inner_height < 0.05:
            raise ValueError("The sump's walls leave no room inside.")
        ids = [c.id for c in self.chambers]
        if len(set(ids)) != len(ids):
            raise ValueError("Two chambers of the sump have the same id.")
        left = self.widths()[-1]
        if left < 0.04:
            raise ValueError(
                f"The chambers leave {left * 1000:.0f} mm for the pump; it needs 40 mm at least. "
                "Make another chamber shorter or the sump longer."
            )
        for i, chamber in enumerate(self.chambers):
            last = i == len(self.chambers) - 1
            if last and chamber.exit:
                raise ValueError("The last chamber must stand at the wall, without a baffle after it.")
            if not last and chamber.exit is None:
                raise ValueError(f"{chamber.title} needs a baffle to the next chamber.")
            if not last and chamber.role == "pump":
                raise ValueError("Only the last chamber can be the pump chamber.")
            for baffle in filter(None, (chamber.exit, chamber.under)):
                if baffle.top > self.inner_height:
                    raise ValueError(f"A baffle of {chamber.title} stands above the sump's rim.")
        if self.chambers[-1].level >= self.inner_height:
            raise ValueError("The running level is marked above the sump's rim.")
        return self

    def heated(self) -> tuple[Heater, ...]:
        """Chamber by chamber; in foam they stand behind the last pad."""
        found = []
        for chamber in self.chambers:
            base = f"{self.id}.{chamber.id}"
            cells = cells_of(chamber)
            if chamber.heaters and chamber.heater_watts:
                cell = base if cells == 1 else f"{base}.{cells - 1}"
                found.append(Heater(base, cell, chamber.title, chamber.heaters, chamber.heater_watts))
        return tuple(found)

    def holds(self) -> tuple[Held, ...]:
        """What lies in its chambers."""
        return tuple(Held(c.fill.medium) for c in self.chambers if c.fill)

    def takes_air(self) -> tuple[str, ...]:
        """Each chamber but those that a pump draws from or that rid the water of air."""
        return tuple(c.id for c in self.chambers[:-1] if c.role in AIRED)

    def ports(self) -> tuple[str, ...]:
        """Where drains fall, each chamber, and the pump's well where there is one."""
        own = ("inlet", *(c.id for c in self.chambers))
        return own if self.chambers[-1].role != "pump" or "pump" in own else (*own, "pump")
