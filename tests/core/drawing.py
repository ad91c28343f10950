"""A picture of one layer, drawn frame by frame and measured in pixels."""

from fulgura.core.clock import BLOCK, blocks_due
from fulgura.core.performer import Performer
from fulgura.core.show.edits import SetValue, apply
from fulgura.core.show.looks import Layer, Look
from fulgura.core.show.part import Part
from fulgura.core.show.starter import starter_show
from fulgura.render.executor import Executor


class Drawn:
    """One layer alone. To be closed."""

    def __init__(self, source: Part, *effects: Part, size=(160, 90)):
        layer = Layer(
            id="layer", name="Layer", source=source, effects=list(effects), mix=Part(id="mix", kind="over")
        )
        look = Look(id="look", name="Look", layers=[layer])
        show = starter_show("Night").model_copy(update={"looks": [look], "look": "look", "routes": []})
        self.performer, self.executor, self.frame = Performer(show), Executor(*size, None), 0
        self.executor.load(self.performer.plan)

    def set(self, part: str, name: str, value) -> None:
        """A hand on a number."""
        place = "source" if part == self.performer.show.looks[0].layers[0].source.id else f"effects/{part}"
        path = f"/looks/look/layers/layer/{place}/values/{name}"
        self.performer.configure(apply(self.performer.show, SetValue(path=path, value=value))[0])

    def go(self, frames=1, sound=None):
        """Some frames more, of this sound (samples, mono); brightness of the last, uint8 (rows, columns)."""
        for _ in range(frames):
            if sound is not None:
                first, last = (blocks_due(self.frame + n) * BLOCK for n in (0, 1))
                for start in range(first, last, BLOCK):
                    self.performer.hear(sound[start : start + BLOCK])
            self.executor.draw(self.performer.packet(self.performer.tick()))
            self.frame += 1
        return self.executor.pixels().max(axis=2)

    def close(self) -> None:
        self.executor.close()
