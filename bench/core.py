"""What the core takes: hearing, routing, particles."""

import tempfile
import time
from pathlib import Path

import numpy as np
import psutil
import soundfile

from fulgura.core import wire
from fulgura.core.clock import BLOCK, SAMPLE_RATE
from fulgura.core.kinds.swarm import Swarm
from fulgura.core.kinds.tick import TickContext
from fulgura.core.performer import Performer
from fulgura.core.routing.router import Router
from fulgura.core.show.edits import SetValue, apply
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part
from fulgura.core.show.routes import Route
from fulgura.core.sound.analyser import USUAL_DETECTORS, Analyser, BandSetting
from fulgura.core.sound.hits import Detector
from fulgura.demo.show import demo_show
from fulgura.demo.tracks import TRACKS
from fulgura.engine.analyze import analyze


def analyser() -> dict:
    """Real-time factor of ``analyze`` on each demo track: three bands, all detectors, tempo. Process pinned
    to a core.
    """
    affinity = psutil.Process().cpu_affinity()
    psutil.Process().cpu_affinity(affinity[:1])
    try:
        with tempfile.TemporaryDirectory() as folder:
            factors, processor = {}, []
            for track, (_, compose) in TRACKS.items():
                file = Path(folder) / f"{track}.wav"
                soundfile.write(file, compose().finished(), SAMPLE_RATE)
                rows = []
                for _ in range(3):
                    row = analyze(file)
                    rows.append(row["realtime_factor"])
                    processor.append(row["processor_factor"])
                factors[track] = sorted(rows)
            crowded = sorted(_crowded(TRACKS["lamp-room"][1]().finished()) for _ in range(7))
    finally:
        psutil.Process().cpu_affinity(affinity)
    medians = [rows[1] for rows in factors.values()]
    return {
        "realtime_factor": {
            "median": float(np.median(medians)),
            "worst_track_median": min(medians),
            "runs": factors,
            "twelve_bands": {"median": crowded[3], "best": crowded[-1]},
        },
        "processor_factor": {"median": float(np.median(processor)), "least": min(processor)},
    }


def _crowded(samples: np.ndarray) -> float:
    """Real-time factor with twelve bands, each with hits of its own, beside the drums, tempo, loudness and
    descriptors.
    """
    edges = np.geomspace(30.0, 16_000.0, 13)
    bands = tuple(BandSetting(f"band-{i}", low, high) for i, (low, high) in enumerate(zip(edges, edges[1:])))
    listener = Analyser(
        bands, (*USUAL_DETECTORS, *(Detector(f"{band.name}-hits", band.name) for band in bands))
    )
    started, blocks = time.perf_counter(), len(samples) // BLOCK
    for i in range(blocks):
        listener.push(samples[i * BLOCK : (i + 1) * BLOCK])
    return blocks * BLOCK / SAMPLE_RATE / (time.perf_counter() - started)


KINDS = (
    "range",
    "curve",
    "smooth",
    "gate",
    "pulse",
    "step",
    "quantise",
    "fall",
    "limit",
    "delay",
    "toggle",
    "hold",
)


def routes() -> dict:
    """Milliseconds of a tick of many routes with four shapers each, every kind of shaper among them; and of
    one edit.
    """
    out = {}
    for count in (500, 2000):
        targets = ["ring.radius", "ring.width", "feedback.hue", "feedback.fade", "lamp-1.level"]
        heard = ["band-low", "hit-kick", "band-high", "level", "beat-phase"]
        many = [
            Route(
                id=f"r{i}",
                signal=heard[i % 5],
                targets=[targets[i // 5 % 5]],
                low=0.0,
                high=0.5,
                shapers=[Part(id=f"s{k}", kind=KINDS[(i + 5 * k) % len(KINDS)]) for k in range(4)],
            )
            for i in range(count)
        ]
        show, router = demo_show().model_copy(update={"routes": many}), Router()
        router.configure(show)
        rng = np.random.default_rng(1)
        ticks, edits = [], []
        for n in range(600):
            values, hits = (
                rng.random(len(router.signals)),
                (rng.random(len(router.signals)) > 0.9).astype(np.int64),
            )
            started = time.perf_counter()
            router.tick(values, hits, TickContext(beats=n / 30, seconds=n / 60, fallen=int(n % 30 == 0)))
            ticks.append(1000 * (time.perf_counter() - started))
        for n in range(20):
            show, _ = apply(show, SetValue(path=f"/routes/r{7 * n}/amount", value=0.5))
            compiled, started = router.compiled, time.perf_counter()
            router.configure(show)
            edits.append(1000 * (time.perf_counter() - started))
            assert router.compiled == compiled + 1
        out[str(count)] = {"tick_ms": percentiles(ticks), "edit_ms": percentiles(edits)}
    return out


def particles() -> dict:
    """Milliseconds to move, pack and encode fifty thousand particles."""
    part = Part(
        id="p",
        kind="particles",
        values={"rate": 20_000.0, "burst_by": "beat", "burst": 10_000.0, "life": 20.0, "most": 50_000.0},
    )
    layer = Layer(id="l", name="L", source=part, mix=Part(id="m", kind="over"))
    performer = Performer(
        demo_show().model_copy(
            update={"looks": [Look(id="x", name="X", layers=[layer])], "look": "x", "routes": []}
        )
    )
    swarm = performer.picture.providers["particles p"]
    assert isinstance(swarm, Swarm)
    while swarm.count < 50_000:
        performer.tick()
    times = []
    for _ in range(120):
        started = time.perf_counter()
        wire.encode(performer.packet(performer.tick()))
        times.append(1000 * (time.perf_counter() - started))
    return percentiles(times)


def percentiles(numbers: list[float]) -> dict:
    return {"p50": float(np.median(numbers)), "p99": float(np.quantile(numbers, 0.99))}
