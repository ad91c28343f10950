"""Pages that show outputs: who looks, how it goes there, and what that means in words."""

import time
from dataclasses import dataclass, field
from typing import Any

from pydantic import BaseModel, ConfigDict, Field

from fulgura.core.picture.plan import plan_of
from fulgura.core.show.document import Show
from fulgura.core.show.outputs import Output

STALE_S = 3.0
"""A page that has said nothing for so long stands still, or sleeps."""
SLOW = 0.7
"""Share of the wanted pictures under which a page is slow."""
LATE_MS = 150.0


class PageReport(BaseModel):
    """How a page draws its output. held: the share of the picture that the guard holds back."""

    model_config = ConfigDict(extra="ignore")

    drawn: float = Field(0.0, ge=0, le=1000)
    dropped: int = Field(0, ge=0)
    late_ms: float | None = Field(None, ge=-1e6, le=1e6)
    width: int = Field(0, ge=0, le=32_768)
    height: int = Field(0, ge=0, le=32_768)
    full: bool = False
    hidden: bool = False
    held: float = Field(0.0, ge=0, le=1)
    fault: str = Field("", max_length=400)
    screen: str = Field("", max_length=100)


@dataclass
class OutputPage:
    """address: of the output that it shows; host: where it is."""

    address: str
    host: str
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
    hosts: list[str]


class OutputPages:
    """pages: by the page's name."""

    def __init__(self) -> None:
        self.pages: dict[str, OutputPage] = {}

    def join(self, page: str, address: str, host: str) -> None:
        """A page has come that shows the output at an address."""
        self.pages[page] = OutputPage(address, host)

    def gone(self, page: str) -> None:
        self.pages.pop(page, None)

    def told(self, page: str, report: dict[str, Any]) -> None:
        """Raises ValueError for a report that is none."""
        if page in self.pages:
            self.pages[page].report = PageReport.model_validate(report)
            self.pages[page].at = time.monotonic()

    @property
    def held(self) -> float:
        """The greatest share of a picture that the guard holds back anywhere."""
        return max((page.report.held for page in self.pages.values()), default=0.0)

    def states(self, show: Show) -> dict[str, OutputState]:
        """Of every output, by its id."""
        return {
            output.id: state_of(output, [p for p in self.pages.values() if p.address == output.address])
            for output in show.outputs
        }

    def layout_for(self, layout: dict[str, Any], show: Show | None, address: str) -> dict[str, Any]:
        """What the engine published, with the plan of an output in place of what plays."""
        output = find(show, address)
        plan = plan_of(layout, output.id) if output is not None else None
        return {"layout": layout["layout"], "plan": plan.model_dump() if plan is not None else None}


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
