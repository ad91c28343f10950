"""How often looks of the demo show flash, as a report."""

from pathlib import Path

from fulgura.core.safety.report import FlashReport, page
from fulgura.demo.made import made_once
from fulgura.demo.show import gallery_show
from fulgura.media.sound_file import AudioFileError, load
from fulgura.render.flashes import house_band, measure, over_and_over
from fulgura.render.still import StillError, find_look, shows_pictures


class FlashesError(ValueError):
    """Why there is no report, in a sentence."""


def count(names: list[str], track: Path | None, seconds: float, night: bool) -> tuple[FlashReport, str]:
    """The report of these looks, or of all, and its page. night: as long as all songs of the night last.
    Raises FlashesError.
    """
    show = gallery_show()
    try:
        looks = [find_look(show, name) for name in names] or show.looks
        pictures = (
            made_once(print) / "pictures" if any(shows_pictures(show, look) for look in looks) else None
        )
        heard = ("the house band", lambda: house_band(show.seed))
        if track is not None:
            samples = load(track)[0][:, [0, -1]]
            heard = (f"“{track.stem}”", lambda: over_and_over(samples))
    except (StillError, AudioFileError) as error:
        raise FlashesError(str(error)) from error
    if night:
        seconds = max(seconds, sum(song.length_s for song in show.songs))
    report = measure(show, looks, heard, seconds, pictures)
    return report, page(report)
