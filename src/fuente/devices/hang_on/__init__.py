"""A hang-on overflow: a siphon over the rim, for tanks that nobody drills."""
