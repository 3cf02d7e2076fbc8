"""Amounts that tests share."""

LPH = 1e-3 / 3600  # m³/s in a litre an hour
