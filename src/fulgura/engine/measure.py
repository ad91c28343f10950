"""What the engine measures of itself: the newest minute of a number, and its percentiles."""

import numpy as np


class Minute:
    """The newest numbers in a ring; adding one costs nothing to speak of. Values are seconds, answers
    milliseconds.
    """

    def __init__(self, length: int) -> None:
        self.ring = np.zeros(length)
        self.count = 0

    def add(self, seconds: float) -> None:
        self.ring[self.count % len(self.ring)] = seconds
        self.count += 1

    def clear(self) -> None:
        self.count = 0

    def percentiles_ms(self) -> dict[str, float]:
        """p50, p95, p99, max and how many numbers they are of; empty when there are none."""
        if self.count == 0:
            return {}
        values = self.ring[: self.count] * 1000.0
        p50, p95, p99 = np.quantile(values, (0.5, 0.95, 0.99))
        return {
            "p50": float(p50),
            "p95": float(p95),
            "p99": float(p99),
            "max": float(values.max()),
            "of": len(values),
        }
