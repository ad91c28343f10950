"""How the spectrum is shown: bins that are evenly spaced in log frequency."""

DISPLAY_BINS = 96
DISPLAY_LOW_HZ, DISPLAY_HIGH_HZ = 30.0, 16_000.0
