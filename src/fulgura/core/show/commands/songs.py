"""The set list: songs are added, and begun."""

from collections.abc import Sequence

from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, Edit, EditError, RemoveItem, SetValue, Together
from fulgura.core.show.inputs import MAIN
from fulgura.core.show.night import MOST_SONGS, Song

TRACK = f"/inputs/{MAIN}/track"


def song_of(show: Show, song: str) -> Song:
    """Raises EditError for a song that is gone."""
    found = next((other for other in show.songs if other.id == song), None)
    if found is None:
        raise EditError("That song is not on the set list any more.", "/songs")
    return found


def new_song(show: Show, name: str = "", track: str = "", length_s: float = 0.0) -> tuple[AddItem, str]:
    """(the edit that puts a song at the end of the set list, its id). Raises EditError when that is full."""
    if len(show.songs) == MOST_SONGS:
        raise EditError(f"A set list has at most {MOST_SONGS} songs.", "/songs")
    id = free_id([song.id for song in show.songs], "song-")
    number = id.rpartition("-")[2]
    title = name.strip() or track.replace("-", " ").title() or f"Song {number}"
    item = {"id": id, "name": title[:80], "track": track, "length_s": length_s}
    return AddItem(path="/songs", item=item), id


def begin_song(show: Show, song: str) -> list[Edit]:
    """The edits that begin a song: its track plays in the main input, from its start. A band that plays
    itself is left alone. Raises EditError for a song that is gone.
    """
    found = song_of(show, song)
    edits: list[Edit] = [SetValue(path="/song", value=found.id)]
    if found.track:
        edits += [
            SetValue(path=f"/inputs/{MAIN}/use", value="track"),
            SetValue(path=f"{TRACK}/track", value=found.track),
            SetValue(path=f"{TRACK}/playing", value=True),
            SetValue(path=f"{TRACK}/loop", value=found.again),
        ]
    return edits


def beside(show: Show, step: int) -> Song:
    """The song so many steps from that which plays, those that are skipped passed over; 0 is the same again.
    Raises EditError at either end.
    """
    songs = [song for song in show.songs if not song.skipped or song.id == show.song]
    if not songs:
        raise EditError("There are no songs yet: put some on the set list first.", "/songs")
    ids = [song.id for song in songs]
    if show.song not in ids:
        return songs[0 if step >= 0 else -1]
    at = ids.index(show.song) + step
    if not 0 <= at < len(songs):
        raise EditError("That was the last song." if step > 0 else "That was the first song.", "/songs")
    return songs[at]


def without_song(show: Show, song: str) -> Together:
    """The edit that takes a song off the set list; its cues stay, and belong to none. Raises EditError."""
    song_of(show, song)
    freed: Sequence[Edit] = [
        SetValue(path=f"/cues/{cue.id}/song", value="") for cue in show.cues if cue.song == song
    ]
    return Together(edits=[*freed, RemoveItem(path=f"/songs/{song}")])
