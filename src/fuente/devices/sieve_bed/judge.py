"""What Fuente would change of a sieve."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import replace
from typing import NamedTuple

from fuente.catalogue import pipe_size
from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.box_walls import box_walls
from fuente.devices.contract import Study
from fuente.devices.filtering import Site
from fuente.devices.plumbing import drain_id, feed_id
from fuente.devices.plumbing_shown import judge_lines
from fuente.devices.rules import judged_by
from fuente.devices.sieve_bed.lines import others_in, through
from fuente.devices.sieve_bed.network import ids, sizing_speed
from fuente.devices.sieve_bed.spec import SieveBed
from fuente.hydraulics.drains import full_siphon
from fuente.hydraulics.pipes import Pipe
from fuente.network.beds import FloatedFeed
from fuente.network.model import Solution
from fuente.network.returning import ReturnLine
from fuente.structure.walls import tube_sag
from fuente.water.properties import GRAVITY

MOST_BARS, MOST_LEGS = 40, 12
AIR_OVER = 0.012  # m over its intake under which a pump draws air


def surface(spec: SieveBed, site: Site) -> float:
    """Living surface of the lower media, m²."""
    return spec.media * site.medium(spec.medium).living(site.ruled(spec).surface == "core")


def lives(spec: SieveBed, site: Site) -> tuple[tuple[str, float], ...]:
    """Living surface by cell: all of it under the screen."""
    return ((ids(spec)[1], surface(spec, site)),)


def needed(spec: SieveBed, flow: float) -> float:
    """Screen in m² for a flow in m³/s, what is spare with it, while dirt closes its share."""
    return (flow + spec.spare) / (sizing_speed(spec.aperture) * spec.open_share * (1 - spec.clogged))


class Sag(NamedTuple):
    """How far a tube of the frame sags, over which span, and what is allowed, m: a two-hundredth of the span."""

    bends: float
    span: float
    allowed: float

    @property
    def short(self) -> float:
        """How far it is over what is allowed, as a factor."""
        return self.bends / self.allowed


def bar_sag(spec: SieveBed) -> Sag:
    """A bar across: it carries its strip of the screen."""
    strip = spec.length / (spec.bars + 1)
    bends = tube_sag(spec.load * GRAVITY * strip, spec.width, spec.tube, spec.wall)
    return Sag(bends, spec.width, spec.width / 200)


def edge_sag(spec: SieveBed) -> Sag:
    """An edge tube along the box, between two legs: half of every bar's load stands on it."""
    span = spec.length / (spec.legs - 1)
    bends = tube_sag(spec.load * GRAVITY * spec.width / 2, span, spec.tube, spec.wall)
    return Sag(bends, span, span / 200)


def sag(spec: SieveBed) -> Sag:
    """Of the tube that is worst off."""
    return max(bar_sag(spec), edge_sag(spec), key=lambda s: s.short)


def waste_time(spec: SieveBed, site: Site, solution: Solution) -> float:
    """Seconds to run the chamber off through the waste outlet."""
    _, chamber = ids(spec)
    depth = max(solution.depth(chamber), 0.02)
    size = pipe_size(spec.waste)
    flow, _ = full_siphon(depth / 2, Pipe(size.bore, 2.0, 3.0, size.roughness, site.water))
    return solution.volume[chamber] / flow


def grow(spec: SieveBed, site: Site, factor: float) -> Edit | None:
    """More lower media."""
    path = spec.path
    more = round(spec.media * factor + 0.005, 3)
    if spec.media <= 0 or more > 0.7 * spec.area * spec.screen:
        return None
    return Edit("Add lower media", (Change((*path, "media"), more),))


def shared(spec: SieveBed, site: Site, study: Study) -> Iterable[Finding]:
    """What its pipes say."""
    solution, path = study.running, spec.path
    over, _chamber = ids(spec)
    yield from list(judge_lines(spec, site, solution, path, (over,)))
    yield from box_walls(spec.id, spec.name, spec.length, spec.width, spec.height)


def screen_small(spec: SieveBed, site: Site, study: Study) -> Iterable[Finding]:
    """A screen too small for its flow once dirt has closed its share."""
    solution, path = study.running, spec.path
    flow = through(spec, solution)
    want = needed(spec, flow)
    if want > spec.area * 1.02:
        longer = round(-(-want / spec.width // 0.05) * 0.05, 2)
        yield Finding(
            "screen-small",
            Rank.FIX,
            "The screen has {have:area}; {flow:flow} want {want:area} when dirt closes its share.",
            "Sized by an assumed speed through the openings, a factor of two: pour a bucket over a piece of your"
            " own screen.",
            spec.id,
            {"have": spec.area, "want": want, "flow": flow + spec.spare},
            "Longer screen" if longer <= 6 else "",
            Edit("Lengthen screen", (Change((*path, "length"), longer),)) if longer <= 6 else None,
            spec.area - want,
        )


def past_screen(spec: SieveBed, site: Site, study: Study) -> Iterable[Finding]:
    """Water over the edge past the screen."""
    solution, path = study.running, spec.path
    past = solution.flow.get(f"{spec.id}.edge", 0.0)
    if past > 1e-7:
        yield Finding(
            "past-screen",
            Rank.FIX,
            "{past:flow} runs past the screen.",
            "It is clogged or too small; dirt goes to the pump. Hose it off from below.",
            spec.id,
            {"past": past},
            "Clean it" if spec.dirt > 1 else "",
            Edit("Clean screen", (Change((*path, "dirt"), 1.0),)) if spec.dirt > 1 else None,
        )


def frame_sags(spec: SieveBed, site: Site, study: Study) -> Iterable[Finding]:
    """A frame that sags under wet dirt: its bars between the edges, its edges between the legs."""
    path = spec.path
    bars, edges = bar_sag(spec), edge_sag(spec)
    if bars.bends > bars.allowed:
        more = min(max(round((spec.bars + 1) * bars.short), spec.bars + 1), MOST_BARS)
        yield _sags(
            spec,
            "The frame's bars sag {sag:fine_length} over {span:length}; {allowed:fine_length} is enough.",
            bars,
            "More bars",
            Edit("More bars", (Change((*path, "bars"), more),)) if more > spec.bars else None,
        )
    if edges.bends > edges.allowed:
        # The sag goes by the fourth power of the span, what is allowed by the span itself.
        more = min(max(math.ceil((spec.legs - 1) * edges.short ** (1 / 3)) + 1, spec.legs + 1), MOST_LEGS)
        yield _sags(
            spec,
            "The frame's edge tubes sag {sag:fine_length} over the {span:length} between their legs;"
            " {allowed:fine_length} is enough.",
            edges,
            "More legs",
            Edit("More legs", (Change((*path, "legs"), more),)) if more > spec.legs else None,
        )


def _sags(spec: SieveBed, text: str, sag: Sag, action: str, edit: Edit | None) -> Finding:
    return Finding(
        "frame-sags",
        Rank.FIX,
        text,
        "Long frames sag and the screen pulls off its edge: more bars or legs, or a stiffer tube. Plastic creeps; an"
        " estimate for planning.",
        spec.id,
        {"sag": sag.bends, "span": sag.span, "allowed": sag.allowed},
        action if edit else "",
        edit,
        sag.allowed - sag.bends,
    )


def outruns(spec: SieveBed, site: Site, study: Study) -> Iterable[Finding]:
    """A pump that takes more than comes in: it stands at its intake and draws air."""
    if spec.drain.way != "pump" or spec.feed.way not in ("float", "level"):
        return
    solution = study.running
    over = solution.level[ids(spec)[1]] - (spec.stand + spec.drain.intake)
    if over > AIR_OVER:
        return
    comes, most = through(spec, solution), feed_most(spec, site, study, solution)
    edit = _slower(spec, study, solution, most)
    yield Finding(
        "pump-outruns",
        Rank.FIX,
        "The pump takes all that comes in, {flow:flow}, and stands {over:level} over its intake: it draws air.",
        "The pipe in gives no more. Take a weaker pump or throttle it behind its outlet, or give the pipe in more"
        " bore.",
        spec.id,
        {"flow": comes, "over": max(over, 0.0), "most": most},
        "Slower pump" if edit else "",
        edit,
        margin=over - AIR_OVER,
    )


def _slower(spec: SieveBed, study: Study, solution: Solution, most: float) -> Edit | None:
    """The highest speed in steps of a twentieth at which the pump leaves a tenth of what comes in."""
    link = next(k for k in study.network.links if k.id == drain_id(spec))
    law = link.law
    assert isinstance(law, ReturnLine)
    under = spec.stand + 0.5 * (spec.drain.intake + spec.screen)
    for step in range(math.ceil(spec.drain.pump.speed / 0.05) - 1, 3, -1):
        slow = replace(law, curve=replace(law.curve, speed=0.05 * step))
        if 0 < slow.flow(under, solution.level[link.b])[0] <= 0.9 * most:
            return Edit("Slow the pump", (Change((*spec.path, "drain", "pump", "speed"), round(0.05 * step, 2)),))
    return None


def feed_most(spec: SieveBed, site: Site, study: Study, solution: Solution) -> float:
    """The most that its ways in give in m³/s at the waters they draw from: a float wide open, a pump as it runs."""
    return sum(_most(each, study, solution) for each in (spec, *others_in(spec)))


def _most(each: SieveBed, study: Study, solution: Solution) -> float:
    key = feed_id(each)
    for group in study.network.groups:
        if isinstance(group, FloatedFeed) and group.key == key:
            a, _, _ = group.cells
            return group.valve.by_float(solution.level[a], each.stand + each.screen, -1e3)[0]
    link = next((k for k in study.network.links if k.id == key), None)
    if link is None:
        return through(each, solution)
    if each.feed.way == "pump":
        return max(solution.flow[key], 0.0)
    return max(link.law.flow(solution.level[link.a], each.stand + each.screen)[0], 0.0)


def screen_drowned(spec: SieveBed, site: Site, study: Study) -> Iterable[Finding]:
    """Water that stands up to the screen from below."""
    solution, path = study.running, spec.path
    _over, chamber = ids(spec)
    if solution.level[chamber] > spec.stand + spec.screen - 0.005:
        yield Finding(
            "screen-drowned",
            Rank.FIX,
            "The water under the screen stands at the screen: nothing falls through it.",
            "A float valve on the pipe in, or a lower outlet, keeps it under the screen.",
            spec.id,
            {},
            "Fit a float valve" if spec.feed.way == "level" else "",
            (
                Edit(
                    "Fit float valve",
                    (
                        Change((*path, "feed", "way"), "float"),
                        Change((*path, "feed", "hold"), round(0.75 * spec.screen, 2)),
                    ),
                )
                if spec.feed.way == "level"
                else None
            ),
        )


judge = judged_by(shared, screen_small, past_screen, frame_sags, screen_drowned, outruns)
