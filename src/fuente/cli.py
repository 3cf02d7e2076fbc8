"""The command line. Bad input is one sentence on standard error and exit 2; no traceback."""

from __future__ import annotations

import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any

import click

from fuente import plain
from fuente.cli_build import build_command, steps_command
from fuente.cli_design import DESIGN_COMMANDS, analysis_of, record_of
from fuente.cli_keep import calendar_command, due_command, instruments_command, log_command
from fuente.cli_life import life_command
from fuente.errors import EntryError, FuenteError
from fuente.memory import collect_seldom
from fuente.one_line import one_line


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


def commands() -> list[str]:
    """Every command that is shown, by name."""
    return sorted(name for name, command in cli.commands.items() if not command.hidden)


@cli.command("open", hidden=True)
@click.argument("file")
def open_(file: str) -> None:
    """Open a file in the window."""
    from fuente.document.files import load

    path = Path(file)
    if not path.exists() and not path.suffix and "/" not in file:
        raise EntryError(f"There is no command or file “{file[:60]}”. Commands: {', '.join(commands())}.")
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


for command in DESIGN_COMMANDS:
    cli.add_command(command)
cli.add_command(life_command(analysis_of))
cli.add_command(build_command(analysis_of))
cli.add_command(steps_command(analysis_of, record_of))
cli.add_command(log_command(analysis_of))
cli.add_command(due_command(analysis_of))
cli.add_command(calendar_command(analysis_of))
cli.add_command(instruments_command(analysis_of))


@cli.command()
@click.argument("file")
@click.option("--to", "folder", required=True, help="Folder to write into; made when it is not there.")
def export(file: str, folder: str) -> None:
    """Parts as CSV, section as SVG and DXF, panels as DXF, everything as PDF."""
    from fuente.ui.book import export_book
    from fuente.workshop.export import export_all, stem

    analysis = analysis_of(file)
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
    collect_seldom()
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
