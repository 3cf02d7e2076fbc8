"""The quick answers of living water: what each asks for and tells."""

from __future__ import annotations

from fuente.answers.life import (
    carbon,
    carries,
    drip,
    evaporation,
    heater,
    heater_stuck,
    hours_of_air,
    nitrate,
    oxygen,
    start_dose,
    water_change,
)
from fuente.answers.question import Answer, Input, Output

_VOLUME = Input("volume", "volume", "Water")


_FEED = Input("feed", "feed", "Feed")


_PROTEIN = Input("protein", "fraction", "Protein in the feed", "45 %")


_WARM = Input("temperature", "temperature", "Water temperature", "25 degC")


_ROOM = Input("room", "temperature", "Room", "20 degC")


_GLASS = Input("glass", "area", "Wetted glass")


_SURFACE = Input("surface", "area", "Open surface")


_NEW = Input("new", "concentration", "Nitrate of new water (NO₃)", "5 mg/L")


LIFE = (
    Answer(
        "oxygen",
        "Oxygen that water holds",
        (
            Input("temperature", "temperature", "Water temperature"),
            Input("salinity", "salinity", "Salinity", "0 g/kg"),
            Input("altitude", "run", "Height above the sea", "0 m"),
        ),
        (Output("saturation", "concentration", "at most"), Output("four_fifths", "concentration", "four fifths of it")),
        oxygen,
        ("saturation", "air", "dissolved"),
    ),
    Answer(
        "drip",
        "New water by a drip",
        (
            _VOLUME,
            Input("rate", "flow", "Drip"),
            Input("made", "feed", "Nitrogen made", "0 g/day"),
            Input("nitrate", "concentration", "Nitrate now (NO₃)", "0 mg/L"),
            Input("new", "concentration", "Nitrate of new water (NO₃)", "0 mg/L"),
            Input("days", "days", "After", "7 days"),
        ),
        (
            Output("share", "percent", "of the water a day"),
            Output("renewed", "percent", "renewed a day"),
            Output("stands", "concentration", "nitrate in the long run"),
            Output("after", "concentration", "nitrate by then"),
            Output("litres", "volume", "a week"),
        ),
        drip,
        ("continuous", "overflow", "water change"),
    ),
    Answer(
        "water-change",
        "A water change",
        (
            _VOLUME,
            Input("share", "fraction", "Changed"),
            Input("nitrate", "concentration", "Nitrate before (NO₃)", "40 mg/L"),
            _NEW,
            _WARM,
            Input("cold", "temperature", "New water", "18 degC"),
        ),
        (
            Output("litres", "volume", "of new water"),
            Output("after", "concentration", "nitrate after it"),
            Output("cools", "number", "K colder"),
            Output("heat", "energy", "to warm it"),
        ),
        water_change,
        ("bucket", "nitrate"),
    ),
    Answer(
        "heater",
        "Heater for a tank",
        (
            _GLASS,
            _SURFACE,
            Input("temperature", "temperature", "Water kept at", "25 degC"),
            Input("coldest", "temperature", "Coldest room", "16 degC"),
        ),
        (
            Output("watts", "power", "in the coldest room"),
            Output("each_of_two", "power", "each of two"),
            Output("per_kelvin", "number", "W lost for each K"),
        ),
        heater,
        ("watts", "warm", "heat"),
    ),
    Answer(
        "heater-stuck",
        "A heater stuck on",
        (
            _VOLUME,
            _GLASS,
            _SURFACE,
            Input("watts", "power", "Heater"),
            Input("temperature", "temperature", "Water kept at", "25 degC"),
            _ROOM,
        ),
        (Output("ends", "temperature", "where it ends"), Output("hours", "hours", "until 3 K over")),
        heater_stuck,
        ("thermostat", "overheat", "fail"),
    ),
    Answer(
        "evaporation",
        "Water lost to the air",
        (
            Input("area", "area", "Surface"),
            _WARM,
            _ROOM,
            Input("humidity", "fraction", "Air humidity", "50 %"),
            Input("cover", "fraction", "Covered", "0 %"),
        ),
        (Output("a_day", "volume", "a day"), Output("a_week", "volume", "a week")),
        evaporation,
        ("top-up", "dries"),
    ),
    Answer(
        "start-dose",
        "Ammonia to start without animals",
        (
            _VOLUME,
            Input("target", "concentration", "Ammonia nitrogen", "2 mg/L"),
            Input("strength", "fraction", "Ammonia in the solution", "10 %"),
            Input("ph", "number", "pH", "7.5"),
            _WARM,
        ),
        (
            Output("solution", "small_volume", "of solution"),
            Output("salt", "dose", "or of ammonium chloride"),
            Output("nitrogen", "dose", "of nitrogen"),
            Output("free", "concentration", "free ammonia"),
        ),
        start_dose,
        ("fishless", "cycle", "ammonium chloride"),
    ),
    Answer(
        "carbon",
        "Carbon for a tank",
        (
            _VOLUME,
            Input("dose", "number", "Grams a litre", "1"),
            Input("life", "days", "Lasts", "42 days"),
        ),
        (
            Output("mass", "dose", "of carbon"),
            Output("half", "dose", "swapped at once"),
            Output("swap", "days", "from swap to swap"),
        ),
        carbon,
        ("chemical", "activated"),
    ),
    Answer(
        "hours-of-air",
        "Hours of oxygen in a power cut",
        (
            _VOLUME,
            _SURFACE,
            _FEED,
            _WARM,
            Input("least", "concentration", "Oxygen, at least", "4 mg/L"),
            _PROTEIN,
            Input("begins", "fraction", "Oxygen at first, of saturation", "90 %"),
        ),
        (
            Output("hours", "hours", "with everything off"),
            Output("half_stock", "hours", "with half the animals"),
            Output("use", "feed", "of oxygen used"),
            Output("battery", "air_flow", "of air holds it"),
        ),
        hours_of_air,
        ("power cut", "battery", "suffocate"),
    ),
    Answer(
        "carries",
        "Feed that a surface carries",
        (
            Input("area", "area", "Living surface"),
            _WARM,
            Input("ammonia", "concentration", "Ammonia nitrogen lived with", "0.5 mg/L"),
            _PROTEIN,
            Input("salinity", "salinity", "Salinity", "0 g/kg"),
        ),
        (Output("feed", "feed", "of feed"), Output("nitrogen", "feed", "of nitrogen turned over")),
        carries,
        ("load", "stock", "media"),
    ),
    Answer(
        "nitrate",
        "To keep nitrate under a limit",
        (
            _VOLUME,
            _FEED,
            Input("limit", "concentration", "Limit (NO₃)", "40 mg/L"),
            _NEW,
            Input("interval", "days", "Changed every", "7 days"),
            _PROTEIN,
        ),
        (
            Output("share", "percent", "changed each time"),
            Output("litres", "volume", "each time"),
            Output("drip", "percent", "or dripped a day"),
            Output("plants", "area", "or of marsh plants"),
            Output("rises", "concentration", "rise from change to change"),
        ),
        nitrate,
        ("water change", "plants"),
    ),
)
