"""Songs."""

from typing import Literal

from fulgura.core.kinds.action import Action, SongRef, Stage
from fulgura.core.kinds.parameters import param

STEPS = {"the next": 1, "the one before": -1, "the same again": 0, "a certain one": 0}


class PlaySong(Action):
    """Goes to a song of the night: the next, the one before, the same again, or a certain one."""

    title = "Song"

    which: Literal[*STEPS] = param("the next", help="To which song")  # type: ignore[valid-type]
    song: SongRef = param("", help="That song", empty="no song yet", when=("which", "a certain one"))

    def press(self, stage: Stage, strength: float) -> None:
        stage.song(self.song if self.which == "a certain one" else "", STEPS[self.which])

    def lit(self, stage: Stage) -> bool:
        return self.which == "a certain one" and stage.song_is(self.song)
