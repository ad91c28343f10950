"""Fills a new data folder with the demo: tracks with their truth beside them, and the demo show."""

import json
from collections.abc import Callable

import soundfile

from fulgura.core import SAMPLE_RATE
from fulgura.places import Places
from fulgura.store import shows, tracks


def prepare(places: Places, say: Callable[[str], None], sacn_port: int = 5568) -> None:
    """Synthesise the tracks that are missing; write the demo show, sending to sacn_port, into an empty database."""
    known = {row["id"] for row in tracks.list_tracks(places.database_socket)}
    if len(known) >= 4 and shows.list_shows(places.database_socket) and all((places.tracks / f"{track}.flac").exists() for track in known):
        return
    # What composes tracks takes a second to import, which a later start need not wait for.
    from fulgura.demo.show import demo_show
    from fulgura.demo.tracks import TRACKS

    for number, (track, (title, compose)) in enumerate(TRACKS.items(), 1):
        file = places.tracks / f"{track}.flac"
        if track in known and file.exists():
            continue
        say(f"Synthesising track {number} of {len(TRACKS)}: {title}")
        score = compose()
        draft = file.with_suffix(".new")
        soundfile.write(draft, score.finished(), SAMPLE_RATE, format="FLAC", subtype="PCM_16")
        truth = {"title": title, "bpm": score.bpm, "beats": score.beats(), "hits": {k: sorted(v) for k, v in score.hits.items()}}
        file.with_suffix(".json").write_text(json.dumps(truth))
        draft.rename(file)
        tracks.put(places.database_socket, track, title, score.seconds, score.bpm)
    if not shows.list_shows(places.database_socket):
        say("Writing the demo show")
        show = demo_show()
        show = show.model_copy(update={"light_output": show.light_output.model_copy(update={"port": sacn_port})})
        made = shows.create(places.database_socket, show.name, show.model_dump_json())
        shows.set_setting(places.database_socket, "open-show", str(made))
