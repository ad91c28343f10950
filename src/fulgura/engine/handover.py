"""How an engine goes on where another one ended: what it leaves, and how its successor takes that over."""

import ctypes
import gc
import os
import select
import signal
import sys
import time
import traceback
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn
from uuid import uuid4

import numpy as np

from fulgura.alive import Heart
from fulgura.core import wire
from fulgura.core.clock import BLOCK, FRAME_RATE
from fulgura.core.performer import Performer
from fulgura.core.show.document import Show
from fulgura.engine.kept_state import keep, left
from fulgura.engine.priority import prefer_this_process

if TYPE_CHECKING:
    from fulgura.engine.main import Engine

EVERY, SOONEST = 60, 30
"""Ticks between two states that are left; after an edit it comes sooner."""
WRITER_NICE = 10
AGAIN_S = 5.0
"""How often a spare looks at the newest state: what it needs for it is then loaded."""
LEAP = 100
"""By how much a light's sequence numbers go on: packets that were sent after the state was left are before
that, and a receiver takes what is up to 128 ahead (ANSI E1.31, 6.7.2).
"""


class Handover:
    """Leaves what a successor needs, now and then. path: where; None for nowhere.

    A copy of this process writes it, made by fork: that takes a few milliseconds, the writing ten times as
    long, which the tick has not.
    """

    def __init__(self, path: Path | None) -> None:
        self.path = path
        self._revision, self._number = -1, 0
        self._writer = 0
        """The copy that writes; 0 for none."""
        self._failed = False

    def leave(self, engine: "Engine") -> None:
        """After a tick; waits for nobody."""
        number, edited = engine.performer.number, engine.revision != self._revision
        since = number - self._number
        if self.path is None or engine.revision < 0 or since < (SOONEST if edited else EVERY):
            return
        if not self._has_written():
            return
        self._revision, self._number = engine.revision, number
        itself = os.getpid()
        self._writer = os.fork()
        if self._writer == 0:
            _write(self.path, engine, itself)

    def finish(self) -> None:
        """Wait until what was left last is written."""
        self._has_written(wait=True)

    def _has_written(self, wait: bool = False) -> bool:
        if not self._writer:
            return True
        try:
            ended, status = os.waitpid(self._writer, 0 if wait else os.WNOHANG)
        except ChildProcessError:
            ended, status = self._writer, 1
        if not ended:
            return False
        self._writer = 0
        if status and not self._failed:
            # The show goes on, and begins anew after a crash.
            print("The engine's state cannot be left for its successor.", file=sys.stderr, flush=True)
        self._failed = status != 0
        return True


def _write(path: Path, engine: "Engine", original: int) -> NoReturn:
    """In the copy: write, and end. Nothing of what the original does at its end may happen here."""
    status = 1
    try:
        # What is left by an engine that has ended must not come after what its successor leaves.
        ctypes.CDLL(None).prctl(1, signal.SIGKILL)  # PR_SET_PDEATHSIG
        os.sched_setscheduler(0, os.SCHED_OTHER, os.sched_param(0))
        os.setpriority(os.PRIO_PROCESS, 0, WRITER_NICE)
        if os.getppid() == original:
            keep(path, parts_of(engine))
            status = 0
    except Exception:
        traceback.print_exc()
    finally:
        os._exit(status)


def parts_of(engine: "Engine") -> dict[str, Any]:
    """What a successor needs."""
    players = engine.players.items()
    return {
        "performer": engine.performer,
        "revision": engine.revision,
        "sequences": engine.lights.sequences,
        "houses": {id: player.house for id, player in players if player.house is not None},
        "tracks": {
            id: placed.position_s for id, player in players if (placed := player.placed()) is not None
        },
        "due": engine.next_due,
    }


def take_over(engine: "Engine", parts: dict[str, Any]) -> None:
    """Go on from the state that another engine left, in the time that it is now."""
    engine.performer = parts["performer"]
    engine.own.performer, engine.own.base = engine.performer, engine.performer.show
    engine.own.run = uuid4().hex[:12]
    engine.revision = parts["revision"]
    show = engine.performer.show
    away_s = time.monotonic() - parts["due"]
    places = {
        each.id: parts["tracks"][each.id] + (away_s * each.track.speed if each.track.playing else 0.0)
        for each in show.inputs
        if each.id in parts["tracks"]
    }
    engine.configure_inputs(show, places)
    for id, house in parts["houses"].items():
        if id in engine.players:
            house.settings = next(each.house for each in show.inputs if each.id == id)
            engine.players[id].house = house
    for sequences in parts["sequences"].values():
        for universe in sequences:
            sequences[universe] = (sequences[universe] + LEAP) % 256
    engine.lights.sequences = parts["sequences"]
    engine.lights.configure(show.light_outputs, show.lights)
    gc.freeze()


def wait_to_go(path: Path) -> bool:
    """A spare's life until it is needed: load all that the newest state needs, again and again. Returns
    whether to go on from that, or to begin anew. Ends when nobody is there to wake it.
    """
    heart, loaded = Heart(), False
    # Filters are designed with a library that is loaded at the first of them.
    Performer(Show(name="Nothing yet"))
    while not select.select([sys.stdin], [], [], AGAIN_S if loaded else 0.5)[0]:
        if _warm(path) and not loaded:
            heart.ready()
            loaded = True
    word = sys.stdin.readline().strip()
    if not word:
        raise SystemExit(0)
    prefer_this_process()
    return word == "go"


def _warm(path: Path) -> bool:
    """Play some ticks of the newest state, for nobody."""
    found = left(path)
    if found is None:
        return False
    performer: Performer = found[0]["performer"]
    silence = np.zeros((BLOCK, 2), dtype=np.float32)
    for _ in range(3):
        for input_id in performer.listeners:
            for _ in range(3):
                performer.hear(silence, input_id)
        wire.encode(performer.packet(performer.tick()))
    return True


def missed_ticks(since: float) -> int:
    """How many ticks were due since then, in monotonic seconds."""
    return int((time.monotonic() - since) * FRAME_RATE)
