"""Glass and acrylic plates, weights and loads."""
