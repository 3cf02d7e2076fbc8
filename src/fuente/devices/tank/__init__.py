"""A glass or acrylic tank that somebody lives in."""
