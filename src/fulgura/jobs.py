"""Commands that the processes of a show call, each a process of its own: a damaged file hurts nothing else.
What they print is for a program.
"""

import sys
from collections.abc import Callable
from pathlib import Path
from typing import NoReturn

import orjson


def fail(message: str) -> NoReturn:
    """End with a message for whoever called."""
    print(message)
    raise SystemExit(1)


def devices() -> None:
    """Print the machine's sound devices as JSON."""
    from fulgura.engine.device import names

    sys.stdout.write(orjson.dumps(names()).decode() + "\n")


def import_sound(source: Path, target: Path) -> None:
    """Take a sound file into the library; prints its length and tempo as JSON."""
    from fulgura.media.import_sound import import_sound as run
    from fulgura.media.sound_file import AudioFileError

    try:
        sys.stdout.write(orjson.dumps(run(source, target)).decode() + "\n")
    except AudioFileError as error:
        fail(str(error))
    except OSError as error:
        fail(f"The library could not keep it: {error.strerror or error}.")


def import_picture(source: Path, folder: Path) -> None:
    """Take a picture file in; prints its key and size as JSON."""
    from fulgura.media.import_picture import PictureError
    from fulgura.media.import_picture import import_picture as run

    try:
        sys.stdout.write(orjson.dumps(run(source, folder)).decode() + "\n")
    except PictureError as error:
        fail(str(error))
    except OSError as error:
        fail(f"The picture could not be kept: {error.strerror or error}.")


def import_clip(source: Path, folder: Path) -> None:
    """Take a film in; prints how far it is, 0..1, line after line, and at last its key, size and length as
    JSON.
    """
    from fulgura.media.import_clip import ClipError
    from fulgura.media.import_clip import import_clip as run

    try:
        found = run(source, folder, lambda share: print(f"{share:.3f}", flush=True))
        sys.stdout.write(orjson.dumps(found).decode() + "\n")
    except ClipError as error:
        fail(str(error))
    except OSError as error:
        fail(f"The film could not be kept: {error.strerror or error}.")


def check_shader(file: Path) -> None:
    """Say as JSON what is wrong with an own shader."""
    from fulgura.render.check import check

    sys.stdout.write(orjson.dumps(check(file.read_text())).decode() + "\n")


def thumbnails(job: Path) -> None:
    """Draw the small pictures that a file names."""
    from fulgura.render.thumbnails import draw_all

    sys.stdout.write(f"{draw_all(job)}\n")


def guard_report(job: Path) -> None:
    """Count the flashes of what a file names; say how far it is, then where it is told."""
    from fulgura.render.flash_job import run

    run(job, lambda share: print(f"{share:.3f}", flush=True))


JOBS: dict[str, Callable[..., None]] = {
    "devices": devices,
    "import-sound": import_sound,
    "import-picture": import_picture,
    "import-clip": import_clip,
    "check-shader": check_shader,
    "thumbnails": thumbnails,
    "guard-report": guard_report,
}
