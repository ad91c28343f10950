"""What tests of the desk have in common."""

from fulgura.demo.show import gallery_show

ROUTES = len(gallery_show().routes)
"""How many the demo is written with."""


def document(demo) -> dict:
    return demo.show()["document"]


def open_column(page, key: str) -> None:
    page.keyboard.press(key)
    page.wait_for_timeout(300)
