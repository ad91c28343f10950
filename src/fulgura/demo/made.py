"""The demo's media: tracks with their truth beside them, the drawing, the film. They are made once and kept
beside the setup's stamps.
"""

import fcntl
import json
import os
import shutil
from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor
from contextlib import contextmanager
from multiprocessing import get_context
from pathlib import Path

from fulgura.core.clock import SAMPLE_RATE
from fulgura.core.show.document import Show
from fulgura.core.show.kind_looks import FAMILIES, kind_show
from fulgura.demo.media import BEAM, TITLES, TOWER
from fulgura.folders import ROOT
from fulgura.setup import STAMPS, digest_of

DRAWN = (f"pictures/{TOWER.key}.rgba", f"pictures/{BEAM.key}.zip")
COMPOSED = {
    track: tuple(f"tracks/{track}{ending}" for ending in (".flac", ".wave.json", ".json")) for track in TITLES
}
Say = Callable[[str], None]


def made_once(say: Say) -> Path:
    """The folder that holds the demo's media: made when they are first wanted, and anew after what makes them
    has changed.
    """
    source = ROOT / "src" / "fulgura"
    makers = (
        *source.glob("core/synthesis/*.py"),
        *source.glob("media/*.py"),
        *source.glob("render/*.py"),
        *source.glob("core/picture/*.py"),
        source / "core/show/kind_looks.py",
        *(file for room in ("demo", "core/kinds", "core/sound") for file in source.glob(f"{room}/**/*.*")),
    )
    folder = STAMPS / "demo-media"
    ready = folder / digest_of(*sorted(file for file in makers if file.suffix != ".pyc"))[:16]
    if ready.is_dir():
        return ready
    folder.mkdir(parents=True, exist_ok=True)
    with _alone(folder / "making"):
        if not ready.is_dir():
            # Whatever else is here was made of what has changed since, or left by a start that was killed.
            for old in [other for other in folder.iterdir() if other.is_dir()]:
                shutil.rmtree(old, ignore_errors=True)
            draft = folder / "draft"
            draft.mkdir()
            try:
                _make(draft, say)
                draft.rename(ready)
            finally:
                shutil.rmtree(draft, ignore_errors=True)
    return ready


@contextmanager
def _alone(file: Path) -> Iterator[None]:
    """Two that start at once do not both make the media: the second waits until the first has."""
    with file.open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield


def _make(folder: Path, say: Say) -> None:
    # What draws and composes takes a second to import, which a start that finds all of it need not wait for.
    from fulgura.demo import drawn
    from fulgura.render.thumbnails import Wanted, draw_each

    for part in ("pictures", "tracks", "thumbnails"):
        (folder / part).mkdir()
    # A process on each of the machine's processors: a first start waits for this.
    with ProcessPoolExecutor(mp_context=get_context("spawn")) as pool:
        say(f"Drawing the tower and its beam, synthesising {len(TITLES)} tracks")
        first = [
            pool.submit(drawn.prepare, folder / "pictures"),
            *(pool.submit(_synthesise, folder / "tracks", track) for track in TITLES),
        ]
        for task in first:
            task.result()
        say("Drawing the small pictures of the demo's looks")
        wanted = [
            (show, Wanted(look, layer, str(folder / file))) for show, look, layer, file in small_pictures()
        ]
        parts = min(len(wanted), 2 * (os.cpu_count() or 1))
        then = [pool.submit(draw_each, wanted[i::parts], folder / "pictures") for i in range(parts)]
        for drawing in then:
            drawing.result()


def _synthesise(folder: Path, track: str) -> None:
    import soundfile

    from fulgura.demo.tracks import TRACKS
    from fulgura.media.import_sound import import_sound

    title, compose = TRACKS[track]
    file, score = folder / f"{track}.flac", compose()
    draft = file.with_suffix(".part")
    soundfile.write(draft, score.finished(), SAMPLE_RATE, format="FLAC", subtype="PCM_16")
    truth = {
        "title": title,
        "bpm": score.bpm,
        "seconds": score.seconds,
        "beats": score.beats(),
        "hits": {k: sorted(v) for k, v in score.hits.items()},
    }
    file.with_suffix(".json").write_text(json.dumps(truth))
    import_sound(draft, file)
    draft.unlink()


def small_pictures() -> list[tuple[Show, str, str, str]]:
    """(show, look, layer, file) of every small picture that the demo begins with: of its looks and their
    layers, and of what can be chosen.
    """
    from fulgura.demo.show import gallery_show

    show = gallery_show()
    looks = [
        (show, look.id, layer, f"thumbnails/{look.fingerprint(layer)}.png")
        for look in show.looks
        for layer in ("", *(layer.id for layer in look.layers))
    ]
    kinds = [
        (shown, shown.look, "", f"thumbnails/{shown.looks[0].fingerprint()}.webp")
        for family, base in FAMILIES.items()
        for shown in (kind_show(family, kind) for kind in base.kinds)
    ]
    return looks + kinds
