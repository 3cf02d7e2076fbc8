"""What Fuente would change of a sieve."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.catalogue import pipe_size
from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.filtering import Site
from fuente.devices.plumbing import flow_in
from fuente.devices.plumbing_shown import judge_lines
from fuente.devices.rules import judged_by
from fuente.devices.sieve_bed.network import ids, sizing_speed
from fuente.devices.sieve_bed.spec import SieveBed
from fuente.hydraulics.drains import full_siphon
from fuente.hydraulics.pipes import Pipe
from fuente.network.model import Solution
from fuente.structure.walls import tube_sag
from fuente.water.properties import GRAVITY


def surface(spec: SieveBed, site: Site) -> float:
    """Living surface of the lower media, m²."""
    return spec.media * site.medium(spec.medium).living(site.ruled(spec).surface == "core")


def lives(spec: SieveBed, site: Site) -> tuple[tuple[str, float], ...]:
    """Living surface by cell: all of it under the screen."""
    return ((ids(spec)[1], surface(spec, site)),)


def needed(spec: SieveBed, flow: float) -> float:
    """Screen in m² for a flow in m³/s, what is spare with it, while dirt closes its share."""
    return (flow + spec.spare) / (sizing_speed(spec.aperture) * spec.open_share * (1 - spec.clogged))


def sag(spec: SieveBed) -> tuple[float, float]:
    """Sag in m of the frame's worst tube, and what is allowed: a two-hundredth of its span. Each bar
    carries its strip.
    """
    strip = spec.length / (spec.bars + 1)
    return tube_sag(spec.load * GRAVITY * strip, spec.width, spec.tube, spec.wall), spec.width / 200


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


def screen_small(spec: SieveBed, site: Site, study: Study) -> Iterable[Finding]:
    """A screen too small for its flow once dirt has closed its share."""
    solution, path = study.running, spec.path
    flow = flow_in(spec, solution)
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
    """A frame that sags under wet dirt."""
    path = spec.path
    bends, allowed = sag(spec)
    if bends > allowed:
        yield Finding(
            "frame-sags",
            Rank.FIX,
            "The frame's tubes sag {sag:fine_length} over {span:length}; {allowed:fine_length} is enough.",
            "Long frames sag and the screen pulls off its edge: more bars, or a stiffer tube. Plastic creeps; an"
            " estimate for planning.",
            spec.id,
            {"sag": bends, "span": spec.width, "allowed": allowed},
            "More bars",
            Edit(
                "More bars",
                (Change((*path, "bars"), min(max(round((spec.bars + 1) * bends / allowed), spec.bars + 1), 40)),),
            ),
            allowed - bends,
        )


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


judge = judged_by(shared, screen_small, past_screen, frame_sags, screen_drowned)
