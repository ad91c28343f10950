"""A picture of one layer, drawn frame by frame and measured in pixels."""

from fulgura.core.performer import Performer
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
        self.performer, self.executor = Performer(show), Executor(*size, None)
        self.executor.load(self.performer.plan)

    def next(self):
        """Brightness of the next frame, uint8 (rows, columns)."""
        self.executor.draw(self.performer.packet(self.performer.tick()))
        return self.executor.pixels().max(axis=2)

    def close(self) -> None:
        self.executor.close()
