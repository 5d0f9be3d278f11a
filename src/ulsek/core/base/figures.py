"""Figures: what instruments read of a liquid, each with the bounds of its readings."""

from __future__ import annotations

MOST_G = 1e6
"""Largest mass that is accepted [g]: one tonne; also the largest volume [mL]."""
READINGS = {
    "brix_reading": (0.0, 85.0, "a refractometer reads from 0 to 85 °Bx"),
    "acid_g_100ml": (0.0, 60.0, "titratable acid lies from 0 to 60 g/100 mL"),
    "mass_g": (0.0, MOST_G, "from 0 g to a tonne"),
    "volume_ml": (0.0, MOST_G, "from 0 mL to 1 000 L"),
    "ph": (0.0, 14.0, "a meter reads from pH 0 to 14"),
    "water_activity": (0.0, 1.0, "water activity lies from 0 to 1"),
    "temperature_c": (-30.0, 200.0, "a kitchen thermometer reads from −30 to 200 °C"),
}
"""By figure: least and most that can be read, in the figure's unit, and the same in words."""
