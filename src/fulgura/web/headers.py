"""What every answer says to browsers: nothing of anybody else runs here, nothing is guessed or told on."""

from starlette.datastructures import MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

POLICY = "; ".join(
    (
        "default-src 'self'",
        "script-src 'self'",
        # The components' styles are put into the page as it runs.
        "style-src 'self' 'unsafe-inline'",
        "img-src 'self' data: blob:",
        "media-src 'self' blob: mediastream:",
        "worker-src 'self' blob:",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'self'",
    )
)
"""W3C Content Security Policy Level 3."""
SAID = {
    "Content-Security-Policy": POLICY,
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
}


class SafeHeaders:
    """Adds them to every answer."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        async def with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                MutableHeaders(scope=message).update(SAID)
            await send(message)

        await self.app(scope, receive, with_headers if scope["type"] == "http" else send)
