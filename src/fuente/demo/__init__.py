"""Made-up systems to learn on: Harbour Hill Library."""

from fuente.demo.reading_room import reading_room

DEMOS = {"reading-room": reading_room}

__all__ = ["DEMOS", "reading_room"]
