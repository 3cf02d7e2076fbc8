"""The commands that read a design and say how its water stands, runs, and breaks."""

from __future__ import annotations

import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

import click

from fuente import plain
from fuente.errors import EntryError

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis
    from fuente.units import UnitSystem


def analysis_of(file: str) -> Analysis:
    """The design of a file, to be solved."""
    from fuente.document.files import load
    from fuente.study.analysis import Analysis

    return Analysis(load(file))


def record_of(file: str) -> object:
    """What a file says was measured and done."""
    from fuente.document.files import load_all

    return load_all(file)[1]


@click.command()
@click.argument("file")
@click.option("--situation", default="running", help="running, power-cut, valve-leaks, drain-blocked, pads-dirty, ...")
@click.option("--chamber", default="", help="Id of the chamber that the cleaning situation empties.")
@click.option("--json", "as_json", is_flag=True, help="SI floats as JSON.")
def solve(file: str, situation: str, chamber: str, as_json: bool) -> None:
    """Levels, volumes and flows of a design in a situation."""
    from fuente.study.situations import TITLES
    from fuente.units import shown

    key = situation.replace("-", "_")
    if key not in TITLES:
        names = ", ".join(n.replace("_", "-") for n in TITLES)
        raise EntryError(f"There is no situation “{situation[:40]}”; there are: {names}.")
    analysis = analysis_of(file)
    rooms = analysis.rooms()
    if chamber and not rooms:
        raise EntryError("This design has no sump, and so no chamber to clean out.")
    room = next((r.id for r in rooms if chamber in (r.id, r.local)), "") if chamber else ""
    if chamber and not room:
        raise EntryError(f"There is no chamber “{chamber[:40]}”; there are: {', '.join(r.local for r in rooms)}.")
    if key not in analysis.names():
        names = ", ".join(n.replace("_", "-") for n in analysis.names())
        raise EntryError(f"This design cannot be in “{situation}”; its situations are: {names}.")
    case = analysis.situation(key, room if key == "cleaning" else "")
    units = analysis.system.units
    s = case.solution
    if not as_json:
        click.echo(f"{case.title}: {case.verdict.filled(units)}")
        for cell in s.network.cells:
            if cell.lid is not None:
                click.echo(f"  {cell.name:40} {_pressure(s.level[cell.id] - cell.lid, units)}")
            elif not cell.sink:
                words = (shown(s.depth(cell.id), "length", units), shown(s.volume[cell.id], "volume", units))
                free = shown(s.freeboard(cell.id), "length", units)
                click.echo(f"  {cell.name:40} stands {words[0]:>12}  {words[1]:>10}  {free:>12} under the rim")
        return
    click.echo(plain.as_json(plain.solved(case), 1))


@click.command()
@click.argument("file")
@click.option("--turnover", default="", help="Turnover of every tank an hour; that of the design unless given.")
@click.option("--to", "target", default="", help="Write the design with its valves set to this file.")
@click.option("--json", "as_json", is_flag=True, help="Angles in degrees from open as JSON.")
def valves(file: str, turnover: str, target: str, as_json: bool) -> None:
    """What to set every valve of a manifold to, so that each tank gets its turnover."""
    from fuente.document import files
    from fuente.document.system import apply
    from fuente.typed import parse

    analysis = analysis_of(file)
    system = analysis.system
    wish = parse(turnover, "per_hour") if turnover else system.space.turnover
    plans = {d.id: plan for d in analysis.ordered if (plan := analysis.balance(d.id, wish)) is not None}
    if not plans:
        raise EntryError("This design has no manifold.")
    rows = []
    for manifold, plan in plans.items():
        system = apply(system, plan.edit)
        angles = dict(plan.settings)
        rows.append({"manifold": manifold, "share": plan.share, "limit": plan.limit or None, "angles": angles})
        if not as_json:
            reach = "all of it" if plan.share >= 1 else f"{plan.share:.0%} of it, the limit is {plan.limit}"
            click.echo(f"{system.device(manifold).title}: {wish * 3600:g} × an hour, {reach}")
            for key, angle in angles.items():
                name = next((t.name for t in system.tanks if t.id == key), key)
                click.echo(f"  {name:24} {angle:5.1f}° from open")
    if target:
        files.save(system, Path(target), files.load_all(file)[1])
    if as_json:
        click.echo(plain.as_json(rows))


@click.command()
@click.argument("file")
@click.option("--json", "as_json", is_flag=True, help="Findings as JSON.")
def check(file: str, as_json: bool) -> None:
    """Findings of a design; exit 1 when there is a Stop."""
    from fuente.devices.base import Rank
    from fuente.findings import findings
    from fuente.findings.bands import bands, with_bands
    from fuente.findings.breath import breath
    from fuente.findings.tried import all_tried
    from fuente.study.air_hours import air_hours

    analysis = analysis_of(file)
    found = findings(analysis)
    if not analysis.large:
        found = all_tried(analysis, found)
        known = bands(analysis, found)
        found = with_bands(found, known, analysis) if known is not None else found
        found = (*found, *breath(analysis, air_hours(analysis)))
    units = analysis.system.units
    if as_json:
        rows = [plain.finding(f, units) for f in found]
        click.echo(plain.as_json(rows, 1))
    else:
        for f in found:
            click.echo(f"{f.rank.word:9}{f.filled(units)}" + (f"  [{f.offer(units)}]" if f.action else ""))
        if not found:
            click.echo("Nothing to change.")
    if any(f.rank is Rank.STOP for f in found):
        sys.exit(1)


@click.command("carries")
@click.argument("file")
@click.option("--json", "as_json", is_flag=True, help="Feed kg/s, surface m², animals, SI.")
def carries_command(file: str, as_json: bool) -> None:
    """What each filter, and each water, carries: the feed a day, with its spread."""
    from dataclasses import asdict

    from fuente.study.carries import carries
    from fuente.units import shown

    analysis = analysis_of(file)
    found = carries(analysis)
    if as_json:
        click.echo(plain.as_json([asdict(c) for c in found], 1))
        return
    units = analysis.system.units
    for c in found:
        feeds = [shown(feed, "feed", units) for feed in (c.feed, c.least, c.most)]
        animals = f", {c.animals:.0f} of your animals" if c.animals >= 0.5 else ""
        flow = "; more flow would carry more" if c.device and c.flow_bound else ""
        area = shown(c.surface, "area", units)
        click.echo(f"{c.name}: {feeds[0]} ({feeds[1]} to {feeds[2]}) on {area}{animals}{flow}")
    if not found:
        click.echo("Nothing lives in this design: it has no media and no foam.")


@click.command("wet-test")
@click.argument("file")
@click.option("--fault", "faults", multiple=True, help="kind@seconds or kind@seconds=number; may stand several times.")
@click.option("--until", default="900", help="How long, such as 900 or 30 min.")
@click.option("--kinds", is_flag=True, help="List the kinds of fault.")
@click.option("--json", "as_json", is_flag=True, help="Time, levels, flows, peaks and what is spilled, SI.")
def wet_test(file: str, faults: Sequence[str], until: str, kinds: bool, as_json: bool) -> None:
    """Follow the water while things break: --fault power-cut@30 --fault check-valve-leak@30=1.0."""
    from fuente.study.faults import KINDS, read_fault
    from fuente.study.wet_test import run
    from fuente.typed import parse
    from fuente.units import shown

    if kinds:
        for kind in KINDS.values():
            click.echo(
                f"{kind.name:18} {kind.title}" + (f"; {kind.number}, usually {kind.default:g}" if kind.number else "")
            )
        return
    duration = parse(until, "time")
    if not 1 <= duration <= 7 * 86400:
        raise EntryError("A wet test runs from a second to a week.")
    wanted = [read_fault(text) for text in faults]
    analysis = analysis_of(file)
    test = run(analysis, wanted, duration)
    units = analysis.system.units
    h = test.history
    if not as_json:
        still = f"still after {test.still:.0f} s" if test.still is not None else "still moving at the end"
        click.echo(f"{test.verdict.filled(units)}; {still}")
        for cell in h.network.cells:
            level, when = h.peak(cell.id)
            if cell.lid is not None:
                click.echo(f"  {cell.name:40} at most {_pressure(level - cell.lid, units)}, at {when:.0f} s")
            elif not cell.sink:
                click.echo(
                    f"  {cell.name:40} at most {shown(cell.rim - level, 'length', units):>12} under the rim, at"
                    f" {when:.0f} s"
                )
        return
    click.echo(plain.as_json(plain.tested(test, units)))


def _pressure(head: float, units: UnitSystem) -> str:
    """A closed vessel's head over its lid in m, in words."""
    from fuente.units import shown

    what = "pressure" if head >= 0 else "suction"
    return f"{shown(abs(head), 'head', units)} of {what} under its lid"


@click.command("trials")
@click.argument("file")
@click.option("--json", "as_json", is_flag=True, help="Results as JSON.")
def trials_command(file: str, as_json: bool) -> None:
    """Run the standard trials; exit 1 when one fails the margins of the design."""
    from fuente.study.trials import trials
    from fuente.units import shown

    analysis = analysis_of(file)
    results = trials(analysis)
    units = analysis.system.units
    if as_json:
        rows = [plain.tried(r, units) for r in results]
        click.echo(plain.as_json(rows, 1))
    else:
        for r in results:
            margin, peak = shown(r.expected, "length", units), shown(r.peak, "length", units)
            line = f"{'pass' if r.passed else 'FAIL'}  {r.trial.title:50} "
            said = r.test.verdict
            line += f"{margin} at rest in {r.rest.name}, {peak} at worst"
            why = [said.filled(units)] if said.rank is not None else []
            if r.breath is not None:
                tanks = {t.id: t.name for t in analysis.system.tanks}
                why.append(r.breath.said(tanks[r.breath.tank] if len(tanks) > 1 else "", units))
            click.echo(line + (f"  ({'; '.join(why)})" if why else ""))
    if not all(r.passed for r in results):
        sys.exit(1)


DESIGN_COMMANDS = (solve, valves, check, carries_command, wet_test, trials_command)
