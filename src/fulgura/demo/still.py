"""One picture of a look of the demo show, with its track and its own pictures."""

from pathlib import Path

from fulgura.core.show.document import Show
from fulgura.demo.made import made_once
from fulgura.demo.show import gallery_show
from fulgura.demo.tracks import TRACKS
from fulgura.render.still import StillError, draw, find_look, parse_size, shows_pictures


def draw_demo(look: str, at: float, size: str, output: Path, show: Show | None = None) -> None:
    """Draw a look of the demo show, or of one like it, into a PNG file. Raises StillError."""
    show = show or gallery_show()
    parse_size(size)  # Refused before anything long is done.
    found = find_look(show, look)
    pictures = None
    if shows_pictures(show, found):
        try:
            pictures = made_once(print) / "pictures"
        except OSError as error:
            raise StillError(f"The demo's pictures cannot be made: {error.strerror}.") from error
    _, compose = TRACKS[show.input.track.track]
    draw(show, found, compose().finished(), at, size, output, pictures)
