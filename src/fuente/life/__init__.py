"""What lives in the water, and what air and warmth do to it."""
