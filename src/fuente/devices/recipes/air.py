"""Air for what wants it: a line from the first air pump, or a pump that carries it; and all valves set."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from fuente.devices import kind_of
from fuente.devices.air_supply.plans import larger_pump, plan_air, pump_for, valves_edit
from fuente.devices.air_supply.spec import AirSupplySpec, DropSpec
from fuente.devices.base import Change, Edit
from fuente.devices.contract import Device, Study
from fuente.devices.filtering import FilterSpec
from fuente.devices.offered import AirPlace
from fuente.devices.site import Site
from fuente.one_line import within


def wish_of(spec: Device, site: Site) -> float:
    """Air in m³/s that a device wants."""
    wish = kind_of(spec).wish
    return wish(spec, site) if wish else 0.0


def supplies(devices: Iterable[Device]) -> list[AirSupplySpec]:
    """The air pumps among devices."""
    return [d for d in devices if isinstance(d, AirSupplySpec)]


def _drop(spec: FilterSpec, site: Site) -> DropSpec:
    end = "diffuser" if spec.air_line_end == "diffuser" else "open"
    return DropSpec(
        to=spec.id, length=round(site.tank.inner_height + 0.4, 2), spacing=round(site.tank.length, 2), end=end
    )


def with_lines(devices: Sequence[Device], specs: Sequence[FilterSpec], sites: Mapping[str, Site]) -> AirSupplySpec:
    """The first air pump with lines to more filters; where there is none, one is chosen by what they want.

    ``sites`` are those of new filters in their tanks, by tank id.
    """
    made = tuple(_drop(s, sites[s.tank]) for s in specs)
    there = supplies(devices)
    if there:
        return there[0].model_copy(update={"drops": (*there[0].drops, *made)})
    want = sum(wish_of(s, sites[s.tank]) for s in specs)
    site = sites[specs[0].tank]
    pump = pump_for(want, max((sites[s.tank].depth for s in specs), default=0.3))
    return AirSupplySpec(id=site.new_id("air"), height=round(site.tank.rim + 0.25, 2), pump=pump, drops=made)


def air_for_place(
    devices: Sequence[Device], place: AirPlace, site: Site, depth: float, own: bool = False
) -> AirSupplySpec:
    """A line to a place within a device, from the first air pump or, where there is none or it is to have its ``own``,
    from a new one; depth m of water there.
    """
    made = DropSpec(to=place.device, chamber=place.port, length=round(depth + 1.0, 1), spacing=0.5, end="diffuser")
    there = supplies(devices)
    if there and not own:
        return there[0].model_copy(update={"drops": (*there[0].drops, made)})
    height = round(site.tank.rim + 0.25, 2)
    return AirSupplySpec(id=site.new_id("air"), height=height, pump=pump_for(place.wish, depth), drops=(made,))


def alike(
    devices: Sequence[Device], spec: FilterSpec, made: Sequence[FilterSpec], supply: AirSupplySpec
) -> AirSupplySpec:
    """The lines to copies of a filter as its own line is."""
    own = next((d for air in supplies(devices) for d in air.drops if d.place == spec.id), None)
    if own is None:
        return supply
    keys = {m.id for m in made}
    update = {"opening": own.opening, "bore": own.bore, "length": own.length, "end": own.end, "check": own.check}
    drops = tuple(d.model_copy(update=update) if d.place in keys else d for d in supply.drops)
    return supply.model_copy(update={"drops": drops})


def new_valves(supply: AirSupplySpec, study: Study, new: Iterable[str]) -> AirSupplySpec:
    """An air pump with the valves of its new lines where each gets what it wants, and those of others as they are."""
    plan, keys = plan_air(supply, study), set(new)
    if plan is None:
        return supply
    drops = tuple(
        d.model_copy(update={"opening": plan.openings[d.place]}) if d.place in keys and d.place in plan.openings else d
        for d in supply.drops
    )
    return supply.model_copy(update={"drops": drops})


def lead_air(devices: Sequence[Device], spec: FilterSpec, sites: Mapping[str, Site]) -> Edit:
    """A line to a filter that has none."""
    supply = with_lines(devices, (spec,), sites)
    return Edit(f"Connect air to {within(spec.name)}", (Change(supply.path, supply),))


def larger_pump_for(devices: Iterable[Device], study: Study, device_id: str) -> Edit | None:
    """A larger air pump in the place of the one that blows into a device; None where none is larger."""
    air = next((a for a in supplies(devices) if any(d.place == device_id for d in a.drops)), None)
    return larger_pump(air, study) if air is not None else None


def set_valves_for(devices: Iterable[Device], study: Study, device_id: str) -> Edit | None:
    """All valves set of the air pump that blows into a device; None where that changes nothing."""
    for air in supplies(devices):
        if any(d.place == device_id for d in air.drops):
            plan = plan_air(air, study)
            now = {d.place: d.opening for d in air.drops}
            moved = plan and any(abs(now[key] - value) > 0.02 for key, value in plan.openings.items())
            if plan and plan.share > 0 and moved:
                return valves_edit(air, plan)
    return None
