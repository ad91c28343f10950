"""The course of the demo's night: the set list, the cues, and what lies under the hand."""

from fulgura.core.kinds.action import Action
from fulgura.core.show.night import Cue, CueGo, CuePalette, Duration, NightSettings, Song
from fulgura.core.show.part import Part
from fulgura.core.show.routes import NamedModulator, Route
from fulgura.core.show.surface import Fader, Pad, PadPage, Reach

USUAL_CHASES = ["ladders", "swell", "door-light"]

SONGS = [
    Song(id="doors", name="Doors", length_s=240.0),
    Song(id="lamp-room", name="Lamp Room", track="lamp-room"),
    Song(id="fog-signal", name="Fog Signal", track="fog-signal"),
    Song(id="undertow", name="Undertow", track="undertow"),
    Song(id="slack-water", name="Slack Water", track="slack-water"),
    Song(id="last-light", name="Last light", length_s=120.0),
]
NIGHT = NightSettings(doors="20:30")


def _cue(
    name: str,
    song: str,
    at_s: float,
    look: str,
    over: Duration,
    light: list[str],
    chases: list[str],
    go: CueGo | None = None,
    note: str = "",
) -> Cue:
    """light: palettes on the rail, the foot and the door, then where the washes look."""
    *colours, aim = light
    palettes = [CuePalette(palette=p, group=g) for p, g in zip(colours, ("rail", "foot", "door"))]
    palettes.append(CuePalette(palette=aim))
    rest = {"song": song, "at_s": at_s, "go": go or CueGo(), "note": note}
    number = len(CUES) + 1
    return Cue(id=f"cue-{number}", name=name, look=look, over=over, palettes=palettes, chases=chases, **rest)


CUES: list[Cue] = []
_BARS = Duration(amount=2.0, unit="bars")
for row in (
    (
        "Doors",
        "doors",
        0.0,
        "fog-bank",
        Duration(),
        ["fog", "deep-water", "fog", "fanned"],
        ["door-light"],
        None,
        "Let them find their places.",
    ),
    (
        "Lamp lit",
        "lamp-room",
        0.0,
        "lantern-tunnel",
        Duration(amount=16.0),
        ["lamplight", "lamplight", "harbour", "up-the-tower"],
        USUAL_CHASES,
        CueGo(when="bar"),
        "On the first kick.",
    ),
    (
        "The clerks",
        "fog-signal",
        0.0,
        "name-board",
        Duration(amount=4.0),
        ["harbour", "kelp", "harbour", "fanned"],
        USUAL_CHASES,
    ),
    (
        "First swell",
        "fog-signal",
        16.0,
        "open-sea",
        Duration(amount=8.0),
        ["deep-water", "deep-water", "deep-water", "crossed"],
        USUAL_CHASES,
        CueGo(when="bars", bars=4),
    ),
    (
        "Storm",
        "undertow",
        0.0,
        "storm-glass",
        Duration(amount=1.0),
        ["storm", "storm", "storm", "fanned"],
        [*USUAL_CHASES, "sparks"],
        CueGo(when="beat"),
        "When the drop comes.",
    ),
    (
        "Slack water",
        "slack-water",
        0.0,
        "slack-figures",
        Duration(amount=8000.0, unit="ms"),
        ["kelp", "deep-water", "kelp", "up-the-tower"],
        ["swell"],
    ),
    (
        "Last light",
        "last-light",
        0.0,
        "harbour-lights",
        _BARS,
        ["signal-fire", "lamplight", "lamplight", "crossed"],
        ["swell"],
        None,
        "Thank them.",
    ),
):
    CUES.append(_cue(*row))

THUNDER = NamedModulator(
    id="thunder", name="Thunder", part=Part(id="modulator-thunder", family="modulator", kind="played-signal")
)
"""A hit that a pad plays: it lights the picture."""


def thunder_route() -> Route:
    """Thunder in the picture: up at once, and out within a second."""
    shapers = [Part(id="pulse", kind="pulse", values={"decay": 700.0})]
    return Route(
        id="thunder-light",
        signal="modulator-thunder",
        targets=["finish.exposure"],
        low=0.2,
        high=1.6,
        shapers=shapers,
    )


def _pad(at: int, name: str, kind: str, waits: str = "no", page: str = "pad-", **values: object) -> Pad:
    action = Part(id=f"{page}{at + 1}-1", family="action", kind=kind, values=values)
    usual = Action.kinds[kind].usual
    row = {"id": f"{page}{at + 1}", "name": name, "at": at, "mode": usual, "waits": waits}
    return Pad.model_validate({**row, "actions": [action]})


def _fader(at: int, name: str, target: str, low: float, high: float) -> Fader:
    return Fader(id=f"fader-{at + 1}", name=name, at=at, moves=[Reach(target=target, low=low, high=high)])


PAGES = [
    PadPage(
        id="night",
        name="The night",
        pads=[
            _pad(0, "Lantern", "show-look", "bar", look="lantern-tunnel", beats=4.0),
            _pad(1, "Open sea", "show-look", "bar", look="open-sea", beats=4.0),
            _pad(2, "Storm glass", "show-look", "beat", look="storm-glass"),
            _pad(3, "Harbour", "show-look", "bar", look="harbour-lights", beats=8.0),
            _pad(4, "Rail fire", "recall-palette", palette="signal-fire", group="rail"),
            _pad(5, "Rail deep", "recall-palette", palette="deep-water", group="rail"),
            _pad(6, "Sparks", "run-chase", chase="sparks"),
            _pad(7, "Sound moves it", "switch-routes", routes=""),
            _pad(8, "Thunder", "add-hit", played="thunder"),
            _pad(9, "Flash rail", "flash-lamps", group="rail"),
            _pad(10, "Clear traces", "clear-feedback"),
            _pad(11, "Freeze", "freeze-all", what="pictures"),
            _pad(12, "Tap", "tap"),
            _pad(13, "The one", "turn-beat", what="now is the one"),
            _pad(14, "Next song", "play-song"),
            _pad(15, "Hand back", "hand-back"),
        ],
        faders=[
            _fader(0, "Sound", "/sound_amount", 0.0, 1.0),
            _fader(1, "Gain", "/inputs/main/gain_db", -24.0, 24.0),
            _fader(2, "Lamps", "/lights/part/values/grand", 0.0, 1.0),
            _fader(3, "Ring", "/looks/lantern-tunnel/layers/lantern/source/values/radius", 0.05, 0.9),
            _fader(
                4, "Depth", "/looks/lantern-tunnel/layers/lantern/effects/feedback/values/fade", 0.5, 0.99
            ),
            _fader(
                5, "Twist", "/looks/lantern-tunnel/layers/lantern/effects/feedback/values/rotation", -6.0, 6.0
            ),
            _fader(6, "Low on ring", "/routes/r1/amount", 0.0, 1.0),
            _fader(7, "Rail", "/groups/rail/part/values/master", 0.0, 1.0),
        ],
    ),
    PadPage(
        id="beat",
        name="Beat and songs",
        pads=[
            _pad(0, "Tap", "tap", page="beat-"),
            _pad(1, "Half", "turn-beat", page="beat-", what="half"),
            _pad(2, "Double", "turn-beat", page="beat-", what="double"),
            _pad(3, "Sooner", "turn-beat", page="beat-", what="sooner"),
            _pad(4, "Later", "turn-beat", page="beat-", what="later"),
            _pad(5, "The one", "turn-beat", page="beat-", what="now is the one"),
            _pad(8, "Same song again", "play-song", page="beat-", which="the same again"),
            _pad(9, "Song before", "play-song", page="beat-", which="the one before"),
            _pad(15, "Blackout", "blackout", page="beat-"),
        ],
    ),
]
