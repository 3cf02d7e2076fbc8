"""The document: everything that the builder decided, frozen."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from functools import cached_property
from typing import Annotated, Any, Literal, TypeVar

from pydantic import BeforeValidator, Field, SerializeAsAny, ValidationError, WithJsonSchema, model_validator

from fuente.catalogue import Catalogue, is_own, stock
from fuente.devices import KINDS
from fuente.devices.base import Change, Edit, Path, Spec, measured
from fuente.devices.contract import Device, place_of
from fuente.devices.edits import inch_sized, pipes_in
from fuente.devices.filtering import FilterSpec
from fuente.devices.homes import HomeSpec
from fuente.devices.keeping import Keeping
from fuente.devices.schools import Schools
from fuente.devices.sentences import first_sentence
from fuente.devices.shop import Shop
from fuente.devices.site import Space
from fuente.document.media import OwnMedium
from fuente.document.upkeep import Upkeep
from fuente.errors import EntryError
from fuente.one_line import Line
from fuente.units import UnitSystem

FORMAT_VERSION = 4
D = TypeVar("D", bound=Device)


def _as_device(value: Any) -> Any:
    """A device by the kind that it names."""
    if isinstance(value, Device):
        return value
    kind = value.get("kind") if isinstance(value, dict) else None
    if not isinstance(kind, str) or kind not in KINDS:
        raise ValueError(f"Fuente knows no kind of device “{str(kind)[:40]}”.")
    spec = KINDS[kind].spec
    try:
        return spec.model_validate(value)
    except ValidationError as error:
        named = value.get("id")
        raise ValueError(first_sentence(error, spec, f"{named[:40]} → " if isinstance(named, str) else "")) from None


AnyDevice = Annotated[
    SerializeAsAny[Device],
    BeforeValidator(_as_device),
    WithJsonSchema({"type": "object", "required": ["kind", "id"], "description": "A device; see $defs by its kind."}),
]


class System(Spec):
    """Tanks, filters, and the pipes between them."""

    format: Literal["fuente"] = "fuente"
    version: Literal[4] = 4
    name: Line = Field("Untitled system", max_length=120)
    place: Line = Field("", max_length=120)
    notes: str = Field("", max_length=20000)
    units: UnitSystem = UnitSystem.METRIC
    salinity: float = measured(0.0, "salinity", "Salinity", 0, 45)
    space: Space = Space()
    media: tuple[OwnMedium, ...] = Field((), max_length=200, description="The builder's own media.")
    devices: tuple[AnyDevice, ...] = Field(min_length=1, max_length=2000, description="Everything, of all kinds.")
    schools: Schools = Schools()
    keeping: Keeping = Keeping()
    shop: Shop = Shop()
    upkeep: Upkeep = Upkeep()

    @model_validator(mode="after")
    def _joined(self) -> System:
        if not self.tanks:
            raise ValueError("A system needs a tank.")
        if len(self.tanks) > 400:
            raise ValueError("A system holds 400 tanks at most.")
        if len(self.by_id) != len(self.devices):
            raise ValueError("Two parts of the system have the same id.")
        blown: set[str] = set()
        for device in self.devices:
            for end in device.ends():
                self._end_fits(device, end.to, end.port)
                if end.role == "blows":
                    if end.port not in self.by_id[end.to].takes_air():
                        raise ValueError(f"{self.by_id[end.to].title} takes no air there.")
                    place = place_of(end.to, end.port)
                    if place in blown:
                        raise ValueError("Two air pumps blow into the same place.")
                    blown.add(place)
        self._falls_end()
        for device in self.devices:
            self._held(device)
        return self

    def _held(self, device: Device) -> None:
        """Media in a device must be of the catalogue, and of the kind that it needs."""
        for medium, kind in device.holds():
            known = self.catalogue.media.get(medium)
            if known is None and is_own(medium):
                raise ValueError("A filter holds a medium of your own that this design does not have: add it again.")
            if known is None:
                raise ValueError(f"The catalogue has no media “{medium[:40]}”.")
            if kind and known.kind != kind:
                raise ValueError("A moving bed needs carriers of the catalogue.")

    def _end_fits(self, device: Device, to: str, port: str) -> None:
        """The one place where connections are judged: the other end must be there and have such a port."""
        other = self.by_id.get(to)
        if other is None or other is device or not other.ports():
            raise ValueError(f"{device.title} leads from or to something that is not there.")
        if not port:
            if not {"water", "inlet"} & {*other.ports()}:
                raise ValueError(f"{device.title} leads from or to something that is not there.")
        elif port not in other.ports():
            if port == "pump":
                raise ValueError(f"{other.title} has no pump chamber at its end for the pump to stand in.")
            what = {"water": "is no tank", "air": "takes no air", "inlet": "takes no drain"}.get(port)
            if what is None:
                raise ValueError(f"{device.title} leads from or to a chamber that is not there.")
            raise ValueError(f"{device.title} leads to {other.title}, which {what}.")

    def _falls_end(self) -> None:
        """What only leads on must lead somewhere at last."""
        on = {d.id: d.passes_to for d in self.devices if d.passes_to}
        for start in on:
            at, steps = start, 0
            while at in on:
                at, steps = on[at], steps + 1
                if steps > len(on):
                    raise ValueError("The common drains fall into each other in a ring.")

    def model_copy(self, *, update: Mapping[str, Any] | None = None, deep: bool = False) -> System:
        """Without what was worked out of the old one."""
        made = super().model_copy(update=update, deep=deep)
        for name in made.__dict__.keys() - type(self).model_fields.keys():
            del made.__dict__[name]
        return made

    def __hash__(self) -> int:
        return self.hashed

    @cached_property
    def hashed(self) -> int:
        """Of all fields: what is known of a design is looked up by it several times for each edit."""
        return hash(tuple(getattr(self, name) for name in type(self).model_fields))

    @cached_property
    def by_id(self) -> dict[str, Device]:
        """Every device by its id, in the order of the document."""
        return {d.id: d for d in self.devices}

    @cached_property
    def housed(self) -> dict[str, tuple[Device, ...]]:
        """By tank what belongs to it, in the order of the document."""
        found: dict[str, list[Device]] = {}
        for device in self.devices:
            found.setdefault(device.home, []).append(device)
        return {home: tuple(rows) for home, rows in found.items()}

    @cached_property
    def catalogue(self) -> Catalogue:
        """What is sold, with the builder's own media of this document."""
        return stock().with_own(m.medium() for m in self.media)

    @cached_property
    def tanks(self) -> tuple[HomeSpec, ...]:
        """Where animals live."""
        return self.of(HomeSpec)

    @cached_property
    def filters(self) -> tuple[FilterSpec, ...]:
        """What was picked to clean a tank's water, of every kind."""
        return self.of(FilterSpec)

    def of(self, cls: type[D]) -> tuple[D, ...]:
        """All devices of a class, in the order of the document."""
        return tuple(d for d in self.devices if isinstance(d, cls))

    def tank(self, tank_id: str) -> HomeSpec:
        """The tank with an id."""
        return next(t for t in self.tanks if t.id == tank_id)

    def device(self, device_id: str) -> Device:
        """The device with an id."""
        return self.by_id[device_id]

    def filter(self, filter_id: str) -> FilterSpec:
        """The filter with an id."""
        return next(f for f in self.filters if f.id == filter_id)


def value_at(system: System, path: Path) -> Any:
    """The value at a path of field names, positions, and devices' ids."""
    value: Any = system
    for step in path:
        if isinstance(value, tuple):
            value = value[_place_in(value, step)]
        else:
            value = getattr(value, step)  # type: ignore[arg-type]
    return value


def _place_in(items: tuple[Any, ...], step: int | str) -> int:
    if isinstance(step, int):
        return step
    return next(i for i, item in enumerate(items) if item.id == step)


def _put(node: Any, path: Path, value: Any) -> Any:
    if not path:
        return value
    head, rest = path[0], path[1:]
    if isinstance(node, tuple):
        items = list(node)
        if isinstance(head, str) and not rest:  # a whole device: put in its place, at the end, or taken out
            at = next((i for i, item in enumerate(items) if item.id == head), len(items))
            items[at : at + 1] = [] if value is None else [value]
            return tuple(items)
        at = _place_in(node, head)
        items[at] = _put(items[at], rest, value)
        return tuple(items)
    if not isinstance(head, str) or head not in type(node).model_fields:
        raise KeyError(f"{type(node).__name__} has no field {head!r}")
    return node.model_copy(update={head: _put(getattr(node, head), rest, value)})


def as_sold(edit: Edit, system: System) -> Edit:
    """An edit whose new devices come in the sizes that are sold where the design's units are used; those that it has
    already stay.
    """
    if system.units != UnitSystem.US:
        return edit
    used, known = pipes_in(system.devices), system.by_id
    changes = tuple(
        replace(c, value=inch_sized(c.value, used)) if isinstance(c.value, Device) and c.value.id not in known else c
        for c in edit.changes
    )
    return replace(edit, changes=changes)


def apply(system: System, edit: Edit) -> System:
    """A new system with an edit's changes; raises EntryError with one sentence when the result is not buildable."""
    changed: Any = system
    for change in edit.changes:
        changed = _put(changed, change.path, change.value)
    return checked(changed, system)


def checked(system: System, before: System | None = None) -> System:
    """Validate the whole again, for limits and for parts that must fit each other.

    Devices that stand in ``before`` were valid there and are kept as they are: histories share them.
    """
    known = {id(d) for d in before.devices} if before is not None else set()
    try:
        devices = tuple(d if id(d) in known else _checked_device(d, i) for i, d in enumerate(system.devices))
        if before is not None:
            were = {d.id: d for d in before.devices}
            devices = tuple(shared(d, were.get(d.id)) for d in devices)
        made = System.model_validate({**system.model_dump(exclude={"devices"}), "devices": devices})
    except ValidationError as error:
        raise EntryError(first_sentence(error, System)) from None
    if before is not None:
        for name in System.model_fields:
            if name != "devices":
                made.__dict__[name] = shared(made.__dict__[name], before.__dict__[name])
    return made


def shared(new: Any, old: Any) -> Any:
    """The new value with all of its parts that are equal to the old one's taken from there: a history of thousands of
    edits then holds only what each has changed.
    """
    if new is old or type(new) is not type(old):
        return new
    if isinstance(new, Spec):
        own, its = new.__dict__, old.__dict__
        same = True
        for name in type(new).model_fields:
            own[name] = shared(own[name], its[name])
            same = same and own[name] is its[name]
        return old if same else new
    if isinstance(new, tuple):
        parts = tuple(shared(a, b) for a, b in zip(new, old, strict=False)) + new[len(old) :]
        return old if len(new) == len(old) and all(a is b for a, b in zip(parts, old, strict=True)) else parts
    return old if new == old else new


def _checked_device(device: Device, place: int) -> Device:
    try:
        return type(device).model_validate(device.model_dump())
    except ValidationError as error:
        raise EntryError(first_sentence(error, type(device))) from None


def set_value(name: str, path: Path, value: Any) -> Edit:
    """An edit of one value."""
    return Edit(name, (Change(path, value),))
