"""What tests of the desk have in common."""

from playwright.sync_api import TimeoutError

from fulgura.demo import night, rig
from fulgura.demo.show import demo_show, gallery_show

LOOKS = len(gallery_show().looks)
"""How many the demo has."""
ROUTES = len(gallery_show().routes)
"""How many the demo is written with."""
SHOWN = len(demo_show().routes) + len(rig.routes()) + len([night.thunder_route()])
"""How many of them move what is shown: the first look and the lamps."""


def document(demo) -> dict:
    return demo.show()["document"]


def open_column(page, key: str) -> None:
    page.keyboard.press(key)
    page.wait_for_timeout(300)


def page_of(where):
    return getattr(where, "page", where)


def choose(within, label: str, option: str) -> None:
    """Take an option of a list that opens, by its words."""
    within.get_by_role("combobox", name=label, exact=True).click()
    page_of(within).get_by_role("option", name=option, exact=True).click()


def act(within, label: str, item) -> None:
    """Do what a menu offers: a button opens it, once more if the page still scrolled and closed it."""
    offered = page_of(within).get_by_role("menuitem", name=item)
    for _ in range(3):
        within.get_by_role("button", name=label, exact=True).click()
        try:
            offered.click(timeout=5_000)
            return
        except TimeoutError:
            page_of(within).keyboard.press("Escape")
    raise AssertionError(f"“{label}” never stayed open")


def choose_kind(within, label: str, kind: str) -> None:
    """Take a source or an effect in the chooser that a button opens."""
    within.get_by_role("button", name=label, exact=True).click()
    page_of(within).locator(f".kind[data-kind={kind}]").click()
