"""The strip of looks: which is shown is always in sight."""

from playwright.sync_api import expect

from harness.stack import wait_for
from tests.desk.helpers import document, open_column


def test_the_shown_look_is_in_sight_also_when_it_changed_behind_another_column(page, demo):
    looks = [look["id"] for look in document(demo)["looks"]]
    open_column(page, "3")
    shown = page.locator(".pick.shown")

    def is_seen(look: str) -> None:
        name = next(each["name"] for each in document(demo)["looks"] if each["id"] == look)
        expect(shown).to_contain_text(name)
        expect(shown).to_be_in_viewport(ratio=0.9)

    for look in (looks[-1], looks[0], looks[-2]):
        demo.set("/look", look)
        is_seen(look)
    demo.set("/look", looks[0])
    is_seen(looks[0])
    open_column(page, "1")
    demo.set("/look", looks[-1])
    wait_for(lambda: document(demo)["look"] == looks[-1], 5, "the look")
    open_column(page, "3")
    is_seen(looks[-1])
