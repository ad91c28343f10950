"""What the playing surface can do with the show that plays: the performer, as seen from here."""

from collections.abc import Mapping, Sequence
from typing import Any, Protocol

from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit


class Instrument(Protocol):
    """The show, and hands on it. Everything takes effect at once."""

    @property
    def show(self) -> Show:
        """The document as it is now."""

    @property
    def beat_s(self) -> float:
        """Seconds from one beat to the next."""

    @property
    def stream_s(self) -> float:
        """Seconds of sound that the main input has heard."""

    def edit(
        self,
        edit: Edit,
        name: str,
        gesture: str = "",
        glide_s: float = 0.0,
        over: Mapping[str, float] | None = None,
    ) -> None:
        """Change the document. name: for undo; over: seconds that parameters take. Raises EditError."""

    def addresses(self, target: str) -> list[str]:
        """Addresses of single parameters that a target means; none for what is gone."""

    def hold_value(self, address: str, value: Any) -> None:
        """Hold a parameter's live value, whatever else moves it."""

    def release_value(self, address: str, glide_s: float) -> None:
        """Give it back; without an address all that are held."""

    def held(self) -> Sequence[str]:
        """Addresses of what is held."""

    def turn_beat(self, what: str, value: float = 0.0, age_s: float = 0.0) -> None:
        """A hand on the main input's beat, so long ago."""

    def clear_feedback(self) -> None:
        """Let every trail begin anew."""

    def seek(self, seconds: float) -> None:
        """Let the main input's track go on elsewhere."""
