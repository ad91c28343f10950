"""The tempo by taps, the one by a press, and what lasts beats begins with it."""

import json
import time

import numpy as np
import pytest
from websockets.sync.client import connect

from fulgura.core import wire
from fulgura.core.wire import BlockId
from harness.stack import live, told, wait_for

GAP_MS = 484.0
TAPS = """async ([gap, count]) => {
  const buttons = [...document.querySelectorAll('[aria-label=Tempo] button')]
  const tap = buttons.find(b => b.textContent.trim() === 'Tap')
  const begun = performance.now() + 200
  for (let n = 0; n < count; n++) {
    const due = begun + n * gap
    await new Promise(r => setTimeout(r, Math.max(0, due - performance.now() - 12)))
    while (performance.now() < due) ;
    window.lastTap = performance.now()
    tap.dispatchEvent(new PointerEvent('pointerdown', { bubbles: true, cancelable: true }))
  }
}"""
MARK = """async (gap) => {
  const buttons = [...document.querySelectorAll('[aria-label=Tempo] button')]
  const one = buttons.find(b => b.textContent.includes('The one'))
  const due = window.lastTap + Math.ceil((performance.now() + 300 - window.lastTap) / gap) * gap
  await new Promise(r => setTimeout(r, Math.max(0, due - performance.now() - 12)))
  while (performance.now() < due) ;
  const at = performance.timeOrigin + performance.now()
  one.click()
  return at / 1000
}"""


def test_taps_make_the_tempo_the_one_is_marked_and_beats_last_as_long(job):
    page = job.page
    job.play(np.zeros(48_000), "Silence")
    _, made = job.stack.call("POST", "/modulators", {"kind": "lfo"})
    part = f"/modulators/{made['id']}/part"
    for name, value in (("shape", "saw"), ("by", "beats"), ("beats", 8.0)):
        job.stack.set(f"{part}/values/{name}", value)
    ring = job.shown()["layers"][0]["source"]["id"]
    _, route = job.stack.call(
        "POST", "/routes", {"signal": f"modulator-{made['id']}", "targets": [f"{ring}.radius"]}
    )
    for end, value in (("low", 0.0), ("high", 1.0)):
        job.stack.set(f"/routes/{route['id']}/{end}", value)
    job.run()
    page.evaluate(TAPS, [GAP_MS, 9])
    wait_for(lambda: job.document()["tempo"]["mode"] == "held", 5, "the tempo")
    bpm = job.document()["tempo"]["bpm"]
    assert bpm == pytest.approx(60_000 / GAP_MS, abs=1.0)
    # The one is marked with a press on a beat: from then on bars begin there, within 40 ms.
    marked = page.evaluate(MARK, 60_000 / bpm)
    page.wait_for_timeout(800)
    assert told(job.stack)["beat"]["marked"]
    bar_s = 4 * 60 / bpm
    off = (np.array(_bar_begins(job, bar_s, 3.0)) - marked) % bar_s
    assert np.median(np.minimum(off, bar_s - off)) < 0.040

    def starts(seconds: float) -> np.ndarray:
        times, rows = job.watch(seconds, f"{ring}.radius")
        fell = [k for k in range(1, len(rows)) if rows[k, 0] < rows[k - 1, 0] - 0.5]
        return times[fell]

    wait_for(lambda: len(starts(9.0)) >= 2, 20, "two turns of eight beats")
    begun = starts(10.0)
    assert np.diff(begun)[0] == pytest.approx(8 * 60 / bpm, abs=0.035)
    # Each begins with the one: in the very frame in which the bar's phase begins, or the next.
    assert _phases_at_begin(job, f"{ring}.radius", 9.0).max() < 2.5 * bpm / 60 / 60 / 4
    page.get_by_role("button", name="Double the tempo").click()
    wait_for(
        lambda: job.document()["tempo"]["bpm"] == pytest.approx(min(240.0, 2 * bpm)), 5, "twice the tempo"
    )
    page.wait_for_timeout(1500)
    doubled = min(240.0, 2 * bpm)
    assert np.diff(starts(6.0)).mean() == pytest.approx(8 * 60 / doubled, abs=0.04)


def _bar_begins(job, bar_s: float, seconds: float) -> list[float]:
    """When the bar began, by what each frame says of its phase, in seconds since 1970."""
    origin, found = job.stack.url, []
    with connect(f"ws://127.0.0.1:{job.stack.port}/api/v1/live", origin=origin) as page:
        page.send(json.dumps({"want": [int(BlockId.STATUS)]}))
        until = time.monotonic() + seconds
        while time.monotonic() < until:
            heard = page.recv(timeout=5)
            if isinstance(heard, bytes):
                phase = float(wire.decode(heard).blocks[BlockId.STATUS][6])
                found.append(time.time() - phase * bar_s)
    return found


def _phases_at_begin(job, address: str, seconds: float) -> np.ndarray:
    """The bar's phase (0..1, from the nearest one) in the frames in which a saw begins anew."""
    layouts = [news["data"]["layout"] for news in live(job.stack, 0.4, [])[1] if news["type"] == "layout"]
    at = next(entry["index"] for entry in layouts[-1]["indices"] if entry["target"] == address)
    packets, _ = live(job.stack, seconds, [BlockId.STATUS, BlockId.LIVE])
    values = np.array([packet.blocks[BlockId.LIVE][at] for packet in packets])
    phases = np.array([packet.blocks[BlockId.STATUS][6] for packet in packets])
    begins = np.flatnonzero(np.diff(values) < -0.5) + 1
    assert len(begins) >= 2
    return np.minimum(phases[begins], 1.0 - phases[begins])
