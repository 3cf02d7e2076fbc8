"""The courtyard of Harbour Hill Library: a 2 400 L trough with a sieve, two drums and a plant bed, one after the
other.
"""

from __future__ import annotations

from fuente.devices.beside import DrainSpec, FeedSpec
from fuente.devices.drum_train.spec import Drum, DrumTrain
from fuente.devices.plant_bed.spec import PlantBed
from fuente.devices.pumping import PumpSpec
from fuente.devices.sieve_bed.spec import SieveBed
from fuente.devices.site import Space
from fuente.devices.tank.spec import Tank
from fuente.document.system import System

_DAY = 86400.0
_LPH = 1e-3 / 3600


def trough() -> System:
    """White clouds outdoors. The plant bed has one pipe out, and the drums are joined by flanges that their walls do
    not take.
    """
    common = {"diameter": 0.57, "height": 0.9, "outlet": 0.64, "pipe": "75-pn10", "mesh": 0.006}
    drums = DrumTrain(
        id="drums",
        tank="trough",
        name="Two drums",
        offset=5.4,
        stand=0.7,
        seal="bulkhead",
        drums=(
            Drum(role="foam", ppi=20, foam=0.1, grid=0.25, **common),
            Drum(role="moving", flow="down", medium="wheel_10", media=0.06, grid=0.05, **common),
        ),
        feed=FeedSpec(way="fed", source="sieve"),
        drain=DrainSpec(
            way="fall", into="plants", height=0.66, release=0.4, pipe="75-pn10", length=0.5, bends=1, spare=0.1
        ),
    )
    return System(
        name="Courtyard trough",
        place="Harbour Hill Library, courtyard",
        notes="Runs from March to October. The trough itself has no drain: its level is marked.",
        space=Space(length=6.0, depth=1.3, height=2.0, air=17.0, coldest=8.0, turnover=1 / 3600, quiet=False),
        devices=(_tank(), _sieve(), drums, _plants()),
    )


def _tank() -> Tank:
    """Of acrylic, its level marked."""
    return Tank(
        id="trough",
        name="Trough",
        length=3.0,
        width=1.3,
        height=0.75,
        thickness=0.02,
        bottom=0.02,
        material="acrylic",
        braced=True,
        stand=0.0,
        temperature=18.0,
        cover=0.2,
        level=0.66,
        feed=18e-3 / _DAY,
        protein=0.42,
        stock="White clouds",
        gravel=0.06,
    )


def _sieve() -> SieveBed:
    """Fed by a float, emptied by the pump that drives it all."""
    return SieveBed(
        id="sieve",
        tank="trough",
        name="Sieve",
        offset=3.28,
        stand=0.0,
        length=0.9,
        width=0.6,
        height=0.72,
        screen=0.5,
        edge=0.08,
        aperture=300e-6,
        bars=8,
        tube=0.032,
        wall=0.0024,
        media=0.0,
        spare=1000 * _LPH,
        feed=FeedSpec(way="float", source="trough", height=0.55, hold=0.38, pipe="75-pn10", length=0.4, bends=1),
        drain=DrainSpec(
            way="pump",
            into="drums",
            release=0.8,
            pipe="50-pn10",
            length=1.2,
            bends=3,
            pump=PumpSpec(name="Pond pump", max_head=4.5, max_flow=5500 * _LPH, watts=60),
        ),
    )


def _plants() -> PlantBed:
    """Gravel and marsh plants, with one pipe out."""
    return PlantBed(
        id="plants",
        tank="trough",
        name="Plant bed",
        offset=3.2,
        stand=0.85,
        length=1.8,
        width=0.6,
        height=0.46,
        gravel=0.28,
        grain=0.012,
        plants="marsh",
        feed=FeedSpec(way="fed", source="drums"),
        drain=DrainSpec(way="fall", into="trough", height=0.2, release=0.62, pipe="75-pn10", length=0.5, bends=2),
    )
