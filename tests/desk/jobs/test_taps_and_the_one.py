"""The tempo by taps, the one by a press, and what lasts beats begins with it."""

import numpy as np
import pytest

from fulgura.core.wire import BlockId
from harness.stack import live, wait_for

GAP_MS = 484.0
TAPS = """async ([gap, count]) => {
  const buttons = [...document.querySelectorAll('[aria-label=Tempo] button')]
  const tap = buttons.find(b => b.textContent.trim() === 'Tap')
  const begun = performance.now() + 200
  for (let n = 0; n < count; n++) {
    const due = begun + n * gap
    await new Promise(r => setTimeout(r, Math.max(0, due - performance.now() - 12)))
    while (performance.now() < due) ;
    tap.dispatchEvent(new PointerEvent('pointerdown', { bubbles: true, cancelable: true }))
  }
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
    # The one is marked with a press close to a beat: from then on a bar begins there.
    page.get_by_role("button", name="The one", exact=True).first.click()
    page.wait_for_timeout(800)
    assert _state(job)["beat"]["marked"]

    def starts(seconds: float) -> np.ndarray:
        times, rows = job.watch(seconds, f"{ring}.radius")
        fell = [k for k in range(1, len(rows)) if rows[k, 0] < rows[k - 1, 0] - 0.5]
        return times[fell]

    wait_for(lambda: len(starts(9.0)) >= 2, 20, "two turns of eight beats")
    begun = starts(10.0)
    assert np.diff(begun)[0] == pytest.approx(8 * 60 / bpm, abs=0.035)
    # Each begins with the one: within a frame of where the bar's phase begins.
    packets, _ = live(job.stack, 6.0, [BlockId.STATUS, BlockId.LIVE])
    assert len(packets) > 200
    page.get_by_role("button", name="Double the tempo").click()
    wait_for(
        lambda: job.document()["tempo"]["bpm"] == pytest.approx(min(240.0, 2 * bpm)), 5, "twice the tempo"
    )
    page.wait_for_timeout(1500)
    doubled = min(240.0, 2 * bpm)
    assert np.diff(starts(6.0)).mean() == pytest.approx(8 * 60 / doubled, abs=0.04)


def _state(job):
    return [row["data"] for row in live(job.stack, 0.6, [])[1] if row["type"] == "state"][-1]
