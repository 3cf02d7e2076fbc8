"""What a group under pressure is made of."""

from __future__ import annotations

from dataclasses import dataclass, field

from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.pumps import PumpCurve
from fuente.network.model import WayKind

SHUT = 1e14  # s/m²: a way that is shut; what a metre of head then moves is taken for nothing


@dataclass(frozen=True)
class Duct:
    """A pipe with its fittings between two places (nodes or cells), flow positive from a to b. ``shut`` closes it.

    Where it ``drains``, its water comes down to the cell ``comes_to`` once air gets into the pipes.
    """

    id: str
    name: str
    a: str
    b: str
    pipe: Pipe
    kind: WayKind = WayKind.PIPE
    owner: str = ""
    shut: bool = False
    comes_to: str = field(default="", kw_only=True)
    holds: float | None = field(default=None, kw_only=True)  # m³, where its pipe's length is one of equal loss
    drains: bool = field(default=False, kw_only=True)

    @property
    def contents(self) -> float:
        """Water in m³ that it holds when full."""
        return self.pipe.area * self.pipe.length if self.holds is None else self.holds


@dataclass(frozen=True)
class Spout(Duct):
    """A duct that lets go in a cell: from its mouth's elevation in m, or under water.

    Backwards it is a siphon while the cell stands over ``breaks_at`` m.
    """

    mouth: float = 0.0
    breaks_at: float = 0.0


@dataclass(frozen=True)
class PumpDuct(Duct):
    """A pump in cell a with its piece of pipe to node b. Standing, it lets ``leak`` of the free back-flow through."""

    curve: PumpCurve = field(default_factory=lambda: PumpCurve(1.0, 1e-3))
    intake: float = 0.0
    on: bool = True
    leak: float = 0.02
    valve: bool = True  # whether there is a check valve at all
    pump_k: float = 3.0
    reverse_k: float = 0.0
