"""One entry of the log."""

from __future__ import annotations

import datetime
from dataclasses import dataclass, replace

from fuente.errors import EntryError

LONGEST = 2000  # characters of a text


@dataclass(frozen=True)
class Entry:
    """What was seen or done: when (with its offset from UTC), what, where (an id of the design, or nothing), its value
    in SI, words, and where it came from. ``corrects`` is the number of an entry that it stands for from then on; a
    ``void`` one takes that back. ``id`` is its number, 0 before it is kept.
    """

    when: datetime.datetime
    what: str
    place: str = ""
    value: float | None = None
    text: str = ""
    source: str = "hand"
    corrects: int = 0
    void: bool = False
    id: int = 0

    def __post_init__(self) -> None:
        if self.when.tzinfo is None:
            raise EntryError("An entry of the log needs its offset from UTC.")

    @property
    def day(self) -> datetime.date:
        """Where the builder was."""
        return self.when.date()

    @property
    def moment(self) -> float:
        """s since 1970."""
        return self.when.timestamp()

    def same_as(self, other: Entry) -> bool:
        """Whether it says the same of the same moment."""
        mine, theirs = (replace(e, id=0, source="", corrects=0) for e in (self, other))
        return mine == theirs


def now() -> datetime.datetime:
    """This moment where the builder is, to the second."""
    return datetime.datetime.now().astimezone().replace(microsecond=0)
