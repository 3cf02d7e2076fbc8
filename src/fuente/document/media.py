"""The builder's own media: kept in the document, which hands them down with what is sold."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

from pydantic import BaseModel, Field, model_validator

from fuente.catalogue import Medium, is_own, own_id
from fuente.devices.base import Change, Edit, Path, Spec, measured, picked
from fuente.devices.contract import Device
from fuente.one_line import Line

KINDS = {"loose": "lies still", "carrier": "moves in the water"}
WEEK = 7 * 86400.0


class OwnMedium(Spec):
    """A medium by the builder's own figures. Its id is made from them."""

    id: str = Field("", max_length=24, pattern=r"^(own-[0-9a-f]{12})?$")
    name: Line = Field(
        "My media", min_length=1, max_length=60, description="What it is called.", json_schema_extra={"label": "Called"}
    )
    kind: Literal["loose", "carrier"] = picked("loose", "It", KINDS)
    surface: float = measured(300.0, "specific_surface", "Surface that water reaches", 1.0, 20000.0, step=50.0)
    core: float = measured(
        0.0, "specific_surface", "Claimed porous core beside it", 0.0, 1e6, "Unproven for nitrifying.", step=100.0
    )
    void: float = measured(0.5, "fraction", "Void share", 0.05, 0.99, step=0.05)
    dry: float = measured(500.0, "density", "Dry, heaped", 5.0, 3000.0, step=50.0)
    size: float = measured(0.015, "fine_length", "Least dimension of a piece", 0.0005, 0.2, step=0.001)
    cost: float = measured(1.0, "number", "Cost of a litre", 0.0, 1000.0, "In any money.", step=0.1)
    cleaning: float = measured(90.0, "minutes", "Rinsing a litre takes", 0.0, 3600.0, step=30.0)
    matures: float = measured(5 * WEEK, "weeks", "Mature after", 0.0, 52 * WEEK, step=WEEK)
    source: Line = Field(
        "my own", max_length=120, description="Where the figures are from.", json_schema_extra={"label": "Figures from"}
    )

    @model_validator(mode="after")
    def _known(self) -> OwnMedium:
        made = own_id(self.figures())
        if self.id and self.id != made:
            raise ValueError(
                f"“{self.name}” does not fit its id: its figures were changed outside Fuente. Add it again."
            )
        object.__setattr__(self, "id", made)  # frozen for everyone else: the id follows from the rest
        return self

    def figures(self) -> dict[str, Any]:
        """All but the id."""
        return self.model_dump(exclude={"id"})

    def medium(self) -> Medium:
        """As the catalogue has it."""
        return Medium(
            self.id,
            self.name,
            self.kind,
            self.surface,
            self.void,
            self.dry,
            self.size,
            self.cost,
            self.core,
            self.cleaning / 60,
            self.matures / WEEK,
            self.source,
        )


def brought(edit: Edit, media: tuple[OwnMedium, ...], shelf: tuple[OwnMedium, ...]) -> Edit:
    """An edit that takes up media from the builder's shelf, with their figures for the document's own."""
    named = {value for change in edit.changes for value in _named(change)}
    new = tuple(m for m in shelf if m.id in named - {own.id for own in media})
    if not new or any(change.path == ("media",) for change in edit.changes):
        return edit
    return Edit(edit.name, (Change(("media",), (*media, *new)), *edit.changes))


def _named(change: Change) -> Iterator[str]:
    """Ids of own media that a change puts somewhere."""
    if isinstance(change.value, str):
        if is_own(change.value):
            yield change.value
    else:
        yield from (value for _, value in _mediums(change.value, change.path) if is_own(value))


def add_own(media: tuple[OwnMedium, ...], made: OwnMedium) -> Edit:
    """Put a medium among the document's own."""
    kept = tuple(m for m in media if m.id != made.id)
    return Edit(f"Add {made.name}", (Change(("media",), (*kept, made)),))


def change_own(system: Any, old: OwnMedium, new: OwnMedium) -> Edit:
    """Other figures for a medium, wherever it is used."""
    media = tuple(new if m.id == old.id else m for m in system.media)
    uses = tuple(Change(path, new.id) for path in uses_of(system, old.id))
    # One step: the document is judged only when all of it is in place.
    return Edit(f"Change {new.name}", (Change(("media",), media), *uses))


def remove_own(media: tuple[OwnMedium, ...], gone: OwnMedium) -> Edit:
    """Take a medium out of the document's own; what uses it must have let go of it."""
    return Edit(f"Remove {gone.name}", (Change(("media",), tuple(m for m in media if m.id != gone.id)),))


def uses_of(system: BaseModel, medium_id: str) -> list[Path]:
    """Paths of every field of the document that names a medium."""
    return [path for path, value in _mediums(system, ()) if value == medium_id]


def _mediums(node: Any, path: Path) -> Iterator[tuple[Path, str]]:
    if isinstance(node, BaseModel):
        for name in type(node).model_fields:
            if name == "media" and not path:  # the document's own list
                continue
            value = getattr(node, name)
            if name == "medium" and isinstance(value, str):
                yield (*path, name), value
            elif isinstance(value, BaseModel | tuple):
                yield from _mediums(value, (*path, name))
    elif isinstance(node, tuple):
        for i, each in enumerate(node):
            if isinstance(each, BaseModel | tuple):
                yield from _mediums(each, (*path, each.id if isinstance(each, Device) else i))
