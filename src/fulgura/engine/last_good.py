"""No edit and no stored show ends the engine: what it cannot play is left out, and said."""

import sys
import traceback
from collections.abc import Callable

from fulgura.core.show.document import Show


def say(error: Exception, what: str) -> str:
    """Write where it went wrong to the log; a sentence for the desk."""
    print(f"{what}:", file=sys.stderr)
    traceback.print_exception(error, file=sys.stderr)
    return f"{what} ({type(error).__name__}: {error})."


def playable(show: Show, take: Callable[[Show], None]) -> tuple[Show, list[str]]:
    """The show without what cannot be played, and the places of that in the document.

    take: takes a show over, and raises whatever it raises for one that cannot be played. The last show that
    it took is the one that is returned.
    """

    def takes(trial: Show) -> bool:
        try:
            take(trial)
        except Exception:
            return False
        return True

    lists = [
        name for name in Show.model_fields if isinstance(getattr(show, name), list) and getattr(show, name)
    ]
    for name in lists:
        if not takes(show.model_copy(update={name: []})):
            continue
        kept: list[object] = []
        bad: list[str] = []
        for item in getattr(show, name):
            if takes(show.model_copy(update={name: [*kept, item]})):
                kept.append(item)
            else:
                bad.append(f"/{name}/{getattr(item, 'id', '')}")
        found = show.model_copy(update={name: kept})
        take(found)
        return found, bad
    empty = show.model_copy(update={name: [] for name in lists if name != "inputs"})
    take(empty)
    return empty, [f"/{name}" for name in lists]
