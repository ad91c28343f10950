"""A report of flashes that another process asked for, by a file."""

from collections.abc import Callable
from pathlib import Path

import orjson
import soundfile

from fulgura.core.safety.report import page
from fulgura.core.show.document import Show
from fulgura.render.flashes import house_band, measure, over_and_over


def run(job: Path, told: Callable[[float], None]) -> None:
    """Draw and count what a JSON file asks for: the show's document, ids of looks, seconds, the folder of its
    pictures, and a track's file or none; the report goes beside it, as JSON and HTML. told: hears how far it
    is.
    """
    asked = orjson.loads(job.read_bytes())
    show = Show.model_validate(asked["show"])
    looks = [look for look in show.looks if look.id in asked["looks"]]
    heard = ("the house band", lambda: house_band(show.seed))
    if asked["track"]:
        samples, _ = soundfile.read(asked["track"], dtype="float32", always_2d=True)
        stereo = samples[:, [0, -1]]
        heard = (f"“{asked['title']}”", lambda: over_and_over(stereo))
    report = measure(show, looks, heard, asked["seconds"], Path(asked["pictures"]), told)
    job.with_suffix(".html").write_text(page(report))
    job.with_suffix(".report.json").write_bytes(report.model_dump_json().encode())
