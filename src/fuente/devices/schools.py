"""Where builders disagree: what Fuente assumes, for the whole system and for one filter apart."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field

from fuente.devices.base import Change, Choice, Edit, Path, Spec, measured


class Schools(Spec):
    """The builder's school in every question that sizes or judges a filter."""

    surface: Literal["outer", "core"] = "outer"
    fill: Literal["half", "two_thirds", "full"] = "two_thirds"
    air: Literal["open", "diffuser"] = "diffuser"
    roll: Literal["gentle", "hard"] = "gentle"
    still: Literal["strainer", "living"] = "strainer"
    media: Literal["one", "mix"] = "one"
    finest: Literal["quick", "last"] = "quick"
    drive: Literal["air", "pump"] = "air"
    substrate: Literal["none", "counts"] = "none"
    litres: float = measured(0.05, "fraction", "Media for each litre of tank", 0.0, 2.0, step=0.01)
    kilos: float = measured(1.0, "mass", "Media for each 100 L", 0.0, 50.0, step=0.1)


class OwnSchools(Spec):
    """A filter's own school where it is not the system's."""

    surface: Literal["outer", "core"] | None = None
    fill: Literal["half", "two_thirds", "full"] | None = None
    air: Literal["open", "diffuser"] | None = None
    roll: Literal["gentle", "hard"] | None = None
    still: Literal["strainer", "living"] | None = None
    media: Literal["one", "mix"] | None = None
    finest: Literal["quick", "last"] | None = None
    drive: Literal["air", "pump"] | None = None


QUESTIONS: dict[str, tuple[str, tuple[tuple[str, str], ...], str]] = {
    "surface": (
        "Surface that counts",
        (("outer", "what water reaches"), ("core", "porous core too")),
        "Outer surface is certain; a porous core may add to it and take a little nitrate, where water passes it at all:"
        " how much nobody has measured, a factor of ten either way.",
    ),
    "fill": (
        "Moving bed is filled",
        (("half", "half"), ("two_thirds", "two thirds"), ("full", "nearly full")),
        "Two thirds still turns everywhere; half turns easily; nearly full holds more and stands in its corners.",
    ),
    "air": (
        "Air into a bed",
        (("open", "open line"), ("diffuser", "diffuser")),
        "An open line cannot clog and makes coarse bubbles; a diffuser rolls gently and costs pressure.",
    ),
    "roll": (
        "A bed is moved",
        (("gentle", "gentle roll"), ("hard", "hard tumble")),
        "A gentle roll keeps films whole; a hard tumble scours them thin and young.",
    ),
    "still": (
        "Carriers that stand still",
        (("strainer", "strain, flushed often"), ("living", "live on")),
        "Standing, they strain well and are flushed; whether they then also nitrify is argued. Both numbers are shown.",
    ),
    "media": (
        "Media",
        (("one", "one kind"), ("mix", "a mix")),
        "One kind is cheap and cleaned in one go; a mix spreads the risk.",
    ),
    "finest": (
        "Finest pad",
        (("quick", "where it is quick to change"), ("last", "last in the path")),
        "On top it is changed in a minute; last, it sees the cleanest water.",
    ),
    "drive": (
        "Filters are driven by",
        (("air", "air, nothing to break"), ("pump", "a pump, quiet")),
        "Air drives many from one machine; a pump is quiet and moves more against a loss.",
    ),
    "substrate": (
        "Gravel and rock in tanks",
        (("none", "do not count"), ("counts", "count as surface")),
        "Bacteria live there too; how much water reaches them nobody knows. Counted, it is a finger's breadth of it.",
    ),
}

FILL = {"half": 0.5, "two_thirds": 2 / 3, "full": 0.85}
AIR_PER_LITRE = {"gentle": 1.0 / 60, "hard": 2.5 / 60}  # m³/s of air for each m³ of carriers: 0.5 to 3 L/min a litre


def ruling(project: Schools, own: OwnSchools) -> Schools:
    """The system's schools with a filter's own over them."""
    return project.model_copy(update={k: v for k, v in own.model_dump().items() if v is not None})


def own_choice(own: OwnSchools, project: Schools, question: str, path: Path, fold: bool = True) -> Choice:
    """The field by which a filter leaves the system's school, or follows it."""
    label, options, _ = QUESTIONS[question]
    words = dict(options)
    follow = (None, f"as the system: {words[getattr(project, question)]}")
    value = getattr(own, question)

    def make(picked: Any) -> Edit:
        return Edit(f"{label}: {words.get(picked, 'as the system')}", (Change((*path, "schools", question), picked),))

    return Choice((*path, "schools", question), label, "choice", value, (follow, *options), fold=fold, make=make)


def schools_field() -> Any:
    """A document's field for a filter's own schools."""
    return Field(OwnSchools(), description="Where this filter follows another school than the system.")
