"""Fills a new data folder with the demo: its media and its show."""

import json
import shutil

from fulgura.core.lights.rig_file import rig_file
from fulgura.demo.made import COMPOSED, DRAWN, Say, made_once
from fulgura.demo.media import TITLES
from fulgura.folders import Folders
from fulgura.kept_file import put_in_place
from fulgura.store import shows, tracks


def prepare(folders: Folders, say: Say, sacn_port: int = 5568) -> None:
    """Put in the media that are missing; write the demo show, sending to sacn_port, into an empty
    database.
    """
    known = {row["id"] for row in tracks.list_tracks(folders.database_socket)}
    new = not shows.list_shows(folders.database_socket)
    wanted = [track for track in TITLES if track in known or new or len(known) < len(TITLES)]
    unknown = [track for track in wanted if track not in known]
    files = (*DRAWN, *(file for track in wanted for file in COMPOSED[track]))
    fresh = {file for track in unknown for file in COMPOSED[track]}
    missing = [file for file in files if file in fresh or not (folders.data / file).is_file()]
    if missing:
        made = made_once(say)
        for file in missing:
            draft = folders.data / f"{file}.part"
            shutil.copyfile(made / file, draft)
            put_in_place(draft, folders.data / file)
    for track in unknown:
        truth = json.loads((folders.tracks / f"{track}.json").read_text())
        tracks.put(folders.database_socket, track, truth["title"], truth["seconds"], truth["bpm"])
    if new:
        # What composes a show takes a second to import, which a later start need not wait for.
        from fulgura.demo.show import gallery_show

        for picture in (made_once(say) / "thumbnails").iterdir():
            shutil.copyfile(picture, folders.thumbnails / picture.name)
        say("Writing the demo show")
        show = gallery_show()
        show = show.model_copy(
            update={"light_outputs": [show.light_outputs[0].model_copy(update={"port": sacn_port})]}
        )
        folders.rig_file.write_text(json.dumps(rig_file(show)))
        number = shows.create(folders.database_socket, show.name, show.model_dump_json())
        shows.set_setting(folders.database_socket, "open-show", str(number))
