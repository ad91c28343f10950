"""Kits of Debian's sound fonts, recorded kits and single strokes, as they are installed."""

import re
import subprocess
import tempfile
from pathlib import Path

import mido
import numpy as np
import soundfile
from defusedxml import ElementTree
from numpy.typing import NDArray
from scipy.signal import resample_poly

from fulgura.core.clock import SAMPLE_RATE

"""Single strokes: where they are, how many kits are made of them, and which files (without their endings) are
which voice.
"""

MIX = {
    "kick": 0.9,
    "snare": 0.75,
    "clap": 0.6,
    "hat": 0.35,
    "open": 0.35,
    "ride": 0.35,
    "tom": 0.6,
    "shaker": 0.18,
    "crash": 0.4,
    "rim": 0.4,
    "bell": 0.25,
    "conga": 0.5,
}
"""How loud the voices of a kit are to each other, where nothing says so."""

FONTS = {
    "small": Path("/usr/share/sounds/sf2/TimGM6mb.sf2"),
    "large": Path("/usr/share/sounds/sf2/FluidR3_GM.sf2"),
    "full": Path("/usr/share/sounds/sf3/MuseScore_General_Full.sf3"),
    "bank": Path("/usr/share/sounds/sf2/sf_GMbank.sf2"),
    "studio": Path("/usr/share/sounds/sf2/Black_Pearl_4_LV2.sf2"),
    "arena": Path("/usr/share/sounds/sf2/Red_Zeppelin_4_LV2.sf2"),
    "patches": Path("/etc/timidity/freepats.cfg"),
}


NOTES = {
    "kick": (36, 35),
    "snare": (38, 40),
    "hat": (42, 44),
    "open": (46,),
    "ride": (51,),
    "tom": (41, 43, 45, 47, 50),
    "clap": (39,),
    "shaker": (70,),
    "crash": (49,),
    "rim": (37,),
    "bell": (56,),
    "conga": (62, 63, 64),
}


BRUSHES = 40
"""General MIDI 2's brush set (memory): 38 is a tap, 39 a slap, and 40 a swirl over the skin, which is no
stroke.
"""


BRUSH_NOTES = NOTES | {"snare": (38, 39), "clap": ()}


ONE_KIT = ("studio", "arena", "patches")
"""Fonts with a single drum set."""


FIRST_CHANNEL = ("studio", "arena")
"""Fonts whose drums, each stroke recorded from a real one, are on the first channel."""


RECORDED = Path("/usr/share/hydrogen/data/drumkits")


HANDS = ("Gimme A Hand 1.0", "circAfrique v4")
"""Kits without kick, snare and hat."""


STROKES = Path("/usr/share/sonic-pi/samples")
SINGLES: dict[str, tuple[Path, int, dict[str, str]]] = {
    "strokes": (
        STROKES,
        6,
        {
            "kick": "bd_*|drum_heavy_kick|drum_bass_hard|elec_hollow_kick|elec_soft_kick",
            "snare": "sn_*|drum_snare_hard|elec_*snare",
            "hat": "hat_*|drum_cymbal_closed|drum_cymbal_pedal",
            "open": "drum_cymbal_open",
            "crash": "drum_splash_hard|drum_cymbal_hard",
            "tom": "drum_tom_*_hard|elec_fuzz_tom",
            "clap": "perc_snap*",
            "bell": "drum_cowbell|elec_bell",
            "rim": "elec_wood|elec_tick",
        },
    ),
    "plain": (
        Path("/usr/share/exadrums"),
        1,
        {"kick": "BD_*", "snare": "Snr_*", "hat": "HiHat", "crash": "Crash*", "ride": "Ride*", "tom": "Tom*"},
    ),
}


VOICES = (
    ("", r"roll|semi|swish|choke|flink|hat free|zap|fx|whistle|sample"),
    ("snare", r"rim ?shot"),
    ("rim", r"stick|rim|click"),
    ("clap", r"clap"),
    ("kick", r"kick|bass ?drum"),
    ("snare", r"snare"),
    ("bell", r"cow ?bell|\bbell|cup"),
    ("open", r"(hat|hh|hi-hat).*\bop|open|ohh"),
    ("hat", r"hat|hh|hi-hat"),
    ("ride", r"ride"),
    ("crash", r"crash|cymbal|splash|china"),
    ("tom", r"tom|drum"),
    ("conga", r"conga|bongo"),
    ("shaker", r"shaker|maraca"),
)
"""What an instrument of a recorded kit is by its name: the first that fits; the first row is left out."""


def font_kit(font: str, program: int) -> dict[str, list[NDArray]]:
    """Each note at two strengths, one every 2.5 s in one rendering."""
    wanted = [
        (voice, note, velocity)
        for voice, notes in (BRUSH_NOTES if program == BRUSHES else NOTES).items()
        for note in notes
        for velocity in (112, 80)
    ]
    channel = 0 if font in FIRST_CHANNEL else 9
    events = [(2.5 * i, channel, note, velocity, 1.0) for i, (_, note, velocity) in enumerate(wanted)]
    sound = render(FONTS[font], events, {channel: program}, 2.5 * len(wanted) + 1.0)
    kits: dict[str, list[NDArray]] = {}
    for i, (voice, _, velocity) in enumerate(wanted):
        piece = sound[int(2.5 * i * SAMPLE_RATE) : int((2.5 * i + 1.4) * SAMPLE_RATE)]
        if np.abs(piece).max() > 1e-4 and velocity == 112:
            kits.setdefault(voice, []).append(piece)
        elif np.abs(piece).max() > 1e-4:
            kits.setdefault(f"{voice}-soft", []).append(piece)
    loudest = max(np.abs(x).max() for sounds in kits.values() for x in sounds)
    return {voice: [x / loudest for x in sounds] for voice, sounds in kits.items()}


def render(
    font: Path, events: list[tuple[float, int, int, int, float]], programs: dict[int, int], seconds: float
) -> NDArray:
    """Rows (time in s, channel, note, velocity, length in s) played by fluidsynth, or by timidity when font
    is a list of patches; mono float64.
    """
    with tempfile.TemporaryDirectory() as folder:
        score, wav = Path(folder) / "score.mid", Path(folder) / "out.wav"
        moments = [(t, mido.Message("note_on", channel=c, note=n, velocity=v)) for t, c, n, v, _ in events]
        moments += [
            (t + length, mido.Message("note_off", channel=c, note=n)) for t, c, n, _, length in events
        ]
        track = mido.MidiTrack(
            mido.Message("program_change", channel=c, program=p) for c, p in programs.items()
        )
        now = 0.0
        for t, message in sorted(moments, key=lambda row: row[0]):
            # 960 ticks a beat at 120 BPM: 1920 ticks a second.
            track.append(message.copy(time=round(t * 1920) - round(now * 1920)))
            now = t
        track.append(mido.MetaMessage("end_of_track", time=1920))
        file = mido.MidiFile(ticks_per_beat=960)
        file.tracks.append(track)
        file.save(score)
        if font.suffix == ".cfg":
            command = [
                "timidity",
                "-c",
                str(font),
                "-EFreverb=0",
                "-EFchorus=0",
                "-s",
                str(SAMPLE_RATE),
                "-OwS1sl",
                "-o",
                str(wav),
                str(score),
            ]
        else:
            command = [
                "fluidsynth",
                "-ni",
                "-q",
                "-g",
                "0.5",
                "-R",
                "0",
                "-C",
                "0",
                "-r",
                str(SAMPLE_RATE),
                "-F",
                str(wav),
                str(font),
                str(score),
            ]
        subprocess.run(command, check=True, capture_output=True)
        sound, _ = soundfile.read(wav)
    sound = sound.mean(axis=1)[: int(seconds * SAMPLE_RATE)]
    return np.pad(sound, (0, max(0, int(seconds * SAMPLE_RATE) - len(sound))))


def recorded_kit(folder: str) -> dict[str, list[NDArray]]:
    """A recorded kit: of every instrument one hard and one soft stroke, each voice at its usual loudness."""
    root = ElementTree.parse(RECORDED / folder / "drumkit.xml").getroot()
    kits: dict[str, list[NDArray]] = {}
    for instrument in root.iterfind(".//{*}instrument"):
        voice = voice_of(instrument.findtext("{*}name") or "")
        layers = [
            (float(layer.findtext("{*}max") or 1.0), layer.findtext("{*}filename"))
            for layer in instrument.iterfind(".//{*}layer")
        ] or [(1.0, instrument.findtext("{*}filename"))]
        names = [
            name
            for _, name in sorted(layers, key=lambda row: row[0])
            if name and (RECORDED / folder / name).exists()
        ]
        if voice and names:
            kits.setdefault(voice, []).append(_stroke(RECORDED / folder / names[-1]))
            if len(names) > 2:
                kits.setdefault(f"{voice}-soft", []).append(
                    0.6 * _stroke(RECORDED / folder / names[len(names) // 2])
                )
    return {voice: [x * MIX[voice.removesuffix("-soft")] for x in sounds] for voice, sounds in kits.items()}


def voice_of(instrument: str) -> str:
    """What an instrument is by its name: one of the voices, or nothing."""
    return next((voice for voice, words in VOICES if re.search(words, instrument, re.IGNORECASE)), "")


def strokes_kit(family: str, number: int) -> dict[str, list[NDArray]]:
    """Every voice one or two of the single strokes that there are for it, others for each number."""
    folder, count, globs = SINGLES[family]
    kits = {}
    for voice, wanted in globs.items():
        files = sorted(
            file
            for glob in wanted.split("|")
            for ending in ("flac", "wav")
            for file in folder.glob(f"{glob}.{ending}")
        )
        # Every count-th, so that no kick and no snare is in two kits.
        chosen = files[number::count] or files[number % len(files) :][:1] if files else []
        if chosen:
            kits[voice] = [_stroke(file) * MIX[voice] for file in chosen[:2]]
    return kits


def _stroke(file: Path) -> NDArray:
    """A recorded stroke from where it begins, at most 1.4 s, peak 1."""
    sound, rate = soundfile.read(file, always_2d=True)
    mono = sound.mean(axis=1)
    if rate != SAMPLE_RATE:
        mono = resample_poly(mono, SAMPLE_RATE, rate)
    peak = np.abs(mono).max()
    begins = max(0, int(np.argmax(np.abs(mono) > 0.05 * peak)) - SAMPLE_RATE // 1000)
    return mono[begins : begins + int(1.4 * SAMPLE_RATE)] / max(peak, 1e-9)
