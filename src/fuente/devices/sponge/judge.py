"""What Fuente would change of a sponge or box."""

from __future__ import annotations

from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.contract import Study
from fuente.devices.filtering import Site
from fuente.devices.pocket import flow_of
from fuente.devices.pocket_shown import judge_pocket
from fuente.devices.sponge.spec import Sponge
from fuente.life.load import foam_surface
from fuente.one_line import within

GENTLE = 4e-3  # m/s through the outer face, under which fry and shrimp are not held on it; an assumption


def surface(spec: Sponge, site: Site) -> float:
    """Living surface, m²."""
    if spec.style == "sponge":
        return spec.block * foam_surface(spec.ppi)
    core = site.ruled(spec).surface == "core"
    mat = foam_surface(spec.ppi) * spec.length * spec.width * spec.mat if spec.matted and spec.top == "foam" else 0.0
    return mat + sum(volume * site.medium(key).living(core) for key, volume in spec.filling)


def grow(spec: Sponge, site: Site, factor: float) -> Edit | None:
    """A longer block, as far as the tank goes."""
    path = spec.path
    longer = round(spec.length * factor + 0.005, 2)
    if spec.at + longer > site.tank.inner_length or longer > 2.0:
        return None
    return Edit(f"Lengthen {within(spec.name)}", (Change((*path, "length"), longer),))


def _larger(spec: Sponge, factor: float, path: Path) -> Edit:
    """A block whose faces are so much larger; a little more, as water then passes it more easily."""
    grow = 1.25 * factor
    sizes = {
        name: round(min(getattr(spec, name) * grow + 0.005, most), 2)
        for name, most in (("length", 2.0), ("width", 2.0))
    }
    return Edit("Enlarge block", tuple(Change((*path, name), value) for name, value in sizes.items()))


def judge(spec: Sponge, site: Site, study: Study) -> tuple[Finding, ...]:
    """Size against load, speed at its face, room in the tank."""
    solution, path = study.running, spec.path
    found = list(judge_pocket(spec, site, solution, path))
    speed = flow_of(spec, solution) / spec.face
    if speed > GENTLE:
        found.append(
            Finding(
                "face-fast",
                Rank.CONSIDER,
                "Water enters {name} at {speed:slow_speed}.".replace("{name}", within(spec.name)),
                "Slower water does not hold small animals on it, and the block clogs less soon. Take a larger block or"
                " less air.",
                spec.id,
                {"speed": speed},
                "Larger block",
                _larger(spec, speed / GENTLE, path),
            )
        )
    fine = [k for k, (key, _) in enumerate(spec.filling) if site.medium(key).size < 0.003]
    if spec.style == "box" and fine and not spec.matted:
        where = (*path, "bags", fine[0], "medium") if spec.bags else (*path, "medium")
        found.append(
            Finding(
                "box-fine",
                Rank.FIX,
                "The box's media is finer than any slot that can be cut.",
                "Take media from {0.003:length} on, or line the box with foam.",
                spec.id,
                {},
                "Coarser media",
                Edit("Coarser media", (Change(where, "ring"),)),
            )
        )
    if spec.height > solution.level[site.tank.id] - site.tank.floor:
        found.append(
            Finding(
                "block-high",
                Rank.FIX,
                f"{spec.name} stands out of the water.",
                "What is dry neither filters nor lives.",
                spec.id,
                {},
                "Cut it lower",
                Edit(
                    "Cut block lower",
                    (Change((*path, "height"), round(0.8 * (solution.level[site.tank.id] - site.tank.floor), 2)),),
                ),
            )
        )
    return tuple(found)
