"""The whole application started for tests and measurements, and a browser to look at it."""
