"""What a page says that it should not: errors of its own, and whatever stands in its console."""

from playwright.sync_api import ConsoleMessage, Page

NOT_OURS = ("GL Driver Message", "GPU stall due to ReadPixels", "AudioContext was not allowed")
"""What the browser itself says of drawing in software, and of sound before the first click."""


def listen(page: Page) -> list[str]:
    """A list that fills with all that goes wrong in a page: empty for a page that does well."""
    said: list[str] = []

    def heard(message: ConsoleMessage) -> None:
        if message.type in ("error", "warning") and not any(part in message.text for part in NOT_OURS):
            said.append(f"{message.type}: {message.text} ({message.location.get('url', '')})")

    page.on("pageerror", lambda error: said.append(error.stack or str(error)))
    page.on("console", heard)
    return said


def unexpected(said: list[str], allowed: tuple[str, ...] = ()) -> list[str]:
    """What was said beside what is meant to be: a request that a test has refused stands in the console."""
    return [line for line in said if not any(part in line for part in allowed)]
