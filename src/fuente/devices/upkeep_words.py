"""What several kinds say of cleaning: rinse water and why, how foam is rinsed, what is looked at afterwards."""

from __future__ import annotations

OLD_WATER = "Rinse it in a bucket of water from the tank: tap water with chlorine kills the film on it."
TAP = "Rinse it under the tap as long as you like: nothing lives on it that you need."
SQUEEZE = "Squeeze it until the water stays light brown; not until it is clear"
PUMP_OFF = "Switch the pump off, at its plug"
PUMP_ON = "Switch it on again, and look at every level"
BUCKET = ("bucket", "towel")
READ = "Read the level difference before and after, and write both down"
SEASON = 90 * 86400.0
WEEK = 7 * 86400.0
