"""The command line. Bad input is one sentence on standard error and exit 2; no traceback."""

from __future__ import annotations

import sys
from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from fuente import plain
from fuente.cli_build import build_command, steps_command
from fuente.cli_keep import calendar_command, due_command, instruments_command, log_command
from fuente.cli_life import life_command
from fuente.errors import EntryError, FuenteError
from fuente.one_line import one_line

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis
    from fuente.units import UnitSystem

COMMANDS = (
    "demo",
    "answer",
    "solve",
    "check",
    "carries",
    "life",
    "wet-test",
    "trials",
    "export",
    "build",
    "steps",
    "log",
    "due",
    "calendar",
    "instruments",
    "tour",
    "schema",
    "report",
)


class _Fuente(click.Group):
    """``fuente FILE`` opens a file; anything else is a command."""

    def format_commands(self, ctx: click.Context, formatter: click.HelpFormatter) -> None:
        """Every command with its arguments and the whole of what it does."""
        rows = []
        for name in sorted(self.commands):
            command = self.commands[name]
            if not command.hidden:
                takes = " ".join(command.collect_usage_pieces(ctx)[1:])
                rows.append((f"{name} {takes}".strip(), " ".join((command.help or "").split())))
        with formatter.section("Commands"):
            formatter.write_dl(rows, col_max=26)
        with formatter.section("Files"):
            formatter.write_dl([("FILE.fuente", "opens the window with a design. Of each command -h says more.")])

    def resolve_command(self, ctx: click.Context, args: list[str]) -> Any:
        if args and args[0] not in self.commands:
            return "open", self.commands["open"], args
        return super().resolve_command(ctx, args)


@click.group(cls=_Fuente, invoke_without_command=True, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(package_name=None, version="0.1.0", prog_name="fuente")
@click.option("--install-desktop", is_flag=True, help="Put an entry, icons and the file type into your own folders.")
@click.option("--remove-desktop", is_flag=True, help="Take them away again.")
@click.pass_context
def cli(ctx: click.Context, install_desktop: bool, remove_desktop: bool) -> None:
    """Design and prove home-built aquarium and pond filtration. Without a command: open the window."""
    if install_desktop or remove_desktop:
        from fuente.desktop import install, remove
        from fuente.manual import page

        for path in remove() if remove_desktop else install(manual=page(cli)):
            click.echo(str(path))
        ctx.exit(0)
    if ctx.invoked_subcommand is None:
        _window()


@cli.command("open", hidden=True)
@click.argument("file")
def open_(file: str) -> None:
    """Open a file in the window."""
    from fuente.document.files import load

    path = Path(file)
    if not path.exists() and not path.suffix and "/" not in file:
        raise EntryError(f"There is no command or file “{file[:60]}”. Commands: {', '.join(COMMANDS)}.")
    load(path)  # said here, on the terminal, rather than in a window
    _window(path=path)


@cli.command()
@click.argument("name", default="reading-room")
def demo(name: str) -> None:
    """Open a demo."""
    from fuente.demo import DEMOS

    if name not in DEMOS:
        raise EntryError(f"There is no demo “{name[:40]}”; there are: {', '.join(DEMOS)}.")
    _window(demo=name)


def _window(path: Path | None = None, demo: str = "") -> None:
    from fuente.ui.app import run

    sys.exit(run(path, demo))


@cli.command()
@click.argument("name", required=False)
@click.argument("values", nargs=-1)
@click.option("--list", "list_", is_flag=True, help="List all quick answers.")
@click.option("--json", "as_json", is_flag=True, help="SI floats as JSON.")
@click.option("--us", is_flag=True, help="Bare numbers and the answer in US units.")
def answer(name: str | None, values: Sequence[str], list_: bool, as_json: bool, us: bool) -> None:
    """A quick answer: fuente answer weir flow="900 gph" length="16 in"."""
    from fuente.answers import answers, ask, find
    from fuente.answers.registry import shown_output
    from fuente.units import UnitSystem

    units = UnitSystem.US if us else UnitSystem.METRIC
    if list_ or name is None:
        _list(as_json, [plain.described(a) for a in answers().values()])
        return
    given: dict[str, str] = {}
    for pair in values:
        key, equals, text = pair.partition("=")
        if not equals:
            raise EntryError(f'“{pair[:40]}” is not key=value, such as flow="900 gph".')
        given[key.strip()] = text
    found = ask(name, given, units)
    if as_json:
        click.echo(plain.as_json(found))
        return
    for output in find(name).outputs:
        click.echo(f"{output.label}: {shown_output(output, found[output.name], units)}")


def _list(as_json: bool, entries: list[dict[str, Any]]) -> None:
    if as_json:
        click.echo(plain.as_json(entries, 1))
        return
    for entry in entries:
        inputs = " ".join(f"[{i['name']}]" if i["optional"] else i["name"] for i in entry["inputs"])
        click.echo(f"{entry['name']:16} {inputs}  →  {', '.join(o['name'] for o in entry['outputs'])}")


def _analysis(file: str) -> Analysis:
    from fuente.document.files import load
    from fuente.study.analysis import Analysis

    return Analysis(load(file))


def _record(file: str) -> object:
    from fuente.document.files import load_all

    return load_all(file)[1]


@cli.command()
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
    analysis = _analysis(file)
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


@cli.command()
@click.argument("file")
@click.option("--turnover", default="", help="Turnover of every tank an hour; that of the design unless given.")
@click.option("--to", "target", default="", help="Write the design with its valves set to this file.")
@click.option("--json", "as_json", is_flag=True, help="Angles in degrees from open as JSON.")
def valves(file: str, turnover: str, target: str, as_json: bool) -> None:
    """What to set every valve of a manifold to, so that each tank gets its turnover."""
    from fuente.document import files
    from fuente.document.system import apply
    from fuente.typed import parse

    analysis = _analysis(file)
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


@cli.command()
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

    analysis = _analysis(file)
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


@cli.command("carries")
@click.argument("file")
@click.option("--json", "as_json", is_flag=True, help="Feed kg/s, surface m², animals, SI.")
def carries_(file: str, as_json: bool) -> None:
    """What each filter, and each water, carries: the feed a day, with its spread."""
    from dataclasses import asdict

    from fuente.study.carries import carries
    from fuente.units import shown

    analysis = _analysis(file)
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


cli.add_command(life_command(_analysis))
cli.add_command(build_command(_analysis))
cli.add_command(steps_command(_analysis, _record))
cli.add_command(log_command(_analysis))
cli.add_command(due_command(_analysis))
cli.add_command(calendar_command(_analysis))
cli.add_command(instruments_command(_analysis))


@cli.command("wet-test")
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
    analysis = _analysis(file)
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


@cli.command("trials")
@click.argument("file")
@click.option("--json", "as_json", is_flag=True, help="Results as JSON.")
def trials_(file: str, as_json: bool) -> None:
    """Run the standard trials; exit 1 when one fails the margins of the design."""
    from fuente.study.trials import trials
    from fuente.units import shown

    analysis = _analysis(file)
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


@cli.command()
@click.argument("file")
@click.option("--to", "folder", required=True, help="Folder to write into; made when it is not there.")
def export(file: str, folder: str) -> None:
    """Parts as CSV, section as SVG and DXF, panels as DXF, everything as PDF."""
    from fuente.ui.book import export_book
    from fuente.workshop.export import export_all, stem

    analysis = _analysis(file)
    written = export_all(analysis, Path(folder))
    plan = Path(folder) / f"{stem(analysis)}-plan.pdf"
    export_book(analysis, plan)
    for path in (*written, plan):
        click.echo(str(path))


@cli.command()
@click.argument("folder")
def tour(folder: str) -> None:
    """A picture, 1280 × 800, of every main view, from the demo."""
    from fuente.ui.tour import tour as walk

    for path in walk(Path(folder)):
        click.echo(str(path))


@cli.command("report")
@click.argument("file", required=False)
@click.option("--design", default="", help="A design whose kinds and balances go into it.")
def report_(file: str | None, design: str) -> None:
    """What a bug report needs, into a file or onto the terminal: versions, the log of Fuente itself, and of a design
    its kinds and how well its water balances. No names are in it.
    """
    from fuente.diary import report
    from fuente.document.files import load, write_text

    about = file if file and file.endswith(".fuente") and not design else design
    text = report(load(Path(about)) if about else None)
    if not file or file == about:
        click.echo(text, nl=False)
        return
    target = Path(file)
    if target.exists() and not target.read_bytes().startswith(b"Fuente "):
        raise EntryError(f"“{target.name}” is there already and is no report; choose another name.")
    write_text(target, text)
    click.echo(str(target))


@cli.command("man", hidden=True)
def man() -> None:
    """The man page in roff."""
    from fuente.manual import page

    click.echo(page(cli), nl=False)


@cli.command()
def schema() -> None:
    """The JSON Schema of *.fuente files."""
    from fuente.document.files import schema as made

    click.echo(plain.as_json(made(), indent=1))


def main(arguments: Sequence[str] | None = None) -> int:
    """Run a command; the exit code."""
    try:
        result = cli.main(
            args=list(arguments) if arguments is not None else None, prog_name="fuente", standalone_mode=False
        )
    except FuenteError as error:
        from fuente.units import UnitSystem, in_units

        click.echo(one_line(in_units(str(error), UnitSystem.METRIC)), err=True)
        return 2
    except click.ClickException as error:
        click.echo(_sentence(error.format_message()), err=True)
        return 2
    except click.Abort:
        return 130
    except SystemExit as stop:
        return stop.code if isinstance(stop.code, int) else 1
    except OSError as error:
        where = f" ({error.filename})" if error.filename else ""
        click.echo(f"{error.strerror or error}{where}.", err=True)
        return 2
    return result if isinstance(result, int) else 0


def _sentence(text: str) -> str:
    line = " ".join(text.split())
    return line if line.endswith((".", "?", "!")) else line + "."
