"""Shows whose guard is off, for tests that look at a look's own passes alone."""

from fulgura.core.show.document import Show
from fulgura.core.show.outputs import GuardSettings

OFF = GuardSettings(on=False, why_off="A look is looked at by itself.")


def unguarded(show: Show) -> Show:
    """The same show without the guard's passes."""
    return show.model_copy(update={"guard": OFF})
