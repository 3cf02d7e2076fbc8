"""Cells of standing water, links that move it, and the solvers of both."""

from fuente.network.level_curve import LevelCurve
from fuente.network.model import Cell, Link, Network, Solution
from fuente.network.running import steady
from fuente.network.settling import settle

__all__ = ["Cell", "LevelCurve", "Link", "Network", "Solution", "settle", "steady"]
