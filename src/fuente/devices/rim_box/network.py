"""A hang-on filter: lifted in, through its block, over its lip."""

from __future__ import annotations

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Fragment
from fuente.devices.filtering import Site
from fuente.devices.plumbing import plastic
from fuente.devices.pocket import bed_id, cell_id, out_id
from fuente.devices.pumping import BACKWARDS_K, pump_curve
from fuente.devices.rim_box.spec import RimBox
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.porous import foam
from fuente.network.aeration import Lift, modest_share
from fuente.network.laws import Pad, Spill, Weir
from fuente.network.level_curve import LevelCurve
from fuente.network.model import FLOOR, Cell, Link, WayKind
from fuente.network.returning import Outlet, ReturnLine

FOAM_VOID = 0.97
POURS = 0.02  # m over the box's lip at which its tube lets go, so that it does not siphon back


def clean_id(spec: RimBox) -> str:
    """Id of the water behind its block."""
    return f"{spec.id}.clean"


def feed_id(spec: RimBox) -> str:
    """Id of the way in."""
    return f"{spec.id}.feed"


def lip_of(spec: RimBox, site: Site) -> float:
    """Elevation in m of its lip."""
    return site.tank.rim + spec.over


def foot_of(spec: RimBox, site: Site) -> float:
    """Elevation in m of its floor."""
    return lip_of(spec, site) - spec.lip


def lift_of(spec: RimBox, site: Site) -> Lift:
    """Its tubes on air."""
    name, tank = f"Airlift of {spec.name}", site.tank
    k = 2 * fitting("elbow").k
    low, high = tank.floor + spec.intake, lip_of(spec, site) + POURS
    return Lift(feed_id(spec), name, tank.id, cell_id(spec), low, high, spec.air_tube, k, False, spec.tubes, spec.id)


def wish(spec: RimBox, site: Site) -> float:
    """Air in m³/s that it wants."""
    return modest_share(lift_of(spec, site), site.level) if spec.on_air else 0.0


def lower(spec: RimBox, site: Site) -> Fragment:
    """Two cells, the way in, block and the way over it, lip, and its rim."""
    tank, foot, lip = site.tank, foot_of(spec, site), lip_of(spec, site)
    rim = foot + spec.height
    if foot < tank.floor - 1.0:
        raise SpecError(f"{spec.name} hangs more than a metre under its tank's floor.")
    if spec.intake > tank.inner_height - 0.01:
        raise SpecError(f"{spec.name} draws above the rim of its tank.")
    half = spec.off * spec.wide / 2
    pad = (foot, foot + spec.block, (1 - FOAM_VOID) * spec.bulk / 2)
    behind = [pad]
    if spec.media > 0:
        high = foot + min(spec.media / (0.5 * spec.wide * (spec.off - spec.thickness)), spec.lip)
        behind.append((foot, high, spec.media * (1 - site.medium(spec.medium).void)))
    walls = plastic(2 * (spec.off + spec.wide), spec.off * spec.wide)
    cells = (
        Cell(
            cell_id(spec),
            f"{spec.name}, before its block",
            foot,
            rim,
            LevelCurve.with_contents(foot, rim, half, [pad]),
            owner=spec.id,
            walls=walls,
        ),
        Cell(
            clean_id(spec),
            f"{spec.name}, behind its block",
            foot,
            rim,
            LevelCurve.with_contents(foot, rim, half, behind),
            owner=spec.id,
        ),
    )
    owner, before, clean = spec.id, cells[0].id, cells[1].id
    stuff = foam(spec.ppi).dirty(spec.dirt)
    block = Pad(foot, spec.wide, spec.block, spec.thickness, stuff, site.water, spec.dirt)
    over = Weir(foot + spec.block, spec.wide, spec.block)
    back = Weir(lip, spec.spout, spec.lip)
    links = [
        Link(bed_id(spec), "Through its block", before, clean, block, WayKind.PAD, owner),
        Link(f"{spec.id}.over", "Over its block", before, clean, over, WayKind.BYPASS, owner),
        Link(out_id(spec), f"Over the lip of {spec.name}", clean, tank.id, back, WayKind.PIPE, owner),
    ]
    for cell in cells:
        edge = Spill(rim, spec.off + spec.wide)
        links.append(Link(f"{cell.id}.spill", f"{cell.name} over its rim", cell.id, FLOOR, edge, WayKind.SPILL, owner))
    if spec.on_air:
        return Fragment(cells, tuple(links), {"in": before}, {}, (lift_of(spec, site),))
    size = pipe_size(spec.hose)
    top = lip + POURS
    low = tank.floor + spec.intake
    k = 2 * fitting("elbow").k + (0.0 if spec.inlet == "deep" else fitting("strainer").k)
    pipe = Pipe(size.bore, max(top - low, 0.05) + 0.15, k, size.roughness, site.water)
    law = ReturnLine(
        pump_curve(spec.pump),
        pipe,
        tuple(Outlet(top, top, size.bore, 1.0) for _ in range(spec.tubes)),
        low,
        leak=1.0,
        pump_k=BACKWARDS_K,
        valve=False,
        lines=spec.tubes,
    )
    feed = Link(feed_id(spec), f"Pump of {spec.name}", tank.id, before, law, WayKind.FEED_PUMP, owner)
    return Fragment(cells, (feed, *links), {"in": before})
