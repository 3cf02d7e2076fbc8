"""What Fuente would change of a canister."""

from __future__ import annotations

import math
from collections.abc import Iterable

from fuente.catalogue import pipe_size
from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.canister.spec import PAST, Canister, Layer
from fuente.devices.contract import Study
from fuente.devices.filtering import DIRTY, Site
from fuente.devices.pocket import cell_id, flow_of
from fuente.devices.rules import judged_by
from fuente.life.load import foam_surface
from fuente.network.model import Solution
from fuente.one_line import within

FOLDS = 0.5  # m of suction at which a soft hose folds
WET_FOAM = 150.0  # kg/m³, lifted out
FINE = 30.0  # ppi from which a pad catches what clogs
PRESSES = 100.0  # kg/m² of drained media at which foam under it gives by about a tenth; an assumption
BENDS = 0.05  # m over its lid that its hoses bend in
HAND = 0.1  # m over those for a hand and a clamp
MOST_LOST = 1 / 3  # of its tank's water that a hose may let out before that is said
KEPT = 0.7  # of the tank's depth at which an intake leaves more than that


def surface(spec: Canister, site: Site) -> float:
    """Living surface in m² of what water does not pass by."""
    total = sum(spec.bulk(layer) * _per(spec, site, layer) for layer in spec.layers)
    return total * (1 - PAST[spec.held])


def _per(spec: Canister, site: Site, layer: Layer) -> float:
    if layer.medium == "foam":
        return foam_surface(layer.ppi)
    if layer.medium == "floss":
        return 0.0  # changed before anything lives in it
    return site.medium(layer.medium).living(site.ruled(spec).surface == "core")


def grow(spec: Canister, site: Site, factor: float) -> Edit | None:
    """A taller one."""
    path = spec.path
    taller = round(spec.height * factor + 0.005, 2)
    if taller > 1.2:
        return None
    return Edit("Taller canister", (Change((*path, "height"), taller), *scaled(spec, taller / spec.height)))


def scaled(spec: Canister, by: float) -> tuple[Change, ...]:
    """Its layers and the void under them so much thicker, to a tenth of a millimetre under."""
    foot = math.floor(spec.foot * by * 1e4) / 1e4
    layers = tuple(
        x.model_copy(update={"thickness": max(math.floor(x.thickness * by * 1e4) / 1e4, 0.003)}) for x in spec.layers
    )
    return (Change((*spec.path, "foot"), foot), Change((*spec.path, "layers"), layers))


def pressed(spec: Canister, site: Site, level: float) -> float:
    """kg that would press as hard on its lid as the tank's water does at a level in m, all standing still."""
    return site.water.density * max(level - spec.stand - spec.height, 0.0) * spec.area


def suction(spec: Canister, solution: Solution) -> float:
    """Suction in m under the lid: how far the head inside stands under it."""
    return spec.stand + spec.height - solution.level[cell_id(spec)]


def wet_mass(spec: Canister, site: Site) -> float:
    """kg of all media when it is lifted out."""
    return sum(_mass(spec, site, x) for x in spec.layers)


def _mass(spec: Canister, site: Site, layer: Layer) -> float:
    soft = layer.medium in ("foam", "floss")
    return spec.bulk(layer) * (WET_FOAM if soft else site.medium(layer.medium).wet_density())


def lifts(spec: Canister, site: Site) -> list[float]:
    """kg of what is lifted out at once: from each divider to the next."""
    found = [0.0]
    for layer in spec.layers:
        if layer.divider and found[-1]:
            found.append(0.0)
        found[-1] += _mass(spec, site, layer)
    return found


def shared(spec: Canister, site: Site, study: Study) -> Iterable[Finding]:
    """Dirt that is long due."""
    dirt = max(spec.sponge_dirt if spec.sponge else 1.0, *(x.dirt for x in spec.layers))
    if dirt <= DIRTY:
        return
    clean = tuple(x.model_copy(update={"dirt": 1.0}) for x in spec.layers)
    changes = (Change((*spec.path, "layers"), clean), Change((*spec.path, "sponge_dirt"), 1.0))
    yield Finding(
        "filter-dirty",
        Rank.FIX,
        f"{spec.name} is clogged to {dirt:.0f} × its clean loss.",
        "Rinse it in old tank water; a clogged filter starves what lives in it.",
        spec.id,
        {},
        "Clean it",
        Edit(f"Clean {within(spec.name)}", changes),
        DIRTY - dirt,
    )


def filter_still(spec: Canister, site: Site, study: Study) -> Iterable[Finding]:
    """No flow at all."""
    solution = study.running
    flow = flow_of(spec, solution)
    if flow < 1e-9:
        yield Finding(
            "filter-still",
            Rank.STOP,
            f"Nothing flows through {within(spec.name)}.",
            "Its pump does not reach, or it draws air.",
            spec.id,
        )


def layer_order(spec: Canister, site: Site, study: Study) -> Iterable[Finding]:
    """A fine layer before a coarser one."""
    path = spec.path
    fine = [x.fineness >= FINE for x in spec.layers]
    order = [spec.layers[k] for k in spec.order]
    grades = [x.fineness for x in order if x.fineness]
    if grades != sorted(grades):
        layers = tuple(sorted(order, key=lambda x: (not x.fineness, x.fineness)))
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
    mass = max(lifts(spec, site))
    if mass > site.space.lift:
        yield Finding(
            "media-heavy",
            Rank.CONSIDER,
            "Wet, what is lifted out of it at once weighs {mass:mass}.",
            "Bags, or dividers between the layers, so that one person lifts each.",
            spec.id,
            {"mass": mass},
        )


def foam_pressed(spec: Canister, site: Site, study: Study) -> Iterable[Finding]:
    """Media that lies on foam or floss without a divider between."""
    for k, layer in enumerate(spec.layers):
        if not layer.fineness:
            continue
        over = 0.0
        for above in spec.layers[k + 1 :]:
            if above.divider:
                break
            over += _mass(spec, site, above) / spec.area
        if over <= PRESSES:
            continue
        first = next(i for i in range(k + 1, len(spec.layers)) if not spec.layers[i].fineness)
        yield Finding(
            "foam-pressed",
            Rank.CONSIDER,
            f"{{mass:mass}} of media lie on layer {k + 1}, which is soft.",
            "Pressed flat, foam and floss lose their pores and clog sooner: a divider on feet carries the media. From"
            " what weight on is an assumption.",
            spec.id,
            {"mass": over * spec.area},
            "Put a divider under it",
            Edit("Put in a divider", (Change((*spec.path, "layers", first, "divider"), True),)),
            PRESSES - over,
        )
        return


def under_tank(spec: Canister, site: Site) -> bool:
    """Whether it stands under its tank, and not beside it."""
    tank = site.tank
    middle = spec.offset + spec.diameter / 2
    return tank.offset < middle < tank.offset + tank.length and spec.stand < tank.stand


def too_high(spec: Canister, site: Site, study: Study) -> Iterable[Finding]:
    """No room for it, or for a hand, under its tank."""
    if not under_tank(spec, site):
        return
    room = site.tank.stand - spec.stand
    free = room - spec.height - BENDS
    if free < 0:
        low = math.floor((room - BENDS) * 100) / 100
        wide = math.ceil(spec.diameter * math.sqrt(spec.height / max(low, 0.01)) * 100) / 100
        made = low >= 0.12 and wide <= min(site.tank.inner_width, 1.0)
        changes = (
            Change((*spec.path, "height"), low),
            Change((*spec.path, "diameter"), wide),
            *scaled(spec, low / spec.height),
        )
        yield Finding(
            "canister-too-high",
            Rank.FIX,
            "It is {over:length} too high for the room under its tank.",
            "Vessel and hoses as they bend over its lid. A lower and wider one holds as much; or stand it beside.",
            spec.id,
            {"over": -free},
            "Lower and wider" if made else "",
            Edit("Lower and wider", changes) if made else None,
            free,
        )
    elif free < HAND:
        yield Finding(
            "canister-hand-room",
            Rank.CONSIDER,
            "Only {free:length} are left over its lid and hoses.",
            "Clamps want a hand, and layers are lifted out upwards: leave hoses long enough to pull it out in front.",
            spec.id,
            {"free": free},
            margin=free - HAND,
        )


def hose_lost(spec: Canister, site: Site, study: Study) -> Iterable[Finding]:
    """What a hose that slips off lets out of the tank."""
    state = study.try_situation("hose_off")
    if isinstance(state, Exception) or state.about != spec.id:
        return
    spilled = state.numbers["spilled"]
    share = spilled / study.running.volume[site.tank.id]
    if share <= MOST_LOST:
        return
    tank = site.tank
    higher = round(KEPT * (study.running.level[tank.id] - tank.floor), 2)
    able = higher > spec.intake
    changes = [Change((*spec.path, "intake"), higher)] if able else []
    if spec.outlet < higher:
        changes.append(Change((*spec.path, "outlet"), higher))
    way = "on its way back" if state.numbers["way"] else "on its way in"
    yield Finding(
        "hose-off-floods",
        Rank.CONSIDER,
        f"A hose that slips off {way} puts {{spilled:volume}} on the floor.",
        "The tank empties down to where air gets in: to its intake, with the pump running, or to the mouth of the hose"
        " back. A clamp on each barb; an intake that draws higher leaves more. A water alarm under it tells.",
        spec.id,
        {"spilled": spilled},
        "Let it draw higher" if changes else "",
        Edit("Draw higher", tuple(changes)) if changes else None,
        MOST_LOST - share,
    )


judge = judged_by(
    shared,
    filter_still,
    layer_order,
    media_bypassed,
    foam_pressed,
    hose_folds,
    flow_half,
    media_heavy,
    too_high,
    hose_lost,
)
