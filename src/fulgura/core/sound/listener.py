"""One input as the show hears it. Its level under control, an analysis of its own, its own beat."""

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any, NamedTuple, TypeVar

import numpy as np

from fulgura.core.arrays import Array
from fulgura.core.clock import BLOCK, FRAME_RATE, SAMPLE_RATE
from fulgura.core.kinds.descriptors import DESCRIPTOR_IDS
from fulgura.core.kinds.heard_sound import HeardSound
from fulgura.core.show import signals as table
from fulgura.core.show.document import Show
from fulgura.core.show.inputs import MAIN, Band, HitSetting, Input
from fulgura.core.sound import hits as hitting
from fulgura.core.sound import levels
from fulgura.core.sound.analyser import Analyser, BandSetting
from fulgura.core.sound.beat import beat_hand, beat_state, tempo_filter
from fulgura.core.sound.detector_diagnostics import FAST_HZ, FAST_MOST, DetectorDiagnostics
from fulgura.core.sound.gain import LISTEN_S, FloorMeasure, LevelControl
from fulgura.core.sound.loudness import SEGMENT

STEP_S = SEGMENT / SAMPLE_RATE
SURE_ENOUGH = 0.15
"""Confidence from which the beat's phase runs at all."""
CONFIDENT = 0.3
"""Confidence from which the desk shows the beat as sure."""
DOWNBEAT_SURE_ENOUGH = 0.75
"""Likelihood of the bar's one from which the desk shows it as sure."""
FITS_ENOUGH = 0.5
"""How well the beats must fit what was heard for the desk not to say that they are unsure."""


Timed = TypeVar("Timed", hitting.Hit, beat_state.Beat)


@dataclass
class Collected:
    """What was heard since the last frame."""

    hits: list[hitting.Hit] = field(default_factory=list)
    rejected: list[hitting.Hit] = field(default_factory=list)
    beats: list[beat_state.Beat] = field(default_factory=list)
    peak: float = 0.0
    band_peaks: Array = field(default_factory=lambda: np.zeros(0))
    """Largest absolute sample of each band, after its gain."""
    fallen: list[int] = field(default_factory=list)
    """Bar positions of the beats that sounded since the last frame."""

    def later(self, seconds: float) -> "Collected":
        """The same on a clock that is so many seconds ahead."""
        if not seconds:
            return self

        return Collected(
            _later(self.hits, seconds),
            _later(self.rejected, seconds),
            _later(self.beats, seconds),
            self.peak,
            self.band_peaks,
            self.fallen,
        )


def _heard_as(mode: str) -> str:
    """How the tracker takes it: a beat that somebody else counts runs on by itself in between."""
    return "locked" if mode in ("midi", "osc") else mode


def _later(rows: list[Timed], seconds: float) -> list[Timed]:
    return [replace(row, t=row.t + seconds, at=row.at + seconds) for row in rows]


class Closed(NamedTuple):
    """One frame of an input. collected: what was heard since the last; values: of every signal, by the name
    that the listener gives it; counts: how many hits fell, of those that have hits.
    """

    collected: Collected
    values: dict[str, float]
    counts: Mapping[str, int]


class InputListener:
    """Hears one input: ``hear`` each block, ``close`` once a frame; ``configure`` between two frames."""

    def __init__(self) -> None:
        self.analyser = Analyser((), ())
        self.level = LevelControl()
        self.floor: FloorMeasure | None = None
        self.collected = Collected()
        self.repaired = self.clips = 0
        self.due: list[beat_state.Beat] = []
        self.fallen_t, self.bar_position = 0.0, 1
        self.bar_phase = 0.0
        self.beats_a_bar = 4
        self.band_order: dict[str, int] = {}
        self.watches: dict[str, DetectorDiagnostics] = {}
        self.sound = HeardSound()
        """The newest samples, left and right, as they are heard."""

    def configure(self, show: Show, audio_input: Input) -> None:
        """Take over an edited show. Only the main input's beat is in the performer's hand."""
        self.level.settings, self.level.gain_db = audio_input.level, audio_input.gain_db
        bands = [b for b in show.bands if b.input == audio_input.id]
        hits = [h for h in show.hits if show.input_of(h) == audio_input.id]
        self.analyser.configure(
            tuple(
                BandSetting(
                    b.id, b.low_hz, b.high_hz, b.gain_db, b.attack_ms / 1000, b.release_ms / 1000, b.slope
                )
                for b in bands
            ),
            tuple(
                hitting.Detector(
                    h.id,
                    h.listens,
                    h.sensitivity,
                    h.dead_time_ms / 1000,
                    h.least_dbfs,
                    h.absolute_dbfs if h.threshold == "absolute" else None,
                )
                for h in hits
            ),
        )
        most = {h.id: FAST_MOST if self._is_fast(h, bands) else 1 for h in hits}
        self.watches = {
            name: kept
            if (kept := self.watches.get(name)) and kept.most == count
            else DetectorDiagnostics(count)
            for name, count in most.items()
        }
        self.band_order = {band.id: i for i, band in enumerate(bands)}
        self.beats_a_bar = show.tempo.beats_a_bar
        beat_hand.choose(
            self.analyser.beat,
            _heard_as(show.tempo.mode) if audio_input.id == MAIN else "auto",
            show.tempo.bpm,
            self.beats_a_bar,
        )

    @staticmethod
    def _is_fast(hit: HitSetting, bands: list[Band]) -> bool:
        """Whether more than one hit a beat is nothing unusual."""
        return (
            hit.drum == "hat"
            if hit.drum
            else any(band.id == hit.band and band.low_hz * band.high_hz > FAST_HZ**2 for band in bands)
        )

    def hear(self, block: Array) -> None:
        """One audio block, float, shape (256,) or (256, channels)."""
        if self.floor is not None:
            self.floor.hear(block)
        levelled = self.level.apply(block if block.ndim == 2 else block[:, None])
        self.sound.push(levelled[:, [0, min(1, levelled.shape[1] - 1)]])
        heard = self.analyser.push(levelled)
        if heard.loudness:
            self.level.follow(self.analyser.loudness.momentary, self.analyser.loudness.short_term, STEP_S)
        now = self.collected
        now.hits += heard.hits
        now.rejected += heard.rejected
        now.beats += heard.beats
        self.due += heard.beats
        now.peak = max(now.peak, self.analyser.peak)
        peaks = self.analyser.band_peaks
        now.band_peaks = (
            np.maximum(now.band_peaks, peaks) if len(now.band_peaks) == len(peaks) else peaks.copy()
        )
        self.repaired += heard.repaired
        self.clips += int(self.analyser.peak >= 0.999)

    def close(self) -> Closed:
        """Close a frame."""
        collected, self.collected = self.collected, Collected()
        now, beat = self.analyser.time, self.analyser.beat
        fallen = []
        while self.due and self.due[0].t <= now:
            self.fallen_t, self.bar_position = self.due[0].t, self.due.pop(0).bar_position
            fallen.append(self.bar_position)
        collected.fallen = fallen
        self._watch(collected, fallen)
        sure = beat.confidence > SURE_ENOUGH
        phase = beat_state.beat_phase(beat, now) if sure else 0.0
        # The clock goes on being corrected after a beat was told, so that its phase begins anew a little
        # before the beat falls or after: counted from the beat that fell, or the bar would lose or gain a
        # beat for a moment.
        since = phase + (round((now - self.fallen_t) / beat.interval_s - phase) if sure else 0)
        self.bar_phase = (min(self.bar_position, self.beats_a_bar) - 1 + since) / self.beats_a_bar % 1.0
        values = {
            table.LEVEL: min(1.0, self.analyser.rms * 2**0.5),
            table.PEAK: min(1.0, collected.peak),
            table.BEAT: float(bool(fallen)),
            table.BEAT_PHASE: phase,
            table.BAR_PHASE: self.bar_phase,
        }
        values |= zip(DESCRIPTOR_IDS, self.analyser.descriptors.values.tolist())
        values |= {
            f"band-{band}": min(1.0, float(self.analyser.band_levels[i]))
            for band, i in self.band_order.items()
        }
        heard = zip(self.analyser.bands, collected.band_peaks)
        values |= dict.fromkeys((f"peak-{band}" for band in self.band_order), 0.0)
        values |= {f"peak-{band.name}": min(1.0, float(peak)) for band, peak in heard}
        values |= {f"hit-{detector.name}": 0.0 for detector in self.analyser.detectors}
        counts = Counter(f"hit-{hit.detector}" for hit in collected.hits)
        counts[table.BEAT] = len(fallen)
        for hit in collected.hits:
            name = f"hit-{hit.detector}"
            values[name] = max(values.get(name, 0.0), hit.strength)
        return Closed(collected, values, counts)

    def _watch(self, collected: Collected, fallen: list[int]) -> None:
        counts = Counter(hit.detector for hit in collected.hits)
        beat_s = self.analyser.beat.interval_s if self.analyser.beat.confidence > SURE_ENOUGH else 0.0
        for detector, square in zip(self.analyser.detectors, self.analyser.detector_squares()):
            self.watches[detector.name].step(
                counts[detector.name], fallen, levels.to_dbfs(square**0.5), beat_s, 1.0 / FRAME_RATE
            )

    def watched(self) -> dict[str, dict[str, Any]]:
        """What the desk shows of each detector: hits of the last bar, and what looks wrong."""
        return {
            name: {"a_bar": watch.a_bar, "warning": watch.warning(self.beats_a_bar)}
            for name, watch in self.watches.items()
        }

    def status(self, collected: Collected, now: float, show: Show) -> list[float]:
        """What meters show, with times on the main input's clock; the order is that of the status block
        (docs/formats/frame.md)."""
        beat, loudness = self.analyser.beat, self.analyser.loudness
        return [
            levels.to_dbfs(self.analyser.rms),
            levels.peak_dbfs(collected.peak),
            self.clips,
            self.repaired,
            beat.bpm,
            beat.confidence,
            self.bar_phase,
            self.bar_position,
            beat.next_t + now - self.analyser.time,
            beat.interval_s,
            float(show.blackout != "off"),
            show.sound_amount,
            loudness.momentary,
            loudness.short_term,
            self.level.followed_db,
            float(self.level.open),
            self.beats_a_bar,
        ]

    def listen_to_room(self) -> None:
        """Begin to measure the room's noise; done after three seconds."""
        self.floor = FloorMeasure()

    def room(self) -> dict[str, Any]:
        """What the desk shows of that measurement; empty before the first."""
        if self.floor is None:
            return {}
        if not self.floor.done:
            return {"left_s": max(0.1, round(LISTEN_S - len(self.floor.squares) * BLOCK / SAMPLE_RATE, 1))}
        return {
            "left_s": 0.0,
            "room_dbfs": round(self.floor.room_dbfs, 1),
            "proposed_dbfs": round(self.floor.proposed_dbfs, 1),
        }

    def follow_beat(self, in_s: float, interval_s: float, in_bar: int | None) -> None:
        """The next beat is in so many seconds, as somebody else counts; see beat_hand.follow."""
        beat_hand.follow(self.analyser.beat, self.analyser.time + in_s, interval_s, in_bar)

    def turn_beat(self, what: str, value: float, age_s: float = 0.0) -> None:
        """A hand on the beat: half, double, nudge (value: seconds), one, align (value: seconds between
        beats), anew. age_s: how long ago.
        """
        beat, now = self.analyser.beat, self.analyser.time - age_s
        match what:
            case "half":
                beat_hand.scale_tempo(beat, 0.5)
            case "double":
                beat_hand.scale_tempo(beat, 2.0)
            case "nudge":
                beat_hand.nudge(beat, float(np.clip(value, -0.25, 0.25)))
            case "downbeat":
                beat_hand.mark_downbeat(beat, now)
            case "align" if 0.2 <= value <= 2.0:
                beat_hand.align(beat, now, value)
            case "anew":
                beat_hand.listen_anew(beat)

    def beat_state(self) -> dict[str, Any]:
        """What was chosen by hand, whether the beats fit what is heard, and whether the bar's one is sure."""
        beat = self.analyser.beat
        return {
            "nudged_ms": round(1000 * beat.shift_s),
            "marked": beat.marked,
            "leaned": beat.centre_bpm != tempo_filter.USUAL_BPM,
            "fits": beat.fits > FITS_ENOUGH,
            "downbeat_sure": beat_state.downbeat_likelihood(beat) > DOWNBEAT_SURE_ENOUGH,
        }
