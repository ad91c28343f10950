"""How often looks flash: drawn offline with and without the guard, judged by the analyser, for a report."""

import base64
import io
from collections import deque
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from fulgura.core.clock import BLOCK, FRAME_RATE, blocks_due
from fulgura.core.kinds.inputs.house_band import HouseBandSettings
from fulgura.core.performer import Performer
from fulgura.core.picture.plan import Plan
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
    """Draw looks for so many seconds each, and compare what the guard was given with what it let through.
    heard: what the sound is called, and how it begins; told: hears how far it is, 0..1.
    """
    found = []
    for number, look in enumerate(looks):
        shown = {"look": look.id, "beside": "", "blackout": "off", "frozen": False, "guard": GuardSettings()}
        alone, guarded = FlashAnalyser(), FlashAnalyser()
        newest: deque[NDArray[Any]] = deque(maxlen=FRAME_RATE)
        strip, worst, change, count = list[str](), (-1, 0.0), 0.0, round(seconds * FRAME_RATE)
        pairs = _drawn(show.model_copy(update=shown), heard[1](), count, pictures)
        for at, (before, after) in enumerate(pairs, 1):
            moment = alone.add(before, at / FRAME_RATE)
            guarded.add(after, at / FRAME_RATE)
            newest.append(before)
            if (moment.flashes, moment.area) > worst and at >= min(count, FRAME_RATE):
                worst, strip = (moment.flashes, moment.area), _strip(list(newest))
            change += float(np.abs(rules.decoded(before) - rules.decoded(after)).mean()) / count
            if at % FRAME_RATE == 0:
                told((number + at / count) / len(looks))
        found.append(
            LookFlashes(
                look=look.id,
                name=look.name,
                alone=_judged(alone),
                guarded=_judged(guarded),
                change=change,
                strip=strip,
            )
        )
    return FlashReport(show=show.name, heard=heard[0], seconds=seconds, looks=found)


def _drawn(
    show: Show, blocks: Blocks, count: int, pictures: Path | None
) -> Iterator[tuple[NDArray[Any], NDArray[Any]]]:
    """So many pictures, uint8, shape (height, width, 3): what the guard was given, and what it let
    through.
    """
    performer, executor, heard = Performer(show), Executor(*SIZE, pictures), 0
    try:
        executor.load(performer.plan)
        for number in range(1, count + 1):
            while heard < blocks_due(number):
                performer.hear(next(blocks))
                heard += 1
            frame = performer.tick()
            if executor.plan is not performer.plan:
                executor.load(performer.plan)
            executor.draw(performer.packet(frame))
            light = executor.target_values(_given(performer.plan))[::-1, :, :3]
            yield _encoded(light), np.ascontiguousarray(executor.pixels())
    finally:
        executor.close()


def _given(plan: Plan) -> str:
    """The target that the guard reads."""
    free = next(each for each in plan.passes if each.fragment == "guard_free.frag")
    return free.inputs[0].target or ""


def _encoded(light: NDArray[Any]) -> NDArray[np.uint8]:
    """sRGB bytes of linear light: IEC 61966-2-1."""
    light = np.clip(light, 0.0, 1.0)
    high = 1.055 * np.maximum(light, 1e-9) ** (1 / 2.4) - 0.055
    return np.round(255.0 * np.where(light <= 0.0031308, 12.92 * light, high)).astype(np.uint8)


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


def _strip(second: list[NDArray[Any]]) -> list[str]:
    found = []
    for number in np.linspace(0, len(second) - 1, PICTURES).astype(int):
        out = io.BytesIO()
        Image.fromarray(second[number]).resize((160, 90)).save(out, "PNG")
        found.append(base64.b64encode(out.getvalue()).decode())
    return found
