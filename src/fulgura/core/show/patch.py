"""The patch: which channels each lamp takes, where the next ones are free, and what is wrong with it."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

from fulgura.core.kinds.fixture import Channel, Mode
from fulgura.core.show.lights import LAST_UNIVERSE, Lamp

CHANNELS = 512
"""Channels of a universe (ANSI E1.11)."""


@dataclass(frozen=True)
class Patched:
    """One channel of a lamp where it is: universe, and slot from 0; past 511 it is sent nowhere. pixel: that
    it belongs to.
    """

    channel: Channel
    pixel: int
    universe: int
    slot: int


def patched(lamp: Lamp) -> list[Patched]:
    """All channels of a lamp, in order. A pixel that does not fit into a universe any more begins the next
    one.
    """
    mode = lamp.profile.mode(lamp.mode)
    found: list[Patched] = []
    universe, slot = lamp.universe, lamp.address - 1
    for channel in mode.head:
        found.append(Patched(channel, 0, universe, slot))
        slot += channel.width
    width = mode.width(1) - mode.width(0)
    for pixel in range(lamp.cells if width else 0):
        if slot + width > CHANNELS and universe < LAST_UNIVERSE:
            universe, slot = universe + 1, 0
        for channel in mode.pixel:
            found.append(Patched(channel, pixel, universe, slot))
            slot += channel.width
    return found


def taken(lamp: Lamp) -> list[tuple[int, int]]:
    """(universe, slot from 0) of each single channel of a lamp."""
    return [(row.universe, row.slot + fine) for row in patched(lamp) for fine in range(row.channel.width)]


def runs_over(mode: Mode) -> bool:
    """Whether a lamp in this mode may begin in one universe and end in the next."""
    return bool(mode.pixel)


def pack(
    lamps: Sequence[Lamp], universe: int, address: int, gap: int = 0, used: Iterable[tuple[int, int]] = ()
) -> list[tuple[int, int]]:
    """(universe, address) of each of these lamps, one behind the other from there on, with a gap of so many
    channels between; a lamp that does not fit any more begins the next universe. used: (universe, slot) that
    are passed over.

    Raises ValueError when the last universe is full.
    """
    full, found = set(used), []
    for lamp in lamps:
        universe, address = _next_free(lamp, universe, address, full)
        here = lamp.model_copy(update={"universe": universe, "address": address})
        found.append((universe, address))
        last = taken(here)[-1]
        full.update(taken(here))
        universe, address = last[0], last[1] + 2 + gap
    return found


def _next_free(lamp: Lamp, universe: int, address: int, full: set[tuple[int, int]]) -> tuple[int, int]:
    while universe <= LAST_UNIVERSE:
        if address > CHANNELS:
            universe, address = universe + 1, 1
            continue
        here = taken(lamp.model_copy(update={"universe": universe, "address": address}))
        if any(slot >= CHANNELS for _, slot in here):
            universe, address = universe + 1, 1
            continue
        clash = [slot for where, slot in here if (where, slot) in full and where == universe]
        if not clash and not any(channel in full for channel in here):
            return universe, address
        address = max(clash) + 2 if clash else CHANNELS + 1
    raise ValueError(f"there is no room left: universe {LAST_UNIVERSE} is the last one")


@dataclass(frozen=True)
class Clash:
    """Something wrong with a lamp's address. others: ids of lamps on the same channels."""

    lamp: str
    what: Literal["shared", "past the end"]
    others: tuple[str, ...] = ()


def clashes(lamps: Sequence[Lamp]) -> list[Clash]:
    """What is wrong with the patch, lamp by lamp."""
    owners: dict[tuple[int, int], list[str]] = {}
    over: list[str] = []
    for lamp in lamps:
        channels = taken(lamp)
        if any(slot >= CHANNELS for _, slot in channels):
            over.append(lamp.id)
        for channel in channels:
            owners.setdefault(channel, []).append(lamp.id)
    shared: dict[str, dict[str, None]] = {}
    for ids in owners.values():
        if len(ids) > 1:
            for lamp_id in ids:
                shared.setdefault(lamp_id, {}).update(
                    dict.fromkeys(other for other in ids if other != lamp_id)
                )
    found = [Clash(lamp_id, "past the end") for lamp_id in over]
    return found + [Clash(lamp_id, "shared", tuple(others)) for lamp_id, others in shared.items()]


def switches(address: int) -> list[bool]:
    """Which of nine switches are on for an address, the first worth 1, the ninth 256 (common practice).

    >>> [number for number, on in enumerate(switches(17), 1) if on]
    [1, 5]
    """
    return [bool(address >> bit & 1) for bit in range(9)]


def read_address(text: str) -> tuple[int, int]:
    """(universe, address) from “2.17”; “17” alone is in the first universe. Raises ValueError.

    >>> read_address("2.17")
    (2, 17)
    """
    left, dot, right = text.strip().partition(".")
    try:
        universe, address = (int(left), int(right)) if dot else (1, int(left))
    except ValueError:
        raise ValueError(f"“{text}” is no address like 2.17: universe, a dot, channel") from None
    if not (1 <= universe <= LAST_UNIVERSE and 1 <= address <= CHANNELS):
        raise ValueError(f"“{text}”: universes go from 1 to {LAST_UNIVERSE}, channels from 1 to {CHANNELS}")
    return universe, address
