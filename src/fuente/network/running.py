"""The running state: levels at which every chamber takes in what it gives off."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from fuente.errors import SolveError
from fuente.network.assembly import Assembly
from fuente.network.model import NOTHING, Network, Solution
from fuente.network.settling import follow

_TOLERANCE = 2e-14  # m³/s
_FLOWS = 1e-11  # m³/s: what is less is no way of the water


def steady(
    network: Network,
    start: Mapping[str, float] | None = None,
    flows: Mapping[str, float] = NOTHING,
    *,
    guessed: bool = False,
) -> Solution:
    """Levels with the marked cells held where the builder marked them.

    Damped Newton from ``start`` (levels by cell id, of an earlier solution) or from nearly full cells; where that
    fails, pseudo-transient continuation, which follows the water in implicit steps and so always goes somewhere, and
    Newton from there. ``flows`` are those of a state near by, as for Assembly. Raises SolveError when the water finds
    no steady state. A ``guessed`` start is of another design: where nothing flows it decides nothing.
    """
    if not network.marks and not any(cell.source for cell in network.cells):
        raise SolveError("No running level is marked: mark one in the pump chamber.")
    assembly = Assembly(network, flows)
    held = assembly.sinks.copy()
    z = assembly.start()
    if start:
        for i, cell in enumerate(network.cells):
            z[i] = start.get(cell.id, z[i])
    for cell_id, level in network.marks.items():
        z[network.index[cell_id]] = level
        held[network.index[cell_id]] = True
    free = ~held
    if not free.any():
        return _pack(assembly, z, free, 0)
    count = 0
    if start:
        z_try, used, done = _newton(assembly, z, free, 12)
        count += used
        if done and not (guessed and _stands_as_guessed(assembly, z_try, free)):
            return _pack(assembly, z_try, free, count)
        if guessed:
            return steady(network)
    volumes = assembly.stored(z)[0].copy()
    volumes[assembly.sinks] = 0.0
    z, _, used = follow(assembly, z, volumes, free, careful=False)
    count += used
    z_try, used, done = _newton(assembly, z, free, 40)
    count += used
    if not done:
        net, _ = assembly.balance(z_try)
        if float(np.abs(net[free]).max()) > 1e-9:
            raise SolveError("No steady water levels were found for this design; change the last thing you changed.")
    return _pack(assembly, z_try, free, count)


def _stands_as_guessed(assembly: Assembly, z: np.ndarray, free: np.ndarray) -> bool:
    """Whether nothing flows through a cell, so that it could as well stand at another level; z in m."""
    through = np.zeros(assembly.size)
    flows = np.abs(assembly.way_flows(z))
    ends = assembly.network.way_ends
    for side in (0, 1):
        within = ends[:, side] < assembly.size  # pipes also meet where no cell is
        np.add.at(through, ends[within, side], flows[within])
    return bool((through[free] < _FLOWS).any())


def _newton(assembly: Assembly, z: np.ndarray, free: np.ndarray, most: int) -> tuple[np.ndarray, int, bool]:
    """Newton with a backtracking line; levels, iterations, and whether it converged."""
    at = z.copy()
    net, jac = assembly.balance(at)
    norm = float(np.abs(net[free]).max())
    which = np.flatnonzero(free)
    size = len(which)
    inner = (which[:, None] * len(free) + which).ravel()
    polished = False
    for count in range(1, most + 1):
        # One step more than is needed: from wherever Newton came, its last digits are then the same.
        if norm < _TOLERANCE and polished:
            return at, count, True
        polished = norm < _TOLERANCE
        matrix = jac.take(inner).reshape(size, size)
        # A chamber that stands below its crest has no slope: a whisper of storage keeps the matrix regular.
        matrix.flat[:: size + 1] -= 1e-12
        try:
            change = np.linalg.solve(matrix, -net[free])
        except np.linalg.LinAlgError:
            return at, count, False
        biggest = float(np.abs(change).max())
        if not np.isfinite(biggest) or biggest > 5.0:
            return at, count, False
        share = 1.0
        for _ in range(8):
            trial = at.copy()
            trial[free] += share * change
            net_try, jac_try = assembly.balance(trial)
            norm_try = float(np.abs(net_try[free]).max())
            if norm_try < norm or norm_try < _TOLERANCE:
                break
            share /= 2
        else:
            return at, count, norm < 1e-12
        if polished and norm_try > norm:
            return at, count, True
        if biggest * share < 1e-15:
            return trial, count, True
        at, net, jac, norm = trial, net_try, jac_try, norm_try
    return at, most, norm < 1e-12


def _pack(assembly: Assembly, z: np.ndarray, free: np.ndarray, count: int) -> Solution:
    volumes, _ = assembly.storage(z)
    volumes[assembly.sinks] = 0.0
    net, _ = assembly.balance(z)
    dry = free & (volumes < 0)
    if dry.any():
        # Where no water comes there is no slope, and Newton stops anywhere under a floor: what is dry stands at it.
        at = z.copy()
        at[dry] = [cell.floor for cell, is_dry in zip(assembly.network.cells, dry, strict=True) if is_dry]
        dry_net, _ = assembly.balance(at)
        if np.abs(dry_net[free]).max() < 1e-12:
            z, net = at, dry_net
            volumes[dry] = 0.0
    stored = volumes + assembly.piped(z)[0]
    return assembly.solution(z, stored, float(np.abs(net[free]).max()) if free.any() else 0.0, count)
