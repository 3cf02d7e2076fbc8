"""How a wet test's volumes and what passed its ways agree."""

import numpy as np

from fuente.network.model import WayKind


def closure(history):
    """How far what passed the ways is from what the cells gained, m³ at worst, summed up from the start to any row."""
    gained = np.zeros((len(history.times), len(history.network.cells)))
    rows = [row for row, _ in history.networks] + [len(history.times)]
    for (begin, net), end in zip(history.networks, rows[1:], strict=True):
        here = slice(begin + 1, end)
        for way in net.ways:  # a hose that came off leads elsewhere from then on
            if way.a in net.index and way.kind != WayKind.AIR:
                gained[here, net.index[way.a]] -= history.passed_by(way.id)[here]
            if way.b in net.index and way.kind != WayKind.AIR:
                gained[here, net.index[way.b]] += history.passed_by(way.id)[here]
    return np.abs(history.volumes - history.volumes[0] - np.cumsum(gained, axis=0)).max()
