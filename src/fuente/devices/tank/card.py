"""A tank's row and card."""

from __future__ import annotations

from fuente.devices.base import Choice, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.homes import TEMPERED
from fuente.devices.site import Site
from fuente.devices.tank.parts import USUAL, wall_check
from fuente.devices.tank.spec import Tank
from fuente.devices.warm_shown import warm_readings
from fuente.life.load import ammonia_made
from fuente.life.plants import GROUPS, LIGHTS, breathed_in_the_dark, given_by_day, plant_uptake
from fuente.network.model import Solution
from fuente.structure.framed import WIDE, batten_depth
from fuente.structure.plates import MATERIALS, PlateResult
from fuente.structure.vessels import wet_weight


def _plants(tank: Tank) -> tuple[Reading, ...]:
    """What its plants take and give."""
    takes = plant_uptake(tank.planted, tank.plants, tank.light)
    if takes <= 0:
        return ()
    gives = given_by_day(tank.plants)
    why = (
        "What comes into the water while there is light, over a day's mean."
        if gives > 0
        else "Leaves in air give their oxygen to the air."
    )
    sure = "a factor of two"
    return (
        Reading("Nitrogen that plants take", takes, "feed", "By their group and light, while they grow.", "typical"),
        Reading("Oxygen from plants by day", gives * takes, "feed", why, "10 kg of carbon a kg of nitrogen", sure),
        Reading(
            "Oxygen that plants use",
            breathed_in_the_dark(takes),
            "feed",
            "By day and night alike. The feed that is carried is worked out by night, when they give nothing.",
            "three tenths of what they bind",
            sure,
        ),
    )


def _load(tank: Tank) -> tuple[Reading, ...]:
    """What the feed makes, where it is known."""
    if tank.fed <= 0:
        return ()
    return (
        *_weight(tank),
        Reading(
            "Ammonia made",
            ammonia_made(tank.fed, tank.protein),
            "feed",
            "Nitrogen as ammonia: feed × protein × 0.092.",
            "Timmons and Ebeling",
            "±20 %",
        ),
    )


def _weight(tank: Tank) -> tuple[Reading, ...]:
    if not tank.heads or tank.feed > 0:
        return ()
    return (
        Reading(
            "Feed by the stock",
            tank.fed,
            "feed",
            "Number × length³ × {12.5:density} × what is fed a day. Enter the feed where you know it.",
            "an assumption",
            "±50 %",
        ),
    )


_DRAINED = (
    "Inside length × width less the overflow box, times the water's depth, less the solids of gravel and rock. "
    "The water stands at the overflow's crest plus what the weir needs at this flow."
)
_UNDRAINED = (
    "Inside length × width times the water's depth, less gravel, rock and what filters in it fill. Nothing drains it:"
    " the water stands where you say."
)


def card(tank: Tank, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """The tank as a station, with what passes it."""
    path = tank.path
    flow = study.moved(solution, tank.id)
    drained = any(source == tank.id for d in site.devices.values() for source, _ in d.falls())
    volume = solution.volume[tank.id]
    depth = solution.depth(tank.id)
    check = wall_check(tank, site.shop)
    where = (*path, "level")
    undrained = () if drained else (Choice(where, "Water above the tank's floor", "length", depth, step=0.005),)

    return (
        Station(
            tank.id,
            tank.name,
            "{volume:volume} of water, stands {depth:level}",
            {"volume": volume, "depth": depth},
            note=tank.stock,
            glyph="tank",
            cells=(tank.id,),
            big=(
                Reading("of water", volume, "volume"),
                Reading("under the rim", solution.freeboard(tank.id), "level"),
            ),
            choices=_choices(tank, undrained),
            readings=(
                *_readings(tank, volume, flow, check),
                *(warm_readings(study, tank.id) if tank.heaters and tank.heater_watts else ()),
            ),
            why=Reading(
                "Why this volume",
                volume,
                "volume",
                _DRAINED if drained else _UNDRAINED,
                "your sizes, and the weir formula" if drained else "your sizes and mark",
                "1 % where the sizes are right",
            ),
        ),
    )


def _choices(tank: Tank, undrained: tuple[Choice, ...]) -> tuple[Choice, ...]:
    """What the builder decides of it."""
    path = tank.path

    def choice(field: str, label: str, quantity: str, fold: bool = False, step: float | None = None) -> Choice:
        return Choice((*path, field), label, quantity, getattr(tank, field), step=step, fold=fold)

    return (
        *undrained,
        choice("length", "Length outside", "length"),
        choice("width", "Width outside", "length"),
        choice("height", "Height outside", "length"),
        choice("stand", "Underside above the floor", "length"),
        choice("gravel", "Gravel and rock", "volume", step=0.001),
        choice("temperature", "Water temperature", "temperature"),
        choice("cover", "Covered share", "fraction", step=0.05),
        choice("feed", "Feed", "feed", step=0.1e-3 / 86400),
        choice("protein", "Protein in it", "fraction", True, 0.05),
        choice("heads", "Animals, where the feed is not known", "count", True),
        choice("body", "Length of each", "length", True, 0.005),
        choice("ration", "Fed a day, of their weight", "percent", True, 0.005),
        choice("planted", "Planted area", "area", True, 0.05),
        Choice((*path, "plants"), "Plants", "choice", tank.plants, tuple(GROUPS.items()), fold=True),
        Choice((*path, "light"), "Light on them", "choice", tank.light, tuple(LIGHTS.items()), fold=True),
        choice("heaters", "Heaters in it", "count", True),
        choice("heater_watts", "Each heater", "power", True),
        choice("thickness", "Wall thickness", "length", True, 0.001),
        choice("bottom", "Bottom thickness", "length", True, 0.001),
        Choice(
            (*path, "full_bed"),
            "Bottom lies on",
            "choice",
            tank.full_bed,
            ((True, "a full bed"), (False, "its edges")),
            fold=True,
        ),
        Choice(
            (*path, "braced"),
            "Top edges",
            "choice",
            tank.braced,
            ((False, "free"), (True, "braced")),
            fold=True,
        ),
        choice("strip", "Strips along the rim, wide", "length", True, 0.01),
        Choice((*path, "tempered"), "Tempered glass", "choice", tank.tempered, tuple(TEMPERED.items()), fold=True),
        Choice(
            (*path, "material"),
            "Made of",
            "choice",
            tank.material,
            (("glass", "glass"), ("acrylic", "acrylic"), ("plywood", "plywood, lined or coated")),
            fold=True,
        ),
        *((choice("battens", "Upright battens, apart", "length", True, 0.05),) if tank.material == "plywood" else ()),
        Choice((*path, "name"), "Name", "text", tank.name, fold=True),
        Choice((*path, "stock"), "Who lives there", "text", tank.stock, fold=True),
        Choice(
            (*path, "apart"),
            "Water",
            "choice",
            tank.apart,
            ((False, "may be shared"), (True, "its own")),
            fold=True,
        ),
    )


def _readings(tank: Tank, volume: float, flow: float, check: PlateResult) -> tuple[Reading, ...]:
    """Its water, its weight, its walls."""
    return (
        Reading("Turnover", flow / volume if volume else 0.0, "per_hour", "Flow over the pump by the tank's water."),
        *_load(tank),
        *_plants(tank),
        _full(tank, volume),
        _walls(tank, check),
        *_framed(tank),
    )


def _full(tank: Tank, volume: float) -> Reading:
    """What it weighs full, on a leg and on the floor."""
    depth = volume / (tank.inner_length * tank.inner_width)
    made = wet_weight(
        tank.length, tank.width, depth, tank.thickness, height=tank.height, material=tank.material, legs=4
    )
    bed = tank.gravel * 2600.0
    total = made.water + made.glass + bed
    why = (
        f"Water, walls and what lies in it; its stand comes on top. On four legs the one that bears most takes"
        f" {{{1.5 * total / 4:g}:mass}}, on the floor it is {total / (tank.length * tank.width):.0f} kg on each m²."
        " A floor is judged by a structural engineer."
    )
    return Reading("Weighs full", total, "mass", why, "volumes by density; gravel 2 600 kg/m³", "±5 %")


def _framed(tank: Tank) -> tuple[Reading, ...]:
    """What stands behind its plywood."""
    if not tank.framed:
        return ()
    deep = batten_depth(tank.inner_height, tank.battens, tank.braced)
    held = "held at foot and rim" if tank.braced else "held at the foot alone: a rail along the rim makes them thinner"
    why = (
        f"Softwood {{{WIDE:g}:length}} wide, {held}; 8 MPa and a bow of 1/250. Have someone who builds such tanks look"
        " at its corners and joints before water: they are not computed."
    )
    return (Reading("Battens at least, deep", deep, "length", why, "beams under a triangular load", "±30 %"),)


def _walls(tank: Tank, check: PlateResult) -> Reading:
    if tank.material == "plywood":
        return Reading(
            "Wall safety",
            f"{check.safety:.1f} of {MATERIALS[tank.material].safety:.1f}",
            "",
            "Strength over the stress in the board, full to the brim. Corners, joints, epoxy and liner are not"
            " computed: have someone who builds such tanks look at them before water.",
            "board from batten to batten" if tank.framed else "thin plate; softwood plywood of 24 MPa and 6 GPa",
            f"{USUAL[tank.material]}.",
        )
    return Reading(
        "Wall safety",
        f"{check.safety:.1f} of {MATERIALS[tank.material].safety:.1f}",
        "",
        "Strength over the stress in the long wall, full to the brim, and what it should be at least.",
        "thin plate by its principal moment, Lévy's series; "
        + ("glass {1.92e+07:pressure}" if tank.material == "glass" else "acrylic {5e+06:pressure} in the long run"),
        f"{USUAL[tank.material]}.",
    )
