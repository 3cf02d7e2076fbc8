"""The command ``life``: weeks of living water, what they limit and carry, and how long the oxygen lasts."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import TYPE_CHECKING

import click

from fuente import plain
from fuente.errors import EntryError

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis
    from fuente.study.weeks import Weeks


def life_command(read: Callable[[str], Analysis]) -> click.Command:
    """The command; ``read`` opens a file."""

    @click.command("life")
    @click.argument("file")
    @click.option("--days", default="70", help="How long, such as 70 or 10 weeks.")
    @click.option(
        "--start",
        default="",
        help="fishless, seeded, bucket, fish or mature; unless given the design's own, mature in a situation.",
    )
    @click.option("--situation", default="running", help="As for solve: running, power-cut, pads-dirty, ...")
    @click.option("--every", default="6 h", help="Time from one state to the next.")
    @click.option(
        "--dose", default="", help="Ammonia nitrogen dosed to without animals; the design's own unless given."
    )
    @click.option("--moved", default="", help="Share of a full film moved over; the design's own unless given.")
    @click.option("--json", "as_json", is_flag=True, help="Times s, concentrations kg/m³ by cell, limits by place.")
    def life(
        file: str, days: str, start: str, situation: str, every: str, dose: str, moved: str, as_json: bool
    ) -> None:
        """Ammonia, nitrite, nitrate, oxygen, alkalinity and warmth of a design over weeks."""
        from fuente.study.limits import Limits
        from fuente.study.weeks import WAYS, start_of, weeks
        from fuente.typed import parse

        if start and start not in WAYS:
            raise EntryError(f"A start is {', '.join(WAYS)}, not “{start[:40]}”.")
        analysis = read(file)
        usual = start_of(analysis.system.keeping)
        key = situation.replace("-", "_")
        if key not in analysis.names():
            names = ", ".join(n.replace("_", "-") for n in analysis.names())
            raise EntryError(f"This design cannot be in “{situation[:40]}”; its situations are: {names}.")
        begin = replace(
            usual,
            way=start or (usual.way if key == "running" else "mature"),  # type: ignore[arg-type]
            dose=parse(dose, "concentration") if dose else usual.dose,
            moved=parse(moved, "fraction") if moved else usual.moved,
        )
        made = weeks(analysis, parse(days, "days") / 86400.0, begin, key, parse(every, "hours"))
        found = Limits(analysis, key)
        limits = found if found.known else None
        if as_json:
            click.echo(plain.as_json(plain.living(made, limits)))
            return
        _said(made, limits)

    return life


def _said(made: Weeks, limits: object) -> None:
    from fuente.life.inputs import (
        AMMONIA,
        NITRATE,
        NITRITE,
        OXYGEN,
    )
    from fuente.life.renewal import NITRATE_ION
    from fuente.study.limits import Limits, said
    from fuente.units import shown

    system = made.water.study.system
    units = system.units
    for tank in system.tanks:
        if tank.id not in made.water.tanks:
            continue
        peaks = []
        for what, word in ((AMMONIA, "ammonia"), (NITRITE, "nitrite")):
            values = made.of(what, tank.id)
            at = int(values.argmax())
            peaks.append(
                f"{word} at most {shown(float(values[at]), 'concentration', units)} on day {made.times[at] / 86400:.0f}"
            )
        nitrate = shown(NITRATE_ION * float(made.of(NITRATE, tank.id).max()), "concentration", units)
        oxygen = shown(float(made.of(OXYGEN, tank.id).min()), "concentration", units)
        click.echo(f"{tank.name}: {'; '.join(peaks)}; nitrate (NO₃) up to {nitrate}; oxygen from {oxygen}")
    if made.bucket is not None and made.bucket.ready is not None:
        click.echo(f"In the bucket the media are mature on day {made.bucket.ready / 86400:.0f}, and moved then.")
    if made.water.fed <= 0 and made.start.way != "fishless":
        click.echo("No feed is known, so nothing grows: say what the tanks are fed.")
    elif made.ready is None:
        click.echo("It does not hold by then.")
    elif made.start.way == "fishless":
        click.echo(f"Animals may come on day {made.ready / 86400:.0f}; times are ±50 %.")
    elif made.start.way != "mature":
        click.echo(f"It holds from day {made.ready / 86400:.0f}; times are ±50 %.")
    if isinstance(limits, Limits):
        carried = limits.carries
        feeds = [shown(feed, "feed", units) for feed in (carried.feed, limits.alkalinity_lasts)]
        click.echo(f"Carries {feeds[0]}, then {carried.what} stands at its limit; alkalinity lasts for {feeds[1]}.")
        for pace in limits.paces:
            click.echo(f"  {pace.place.title}, {pace.place.cell}: {said(pace, units)}")
