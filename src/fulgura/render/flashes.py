"""How often looks flash: drawn offline with and without the guard, judged by the analyser, for a report."""

import base64
import io
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from fulgura.core.clock import BLOCK, FRAME_RATE, blocks_due
from fulgura.core.kinds.inputs.house_band import HouseBandSettings
from fulgura.core.performer import Performer
from fulgura.core.safety import rules
from fulgura.core.safety.analyser import FlashAnalyser
from fulgura.core.safety.report import FlashReport, Judged, LookFlashes
from fulgura.core.show.document import Show
from fulgura.core.show.looks import Look
from fulgura.core.show.outputs import GuardSettings
from fulgura.core.synthesis.house_band import HouseBand
from fulgura.render.executor import Executor

SIZE = (256, 144)
PICTURES = 8
"""Of a strip: the worst second in so many."""
Blocks = Iterator[NDArray[Any]]


def house_band(seed: int) -> Blocks:
    """The house band, for ever."""
    band, settings = HouseBand(seed), HouseBandSettings()
    while True:
        yield band.block(settings)


def over_and_over(samples: NDArray[Any]) -> Blocks:
    """A track from its beginning, over and over: (n, 2), 48 kHz."""
    whole = len(samples) - len(samples) % BLOCK
    while True:
        for start in range(0, whole, BLOCK):
            yield samples[start : start + BLOCK]


def measure(
    show: Show,
    looks: list[Look],
    heard: tuple[str, Callable[[], Blocks]],
    seconds: float,
    pictures: Path | None = None,
    told: Callable[[float], None] = lambda share: None,
) -> FlashReport:
    """Draw looks for so many seconds each, without and with the guard. heard: what the sound is called, and
    how it begins; told: hears how far it is, 0..1.
    """
    found = []
    for number, look in enumerate(looks):
        shown = show.model_copy(update={"look": look.id, "beside": "", "blackout": "off", "frozen": False})
        alone, before = _drawn(shown, False, heard[1](), seconds, pictures)
        told((number + 0.5) / len(looks))
        guarded, after = _drawn(shown, True, heard[1](), seconds, pictures)
        told((number + 1.0) / len(looks))
        change = float(np.mean([np.abs(a - b).mean() for a, b in zip(_light(before), _light(after))]))
        found.append(
            LookFlashes(
                look=look.id,
                name=look.name,
                alone=_judged(alone),
                guarded=_judged(guarded),
                change=change,
                strip=_strip(before, alone.worst.at),
            )
        )
    return FlashReport(show=show.name, heard=heard[0], seconds=seconds, looks=found)


def _light(pictures: list[NDArray[Any]]) -> Iterator[NDArray[Any]]:
    return (rules.decoded(picture) for picture in pictures)


def _drawn(
    show: Show, guarded: bool, blocks: Blocks, seconds: float, pictures: Path | None
) -> tuple[FlashAnalyser, list[NDArray[Any]]]:
    """What the analyser found, and the pictures, uint8, shape (height, width, 3) each."""
    off = GuardSettings(on=False, why_off="It is drawn without, to compare.")
    performer = Performer(show.model_copy(update={"guard": GuardSettings() if guarded else off}))
    executor, analyser, kept, heard = Executor(*SIZE, pictures), FlashAnalyser(), [], 0
    try:
        executor.load(performer.plan)
        for number in range(1, round(seconds * FRAME_RATE) + 1):
            while heard < blocks_due(number):
                performer.hear(next(blocks))
                heard += 1
            frame = performer.tick()
            if executor.plan is not performer.plan:
                executor.load(performer.plan)
            executor.draw(performer.packet(frame))
            picture = np.ascontiguousarray(executor.pixels())
            analyser.add(picture, number / FRAME_RATE)
            kept.append(picture)
    finally:
        executor.close()
    return analyser, kept


def _judged(analyser: FlashAnalyser) -> Judged:
    worst = analyser.worst
    last = round(analyser.moments[-1].at)
    seconds = [
        max((m.flashes for m in analyser.moments if second < m.at <= second + 1), default=0)
        for second in range(max(1, last))
    ]
    return Judged(
        safe=analyser.safe,
        at_s=round(worst.at, 3),
        flashes=worst.flashes,
        general=worst.general,
        red=worst.red,
        area=round(max(moment.area for moment in analyser.moments), 4),
        seconds=seconds,
    )


def _strip(pictures: list[NDArray[Any]], at: float) -> list[str]:
    last = min(len(pictures), max(FRAME_RATE, round(at * FRAME_RATE)))
    found = []
    for number in np.linspace(max(0, last - FRAME_RATE), last - 1, PICTURES).astype(int):
        out = io.BytesIO()
        Image.fromarray(pictures[number]).resize((160, 90)).save(out, "PNG")
        found.append(base64.b64encode(out.getvalue()).decode())
    return found
