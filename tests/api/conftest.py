"""The API without an engine: the application in this process, over a real database with the demo's show."""

from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient

from fulgura.demo.show import demo_show
from fulgura.folders import Folders
from fulgura.store import shows
from fulgura.store.connection import migrate
from fulgura.web.app import create_app
from harness.database import Database
from harness.in_process import InProcess


@pytest.fixture(scope="session")
def application(tmp_path_factory) -> Iterator[InProcess]:
    """Started once for all tests that leave it as they found it."""
    database = Database(Folders(tmp_path_factory.mktemp("application") / "data"))
    socket = database.folders.database_socket
    migrate(socket)
    show = demo_show()
    number = shows.create(socket, show.name, show.model_dump_json())
    shows.set_setting(socket, "open-show", str(number))
    with TestClient(create_app(database.folders), base_url="http://127.0.0.1") as client:
        yield InProcess(client)
    database.stop()


@pytest.fixture
def app(application) -> Iterator[InProcess]:
    """The application; afterwards every step that the test made is undone."""
    head = application.show()["head"]
    yield application
    while application.show()["head"] > head:
        application.call("POST", "/show/undo")
