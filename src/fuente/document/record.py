"""What was measured and done on the real thing: kept beside the design, added to and never taken back.

The design is what the builder decided, and undo goes through it; what was seen of the water is no decision. A later
entry about the same thing stands for the earlier one, which stays readable.
"""

from __future__ import annotations

import datetime
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, field_validator

from fuente.devices.base import Spec, measured
from fuente.devices.sentences import first_sentence
from fuente.errors import DocumentError

DAY = r"^\d{4}-\d{2}-\d{2}$"
MOST = 20_000  # entries: some ten a day for five years


class Entry(Spec):
    """A margin that the builder saw in a wet test of the real thing, and what Fuente expected that day."""

    kind: Literal["measured"] = "measured"
    date: str = Field(pattern=DAY, description="Day of it, ISO 8601.")
    what: str = Field(max_length=60, description="Id of the standard trial.")
    value: float = measured(..., "length", "Margin measured", -1.0, 5.0)
    expected: float | None = Field(
        None, ge=-100.0, le=100.0, description="Margin that the design of that day was to have, m."
    )


class Tested(Spec):
    """What the builder's tests said of a tank's water: ammonia and nitrite as nitrogen, nitrate as NO₃; what was not
    tested is left out.
    """

    kind: Literal["tested"] = "tested"
    date: str = Field(pattern=DAY, description="Day of it, ISO 8601.")
    tank: str = Field(max_length=40, description="Id of the tank.")
    ammonia: float | None = Field(None, ge=0.0, le=1.0, description="Total ammonia, kg/m³ as nitrogen.")
    nitrite: float | None = Field(None, ge=0.0, le=1.0, description="kg/m³ as nitrogen.")
    nitrate: float | None = Field(None, ge=0.0, le=5.0, description="kg/m³ as NO₃.")

    @field_validator("date")
    @classmethod
    def _a_day(cls, value: str) -> str:
        datetime.date.fromisoformat(value)  # the thirtieth of February is none
        return value


class Built(Spec):
    """A step of the build that was done, or taken back, or written about. A later entry about a step stands for the
    earlier one, but for its notes and photographs, which add up.
    """

    kind: Literal["built"] = "built"
    when: str = Field(max_length=40, description="Moment of it, ISO 8601 with its offset from UTC.")
    step: str = Field(max_length=200, description="Id of the step.")
    done: bool | None = Field(None, description="Done, or open again; nothing for a note alone.")
    wait: float = Field(0.0, ge=0.0, le=1e8, description="How long it cures or stands from then on, s.")
    note: str = Field("", max_length=2000)
    photo: str = Field("", max_length=400, description="A photograph's file, beside the design or by its whole path.")

    @field_validator("when")
    @classmethod
    def _a_moment(cls, value: str) -> str:
        if datetime.datetime.fromisoformat(value).tzinfo is None:
            raise ValueError("A moment of the build needs its offset from UTC.")
        return value

    @property
    def moment(self) -> datetime.datetime:
        """When it was."""
        return datetime.datetime.fromisoformat(self.when)


class Record(Spec):
    """Entries in the order in which they were written."""

    entries: tuple[Annotated[Entry | Tested | Built, Field(discriminator="kind")], ...] = Field((), max_length=MOST)

    def added(self, *entries: Entry | Tested | Built) -> Record:
        """The same with more at the end. Raises DocumentError where it is full."""
        if len(self.entries) + len(entries) > MOST:
            raise DocumentError(f"The record holds {MOST} entries and takes no more.")
        return Record(entries=(*self.entries, *entries))

    def last(self, what: str) -> Entry | None:
        """What was measured of a thing at last."""
        return next((e for e in reversed(self.measured) if e.what == what), None)

    @property
    def measured(self) -> tuple[Entry, ...]:
        """Margins of wet tests."""
        return tuple(e for e in self.entries if isinstance(e, Entry))

    @property
    def built(self) -> tuple[Built, ...]:
        """What was done of the build."""
        return tuple(e for e in self.entries if isinstance(e, Built))

    def tests_of(self, tank: str) -> tuple[Tested, ...]:
        """Tests of a tank's water, by day; of one day the last that was written."""
        by_day = {e.date: e for e in self.entries if isinstance(e, Tested) and e.tank == tank}
        return tuple(by_day[day] for day in sorted(by_day))


EMPTY = Record()


def read(rows: Any) -> Record:
    """A record out of a file's rows. Raises DocumentError."""
    try:
        return Record.model_validate({"entries": rows})
    except ValidationError as error:
        raise DocumentError(f"Its record does not hold together. {first_sentence(error, Record)}") from None
