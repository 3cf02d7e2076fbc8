"""Water from outside: a float valve on a reservoir or on the mains, or a constant drip with an overflow to waste."""
