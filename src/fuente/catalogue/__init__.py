"""What can be bought: pipe, fittings, media, sheet. Generic names, typical values, each editable."""

from fuente.catalogue.loader import (
    FITTINGS,
    MEDIA,
    PIPES,
    Bulkhead,
    Fitting,
    Medium,
    PipeSize,
    Sheet,
    bulkhead,
    bulkheads,
    fitting,
    medium,
    pipe_size,
    sheet,
    sheets,
    valve_k,
)

__all__ = [
    "FITTINGS",
    "MEDIA",
    "PIPES",
    "Bulkhead",
    "Fitting",
    "Medium",
    "PipeSize",
    "Sheet",
    "bulkhead",
    "bulkheads",
    "fitting",
    "medium",
    "pipe_size",
    "sheet",
    "sheets",
    "valve_k",
]
