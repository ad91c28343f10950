"""Pictures taken in: what is kept is light, and what is no picture is named."""

import numpy as np
import pytest
from PIL import Image

from fulgura.media.import_picture import LARGEST, PictureError, import_picture, premultiplied, prepared
from fulgura.media.svg import LONGER_SIDE, cleaned


def test_half_clear_white_is_half_the_light_not_half_the_number():
    """Alpha multiplies light, not its sRGB encoding (IEC 61966-2-1): half of white's light is encoded
    as 188.
    """
    texel = premultiplied(np.array([[[255, 255, 255, 128]]], dtype=np.uint8))[0, 0]
    assert texel.tolist() == [188, 188, 188, 128]
    assert premultiplied(np.array([[[200, 10, 90, 255]]], dtype=np.uint8))[0, 0].tolist() == [
        200,
        10,
        90,
        255,
    ]
    assert premultiplied(np.array([[[200, 10, 90, 0]]], dtype=np.uint8))[0, 0].tolist() == [0, 0, 0, 0]


def test_rows_lie_bottom_first_and_the_key_is_the_content(tmp_path):
    drawn = Image.new("RGB", (3, 2), "#000000")
    drawn.putpixel((0, 0), (255, 0, 0))
    drawn.save(tmp_path / "a.png")
    texels, width, height = prepared(tmp_path / "a.png")
    assert (
        (width, height) == (3, 2)
        and texels[1, 0].tolist() == [255, 0, 0, 255]
        and texels[0, 0].tolist() == [0, 0, 0, 255]
    )
    first, two = import_picture(tmp_path / "a.png", tmp_path), import_picture(tmp_path / "a.png", tmp_path)
    assert first == two and (tmp_path / f"{first['key']}.rgba").read_bytes() == texels.tobytes()


def test_a_picture_of_twenty_thousand_pixels_a_side_is_made_smaller(tmp_path):
    Image.new("L", (20_000, 20_000), 90).save(tmp_path / "large.png")
    texels, width, height = prepared(tmp_path / "large.png")
    assert (width, height) == (LARGEST, LARGEST) and texels[7, 7].tolist() == [90, 90, 90, 255]


def test_a_photograph_lies_as_it_was_held(tmp_path):
    turned = Image.new("RGB", (40, 20), "#808080")
    exif = turned.getexif()
    exif[0x0112] = 6  # Orientation: turned by a quarter (Exif 2.3, table 5).
    turned.save(tmp_path / "held.jpg", exif=exif)
    assert prepared(tmp_path / "held.jpg")[1:] == (20, 40)


@pytest.mark.parametrize(
    ("name", "content", "words"),
    [
        ("text.png", b"this is no picture", "no picture that can be read"),
        ("page.svg", b"<html><svg></html>", "damaged"),
        ("other.svg", b"<html><body><svg/></body></html>", "no drawing in SVG"),
        ("flat.svg", b"<svg xmlns='http://www.w3.org/2000/svg' width='0' height='9'/>", "no size"),
        ("cut.png", None, "damaged"),
    ],
)
def test_what_is_no_picture_is_named(tmp_path, name, content, words):
    if content is None:
        noise = np.random.default_rng(1).integers(0, 256, (64, 64, 3), dtype=np.uint8)
        Image.fromarray(noise).save(tmp_path / "whole.png")
        content = (tmp_path / "whole.png").read_bytes()[:3000]
    (tmp_path / name).write_bytes(content)
    with pytest.raises(PictureError, match=words):
        prepared(tmp_path / name)


def test_a_picture_of_too_many_pixels_is_refused_before_it_is_read(tmp_path):
    import struct
    import zlib

    header = struct.pack(">IIBBBBB", 60_000, 60_000, 8, 0, 0, 0, 0)

    def chunk(kind, data):
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    (tmp_path / "bomb.png").write_bytes(
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", header)
        + chunk(b"IDAT", zlib.compress(b"\0" * 99))
        + chunk(b"IEND", b"")
    )
    with pytest.raises(PictureError, match="too large"):
        prepared(tmp_path / "bomb.png")


SVG = (
    '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'
    ' viewBox="0 0 20 10">{}</svg>'
)


def test_a_drawing_is_drawn_large_with_its_clear_places(tmp_path):
    (tmp_path / "half.svg").write_text(
        SVG.format('<rect width="10" height="10" fill="#ff8000" fill-opacity="0.5"/>')
    )
    texels, width, height = prepared(tmp_path / "half.svg")
    assert (width, height) == (LONGER_SIDE, LONGER_SIDE // 2)
    # Straight #ff8000 at alpha 128 before it is multiplied, a step of rounding aside.
    np.testing.assert_allclose(
        texels[height // 2, 100],
        premultiplied(np.array([[[255, 128, 0, 128]]], dtype=np.uint8))[0, 0],
        atol=2,
    )
    assert texels[height // 2, width - 100].tolist() == [0, 0, 0, 0]


def test_a_drawing_keeps_nothing_that_runs_and_nothing_that_leads_outside(tmp_path):
    (tmp_path / "wanted.png").write_bytes(b"x")
    root = cleaned(
        SVG.format("""
      <script>alert(1)</script><foreignObject><p>page</p></foreignObject>
      <style>@import url(http://example.invalid/a.css); rect { fill: red }</style>
      <rect onclick="alert(1)" ONLOAD="alert(2)"
        style="fill:url(http://example.invalid/x)" fill="url(#kept)" width="1"/>
      <image xlink:href="http://example.invalid/a.png"/><image href="file:///etc/passwd"/>
      <image href="wanted.png"/>
      <image href="data:image/png;base64,AAAA"/><use href="#kept"/><use xlink:href="other.svg#part"/>
      <a href="javascript:alert(1)"><circle r="1"/></a>
    """).encode()
    )
    from xml.etree.ElementTree import tostring

    text = tostring(root).decode()
    for gone in (
        "script",
        "foreignObject",
        "alert",
        "example.invalid",
        "passwd",
        "wanted.png",
        "other.svg",
        "onclick",
        "ONLOAD",
    ):
        assert gone not in text, gone
    for kept in ('fill="url(#kept)"', "data:image/png", 'href="#kept"', "circle"):
        assert kept in text, kept


def test_a_drawing_that_swells_is_refused(tmp_path):
    """Entities that name each other ten times each: nine of them would be a thousand million (Klein, "XML
    bombs", 2002, from memory).
    """
    entities = "".join(f'<!ENTITY e{n + 1} "{f"&e{n};" * 10}">' for n in range(9))
    (tmp_path / "bomb.svg").write_text(
        f'<!DOCTYPE svg [<!ENTITY e0 "ha">{entities}]><svg'
        ' xmlns="http://www.w3.org/2000/svg"><text>&e9;</text></svg>'
    )
    with pytest.raises(PictureError, match="damaged"):
        prepared(tmp_path / "bomb.svg")
