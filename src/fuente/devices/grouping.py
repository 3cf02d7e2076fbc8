"""What a card's further fields are about, so that they stand under heads: by the names that fields of all kinds share.

Of a path the first part counts: ``feed.pump.watts`` is about the water in, ``pump.watts`` about the pump.
"""

from __future__ import annotations

from fuente.devices.base import Choice

WATER_IN, WATER_OUT, PUMP, AIR = "Water in", "Water out", "Pump", "Air"
MEDIA, LIFE, WARMTH, RULES, PLACE, VESSEL = (
    "Media",
    "Animals and feed",
    "Warmth and light",
    "Your rules",
    "Place",
    "Vessel",
)
# In the order in which a builder asks for them.
ORDER = (MEDIA, WATER_IN, WATER_OUT, PUMP, AIR, LIFE, WARMTH, VESSEL, PLACE, RULES)

_WORDS = {
    WATER_IN: "intake source hose bores sponge hang over hold",
    WATER_OUT: "drain drains outlet outlets release back back_bores back_length waste exit fittings run screen strainer"
    " riser tank into chamber spout lip edge vent tubes loops rows flush flush_run sleeve loss pipe end style",
    PUMP: "pump feeders correction leak stages",
    AIR: "injector entry airline drops loop bore pumps band cap_hole cap_holes",
    MEDIA: "media medium layers pads foam ppi dirt void submerged roll age grid squeeze socks drums fill dividers load"
    " shoulder base dam gap_height",
    LIFE: "stock protein ration heads body animal",
    WARMTH: "heaters heater_watts temperature cover light plants planted apart",
    RULES: "schools",
    PLACE: "name stand offset at",
}
_GROUPS = {word: group for group, words in _WORDS.items() for word in words.split()}
_STEPS = ("chambers", "rows", "branches")  # what is in them counts, not that it is


def group_of(choice: Choice) -> str:
    """The head under which a field stands."""
    words = [str(p) for p in choice.path if not isinstance(p, int)]
    if words[:1] == ["schools"]:
        return RULES
    own = words[2:] if words[:1] == ["devices"] else words
    own = [w for w in own if w not in _STEPS] or own
    if own[:1] == ["feed"]:
        return WATER_IN if len(own) > 1 else LIFE
    if own[:1] == ["exit"] and len(own) > 1:
        return WATER_OUT
    if own == ["length"] and choice.quantity == "run":  # of a hose; a vessel's own is one of its sizes
        return WATER_IN
    return _GROUPS.get(own[0], VESSEL) if own else VESSEL


def grouped(choices: list[Choice]) -> list[tuple[str, list[Choice]]]:
    """Fields under their heads, in the heads' order; those of one head in their own."""
    found: dict[str, list[Choice]] = {}
    for choice in choices:
        found.setdefault(group_of(choice), []).append(choice)
    return [(group, found[group]) for group in ORDER if group in found]
