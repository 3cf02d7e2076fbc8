"""First sizes of what leads water to and from a filter beside a tank: pumps, pipes, and where it can stand."""

from __future__ import annotations

import math

from fuente.catalogue import pipe_size, trade_sizes
from fuente.devices.beside import DrainSpec
from fuente.devices.filtering import Site, grid
from fuente.devices.plumbing import (
    QUIET_FALL,
)
from fuente.devices.pumping import PumpSpec
from fuente.hydraulics.drains import open_channel_capacity


def fall_back(site: Site, flow: float, height: float | None = None) -> DrainSpec:
    """A quiet pipe back over the tank's water for a flow in m³/s, and a second one a bore and a half higher."""
    pipe = fall_pipe_for(flow)
    bore = pipe_size(pipe).bore
    return DrainSpec(
        way="fall",
        into=site.tank.id,
        height=grid(0.02 + bore, 0.01) if height is None else height,
        spare=grid(1.5 * bore, 0.01),
        release=round(min(site.depth, site.tank.inner_height - 0.01), 3),
        pipe=pipe,
        length=0.4,
        bends=1,
    )


def beside_tank(site: Site, gap: float = 0.35) -> float:
    """x in m where a new filter can stand, right of everything."""
    return round(site.beside[0] + gap, 2)


def turnover_pump(site: Site, turnover: float, head: float, name: str = "Pump") -> PumpSpec:
    """A pump of a class that turns the tank over so often a second at a head in m with half as much to spare."""
    need = max(site.volume * turnover, 300e-3 / 3600)
    top = max(round(1.6 * head + 0.5, 1), 0.8)
    step = 500e-3 / 3600
    most = math.ceil(need / max(1 - head / top, 0.1) ** 0.5 * 1.15 / step) * step
    return PumpSpec(name=name, max_head=top, max_flow=most, watts=max(round(most * 3600e3 * 0.009 * top / 2.5), 4))


def fall_pipe_for(flow: float) -> str:
    """The narrowest metric pipe that a flow in m³/s falls through quietly, with a third to spare."""
    grade = trade_sizes()
    fitting_ = [p for p in grade if QUIET_FALL * open_channel_capacity(p.bore) >= 1.33 * flow]
    return (fitting_ or grade[-1:])[0].id


def pipe_for(flow: float, speed: float = 0.7) -> str:
    """The narrowest metric pipe in which a flow in m³/s runs no faster than so many m/s."""
    grade = trade_sizes()
    fitting_ = [p for p in grade if flow / p.area <= speed]
    return (fitting_ or grade[-1:])[0].id
