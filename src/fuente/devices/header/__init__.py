"""A common drain under a row of tanks: a sloping pipe or an open gutter that falls to the sump."""
