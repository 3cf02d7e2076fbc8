"""A pump, its rising pipe and the outlets in a tank."""
