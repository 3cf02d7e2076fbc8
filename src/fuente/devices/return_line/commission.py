"""The first run of a return."""

from __future__ import annotations

from fuente.devices.pieces import FirstRun, note
from fuente.devices.return_line.spec import ReturnSpec
from fuente.devices.site import Site


def commission(line: ReturnSpec, site: Site) -> tuple[FirstRun, ...]:
    """Low flow, then the power is cut with an eye on every outlet."""
    found = [
        FirstRun(
            f"{line.id}.low",
            "Start the pump low",
            1,
            note("Start the pump with its valve a quarter open, hands off every plug that is wet"),
            note("no joint weeps; the pump's chamber falls no further than its mark"),
            15,
        )
    ]
    holes = [o for o in line.outlets if o.hole > 0]
    stop = "at the air holes" if holes else "at the outlets"
    found.append(
        FirstRun(
            f"{line.id}.cut",
            "Pull the plug",
            3,
            note("Pull the pump's plug at full flow and watch the tank fall back"),
            note(f"the back-siphon breaks {stop}; the vessel below stays under its rim. Mark how high it came"),
            10,
        )
    )
    if line.valve != "none":
        found.append(
            FirstRun(
                f"{line.id}.valve",
                "Try the check valve",
                3,
                note("With the pump off and its union open over a bucket, watch the check valve for a minute"),
                note("at most drops come back: it is the second line, never the first"),
                10,
            )
        )
    return tuple(found)
