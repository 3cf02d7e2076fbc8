"""All ways in and out of a sieve: its own, and others beside them, each as a sieve with that one way."""

from __future__ import annotations

from dataclasses import replace

from fuente.devices.base import Change, Choice, Edit, Path
from fuente.devices.beside import DrainSpec, FeedSpec
from fuente.devices.filtering import Site, choices_of
from fuente.devices.pieces import Joint, Parts
from fuente.devices.plumbing import (
    flow_in,
)
from fuente.devices.plumbing_shown import line_parts, pipe_words
from fuente.devices.pumping import pump_choices
from fuente.devices.sieve_bed.spec import MOST_LINES, SieveBed
from fuente.network.model import Solution


def others_in(spec: SieveBed) -> list[SieveBed]:
    """The further ways in."""
    return [
        spec.model_copy(update={"id": f"{spec.id}.in{k}", "feed": feed, "feeds": (), "drains": ()})
        for k, feed in enumerate(spec.feeds, start=2)
    ]


def others_out(spec: SieveBed) -> list[SieveBed]:
    """The further ways out."""
    return [
        spec.model_copy(update={"id": f"{spec.id}.out{k}", "drain": drain, "feeds": (), "drains": ()})
        for k, drain in enumerate(spec.drains, start=2)
    ]


def through(spec: SieveBed, solution: Solution) -> float:
    """Water that leaves it by all of them, m³/s."""
    return flow_in(spec, solution) + sum(flow_in(each, solution) for each in others_out(spec))


def parts_of(spec: SieveBed, site: Site) -> Parts:
    """Pipes and pumps of all of them; holes in its walls are its own."""
    made = line_parts(spec, site)
    nothing = FeedSpec(way="fed")
    for each in others_out(spec):
        made += _own(line_parts(each.model_copy(update={"feed": nothing}), site), each, spec)
    for each in others_in(spec):
        whole = line_parts(each, site)
        mine = tuple(p for p in whole.pieces if p.id.startswith(f"{each.id}.feed"))
        made += _own(Parts(mine, whole.cautions), each, spec)
    return made


def _own(made: Parts, each: SieveBed, spec: SieveBed) -> Parts:
    pieces = tuple(
        replace(p, between=tuple(spec.id if b == each.id else b for b in p.between)) if isinstance(p, Joint) else p
        for p in made.pieces
    )
    return Parts(pieces, made.cautions)


def choices(spec: SieveBed, site: Site) -> tuple[Choice, ...]:
    """What is decided of the further ones."""
    ends = tuple((v.id, v.name) for v in site.vessels.values() if v.id != spec.id)
    found: list[Choice] = []
    both: tuple[tuple[str, tuple[FeedSpec | DrainSpec, ...]], ...] = (("drains", spec.drains), ("feeds", spec.feeds))
    for kind, lines in both:
        word, own = ("Way out", "into") if kind == "drains" else ("Way in", "source")
        for k, line in enumerate(lines):
            where: Path = (*spec.path, kind, k)
            name = f"{word} {k + 2}"
            found += _named(choices_of(line, where, "", "way"), name)
            label = f"{name}, {'leads to' if kind == 'drains' else 'draws from'}"
            found.append(Choice((*where, own), label, "choice", getattr(line, own), ends, fold=True))
            if line.way == "pump":
                front, folded = pump_choices(line.pump, (*where, "pump"), name)
                found += [replace(c, fold=True) for c in (*front[:2], *folded[:3])]
                names = "intake release length bends"
            else:
                names = "height count length bends" + (" release" if line.way == "fall" else "")
                names += " hold" if line.way == "float" else ""
            found.append(Choice((*where, "pipe"), f"{name}, pipe", "choice", line.pipe, pipe_words(), fold=True))
            found += _named(choices_of(line, where, "", names), name)
    return tuple(found)


def _named(made: tuple[Choice, ...], name: str) -> list[Choice]:
    return [replace(c, label=f"{name}, {c.label[:1].lower()}{c.label[1:]}") for c in made]


def commands(spec: SieveBed) -> tuple[tuple[str, Edit], ...]:
    """Further ones come and go; a new one is as the last."""
    found = []
    for kind, lines, own, word in (
        ("drains", spec.drains, spec.drain, "pump" if spec.drain.way == "pump" else "way out"),
        ("feeds", spec.feeds, spec.feed, "way in"),
    ):
        where = (*spec.path, kind)
        last: FeedSpec | DrainSpec = lines[-1] if lines else own
        if len(lines) < MOST_LINES and last.way not in ("fed", "air"):
            found.append((f"Add another {word}", Edit(f"Add {word}", (Change(where, (*lines, last)),))))
        if lines:
            found.append((f"Take out the last {word}", Edit(f"Take out {word}", (Change(where, lines[:-1]),))))
    return tuple(found)
