"""Listening against things outside the project: AES17, scipy, librosa, mir_eval and known truth."""

import json
import subprocess
import sys

import librosa
import mir_eval
import numpy as np
import pytest
import soundfile
from scipy.signal import sosfilt, sosfreqz

from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.listening import SLOPES
from fulgura.core.sound import bands, levels, spectrum
from fulgura.core.sound.analyser import USUAL_BANDS
from fulgura.core.sound.beat import onset_curve
from fulgura.demo.tracks import TRACKS
from fulgura.engine.analyze import analyze


def sine(hz, seconds, dbfs):
    return np.sin(2 * np.pi * hz * np.arange(int(seconds * SAMPLE_RATE)) / SAMPLE_RATE) * 10 ** (dbfs / 20)


@pytest.fixture(scope="module")
def heard(tmp_path_factory):
    """The demo tracks, written to disk and analysed, with their truth."""
    folder = tmp_path_factory.mktemp("tracks")
    rows = {}
    for track, (_, compose) in TRACKS.items():
        score = compose()
        soundfile.write(folder / f"{track}.flac", score.finished(), SAMPLE_RATE)
        rows[track] = (score, analyze(folder / f"{track}.flac"), folder / f"{track}.flac")
    return rows


@pytest.mark.parametrize("dbfs", [-20.0, -3.0, -60.0])
def test_level_agrees_with_aes17(tmp_path, dbfs):
    """AES17: 0 dBFS is the RMS of a full-scale sine, so a 997 Hz sine at -20 dBFS reads -20.0 ±0.1 dB."""
    soundfile.write(tmp_path / "sine.wav", sine(997, 2, dbfs), SAMPLE_RATE, subtype="FLOAT")
    level = analyze(tmp_path / "sine.wav")["level"]
    assert level["rms_dbfs"] == pytest.approx(dbfs, abs=0.1)
    assert level["peak_dbfs"] == pytest.approx(dbfs, abs=0.1)


@pytest.mark.parametrize("slope", SLOPES)
@pytest.mark.parametrize("edges", [(30.0, 150.0), (300.0, 2000.0), (6000.0, 16000.0)])
def test_band_edges_lie_at_minus_3_db(edges, slope):
    """A Butterworth's edges are its -3 dB points (textbook); response computed by scipy.signal.sosfreqz."""
    _, response = sosfreqz(bands.design(*edges, slope=slope), worN=np.array(edges), fs=SAMPLE_RATE)
    np.testing.assert_allclose(20 * np.log10(np.abs(response)), -3.01, atol=0.1)


@pytest.mark.parametrize(("slope", "db_an_octave"), [("gentle", 6.0), ("usual", 12.0), ("steep", 24.0)])
def test_a_band_falls_by_its_slope(slope, db_an_octave):
    """The asymptote of a Butterworth is 6 dB an octave and order (textbook); far below the band it is
    reached.
    """
    _, response = sosfreqz(
        bands.design(800.0, 1250.0, slope=slope), worN=np.array([50.0, 100.0]), fs=SAMPLE_RATE
    )
    assert np.diff(20 * np.log10(np.abs(response)))[0] == pytest.approx(db_an_octave, rel=0.02)


def test_the_filter_bank_is_scipys_sosfilt():
    samples = np.random.default_rng(2).standard_normal(BLOCK)
    edges = [(b.low_hz, b.high_hz) for b in USUAL_BANDS] + [
        (20.0, 100.0),
        (8000.0, 20_000.0),
        (500.0, 900.0, "steep"),
        (500.0, 900.0, "gentle"),
    ]
    edges += [
        (float(hz), 1.3 * hz) for hz in np.geomspace(40.0, 12_000.0, 2 * bands.LANES)
    ]  # More than one group, and one that is not full.
    bank = bands.Bank.of(edges)
    squares, peaks = np.zeros(len(edges)), np.zeros(len(edges))
    bands.filter_bank(bank.rows, bank.state, samples, squares, peaks)
    bands.filter_steep(bank.steep, bank.more, bank.more_state, samples, squares, peaks)
    assert list(bank.steep) == [5]
    for i, edge in enumerate(edges):
        expected = sosfilt(bands.design(edge[0], edge[1], SAMPLE_RATE, *edge[2:]), samples)
        assert squares[i] == pytest.approx(np.mean(expected**2), rel=1e-9)
        assert peaks[i] == pytest.approx(np.abs(expected).max(), rel=1e-9)


def test_the_spectrum_is_scipys_windowed_transform():
    """Against librosa.stft with the same Hann window (librosa: an independent implementation)."""
    samples = np.random.default_rng(4).standard_normal(spectrum.POINTS)
    theirs = np.abs(
        librosa.stft(samples, n_fft=spectrum.POINTS, hop_length=spectrum.POINTS, window="hann", center=False)
    )[:, 0]
    np.testing.assert_allclose(
        spectrum.amplitudes(samples), theirs * 2 / spectrum.window().shape[0] * 2, rtol=1e-5, atol=1e-7
    )


def test_parsevals_theorem_holds():
    samples = np.random.default_rng(5).standard_normal(spectrum.POINTS)
    amplitude = spectrum.amplitudes(samples)
    one_sided = 2 * np.sum(amplitude**2) - amplitude[0] ** 2 - amplitude[-1] ** 2
    assert one_sided / spectrum.POINTS == pytest.approx(np.sum((samples * spectrum.window()) ** 2), rel=1e-9)


@pytest.mark.parametrize("track", ["lamp-room", "fog-signal", "undertow"])
def test_beats_agree_with_the_truth(heard, track):
    """mir_eval (MIREX: ±70 ms), first 8 s left out; and causal is not worse than librosa's offline
    tracker.
    """
    score, result, file = heard[track]
    truth = np.array([t for t in score.beats() if t > 8])
    ours = mir_eval.beat.f_measure(truth, np.array([b["t"] for b in result["beats"] if b["t"] > 8]))
    assert ours >= 0.9
    mono, rate = librosa.load(file, sr=22_050)
    _, theirs = librosa.beat.beat_track(y=mono, sr=rate, units="time")
    assert ours >= mir_eval.beat.f_measure(truth, theirs[theirs > 8]) - 0.02


@pytest.mark.parametrize("track", ["lamp-room", "fog-signal", "undertow"])
def test_each_kick_is_counted_once(heard, track):
    """mir_eval onsets, MIREX tolerance ±50 ms; a double count would cost precision."""
    score, result, _ = heard[track]
    f, _, _ = mir_eval.onset.f_measure(
        np.unique(score.hits["kick"]), np.array([h["t"] for h in result["hits"]["kick"]]), window=0.05
    )
    assert f >= 0.95


def test_tempo_is_read_within_one_percent(heard):
    for track in ("lamp-room", "fog-signal", "undertow"):
        score, result, _ = heard[track]
        late = [row["bpm"] for row in result["tempo"] if row["t"] > 15]
        assert np.median(late) == pytest.approx(score.bpm, rel=0.01)


def test_drones_raise_no_confident_beats(heard):
    _, result, _ = heard["slack-water"]
    assert np.median([row["confidence"] for row in result["tempo"]]) < 0.3


def test_the_flux_lateness_is_what_clicks_measure():
    """FLUX_LATENESS_S: a click's flux peaks in the step whose middle lies this much after the click."""
    samples = np.zeros(SAMPLE_RATE)
    click = SAMPLE_RATE // 2
    samples[click] = 1.0
    state, rises = onset_curve.Flux(), []
    for end in range(onset_curve.WINDOW, SAMPLE_RATE, onset_curve.HOP):
        whole, _ = onset_curve.flux(state, samples[end - onset_curve.WINDOW : end])
        rises.append((whole, end))
    peak_end = max(rises)[1]
    middle = peak_end - onset_curve.WINDOW / 2
    assert (
        abs((middle - click) / SAMPLE_RATE - onset_curve.FLUX_LATENESS_S) < 2 * onset_curve.HOP / SAMPLE_RATE
    )


def test_analyze_prints_the_promised_fields(heard):
    _, _, file = heard["fog-signal"]
    done = subprocess.run(
        [sys.executable, "-m", "fulgura", "analyze", str(file), "--json"],
        capture_output=True,
        text=True,
        check=True,
    )
    row = json.loads(done.stdout)
    assert {
        "file",
        "sample_rate",
        "hop",
        "duration_s",
        "realtime_factor",
        "level",
        "bands",
        "hits",
        "tempo",
        "beats",
    } <= row.keys()
    assert row["hop"] == 256 and row["sample_rate"] == 48_000 and set(row["hits"]) == {"kick", "snare", "hat"}
    assert {"t", "at", "strength"} == row["hits"]["kick"][0].keys() and {"t", "at", "bar_position"} == row[
        "beats"
    ][0].keys()
    assert {"name", "low_hz", "high_hz", "rms_dbfs", "peak_dbfs"} == row["bands"][0].keys()


@pytest.mark.parametrize(
    ("rate", "channels", "kind"),
    [(8_000, 1, "wav"), (44_100, 2, "ogg"), (96_000, 2, "flac"), (44_100, 1, "mp3"), (192_000, 6, "wav")],
)
def test_files_of_any_rate_and_kind_are_heard(tmp_path, rate, channels, kind):
    samples = np.repeat(
        np.sin(2 * np.pi * 440 * np.arange(rate * 2) / rate)[:, None] * 0.25, channels, axis=1
    )
    file = tmp_path / f"tone.{kind}"
    soundfile.write(file, samples, rate)
    row = analyze(file)
    assert row["sample_rate"] == rate and row["duration_s"] == pytest.approx(2.0, abs=0.06)
    assert row["level"]["rms_dbfs"] == pytest.approx(-12.04, abs=0.3)


@pytest.mark.parametrize(
    ("name", "content", "words"),
    [
        ("empty.wav", b"", "empty"),
        ("text.mp3", b"no sound in here" * 40, "damaged"),
        ("cut.flac", b"fLaC\0\0", "damaged"),
        ("nothing.wav", None, "no sound in it"),
        ("gone.wav", False, "no file"),
    ],
)
def test_a_bad_file_is_named_and_explained(tmp_path, name, content, words):
    file = tmp_path / name
    if content is None:
        soundfile.write(file, np.zeros((0, 1)), SAMPLE_RATE)
    elif content is not False:
        file.write_bytes(content)
    done = subprocess.run(
        [sys.executable, "-m", "fulgura", "analyze", str(file), "--json"], capture_output=True, text=True
    )
    assert (
        done.returncode == 1
        and words in done.stdout
        and name in done.stdout
        and "Traceback" not in done.stdout + done.stderr
    )


def test_dbfs_of_silence_is_finite():
    assert levels.to_dbfs(0.0) == levels.peak_dbfs(0.0) == levels.SILENCE_DBFS
