"""Where the water comes to rest, or to a steady flow, from a given state.

Implicit Euler on dV/dt = ΣQ with a step that grows as long as Newton finds it easy, from a second to many days. Every
step keeps the water; the end is either still water or a flow that no longer changes anything. What is spilled stays
spilled.
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from fuente.errors import SolveError
from fuente.network.assembly import Assembly
from fuente.network.model import FLOOR, NOTHING, Network, Solution
from fuente.network.steps import LEAPT, advance, double_step

_FIRST = 0.5  # s
_SHARE = 4e-3  # m a step may be off while the water moves: where it can go two ways, this decides the share
_SLOW = 1e-4  # m/s: from here on nothing pours, it only drains and evens out
_LAST = 3e5  # s: the tail of a draining weir is then a few micrometres high
_LEAPS = 4  # at most, until a last one moves less than
_TAIL = 1e-6  # m: what then is left to move is a twentieth of that
_DIGITS = 12  # of a start's levels in m: the last ones are how near a solver came to them
_NARROW = 0.01  # m under a rim from which on a passing wave may spill
_TELLS = 1e-9  # m³/s: what is less moves nothing that matters
_FEELS = 1e-9  # m²/s: how far a level must sway another's flow for the two to be in touch
_FILLS = 1e-3  # m a level rises by where a cell takes water that matters
_LEAST_COMING = 1e-9  # m³
_COMES_WITHIN = 5.0  # s
_RATE_DIGITS = 9
_PASSED = 1e-6  # m³ of a leap: under that, a way's flow is the rounding of two equal levels
_STILL = 1e-12  # m/s: less than a millimetre in thirty years


def settle(
    network: Network,
    start: Mapping[str, float],
    guess: Mapping[str, float] | None = None,
    flows: Mapping[str, float] = NOTHING,
    piped: Mapping[str, float] | None = None,
) -> Solution:
    """Follow the water from levels (cell id → m) until it changes no more. Sinks start empty.

    ``piped`` is what stands in pipes at the start, m³ by the cell to which it comes down, where that is not what this
    network's own would hold at these levels: those of a pump that has just stopped are full.

    Where its rest does not depend on the way there, one implicit step leaps to the end; elsewhere the way is followed.
    Which of the two is decided by what the water does and never by ``guess``, the end of a similar case, from which the
    leap is tried first: an answer is the same with and without it. ``flows`` are those of a state near by, as for
    Assembly. Water is kept to 1e-12 of the total. Raises SolveError where no step converges.
    """
    assembly = Assembly(network, flows)
    z = np.round([start.get(cell.id, cell.floor) for cell in network.cells], _DIGITS)
    volumes = begun(assembly, z, piped)
    total = float(volumes.sum())
    coming = Coming.between(assembly, z, volumes, flows)
    free = ~assembly.sinks
    if any(group.forks for group in network.groups):
        assembly = Assembly(network)
        at, stored, count = follow(assembly, z, volumes, free, coming=coming)
        return _finish(assembly, *_run_out(assembly, at, stored, free), total, count)
    near = z
    if guess is not None:
        near = np.array([guess.get(c.id, at) for c, at in zip(network.cells, z.tolist(), strict=True)])
        near = np.where(free, near, z)  # what was spilled in that case is none of this one's
    leapt, count = _leap(assembly, z, volumes, free, near, grope=guess is not None)
    if leapt is not None and not depends_on_the_way(assembly, z, *leapt):
        return _finish(assembly, *_run_out(assembly, *leapt, free), total, count)
    assembly = Assembly(network)  # without another state's flows: the way is the same whatever is known
    at, stored, used = follow(assembly, z, volumes, free, coming=coming)
    count += used
    if leapt is None:
        leapt, used = _leap(assembly, z, volumes, free, at)
        count += used
        if leapt is not None and not depends_on_the_way(assembly, z, *leapt):
            at, stored = leapt
    return _finish(assembly, *_run_out(assembly, at, stored, free), total, count)


def begun(assembly: Assembly, z: np.ndarray, piped: Mapping[str, float] | None) -> np.ndarray:
    """Water in m³ of every cell with its pipes at levels in m; sinks are empty. ``piped`` as for settle."""
    if piped is None:
        volumes = assembly.stored(z)[0].copy()
    else:
        volumes, _ = assembly.storage(z)
        for key, held in piped.items():
            volumes[assembly.network.index[key]] += held
    volumes[assembly.sinks] = 0.0
    return volumes


class Coming:
    """Water in pipes that hold it no longer: it comes down as fast as it ran in them, or within five seconds."""

    def __init__(self, left: np.ndarray, rate: np.ndarray):
        """What is left in m³ by cell, and how fast it comes, m³/s."""
        self.left, self.rate = left, rate

    @classmethod
    def none(cls, assembly: Assembly) -> Coming:
        """Nothing."""
        return cls(np.zeros(assembly.size), np.zeros(assembly.size))

    @classmethod
    def between(cls, assembly: Assembly, z: np.ndarray, volumes: np.ndarray, flows: Mapping[str, float]) -> Coming:
        """What cells with their pipes hold over what they would at these levels in m; flows m³/s as they ran."""
        left = np.maximum(volumes - assembly.stored(z)[0], 0.0)
        left[assembly.sinks | (left < _LEAST_COMING)] = 0.0
        rate = np.zeros(assembly.size)
        ids = assembly.network.way_ids
        for _, _, _, to, i in assembly.network.piped:
            rate[to] += abs(flows.get(ids[i], 0.0))
        # At least the last digit: what is left of a pipe comes down as well.
        return cls(
            left, np.maximum(np.round(np.maximum(rate, left / _COMES_WITHIN), _RATE_DIGITS), 10.0**-_RATE_DIGITS)
        )

    def __bool__(self) -> bool:
        return bool((self.left > 0).any())

    @property
    def longest(self) -> float:
        """Time in s until the first of them has come down."""
        on = self.left > 0
        return float((self.left[on] / self.rate[on]).min()) if on.any() else np.inf

    def flow(self) -> np.ndarray:
        """What comes now, m³/s by cell."""
        return np.where(self.left > 0, self.rate, 0.0)

    def pass_by(self, step: float) -> None:
        """After a step in s, no longer than ``longest``."""
        left = self.left - step * self.flow()
        self.left = np.where(left > _LEAST_COMING, left, 0.0)


def _leap(
    assembly: Assembly, z: np.ndarray, volumes: np.ndarray, free: np.ndarray, near: np.ndarray, grope: bool = True
) -> tuple[tuple[np.ndarray, np.ndarray] | None, int]:
    """Levels and volumes at the end of one step that leaps there from a guess near its end, and the iterations that it
    took; None where it does not close. Where nothing is known of the end it does not ``grope`` for it: to follow the
    water is quicker.
    """
    count = 0
    for careful in (False, True) if grope else (False,):
        tried = advance(assembly, z, volumes, LEAPT, free, near, leap=careful)
        count += tried[2]
        if tried[3]:
            return (tried[0], tried[1]), count
    return None, count


def depends_on_the_way(assembly: Assembly, z: np.ndarray, end: np.ndarray, stored: np.ndarray) -> bool:
    """Whether water that rests at ``end``, by one leap from ``z``, could rest elsewhere by the way that it takes.

    It can where something spills, or nearly does, so that a passing wave would; and where water that leaves a cell can
    come to rest in one of several places, as then the shares count by which it parts.
    """
    network = assembly.network
    if FLOOR in network.index and stored[network.index[FLOOR]] > _PASSED:
        return True
    higher = np.maximum(z, end)
    for link, (_, a, _) in zip(network.links, network.ends, strict=True):
        if link.b == FLOOR and higher[a] > network.cells[a].rim - _NARROW:
            return True
    ends = network.way_ends
    n = int(ends.max(initial=0)) + 1

    def leads(state: np.ndarray, least: float) -> np.ndarray:
        flows = assembly.way_flows(state)
        found = np.eye(n, dtype=bool)
        found[tuple(ends[flows > least].T)] = True
        found[tuple(ends[flows < -least, ::-1].T)] = True
        return found

    def onward(steps: np.ndarray) -> np.ndarray:
        for _ in range(n.bit_length()):
            steps = steps @ steps
        return steps

    finally_ = leads(end, _PASSED / LEAPT)
    _, slopes = assembly.balance(end)
    feels = np.zeros((n, n), dtype=bool)
    feels[: len(slopes), : len(slopes)] = slopes > _FEELS
    finally_ |= feels & feels.T  # what stands in touch at the end is one water
    reached = onward(finally_)
    both = reached & reached.T
    rests = ~(reached & ~both).any(axis=1)  # places that nothing leaves any more
    rests[len(slopes) :] = False  # where pipes meet nothing can stay
    first = rests & (both.argmax(axis=1) == np.arange(n))  # of places in touch the first stands for all
    ever = finally_ | leads(z, _TELLS)
    places = onward(ever) @ both[:, first]
    # What stays in the one cell where it was has had no choice.
    alone = rests & (both.sum(axis=1) == 1)
    if (places.sum(axis=1) - alone > 1).any():
        return True
    # Cells in touch of which one fills and one runs out elsewhere: what has run out before does not fill.
    rises = np.zeros(n, dtype=bool)
    rises[: len(slopes)] = end - z > _FILLS
    if ((both & ~np.eye(n, dtype=bool)) @ rises & (ever & ~both).any(axis=1)).any():
        return True
    # For a moment a cell may stand as high as those that it ends in touch with did, and another as low as it ever does:
    # what then runs between two ponds, and neither at first nor at last, is a way of its own.
    size = len(slopes)
    ponds = onward((feels & feels.T) | np.eye(n, dtype=bool))[:size, :size]
    wave = np.where(ponds, higher[None, :], -np.inf).max(axis=1).tolist()
    low = np.minimum(z, end).tolist()
    for law, a, b in network.ends:
        if both[a, b] or assembly.sinks[a] or assembly.sinks[b]:
            continue
        if not ever[a, b] and law.flow(wave[a], low[b])[0] > _TELLS:
            return True
        if not ever[b, a] and law.flow(low[a], wave[b])[0] < -_TELLS:
            return True
    return False


def _run_out(assembly: Assembly, z: np.ndarray, volumes: np.ndarray, free: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """What still trickles over a crest or into a standpipe has run out: how high that stands is told by the steps so
    far, whole years forget it.
    """
    for _ in range(_LEAPS):
        at, stored, _, solved = advance(assembly, z, volumes, LEAPT, free)
        if not solved:  # rounding, not water, is what keeps it from closing
            break
        moved = float(np.abs(at - z).max())
        z, volumes = at, stored
        if moved < _TAIL:
            break
    return z, volumes


def _finish(assembly: Assembly, z: np.ndarray, volumes: np.ndarray, total: float, count: int) -> Solution:
    # Rounding, far under a thousandth of a millilitre, goes to the largest body of water.
    largest = int(np.argmax(volumes))
    volumes[largest] += total - float(volumes.sum())
    net, _ = assembly.balance(z)
    return assembly.solution(z, volumes, float(np.abs(net[~assembly.sinks]).max()), count)


def follow(
    assembly: Assembly,
    z: np.ndarray,
    volumes: np.ndarray,
    free: np.ndarray,
    careful: bool = True,
    coming: Coming | None = None,
) -> tuple[np.ndarray, np.ndarray, int]:
    """Step by growing steps until the water changes no more; cells that are not free stay as they are, but for sinks.

    Careful steps keep the way of the water; others only care for where it ends. ``coming`` is the part of the volumes
    that is still on its way down in pipes.
    """
    count, step = 0, _FIRST
    pace = np.inf  # m/s of the fastest level in the last step
    coming = coming or Coming.none(assembly)
    volumes = volumes - coming.left
    while careful and (coming or pace > _SLOW or step < 1.0):
        step = min(step, coming.longest)
        tried = double_step(assembly, z, volumes, step, coming.flow())
        count += 12
        if tried is None or (tried[2] > _SHARE and step > 1e-3):
            step /= 3.0
            if step < 1e-7 or count > 4000:
                break  # the plain steps below halve themselves as far as need be
            continue
        pace = float(np.abs(tried[0] - z).max()) / step
        z, volumes = tried[0], tried[1]
        coming.pass_by(step)
        step *= min(4.0, max(0.5, 0.8 * (_SHARE / max(tried[2], 1e-12)) ** 0.5))
        if step >= _LAST:
            break
    volumes = volumes + coming.left
    while True:
        at, stored, used, solved = advance(assembly, z, volumes, step, free)
        count += used
        if count > 4000:
            raise SolveError("The water finds no rest: the levels keep moving. Change the last thing you changed.")
        if solved:
            moved = float(np.abs(at - z).max())
            z, volumes = at, stored
            pace = moved / step
            if step >= _LAST or pace < _STILL:
                return z, volumes, count
            step = min(step * (30.0 if moved < 1e-4 else 6.0 if used <= 4 else 2.5), _LAST)
        else:
            if pace < 100 * _STILL:  # rounding, not water, is what keeps the last steps from closing
                return z, volumes, count
            step /= 5.0
            if step < 1e-7:
                raise SolveError("The water levels could not be followed; this is Fuente's fault, not the design's.")
