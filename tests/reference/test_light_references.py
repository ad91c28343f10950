"""Lamps on the wire: bytes read by an independent receiver (tshark's ACN dissector), and rules of
ANSI E1.31.
"""

import shutil
import socket
import struct
import subprocess
import time

import moderngl
import numpy as np
import pytest
import sacn

from fulgura.core.kinds import colour
from fulgura.core.lights.universe import universes
from fulgura.core.picture.shaders import shader
from fulgura.core.routing.router import Router
from fulgura.core.show.lights import LightOutput
from fulgura.demo.show import demo_show
from fulgura.engine.sacn_output import SacnOutput
from fulgura.standins.light_node import Node


@pytest.fixture
def wire():
    """A UDP port on loopback that stands for the light network."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as receiver:
        receiver.bind(("127.0.0.1", 0))
        receiver.settimeout(2.0)
        yield receiver


@pytest.fixture
def output(wire):
    made = SacnOutput()
    made.configure(LightOutput(port=wire.getsockname()[1], priority=120), {7})
    return made


def levels(first: int) -> np.ndarray:
    frame = np.zeros(512, np.uint8)
    frame[:3] = first, 128, 1
    return frame


def capture(packets: list[bytes], path) -> None:
    """Packets as a pcap file of IPv4/UDP datagrams to port 5568 (RFC 791, RFC 768; checksums left out)."""
    rows = [struct.pack("<IHHiIII", 0xA1B2C3D4, 2, 4, 0, 0, 65535, 101)]
    for raw in packets:
        udp = struct.pack(">HHHH", 40_000, 5568, 8 + len(raw), 0) + raw
        ip = struct.pack(
            ">BBHHHBBH4s4s", 0x45, 0, 20 + len(udp), 0, 0, 64, 17, 0, b"\x7f\0\0\1", b"\x7f\0\0\1"
        )
        rows.append(struct.pack("<IIII", 0, 0, len(ip + udp), len(ip + udp)) + ip + udp)
    path.write_bytes(b"".join(rows))


def test_an_independent_receiver_reads_what_was_sent(wire, output, tmp_path):
    """tshark's dissector for ACN / E1.31, which shares no code with us or with the package that encodes."""
    assert shutil.which("tshark"), "Debian's package tshark is installed by ./fulgura test"
    output.send({7: levels(255)}, 0.0)
    output.send({7: levels(20)}, 1.0)
    capture([wire.recv(2048), wire.recv(2048)], tmp_path / "wire.pcap")
    command = [
        "tshark",
        "-r",
        str(tmp_path / "wire.pcap"),
        "--enable-heuristic",
        "acn",
        "-o",
        "acn.dmx_enable:TRUE",
        "-V",
    ]
    text = subprocess.run(command, capture_output=True, text=True, check=True).stdout
    assert "Malformed" not in text
    assert text.count("PDU: Streaming DMX, Universe: 7, Priority: 120") == 2
    assert "Seq No: 1" in text and "Seq No: 2" in text and "Source: Fulgura" in text
    assert text.count("Start Code: 0 (0x00)") == 2 and text.count("Count: 513") == 2
    assert "001-020: FF 80  1" in text and "001-020: 14 80  1" in text


def test_a_packet_is_638_octets_of_the_standards_layout(wire, output):
    """ANSI E1.31 table 4-1 (from memory): offsets of root layer, framing layer and DMP layer."""
    output.send({7: levels(255)}, 0.0)
    raw = wire.recv(2048)
    assert len(raw) == 638
    assert raw[4:16] == b"ASC-E1.17\0\0\0" and struct.unpack(">I", raw[18:22]) == (4,)
    assert struct.unpack(">I", raw[40:44]) == (2,) and raw[44:108].rstrip(b"\0") == b"Fulgura"
    assert raw[108] == 120 and struct.unpack(">H", raw[113:115]) == (7,)
    assert raw[117] == 0x02 and raw[118] == 0xA1 and struct.unpack(">H", raw[123:125]) == (513,)
    assert raw[125] == 0 and tuple(raw[126:129]) == (255, 128, 1)


def test_at_most_44_frames_a_second_and_unchanged_levels_are_repeated(wire, output):
    for tick in range(600):
        output.send({7: levels(tick % 256)}, tick / 60)
    assert output.sent <= 44 * 10
    before = output.sent
    for tick in range(600, 1200):
        output.send({7: levels(5)}, tick / 60)
    assert 10 <= output.sent - before <= 14  # Once at the change, then within each second.


def test_sequence_counts_by_one_and_wraps(wire, output):
    for tick in range(300):
        output.send({7: levels(tick % 200)}, tick * 0.03)
    wire.setblocking(False)
    numbers = []
    try:
        while True:
            numbers.append(wire.recv(2048)[111])
    except BlockingIOError:
        pass
    assert len(numbers) > 50
    assert all((b - a) % 256 == 1 for a, b in zip(numbers, numbers[1:]))


def test_a_sequence_goes_on_through_every_change_of_the_show(wire, output):
    """One sequence a universe for a source's life (ANSI E1.31, 6.7.2, from memory): a receiver takes one that
    begins anew for packets that were lost.
    """
    port = wire.getsockname()[1]
    output.send({7: levels(1)}, 0.0)
    output.configure(LightOutput(port=port, priority=50), {7})
    output.send({7: levels(2)}, 1.0)
    output.configure(LightOutput(port=port, priority=50), {8})
    output.configure(LightOutput(port=port, priority=50), {7})
    output.send({7: levels(3)}, 2.0)
    numbers = [raw[111] for raw in (wire.recv(2048) for _ in range(6)) if raw[113:115] == b"\0\7"]
    assert numbers == [1, 2, 3, 4, 5, 6], "frames and the three packets that end it count alike"


def test_a_universe_that_ends_is_terminated_three_times(wire, output):
    output.send({7: levels(1)}, 0.0)
    output.close()
    raws = [wire.recv(2048) for _ in range(4)]
    assert [raw[112] & 0x40 for raw in raws] == [0, 0x40, 0x40, 0x40]


def test_a_host_that_is_no_address_is_named_and_nothing_is_sent(output):
    output.configure(LightOutput(host="lamps.example"), {7})
    output.send({7: levels(1)}, 0.0)
    assert output.sent == 0 and "lamps.example" in output.fault.text


def test_lamp_channels_are_linear_light_times_level():
    show = demo_show()
    router = Router()
    router.configure(show)
    frame = universes(show.lamps, router.index_of, router.live, dark=False)[1]
    # IEC 61966-2-1 by hand: #ff8a3d is 1.0, 0.2542, 0.0467 in linear light; the level is 0.1.
    np.testing.assert_allclose(frame[:3], [25.5, 6.48, 1.19], atol=0.51)
    assert frame[3:].sum() == 0


def test_srgb_agrees_with_the_standard():
    """IEC 61966-2-1: the curve's ends, its joint, and the well-known middle (0.5 encoded is 0.2140
    linear).
    """
    np.testing.assert_allclose(colour.to_linear([0, 0.04045, 0.5, 1]), [0, 0.0031308, 0.21404, 1], atol=2e-5)
    values = np.linspace(0, 1, 256)
    np.testing.assert_allclose(colour.to_encoded(colour.to_linear(values)), values, atol=1e-9)
    assert colour.luminance([1.0, 1.0, 1.0]) == pytest.approx(1.0)


def test_the_shaders_curves_are_the_standards_within_a_tenth_of_a_step():
    """IEC 61966-2-1, against the core's own exact curve: shaders have it as polynomials, drawn here for 4096
    values.
    """
    context = moderngl.create_context(standalone=True, backend="egl")
    try:
        text = (
            shader("")
            + "void main() { o_colour = vec4(encoded(vec3(v_uv.x)).x, decoded(vec3(v_uv.x)).x, v_uv.x,"
            " 1.0); }"
        )
        target = context.texture((4096, 1), 4, dtype="f4")
        context.framebuffer([target]).use()
        context.vertex_array(
            context.program(vertex_shader=shader("quad.vert"), fragment_shader=text), []
        ).render(moderngl.TRIANGLES, vertices=3)
        encoded, decoded, at, _ = np.frombuffer(target.read(), np.float32).reshape(4096, 4).T.astype(float)
    finally:
        context.release()
    np.testing.assert_allclose(encoded, colour.to_encoded(at), atol=0.1 / 255)
    np.testing.assert_allclose(decoded, colour.to_linear(at), atol=0.1 / 255)


def test_the_stand_in_node_counts_what_is_lost_and_holds_when_data_ends():
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    node = Node("127.0.0.1", port)
    try:

        def made(sequence, **more):
            return sacn.DataPacket(
                cid=(1,) * 16, sourceName="t", universe=1, dmxData=(9, 8, 7), sequence=sequence, **more
            )

        now = time.monotonic()
        for sequence in (1, 2, 5, 4):
            node.take(made(sequence), now)
        row = node.report(1, 3)[0]
        assert (row.packets, row.lost, row.channels) == (
            3,
            2,
            [9, 8, 7],
        )  # 3 and 4 were missing; 4 came late and is dropped.
        node.take(made(6), now - 3.0)
        assert node.report(1, 3)[0].state.startswith("no data")
        node.take(made(7, streamTerminated=True), now)
        assert node.report(1, 3)[0].state == "ended by its source"
    finally:
        node.close()
