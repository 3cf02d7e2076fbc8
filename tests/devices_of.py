"""The devices of one kind in a system, for tests that look at one."""

from __future__ import annotations

from fuente.devices import filter_kinds
from fuente.devices.air_supply.spec import AirSupplySpec
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.header.spec import HeaderSpec
from fuente.devices.join.spec import JoinSpec
from fuente.devices.manifold.spec import Manifold
from fuente.devices.overflow.spec import Overflow
from fuente.devices.return_line.spec import ReturnSpec
from fuente.devices.standpipe.spec import StandpipeSpec
from fuente.devices.sump.spec import Sump
from fuente.devices.top_up.spec import TopUp


def _all(cls):
    return lambda system: system.of(cls)


air_supplies, hang_ons, headers, joins = _all(AirSupplySpec), _all(HangOn), _all(HeaderSpec), _all(JoinSpec)
manifolds, overflows, returns, standpipes = _all(Manifold), _all(Overflow), _all(ReturnSpec), _all(StandpipeSpec)
sumps, top_ups = _all(Sump), _all(TopUp)


def without(system, *ids):
    """The system without some devices, unchecked: what hangs on them must be gone too."""
    return system.model_copy(update={"devices": tuple(d for d in system.devices if d.id not in ids)})


def swapped(system, *devices):
    """The system with devices in the place of those with their ids, or at its end, unchecked."""
    new = {d.id: d for d in devices}
    kept = tuple(new.pop(d.id, d) for d in system.devices)
    return system.model_copy(update={"devices": (*kept, *new.values())})


FILTERS = {kind.id: kind for kind in filter_kinds()}
