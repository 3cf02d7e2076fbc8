"""Pads, carriers and bags."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.catalogue import medium
from fuente.devices import kind_of
from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.sump.card import bed_share, pad_drop, pad_room
from fuente.devices.sump.network import cell_ids
from fuente.study.analysis import Analysis, Situation
from fuente.study.loads import loads

KEPT, OXYGEN = 5e-4, 6e-3  # kg/m³: ammonia that one lives with, and oxygen in a filter that is looked after
BAG_LIMIT = 10.0  # kg that one person lifts out of a sump without thinking


def _device(analysis: Analysis) -> int:
    return [d.id for d in analysis.system.devices].index(analysis.sump.id)


def pad_order(analysis: Analysis) -> Iterable[Finding]:
    """Coarse before fine, along the water."""
    sump = analysis.sump
    for k, chamber in enumerate(sump.chambers):
        grades = [p.ppi for p in chamber.pads]
        if grades != sorted(grades):
            path: Path = ("devices", _device(analysis), "chambers", k, "pads")
            ordered = tuple(sorted(chamber.pads, key=lambda p: p.ppi))
            yield Finding(
                "pad-order",
                Rank.FIX,
                f"{chamber.title} has a fine pad before a coarser one.",
                "The fine one then takes all the dirt and clogs first. Coarse before fine, along the water.",
                f"{sump.id}.{chamber.id}",
                {},
                "Put coarse first",
                Edit("Put coarse pads first", (Change(path, ordered),)),
            )


def overtop(analysis: Analysis) -> Iterable[Finding]:
    """Pads and socks that water goes over, now or when dirty."""
    sump = analysis.sump
    dirty = analysis.try_situation("pads_dirty")
    for chamber in sump.chambers:
        if chamber.role not in ("foam", "socks"):
            continue
        base = f"{sump.id}.{chamber.id}"
        now = _over(analysis.running.flow, base)
        owner = base
        drop, room = pad_drop(sump, chamber, analysis.running), pad_room(sump, chamber, analysis.running)
        if now > 1e-7:
            yield Finding(
                "overtops",
                Rank.FIX,
                f"{{flow:flow}} goes over {chamber.title.lower()} instead of through it.",
                "Its loss is more than its freeboard. Clean it, take it coarser, or stand it higher.",
                owner,
                {"flow": now, "drop": drop},
                "Clean it",
                _clean(analysis, chamber.id),
                -drop,
            )
        elif isinstance(dirty, Situation) and _over(dirty.solution.flow, base) > 1e-7:
            share = drop / room
            yield Finding(
                "overtops-dirty",
                Rank.CONSIDER,
                f"{chamber.title} drops {{drop:length}} of {{room:length}} now and overtops before it is 25 times its clean loss.",
                "The level difference is its gauge: write it down, and clean when it nears the room.",
                owner,
                {"drop": drop, "room": room, "share": share},
                "Clean it" if share > 0.6 else "",
                _clean(analysis, chamber.id) if share > 0.6 else None,
                room - drop,
            )


def _over(flows: object, base: str) -> float:
    assert hasattr(flows, "items")
    return sum(q for key, q in flows.items() if key.startswith(base) and key.endswith(".over"))


def _clean(analysis: Analysis, chamber_id: str) -> Edit | None:
    sump = analysis.sump
    k = [c.id for c in sump.chambers].index(chamber_id)
    chamber = sump.chambers[k]
    base: Path = ("devices", _device(analysis), "chambers", k)
    changes = [Change((*base, "pads", i, "dirt"), 1.0) for i, p in enumerate(chamber.pads) if p.dirt > 1]
    if chamber.socks and chamber.socks.dirt > 1:
        changes.append(Change((*base, "socks", "dirt"), 1.0))
    return Edit(f"Clean {chamber.title.lower()}", tuple(changes)) if changes else None


def carriers(analysis: Analysis) -> Iterable[Finding]:
    """Slots smaller than the carriers, and a bed that can turn."""
    sump = analysis.sump
    for k, chamber in enumerate(sump.chambers):
        if chamber.role != "moving_bed" or not chamber.fill or not chamber.exit:
            continue
        stuff = medium(chamber.fill.medium)
        owner = f"{sump.id}.{chamber.id}"
        base: Path = ("devices", _device(analysis), "chambers", k)
        slot = chamber.exit.tooth_gap
        if chamber.exit.teeth <= 0 or slot > stuff.size * 0.8:
            gap = round(stuff.size * 0.6, 3)
            yield Finding(
                "carriers-escape",
                Rank.FIX,
                "Carriers of {size:length} go over the crest: "
                + ("it has no teeth." if chamber.exit.teeth <= 0 else "its slots are {slot:length}."),
                "Holes, slots and screens must be clearly smaller than the media.",
                owner,
                {"size": stuff.size, "slot": slot},
                "Cut teeth",
                Edit(
                    "Cut teeth into the crest",
                    (
                        Change((*base, "exit", "teeth"), max(chamber.exit.teeth, 0.4)),
                        Change((*base, "exit", "tooth_gap"), gap),
                    ),
                ),
                stuff.size * 0.8 - slot,
            )
        if chamber.exit.gap > stuff.size * 0.8:
            yield Finding(
                "carriers-escape",
                Rank.FIX,
                "Carriers of {size:length} slip through the gap of {gap:length} under the baffle.",
                "Screen the gap or close it.",
                owner,
                {"size": stuff.size, "gap": chamber.exit.gap},
                "Close gap",
                Edit("Close gap", (Change((*base, "exit", "gap"), 0.0),)),
            )
        share = bed_share(sump, chamber)
        if share > 0.7:
            wanted = chamber.fill.volume * 0.667 / share
            yield Finding(
                "bed-full",
                Rank.CONSIDER,
                "The moving bed is {share:fraction} full and hardly turns.",
                "Two thirds is Fuente's usual limit; some builders stay at half, some fill it nearly.",
                owner,
                {"share": share},
                "Fill two thirds",
                Edit("Take carriers out", (Change((*base, "fill", "volume"), round(wanted, 4)),)),
                0.7 - share,
            )


def bypass(analysis: Analysis) -> Iterable[Finding]:
    """Water over a bed of media rather than through it."""
    sump = analysis.sump
    for k, chamber in enumerate(sump.chambers):
        if chamber.role != "media" or not chamber.fill or chamber.fill.volume <= 0:
            continue
        over = _over(analysis.running.flow, f"{sump.id}.{chamber.id}")
        through = analysis.running.flow.get(f"{sump.id}.{chamber.id}.bed", 0.0)
        if over > 0.1 * (over + through):
            width = sump.widths()[k]
            cells = cell_ids(sump, chamber)
            need = (analysis.running.depth(cells[0]) + 0.02) * width * sump.inner_width
            yield Finding(
                "media-bypassed",
                Rank.FIX,
                "{over:flow} of {all:flow} goes over the media instead of through it.",
                "Water takes the easy way. Fill the basket above the water, or close it with a lid.",
                f"{sump.id}.{chamber.id}",
                {"over": over, "all": over + through},
                "Fill basket",
                Edit(
                    "Fill media basket",
                    (Change(("devices", _device(analysis), "chambers", k, "fill", "volume"), round(need, 4)),),
                ),
                -over,
            )


def heavy(analysis: Analysis) -> Iterable[Finding]:
    """Wet media that one person lifts."""
    sump = analysis.sump
    for chamber in sump.chambers:
        if not chamber.fill or chamber.role == "moving_bed":
            continue
        mass = chamber.fill.volume * medium(chamber.fill.medium).wet_density()
        if mass > BAG_LIMIT and chamber.fill.held == "basket":
            bags = -(-mass // BAG_LIMIT)
            k = [c.id for c in sump.chambers].index(chamber.id)
            yield Finding(
                "media-heavy",
                Rank.CONSIDER,
                "Wet, the media weighs {mass:mass} in one basket.",
                f"Split it into {bags:.0f} bags that one person can lift.",
                f"{sump.id}.{chamber.id}",
                {"mass": mass},
                "Use bags",
                Edit(
                    "Put media into bags",
                    (Change(("devices", _device(analysis), "chambers", k, "fill", "held"), "bags"),),
                ),
            )


def surface(analysis: Analysis) -> Iterable[Finding]:
    """Living surface against what the feed makes; only where feed is known."""
    for load in loads(analysis):
        need, have, nitrogen, limit = load.need, load.have, load.nitrogen, load.limit
        if have >= need:
            continue
        body = next(b for b in analysis.bodies if load.tanks[0] in b)
        edit, action = _more_carriers(analysis, set(body), need - have)
        if edit is None:
            edit, action = _larger_filter(analysis, set(body), need, have)
        yield Finding(
            "surface-short",
            Rank.FIX,
            "The feed makes {nitrogen:feed} of ammonia nitrogen, which wants {need:area}; the media have {have:area}.",
            f"At half a milligram of ammonia a litre, {OXYGEN * 1000:.0f} mg/L of oxygen and this temperature; {limit} limits. More "
            "media cannot beat overfeeding: feed less, or add surface and raise the feed in steps. ±40 %.",
            next(t.id for t in analysis.system.tanks if t.id in load.tanks and t.fed > 0),
            {"nitrogen": nitrogen, "need": need, "have": have},
            action,
            edit,
            have - need,
        )


def _more_carriers(analysis: Analysis, cells: set[str], missing: float) -> tuple[Edit | None, str]:
    """More media where there is room for it: a moving bed to two thirds of its chamber."""
    for d, device in enumerate(analysis.system.devices):
        for k, (chamber, width) in enumerate(zip(device.chambers, device.widths(), strict=True)):
            if (
                chamber.role != "moving_bed"
                or not chamber.fill
                or not chamber.exit
                or cell_ids(device, chamber)[0] not in cells
            ):
                continue
            room = 2 / 3 * width * device.inner_width * chamber.exit.top - chamber.fill.volume
            wanted = missing / medium(chamber.fill.medium).surface
            if room > 5e-4:
                volume = round(chamber.fill.volume + min(wanted * 1.05, room), 4)
                path: Path = ("devices", d, "chambers", k, "fill", "volume")
                return Edit("Add carriers", (Change(path, volume),)), "Add carriers"
    return None, ""


def _larger_filter(analysis: Analysis, cells: set[str], need: float, have: float) -> tuple[Edit | None, str]:
    """A filter of another kind that can grow to what is missing."""
    for i, spec in enumerate(analysis.system.filters):
        kind = kind_of(spec)
        if spec.tank in cells and kind.grow is not None:
            site = analysis.sites[spec.id]
            own = kind.surface(spec, site.ruled(spec))
            edit = kind.grow(spec, site, (need - have + own) / max(own, 1e-9), ("filters", i)) if own > 0 else None
            if edit is not None:
                return edit, edit.name
    return None, ""


WHOLE = (surface,)
RULES = (pad_order, overtop, carriers, bypass, heavy)
