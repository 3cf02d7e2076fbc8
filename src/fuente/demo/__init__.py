"""Made-up systems to learn on: Harbour Hill Library."""

from fuente.demo.reading_room import reading_room

DEMOS = {"reading-room": reading_room}
TEXTS = {
    "reading-room": (
        "Reading-room tank",
        "Harbour Hill Library: axolotls in 377 L of cool water over a 900 mm sump. It has two flaws for you to mend.",
    )
}

__all__ = ["DEMOS", "TEXTS", "reading_room"]
