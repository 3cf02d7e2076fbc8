"""Laws of flow: pipes, fittings, pumps, weirs, gaps, drains, pads."""
