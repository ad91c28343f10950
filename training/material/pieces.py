"""Rhythms that people wrote down: the demonstration pieces of Debian's hydrogen-data, played on any kit at
any tempo.

They are only listened to here, and no network had lessons of them: synthetic patterns are all alike, and
their fills, pauses and changes are what a live drummer's are like. A piece is an open XML file: patterns of
notes in ticks, 48 a beat, and the order in which they are played.
"""

from functools import lru_cache
from itertools import cycle, islice
from pathlib import Path

from defusedxml import ElementTree

from training.material.sampled import RECORDED, voice_of

FOLDERS = (RECORDED.parent / "demo_songs", RECORDED)
TICKS = 48
LEAST_FILLED = 4
"""A bar with fewer notes is left out: where nobody plays there is no beat to be heard."""
Stroke = tuple[str, float, float]
"""(voice, place in the bar in beats, velocity 0..1)."""


def pieces() -> list[Path]:
    return sorted(
        file for folder in FOLDERS for file in (*folder.glob("*.h2song"), *folder.glob("*/*.h2song"))
    )


@lru_cache(None)
def bars(file: Path) -> list[list[Stroke]]:
    """The piece's bars of four beats, in the order they are played."""
    song = ElementTree.parse(file).getroot()
    voices = {
        instrument.findtext("id"): voice_of(instrument.findtext("name"))
        for instrument in song.iterfind(".//instrument")
        if instrument.findtext("name")
    }
    patterns: dict[str, list[Stroke]] = {}
    for pattern in song.iterfind(".//patternList/pattern"):
        notes = [
            (
                voices.get(note.findtext("instrument"), ""),
                int(note.findtext("position")) / TICKS,
                float(note.findtext("velocity")),
            )
            for note in pattern.iterfind(".//note")
        ]
        patterns[pattern.findtext("name")] = sorted(
            (note for note in notes if note[0]), key=lambda note: note[1]
        )
    played = [
        [note for name in group.iterfind("patternID") for note in patterns[name.text]]
        for group in song.iterfind(".//patternSequence/group")
    ]
    return [bar for bar in played if len(bar) >= LEAST_FILLED]


def from_bar(file: Path, first: int, count: int) -> list[list[Stroke]]:
    """So many bars from one on, over and over."""
    there = bars(file)
    return list(islice(cycle(there), first % len(there), first % len(there) + count))
