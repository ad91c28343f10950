"""How well the analyser hears: our own material (see rhythms.py) through the live analyser, judged by
mir_eval.

Beats: F-measure at ±70 ms and AMLt, the first 8 s left out; hits: F-measure at ±50 ms, as in MIREX and
mir_eval (C. Raffel et al., "mir_eval: a transparent implementation of common MIR metrics", ISMIR 2014).
"""

from collections.abc import Iterable
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import mir_eval
import numpy as np
from numpy.typing import NDArray

from fulgura.core.clock import BLOCK
from fulgura.core.sound.analyser import Analyser
from training.material.kits import HELD_OUT, PUT_TOGETHER, available_kits
from training.material.recipes import loops, recipes, records, written
from training.material.rhythms import SECONDS, SUDDEN, LabelledClip, Recipe, play

NAMES = ("kick", "snare", "hat")
COUNTED, RIGHT_TEMPO = 4, 0.8
"""Where the count in the bar is judged: in bars of four, which the analyser counts unless it is told
otherwise, at the right tempo.
"""
LEAD_S = 8.0
RELOCK_S, RELOCK_BEATS, SOON = 6.0, 8, 4
"""How soon after a sudden change of tempo beats are to be met again; how many in a row make it sure: two
bars; and how many of the new beats may go by before, where that is soon.
"""


def listen(samples: NDArray, analyser: Analyser | None = None) -> tuple[list, list]:
    """(beats, hits) of a whole clip, as the live analyser tells them."""
    analyser = analyser or Analyser()
    beats, hits = [], []
    for i in range(len(samples) // BLOCK):
        heard = analyser.push(samples[i * BLOCK : (i + 1) * BLOCK])
        beats += heard.beats
        hits += heard.hits
    return beats, hits


def judge(clip: LabelledClip) -> dict:
    """One clip's scores; a score that cannot be given is left out."""
    beats, hits = listen(clip.samples)
    told = np.array([b.t for b in beats if b.t >= LEAD_S])
    true = clip.beats[clip.beats >= LEAD_S]
    told = told[told <= true[-1] + 0.2]
    row: dict = {"name": clip.name, "kit": clip.group}
    row["beat_f"] = float(mir_eval.beat.f_measure(true, told))
    row["aml_t"] = float(mir_eval.beat.continuity(true, told)[3]) if len(told) > 1 else 0.0
    if clip.beats_a_bar == COUNTED and row["beat_f"] >= RIGHT_TEMPO:
        row["one"], row["strong"] = _ones(clip, [b for b in beats if b.t >= LEAD_S])
    late: list[float] = []
    for name in NAMES:
        wanted = np.unique(np.round(clip.hits.get(name, np.zeros(0)), 3))
        found = _without(
            np.sort([h.t for h in hits if h.detector == name]), clip.either_way.get(name, np.zeros(0)), wanted
        )
        if len(wanted):
            row[name] = (
                float(mir_eval.onset.f_measure(wanted, np.sort(found), window=0.05)[0]) if len(found) else 0.0
            )
            pairs = mir_eval.util.match_events(wanted, np.sort(found), 0.05) if len(found) else []
            row[f"{name}_miss"] = len(wanted) - len(pairs)
            row[f"{name}_extra"] = len(found) - len(pairs)
            row[f"{name}_count"] = len(wanted)
            told_at = np.array(
                [h.at for h in sorted((h for h in hits if h.detector == name), key=lambda h: h.t)]
            )
            late += [1000.0 * (told_at[np.abs(told_at - found[j]).argmin()] - wanted[i]) for i, j in pairs]
            matched = {j for _, j in pairs}
            row[f"{name}_double"] = sum(
                1
                for j, t in enumerate(np.sort(found))
                if j not in matched and np.abs(wanted - t).min() < 0.05
            )
    row["late_ms"] = late
    row["delays_ms"] = [1000.0 * (h.at - h.t) for h in hits]
    if clip.change_s:
        row["relock_s"], row["relock_beats"] = _relock(clip, np.array([b.t for b in beats]))
    return row


def _ones(clip: LabelledClip, told: list) -> tuple[float, float]:
    """Of the beats that are met, the share that is counted right in the bar, and that is at least strong or
    weak as it should be.
    """
    places = [(int(np.abs(clip.beats - b.t).argmin()), b) for b in told]
    off = [(b.bar_position - 1 - k) % COUNTED for k, b in places if abs(clip.beats[k] - b.t) <= 0.07]
    return float(np.mean([number == 0 for number in off])), float(
        np.mean([number % 2 == 0 for number in off])
    )


def _without(found: NDArray, either_way: NDArray, wanted: NDArray) -> NDArray:
    """Leave out what was found at a sound that may be taken either way, and not at one that was wanted."""

    def near(t: float, times: NDArray) -> bool:
        return len(times) > 0 and bool(np.abs(times - t).min() <= 0.05)

    return np.array([t for t in found if near(t, wanted) or not near(t, either_way)])


def _relock(clip: LabelledClip, told: NDArray) -> tuple[tuple[float, float], float]:
    """Seconds from a tempo change until true beats are met within 70 ms, so many in a row, and every one to
    the clip's end; and how many true beats go by before the first of so many in a row.

    A beat that is told between two of them does no harm (double tempo); infinite when it never happens.
    """
    true = clip.beats[(clip.beats > clip.change_s) & (clip.beats < clip.beats[-1])]
    met = np.array([len(told) > 0 and np.abs(told - t).min() <= 0.07 for t in true])
    in_a_row = next((i for i in range(len(true) - RELOCK_BEATS + 1) if met[i : i + RELOCK_BEATS].all()), None)
    to_the_end = np.append(true, np.inf)[np.append(np.flatnonzero(~met), -1).max() + 1]
    return ((np.inf if in_a_row is None else true[in_a_row]) - clip.change_s, to_the_end - clip.change_s), (
        np.inf if in_a_row is None else float(in_a_row)
    )


def _one(recipe: Recipe) -> dict:
    return judge(play(recipe))


def table(chosen: Iterable[Recipe], workers: int = 2) -> list[dict]:
    """Scores of many clips."""
    with ProcessPoolExecutor(workers) as pool:
        return list(pool.map(_one, chosen, chunksize=4))


def summary(rows: list[dict]) -> dict:
    """Means over clips, and percentiles of the report delay over all hits."""

    def mean(name: str) -> float:
        values = [row[name] for row in rows if name in row]
        return float(np.mean(values)) if values else float("nan")

    def over_all(name: str) -> tuple[float, float]:
        values = [value for row in rows for value in row[name]]
        return (
            (float(np.median(values)), float(np.percentile(values, 95)))
            if values
            else (float("nan"), float("nan"))
        )

    found = {name: mean(name) for name in ("beat_f", "aml_t", *NAMES, "one", "strong")}
    found["double_percent"] = (
        100.0
        * sum(row.get(f"{n}_double", 0) for row in rows for n in NAMES)
        / max(1, sum(row.get(f"{n}_count", 0) for row in rows for n in NAMES))
    )
    found["delay_median_ms"], found["delay_p95_ms"] = over_all("delays_ms")
    found["late_median_ms"], found["late_p95_ms"] = over_all("late_ms")
    relocks = [row["relock_s"] for row in rows if "relock_s" in row]
    found["jumps"] = len(relocks)
    found["relocked"], found["kept"] = (int(sum(row[way] <= RELOCK_S for row in relocks)) for way in (0, 1))
    found["soon"] = sum(row["relock_beats"] <= SOON for row in rows if "relock_beats" in row)
    return found


def run(count: int = 320, unheard: int = 64, odd: int = 32, cuts: int = 96, seed: int = 2026) -> dict:
    """Summaries by group of clips: all, and by what makes them hard; and of more clips of sampled kits that
    were never taught, whole drum sets and single strokes that were put together.
    """
    there = available_kits()
    held = [kit for kit in there if kit.startswith(HELD_OUT) and not kit.startswith("own")]
    apart = [kit for kit in held if kit.startswith(PUT_TOGETHER)]
    sets = [kit for kit in held if kit not in apart]
    chosen = list(recipes(there, seed, count))
    more = list(recipes(sets, seed + 1, unheard if sets else 0))
    rows = table([*chosen, *more, *recipes(apart, seed + 2, odd if apart else 0)])
    groups: dict[str, list[dict]] = {
        "all clips": rows[:count],
        f"besides, {len(sets)} drum sets that were never taught": rows[count : count + len(more)],
        f"besides, {len(apart)} kits of single strokes, most of them electronic, that were never taught": (
            rows[count + len(more) :]
        ),
    }
    kinds = {
        "kits that were taught": lambda r: not r.kit.startswith(HELD_OUT),
        "sampled kits": lambda r: not r.kit.startswith("own"),
        "sampled kits, but for brushes": lambda r: not r.kit.startswith("own") and not r.kit.endswith("-40"),
        "drums alone": lambda r: r.bed == 0,
        "with a bed of bass and chords": lambda r: r.bed > 0,
        "swung": lambda r: r.swing > 0.5,
        "noise 25 dB below or louder": lambda r: r.snr_db <= 25,
        "in a room": lambda r: r.room_s > 0,
        "quieter than -15 dBFS": lambda r: r.level_db < -15,
        "tempo ramps and jumps": lambda r: r.end_bpm > 0,
        "3/4 and 6/8": lambda r: r.pattern in ("waltz", "six"),
    }
    for name, belongs in kinds.items():
        groups[name] = [row for row, recipe in zip(rows, chosen) if belongs(recipe)]
    groups["besides, another record cut in, at another tempo (beats only)"] = table(
        records(there, seed + 4, cuts)
    )
    by_people = table(written([kit for kit in there if not kit.startswith(("own", *PUT_TOGETHER))], seed + 3))
    if by_people:
        groups["besides, rhythms that people wrote, none of them taught, on sampled kits"] = by_people
    groups["besides, recorded drum loops (beats only)"] = [judge(clip) for clip in loops()]
    return {
        "clips": count,
        "kits": sorted({kit.split("-")[0] for kit in there}),
        "groups": {name: {"clips": len(part), **summary(part)} for name, part in groups.items() if part},
    }


COLUMNS = {
    "clips": "clips",
    "beat_f": "beat F",
    "aml_t": "AMLt",
    "kick": "kick F",
    "snare": "snare F",
    "hat": "hat F",
    "double_percent": "doubles %",
    "one": "counted right",
    "strong": "one or three",
    "soon": f"locked again within {SOON} beats",
    "relocked": f"in {RELOCK_S:.0f} s",
    "kept": "and to the end",
    "delay_median_ms": "delay median ms",
    "delay_p95_ms": "delay p95 ms",
    "late_median_ms": "late median ms",
    "late_p95_ms": "late p95 ms",
}


def _shown(row: dict, key: str) -> str:
    if key == "clips":
        return f"{row[key]}"
    if key in ("soon", "relocked", "kept"):
        return f"{row[key]} of {row['jumps']}" if row["jumps"] else ""
    if np.isnan(row[key]):
        return ""
    return f"{row[key]:.1f}" if key.endswith(("_ms", "percent")) else f"{row[key]:.3f}"


def _introduction(results: dict) -> list[str]:
    return [
        "# How well it hears",
        "",
        "Made by `./fulgura bench --listening --write`; do not edit by hand.",
        "",
        (
            f"{results['clips']} clips of {SECONDS:.0f} s, synthesised with their truth by construction"
            f" (training/material/rhythms.py; kits: {', '.join(results['kits'])}), through the live"
        ),
        (
            "analyser without look-ahead. Beats: mir_eval F-measure at ±70 ms and AMLt, the first 8 s left"
            " out. Hits: F-measure at ±50 ms."
        ),
        (
            f"Locked again: after how many of the sudden changes of tempo (by {SUDDEN:.0%} or more)"
            f" {RELOCK_BEATS} beats in a row were met, the first of them when no more than {SOON} had gone"
            f" by, or within {RELOCK_S:.0f} s;"
        ),
        (
            "and to the end: every one from then on to the end of the clip. A record that is cut in begins"
            " wherever in its bar it is, with its own rhythm, kit and room."
        ),
        (
            f"Counted right: in bars of four, where the beat's F is at least {RIGHT_TEMPO}, the share of"
            " beats that got their right number; one or three: that got"
        ),
        (
            "an odd or an even number as they should. Many patterns are the same from the third beat on as"
            " from the first: there only a crash, a chord or where"
        ),
        (
            "the sound began can tell them apart; every clip begins with a one, and the analyser takes what"
            " begins after silence for one."
        ),
        (
            "Doubles: hits told twice, in percent of all. Delay: from when a hit is said to have sounded to"
            " when it was told; late: the same from when it truly sounded."
        ),
        "",
        (
            "Never taught means that no network had lessons on these kits; what counts the bar and what"
            " compares tempi had lessons of other rhythms than these (training/material/grooves.py)."
            " Thresholds and the choice among taught networks were made on other clips of the same"
        ),
        (
            "kits, so that a kit nobody has listened to may do a little worse. Of General MIDI's brush sets a"
            " tap and a slap count as snares, a swirl does not."
        ),
        (
            "Rhythms that people wrote are the pieces of Debian's hydrogen-data"
            " (training/material/pieces.py), with their fills and rolls on toms; their beats are"
            " where the file"
        ),
        (
            "counts them, which in one of the eight is not where the drums let a listener count. Strokes"
            " softer than 0.3 are neither for nor against a detector."
        ),
        "",
    ]


def write_markdown(results: dict, path: Path) -> None:
    """docs/listening.md."""
    lines = [
        *_introduction(results),
        f"| clips | {' | '.join(COLUMNS.values())} |",
        f"|---|{'---|' * len(COLUMNS)}",
    ]
    for name, row in results["groups"].items():
        values = [_shown(row, key) for key in COLUMNS]
        lines.append(f"| {name} | {' | '.join(values)} |")
    path.write_text("\n".join([*lines, ""]))
