"""A glass-baffle sump: chambers in a row with baffles that the water goes over and under."""
