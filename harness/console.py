"""What a page says that it should not: errors of its own, and whatever stands in its console."""

import re
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, ConsoleMessage

NOT_OURS = (
    "GL Driver Message",
    "GPU stall due to ReadPixels",
    "AudioContext was not allowed",
    "willReadFrequently",
    "status of 409",
    "status of 413",
    "status of 422",
)
"""What the browser itself says of drawing in software, of pixels that tests read, of sound before a click,
and of what a test has refused, which the desk says in a sentence.
"""


OF_WHAT_IS_GONE = re.compile(r"ERR_CONNECTION_|ERR_EMPTY_RESPONSE|WebSocket connection to|status of 50[234]")
"""What the browser says when a test ends a process that it speaks with."""


def _listen(context: BrowserContext, said: list[str]) -> None:
    def heard(message: ConsoleMessage) -> None:
        if message.type in ("error", "warning") and not any(part in message.text for part in NOT_OURS):
            said.append(f"{message.type}: {message.text} ({message.location.get('url', '')})")

    context.on("console", heard)
    context.on("weberror", lambda told: said.append(told.error.stack or str(told.error)))


@contextmanager
def listening() -> Iterator[list[str]]:
    """A list that fills with all that goes wrong in any page opened meanwhile: empty while all do well."""
    said: list[str] = []
    new_context, new_page = Browser.new_context, Browser.new_page

    def context(browser: Browser, **how: Any) -> BrowserContext:
        made = new_context(browser, **how)
        _listen(made, said)
        return made

    def page(browser: Browser, **how: Any) -> Any:
        made = new_page(browser, **how)
        _listen(made.context, said)
        return made

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(Browser, "new_context", context)
        patch.setattr(Browser, "new_page", page)
        yield said
