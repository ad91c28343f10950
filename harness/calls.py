"""What tests ask of the API again and again, however it is reached."""


class Calls:
    """show and set by way of ``call``."""

    def call(
        self, method: str, path: str, body: object = None, headers: dict | None = None
    ) -> tuple[int, dict]:
        """(status, JSON) of a call to the API."""
        raise NotImplementedError

    def show(self) -> dict:
        return self.call("GET", "/show")[1]

    def set(self, path: str, value: object, name: str = "test") -> dict:
        edit = {"edit": {"edit": "set", "path": path, "value": value}, "name": name}
        status, answer = self.call("POST", "/show/edits", edit)
        assert status == 200, answer
        return answer
