"""Instruments: a simulated controller, its protocol, and what is recorded of it. Nothing real is switched."""
