"""Drums as cells, their bulkheads as links, each bed in a row with the pipe before or after it."""

from __future__ import annotations

import math

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Fragment
from fuente.devices.drum_train.spec import Drum, DrumTrain
from fuente.devices.filtering import Site, Vessel
from fuente.devices.plumbing import (
    Mouth,
    before_outlet,
    carries,
    drain_links,
    feed_lifts,
    feed_links,
    past_id,
    round_cell,
    spill,
)
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.porous import felt, foam, packed
from fuente.network.beds import Resistance, Through, bed_loss, hole_loss
from fuente.network.laws import Bulkhead
from fuente.network.model import Link, WayKind
from fuente.network.supplies import Lines

BRUSH_VOID, BRUSH_SIZE = 0.95, 0.004  # of brushes as a packing; an assumption
MOVING_VOID = 0.95  # of a bed that rolls: it hardly holds water back
MESH_OPEN = 0.4  # open share of a screen
BAG_AREA = 0.2  # m² of a bag


def drum_id(spec: DrumTrain, k: int) -> str:
    """Id of a drum's cell."""
    return f"{spec.id}.drum.{k}"


def joint_id(spec: DrumTrain, k: int) -> str:
    """Id of the way from drum k to the next."""
    return f"{spec.id}.joint.{k}"


def bed_of(drum: Drum, site: Site) -> Resistance:
    """What a drum's contents take, by its plan."""
    if drum.role == "foam" and drum.foam > 0:
        return bed_loss(foam(drum.ppi), drum.area, drum.foam, site.water)
    if drum.role == "brush":
        return bed_loss(packed(BRUSH_SIZE, BRUSH_VOID), drum.area, 0.6 * drum.outlet, site.water)
    if drum.holds_media:
        stuff = site.medium(drum.medium)
        void = MOVING_VOID if drum.role == "moving" else stuff.void
        return bed_loss(packed(stuff.size, void), drum.area, drum.media / drum.area, site.water)
    return Resistance()


def screen_of(drum: Drum) -> Resistance:
    """The screen that keeps media in: a basket of three times the pipe's area, of which so much is open."""
    if drum.mesh <= 0 or not drum.holds_media:
        return Resistance()
    return hole_loss(3 * MESH_OPEN * drum.count * pipe_size(drum.pipe).area)


def at_outlet(spec: DrumTrain, site: Site) -> Resistance:
    """What stands before the way out: the last drum's bed, where the way in does not pay for it, its screen, a bag."""
    last, more = spec.drums[-1], len(spec.drums) > 1
    by_in = last.flow == "up" and (more or carries(spec.feed.way))
    rest = (Resistance() if by_in else bed_of(last, site)) + screen_of(last)
    if spec.bag > 0:
        rest += bed_loss(felt(spec.bag), BAG_AREA, 0.003, site.water)
    return rest


def vessel(spec: DrumTrain, site: Site) -> Vessel:
    """Where others can lead water."""
    last = len(spec.drums) - 1
    rest = at_outlet(spec, site)
    leave = past_id(spec) if rest.straight + rest.square > 0 and not carries(spec.drain.way) else drum_id(spec, last)
    stands = spec.stand + spec.drums[last].outlet
    return Vessel(
        spec.id,
        spec.name,
        drum_id(spec, 0),
        leave,
        spec.stand,
        spec.stand + spec.drums[0].height,
        spec.offset,
        spec.offset + spec.wide,
        stands,
    )


def lower(spec: DrumTrain, site: Site) -> Fragment:
    """Cells and links. Of a drum with upward flow the bed lies before its surface, else after it."""
    cells, links = [], []
    count = len(spec.drums)
    for k, drum in enumerate(spec.drums):
        solids = []
        if drum.holds_media:
            stuff = site.medium(drum.medium)
            top = drum.grid + max(drum.media / drum.area, 0.02)
            solids = [(spec.stand + drum.grid, spec.stand + min(top, drum.height), drum.media * (1 - stuff.void))]
        cell = round_cell(
            drum_id(spec, k), f"Drum {k + 1}", spec.id, spec.stand, spec.stand + drum.height, drum.diameter, solids
        )
        cells.append(cell)
        links.append(spill(f"{spec.id}.spill.{k}", cell, math.pi * drum.diameter))
    # A bed met upwards is paid on the way in, where that way can carry it; all others on the way out.
    by_in = [d.flow == "up" and (k > 0 or carries(spec.feed.way)) for k, d in enumerate(spec.drums)]
    beds = [bed_of(d, site) for d in spec.drums]
    first, last = spec.drums[0], spec.drums[-1]
    links += feed_links(
        spec, site, Mouth(cells[0].id, spec.stand, spec.stand + first.height), beds[0] if by_in[0] else Resistance()
    )
    for k in range(count - 1):
        drum, after = spec.drums[k], spec.drums[k + 1]
        size = pipe_size(drum.pipe)
        centre = spec.stand + drum.outlet
        if centre > spec.stand + after.height:
            raise SpecError(f"{spec.name}: the bulkhead out of drum {k + 1} is above the rim of the next.")
        pipe = Pipe(size.bore, spec.gap + 0.05, fitting("entrance").k + 1.0, size.roughness, site.water)
        soft = (
            (Resistance() if by_in[k] else beds[k]) + (beds[k + 1] if by_in[k + 1] else Resistance()) + screen_of(drum)
        )
        mouth = Bulkhead(centre, pipe)
        law = (
            Through(mouth, drum.count, soft, spec.dirt) if soft.straight + soft.square > 0 else Lines(mouth, drum.count)
        )
        links.append(
            Link(joint_id(spec, k), f"Drum {k + 1} to {k + 2}", cells[k].id, cells[k + 1].id, law, WayKind.PAD, spec.id)
        )
    rest = at_outlet(spec, site)
    before = Mouth(cells[-1].id, spec.stand, spec.stand + last.height)
    ends, through, leave = before_outlet(spec, cells[-1], rest, spec.dirt, site)
    cells[-1:] = ends
    links += through
    links += drain_links(spec, site, leave, rest if leave.cell == before.cell else Resistance(), before)
    marks = (
        {leave.cell: spec.stand + last.outlet} if spec.drain.way == "pump" and spec.feed.way in ("fall", "fed") else {}
    )
    lifts = feed_lifts(spec, site, vessel(spec, site))
    return Fragment(tuple(cells), tuple(links), {"inlet": cells[0].id, "outlet": leave.cell}, marks, lifts)
