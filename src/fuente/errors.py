"""Errors that a builder may read: what was wrong, where, and what to do."""


class FuenteError(Exception):
    """Base of every error that Fuente raises on purpose; its text is one sentence for a person."""


class EntryError(FuenteError):
    """A typed value could not be read as the quantity that is asked for."""


class DocumentError(FuenteError):
    """A file is damaged, foreign, too new, or too large to be read."""


class ChangedElsewhere(DocumentError):
    """A file is not what it was when it was read or written last: somebody else has changed, replaced or removed it."""


class SpecError(FuenteError):
    """A design is not buildable as described: parts overlap or do not fit."""


class SolveError(FuenteError):
    """The network has no solution, or none was found; the text says which and what to change."""


class PumpTooWeak(SolveError):
    """The pump's greatest head is below the lift: no water arrives."""
