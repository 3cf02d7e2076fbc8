"""What Fuente would change of a canister."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.catalogue import pipe_size
from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.canister.spec import PAST, Canister
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, clogged
from fuente.devices.pocket import cell_id, flow_of
from fuente.devices.rules import judged_by
from fuente.life.load import foam_surface
from fuente.network.model import Solution

FOLDS = 0.5  # m of suction at which a soft hose folds
WET_FOAM = 150.0  # kg/m³, lifted out
FINE = 30.0  # ppi from which a pad catches what clogs


def surface(spec: Canister, site: Site) -> float:
    """Living surface in m² of what water does not pass by."""
    total = 0.0
    for layer in spec.layers:
        per = (
            foam_surface(layer.ppi)
            if layer.medium == "foam"
            else site.medium(layer.medium).living(site.ruled(spec).surface == "core")
        )
        total += spec.bulk(layer) * per
    return total * (1 - PAST[spec.held])


def grow(spec: Canister, site: Site, factor: float) -> Edit | None:
    """A taller one."""
    path = spec.path
    taller = round(spec.height * factor + 0.005, 2)
    return None if taller > 1.2 else Edit("Taller canister", (Change((*path, "height"), taller),))


def suction(spec: Canister, solution: Solution) -> float:
    """Suction in m under the lid: how far the head inside stands under it."""
    return spec.stand + spec.height - solution.level[cell_id(spec)]


def wet_mass(spec: Canister, site: Site) -> float:
    """kg of all media when it is lifted out."""
    return sum(
        spec.bulk(x) * (WET_FOAM if x.medium == "foam" else site.medium(x.medium).wet_density()) for x in spec.layers
    )


def shared(spec: Canister, site: Site, study: Study) -> Iterable[Finding]:
    """Dirt that is long due."""
    path = spec.path
    yield from [*clogged(spec, path)]


def filter_still(spec: Canister, site: Site, study: Study) -> Iterable[Finding]:
    """No flow at all."""
    solution = study.running
    flow = flow_of(spec, solution)
    if flow < 1e-9:
        yield Finding(
            "filter-still",
            Rank.STOP,
            f"Nothing flows through {spec.name.lower()}.",
            "Its pump does not reach, or it draws air.",
            spec.id,
        )


def layer_order(spec: Canister, site: Site, study: Study) -> Iterable[Finding]:
    """A fine layer before a coarser one."""
    path = spec.path
    fine = [x.medium == "foam" and x.ppi >= FINE for x in spec.layers]
    order = spec.layers if spec.flow == "up" else spec.layers[::-1]
    grades = [x.ppi for x in order if x.medium == "foam"]
    if grades != sorted(grades):
        layers = tuple(sorted(order, key=lambda x: (x.medium != "foam", x.ppi)))
        yield Finding(
            "layer-order",
            Rank.FIX,
            "A fine layer comes before a coarser one along the water.",
            "Coarse before fine, along the water. In an upflow canister the lowest layer is the first.",
            spec.id,
            {},
            "Put coarse first",
            Edit(
                "Put coarse layers first",
                (Change((*path, "layers"), layers if spec.flow == "up" else layers[::-1]),),
            ),
        )
    elif spec.flow == "up" and fine[-1] and len(spec.layers) > 1 and site.ruled(spec).finest == "quick":
        yield Finding(
            "fine-on-top",
            Rank.CONSIDER,
            "The finest pad lies on top, last in the path.",
            "It is quick to change there; below it the media holds all the dirt by then. Rinse the lower layers too.",
            spec.id,
        )


def media_bypassed(spec: Canister, site: Site, study: Study) -> Iterable[Finding]:
    """Water that goes past the media."""
    path = spec.path
    if PAST[spec.held] >= 0.2:
        yield Finding(
            "media-bypassed",
            Rank.CONSIDER,
            "About {past:fraction} of the water goes past the media.",
            "Media with a gap round it is bypassed; a sleeve or trays that seal leave no way round. An assumption: look"
            " where dirt lies.",
            spec.id,
            {"past": PAST[spec.held]},
            "Close the way round",
            Edit("Put media in a sleeve", (Change((*path, "held"), "tube"),)),
        )


def hose_folds(spec: Canister, site: Site, study: Study) -> Iterable[Finding]:
    """Suction that folds a hose."""
    solution = study.running
    soft = pipe_size(spec.hose).family == "hose" and "corrugated" not in spec.hose
    sucks = suction(spec, solution)
    if soft and sucks > FOLDS:
        yield Finding(
            "hose-folds",
            Rank.FIX,
            "The suction hose is under {sucks:head} of suction: a soft hose folds.",
            "Set the canister lower, clean its media, or take a stiff hose on the suction side.",
            spec.id,
            {"sucks": sucks},
            "",
            None,
            FOLDS - sucks,
        )


def flow_half(spec: Canister, site: Site, study: Study) -> Iterable[Finding]:
    """Much less than the box promises."""
    solution = study.running
    flow = flow_of(spec, solution)
    if 0 < flow < 0.5 * spec.pump.max_flow:
        yield Finding(
            "flow-half",
            Rank.CONSIDER,
            "It moves {flow:flow}, {share:fraction} of what is on its box.",
            "Hoses, taps and media take the rest. Dirty, it moves less.",
            spec.id,
            {"flow": flow, "share": flow / spec.pump.max_flow},
        )


def media_heavy(spec: Canister, site: Site, study: Study) -> Iterable[Finding]:
    """Media too heavy to lift out."""
    mass = wet_mass(spec, site)
    if mass > site.space.lift:
        yield Finding(
            "media-heavy",
            Rank.CONSIDER,
            "Wet, its media weighs {mass:mass}.",
            "Bags or trays that one person lifts.",
            spec.id,
            {"mass": mass},
        )


judge = judged_by(shared, filter_still, layer_order, media_bypassed, hose_folds, flow_half, media_heavy)
