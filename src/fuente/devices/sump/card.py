"""Rows and cards of a sump's chambers."""

from __future__ import annotations

from dataclasses import replace

from fuente.devices.base import Path, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.site import Site
from fuente.devices.sump import stack
from fuente.devices.sump.air import air_of, wish
from fuente.devices.sump.chambers import commands
from fuente.devices.sump.choices import chamber_choices, outside_choices
from fuente.devices.sump.network import fill_height
from fuente.devices.sump.spec import ROLE_NAMES, Chamber, Sump, cell_ids
from fuente.devices.warm_shown import warm_readings
from fuente.network.model import Solution

_GLYPHS = {
    "inlet": "settle",
    "socks": "sock",
    "foam": "pad",
    "media": "media",
    "moving_bed": "carrier",
    "plants": "plant",
    "heater": "heater",
    "trap": "trap",
    "clean_out": "baffle",
    "pump": "pump",
}


def card(sump: Sump, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """One station a chamber."""
    dry = study.peek("evaporated")  # of a large system it is solved aside, and the row follows then
    days = float("inf") if dry is None or isinstance(dry, Exception) else dry.numbers["days"]
    flow, path = study.through(solution, sump.id), sump.path
    where = (*path, "chambers")
    rows = tuple(
        _station(sump, site, study, i, solution, (*where, i), path, flow, days) for i in range(len(sump.chambers))
    )
    if sum(d.kind == sump.kind for d in site.devices.values()) > 1:
        rows = tuple(replace(s, note=s.note or sump.name) for s in rows)
    return rows


def pad_drop(sump: Sump, chamber: Chamber, solution: Solution) -> float:
    """Level difference in m from before to behind a chamber's pads, socks or bed."""
    cells = cell_ids(sump, chamber)
    return solution.level[cells[0]] - solution.level[cells[-1]]


def pad_room(sump: Sump, chamber: Chamber, solution: Solution) -> float:
    """Drop in m at which water would go over the pads or the socks' plate."""
    behind = solution.level[cell_ids(sump, chamber)[-1]] - sump.floor
    if chamber.lies:
        return max(stack.plate_top(sump, chamber) - behind, 0.001)
    if chamber.role == "socks" and chamber.socks:
        return max(chamber.socks.plate - behind, 0.001)
    if chamber.role == "foam":
        return max(min(p.height for p in chamber.pads) - behind, 0.001)
    return max(fill_height(sump, chamber, _width(sump, chamber)) - behind, 0.001)


def pad_steps(sump: Sump, site: Site, chamber: Chamber, solution: Solution) -> list[tuple[float, float]]:
    """What each pad takes of the level in m, in the water's order, and the m at which it is gone round."""
    cells = cell_ids(sump, chamber)
    if not chamber.lies:
        levels = [solution.level[c] for c in cells]
        return [
            (max(a - b, 0.0), max(pad.height - (b - sump.floor), 0.001))
            for pad, a, b in zip(chamber.pads, levels[:-1], levels[1:], strict=True)
        ]
    flow = solution.flow.get(f"{sump.id}.{chamber.id}.lying", 0.0)
    pads, _ = stack.losses(sump, chamber, _width(sump, chamber), site)
    room = pad_room(sump, chamber, solution)
    return [(loss.loss(flow) * pad.dirt, room) for pad, loss in zip(chamber.pads, pads, strict=True)]


def _width(sump: Sump, chamber: Chamber) -> float:
    return sump.widths()[[c.id for c in sump.chambers].index(chamber.id)]


def slow_speed(sump: Sump, chamber: Chamber, flow: float) -> float:
    """Vertical speed in m/s: down the first half of a trap, or through a plain chamber's plan."""
    width = _width(sump, chamber)
    if chamber.role == "trap" and chamber.under:
        width = (width - chamber.under.thickness) / 2
    return flow / (width * sump.inner_width)


def bed_share(sump: Sump, chamber: Chamber) -> float:
    """Media's bulk over the chamber's water up to its exit crest."""
    if not chamber.fill or not chamber.exit:
        return 0.0
    return chamber.fill.volume / (_width(sump, chamber) * sump.inner_width * chamber.exit.top)


def _headline(
    sump: Sump, chamber: Chamber, solution: Solution, flow: float, dry: float
) -> tuple[str, dict[str, float], float | None]:
    volume = sum(solution.volume[c] for c in cell_ids(sump, chamber))
    if chamber.role in ("foam", "socks") or (chamber.lies and chamber.pads):
        drop, room = pad_drop(sump, chamber, solution), pad_room(sump, chamber, solution)
        start = ""
        if chamber.role == "socks" and chamber.socks:
            start = f"{chamber.socks.count} × {{{chamber.socks.micron:g}:micron}}, "
        return start + "{drop:level} drop of {room:level}", {"drop": drop, "room": room}, min(1.0, drop / room)
    if chamber.role == "moving_bed" and chamber.fill:
        return (
            "{fill:volume} carriers, {share:fraction} full",
            {"fill": chamber.fill.volume, "share": bed_share(sump, chamber)},
            min(1.0, bed_share(sump, chamber)),
        )
    if chamber.role == "media" and chamber.fill:
        return (
            "{fill:volume} of media, {drop:level} drop",
            {
                "fill": chamber.fill.volume,
                "drop": pad_drop(sump, chamber, solution),
            },
            None,
        )
    if chamber.role == "trap":
        speed = slow_speed(sump, chamber, flow)
        clears = min((speed / 0.03) ** 0.5 * 0.3, 5.0) if speed > 0 else 0.0
        return "down {speed:speed}, clears {size:fine_length}", {"speed": speed, "size": clears / 1000}, None
    if chamber.role == "pump":
        cell = cell_ids(sump, chamber)[0]
        used = 1 - (solution.depth(cell) - chamber.intake) / max(sump.inner_height - chamber.intake, 0.01)
        words = "{volume:volume}, dry in {days:days}" if dry < 1e9 else "{volume:volume}"
        return words, {"volume": volume, "days": dry}, min(max(used, 0.0), 1.0)
    return (
        "{volume:volume}, stands {depth:level}",
        {
            "volume": volume,
            "depth": solution.depth(cell_ids(sump, chamber)[-1]),
        },
        None,
    )


def _station(
    sump: Sump,
    site: Site,
    study: Study,
    index: int,
    solution: Solution,
    where: Path,
    sump_path: Path,
    flow: float,
    dry: float,
) -> Station:
    chamber = sump.chambers[index]
    cells = cell_ids(sump, chamber)
    headline, values, used = _headline(sump, chamber, solution, flow, dry)
    volume = sum(solution.volume[c] for c in cells)
    last = index == len(sump.chambers) - 1
    return Station(
        f"{sump.id}.{chamber.id}",
        chamber.title,
        headline,
        values,
        used=used,
        note=ROLE_NAMES[chamber.role] if chamber.name else "",
        glyph=_GLYPHS[chamber.role],
        cells=cells,
        big=(Reading("of water", volume, "volume"), Reading("under the rim", solution.freeboard(cells[-1]), "level")),
        choices=(*chamber_choices(site, chamber, where), *(outside_choices(sump, sump_path) if last else ())),
        readings=(
            *_chamber_readings(sump, site, index, solution, flow),
            *(warm_readings(study, cells[-1]) if chamber.heaters and chamber.heater_watts else ()),
            *(_holds(sump, site, study, solution) if chamber.role == "pump" else ()),
        ),
        why=_why(chamber, solution, cells),
        commands=lambda: commands(sump, index, sump_path, flow),
    )


_STILL = 1e-5  # m of a step under which the water stands: none of the pads is then due before another
ONE_WATER = 0.003  # m within which cells stand as one water after a power cut
BELOW_CREST = 0.005  # m that a mark keeps under the last crest: above it every chamber rises with the pump's


def highest_mark(sump: Sump, site: Site, study: Study) -> float | None:
    """The mark in m over the floor at which a power cut leaves just the margin that is wanted, with tight check valves.

    What the sump can take more after a power cut, up to the margin and as far as the chambers are open to each other at
    that height, is put into the pump chamber as it runs. None where nothing can run, or nothing is known yet. On random
    sumps within 1 mm where one stands alone, ±5 mm where several are joined.
    """
    case = study.known("power_cut")  # a card never makes the eye wait for it
    pump = sump.chambers[-1]
    if case is None or isinstance(case, Exception) or pump.role != "pump":
        return None
    cut, running = case.solution, study.running
    stands = cut.level[cell_ids(sump, pump)[-1]]
    filled = {c.id for c in cut.network.cells if not c.sink and abs(cut.level[c.id] - stands) < ONE_WATER}
    least = min(cut.network.cell(key).rim - stands for key in filled)
    top = stands + least - site.space.margin  # where the first of these has just its margin
    for chamber, before in zip(reversed(sump.chambers), (*reversed(sump.chambers[:-1]), None), strict=True):
        filled.update(cell_ids(sump, chamber))
        if before is None or before.exit is None or sump.floor + before.exit.top > top:
            break  # what stands behind a higher crest is a water of its own
    more = 0.0
    for key in filled:
        curve = cut.network.cell(key).curve
        if top > stands:
            more += curve.volume(max(top, cut.level[key])) - curve.volume(cut.level[key])
        else:
            more += curve.volume(min(top, cut.level[key])) - curve.volume(cut.level[key])
    cell = cell_ids(sump, pump)[-1]
    curve = running.network.cell(cell).curve
    mark = max(curve.level(max(running.volume[cell] + more, 0.0)) - sump.floor, 0.0)
    crest = sump.chambers[-2].exit if len(sump.chambers) > 1 else None
    return min(mark, crest.top - BELOW_CREST) if crest is not None else mark


def _holds(sump: Sump, site: Site, study: Study, solution: Solution) -> list[Reading]:
    """How high it may be filled, and what the whole system holds."""
    mark = highest_mark(sump, site, study)
    found = []
    if mark is None:
        found.append(Reading("Highest safe mark", "…", "", "It comes when the power cut is solved."))
    else:
        why = (
            f"A power cut then leaves the {{{site.space.margin:g}:length}} under the rim that you want, with tight"
            " check valves. What comes down needs this room."
        )
        sure = "±{0.005:length}"
        found.append(Reading("Highest safe mark", mark, "level", why, "levels after a power cut", sure))
    cells = (c for c in solution.network.cells if not c.sink)
    whole = sum(solution.volume[c.id] for c in cells) + sum(solution.held.values())
    why = "Every tank, vessel and box with the water in pipes, as it stands."
    found.append(Reading("Water in the whole system", whole, "volume", why, "your sizes and marks", "±2 %"))
    return found


def _chamber_readings(sump: Sump, site: Site, index: int, solution: Solution, flow: float) -> list[Reading]:
    """How the water stands and moves in it, and what its media are."""
    chamber = sump.chambers[index]
    cell = cell_ids(sump, chamber)[-1]
    readings = [
        Reading("Stands", solution.depth(cell), "level", "Water over the chamber's floor."),
        Reading("Along the sump", sump.widths()[index], "length", "Inside, between the baffles."),
        Reading("Up or down through it", slow_speed(sump, chamber, flow), "speed", "Flow by the chamber's plan area."),
    ]
    if chamber.exit:
        over = max(solution.level[cell] - sump.floor - chamber.exit.top, 0.0)
        readings.append(Reading("Over its crest", over, "level", "The sheet over the baffle."))
    if chamber.pads and chamber.role in ("foam", "media"):
        readings += _steps(sump, site, chamber, solution)
    if f"{sump.id}.{chamber.id}" in site.drops or chamber.role == "moving_bed":
        want = wish(sump, chamber, sump.widths()[index], site)
        why = "{8.33333e-06:air_flow:bare} to {5e-05:air_flow} for each litre of carriers, by your rule; a chamber"
        why += " without carriers {8.33333e-07:air_flow} for each litre of water, an assumption."
        readings += [
            Reading("Air it gets", air_of(sump, chamber, solution), "air_flow", "From the air pump's network."),
            Reading("Air that it wants", want, "air_flow", why),
        ]
    if chamber.fill and chamber.fill.volume > 0:
        stuff = site.medium(chamber.fill.medium)
        surface, wet = stuff.surface * chamber.fill.volume, chamber.fill.volume * stuff.wet_density()
        readings += [
            Reading("Outer surface", surface, "area", "Litres by typical surface.", "typical", "±20 %"),
            Reading("Weighs wet", wet, "mass", "Drained, still dripping."),
        ]
    return readings


def _steps(sump: Sump, site: Site, chamber: Chamber, solution: Solution) -> list[Reading]:
    """Each pad's own step in the level, and which is due first."""
    steps = pad_steps(sump, site, chamber, solution)
    if len(steps) < 2:
        return []
    why = "The level before it less the level behind it: its gauge. Write it down."
    found = [
        Reading(f"Pad {k + 1}, {pad.ppi:g} ppi, takes", step, "fine_length", why, "Darcy–Forchheimer", "±30 %")
        for k, (pad, (step, _)) in enumerate(zip(chamber.pads, steps, strict=True))
    ]
    first = max(range(len(steps)), key=lambda k: steps[k][0] / steps[k][1])
    if steps[first][0] < _STILL:
        return found
    share = steps[first][0] / steps[first][1]
    found.append(
        Reading(
            "Due first",
            f"pad {first + 1}",
            "",
            f"It takes {100 * share:.0f} % of the height at which water goes round it, more than the others of theirs.",
        )
    )
    return found


def _why(chamber: Chamber, solution: Solution, cells: tuple[str, ...]) -> Reading:
    depth = solution.depth(cells[-1])
    if chamber.role == "pump":
        return Reading(
            "Why this level",
            depth,
            "length",
            "You marked it: the running level here says how much water the system holds. Everything upstream stands at"
            " its crest, so evaporation shows only here, and what comes down in a power cut arrives here.",
            "your mark",
            "exact",
        )
    if chamber.role in ("foam", "socks"):
        return Reading(
            "Why this drop",
            solution.level[cells[0]] - solution.level[cells[-1]],
            "length",
            "Water pushes through pores: head = thickness · (μv/K + ρCv²), with the wetted face as its area and the"
            " loss multiplied by the dirt you set. Behind it the level is the next crest plus its sheet.",
            "Darcy–Forchheimer; typical permeability of open foam and felt",
            "±30 % clean; dirt is what you measure",
        )
    return Reading(
        "Why this level",
        depth,
        "length",
        "The exit's crest plus the sheet that this flow needs over it; the next chamber's water, where it stands above"
        " the crest, holds it higher.",
        "Kindsvater and Carter 1957; Villemonte 1947; sluice 0.65 under gaps",
        "±{0.001:fine_length} in a thin sheet",
    )
