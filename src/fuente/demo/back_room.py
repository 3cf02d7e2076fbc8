"""The back-room rack: killifish in 24 tanks of 54 L on two joined sumps, one pump, one common drain."""

from __future__ import annotations

from fuente.devices.base import Change, Edit
from fuente.devices.join.spec import JoinSpec
from fuente.devices.recipes.racks import Rack, add_rack
from fuente.devices.site import Space
from fuente.devices.sump.spec import Baffle, Chamber, Fill, Pad, Sump
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply


def joined_sumps() -> System:
    """Two 1000 × 400 × 400 mm sumps joined by three 40 mm bulkheads, and one tank that a rack replaces."""
    first = Sump(
        id="settling",
        name="Settling sump",
        length=1.0,
        stand=0.08,
        offset=0.3,
        chambers=(
            Chamber(id="plants", role="plants", name="Watercress", width=0.42, exit=Baffle(top=0.30)),
            Chamber(
                id="foam",
                role="foam",
                width=0.2,
                pads=(
                    Pad(ppi=20, thickness=0.05, height=0.34, dirt=5),
                    Pad(ppi=30, thickness=0.05, height=0.34, dirt=6),
                ),
                exit=Baffle(top=0.27),
            ),
            Chamber(id="still", role="inlet", name="Still water", width=0.28, level=0.26),
        ),
    )
    second = Sump(
        id="pumping",
        name="Pump sump",
        length=1.0,
        stand=0.08,
        offset=1.62,
        chambers=(
            Chamber(
                id="bed",
                role="moving_bed",
                width=0.38,
                fill=Fill(medium="wheel_10", volume=0.022, held="loose"),
                exit=Baffle(top=0.245, teeth=0.4),
            ),
            Chamber(id="trap", role="trap", width=0.1, under=Baffle(top=0.31, gap=0.04), exit=Baffle(top=0.235)),
            Chamber(id="pump", role="pump", level=0.2, intake=0.09),
        ),
    )
    join = JoinSpec(
        id="join",
        name="Joining bulkheads",
        first="settling",
        chamber="still",
        second="pumping",
        entry="bed",
        pipe="40-pn10",
        count=3,
        height=0.12,
        length=0.32,
    )
    space = Space(length=2.6, depth=0.5, height=0.6, turnover=3 / 3600, air=22.0, coldest=17.0, margin=0.03)
    return System(
        name="Back-room rack",
        place="Harbour Hill Library",
        space=space,
        devices=(Tank(), first, second, join),
    )


def back_room() -> System:
    """Four rows of six tanks, every valve half turned: the low rows take what the high ones lack, and no tank has a
    second drain.
    """
    rack = Rack(
        name="Rack",
        rows=4,
        columns=6,
        device="pumping",
        temperature=22.0,
        stock="Killifish, a pair or a trio each",
        angle=50.0,
    )
    system = apply(joined_sumps(), add_rack(joined_sumps().by_id, rack, replace=True))
    named = [Change((*d.path, "name"), "Common drain") for d in system.devices if d.passes_to]
    fed = [Change((*t.path, "feed"), 0.15e-3 / 86400) for t in system.tanks]
    return apply(system, Edit("Name the drain and feed", (*named, *fed)))
