"""Grooves by chance, as drummers and producers build them: lessons for the ear of
``fulgura.core.sound.models.metre``.

A style says how likely each voice is at each step of a bar; a song of it draws its lanes once, varies them,
plays fills into new sections and leaves voices out for a while. The styles and their shares are common
practice, from memory.
"""

from dataclasses import dataclass

import numpy as np

from training.material.pieces import Stroke

HATS_16 = (
    "X0X0X0X0X0X0X0X0",
    "XXXXXXXXXXXXXXXX",
    "X000X000X000X000",
    "00X000X000X000X0",
    "9293929392939293",
    "X0XXX0XXX0XXX0XX",
    "",
)
HATS_12 = ("X0XX0XX0XX0X", "XXXXXXXXXXXX", "X00X00X00X00", "X0XX0XX00X00", "")
BACKBEAT = ("0000X0000000X000",)


@dataclass(frozen=True)
class Style:
    """beats: of a bar; bpm: from, to; lanes: voice -> lines of which a song draws one. A digit of a line is a
    chance in tenths at that step, X is always; a voice with a capital is struck softly.
    """

    beats: int
    bpm: tuple[float, float]
    lanes: dict[str, tuple[str, ...]]
    share: int = 1


STYLES: dict[str, Style] = {
    "backbeat": Style(
        4,
        (72, 150),
        {
            "kick": ("X022003351520131", "X0000010X2500020"),
            "snare": BACKBEAT,
            "Snare": ("0001010310020102", "", ""),
            "hat": HATS_16,
            "open": ("0000000000000030", ""),
        },
        5,
    ),
    "backbeat on a ride": Style(
        4,
        (72, 150),
        {
            "kick": ("X022003351520131", "X000002047200010"),
            "snare": BACKBEAT,
            "ride": HATS_16[:3],
            "bell": ("X000X000X000X000", "", ""),
        },
    ),
    "floor": Style(
        4,
        (104, 150),
        {
            "kick": ("X000X000X000X000", "X000X000X000X012", "X001X000X010X002"),
            "clap": ("0000X0000000X000", ""),
            "snare": ("0000X0000000X000", ""),
            "hat": HATS_16,
            "open": ("00X000X000X000X0", ""),
            "shaker": ("XXXXXXXXXXXXXXXX", "", ""),
        },
        3,
    ),
    "half": Style(
        4,
        (124, 170),
        {
            "kick": ("X021103020311031", "X0000030000X0000"),
            "snare": ("00000000X0000000",),
            "Snare": ("0001000100010010", "", ""),
            "hat": HATS_16,
        },
        2,
    ),
    "breaks": Style(
        4,
        (150, 178),
        {
            "kick": ("X020000001X30020", "X0X0000000X00000", "X000000000X00000"),
            "snare": ("0000X0000000X000", "0000X0030202X002"),
            "hat": HATS_16[:3],
            "ride": ("X0X0X0X0X0X0X0X0", "", ""),
        },
        2,
    ),
    "two-step": Style(
        4,
        (84, 142),
        {
            "kick": ("X000000030X20300", "X00200030X030020"),
            "snare": BACKBEAT,
            "clap": ("0000X0000000X000", ""),
            "hat": ("00X0XXX000X0X0X0", "02X802X802X802X8"),
            "shaker": ("XXXXXXXXXXXXXXXX", ""),
        },
    ),
    "three-three-two": Style(
        4,
        (80, 116),
        {"kick": ("X000X000X000X000", "X00X00X0X00X00X0"), "snare": ("000X00X0000X00X0",), "hat": HATS_16},
    ),
    "drop": Style(
        4,
        (110, 170),
        {
            "kick": ("00000000X0000000", "00000000X0000030"),
            "snare": ("00000000X0000000",),
            "rim": ("0003003000030030", ""),
            "hat": HATS_16[:3],
        },
        2,
    ),
    "rolling": Style(
        4,
        (84, 140),
        {
            "kick": ("X000X000X000X000", "X0000000X0000000"),
            "snare": ("00X000X000X000X0", "0000X0000000X000"),
            "Snare": ("XX0XXX0XXX0XXX0X", "XXXXXXXXXXXXXXXX"),
        },
    ),
    "toms": Style(
        4,
        (84, 150),
        {
            "kick": ("X000X000X000X000", "X0000000X0000000"),
            "tom": ("30X030X030X06040", "X03X00X0303X0060", "X0X0X0X0X0X0X0X0"),
            "snare": ("000000000000X000", "0000X0000000X000", ""),
        },
    ),
    "clave": Style(
        4,
        (80, 150),
        {
            "kick": ("X002X002X002X002", "X000X000X000X000", "X00X0000X00X0000"),
            "rim": ("X00X00X000X0X000", "00X0X000X00X00X0", "X00X00X000X00X00"),
            "hat": HATS_16[:3],
            "conga": ("0020406200204062", ""),
        },
    ),
    "march": Style(
        4,
        (90, 140),
        {
            "kick": ("X0000000X0000000", "X000X000X000X000"),
            "snare": ("X0X0X0X0X0X0X000", "X000X000X000X0X0"),
            "Snare": ("0032003200320032", ""),
            "crash": ("X000000000000000", "", ""),
        },
    ),
    "machine": Style(
        4,
        (90, 140),
        {
            "kick": ("X02030020X203020", "X000X020X002X030"),
            "clap": ("0000X0000000X000", "0000X0010000X020"),
            "hat": HATS_16,
            "bell": ("0020300200203002", ""),
            "tom": ("0000000000000233", ""),
            "rim": ("0302003002030030", ""),
        },
        2,
    ),
    "plain kick": Style(
        4, (80, 150), {"kick": ("X000X000X000X000",), "hat": HATS_16[:4], "conga": ("0020406200204062", "")}
    ),
    "shuffle": Style(
        4,
        (72, 160),
        {
            "kick": ("X01004703002", "X00000X00000", "X00X00X00X00"),
            "snare": ("000X00000X00",),
            "Snare": ("010010010010", "", ""),
            "hat": HATS_12,
        },
        3,
    ),
    "half shuffle": Style(
        4,
        (120, 164),
        {
            "kick": ("X00002000102", "X00002000X02"),
            "snare": ("000000X00000",),
            "Snare": ("010010010010", ""),
            "hat": HATS_12[:3],
        },
    ),
    "swing": Style(
        4,
        (84, 176),
        {
            "ride": ("X00X0XX00X0X", "X00X0XX00X0X", "X00X00X00X00"),
            "hat": ("000X00000X00",),
            "Kick": ("X00X00X00X00", "400001010110", ""),
            "Snare": ("001001001101", "000002000102"),
        },
        2,
    ),
    "slow twelve": Style(
        4,
        (56, 84),
        {"kick": ("X00000X02003", "X00002X00000"), "snare": ("000X00000X00",), "hat": ("XXXXXXXXXXXX",)},
    ),
    "six": Style(
        2,
        (56, 96),
        {
            "kick": ("X00200", "X02102", "X00300"),
            "snare": ("000X00",),
            "Snare": ("010010", "", ""),
            "hat": ("XXXXXX", "X0XX0X", "X00X00"),
            "ride": ("XXXXXX", "", ""),
        },
        2,
    ),
    "waltz": Style(
        3,
        (84, 176),
        {
            "kick": ("X00000000020", "X00000100000", "X02000000000"),
            "snare": ("0000X000X000", "00000000X000", "0000X0000000"),
            "hat": ("X0X0X0X0X0X0", "X000X000X000", "0000X000X000", ""),
        },
        2,
    ),
    "swung waltz": Style(
        3,
        (100, 180),
        {
            "ride": ("X00X0XX00", "X00X00X0X"),
            "hat": ("000X00X00", "000X00000"),
            "Kick": ("X00000000",),
            "Snare": ("001002001",),
        },
    ),
}
FILL_VOICES = (("tom", "snare"), ("snare",), ("tom",), ("kick", "snare"), ("tom", "kick"))
GHOST, SOFT, FIRM, HARD = 0.25, 0.45, 0.75, 1.0


def drawn_style(r: np.random.Generator) -> str:
    return str(r.choice([name for name, style in STYLES.items() for _ in range(style.share)]))


def song(style: str, r: np.random.Generator, bars: int = 32) -> tuple[int, float, list[list[Stroke]]]:
    """(beats a bar, steps a beat, that many bars)."""
    groove = STYLES[style]
    lanes = {voice: str(r.choice(lines)) for voice, lines in groove.lanes.items()}
    steps = max(len(line) for line in lanes.values())
    per_beat = steps / groove.beats
    phrase = int(r.choice((2, 4, 4, 4, 8)))
    fills, crashes, restless = r.random() * 0.9, r.random() * 0.8, r.choice((0.0, 0.0, 0.3))
    first, second = ({voice: _line(line, r) for voice, line in lanes.items()} for _ in range(2))
    out, missing, crash = [], set(), False
    for bar in range(bars):
        if bar % phrase == 0:
            missing = {voice for voice in lanes if r.random() < 0.07} | (
                set(lanes) if r.random() < 0.03 else set()
            )
        last = bar % phrase == phrase - 1
        lines = second if last or r.random() < restless else first
        strokes = [
            stroke
            for voice, line in lines.items()
            if voice not in missing
            for stroke in _strokes(voice, line, steps, per_beat, r)
        ]
        if crash:
            strokes.append(("crash", 0.0, HARD))
        crash = bool(last and r.random() < crashes)
        if last and r.random() < fills:
            strokes = _with_fill(strokes, groove.beats, per_beat, r)
        out.append(sorted(strokes, key=lambda stroke: stroke[1]))
    return groove.beats, per_beat, out


def _line(line: str, r: np.random.Generator) -> list[int]:
    """The steps that are played of a line of chances."""
    return [i for i, chance in enumerate(line) if chance == "X" or r.random() < int(chance) / 10]


def _strokes(
    voice: str, line: list[int], steps: int, per_beat: float, r: np.random.Generator
) -> list[Stroke]:
    if voice[0].isupper():
        return [(voice.lower(), step / per_beat, float(r.choice((GHOST, SOFT)))) for step in line]
    return [(voice, step / per_beat, HARD if step % per_beat == 0 else FIRM) for step in line]


def _with_fill(strokes: list[Stroke], beats: int, per_beat: float, r: np.random.Generator) -> list[Stroke]:
    """The bar's last one or two beats played on other drums."""
    start = beats - min(int(r.choice((1, 1, 2))), beats - 1)
    every = int(r.choice((1, 1, 2))) if per_beat != 3 else 1
    voices = FILL_VOICES[int(r.integers(len(FILL_VOICES)))]
    fill = [
        (str(r.choice(voices)), step / per_beat, float(r.choice((SOFT, FIRM, HARD))))
        for step in range(round(start * per_beat), round(beats * per_beat), every)
        if r.random() < 0.85
    ]
    return [
        stroke for stroke in strokes if stroke[1] < start or stroke[0] == "kick" and r.random() < 0.3
    ] + fill
