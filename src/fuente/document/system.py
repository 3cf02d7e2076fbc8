"""The document: everything that the builder decided, frozen."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, BeforeValidator, Field, SerializeAsAny, ValidationError, WithJsonSchema, model_validator

from fuente.catalogue import any_own
from fuente.devices import KINDS
from fuente.devices.air_supply.spec import AirSupplySpec
from fuente.devices.base import Change, Edit, Path, Spec, measured
from fuente.devices.filtering import FilterSpec
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.header.spec import HeaderSpec
from fuente.devices.join.spec import JoinSpec
from fuente.devices.manifold.spec import Manifold
from fuente.devices.overflow.spec import Overflow
from fuente.devices.return_line.spec import ReturnSpec
from fuente.devices.schools import Schools
from fuente.devices.standpipe.spec import StandpipeSpec
from fuente.devices.sump.spec import Sump
from fuente.devices.tank.spec import Tank
from fuente.devices.top_up.spec import TopUp
from fuente.document.media import OwnMedium, own_used, with_own
from fuente.errors import EntryError
from fuente.units import UnitSystem

FORMAT_VERSION = 3


class Space(Spec):
    """The room for the filter, and the room around it."""

    length: float = measured(1.4, "length", "Opening length", 0.1, 20)
    depth: float = measured(0.55, "length", "Opening depth", 0.1, 10)
    height: float = measured(0.7, "length", "Opening height", 0.1, 4)
    service: float = measured(0.2, "length", "Hand room over the sump", 0.0, 1.0, "To lift out pads and media.")
    air: float = measured(20.0, "temperature", "Room temperature", -5, 45)
    coldest: float = measured(16.0, "temperature", "Coldest room", -10, 40)
    humidity: float = measured(0.5, "fraction", "Air humidity", 0.05, 1.0)
    margin: float = measured(0.025, "length", "Freeboard you want left", 0.0, 0.5, step=0.005)
    turnover: float = measured(6 / 3600, "per_hour", "Turnover you want", 0.1 / 3600, 40 / 3600)
    price: float = Field(0.3, ge=0.0, le=1000.0, description="Price of a kilowatt-hour, in any money.")
    quiet: bool = Field(True, description="Whether the drain must be quiet.")


class Measurement(Spec):
    """What the builder saw in a wet test of the real thing."""

    trial: str = Field(max_length=60, description="Id of a standard trial.")
    value: float = measured(..., "length", "Margin measured", -1.0, 5.0)
    date: str = Field(pattern=r"^\d{4}-\d{2}-\d{2}$", description="Day of the test, ISO 8601.")


def _as_filter(value: Any) -> Any:
    """A filter by the kind that it names."""
    if isinstance(value, FilterSpec):
        return value
    kind = value.get("kind") if isinstance(value, dict) else None
    if kind not in KINDS:
        raise ValueError(f"Fuente knows no kind of filter “{str(kind)[:40]}”.")
    return KINDS[kind].spec.model_validate(value)


Filter = Annotated[
    SerializeAsAny[FilterSpec],
    BeforeValidator(_as_filter),
    WithJsonSchema({"type": "object", "required": ["kind", "id"], "description": "A filter; see $defs by its kind."}),
]


class System(Spec):
    """Tanks, filters, and the pipes between them."""

    format: Literal["fuente"] = "fuente"
    version: Literal[3] = 3
    name: str = Field("Untitled system", max_length=120)
    place: str = Field("", max_length=120)
    notes: str = Field("", max_length=20000)
    units: UnitSystem = UnitSystem.METRIC
    salinity: float = measured(0.0, "salinity", "Salinity", 0, 45)
    space: Space = Space()
    media: tuple[OwnMedium, ...] = Field((), max_length=200, description="The builder's own media.")
    tanks: tuple[Tank, ...] = Field(min_length=1, max_length=400)
    overflows: tuple[Overflow, ...] = Field((), max_length=400)
    standpipes: tuple[StandpipeSpec, ...] = Field((), max_length=400)
    hang_ons: tuple[HangOn, ...] = Field((), max_length=400)
    headers: tuple[HeaderSpec, ...] = Field((), max_length=100)
    devices: tuple[Sump, ...] = Field((), max_length=200)
    joins: tuple[JoinSpec, ...] = Field((), max_length=200)
    returns: tuple[ReturnSpec, ...] = Field((), max_length=200)
    manifolds: tuple[Manifold, ...] = Field((), max_length=40)
    top_ups: tuple[TopUp, ...] = Field((), max_length=40)
    filters: tuple[Filter, ...] = Field((), max_length=400, description="Filters of all other kinds.")
    airs: tuple[AirSupplySpec, ...] = Field((), max_length=20, description="Air pumps with their drops.")
    schools: Schools = Schools()
    measurements: tuple[Measurement, ...] = Field((), max_length=1000, description="Wet tests of the real thing.")

    @model_validator(mode="after")
    def _joined(self) -> System:
        groups: tuple[tuple[Any, ...], ...] = (
            self.tanks,
            self.overflows,
            self.standpipes,
            self.hang_ons,
            self.headers,
            self.devices,
            self.joins,
            self.returns,
            self.manifolds,
            self.top_ups,
            self.filters,
            self.airs,
        )
        ids = [x.id for group in groups for x in group]
        if len(set(ids)) != len(ids):
            raise ValueError("Two parts of the system have the same id.")
        tanks, devices = {t.id for t in self.tanks}, {d.id: d for d in self.devices}
        vessels = {f.id for f in self.filters if KINDS[f.kind].vessel is not None}
        basins = {*devices, *vessels, *(h.id for h in self.headers)}
        drains: tuple[Overflow | StandpipeSpec | HangOn, ...] = (*self.overflows, *self.standpipes, *self.hang_ons)
        for drain in drains:
            if drain.tank not in tanks or drain.into not in basins:
                raise ValueError(f"The drain “{drain.id}” leads from or to something that is not there.")
        for header in self.headers:
            if header.into not in basins or header.into == header.id:
                raise ValueError(f"{header.name} falls into something that is not there.")
        self._headers_end()
        if any_own() and own_used(self) - {m.id for m in self.media}:
            raise ValueError("A filter holds a medium of your own that this design does not have: add it again.")
        for join in self.joins:
            for device, chamber in ((join.first, join.chamber), (join.second, join.entry)):
                if device not in devices or all(c.id != chamber for c in devices[device].chambers):
                    raise ValueError(f"{join.name} leads from or to a chamber that is not there.")
        for line in self.returns:
            if line.tank not in tanks or line.source not in devices:
                raise ValueError(f"The return “{line.id}” leads from or to something that is not there.")
            _pumped(devices[line.source])
        for manifold in self.manifolds:
            for feeder in manifold.feeders:
                if feeder.source not in devices:
                    raise ValueError(f"A pump of {manifold.name} stands in something that is not there.")
                _pumped(devices[feeder.source])
            for row in manifold.rows:
                for branch in row.branches:
                    if branch.tank not in tanks:
                        raise ValueError(f"A branch of {manifold.name} leads to a tank that is not there.")
            for loop in manifold.loops:
                chambers = [c.id for c in devices[loop.into].chambers] if loop.into in devices else None
                if chambers is None or (loop.chamber and loop.chamber not in chambers):
                    raise ValueError(f"A loop of {manifold.name} ends in something that is not there.")
        for each in self.filters:
            if each.tank not in tanks:
                raise ValueError(f"{each.name} stands in a tank that is not there.")
            for end in each.ends():
                if end not in {*tanks, *devices, *vessels} - {each.id}:
                    raise ValueError(f"{each.name} leads from or to something that is not there.")
        blown: set[str] = set()
        names = {f.id for f in self.filters}
        for air in self.airs:
            for drop in air.drops:
                if drop.to not in names:
                    raise ValueError(f"A drop of {air.name} leads to a filter that is not there.")
                if drop.to in blown:
                    raise ValueError("Two air pumps blow into the same filter.")
                blown.add(drop.to)
        for top_up in self.top_ups:
            if top_up.into not in devices:
                raise ValueError(f"{top_up.name} leads to a filter that is not there.")
        return self

    def _headers_end(self) -> None:
        into = {h.id: h.into for h in self.headers}
        for start in into:
            at, steps = start, 0
            while at in into:
                at, steps = into[at], steps + 1
                if steps > len(into):
                    raise ValueError("The common drains fall into each other in a ring.")

    def tank(self, tank_id: str) -> Tank:
        """The tank with an id."""
        return next(t for t in self.tanks if t.id == tank_id)

    def device(self, device_id: str) -> Sump:
        """The filter with an id."""
        return next(d for d in self.devices if d.id == device_id)

    def filter(self, filter_id: str) -> FilterSpec:
        """The filter of another kind with an id."""
        return next(f for f in self.filters if f.id == filter_id)

    def header(self, header_id: str) -> HeaderSpec | None:
        """The common drain with an id, if it is one."""
        return next((h for h in self.headers if h.id == header_id), None)

    def ends_in(self, basin_id: str) -> str:
        """Id of the vessel that a drain reaches at last, over headers."""
        header = self.header(basin_id)
        return basin_id if header is None else self.ends_in(header.into)


def _pumped(device: Sump) -> None:
    if device.chambers[-1].role != "pump":
        raise ValueError(f"{device.name} has no pump chamber at its end for the pump to stand in.")


def value_at(system: System, path: Path) -> Any:
    """The value at a path of field names and positions."""
    value: Any = system
    for step in path:
        value = value[step] if isinstance(step, int) else getattr(value, step)
    return value


def _put(node: Any, path: Path, value: Any) -> Any:
    if not path:
        return value
    head, rest = path[0], path[1:]
    if isinstance(head, int):
        items = list(node)
        items[head] = _put(items[head], rest, value)
        return tuple(items)
    return node.model_copy(update={head: _put(getattr(node, head), rest, value)})


def apply(system: System, edit: Edit) -> System:
    """A new system with an edit's changes; raises EntryError with one sentence when the result is not buildable."""
    changed: Any = system
    for change in edit.changes:
        changed = _put(changed, change.path, change.value)
    if any_own():
        media = with_own(changed.media, own_used(changed))
        changed = changed if media is changed.media else changed.model_copy(update={"media": media})
    return checked(changed)


def checked(system: BaseModel) -> System:
    """Validate the whole again, for limits and for parts that must fit each other."""
    try:
        return System.model_validate(system.model_dump())
    except ValidationError as error:
        raise EntryError(first_sentence(error)) from None


def first_sentence(error: ValidationError, model: Any = None) -> str:
    """What is wrong first, in words, and where; ``model`` is what was being made, a System unless said."""
    first = error.errors(include_url=False)[0]
    message = first["msg"].removeprefix("Value error, ")
    where = " → ".join(_place(part) for part in first["loc"])
    if first["type"] == "value_error":
        return message
    limits = {"greater_than_equal": ("ge", "at least"), "less_than_equal": ("le", "at most")}
    if first["type"] in limits:
        key, words = limits[first["type"]]
        label, quantity = _field(first["loc"], model or System)
        from fuente.units import shown

        limit = float(first["ctx"][key])
        value = shown(limit, quantity) if quantity else f"{limit:g}"
        return f"{label or where} must be {words} {value}."
    return f"{where or 'The design'}: {message[:1].lower()}{message[1:]}."


def _place(part: int | str) -> str:
    return str(part + 1) if isinstance(part, int) else str(part).replace("_", " ")


def _field(location: tuple[int | str, ...], model: Any) -> tuple[str, str]:
    """Label and quantity of a field by its location in a model."""
    node: Any = model
    label, quantity = "", ""
    for part in location:
        if isinstance(part, int):
            continue
        fields = getattr(node, "model_fields", None)
        if not fields or part not in fields:
            return label, quantity
        info = fields[part]
        extra = info.json_schema_extra if isinstance(info.json_schema_extra, dict) else {}
        label = str(extra.get("label") or part.replace("_", " ").capitalize())
        quantity = str(extra.get("quantity") or "")
        node = _model_of(info.annotation)
    return label, quantity


def _model_of(annotation: Any) -> Any:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return annotation
    for arg in getattr(annotation, "__args__", ()):
        found = _model_of(arg)
        if found is not None:
            return found
    return None


def set_value(name: str, path: Path, value: Any) -> Edit:
    """An edit of one value."""
    return Edit(name, (Change(path, value),))
