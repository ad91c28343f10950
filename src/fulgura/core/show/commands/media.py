"""Pictures and clips are taken into the show."""

from fulgura.core.show.commands.ids import free_id
from fulgura.core.show.document import Show
from fulgura.core.show.edits import AddItem, EditError


def new_picture(show: Show, name: str, key: str, width: int, height: int) -> tuple[AddItem, str]:
    """(the edit that adds a picture to the show's, its id). Raises EditError when there are too many."""
    if len(show.pictures) == 200:
        raise EditError("A show has at most 200 pictures. Take one away first.", "/pictures")
    picture = free_id([picture.id for picture in show.pictures], "picture-")
    return (
        AddItem(
            path="/pictures",
            item={"id": picture, "name": name[:80], "key": key, "width": width, "height": height},
        ),
        picture,
    )


def new_clip(
    show: Show, name: str, key: str, width: int, height: int, frames: int, rate: float, track: str = ""
) -> tuple[AddItem, str]:
    """(the edit that adds a film to the show's clips, its id). Raises EditError when there are too many."""
    if len(show.clips) == 200:
        raise EditError("A show has at most 200 clips. Take one away first.", "/clips")
    clip = free_id([clip.id for clip in show.clips], "clip-")
    item = {
        "id": clip,
        "name": name[:80],
        "key": key,
        "width": width,
        "height": height,
        "frames": frames,
        "rate": rate,
        "track": track,
    }
    return AddItem(path="/clips", item=item), clip
