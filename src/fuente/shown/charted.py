"""Which water of each vessel a chart of levels follows, and what it is called there."""

from __future__ import annotations

from fuente.network.transient import History
from fuente.one_line import within
from fuente.study.analysis import Analysis


def charted(analysis: Analysis, history: History) -> list[tuple[str, str]]:
    """Cell and name for each vessel beside the tanks: a pump's well where it has one, else what comes
    nearest its rim.
    """
    homes = {t.id for t in analysis.system.tanks}
    found = []
    for vessel in analysis.vessels.values():
        if vessel.id in homes or vessel.passes_to:
            continue
        if vessel.ports:
            name = "pump chamber" if "pump" in vessel.ports else within(vessel.name)
            found.append((vessel.port("pump").leave, name))
        else:
            own = [c for c in analysis.network.cells if c.owner == vessel.id]
            nearest = min(own, key=lambda c: c.rim - history.peak(c.id)[0])
            found.append((nearest.id, within(vessel.name)))
    return found
