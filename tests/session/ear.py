"""A listener that writes down what a session tells."""

from __future__ import annotations


class Ear:
    """Hears everything, in order."""

    def __init__(self):
        self.heard = []

    def __getattr__(self, name):
        return lambda *said: self.heard.append((name, *said))

    def names(self):
        """What was heard, without what came with it."""
        return [h[0] for h in self.heard]
