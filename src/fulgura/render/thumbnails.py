"""Small pictures of looks and of single layers, drawn in Python while the house band plays."""

from dataclasses import dataclass
from pathlib import Path

import numpy as np
import orjson
from PIL import Image

from fulgura.core.clock import FRAME_RATE, blocks_due
from fulgura.core.kinds.inputs.house_band import HouseBandSettings
from fulgura.core.performer import Performer
from fulgura.core.show.document import Show
from fulgura.core.synthesis.house_band import HouseBand
from fulgura.render.executor import Executor

SIZE = (160, 90)
HEARD_S, DRAWN_S = 4.2, 1.5
"""A moment just after a kick, when beat and levels have settled; feedback gets its last seconds."""


@dataclass(frozen=True)
class Wanted:
    """A look, or one layer of it alone, and the PNG file that it goes into."""

    look: str
    layer: str
    file: str


def only(show: Show, wanted: Wanted) -> Show:
    """The show with what is wanted to be seen: a look, or a single layer of it as it is without the others.
    Raises KeyError.
    """
    looks = {look.id: look for look in show.looks}
    look = looks[wanted.look]
    if wanted.layer:
        layers = {layer.id: layer.model_copy(update={"solo": False}) for layer in look.layers}
        inside = layers[wanted.layer]
        layers[wanted.layer] = inside.model_copy(
            update={
                "solo": True,
                "visible": True,
                "inside": "",
                "mix": inside.mix.model_copy(
                    update={"values": inside.mix.values | {"blend": "normal", "opacity": 1.0}}
                ),
            }
        )
        look = look.model_copy(update={"layers": list(layers.values()), "finish": []})
    return show.model_copy(
        update={
            "looks": [look if one.id == look.id else one for one in show.looks],
            "look": look.id,
            "beside": "",
            "blackout": "off",
        }
    )


def draw(show: Show, wanted: Wanted, executor: Executor) -> None:
    """Draw one of them into its file. Raises KeyError for what is no longer there, OSError for a file that
    cannot be written.
    """
    shown = only(show, wanted)
    performer, band, settings = Performer(shown), HouseBand(shown.seed), HouseBandSettings()
    executor.load(performer.plan)
    heard, last = 0, round(HEARD_S * FRAME_RATE)
    for number in range(1, last + 1):
        for _ in range(blocks_due(number) - heard):
            performer.hear(band.block(settings))
            heard += 1
        frame = performer.tick()
        if number > last - DRAWN_S * FRAME_RATE:
            executor.draw(performer.packet(frame))
    draft = Path(wanted.file).with_suffix(".new")
    Image.fromarray(np.ascontiguousarray(executor.pixels())).save(draft, "PNG")
    draft.replace(wanted.file)


def draw_all(job: Path) -> int:
    """Draw what a JSON file names ({"show": …, "pictures": folder, "wanted": [[look, layer, file], …]});
    returns how many were drawn.
    """
    asked = orjson.loads(job.read_bytes())
    show, drawn = Show.model_validate(asked["show"]), 0
    executor = Executor(*SIZE, Path(asked["pictures"]))
    try:
        for row in asked["wanted"]:
            try:
                draw(show, Wanted(*row), executor)
                drawn += 1
            except KeyError:
                continue
    finally:
        executor.close()
    return drawn
