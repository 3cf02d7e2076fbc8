"""Fuente: design and prove home-built aquarium and pond filtration."""

__version__ = "0.1.0"
