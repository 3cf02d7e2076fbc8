"""Flow in a sump: gaps, bubbles, splash."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.contract import Study
from fuente.devices.site import Site
from fuente.devices.sump.card import slow_speed
from fuente.devices.sump.spec import Baffle, Chamber, Sump, cell_ids
from fuente.one_line import within

BUBBLE_RISE = 0.03  # m/s, a bubble of 0.3 mm
FAST_GAP = 0.2  # m/s


def gaps(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """Narrow gaps under baffles."""
    flow = study.through(study.running, sump.id)
    for k, chamber in enumerate(sump.chambers):
        for field in ("under", "exit"):
            baffle: Baffle | None = getattr(chamber, field)
            if baffle is None or baffle.gap <= 0:
                continue
            speed = flow / (sump.inner_width * baffle.gap)
            if speed > FAST_GAP:
                gap = -(-flow / (sump.inner_width * 0.15) // 0.005) * 0.005
                path: Path = (*sump.path, "chambers", k, field, "gap")
                yield Finding(
                    "gap-fast",
                    Rank.FIX,
                    f"Water goes under the baffle of {within(chamber.title)} at {{speed:speed}}.",
                    "Fast water stirs up dirt and carries bubbles; {0.15:speed} is gentle.",
                    f"{sump.id}.{chamber.id}",
                    {"speed": speed},
                    "Widen gap",
                    Edit("Widen gap", (Change(path, round(gap, 3)),)) if gap < baffle.top - 0.01 else None,
                    FAST_GAP - speed,
                )


def bubbles(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """Bubbles carried to the pump."""
    flow = study.through(study.running, sump.id)
    traps = [c for c in sump.chambers if c.role == "trap"]
    if not traps:
        pump = sump.chambers[-1]
        speed = slow_speed(sump, pump, flow)
        if speed > BUBBLE_RISE:
            yield Finding(
                "no-trap",
                Rank.CONSIDER,
                "No bubble trap, and water sinks at {speed:speed} in the pump chamber: small bubbles go along.",
                "An over-under-over baffle before the pump, or slower water, lets them rise.",
                f"{sump.id}.{pump.id}",
                {"speed": speed},
            )
        return
    speed = min(slow_speed(sump, c, flow) for c in traps)
    if speed > 0.1:
        trap = min(traps, key=lambda c: slow_speed(sump, c, flow))
        k = [c.id for c in sump.chambers].index(trap.id)
        yield Finding(
            "trap-fast",
            Rank.FIX if speed > 0.2 else Rank.CONSIDER,
            "Water goes down the bubble trap at {speed:speed}; bubbles under {size:fine_length} go along.",
            "A bubble of {0.001:fine_length} rises at about {0.2:speed}, one of {0.0003:fine_length} at {0.03:speed}.",
            f"{sump.id}.{trap.id}",
            {"speed": speed, "size": 0.0003 * (speed / 0.03) ** 0.5},
            "Widen trap",
            _widen(sump, k, trap.width * (speed / 0.09)),
            0.1 - speed,
        )


def _widen(sump: Sump, chamber: int, width: float) -> Edit | None:
    spare = sump.widths()[-1] - 0.12
    wanted = min(width, sump.chambers[chamber].width + spare)
    if wanted <= sump.chambers[chamber].width + 0.004:
        return None
    path: Path = (*sump.path, "chambers", chamber, "width")
    return Edit("Widen trap", (Change(path, round(wanted, 3)),))


def falls(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """Splash where water falls far into the pump chamber."""
    if len(sump.chambers) < 2:
        return
    before: Chamber = sump.chambers[-2]
    if before.exit is None:
        return
    fall = sump.floor + before.exit.top - study.running.level[cell_ids(sump, sump.chambers[-1])[0]]
    if fall > 0.08:
        yield Finding(
            "splash",
            Rank.CONSIDER,
            "Water falls {fall:level} into the pump chamber and carries bubbles to the pump.",
            "A crest nearer to the running level, or a higher mark, is quieter; the mark also costs freeboard.",
            f"{sump.id}.{sump.chambers[-1].id}",
            {"fall": fall},
        )


RULES = (gaps, bubbles, falls)
