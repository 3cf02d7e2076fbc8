"""Keeping a system that runs: what was seen, what is due, what it means."""
