"""An air pump with its manifold and drops."""
