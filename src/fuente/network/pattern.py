"""Sparse matrices of one shape, factored again and again: an order in which they fill up little is found once."""

from __future__ import annotations

import threading
from collections.abc import Callable
from functools import lru_cache
from typing import Protocol

import numpy as np

from fuente.errors import SolveError


class Sloped(Protocol):
    """What has slopes at places that stay the same."""

    @property
    def size(self) -> int:
        """Number of values."""
        ...

    @property
    def entries(self) -> tuple[np.ndarray, np.ndarray]:
        """Rows and columns of the slopes that may differ from nothing; the diagonal is among them."""
        ...


def pattern_of(system: Sloped) -> Pattern:
    """Of a system's slopes; the same for all of one shape."""
    rows, columns = system.entries
    return _known(rows.astype(np.int64).tobytes(), columns.astype(np.int64).tobytes(), system.size)


@lru_cache(maxsize=16)
def _known(rows: bytes, columns: bytes, size: int) -> Pattern:
    return Pattern(np.frombuffer(rows, dtype=np.int64), np.frombuffer(columns, dtype=np.int64), size)


class Pattern:
    """A sparse matrix d − J by its entries, in an order in which it fills up little; d on the diagonal.

    What nothing else goes by, as sums do, is left out of the factors and follows from the rest.
    """

    def __init__(self, rows: np.ndarray, columns: np.ndarray, size: int):
        from scipy.sparse import csc_matrix
        from scipy.sparse.linalg import splu

        self.size = size
        leads = np.zeros(size, dtype=bool)
        leads[columns] = True
        self._leads, self._follows = np.nonzero(leads)[0], np.nonzero(~leads)[0]
        place = np.cumsum(leads) - 1
        self._kept = np.nonzero(leads[rows])[0]
        self._summed = np.nonzero(~leads[rows])[0]
        self._into = (np.cumsum(~leads) - 1)[rows[self._summed]]
        self._of = place[columns[self._summed]]
        count = self._leads.size
        diagonal = np.arange(count)
        all_rows = np.concatenate((place[rows[self._kept]], diagonal))
        all_columns = np.concatenate((place[columns[self._kept]], diagonal))
        heavy = np.where(all_rows == all_columns, float(size), -1.0)
        first = csc_matrix((heavy, (all_rows, all_columns)), shape=(count, count))
        order = splu(first, permc_spec="MMD_AT_PLUS_A").perm_c
        self._order = order
        self._back = self._leads[np.argsort(order)]
        flat = order[all_columns].astype(np.int64) * count + order[all_rows]
        places, self._slot = np.unique(flat, return_inverse=True)
        self._within = (places % count).astype(np.int32)
        self._starts = np.searchsorted(places // count, np.arange(count + 1)).astype(np.int32)
        self._own = threading.local()

    def factored(self, slopes: np.ndarray, diagonal: float | np.ndarray) -> Callable[[np.ndarray], np.ndarray]:
        """What solves for right sides, with d on the diagonal."""
        from scipy.sparse import csc_matrix
        from scipy.sparse.linalg import splu

        d = np.broadcast_to(diagonal, self.size)
        count = self._leads.size
        values = np.concatenate((-slopes[self._kept], d[self._leads]))
        added = np.bincount(self._slot, values, self._within.size)
        matrix = getattr(self._own, "matrix", None)
        if matrix is None:  # one for each thread: to look through its places each time takes as long as to factor it
            matrix = self._own.matrix = csc_matrix((added, self._within, self._starts), shape=(count, count))
        matrix.data = added
        try:
            # The order holds where the diagonal is kept wherever it is a tenth of its column: with full pivoting three
            # times as much fills in.
            solve = splu(matrix, permc_spec="NATURAL", diag_pivot_thresh=0.1, relax=1, panel_size=4).solve
        except RuntimeError:  # exactly singular: nothing pulls on some value
            raise SolveError("The water comes to no steady state in which everything stays as it is.") from None
        summed, below = slopes[self._summed], d[self._follows]

        def solved(right: np.ndarray) -> np.ndarray:
            led = solve(right[self._back])[self._order]
            found = np.empty(self.size)
            found[self._leads] = led
            more = np.bincount(self._into, summed * led[self._of], self._follows.size)
            found[self._follows] = (right[self._follows] + more) / below
            return found

        return solved
