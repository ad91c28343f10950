"""The session: the open show, and everyone who must hear of it when it changes."""

import asyncio
import time
from collections import deque
from typing import Any, Literal

from pydantic import TypeAdapter

from fulgura import bus
from fulgura.alive import Heart
from fulgura.core.kinds.faults import Fault
from fulgura.core.routing.indices import ParameterIndex, as_value
from fulgura.core.show.document import Show
from fulgura.core.show.edits import Edit, changed_paths, to_plain, value_at
from fulgura.core.show.events import (
    ControllerGone,
    ControlSaid,
    EditMade,
    MidiSaid,
    PadPressed,
    PadReleased,
    PageEvent,
)
from fulgura.core.show.names import part_names
from fulgura.core.wire import BlockId
from fulgura.folders import Folders
from fulgura.web.live.audio_in import AudioIn
from fulgura.web.live.diagnosis import Diagnosis
from fulgura.web.live.engine_client import EngineClient
from fulgura.web.live.frame_history import FrameHistory
from fulgura.web.live.healed import Healed
from fulgura.web.live.output_pages import OutputPages
from fulgura.web.live.viewers import Viewer, Viewers
from fulgura.web.open_show import OpenShow
from fulgura.web.saver import Saver

PATIENCE_S = 0.7
"""How long the engine may be behind before it is sent the whole show: edits are on their way."""
NEWS_EVERY_S = 0.25
KEPT_WITHIN_S = 1.0
CONTROL_ROWS = 40
BEAT_INTERVAL = 9
"""Its place in the status block."""
PAGE_EVENT: TypeAdapter[PageEvent] = TypeAdapter(PageEvent)


class Session:
    """Joins the open show, the engine and the viewers. A show changes through ``commit`` and ``step``
    alone.
    """

    def __init__(self, folders: Folders, saver: Saver) -> None:
        self.folders, self.saver = folders, saver
        self.heart, self.healed = Heart(), Healed(folders.healed)
        self.engine = EngineClient(folders)
        self.history = FrameHistory()
        self.viewers = Viewers()
        self.audio = AudioIn(self.engine)
        self.outputs = OutputPages(self.viewers)
        self.diagnosis = Diagnosis(self.engine, self.history)
        self.surface: dict[str, Any] = {}
        """What the playing surface shows, as the engine said it last."""
        self.control: deque[dict[str, Any]] = deque(maxlen=CONTROL_ROWS)
        self.spoken_for: dict[str, set[str]] = {}
        """Controllers that pages spoke for."""
        self.own_edits: tuple[str, int] = ("", 0)
        """The engine's run, and the number of its newest edit that was made here."""
        self.open: OpenShow | None = None
        self.importing: dict[str, float] = {}
        """How far films are that are being imported, by their name, 0..1."""
        self.library = 0
        """Grows whenever the library changed: desks read it anew."""
        self.library_fault: Fault | None = None
        self._behind_at = 0.0
        self._names: dict[str, str] = {}
        """What the desks call the parts, as they were told last."""

    @property
    def opened(self) -> OpenShow:
        """The open show, where there is one."""
        assert self.open is not None, "a show is open"
        return self.open

    @property
    def show(self) -> Show:
        """The open show's document, where there is one."""
        return self.opened.show

    def _shown(self) -> Show | None:
        """The open show's document; None without."""
        return self.open.show if self.open is not None else None

    # -- changing the show ----------------------------------------------------------------------------------

    def commit(
        self, edit: Edit, name: str, gesture: str = "", glide_ms: float = 0.0, glide_beats: float = 0.0
    ) -> None:
        """Make an edit: in the document, for the saver, the engine and every desk. Raises EditError.

        name: what undo shows; edits of one gesture are one step. The glides say how long live values take to
        get to where they now belong.
        """
        self.opened.edit(edit, name, gesture)
        self._tell_of_edit(glide_ms, glide_beats)

    def step(self, direction: Literal["undo", "redo"]) -> None:
        """Undo or redo one step. Raises EditError when there is none."""
        self.opened.step(direction)
        self._tell_of_edit()

    def take(self, show: OpenShow) -> None:
        """Another show is the open one: the engine and all desks get it whole."""
        if self.open is not None:
            show.version = self.open.version + 1
        else:
            show.version = int(time.time() * 1000) % 2**31
        self.open = show
        self._send_show()
        self.viewers.tell("show", self.show_state())
        self.outputs.tell_pages(show.show, self.engine.layout)

    async def saved(self) -> bool:
        """Whether all that was done is on disk; waits for it, but not for a disk that hangs."""
        try:
            return await asyncio.wait_for(asyncio.shield(asyncio.wrap_future(self.saver.kept)), KEPT_WITHIN_S)
        except TimeoutError:
            return False

    def _tell_of_edit(self, glide_ms: float = 0.0, glide_beats: float = 0.0, made: int | None = None) -> None:
        """The engine makes the same edit, all desks hear what stands where now. made: its number, when the
        engine made it first.
        """
        show = self.open
        if show is None or show.last is None:
            return
        before = show.version - 1
        if made is None:
            event = EditMade(edit=show.last, glide_ms=glide_ms, glide_beats=glide_beats).model_dump()
            self.engine.send("edit", event=event, revision=show.version, **{"from": before})
        else:
            self.engine.send("edit", made=made, revision=show.version, **{"from": before})
        changes = [
            {"path": path, "value": to_plain(value_at(show.show, path))} for path in changed_paths(show.last)
        ]
        names = part_names(show.show)
        told = {} if names == self._names else {"names": names}
        self._names = names
        if any(change["path"].startswith("/outputs") for change in changes):
            self.outputs.tell_pages(show.show, self.engine.layout)
        self.viewers.tell("edit", {**self._heading(show), "from": before, "changes": changes, **told})

    def _send_show(self) -> None:
        if self.open is not None:
            self.engine.send(
                "show",
                show=self.open.show.model_dump(),
                revision=self.open.version,
                positions_s=self.engine.positions_s,
            )

    @property
    def beat_s(self) -> float:
        """Seconds from one beat to the next, as the main input hears it; 0.5 before any is known."""
        packet = self.history.newest(self.engine.layout)
        found = float(packet.blocks[BlockId.STATUS][BEAT_INTERVAL]) if packet is not None else 0.0
        return found if found > 0.0 else 0.5

    def live_values(self) -> dict[str, Any]:
        """What every parameter is now, by its address, as the newest frame says; nothing while
        there is none.
        """
        packet, layout = self.history.newest(self.engine.layout), self.engine.layout
        if packet is None or layout is None:
            return {}
        live = packet.blocks[BlockId.LIVE]
        entries = [ParameterIndex.model_validate(entry) for entry in layout["layout"]["indices"]]
        return {
            entry.target: as_value(entry.parameter, live[entry.index : entry.index + entry.parameter.size])
            for entry in entries
            if not entry.of
        }

    # -- what others say ------------------------------------------------------------------------------------

    async def run(self) -> None:
        """Take what the engine publishes, and tell the desks how everyone is, for ever."""
        watch = asyncio.create_task(self._watch())
        try:
            await self.engine.run(
                self._on_frame,
                {
                    bus.LAYOUT: self._on_layout,
                    bus.STATE: self._on_state,
                    bus.EDIT: self._on_own_edit,
                    bus.SURFACE: self._on_surface,
                    bus.CONTROL: self._on_control,
                    bus.FEEDBACK: lambda rows: self.viewers.tell("feedback", rows),
                },
            )
        finally:
            watch.cancel()

    async def _watch(self) -> None:
        while True:
            due = time.monotonic() + NEWS_EVERY_S
            await asyncio.sleep(NEWS_EVERY_S)
            self.heart.beat()
            self.viewers.look_after(time.monotonic() - due)
            for row in self.healed.new():
                self.viewers.tell("healed", row)
            self.viewers.tell("state", self.news())
            if self.open is not None:
                self.outputs.tell_states(self.show)

    def _on_layout(self, layout: dict[str, Any]) -> None:
        on_desk = {"layout": layout["layout"], "plan": layout["plan"]}
        self.viewers.tell_each(
            "layout",
            lambda viewer: (
                self.outputs.layout_for(viewer, layout, self._shown()) if viewer.output else on_desk
            ),
        )

    def _on_frame(self, message: bytes) -> None:
        self.history.add(message)
        self.viewers.frame(message)

    def _on_state(self, state: dict[str, Any]) -> None:
        # The engine says which version it plays: after a crash of either side, this alone puts things right.
        if self.open is not None:
            now = time.monotonic()
            if state["revision"] == self.open.version:
                self._behind_at = 0.0
            elif state["needs_show"] or (self._behind_at and now - self._behind_at > PATIENCE_S):
                self._send_show()
                self._behind_at = now
            else:
                self._behind_at = self._behind_at or now
        if self.engine.layout is None:
            self.engine.send("hello")

    def _on_own_edit(self, told: dict[str, Any]) -> None:
        """A hand made an edit at the engine: the document follows. One that was told again is known."""
        run, number = self.own_edits
        if told["run"] == run and told["number"] <= number:
            return
        self.own_edits = told["run"], told["number"]
        try:
            event = EditMade.model_validate(told["event"])
            self.opened.edit(event.edit, told["name"], told["gesture"])
        except (ValueError, AssertionError) as error:
            self.engine.send("refused", number=told["number"])
            self.viewers.tell("problem", {"title": f"{told['name']} did not work", "detail": str(error)})
            return
        self._tell_of_edit(made=told["number"])

    def _on_surface(self, state: dict[str, Any]) -> None:
        self.surface = state
        self.viewers.tell("surface", state)

    def _on_control(self, rows: list[dict[str, Any]]) -> None:
        self.control.extend(rows)
        self.viewers.tell("control", rows)

    def on_page(self, asked: dict[str, Any], page: str) -> None:
        """What a page says beside what it wants to see: something that its hand did. page: a name for it, so
        that fingers of several pages are told apart. Raises KeyError, TypeError or ValueError.
        """
        if "report" in asked:
            self.outputs.told(page, asked["report"])
            return
        event = PAGE_EVENT.validate_python(asked["event"])
        if isinstance(event, PadPressed | PadReleased):
            event.by = f"{page}|{event.by}"
        elif isinstance(event, MidiSaid | ControlSaid):
            self.spoken_for.setdefault(page, set()).add(event.controller)
        self.engine.act(event)

    def page_gone(self, page: str) -> None:
        """A page was closed: what its fingers held, and the controllers that it spoke for, is let go."""
        self.outputs.gone(page)
        for controller in {page} | self.spoken_for.pop(page, set()):
            self.engine.act(ControllerGone(controller=controller))

    # -- what is told ---------------------------------------------------------------------------------------

    def greet(self, viewer: Viewer) -> None:
        """All that a new page must know."""
        shown = self._shown()
        self.outputs.join(viewer, shown)
        if self.engine.layout is not None:
            viewer.tell("layout", self.outputs.layout_for(viewer, self.engine.layout, shown))
        if self.open is not None:
            viewer.tell("show", self.show_state())
        viewer.tell("state", self.news())
        viewer.tell("surface", self.surface)
        viewer.tell("control", list(self.control))

    def news(self) -> dict[str, Any]:
        """What every desk shows of the machine's health."""
        fault, show = self.saver.fault, self.open
        engine = {
            name: value
            for name, value in self.engine.state.items()
            if name not in ("needs_show", "revision", "faults")
        }
        return {
            "library": self.library,
            "library_fault": _told(self.library_fault),
            "importing": self.importing,
            "engine": self.engine.alive,
            "saved": fault is None,
            "fault": _told(fault),
            "unsaved": len(self.saver.waiting) if fault is not None else 0,
            **(self.diagnosis.why(show.show, show.version) if show and self.viewers else {}),
            **engine,
        }

    def library_changed(self, fault: Fault | None = None) -> None:
        """The library has another track, or a recording that has to wait."""
        self.library, self.library_fault = self.library + 1, fault

    def show_state(self) -> dict[str, Any] | None:
        """The open show as desks hold it."""
        if self.open is None:
            return None
        show = self.open.show
        return {**self._heading(self.open), "document": show.model_dump(), "names": part_names(show)}

    @staticmethod
    def _heading(show: OpenShow) -> dict[str, Any]:
        in_use = show.show.palette_in_use
        return {
            "id": show.id,
            "version": show.version,
            "head": show.head,
            "palette": in_use.id if in_use is not None else "",
            "colours": show.show.colours,
            "undo": show.undo_name,
            "redo": show.redo_name,
        }

    def close(self) -> None:
        self.engine.close()


def _told(fault: Fault | None) -> dict[str, Any] | None:
    return fault.model_dump(mode="json") if fault is not None else None
