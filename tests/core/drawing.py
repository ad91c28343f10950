"""A picture of one layer, drawn frame by frame and measured in pixels."""

from fulgura.core.clock import BLOCK, FRAME_RATE, SAMPLE_RATE
from fulgura.core.performer import Performer
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part
from fulgura.core.show.starter import starter_show
from fulgura.render.executor import Executor


class Drawn:
    """One layer alone, above others that are only read. To be closed."""

    def __init__(self, source: Part, *effects: Part, size=(160, 90), read=(), **show):
        layer = Layer(
            id="layer", name="Layer", source=source, effects=list(effects), mix=Part(id="mix", kind="over")
        )
        others = [
            Layer(
                id=unseen.id,
                name=unseen.id,
                visible=False,
                source=unseen,
                mix=Part(id=f"{unseen.id}-mix", kind="over"),
            )
            for unseen in read
        ]
        look = Look(id="look", name="Look", layers=[*others, layer])
        show = {"looks": [look], "look": "look", "routes": []} | show
        show = starter_show("Night").model_copy(update=show)
        self.performer, self.executor = Performer(show), Executor(*size, None)
        self.executor.load(self.performer.plan)
        self.heard = self.frames = 0

    def next(self):
        """Brightness of the next frame, uint8 (rows, columns)."""
        return self.colours().max(axis=2)

    def colours(self):
        """The next frame, uint8 (rows, columns, 3)."""
        self.executor.draw(self.performer.packet(self.performer.tick()))
        return self.executor.pixels()

    def set(self, part: str, name: str, value) -> None:
        """Hold a live value."""
        self.performer.override(f"{part}.{name}", value)

    def go(self, frames: int, sound=None):
        """So many frames further while a mono sound is heard, which goes on from where it was; the last one's
        brightness.
        """
        for _ in range(frames):
            while sound is not None and self.heard + BLOCK <= (self.frames + 1) * SAMPLE_RATE // FRAME_RATE:
                at = self.heard % (len(sound) - BLOCK)
                self.performer.hear(sound[at : at + BLOCK])
                self.heard += BLOCK
            self.frames += 1
            light = self.next()
        return light

    def close(self) -> None:
        self.executor.close()
