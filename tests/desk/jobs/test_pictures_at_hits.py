"""A wave for what sounds on, a picture that changes at hits only; hits from sound, notes and somebody's
clock.
"""

import threading
import time

import numpy as np

from fulgura.core.synthesis import kit
from fulgura.core.wire import BlockId
from fulgura.standins.midi_line import ClockSource, MidiLine
from harness.measuring import once_good
from harness.stack import live, wait_for
from tests.desk.jobs.conftest import RATE, tone


def kicks(count: int, level: float) -> np.ndarray:
    out = np.zeros(int((count * 0.5 + 5.0) * RATE))
    sound = kit.kick() * level
    for k in range(count):
        start = int((3.0 + k * 0.5) * RATE)  # Whoever watches has begun by then.
        out[start : start + len(sound)] += sound[: len(out) - start]
    return out


def counted_route(job, signal: str, target: str) -> str:
    """Each hit of a signal is one step of a parameter."""
    status, route = job.stack.call("POST", "/routes", {"signal": signal, "targets": [target]})
    assert status == 201, route
    path = f"/routes/{route['id']}"
    job.stack.set(f"{path}/low", 0.0)
    job.stack.set(f"{path}/high", 16.0)
    step = {"id": "step", "kind": "step", "values": {"size": 1 / 64, "end": "wrap"}}
    job.stack.set(f"{path}/shapers", [step])
    return route["id"]


def changes(rows: np.ndarray) -> np.ndarray:
    return np.flatnonzero(np.abs(np.diff(rows)) > 1e-4)


def test_a_picture_changes_at_each_hit_and_only_then(job):
    page = job.page
    page.keyboard.press("3")
    job.look("Steps")
    job.layer("waveform")
    noise = job.layer("noise")["source"]["id"]
    job.stack.set("/hits/kick/threshold", "absolute")
    job.stack.set("/hits/kick/absolute_dbfs", -18.0)
    route = counted_route(job, "hit-kick", f"{noise}.seed")
    # A held tone moves the wave in every frame, the picture never.
    job.play(tone(220.0, 6.0, 0.4), "Tone")
    page.wait_for_timeout(1500)
    packets, _ = live(job.stack, 2.0, [BlockId.WAVEFORM])
    moved = [np.abs(a.blocks[2] - b.blocks[2]).max() for a, b in zip(packets, packets[1:])]
    assert np.mean(np.array(moved) > 0.01) > 0.95
    assert len(changes(job.watch(2.0, f"{noise}.seed")[1][:, 0])) == 0
    job.play(kicks(16, 0.8), "Kicks")
    assert len(changes(job.watch(12.0, f"{noise}.seed")[1][:, 0])) == 16
    # Twenty decibels lower nothing happens, and the desk says why.
    job.play(kicks(16, 0.08), "Soft kicks")
    assert len(changes(job.watch(11.0, f"{noise}.seed")[1][:, 0])) == 0
    reasons = job.stack.call("GET", f"/why/route/{route}")[1]
    assert reasons and reasons[0]["text"]
    job.stack.set("/inputs/main/gain_db", 20.0)
    job.stack.set("/inputs/main/track/track", "lamp-room")
    job.play(kicks(16, 0.08), "Soft kicks again")
    assert len(changes(job.watch(12.0, f"{noise}.seed")[1][:, 0])) == 16
    job.stack.set("/inputs/main/gain_db", 0.0)


def test_hits_come_from_notes_and_from_somebodys_clock(job):
    page = job.page
    job.play(np.zeros(RATE), "Silence")
    page.keyboard.press("3")
    job.look("Steps")
    noise = job.layer("noise")["source"]["id"]
    _, played = job.stack.call("POST", "/modulators", {"kind": "played-signal"})
    line = MidiLine(job.stack.midi_port)
    wait_for(lambda: line.connected, 5, "the line")
    # The notes are seen to arrive, and learnt.
    job.run()
    page.get_by_role("button", name="Controllers").click()
    line.send(bytes([0x99, 38, 90, 0x89, 38, 0]))
    page.get_by_label("What arrives").get_by_text("midi 10 note 38").first.wait_for()
    wanted = {"event": "learn-asked", "does": "hit", "target": played["id"]}
    assert job.stack.call("PUT", "/mappings/learning", wanted)[0] == 204
    time.sleep(0.3)
    line.send(bytes([0x99, 38, 90, 0x89, 38, 0]))
    wait_for(lambda: job.document()["mappings"], 5, "the note")
    counted_route(job, f"modulator-{played['id']}", f"{noise}.seed")
    page.wait_for_timeout(800)

    def strike() -> None:
        time.sleep(1.2)
        for _ in range(20):
            line.send(bytes([0x99, 38, 100]))
            time.sleep(0.04)
            line.send(bytes([0x89, 38, 0]))
            time.sleep(0.04)

    drummer = threading.Thread(target=strike)
    drummer.start()
    seen = job.watch(4.0, f"{noise}.seed")[1][:, 0]
    drummer.join()
    assert len(changes(seen)) == 20, "twenty strikes, twenty pictures"
    # A clock at 124 BPM, and no sound at all.
    job.stack.set("/tempo/mode", "midi")
    beat = counted_route(job, "beat", f"{noise}.rotation")
    job.stack.set(f"/routes/{beat}/high", 180.0)
    clock = ClockSource(line)
    clock.run(124.0, 0.0, True)
    page.wait_for_timeout(4000)

    def gaps() -> np.ndarray:
        times, rows = job.watch(9.0, f"{noise}.rotation")
        return np.diff(times[changes(rows[:, 0]) + 1])

    def even(found: np.ndarray) -> bool:
        """Ten milliseconds, seen by whole frames; fifteen beats at least."""
        off = np.percentile(np.abs(found - 60 / 124), 90)
        return len(found) >= 15 and off < 0.010 + 1 / 60 and abs(found.mean() - 60 / 124) < 0.002

    # A clock that this host held up is uneven before anybody hears it.
    found = once_good(gaps, even)
    clock.run(0.0, 0.0, False)
    assert even(found), found
    line.plug(False)
