"""Pages that show outputs: who looks, how it goes there, and what that means in words."""

import time
from dataclasses import dataclass, field
from typing import Any

from pydantic import BaseModel, ConfigDict, Field

from fulgura.core.picture.plan import plan_of
from fulgura.core.show.document import Show
from fulgura.core.show.outputs import Output
from fulgura.web.live.flash_minute import FlashMinute
from fulgura.web.live.viewers import Viewer, Viewers

STALE_S = 3.0
"""A page that has said nothing for so long stands still, or sleeps."""
SLOW = 0.7
"""Share of the wanted pictures under which a page is slow."""
LATE_MS = 150.0


class PageReport(BaseModel):
    """How a page draws its output.

    held: the share of the picture that the guard holds back; changes: those of the last second that it let
    through.
    """

    model_config = ConfigDict(extra="ignore")

    drawn: float = Field(0.0, ge=0, le=1000)
    dropped: int = Field(0, ge=0)
    late_ms: float | None = Field(None, ge=-1e6, le=1e6)
    width: int = Field(0, ge=0, le=32_768)
    height: int = Field(0, ge=0, le=32_768)
    full: bool = False
    hidden: bool = False
    held: float = Field(0.0, ge=0, le=1)
    changes: int = Field(0, ge=0, le=60)
    fault: str = Field("", max_length=400)
    screen: str = Field("", max_length=100)


@dataclass
class OutputPage:
    """address: of the output that it shows; host: where it is."""

    address: str
    host: str
    output: str = ""
    """Id of the output that was there when it was told last."""
    report: PageReport = field(default_factory=PageReport)
    at: float = field(default_factory=time.monotonic)


class OutputState(BaseModel):
    """An output in words. trouble: whether somebody should look after it."""

    words: str
    trouble: bool
    pages: int
    drawn: float
    dropped: int
    late_ms: float | None
    size: str
    held: float
    flashes: int
    hosts: list[str]


class OutputPages:
    """The pages that show outputs. pages: by the page's name."""

    def __init__(self, viewers: Viewers) -> None:
        self.viewers = viewers
        self.pages: dict[str, OutputPage] = {}
        self.minute = FlashMinute()

    # -- what pages say -------------------------------------------------------------------------------------

    def join(self, viewer: Viewer, show: Show | None) -> None:
        """A page has come; one that shows an output is told which."""
        if viewer.output:
            host = viewer.socket.client.host if viewer.socket.client else ""
            output = find(show, viewer.output)
            self.pages[viewer.name] = OutputPage(viewer.output, host, output.id if output else "")
            viewer.tell("output", _told(viewer, output))

    def gone(self, page: str) -> None:
        self.pages.pop(page, None)

    def told(self, page: str, report: dict[str, Any]) -> None:
        """Raises ValueError for a report that is none."""
        if page in self.pages:
            self.pages[page].report = PageReport.model_validate(report)
            self.pages[page].at = time.monotonic()

    # -- what is told ---------------------------------------------------------------------------------------

    def states(self, show: Show) -> dict[str, OutputState]:
        """Of every output, by its id."""
        return {
            output.id: state_of(output, [p for p in self.pages.values() if p.address == output.address])
            for output in show.outputs
        }

    def tell_states(self, show: Show) -> None:
        """Every desk hears how outputs are."""
        states = self.states(show)
        told = {id: state.model_dump() for id, state in states.items()}
        self.viewers.tell_each("outputs", lambda viewer: None if viewer.output else told)
        if minute := self.minute.add([(state.flashes, state.held) for state in states.values()]):
            self.viewers.tell_each("flashes", lambda viewer: None if viewer.output else minute)

    def tell_pages(self, show: Show, layout: dict[str, Any] | None) -> None:
        """Every page of an output hears what it is now; one that shows another than before, its plan too."""
        for viewer in self.viewers.connected:
            page = self.pages.get(viewer.name)
            if page is None:
                continue
            output = find(show, viewer.output)
            viewer.tell("output", _told(viewer, output))
            before, page.output = page.output, output.id if output is not None else ""
            if layout is not None and page.output != before:
                viewer.tell("layout", self.layout_for(viewer, layout, show))

    def identify(self, output: Output) -> None:
        """The pages of an output show its name for some seconds."""
        self.viewers.tell_each(
            "identify", lambda viewer: output.name if viewer.output == output.address else None
        )

    def layout_for(self, viewer: Viewer, layout: dict[str, Any], show: Show | None) -> dict[str, Any]:
        """What frames mean, and what a page draws: its output, or, on a desk, what plays."""
        if not viewer.output:
            return {"layout": layout["layout"], "plan": layout["plan"]}
        output = find(show, viewer.output)
        plan = plan_of(layout, output.id) if output is not None else None
        return {"layout": layout["layout"], "plan": plan.model_dump() if plan is not None else None}


def _told(viewer: Viewer, output: Output | None) -> dict[str, Any]:
    if output is None:
        return {"output": None, "why": f"This show has no output with the address “{viewer.output}”."}
    return {"output": output.model_dump(), "why": ""}


def find(show: Show | None, address: str) -> Output | None:
    """The output at an address."""
    return next((output for output in show.outputs if output.address == address), None) if show else None


def state_of(output: Output, pages: list[OutputPage]) -> OutputState:
    """An output by what its pages say."""
    now = time.monotonic()
    awake = [page for page in pages if now - page.at < STALE_S and not page.report.hidden]
    best = max(awake, key=lambda page: page.report.drawn, default=None)
    words, trouble = _words(output, pages, awake)
    report = best.report if best is not None else PageReport()
    return OutputState(
        words=words,
        trouble=trouble,
        pages=len(pages),
        drawn=report.drawn,
        dropped=report.dropped,
        late_ms=report.late_ms,
        size=f"{report.width}×{report.height}" if report.width else "",
        held=max((page.report.held for page in awake), default=0.0),
        flashes=max((page.report.changes for page in awake), default=0) // 2,
        hosts=sorted({page.host for page in pages}),
    )


def _words(output: Output, pages: list[OutputPage], awake: list[OutputPage]) -> tuple[str, bool]:
    if not pages:
        return "Nobody looks: open its address on a screen.", False
    faults = [page.report.fault for page in pages if page.report.fault]
    if faults:
        return faults[0], True
    if not awake:
        return "Its page is hidden or asleep: it comes back when it is looked at.", True
    if output.black:
        return "Black, by hand.", False
    if output.frozen:
        return "Stands still, by hand.", False
    slowest = min(awake, key=lambda page: page.report.drawn)
    if slowest.report.drawn < SLOW * output.rate:
        size = f"{slowest.report.width}×{slowest.report.height}"
        return (
            f"Slow: {slowest.report.drawn:.0f} of {output.rate} a second, drawn at {size} to keep up.",
            True,
        )
    if slowest.report.late_ms is not None and slowest.report.late_ms > LATE_MS:
        return f"Late: {slowest.report.late_ms:.0f} ms behind the sound.", True
    if len(pages) > 1:
        return f"Open {len(pages)} times: each page draws it by itself.", False
    if output.card != "off":
        return "Shows a test card.", False
    return "All is well.", False
