"""What keeps a hollow thing down."""

from __future__ import annotations

STONE = 2600.0  # kg/m³


def ballast(
    shell: float, shell_mass: float, solids: float, solids_mass: float, margin: float = 1.3, water: float = 1000.0
) -> tuple[float, float]:
    """Lift in kg of a flooded hollow body, and the stone in kg that holds it down ``margin`` times over.

    Volumes in m³ of its walls and of what stands in it, masses in kg. Water fills the rest and weighs nothing in water.
    """
    lift = water * (shell + solids) - shell_mass - solids_mass
    wanted = max(margin * lift, 0.0)
    return max(lift, 0.0), wanted / (1 - water / STONE)
