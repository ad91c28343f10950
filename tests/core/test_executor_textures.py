"""What the executor keeps from one plan to the next."""

from fulgura.core.show.part import Part
from fulgura.render.executor import Executor
from tests.core.drawing import Drawn


def test_a_name_that_another_source_takes_over_holds_what_that_one_has():
    """The same part becomes another kind: its data has the same name and another shape."""
    executor = Executor(160, 90, None)
    for kind in ("history", "voices", "relief", "spectrum", "waveform", "scope", "waveform"):
        drawn = Drawn(Part(id="one", kind=kind, family="source"))
        drawn.executor.close()
        drawn.executor = executor
        executor.load(drawn.performer.plan)
        assert drawn.go(3).shape == (90, 160)
    executor.close()
