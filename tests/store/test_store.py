"""The store against a real MariaDB: migrations, revisions, and nothing lost while the database is away."""

import orjson
import pytest

from fulgura.core.show.edits import SetValue
from fulgura.demo.show import demo_show
from fulgura.folders import Folders
from fulgura.store import shows
from fulgura.store.connection import MIGRATIONS, StoreError, migrate, transaction
from fulgura.web.open_show import OpenShow
from fulgura.web.saver import Saver
from harness.database import Database

WIDTH = "/looks/lantern-tunnel/layers/lantern/source/values/width"


@pytest.fixture(scope="module")
def database(tmp_path_factory):
    made = Database(Folders(tmp_path_factory.mktemp("store") / "data"))
    migrate(made.folders.database_socket)
    yield made
    made.stop()


@pytest.fixture
def show(database) -> int:
    return shows.create(database.folders.database_socket, "Test", demo_show().model_dump_json())


def open_show(database, show) -> OpenShow:
    return OpenShow(Saver(database.folders), shows.load(database.folders.database_socket, show))


def test_migrations_are_applied_once_and_in_order(database):
    assert migrate(database.folders.database_socket) == []
    with transaction(database.folders.database_socket) as cursor:
        cursor.execute("SELECT name FROM migrations ORDER BY name")
        assert [row["name"] for row in cursor.fetchall()] == sorted(
            path.stem for path in MIGRATIONS.glob("*.sql")
        )
        cursor.execute(
            "SELECT engine, table_collation FROM information_schema.tables WHERE table_schema = 'fulgura'"
        )
        rows = cursor.fetchall()
    assert all(row["engine"] == "InnoDB" and row["table_collation"].startswith("utf8mb4") for row in rows)


def test_the_server_opens_no_network_port(database):
    with transaction(database.folders.database_socket) as cursor:
        cursor.execute("SHOW VARIABLES LIKE 'skip_networking'")
        assert cursor.fetchone()["Value"] == "ON"


def test_edits_undo_and_redo_survive_a_reload(database, show):
    opened = open_show(database, show)
    for width in (0.1, 0.2, 0.3):
        opened.edit(SetValue(path=WIDTH, value=width), f"width {width}")
    opened.step("undo")
    assert opened.saver.wait(5)
    again = open_show(database, show)
    assert again.show == opened.show and (again.undo_name, again.redo_name) == ("width 0.2", "width 0.3")
    again.step("redo")
    again.step("undo"), again.step("undo"), again.step("undo")
    assert again.show == demo_show()


def test_a_new_edit_ends_the_redo(database, show):
    opened = open_show(database, show)
    opened.edit(SetValue(path=WIDTH, value=0.1), "one")
    opened.step("undo")
    opened.edit(SetValue(path=WIDTH, value=0.2), "two")
    assert opened.saver.wait(5)
    again = open_show(database, show)
    assert (again.undo_name, again.redo_name, again.head) == ("two", "", 1)


def test_a_save_that_fails_leaves_nothing_half_done(database, show):
    revision = shows.Revision(1, "bad", "{}", "not json at all")
    with pytest.raises(Exception, match="CONSTRAINT|constraint"):
        shows.save(database.folders.database_socket, show, "Test", "{}", 1, revision)
    stored = shows.load(database.folders.database_socket, show)
    assert (
        stored.head == 0
        and stored.revisions == []
        and stored.document == orjson.loads(demo_show().model_dump_json())
    )


def test_edits_go_on_while_the_database_is_away_and_are_saved_when_it_is_back(database, show):
    opened = open_show(database, show)
    database.stop()
    for i in range(10):
        opened.edit(SetValue(path=WIDTH, value=0.1 + i / 100), f"edit {i}")
    assert not opened.saver.wait(1.5)
    assert opened.saver.fault and opened.show.looks[0].layers[0].source.values["width"] == pytest.approx(0.19)
    assert database.folders.unsaved.exists()
    # The web process dies too: a new one finds what waited on disk, and saves it once the database is back.
    opened.saver.stop = True
    opened.saver.thread.join(10)
    database.start()
    recovered = Saver(database.folders)
    assert recovered.wait(10)
    stored = shows.load(database.folders.database_socket, show)
    assert stored.head == 10 and len(stored.revisions) == 10
    assert stored.document["looks"][0]["layers"][0]["source"]["values"]["width"] == pytest.approx(0.19)
    assert not database.folders.unsaved.exists()


def test_a_database_that_is_not_there_is_named(tmp_path):
    with pytest.raises(StoreError, match="does not answer"):
        shows.list_shows(tmp_path / "nothing.sock")
