"""Properties of the water itself."""
