"""Physical constants that several formulas use."""

ZERO_C_K = 273.15
"""0 °C on the thermodynamic scale [K]; exact by the definition of the degree Celsius."""
GAS_J_MOL_K = 8.314462618
"""Molar gas constant R [J/(mol K)]; exact since the SI of 2019, here to ten digits. Source: CODATA 2018."""
WATER_G_MOL, ETHANOL_G_MOL = 18.015, 46.068
"""Molar masses [g/mol], to 0.001. Source: IUPAC atomic weights."""
ETHANOL_G_ML = 0.78924
"""Density of pure ethanol at 20 °C [g/mL], by which strength by volume is defined. Source: OIML R 22, table I at 100 % vol."""
WATER_G_ML = 0.99820
"""Density of water at 20 °C [g/mL], to 0.00001. Source: OIML R 22, table I at 0 % vol."""
