"""Upkeep of a canister."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.canister.spec import Canister
from fuente.devices.site import Site
from fuente.devices.upkeep_words import BUCKET, OLD_WATER, PUMP_OFF, PUMP_ON, SQUEEZE, WEEK
from fuente.network.model import Solution
from fuente.one_line import within

TAPS = "Shut both taps, then open the lid"


def care(spec: Canister, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Rinse, seal, hoses."""
    found = []
    if spec.catches is None:
        found.append(
            Task(
                f"{spec.id}.sponge",
                f"Rinse the sponge on the intake of {within(spec.name)}",
                2 * WEEK,
                "It catches before all else, and is off in a minute with the pump stopped.",
                spec.id,
                minutes=6,
                litres=0.005,
                tools=BUCKET,
                how=(PUMP_OFF, "Slip it off under water, straight into the bucket", SQUEEZE, PUMP_ON),
                does="cleaned",
            )
        )
    elif spec.layers[spec.catches].medium == "floss":
        found.append(
            Task(
                f"{spec.id}.floss",
                f"Change the floss of {within(spec.name)}",
                4 * WEEK,
                "The finest layer catches first and clogs first; the rest may stay.",
                spec.id,
                minutes=15,
                litres=0.01,
                tools=BUCKET,
                how=(PUMP_OFF, TAPS, "Lift the floss out and lay new in", "Fill it before the lid goes on", PUMP_ON),
                clogs=("*",),
                does="swapped",
                uses=(("floss", 1.0),),
            )
        )
    if spec.drain and spec.foot:
        found.append(
            Task(
                f"{spec.id}.drain",
                f"Open the drain cock of {within(spec.name)}",
                2 * WEEK,
                "With the pump stopped and both taps shut: mud that settled under the layers runs out, some litres.",
                spec.id,
            )
        )
    return (
        *found,
        Task(
            f"{spec.id}.rinse",
            f"Rinse the foam of {within(spec.name)}",
            8 * WEEK,
            "In old tank water; time a bucket before and after.",
            spec.id,
            minutes=30,
            litres=0.02,
            tools=(*BUCKET, "lid grease"),
            how=(
                PUMP_OFF,
                TAPS,
                OLD_WATER,
                SQUEEZE,
                "Leave the other media as they are",
                "Fill it, then shut the lid",
                PUMP_ON,
            ),
            living=True,
            clogs=("*",),
            does="cleaned",
        ),
        Task(
            f"{spec.id}.seal",
            "Grease its lid's seal and look at the hoses",
            26 * WEEK,
            "A dry seal weeps; hoses harden at the barbs and slip off.",
            spec.id,
        ),
    )
