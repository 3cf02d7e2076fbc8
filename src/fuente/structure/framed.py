"""Plywood walls on upright battens: the board as a strip between two of them, each batten as a beam.

Estimates for planning: boards, timber, glue and screws differ widely, and damp weakens all of them.
"""

from __future__ import annotations

import math

from fuente.errors import EntryError
from fuente.structure.plates import MATERIALS, PlateResult
from fuente.water.properties import GRAVITY

# Graded softwood under years of load in damp: typical bending strength and modulus, less what long load and wet take.
TIMBER_STRESS = 8.0e6  # Pa
TIMBER_E = 8.0e9  # Pa
BOW = 1 / 250  # of the span
WIDE = 0.045  # m, the narrow side of a usual batten


def ply_strip(depth: float, thickness: float, apart: float, *, density: float = 1000.0) -> PlateResult:
    """Plywood between two battens ``apart`` m (middle to middle), under water ``depth`` m deep at its foot: a beam on
    two supports, M = p·a²/8 and w = 5p·a⁴/(384EI); boards that run over several battens bear more.

    >>> round(1000 * ply_strip(0.6, 0.018, 0.4).needed, 1)
    10.8
    """
    if min(depth, thickness, apart) <= 0:
        raise EntryError("A framed wall needs a depth, a thickness and a distance of its battens above nothing.")
    board = MATERIALS["plywood"]
    load = density * GRAVITY * depth  # Pa
    moment = load * apart**2 / 8
    by_stress = math.sqrt(6 * moment / board.allowable)
    by_bow = float((12 * 5 * load * apart**3 / (384 * board.modulus * BOW)) ** (1 / 3))
    stress = 6 * moment / thickness**2
    bow = 5 * load * apart**4 / (384 * board.modulus * thickness**3 / 12)
    return PlateResult(max(by_stress, by_bow), stress, bow, board.strength / stress)


def batten_depth(depth: float, apart: float, held: bool, *, density: float = 1000.0, wide: float = WIDE) -> float:
    """How deep a batten ``wide`` m wide must be, m, standing from foot to rim behind a wall under water to its brim:
    held at both ends (M = w₀L²/(9√3), w = 0.00652·w₀L⁴/EI), or at its foot alone (w₀L²/6, w₀L⁴/(30EI)).

    >>> round(1000 * batten_depth(0.6, 0.4, True)), round(1000 * batten_depth(0.6, 0.4, False))
    (30, 54)
    """
    if min(depth, apart, wide) <= 0:
        raise EntryError("A batten needs a height, a distance and a width above nothing.")
    foot = density * GRAVITY * depth * apart  # N/m
    moment = foot * depth**2 / (9 * math.sqrt(3) if held else 6)
    by_stress = math.sqrt(6 * moment / (wide * TIMBER_STRESS))
    bows = (0.00652 if held else 1 / 30) * foot * depth**3 / (TIMBER_E * BOW)
    return max(by_stress, float((12 * bows / wide) ** (1 / 3)))


def widest_apart(depth: float, thickness: float) -> float:
    """The greatest distance of battens in m that a board of a thickness in m spans."""
    low, high = 0.02, 5.0
    for _ in range(50):
        mid = (low + high) / 2
        low, high = (mid, high) if ply_strip(depth, thickness, mid).needed <= thickness else (low, mid)
    return low
