"""The man page, made from the commands themselves, so that it has every one of them with its options."""

from __future__ import annotations

import datetime
import re

import click

from fuente import __version__

_FILES = (
    ("*.fuente", "A design: JSON text. Its backup has a ~ behind its name, its log ends in .fuente-log."),
    (
        "$XDG_STATE_HOME/fuente",
        "What a crash would lose, the window's place, and the log; or $FUENTE_STATE.",
    ),
)
_EXITS = (
    ("0", "All went well."),
    ("1", "A design has what would flood or break (check), or a trial fails its margins (trials)."),
    ("2", "What was asked cannot be done; one sentence on standard error says why."),
)


def page(group: click.Group, today: datetime.date | None = None) -> str:
    """The page in roff."""
    day = (today or datetime.date.today()).isoformat()
    lines = [f'.TH FUENTE 1 "{day}" "Fuente {__version__}" "User Commands"', ".SH NAME"]
    lines.append(r"fuente \- design and prove home\-built aquarium and pond filtration")
    lines += [".SH SYNOPSIS", r".B fuente", r"[\fIFILE\fR]", ".br", r".B fuente", r"\fICOMMAND\fR [\fIOPTIONS\fR]"]
    lines += [".SH DESCRIPTION", _text(group.help or ""), ".PP"]
    lines.append(_text("With a FILE the window opens with that design. Numbers carry their units: 900 gph."))
    lines.append(".SH OPTIONS")
    lines += _options(group)
    lines.append(".SH COMMANDS")
    for name, command in sorted(group.commands.items()):
        if command.hidden:
            continue
        lines += [f".SS fuente {_text(name)}{_arguments(command)}", _text(command.help or "")]
        lines += _options(command)
    for head, rows in (("FILES", _FILES), ("EXIT STATUS", _EXITS)):
        lines.append(f".SH {head}")
        for left, right in rows:
            lines += [".TP", rf"\fB{_text(left)}\fR", _text(right)]
    lines += [".SH CAUTION", _text("Structural results are estimates for planning. Electricity, plumbing to mains and")]
    lines.append(_text("floor loads are for licensed people and local codes."))
    return "\n".join(lines) + "\n"


def _arguments(command: click.Command) -> str:
    found = ""
    for each in command.params:
        if isinstance(each, click.Argument):
            name = (each.metavar or each.name or "").upper()
            found += rf" \fI{_text(name)}\fR" if each.required else rf" [\fI{_text(name)}\fR]"
    return found


def _options(command: click.Command) -> list[str]:
    lines: list[str] = []
    for each in command.params:
        if isinstance(each, click.Option) and not each.hidden:
            names = ", ".join(rf"\fB{_text(o)}\fR" for o in each.opts)
            takes = "" if each.is_flag or each.count else rf" \fI{_text((each.metavar or each.name or '').upper())}\fR"
            lines += [".TP", names + takes, _text(each.help or "")]
    return lines


def _text(words: str) -> str:
    """Words in which roff finds nothing of its own."""
    plain = " ".join(re.sub(r"[\b]", "", words).split()).replace("\\", r"\e").replace("-", r"\-")
    return r"\&" + plain if plain[:1] in (".", "'") else plain
