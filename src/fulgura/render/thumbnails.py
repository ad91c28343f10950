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
from fulgura.core.show.outputs import GuardSettings
from fulgura.core.synthesis.house_band import HouseBand
from fulgura.render.executor import Executor

SIZE = (160, 90)
HEARD_S, DRAWN_S = 4.2, 1.5
"""A moment just after a kick, when beat and levels have settled; feedback gets its last seconds."""
EVERY = 6
MOVING_MS = round(1000 * EVERY / FRAME_RATE)
"""Of a moving picture's frames each how many are kept, and how long each is seen."""


UNGUARDED = GuardSettings(on=False, why_off="Small pictures stand still, or move slowly.")


@dataclass(frozen=True)
class Wanted:
    """A look, or one layer of it alone, and the file that it goes into: PNG, or WebP for one that moves."""

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
            # Nothing else is seen: other looks, outputs and lamps would only cost time.
            "looks": [look],
            "look": look.id,
            "beside": "",
            "outputs": [],
            "lamps": [],
            "groups": [],
            "chases": [],
            "blackout": "off",
        }
    )


def draw(show: Show, wanted: Wanted, executor: Executor) -> None:
    """Draw one of them into its file. Raises KeyError for what is no longer there, OSError for a file that
    cannot be written.
    """
    shown = only(show, wanted).model_copy(update={"guard": UNGUARDED})
    performer, band, settings = Performer(shown), HouseBand(shown.seed), HouseBandSettings()
    executor.load(performer.plan)
    wants_moving, moving = wanted.file.endswith(".webp"), list[Image.Image]()
    heard, last = 0, round(HEARD_S * FRAME_RATE)
    for number in range(1, last + 1):
        for _ in range(blocks_due(number) - heard):
            performer.hear(band.block(settings))
            heard += 1
        frame = performer.tick()
        kept = number == last or (wants_moving and (last - number) % EVERY == 0)
        if number > last - DRAWN_S * FRAME_RATE and (kept or performer.plan.remembers):
            executor.draw(performer.packet(frame))
            if wants_moving and kept:
                moving.append(Image.fromarray(np.ascontiguousarray(executor.pixels())))
    file = Path(wanted.file)
    draft = file.with_suffix(".new")
    if wants_moving:
        moving[0].save(
            draft, "WEBP", save_all=True, append_images=moving[1:], duration=MOVING_MS, loop=0, quality=72
        )
    else:
        Image.fromarray(np.ascontiguousarray(executor.pixels())).save(draft, "PNG")
    draft.replace(file)


def draw_all(job: Path) -> int:
    """Draw what a JSON file names ({"pictures": folder, "wanted": [{"show", "look", "layer", "file"}, …]});
    returns how many were drawn.
    """
    asked = orjson.loads(job.read_bytes())
    return draw_each(
        [
            (Show.model_validate(row["show"]), Wanted(row["look"], row["layer"], row["file"]))
            for row in asked["wanted"]
        ],
        Path(asked["pictures"]),
    )


def draw_each(wanted: list[tuple[Show, Wanted]], pictures: Path) -> int:
    """Draw each into its file; returns how many were drawn: what is no longer there is left out. pictures:
    the folder of the shows' own.
    """
    drawn, executor = 0, Executor(*SIZE, pictures)
    try:
        for show, thumbnail in wanted:
            try:
                draw(show, thumbnail, executor)
                drawn += 1
            except KeyError:
                continue
    finally:
        executor.close()
    return drawn
