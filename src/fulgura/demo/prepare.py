"""Fills a new data folder with the demo: tracks with their truth beside them, and the demo show."""

import json
from collections.abc import Callable

import soundfile

from fulgura.core import SAMPLE_RATE
from fulgura.demo.media import BEAM, TOWER
from fulgura.places import Places
from fulgura.store import shows, tracks


def prepare(places: Places, say: Callable[[str], None], sacn_port: int = 5568) -> None:
    """Synthesise the tracks that are missing; write the demo show, sending to sacn_port, into an empty database."""
    # What draws and composes takes a second to import, which a later start need not wait for.
    if not all((places.pictures / name).is_file() for name in (f"{TOWER.key}.rgba", f"{BEAM.key}.zip")):
        from fulgura.demo import drawn

        say("Drawing the tower and its beam")
        drawn.prepare(places.pictures)
    known = {row["id"] for row in tracks.list_tracks(places.database_socket)}
    if len(known) >= 4 and shows.list_shows(places.database_socket) and all(_whole(places, track) for track in known):
        return
    from fulgura.demo.show import gallery_show
    from fulgura.demo.tracks import TRACKS
    from fulgura.engine.takein import take_in

    for number, (track, (title, compose)) in enumerate(TRACKS.items(), 1):
        file = places.tracks / f"{track}.flac"
        if track in known and _whole(places, track):
            continue
        say(f"Synthesising track {number} of {len(TRACKS)}: {title}")
        score = compose()
        draft = file.with_suffix(".part")
        soundfile.write(draft, score.finished(), SAMPLE_RATE, format="FLAC", subtype="PCM_16")
        truth = {"title": title, "bpm": score.bpm, "beats": score.beats(), "hits": {k: sorted(v) for k, v in score.hits.items()}}
        file.with_suffix(".json").write_text(json.dumps(truth))
        take_in(draft, file)
        draft.unlink()
        tracks.put(places.database_socket, track, title, score.seconds, score.bpm)
    if not shows.list_shows(places.database_socket):
        say("Writing the demo show")
        show = gallery_show()
        show = show.model_copy(update={"light_output": show.light_output.model_copy(update={"port": sacn_port})})
        made = shows.create(places.database_socket, show.name, show.model_dump_json())
        shows.set_setting(places.database_socket, "open-show", str(made))


def _whole(places: Places, track: str) -> bool:
    """Whether a track's sound and its outline are there."""
    return all((places.tracks / f"{track}{ending}").exists() for ending in (".flac", ".wave.json"))
