"""What a page says that it should not: errors of its own, and whatever stands in its console."""

from playwright.sync_api import ConsoleMessage, Page

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


def listen(page: Page) -> list[str]:
    """A list that fills with all that goes wrong in a page: empty for a page that does well."""
    said: list[str] = []

    def heard(message: ConsoleMessage) -> None:
        if message.type in ("error", "warning") and not any(part in message.text for part in NOT_OURS):
            said.append(f"{message.type}: {message.text} ({message.location.get('url', '')})")

    page.on("pageerror", lambda error: said.append(error.stack or str(error)))
    page.on("console", heard)
    return said
