"""Debian's headless Chromium, and hands for it."""

from playwright.sync_api import Locator, Page

# --use-angle=gl-egl draws WebGL2 with the rasteriser that Python's EGL context uses; the page itself is put
# together without it, which is much faster where there is no graphics card.
CHROMIUM = [
    "--no-sandbox",
    "--use-angle=gl-egl",
    "--ignore-gpu-blocklist",
    "--disable-gpu-compositing",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-quic",
]


SELDOM = """(() => {
  const frame = window.requestAnimationFrame.bind(window)
  const after = (frames, act) => frame((now) => (frames > 1 ? after(frames - 1, act) : act(now)))
  window.requestAnimationFrame = (act) => after(8, act)
})()"""
"""Script of a page that draws at every eighth frame of its screen."""


def pace(page: Page) -> tuple[float, float]:
    """(frames a second, milliseconds that the page itself takes of each: script, style and layout), over
    three seconds.

    Sixty frames a second leave 16.7 ms each. Rasterising is the graphics card's where there is one; this must
    leave room.
    """
    session = page.context.new_cdp_session(page)
    session.send("Performance.enable")

    def spent() -> float:
        rows = {row["name"]: row["value"] for row in session.send("Performance.getMetrics")["metrics"]}
        return sum(rows[name] for name in ("ScriptDuration", "LayoutDuration", "RecalcStyleDuration"))

    before, frames = (
        spent(),
        page.evaluate(
            "() => new Promise(r => { let n = 0; const t = performance.now(); (function f() { n++;"
            " performance.now() - t < 3000 ? requestAnimationFrame(f) : r(n) })() })"
        ),
    )
    return frames / 3.0, 1000.0 * (spent() - before) / frames


def drag(
    page: Page, grip: Locator, by: tuple[float, float], at: tuple[float, float] | None = None, steps: int = 5
) -> None:
    """Take hold of an element once it rests and nothing covers it, and pull it by (x, y) pixels.

    at: where in it the hand takes hold, in pixels from its upper left corner; its middle without.
    """
    grip.hover(position=None if at is None else {"x": at[0], "y": at[1]})
    box = grip.bounding_box()
    assert box is not None, "what is dragged is on the page"
    x, y = at or (box["width"] / 2, box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + x + by[0], box["y"] + y + by[1], steps=steps)
    page.mouse.up()
