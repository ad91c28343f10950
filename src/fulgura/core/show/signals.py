"""The signal table: every named live value that a route can start from."""

import re
from typing import Literal

import numpy as np
from pydantic import BaseModel

from fulgura.core.kinds.descriptors import DESCRIPTORS
from fulgura.core.kinds.modulator import Modulator
from fulgura.core.show.document import Show
from fulgura.core.show.inputs import MAIN, Band, HitSetting, Input

LEVEL, PEAK = "level", "peak"
BEAT, BEAT_PHASE, BAR_PHASE = "beat", "beat-phase", "bar-phase"


SignalKind = Literal["level", "hits", "phase", "descriptor", "modulator"]


class SignalInfo(BaseModel):
    """One signal as the desk shows it. pitch: 0 (low) to 1 (high) for its colour, None for beat-made ones.

    input: id of the input that it is heard in. word: what expressions and typed routes call it. by: what it
    follows.
    """

    id: str
    name: str
    kind: SignalKind
    pitch: float | None
    help: str
    input: str
    word: str = ""
    by: Literal["sound", "beat", "hand"] = "sound"

    @property
    def heard(self) -> str:
        """What its input's analysis calls it."""
        return self.id.partition("@")[0]


HIT_PITCH = {"kick": 0.05, "snare": 0.5, "hat": 0.95}


def pitch_of(low_hz: float, high_hz: float) -> float:
    """Where a band lies between 30 Hz and 16 kHz, 0..1 in octaves; sets its colour from ember to ice."""
    centre = (low_hz * high_hz) ** 0.5
    return float(np.clip(np.log2(centre / 30.0) / np.log2(16_000.0 / 30.0), 0.0, 1.0))


def signals(show: Show) -> list[SignalInfo]:
    """The signals of a show, in the order of the live block: input by input, the main one first, then the
    modulators.
    """
    heard = [signal for audio_input in show.inputs for signal in _of_input(show, audio_input)]
    inputs = {audio_input.id: audio_input.name for audio_input in show.inputs}
    taken: set[str] = set()
    for signal in heard:
        signal.word = _word(
            signal.name if signal.input == MAIN else f"{signal.name} of {inputs[signal.input]}", taken
        )
    made = []
    for modulator in show.modulators:
        kind = Modulator.kinds[modulator.part.kind]
        help = f"{kind.title or kind.__name__}: {(kind.__doc__ or '').splitlines()[0]}"
        made.append(
            SignalInfo(
                id=f"modulator-{modulator.id}",
                name=modulator.name,
                kind="modulator",
                pitch=None,
                help=help,
                input="",
                word=_word(modulator.name, taken),
                by=kind.made_by,
            )
        )
    return heard + made


def _word(name: str, taken: set[str]) -> str:
    """A name as expressions write it: “Beat phase” is beat_phase; a second one of that name gets a number."""
    word = stem = re.sub(r"[^a-z0-9]+", "_", name.lower()).strip("_") or "signal"
    if word[0].isdigit():
        word = stem = f"_{stem}"
    number = 2
    while word in taken:
        word, number = f"{stem}_{number}", number + 1
    taken.add(word)
    return word


def _between(band: Band) -> str:
    return f"between {band.low_hz:.0f} and {band.high_hz:.0f} Hz"


def _hits_of(show: Show, hit: HitSetting) -> tuple[str, float | None]:
    """(what they are called, where they lie in the spectrum, if that is known)."""
    if hit.drum:
        return hit.drum.capitalize(), HIT_PITCH[hit.drum]
    band = next((band for band in show.bands if band.id == hit.band), None)
    return (f"{band.name} hits", pitch_of(band.low_hz, band.high_hz)) if band else (hit.id, None)


def _of_input(show: Show, audio_input: Input) -> list[SignalInfo]:
    """What one input gives. Bands and hits have ids of their own; what every input has is told apart by the
    input's.
    """
    suffix = "" if audio_input.id == MAIN else f"@{audio_input.id}"

    def signal(id: str, name: str, kind: SignalKind, pitch: float | None, help: str) -> SignalInfo:
        return SignalInfo(
            id=id,
            name=name,
            kind=kind,
            pitch=pitch,
            help=help,
            input=audio_input.id,
            by="beat" if kind == "phase" or id.startswith(BEAT) else "sound",
        )

    bands = [band for band in show.bands if band.input == audio_input.id]
    places = {band.id: (pitch_of(band.low_hz, band.high_hz), _between(band)) for band in bands}
    whole = "RMS level of the whole sound, 1 is a full-scale sine."
    highest = "Highest sample of the whole sound in each frame, 1 is full."
    found = [signal(f"{LEVEL}{suffix}", "Level", "level", 0.5, whole)]
    for band in bands:
        pitch, between = places[band.id]
        found.append(signal(f"band-{band.id}", band.name, "level", pitch, f"Level {between}."))
    found.append(signal(f"{PEAK}{suffix}", "Peak", "level", 0.5, highest))
    for band in bands:
        pitch, between = places[band.id]
        help = f"Highest sample {between} in each frame."
        found.append(signal(f"peak-{band.id}", f"{band.name} peak", "level", pitch, help))
    for hit in (hit for hit in show.hits if show.input_of(hit) == audio_input.id):
        name, lies = _hits_of(show, hit)
        help = f"Each hit of {name}, as strong as it was, for one frame. Smooth it to let it ring."
        found.append(signal(f"hit-{hit.id}", name, "hits", lies, help))
    found += [signal(f"{d.id}{suffix}", d.title, "descriptor", None, d.help) for d in DESCRIPTORS]
    return found + [
        signal(f"{BEAT}{suffix}", "Beat", "hits", None, "One hit on each predicted beat."),
        signal(f"{BEAT_PHASE}{suffix}", "Beat phase", "phase", None, "Runs from 0 to 1 over each beat."),
        signal(f"{BAR_PHASE}{suffix}", "Bar phase", "phase", None, "Runs from 0 to 1 over each bar."),
    ]
