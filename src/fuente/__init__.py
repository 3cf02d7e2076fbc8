"""Fuente: design and prove home-built aquarium and pond filtration."""

import os

# The solvers' matrices are small: threads of the linear algebra wait for each other longer than they work.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

__version__ = "0.1.0"
