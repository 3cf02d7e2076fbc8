"""Pads, carriers and bags of a sump."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.contract import Study
from fuente.devices.site import Site
from fuente.devices.sump.air import air_of, wish
from fuente.devices.sump.card import bed_share, pad_drop, pad_room
from fuente.devices.sump.spec import Chamber, Pad, Sump, cell_ids
from fuente.one_line import within

WILD = 3.2  # times the air that a bed wants, from which on it boils


def pad_order(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """Coarse before fine, along the water, from chamber to chamber as within one. A sheet that only holds others in
    place may be as coarse as it likes.
    """
    places = [
        (k, i, chamber, pad)
        for k, chamber in enumerate(sump.chambers)
        for i, pad in enumerate(chamber.pads)
        if not pad.holds
    ]
    grades = [pad.ppi for *_, pad in places]
    wrong = next((n for n in range(1, len(grades)) if grades[n] < max(grades[:n])), None)
    if wrong is None:
        return
    _, _, chamber, pad = places[wrong]
    before = max(places[:wrong], key=lambda p: p[3].ppi)[2]
    where = "" if before.id == chamber.id else f" of {within(before.title)}"
    yield Finding(
        "pad-order",
        Rank.FIX,
        f"{chamber.title} has a coarse pad of {pad.ppi:g} ppi behind a finer one{where}.",
        "The fine one then takes all the dirt and clogs first. Coarse before fine, along the water. A sheet that only"
        " holds others in place is set so on its card.",
        f"{sump.id}.{chamber.id}",
        {},
        "Put coarse first",
        Edit("Put coarse pads first", _sorted(sump, places)),
    )


def _sorted(sump: Sump, places: list[tuple[int, int, Chamber, Pad]]) -> tuple[Change, ...]:
    """Whole pads sorted within their chambers where that does; else the pores change places, as each chamber is as long
    as its pads are thick.
    """
    own = {k: tuple(sorted(c.pads, key=lambda p: p.ppi)) for k, c in enumerate(sump.chambers) if c.pads}
    grades = [p.ppi for pads in own.values() for p in pads]
    path: Path = (*sump.path, "chambers")
    if grades == sorted(grades) and not any(p.holds for pads in own.values() for p in pads):
        return tuple(Change((*path, k, "pads"), pads) for k, pads in own.items() if pads != sump.chambers[k].pads)
    ordered = sorted((p for *_, p in places), key=lambda p: p.ppi)
    return tuple(
        Change((*path, k, "pads", i, field), getattr(new, field))
        for (k, i, _, old), new in zip(places, ordered, strict=True)
        if old.ppi != new.ppi
        for field in ("ppi", "dirt")
    )


def overtop(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """Pads and socks that water goes over, now or when dirty."""
    dirty = study.try_situation("pads_dirty")
    for chamber in sump.chambers:
        if chamber.role not in ("foam", "socks") and not chamber.lies:
            continue
        base = f"{sump.id}.{chamber.id}"
        now = _over(study.running.flow, base)
        owner = base
        drop, room = pad_drop(sump, chamber, study.running), pad_room(sump, chamber, study.running)
        if now > 1e-7:
            yield Finding(
                "overtops",
                Rank.FIX,
                f"{{flow:flow}} goes over {within(chamber.title)} instead of through it.",
                "Its loss is more than its freeboard. Clean it, take it coarser, or stand it higher.",
                owner,
                {"flow": now, "drop": drop},
                "Clean it",
                _clean(sump, chamber.id),
                -drop,
            )
        elif not isinstance(dirty, Exception) and _over(dirty.solution.flow, base) > 1e-7:
            share = drop / room
            yield Finding(
                "overtops-dirty",
                Rank.CONSIDER,
                f"{chamber.title} drops {{drop:level}} of {{room:level}} now and overflows its frame before it is due"
                " for cleaning.",
                "The level difference is its gauge: write it down, and clean when it nears the room.",
                owner,
                {"drop": drop, "room": room, "share": share},
                "Clean it" if share > 0.6 else "",
                _clean(sump, chamber.id) if share > 0.6 else None,
                room - drop,
            )


def _over(flows: Mapping[str, float], base: str) -> float:
    return sum(q for key, q in flows.items() if key.startswith(base) and key.endswith(".over"))


def _clean(sump: Sump, chamber_id: str) -> Edit | None:
    k = [c.id for c in sump.chambers].index(chamber_id)
    chamber = sump.chambers[k]
    base: Path = (*sump.path, "chambers", k)
    changes = [Change((*base, "pads", i, "dirt"), 1.0) for i, p in enumerate(chamber.pads) if p.dirt > 1]
    if chamber.socks and chamber.socks.dirt > 1:
        changes.append(Change((*base, "socks", "dirt"), 1.0))
    return Edit(f"Clean {within(chamber.title)}", tuple(changes)) if changes else None


def carriers(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """Slots smaller than the carriers, and a bed that can turn."""
    for k, chamber in enumerate(sump.chambers):
        if chamber.role != "moving_bed" or not chamber.fill or not chamber.exit:
            continue
        stuff = site.medium(chamber.fill.medium)
        owner = f"{sump.id}.{chamber.id}"
        base: Path = (*sump.path, "chambers", k)
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


def bypass(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """Water over a bed of media rather than through it."""
    for k, chamber in enumerate(sump.chambers):
        if chamber.role != "media" or chamber.lies or not chamber.fill or chamber.fill.volume <= 0:
            continue
        over = _over(study.running.flow, f"{sump.id}.{chamber.id}")
        through = study.running.flow.get(f"{sump.id}.{chamber.id}.bed", 0.0)
        if over > 0.1 * (over + through):
            width = sump.widths()[k]
            cells = cell_ids(sump, chamber)
            need = (study.running.depth(cells[0]) + 0.02) * width * sump.inner_width
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
                    (Change((*sump.path, "chambers", k, "fill", "volume"), round(need, 4)),),
                ),
                -over,
            )


def heavy(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """Wet media that one person lifts."""
    for chamber in sump.chambers:
        if not chamber.fill or chamber.role == "moving_bed":
            continue
        mass = chamber.fill.volume * site.medium(chamber.fill.medium).wet_density()
        if mass > site.space.lift and chamber.fill.held == "basket":
            bags = -(-mass // site.space.lift)
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
                    (Change((*sump.path, "chambers", k, "fill", "held"), "bags"),),
                ),
            )


def aired(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """A bed that nothing moves, that stands with what it gets, or that boils; a line in which nothing comes."""
    for chamber, width in zip(sump.chambers, sump.widths(), strict=True):
        owner, bed = f"{sump.id}.{chamber.id}", chamber.role == "moving_bed" and bool(chamber.fill)
        want, air = wish(sump, chamber, width, site), air_of(sump, chamber, study.running)
        values = {"air": air, "want": want}
        if owner not in site.drops:
            if bed and want > 0:
                yield Finding(
                    "bed-no-air",
                    Rank.CONSIDER,
                    f"No air line leads to {within(chamber.title)}: its carriers want {{want:air_flow}} to roll.",
                    "Water that only passes does not turn them; they pile up at the baffle, strain dirt and clog. Some"
                    " builders let them stand on purpose and flush them often.",
                    owner,
                    values,
                )
        elif air <= 1e-9:
            yield Finding(
                "air-starved",
                Rank.FIX,
                f"{chamber.title} gets no air.",
                "Its line is deeper than the pump pushes, or other drops take all. Look at the air pump's card.",
                owner,
            )
        elif bed and air < 0.5 * want:
            yield Finding(
                "bed-still",
                Rank.FIX,
                "The bed gets {air:air_flow}; it wants {want:air_flow} to roll.",
                "A bed that stands strains dirt and clogs. Open its valve, or take fewer carriers.",
                owner,
                values,
            )
        elif bed and air > WILD * want:
            yield Finding(
                "bed-wild",
                Rank.CONSIDER,
                f"The bed gets {{air:air_flow}}, {air / want:.0f} times what rolls it.",
                "It is loud, wears the carriers and throws water about. Turn its valve down.",
                owner,
                values,
            )


def more_living(sump: Sump, site: Site, missing: float) -> tuple[Edit | None, str]:
    """More media for a missing surface in m² where there is room for it: a moving bed to two thirds of its chamber."""
    for k, (chamber, width) in enumerate(zip(sump.chambers, sump.widths(), strict=True)):
        if chamber.role != "moving_bed" or not chamber.fill or not chamber.exit:
            continue
        room = 2 / 3 * width * sump.inner_width * chamber.exit.top - chamber.fill.volume
        wanted = missing / site.medium(chamber.fill.medium).surface
        if room > 5e-4:
            volume = round(chamber.fill.volume + min(wanted * 1.05, room), 4)
            path: Path = (*sump.path, "chambers", k, "fill", "volume")
            return Edit("Add carriers", (Change(path, volume),)), "Add carriers"
    return None, ""


RULES = (pad_order, overtop, carriers, aired, bypass, heavy)
