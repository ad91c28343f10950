"""Sets of bands to start from, and how the drums' lanes go with them."""

from fulgura.core.kinds.listening import DEAD_TIME_MS, DRUMS
from fulgura.core.show.document import Show
from fulgura.core.show.edits import SetValue, Together
from fulgura.core.show.inputs import MAIN, Band, HitSetting

USUAL = "The usual three"


def _octaves() -> list[Band]:
    """Octave bands about the nominal mid-frequencies of ISO 266."""
    names = {
        63: "Sub",
        125: "Bass",
        250: "Low mid",
        500: "Mid",
        1000: "High mid",
        2000: "Voice",
        4000: "Edge",
        8000: "Air",
    }
    return [
        Band(
            id=f"octave-{hz}",
            name=name,
            low_hz=round(hz / 2**0.5, 1),
            high_hz=round(hz * 2**0.5, 1),
            release_ms=140,
        )
        for hz, name in names.items()
    ]


# Common practice, but for the octaves.
BAND_PRESETS: dict[str, list[Band]] = {
    USUAL: [
        Band(id="low", name="Low", low_hz=30, high_hz=150, release_ms=140),
        Band(id="mid", name="Mid", low_hz=300, high_hz=2000, release_ms=160),
        Band(id="high", name="High", low_hz=6000, high_hz=16000, release_ms=90),
    ],
    "Five": [
        Band(id="sub", name="Sub", low_hz=25, high_hz=60, release_ms=180),
        Band(id="bass", name="Bass", low_hz=60, high_hz=250, release_ms=140),
        Band(id="body", name="Body", low_hz=250, high_hz=1500, release_ms=160),
        Band(id="voice", name="Voice", low_hz=1500, high_hz=5000, release_ms=120),
        Band(id="air", name="Air", low_hz=5000, high_hz=16000, release_ms=90),
    ],
    "Eight octaves": _octaves(),
}


def lanes(bands: list[Band]) -> dict[str, str]:
    """Drum -> the band in whose lane it is shown: kick in the first, snare in the middle, hat in the last."""
    return dict(zip(DRUMS, (bands[0].id, bands[len(bands) // 2].id, bands[-1].id)))


def usual_drums(bands: list[Band], input_id: str = MAIN) -> list[HitSetting]:
    """A detector for each drum, in the lanes of these bands of an input."""
    return [
        HitSetting(
            id=_own(drum, input_id),
            input=input_id,
            drum=drum,
            band=lanes(bands)[drum],
            dead_time_ms=DEAD_TIME_MS[drum],
        )
        for drum in DRUMS
    ]


def _own(id: str, input_id: str) -> str:
    """Ids are one show's: an input that is not the main one adds its own."""
    return id if input_id == MAIN else f"{id}-{input_id}"[:48]


def take_bands(show: Show, name: str, input_id: str = MAIN) -> Together:
    """The edit that puts a preset's bands in place of all others of an input; its drums stay, each in the
    lane where it belongs, or come when it had none. Detectors of bands that go, go with them. Raises KeyError
    for an unknown preset.
    """
    bands = [
        band.model_copy(update={"id": _own(band.id, input_id), "input": input_id})
        for band in BAND_PRESETS[name]
    ]
    drums = [hit for hit in show.hits if hit.drum and hit.input == input_id] or usual_drums(bands, input_id)
    placed = [hit.model_copy(update={"band": lanes(bands)[hit.drum]}) for hit in drums]
    return Together(
        edits=[
            SetValue(
                path="/bands",
                value=[
                    band.model_dump() for band in (*(b for b in show.bands if b.input != input_id), *bands)
                ],
            ),
            SetValue(
                path="/hits",
                value=[
                    hit.model_dump()
                    for hit in (*(h for h in show.hits if show.input_of(h) != input_id), *placed)
                ],
            ),
        ]
    )
