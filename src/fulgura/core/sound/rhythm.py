"""The rhythmic part of a recording: where a steady beat begins and ends."""

from collections import Counter
from typing import Any

SURE = 0.4
"""Confidence from which the beat counts as steady."""
SHORTEST_S = 8.0
BREAK_S = 12.0
"""A break in between that is no longer than this belongs to it."""


def rhythmic_part(tempo: list[dict[str, Any]], beats: list[dict[str, Any]]) -> tuple[float, float] | None:
    """(from, to) in seconds of the longest stretch with a steady beat, from a bar's first beat to one; None
    without.

    tempo: rows with t and confidence in order; beats: rows with t and bar_position, as ``analyze`` gives
    them. The beat is known only after a while, so the stretch begins where beats were first told at the tempo
    that became sure.
    """
    sure = [row["t"] for row in tempo if row["confidence"] >= SURE]
    if not sure:
        return None
    stretches = [[sure[0], sure[0]]]
    for t in sure[1:]:
        if t - stretches[-1][1] <= BREAK_S:
            stretches[-1][1] = t
        else:
            stretches.append([t, t])
    first, last = max(stretches, key=lambda stretch: stretch[1] - stretch[0])
    within = [beat for beat in beats if first <= beat["t"] <= last]
    # The one may have been found anew on the way: what most beats agree on counts for all of them.
    length = max((beat["bar_position"] for beat in within), default=1)
    agreed = Counter((n - beat["bar_position"]) % length for n, beat in enumerate(within)).most_common(1)
    ones = [beat["t"] for n, beat in enumerate(within) if (n - 1) % length == agreed[0][0]]
    if len(ones) < 2 or ones[-1] - ones[0] < SHORTEST_S:
        return None
    return ones[0], ones[-1]
