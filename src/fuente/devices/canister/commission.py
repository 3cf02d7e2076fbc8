"""The first run of a canister."""

from __future__ import annotations

from fuente.devices.canister.spec import Canister
from fuente.devices.pieces import FirstRun, note
from fuente.devices.site import Site


def commission(spec: Canister, site: Site) -> tuple[FirstRun, ...]:
    """Filled before it is started, tilted until the air is out."""
    return (
        FirstRun(
            f"{spec.id}.prime",
            "Fill and start it",
            1,
            note(
                "Fill it through its inlet with the outlet open, close the lid, tilt it until no air comes, then start"
            ),
            note("the lid's seal is dry after ten minutes on dry paper"),
            15,
        ),
    )
