"""Drum kits to play rhythms with: synthesised here, rendered from General MIDI sound fonts, or recorded ones.

Sampled kits are there when Debian's packages fluidsynth, timgm6mb-soundfont, fluid-soundfont-gm,
csound-soundfont, musescore-general-soundfont and avldrums.lv2-soundfont (fonts), timidity and freepats (one
more set of patches), hydrogen-data and hydrogen-drumkits (recorded kits, each a folder with a drumkit.xml),
sonic-pi-samples and exadrums (single strokes) are installed. They are only listened to here.
"""

import re
import shutil
import subprocess
import tempfile
from functools import lru_cache
from pathlib import Path

import mido
import numpy as np
import soundfile
from defusedxml import ElementTree
from numpy.typing import NDArray
from scipy.signal import butter, resample_poly, sosfilt

from fulgura.core.clock import SAMPLE_RATE

FONTS = {
    "small": Path("/usr/share/sounds/sf2/TimGM6mb.sf2"),
    "large": Path("/usr/share/sounds/sf2/FluidR3_GM.sf2"),
    "full": Path("/usr/share/sounds/sf3/MuseScore_General_Full.sf3"),
    "bank": Path("/usr/share/sounds/sf2/sf_GMbank.sf2"),
    "studio": Path("/usr/share/sounds/sf2/Black_Pearl_4_LV2.sf2"),
    "arena": Path("/usr/share/sounds/sf2/Red_Zeppelin_4_LV2.sf2"),
    "patches": Path("/etc/timidity/freepats.cfg"),
}
KITS = (0, 8, 16, 24, 25, 32, 40)
"""General MIDI 2 drum sets by program number (memory): standard, room, power, electronic, analogue, jazz,
brush.
"""
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
HELD_OUT = (
    "arena",
    "own-6",
    "own-7",
    "set-ColomboAcousticDrumkit",
    "set-GMRockKit",
    "set-Millo_MultiLayered2",
    "set-VariBreaks",
    "strokes-5",
    "patches",
    "plain",
)
"""Kits that training/drums.py never uses, so that listening.py can judge on kits that the network has
not heard.
"""
PUT_TOGETHER = ("strokes-",)
"""Kits of strokes that do not belong together."""
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
"""Single strokes: where they are, how many kits are made of them, and which files (without their endings) are
which voice.
"""


def available_kits() -> list[str]:
    """Synthesised kits always; sampled ones where their packages, and for fonts the program fluidsynth, are
    there.
    """
    kits = [f"own-{i}" for i in range(8)]
    if shutil.which("fluidsynth"):
        kits += [
            f"{font}-{program}"
            for font, path in FONTS.items()
            if path.exists()
            for program in (KITS[:1] if font in ONE_KIT else KITS)
        ]
    kits += sorted(
        f"set-{file.parent.name}" for file in RECORDED.glob("*/drumkit.xml") if file.parent.name not in HANDS
    )
    return kits + [
        f"{name}-{i}" for name, (folder, count, _) in SINGLES.items() if folder.exists() for i in range(count)
    ]


@lru_cache(None)
def kit(name: str) -> dict[str, list[NDArray]]:
    """Voice -> several samples of it, mono, float64, peak of the loudest voice about 1."""
    if "+" in name:
        # Dealt out voice by voice, as cards: kick of one, snare of another. A soft stroke stays with its loud
        # one.
        parts = [kit(part) for part in name.split("+")]
        voices = sorted({voice.removesuffix("-soft") for part in parts for voice in part})
        dealt = {
            voice: next(part for part in (*parts[i % len(parts) :], *parts) if voice in part)
            for i, voice in enumerate(voices)
        }
        return {
            voice: sounds
            for base, part in dealt.items()
            for voice, sounds in part.items()
            if voice.removesuffix("-soft") == base
        }
    if name.startswith("set-"):
        return _recorded_kit(name.removeprefix("set-"))
    family, number = name.rsplit("-", 1)
    if family == "own":
        return _own_kit(int(number))
    return _strokes_kit(family, int(number)) if family in SINGLES else _font_kit(family, int(number))


def _own_kit(seed: int) -> dict[str, list[NDArray]]:
    r = np.random.default_rng(1000 + seed)

    def time(seconds: float) -> NDArray:
        return np.arange(int(seconds * SAMPLE_RATE)) / SAMPLE_RATE

    def noise(t: NDArray, low: float, high: float, decay: float) -> NDArray:
        return sosfilt(
            butter(2, [low, high], "bandpass", fs=SAMPLE_RATE, output="sos"), r.standard_normal(len(t))
        ) * np.exp(-t / decay)

    kits: dict[str, list[NDArray]] = {}
    t = time(0.5)
    pitch, sweep, fall = r.uniform(42, 65), r.uniform(1.5, 5.0), r.uniform(0.01, 0.04)
    phase = 2 * np.pi * (pitch * t + sweep * pitch * fall * (1 - np.exp(-t / fall)))
    kits["kick"] = [
        np.sin(phase) * np.exp(-t / r.uniform(0.07, 0.2)) + noise(t, 800, 6000, 0.004) * r.uniform(0.1, 0.6)
    ]
    body = r.uniform(160, 240)
    kits["snare"] = [
        0.5 * r.uniform(0.5, 1.2) * np.sin(2 * np.pi * body * t) * np.exp(-t / r.uniform(0.03, 0.09))
        + noise(t, r.uniform(700, 2000), 12_000, r.uniform(0.04, 0.12)) * r.uniform(0.5, 1.0)
        for _ in range(2)
    ]
    low = r.uniform(5000, 8500)
    kits["hat"] = [noise(t, low, 18_000, r.uniform(0.012, 0.035)) for _ in range(2)]
    kits["open"] = [noise(t, low, 18_000, r.uniform(0.1, 0.3))]
    kits["ride"] = [
        noise(t, 3500, 16_000, 0.25) * 0.6
        + sum(np.sin(2 * np.pi * hz * t) for hz in r.uniform(2500, 7000, 4)) * np.exp(-t / 0.2) * 0.08
    ]
    kits["tom"] = [
        np.sin(2 * np.pi * (hz * t + 0.4 * hz * 0.03 * (1 - np.exp(-t / 0.03)))) * np.exp(-t / 0.15)
        for hz in r.uniform(80, 200, 3)
    ]
    kits["clap"] = [
        sum(  # type: ignore[list-item]
            np.roll(noise(t, 900, 5000, 0.05 if i == 2 else 0.008), int(0.011 * i * SAMPLE_RATE))
            for i in range(3)
        )
    ]
    kits["shaker"] = [noise(t, 4500, 12_000, 0.03) * np.minimum(t / 0.015, 1.0)]
    kits["rim"] = [
        np.sin(2 * np.pi * r.uniform(400, 1700) * t) * np.exp(-t / 0.01) + noise(t, 1000, 6000, 0.006)
    ]
    kits["bell"] = [
        sum(np.sin(2 * np.pi * hz * t) for hz in (r.uniform(500, 600), r.uniform(780, 880)))
        * np.exp(-t / 0.1)
    ]
    kits["conga"] = [
        np.sin(2 * np.pi * hz * t) * np.exp(-t / 0.1) + noise(t, 500, 3000, 0.004) * 0.3
        for hz in r.uniform(180, 420, 3)
    ]
    kits["crash"] = [noise(np.concatenate([t, t + 0.5, t + 1.0]), 2500, 16_000, 0.6)]
    return {voice: [x / np.abs(x).max() for x in sounds] for voice, sounds in kits.items()}


def _font_kit(font: str, program: int) -> dict[str, list[NDArray]]:
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


def _recorded_kit(folder: str) -> dict[str, list[NDArray]]:
    """A recorded kit: of every instrument one hard and one soft stroke, each voice at its usual loudness."""
    root = ElementTree.parse(RECORDED / folder / "drumkit.xml").getroot()
    kits: dict[str, list[NDArray]] = {}
    for instrument in root.iterfind(".//{*}instrument"):
        voice = voice_of(instrument.findtext("{*}name") or "")
        layers = [
            (float(one.findtext("{*}max") or 1.0), one.findtext("{*}filename"))
            for one in instrument.iterfind(".//{*}layer")
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


def _strokes_kit(family: str, number: int) -> dict[str, list[NDArray]]:
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
