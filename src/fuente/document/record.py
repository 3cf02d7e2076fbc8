"""What was measured and done on the real thing: kept beside the design, added to and never taken back.

The design is what the builder decided, and undo goes through it; what was seen of the water is no decision. A later
entry about the same thing stands for the earlier one, which stays readable.
"""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field, ValidationError

from fuente.devices.base import Spec, measured
from fuente.devices.sentences import first_sentence
from fuente.errors import DocumentError

MOST = 20_000  # entries: some ten a day for five years


class Entry(Spec):
    """A margin that the builder saw in a wet test of the real thing, and what Fuente expected that day."""

    kind: Literal["measured"] = "measured"
    date: str = Field(pattern=r"^\d{4}-\d{2}-\d{2}$", description="Day of it, ISO 8601.")
    what: str = Field(max_length=60, description="Id of the standard trial.")
    value: float = measured(..., "length", "Margin measured", -1.0, 5.0)
    expected: float | None = Field(
        None, ge=-100.0, le=100.0, description="Margin that the design of that day was to have, m."
    )


class Record(Spec):
    """Entries in the order in which they were written."""

    entries: tuple[Entry, ...] = Field((), max_length=MOST)

    def added(self, entry: Entry) -> Record:
        """The same with an entry at the end. Raises DocumentError where it is full."""
        if len(self.entries) >= MOST:
            raise DocumentError(f"The record holds {MOST} entries and takes no more.")
        return Record(entries=(*self.entries, entry))

    def last(self, what: str) -> Entry | None:
        """What was written of a thing at last."""
        return next((e for e in reversed(self.entries) if e.what == what), None)


EMPTY = Record()


def read(rows: Any) -> Record:
    """A record out of a file's rows. Raises DocumentError."""
    try:
        return Record.model_validate({"entries": rows})
    except ValidationError as error:
        raise DocumentError(f"Its record does not hold together. {first_sentence(error, Record)}") from None
