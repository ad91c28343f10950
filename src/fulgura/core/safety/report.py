"""A report of flashes: what was found, and the page that tells it."""

import html

from pydantic import BaseModel

from fulgura.core.safety import rules


class Judged(BaseModel):
    """What the analyser found: the worst second, how much of a field flashed too often then, and the most
    flashes of every second.
    """

    safe: bool
    at_s: float
    flashes: int
    general: int
    red: int
    area: float
    seconds: list[int]


class LookFlashes(BaseModel):
    """A look by itself and with the guard. change: mean difference of both, of full light; strip: pictures of
    the worst second of the look by itself, as PNG in base64.
    """

    look: str
    name: str
    alone: Judged
    guarded: Judged
    change: float
    strip: list[str]


class FlashReport(BaseModel):
    """What was looked at, and what was found. heard: the sound that it was drawn to."""

    show: str
    heard: str
    seconds: float
    looks: list[LookFlashes]


STYLE = """body{background:#0c0a12;color:#f1ecf6;font:16px sans-serif;max-width:1100px;
margin:2rem auto;padding:0 1rem}
table{border-collapse:collapse}td,th{padding:.3rem .8rem;text-align:left}img{width:128px;display:inline-block}
.bad{color:#ff5c7a}.soft{color:#aaa1b8}svg{display:block;margin:.5rem 0}"""


def page(report: FlashReport) -> str:
    """The report as a page that needs nothing else."""
    looks = "".join(_look(each) for each in report.looks)
    return (
        "<!doctype html><html lang=en><meta charset=utf-8><title>Flashes</title>"
        f"<style>{STYLE}</style><h1>Flashes of {html.escape(report.show)}</h1>"
        f"<p class=soft>Drawn to {html.escape(report.heard)} for {report.seconds:g} s each. Allowed: "
        f"{rules.MOST_FLASHES} flashes in any second over a quarter of any ten degrees of what is seen "
        f"(WCAG 2.2, success criterion 2.3.1; figures from memory of that text).</p>{looks}</html>"
    )


def _look(each: LookFlashes) -> str:
    rows = "".join(
        f"<tr><td>{title}<td class={'soft' if judged.safe else 'bad'}>{judged.flashes} in the second to "
        f"{judged.at_s:.1f} s<td>{judged.area:.0%} of a field too often<td>{judged.red} red"
        for title, judged in (("by itself", each.alone), ("guarded", each.guarded))
    )
    bars = "".join(
        f"<rect x={8 * at} y={60 - 6 * min(10, count)} width=6 height={6 * min(10, count)} "
        f"fill={'#ff5c7a' if count > rules.MOST_FLASHES else '#8ddc8f'} />"
        for at, count in enumerate(each.alone.seconds)
    )
    wide = 8 * len(each.alone.seconds)
    line = f"<line x1=0 x2={wide} y1=42 y2=42 stroke=#ffd84d />"
    strip = "".join(f'<img alt="" src="data:image/png;base64,{picture}">' for picture in each.strip)
    return (
        f"<h2>{html.escape(each.name)}</h2><table>{rows}</table>"
        f"<p class=soft>Mean change by the guard: {each.change:.2%}</p>"
        f"<svg width={wide} height=60 role=img aria-label='Flashes of each second'>{bars}{line}</svg>"
        f"<div>{strip}</div>"
    )
