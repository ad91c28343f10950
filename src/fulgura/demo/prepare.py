"""Fills a new data folder with the demo: tracks with their truth beside them, the drawing, the film, and the demo show."""

import json
import shutil
import tempfile
from collections.abc import Callable
from pathlib import Path

import soundfile

from fulgura.core import SAMPLE_RATE
from fulgura.demo.media import BEAM, TITLES, TOWER
from fulgura.places import ROOT, Places
from fulgura.setup import STAMPS, digest_of
from fulgura.store import shows, tracks

DRAWN = (f"pictures/{TOWER.key}.rgba", f"pictures/{BEAM.key}.zip")
COMPOSED = {track: tuple(f"tracks/{track}{ending}" for ending in (".flac", ".wave.json", ".json")) for track in TITLES}
Say = Callable[[str], None]


def prepare(places: Places, say: Say, sacn_port: int = 5568) -> None:
    """Put in the media that are missing; write the demo show, sending to sacn_port, into an empty database."""
    known = {row["id"] for row in tracks.list_tracks(places.database_socket)}
    new = not shows.list_shows(places.database_socket)
    wanted = [track for track in TITLES if track in known or new or len(known) < len(TITLES)]
    unknown = [track for track in wanted if track not in known]
    files = (*DRAWN, *(file for track in wanted for file in COMPOSED[track]))
    missing = [file for file in files if not (places.data / file).is_file() or any(file in COMPOSED[track] for track in unknown)]
    if missing:
        made = made_once(say)
        for file in missing:
            draft = places.data / f"{file}.part"
            shutil.copyfile(made / file, draft)
            draft.replace(places.data / file)
    for track in unknown:
        truth = json.loads((places.tracks / f"{track}.json").read_text())
        tracks.put(places.database_socket, track, truth["title"], truth["seconds"], truth["bpm"])
    if new:
        # What composes a show takes a second to import, which a later start need not wait for.
        from fulgura.demo.show import gallery_show

        say("Writing the demo show")
        show = gallery_show()
        show = show.model_copy(update={"light_output": show.light_output.model_copy(update={"port": sacn_port})})
        number = shows.create(places.database_socket, show.name, show.model_dump_json())
        shows.set_setting(places.database_socket, "open-show", str(number))


def made_once(say: Say) -> Path:
    """The folder that holds the demo's media: made when they are first wanted, and anew after what makes them has changed."""
    source = ROOT / "src" / "fulgura"
    makers = (*source.glob("demo/*.*"), *source.glob("core/sound/*.*"), *source.glob("engine/*.py"), *source.glob("render/take_*.py"), source / "reel.py")
    folder = STAMPS / "demo-media"
    ready = folder / digest_of(*sorted(makers))[:16]
    if ready.is_dir():
        return ready
    folder.mkdir(parents=True, exist_ok=True)
    # Beside the others, and named at the end: two that start at once both make them, and either may be first.
    draft = Path(tempfile.mkdtemp(prefix="making-", dir=folder))
    try:
        _make(draft, say)
        old = [other for other in folder.iterdir() if not other.name.startswith("making-")]
        if not ready.is_dir():
            draft.rename(ready)
            for other in old:
                shutil.rmtree(other, ignore_errors=True)
    finally:
        shutil.rmtree(draft, ignore_errors=True)
    return ready


def _make(folder: Path, say: Say) -> None:
    from fulgura.demo import drawn
    from fulgura.demo.tracks import TRACKS
    from fulgura.engine.takein import take_in

    for part in ("pictures", "tracks"):
        (folder / part).mkdir()
    say("Drawing the tower and its beam")
    drawn.prepare(folder / "pictures")
    for number, (track, (title, compose)) in enumerate(TRACKS.items(), 1):
        say(f"Synthesising track {number} of {len(TRACKS)}: {title}")
        file, score = folder / "tracks" / f"{track}.flac", compose()
        draft = file.with_suffix(".part")
        soundfile.write(draft, score.finished(), SAMPLE_RATE, format="FLAC", subtype="PCM_16")
        truth = {"title": title, "bpm": score.bpm, "seconds": score.seconds, "beats": score.beats(), "hits": {k: sorted(v) for k, v in score.hits.items()}}
        file.with_suffix(".json").write_text(json.dumps(truth))
        take_in(draft, file)
        draft.unlink()
