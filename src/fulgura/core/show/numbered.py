"""Names that are told apart by a number."""

import re
from collections.abc import Collection


def numbered(name: str, taken: Collection[str]) -> str:
    """A name that is not taken: the name itself, or with the first free number behind it.

    >>> numbered("Ring", ["Ring", "Ring 2"]), numbered("Ring 2", ["Ring 2"]), numbered("Lamp", [])
    ('Ring 3', 'Ring 3', 'Lamp')
    """
    if name not in taken:
        return name
    stem = re.sub(r" \d+$", "", name)
    number = 2
    while f"{stem} {number}" in taken:
        number += 1
    return f"{stem} {number}"[:80]
