"""Panels, pads, socks and media of a sump, in the order in which it is built."""

from __future__ import annotations

from dataclasses import replace

from fuente.catalogue import medium
from fuente.devices.base import Panel, Part, Parts
from fuente.devices.contract import Site
from fuente.devices.sump.spec import Baffle, Chamber, Sump
from fuente.network.model import Solution
from fuente.structure.plates import PlateResult, bottom, wall

GLUE = 0.001  # m, a bed of silicone between panels
SIDE = 0.001  # m, clearance at each side of a baffle
SQUEEZE = 0.005  # m that a pad is wider than its chamber


def wall_check(sump: Sump) -> PlateResult:
    """The long wall, brim full."""
    return wall(sump.inner_length, sump.inner_height, sump.thickness, material=sump.material, braced=sump.braced)


def bottom_check(sump: Sump) -> PlateResult:
    """The bottom on its edges or on a full bed, brim full."""
    return bottom(
        sump.inner_length,
        sump.inner_width,
        sump.inner_height,
        sump.bottom,
        material=sump.material,
        full_bed=sump.full_bed,
    )


def baffle_check(sump: Sump, baffle: Baffle) -> PlateResult:
    """A baffle with water to its crest on one side and none on the other, three edges bonded."""
    height = max(baffle.top - baffle.gap, 0.02)
    return wall(sump.inner_width, height, baffle.thickness, material=baffle.material)


def parts(sump: Sump, site: Site, solution: Solution) -> Parts:
    """Everything to order and cut."""
    panels = [*_drilled(sump, site, _shell(sump))]
    things: list[Part] = []
    for chamber in sump.chambers:
        panels += _baffles(sump, chamber)
        things += _contents(sump, chamber, site.space.lift)
    cautions = [
        (
            "Glass cutting and drilling: goggles, gloves, water on the bit. Order panels cut with ground edges."
            " Tempered glass shatters when drilled."
        ),
        "Silicone and solvents: ventilation, gloves, no flame. Let every joint cure fully before water.",
        "Lifting: wet media and glass; two people above about 20 kg.",
        "Structural results are estimates for planning, not an engineer's certificate.",
    ]
    if any(c.heaters for c in sump.chambers):
        cautions.append(
            "Electricity near water: residual-current protection, drip loops; local codes and a licensed electrician"
            " decide."
        )
    return Parts(_named(sump, site, tuple(panels)), tuple(things), tuple(cautions))


def _named(sump: Sump, site: Site, panels: tuple[Panel, ...]) -> tuple[Panel, ...]:
    """With several sumps, each panel says whose it is."""
    if sum(d.kind == sump.kind for d in site.devices.values()) < 2:
        return panels
    return tuple(replace(p, name=f"{sump.name}: {p.name[:1].lower()}{p.name[1:]}") for p in panels)


def _drilled(sump: Sump, site: Site, panels: tuple[Panel, ...]) -> list[Panel]:
    """The end panels with the holes of the lines that join it to others; a drilled end is ordered apart
    from the other.
    """
    holes: dict[str, list[tuple[float, float, float, str]]] = {}
    for device in site.devices.values():
        for side, height, saw, count in device.drills(site, sump.id):
            across = sump.inner_width / (count + 1)
            holes.setdefault(side, []).extend((across * (i + 1), height, saw, "") for i in range(count))
    found: list[Panel] = []
    for panel in panels:
        if panel.id != f"{sump.id}.end" or not holes:
            found.append(panel)
            continue
        if len(holes) == 1:
            found.append(replace(panel, name="End", count=1))
        for end in sorted(holes):
            where = tuple(holes[end])
            note = f"{panel.note}; {len(where)} holes of {where[0][2] * 1000:.0f} mm, seen from outside"
            found.append(
                replace(panel, id=f"{panel.id}.{end}", name=f"End, {end}, drilled", count=1, holes=where, note=note)
            )
    return found


def _shell(sump: Sump) -> tuple[Panel, ...]:
    t, m = sump.thickness, sump.material
    height = sump.height - sump.bottom - GLUE
    strength, base = wall_check(sump), bottom_check(sump)
    return (
        Panel(
            f"{sump.id}.bottom",
            "Bottom",
            sump.length,
            sump.width,
            sump.bottom,
            m,
            1,
            note="full bed" if sump.full_bed else "on its edges",
            safety=base.safety,
            needed=base.needed,
        ),
        Panel(
            f"{sump.id}.long",
            "Front and back",
            sump.length,
            height,
            t,
            m,
            2,
            note="stand on the bottom",
            safety=strength.safety,
            needed=strength.needed,
        ),
        Panel(
            f"{sump.id}.end",
            "Ends",
            sump.width - 2 * t - 2 * GLUE,
            height,
            t,
            m,
            2,
            note="between front and back",
            safety=strength.safety,
            needed=strength.needed,
        ),
    )


def _baffles(sump: Sump, chamber: Chamber) -> list[Panel]:
    found = []
    for field, name in (
        ("under", f"Under-baffle of {chamber.title.lower()}"),
        ("exit", f"Baffle after {chamber.title.lower()}"),
    ):
        baffle: Baffle | None = getattr(chamber, field)
        if baffle is None:
            continue
        check = baffle_check(sump, baffle)
        bonded = baffle.gap <= 0
        height = baffle.top - (GLUE if bonded else baffle.gap)
        note = "bonded to the floor" if bonded else f"{baffle.gap * 1000:.0f} mm spacer under it"
        if baffle.teeth:
            note += f"; teeth, {baffle.tooth_gap * 1000:.0f} mm slots"
        if baffle.notch:
            note += f"; crest notched {baffle.notch * 1000:.0f} mm wide"
        found.append(
            Panel(
                f"{sump.id}.{chamber.id}.{field}",
                name,
                sump.inner_width - 2 * SIDE,
                height,
                baffle.thickness,
                baffle.material,
                1,
                note=note,
                safety=check.safety,
                needed=check.needed,
            )
        )
    if chamber.role == "socks" and chamber.socks:
        width = sump.widths()[[c.id for c in sump.chambers].index(chamber.id)]
        length = sump.inner_width - 2 * SIDE
        socks = chamber.socks
        step = length / socks.count
        saw = socks.diameter
        holes = tuple((step * (k + 0.5), (width - 2 * SIDE) / 2, saw, "sock ring") for k in range(socks.count))
        clash = step - saw < 0.012 or width - 2 * SIDE - saw < 0.012
        found.append(
            Panel(
                f"{sump.id}.{chamber.id}.plate",
                "Sock plate",
                length,
                width - 2 * SIDE,
                0.006,
                "acrylic",
                1,
                holes,
                note="rings do not fit: make the chamber longer" if clash else "rests on two ledges",
            )
        )
    return found


def _contents(sump: Sump, chamber: Chamber, lift: float) -> list[Part]:
    """Pads, socks, media and heaters; lift kg is the heaviest bag."""
    found: list[Part] = []
    for k, pad in enumerate(chamber.pads):
        found.append(
            Part(
                f"{sump.id}.{chamber.id}.pad.{k}",
                f"Foam pad, {pad.ppi:g} ppi",
                1,
                "piece",
                "Pads and socks",
                "{w:length:bare} × {h:length:bare} × {t:length}",
                "cut 5 mm wide for a squeeze fit",
                {"w": sump.inner_width + SQUEEZE, "h": pad.height, "t": pad.thickness},
            )
        )
    if chamber.role == "socks" and chamber.socks:
        socks = chamber.socks
        found.append(
            Part(
                f"{sump.id}.{chamber.id}.socks",
                f"Filter sock, {socks.micron * 1e6:.0f} µm",
                socks.count,
                "piece",
                "Pads and socks",
                "{d:length} across, {l:length} long",
                "buy twice as many: one set dries while the other works",
                {"d": socks.diameter, "l": socks.length},
            )
        )
    if chamber.fill and chamber.fill.volume > 0:
        stuff = medium(chamber.fill.medium)
        mass = chamber.fill.volume * stuff.wet_density()
        note = ""
        if chamber.fill.held == "bags" and mass > lift:
            note = f"in {-(-mass // lift):.0f} bags"
        found.append(
            Part(
                f"{sump.id}.{chamber.id}.media",
                stuff.name,
                chamber.fill.volume * 1000,
                "L",
                "Media",
                "{v:volume}, {m:mass} wet",
                note,
                {"v": chamber.fill.volume, "m": mass},
            )
        )
    if chamber.heaters:
        found.append(
            Part(
                f"{sump.id}.{chamber.id}.heaters",
                f"Heater, {chamber.heater_watts:.0f} W",
                chamber.heaters,
                "piece",
                "Equipment",
                "",
                f"in {chamber.title.lower()}",
            )
        )
    return found
