"""The web application in this process, over a real database and without an engine."""

from fastapi.testclient import TestClient


class InProcess:
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

    def show(self) -> dict:
        return self.call("GET", "/show")[1]

    def set(self, path: str, value: object, name: str = "test") -> dict:
        edit = {"edit": {"edit": "set", "path": path, "value": value}, "name": name}
        status, answer = self.call("POST", "/show/edits", edit)
        assert status == 200, answer
        return answer
