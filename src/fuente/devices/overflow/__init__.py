"""An overflow box inside a tank, with its teeth and the drains that fall to a filter."""
