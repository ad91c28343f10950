"""The store against a real MariaDB: migrations, revisions, and nothing lost while the database is away."""

import time

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
    return OpenShow(saver_of(database), shows.load(database.folders.database_socket, show))


OPEN: list[Saver] = []


def saver_of(database) -> Saver:
    """A saver as a process has one; the one of before has ended."""
    while OPEN:
        OPEN.pop().close()
    made = Saver(database.folders)
    made.recover(print)
    OPEN.append(made)
    return made


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
    with (
        pytest.raises(Exception, match="CONSTRAINT|constraint"),
        transaction(database.folders.database_socket) as cursor,
    ):
        shows.save(cursor, show, "Test", "{}", [shows.Step(show, 1, 1, revision)])
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
        assert opened.saver.kept.result(5), "it is on disk before it is answered"
    assert not opened.saver.wait(1.5)
    assert opened.saver.fault.code == "database-away"
    database.start()
    begun = time.monotonic()
    assert opened.saver.wait(10) and opened.saver.fault is None and time.monotonic() - begun < 2.0
    again = shows.load(database.folders.database_socket, show)
    assert again.head == 10 and len(again.revisions) == 10


def test_a_web_process_that_dies_meanwhile_has_lost_nothing(database, show):
    """What was answered is in the journal: edits, undo and a new edit that ends the redo."""
    opened = open_show(database, show)
    database.stop()
    for width in (0.1, 0.2, 0.3):
        opened.edit(SetValue(path=WIDTH, value=width), f"width {width}")
    opened.step("undo")
    opened.edit(SetValue(path=WIDTH, value=0.4), "width 0.4")
    assert opened.saver.kept.result(5)
    opened.saver.stop = True  # As if it were killed: nothing more is saved.
    opened.saver._thread.join(10)
    opened.saver.journal.close()
    database.start()
    again = open_show(database, show)
    assert again.saver.wait(10)
    again = open_show(database, show)
    assert again.show == opened.show and again.head == 3
    assert [again.revisions[n].name for n in (1, 2, 3)] == ["width 0.1", "width 0.2", "width 0.4"]
    for _ in range(3):
        again.step("undo")
    assert again.show == demo_show()


def test_many_edits_a_second_are_caught_up_with(database, show):
    """Of a batch only the newest document is written, in one transaction."""
    opened = open_show(database, show)
    for i in range(300):
        opened.edit(SetValue(path=WIDTH, value=0.1 + i / 1000), f"edit {i}")
    begun = time.monotonic()
    assert opened.saver.wait(10) and time.monotonic() - begun < 2.0
    stored = shows.load(database.folders.database_socket, show)
    assert stored.head == 300 and [r.number for r in stored.revisions] == list(range(1, 301))


def test_undo_is_bounded_by_number_and_age(database, show):
    opened = open_show(database, show)
    for i in range(shows.KEPT + 20):
        opened.edit(SetValue(path=WIDTH, value=0.1 + i / 10_000), f"edit {i}")
    assert opened.saver.wait(20) and len(opened.revisions) == shows.KEPT
    socket = database.folders.database_socket
    with transaction(socket) as cursor:
        cursor.execute("SELECT COUNT(*) AS count FROM revisions WHERE show_id = %s", (show,))
        assert cursor.fetchone()["count"] == shows.KEPT
        long_ago = f"NOW() - INTERVAL {shows.KEPT_DAYS + 1} DAY"
        cursor.execute(
            f"UPDATE revisions SET created_at = {long_ago} WHERE show_id = %s AND number < 500", (show,)
        )
    again = open_show(database, show)
    assert min(again.revisions) == 500 and again.show == opened.show


def test_a_show_of_a_hundred_thousand_steps_opens_as_quickly_as_one_that_has_what_is_kept(database):
    """Steps of before they were bounded: they stay until the next edit, and nobody reads them."""
    socket = database.folders.database_socket
    document = demo_show().model_dump_json()

    def with_steps(count: int) -> int:
        made = shows.create(socket, f"{count} steps", document)
        rows = [(made, number, "Wider", "{}", "{}") for number in range(1, count + 1)]
        with transaction(socket) as cursor:
            cursor.executemany(
                "INSERT INTO revisions (show_id, number, name, edit, inverse) VALUES (%s, %s, %s, %s, %s)",
                rows,
            )
            cursor.execute("UPDATE shows SET head = %s WHERE id = %s", (count, made))
        return made

    def opens_in(show: int) -> float:
        began = time.perf_counter()
        assert len(shows.load(socket, show).revisions) <= shows.KEPT
        return time.perf_counter() - began

    few, many = with_steps(shows.KEPT), with_steps(100_000)
    took = [(opens_in(few), opens_in(many)) for _ in range(9)]
    quick, slow = (min(each) for each in zip(*took, strict=True))
    print(f"500 steps: {quick * 1000:.1f} ms, 100,000: {slow * 1000:.1f} ms")
    assert slow < 2.0 * quick


def test_a_database_that_is_not_there_is_named(tmp_path):
    with pytest.raises(StoreError, match="does not answer"):
        shows.list_shows(tmp_path / "nothing.sock")
