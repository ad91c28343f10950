"""The web application in this process, over a real database and without an engine."""

from fastapi.testclient import TestClient

from harness.calls import Calls


class InProcess(Calls):
    """Called as a started stack is. Loopback is its host, as a browser's would be."""

    def __init__(self, client: TestClient) -> None:
        self.client = client

    def call(
        self, method: str, path: str, body: object = None, headers: dict | None = None
    ) -> tuple[int, dict]:
        """(status, JSON) of a call to the API."""
        content: dict = {"content": body} if isinstance(body, bytes) else {"json": body}
        sent = {} if body is None else content
        words = {"Content-Type": "application/json", **(headers or {})}
        answer = self.client.request(method, f"/api/v1{path}", headers=words, **sent)
        if answer.status_code >= 400:
            assert answer.headers["content-type"].startswith("application/problem+json")
        return answer.status_code, answer.json() if answer.content else {}
