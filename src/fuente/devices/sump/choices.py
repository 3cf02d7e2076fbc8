"""What can be decided of a sump's chambers, and of the sump itself."""

from __future__ import annotations

from fuente.devices.base import Choice, Path
from fuente.devices.filtering import choices_of, medium_choice
from fuente.devices.site import Site
from fuente.devices.sump.spec import Baffle, Chamber, Sump


def chamber_choices(site: Site, chamber: Chamber, where: Path) -> list[Choice]:
    """Its place, what is in it, the baffle that it ends at, its heaters."""
    baffle = chamber.exit
    if baffle is None:
        first = [
            Choice((*where, "level"), "Running level (mark)", "length", chamber.level, step=0.005),
            Choice((*where, "intake"), "Pump needs water to", "length", chamber.intake, step=0.005),
        ]
    else:
        first = [
            Choice((*where, "width"), "Chamber along the sump", "length", chamber.width),
            Choice((*where, "exit", "top"), "Crest above the floor", "length", baffle.top, step=0.001),
        ]
    return [
        *first,
        *_contents(site, chamber, where),
        *(_baffle_choices(baffle, (*where, "exit")) if baffle else ()),
        Choice((*where, "heaters"), "Heaters", "count", chamber.heaters, fold=True),
        Choice((*where, "heater_watts"), "Each heater", "power", chamber.heater_watts, fold=True),
        Choice((*where, "name"), "Name", "text", chamber.name, fold=True),
    ]


def _baffle_choices(baffle: Baffle, path: Path) -> list[Choice]:
    made_of = (("glass", "glass"), ("acrylic", "acrylic"))
    return [
        Choice((*path, "gap"), "Gap under the baffle", "length", baffle.gap, step=0.001, fold=True),
        Choice((*path, "teeth"), "Crest taken by teeth", "fraction", baffle.teeth, step=0.05, fold=True),
        Choice((*path, "tooth_gap"), "Slot between teeth", "length", baffle.tooth_gap, fold=True),
        Choice((*path, "notch"), "Notch width, 0 for none", "length", baffle.notch, fold=True),
        Choice((*path, "thickness"), "Baffle thickness", "length", baffle.thickness, step=0.001, fold=True),
        Choice((*path, "material"), "Baffle made of", "choice", baffle.material, made_of, fold=True),
    ]


def _contents(site: Site, chamber: Chamber, where: Path) -> list[Choice]:
    choices: list[Choice] = []
    for k, pad in enumerate(chamber.pads):
        base = (*where, "pads", k)
        choices.append(Choice((*base, "ppi"), f"Pad {k + 1}, pores per inch", "number", pad.ppi, step=5))
        choices.append(Choice((*base, "thickness"), f"Pad {k + 1}, thickness", "length", pad.thickness, step=0.005))
        if not chamber.lies:
            choices.append(Choice((*base, "height"), f"Pad {k + 1}, height", "length", pad.height, fold=True))
        does = ((False, "filters"), (True, "only holds others"))
        choices.append(Choice((*base, "holds"), f"Pad {k + 1} is one that", "choice", pad.holds, does, fold=True))
        choices.append(
            Choice((*base, "dirt"), f"Pad {k + 1}, clogging (× clean loss)", "number", pad.dirt, step=1, fold=True)
        )
    if chamber.role == "socks" and chamber.socks:
        base = (*where, "socks")
        socks = chamber.socks
        choices += [
            Choice((*base, "count"), "Socks", "count", socks.count),
            Choice((*base, "micron"), "Rating", "micron", socks.micron, step=25e-6),
            Choice((*base, "plate"), "Plate above the floor", "length", socks.plate),
            Choice((*base, "diameter"), "Sock diameter", "length", socks.diameter, fold=True),
            Choice((*base, "length"), "Sock length", "length", socks.length, fold=True),
            Choice((*base, "dirt"), "Clogging (× clean loss)", "number", socks.dirt, step=1, fold=True),
        ]
    if chamber.fill:
        base = (*where, "fill")
        carriers = chamber.role == "moving_bed"
        choices += [
            medium_choice(site, (*base, "medium"), chamber.fill.medium, ("carrier",) if carriers else ("loose",)),
            Choice(
                (*base, "volume"),
                "How much, in bulk",
                "volume",
                chamber.fill.volume,
                step=0.001,
                density=site.medium(chamber.fill.medium).dry,
            ),
        ]
        if not carriers:
            held = (("basket", "in a basket"), ("bags", "in bags"), ("loose", "loose"))
            choices.append(Choice((*base, "held"), "Held", "choice", chamber.fill.held, held))
    if chamber.role in ("foam", "media"):
        choices += choices_of(chamber, where, "way", "support" if chamber.lies else "")
    if chamber.under:
        base = (*where, "under")
        choices += [
            Choice((*base, "gap"), "Gap under the middle baffle", "length", chamber.under.gap, step=0.001),
            Choice((*base, "top"), "Top of the middle baffle", "length", chamber.under.top),
        ]
    return choices


def outside_choices(sump: Sump, path: Path) -> list[Choice]:
    def choice(field: str, label: str, step: float | None = None) -> Choice:
        return Choice((*path, field), label, "length", getattr(sump, field), step=step, fold=True)

    return [
        choice("length", "Sump length outside"),
        choice("width", "Sump width outside"),
        choice("height", "Sump height outside"),
        choice("thickness", "Sump wall", 0.001),
        choice("bottom", "Sump bottom", 0.001),
        choice("stand", "Sump above the floor"),
        choice("offset", "Sump from the tank's left"),
        choice("strip", "Strips along its rim, wide", 0.01),
        Choice(
            (*path, "braced"), "Its top edges", "choice", sump.braced, ((False, "free"), (True, "braced")), fold=True
        ),
        Choice(
            (*path, "material"),
            "Sump made of",
            "choice",
            sump.material,
            (("glass", "glass"), ("acrylic", "acrylic")),
            fold=True,
        ),
        Choice(
            (*path, "full_bed"),
            "Bottom lies on",
            "choice",
            sump.full_bed,
            ((True, "a full bed"), (False, "its edges")),
            fold=True,
        ),
    ]
