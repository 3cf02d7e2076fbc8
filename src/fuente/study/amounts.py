"""How much media, by the rules that builders go by, side by side: living surface for the feed, litres for a litre of
tank, kilograms for a hundred litres; and how far apart what each of them carries is.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from fuente.catalogue import consumables
from fuente.devices import kind_of
from fuente.devices.pieces import Medium, Pad
from fuente.devices.site import KEPT, OXYGEN
from fuente.life.load import NITROGEN_OF_PROTEIN, areal_rate
from fuente.study.carries import carries

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

LEAST_LIVED_ON = 200.0  # m²/m³ under which nobody takes a thing for a living medium


@dataclass(frozen=True)
class Amount:
    """One rule: its name, what it asks for and what there is (``quantity`` of the units; m², m³ or kg), and the feed in
    kg/s that so much media carries by areal rates, from the coarsest to the finest that is sold.
    """

    rule: str
    quantity: str
    wants: float
    there: float
    least: float
    most: float

    @property
    def met(self) -> bool:
        """Whether there is what it asks for."""
        return self.there >= self.wants * (1 - 1e-9)

    @property
    def apart(self) -> float:
        """How many times more the finest carries than the coarsest."""
        return self.most / self.least if self.least > 0 else float("inf")


def amounts(study: Analysis) -> tuple[Amount, ...]:
    """The three rules for the whole system, all its tanks together; none where no tank has water.

    The areal rule wants what the feed makes at the ammonia that is lived with. The others know no feed; by how much
    they differ is how much media differ.
    """
    system, running = study.system, study.running
    water = sum(running.volume[t.id] for t in system.tanks)
    temperature = min(t.temperature for t in system.tanks)
    rate = areal_rate(KEPT, temperature, OXYGEN, system.salinity)[0]
    fed = sum(t.fed for t in system.tanks)
    made = sum(NITROGEN_OF_PROTEIN * t.protein * t.fed for t in system.tanks)
    of_feed = made / fed if fed > 0 else NITROGEN_OF_PROTEIN * system.tanks[0].protein
    litres, kilograms = _there(study)
    core = system.schools.surface == "core"
    media = [m for m in system.catalogue.media.values() if m.living(core) >= LEAST_LIVED_ON]
    foams = [c for c in consumables() if c.kind == "foam"]
    by_litre = [m.living(core) for m in media] + [c.surface for c in foams]
    by_kilogram = [m.living(core) / m.dry for m in media if m.dry > 0]
    whole = [c for c in carries(study) if not c.device]

    def feed(area: float) -> float:
        return area * rate / of_feed

    schools = system.schools
    wanted_litres, wanted_kilos = schools.litres * water, schools.kilos * water / 0.1
    return (
        Amount(
            "surface for the feed",
            "area",
            made / rate,
            sum(c.surface for c in whole),
            sum(c.least for c in whole),
            sum(c.most for c in whole),
        ),
        Amount(
            "litres of media",
            "volume",
            wanted_litres,
            litres,
            feed(wanted_litres * min(by_litre)),
            feed(wanted_litres * max(by_litre)),
        ),
        Amount(
            "kilograms of media",
            "mass",
            wanted_kilos,
            kilograms,
            feed(wanted_kilos * min(by_kilogram)),
            feed(wanted_kilos * max(by_kilogram)),
        ),
    )


def _there(study: Analysis) -> tuple[float, float]:
    """Media and foam of all devices: m³ as they lie, and kg dry of what is known."""
    volume = mass = 0.0
    foam = {c.id: c.dry for c in consumables() if c.kind == "foam"}
    dry = sum(foam.values()) / len(foam) if foam else 0.0
    for device in study.system.devices:
        for piece in kind_of(device).parts(device, study.sites[device.id], study.running).others:
            if isinstance(piece, Medium):
                volume += piece.bulk
                mass += piece.dry or 0.0
            elif isinstance(piece, Pad):
                own = piece.count * piece.length * piece.width * piece.thickness
                volume += own
                mass += own * dry
    return volume, mass
