"""Ids for what is new."""


def free_id(taken: list[str], stem: str) -> str:
    """The first of stem1, stem2, … that is not taken, counted from how many there are.

    >>> free_id(["ring-1", "ring-3"], "ring-")
    'ring-4'
    """
    number = len(taken) + 1
    while f"{stem}{number}" in taken:
        number += 1
    return f"{stem}{number}"
