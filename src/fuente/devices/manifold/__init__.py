"""A manifold: one or more pumps, rows of pipe, and a branch with its valve for every tank."""
