"""A section as a few primitives in millimetres, and the writers that put them on paper."""
