"""Lamps on the wire: bytes against independent senders, receivers and dissectors, and rules of ANSI E1.31 and
Art-Net 4.
"""

import asyncio
import shutil
import socket
import struct
import subprocess
import time

import aioartnet
import moderngl
import numpy as np
import pytest
import sacn
from hypothesis import given, settings
from hypothesis import strategies as st

from fulgura.core.kinds import colour
from fulgura.core.kinds.fixture import Fixture
from fulgura.core.lights import artnet, e131
from fulgura.core.lights.rig_file import rig_file
from fulgura.core.performer import Performer
from fulgura.core.picture.shaders import shader
from fulgura.core.show.lights import Lamp, LightOutput, LightSettings
from fulgura.core.show.part import Part
from fulgura.demo.show import demo_show, gallery_show
from fulgura.engine.light_outputs import COMPONENT, LightOutputs
from fulgura.standins.light_receiver import Receiver
from fulgura.standins.rig_light import RigLight
from harness.stack import free_port


@pytest.fixture
def wire():
    """A UDP port on loopback that stands for the light network."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as receiver:
        receiver.bind(("127.0.0.1", 0))
        receiver.settimeout(2.0)
        yield receiver


def sender(wire, protocol="sacn", **more):
    """What sends to that port."""
    settings = LightOutput(protocol=protocol, host="127.0.0.1", port=wire.getsockname()[1], **more)
    outputs = LightOutputs()
    outputs.configure([settings], LightSettings())
    return outputs


def levels(first: int) -> np.ndarray:
    frame = np.zeros(512, np.uint8)
    frame[:3] = first, 128, 1
    return frame


def received(wire) -> list[bytes]:
    """All that waits at the port."""
    wire.setblocking(False)
    found = []
    try:
        while True:
            found.append(wire.recv(2048))
    except BlockingIOError:
        return found


def capture(packets: list[bytes], port: int, path) -> None:
    """Packets as a pcap file of IPv4/UDP datagrams to a port (RFC 791, RFC 768; checksums left out)."""
    rows = [struct.pack("<IHHiIII", 0xA1B2C3D4, 2, 4, 0, 0, 65535, 101)]
    for raw in packets:
        udp = struct.pack(">HHHH", 40_000, port, 8 + len(raw), 0) + raw
        ip = struct.pack(
            ">BBHHHBBH4s4s", 0x45, 0, 20 + len(udp), 0, 0, 64, 17, 0, b"\x7f\0\0\1", b"\x7f\0\0\1"
        )
        rows.append(struct.pack("<IIII", 0, 0, len(ip + udp), len(ip + udp)) + ip + udp)
    path.write_bytes(b"".join(rows))


def dissected(packets: list[bytes], port: int, folder, *fields: str) -> list[list[str]]:
    """Fields of each packet as tshark's dissectors read them, which share no code with us; none is
    malformed.
    """
    assert shutil.which("tshark"), "Debian's package tshark is installed by ./fulgura test"
    file = folder / "wire.pcap"
    capture(packets, port, file)
    command = ["tshark", "-r", str(file), "--enable-heuristic", "acn", "-o", "acn.dmx_enable:TRUE"]
    wanted = [word for field in (*fields, "_ws.malformed", "_ws.expert.severity") for word in ("-e", field)]
    shown = ["-T", "fields", "-E", "separator=;", *wanted]
    text = subprocess.run([*command, *shown], capture_output=True, text=True, check=True).stdout
    rows = [line.split(";") for line in text.splitlines()]
    assert len(rows) == len(packets) and all(row[-2:] == ["", ""] for row in rows), text
    return [row[:-2] for row in rows]


SACN_FIELDS = ("acn.dmx.universe", "acn.dmx.priority", "acn.dmx.seq_number", "acn.dmx.source_name")
ARTNET_FIELDS = (
    "artnet.header.opcode",
    "artnet.output.sequence",
    "artnet.output.universe",
    "artnet.output.length",
)


def test_tshark_dissects_every_sacn_packet_and_reads_what_was_sent(wire, tmp_path):
    output = sender(wire, priority=120)
    for number in range(20):
        output.send({7: levels(number), 300: levels(255 - number)}, number * 0.03)
    output.close()
    packets = received(wire)
    rows = dissected(packets, 5568, tmp_path, *SACN_FIELDS, "acn.dmx.start_code2", "acn.dmx.option_s")
    assert len(rows) == 46, "twenty each, and three that end each"
    assert {row[0] for row in rows} == {"7", "300"} and {row[1] for row in rows} == {"120"}
    for universe in ("7", "300"):
        own = [int(row[2]) for row in rows if row[0] == universe]
        assert own == list(range(1, 24))
        ends = [row[5] in ("1", "True") for row in rows if row[0] == universe]
        assert ends == [False] * 20 + [True] * 3
    assert all(row[3].startswith("Fulgura") for row in rows)


def test_tshark_dissects_every_artnet_packet_and_reads_what_was_sent(wire, tmp_path):
    output = sender(wire, "art-net", shift=-1)
    for number in range(20):
        output.send({1: levels(number), 300: levels(255 - number)}, number * 0.03)
    packets = received(wire)
    rows = dissected(packets, 6454, tmp_path, *ARTNET_FIELDS)
    assert len(rows) == 40 and {row[0] for row in rows} == {"0x5000"} and {row[3] for row in rows} == {"512"}
    for universe in (0, 299):
        own = [int(row[1]) for row in rows if int(row[2], 0) == universe]
        assert own == list(range(1, 21)), "our universe less one is the port-address"


@settings(max_examples=60, deadline=None)
@given(
    st.integers(1, 63_999),
    st.integers(0, 200),
    st.integers(0, 255),
    st.binary(min_size=512, max_size=512),
    st.booleans(),
)
def test_a_packet_equals_that_of_the_sacn_package_byte_for_byte(universe, priority, sequence, raw, ends):
    made = sacn.DataPacket(
        cid=tuple(COMPONENT.bytes),
        sourceName="Fulgura",
        universe=universe,
        dmxData=tuple(raw),
        priority=priority,
        sequence=sequence,
        streamTerminated=ends,
    )
    options = e131.TERMINATED if ends else 0
    channels = np.frombuffer(raw, np.uint8)
    own = e131.data_packet(COMPONENT, "Fulgura", universe, priority, channels, sequence, options)
    assert bytes(own) == bytes(made.getBytes())
    said = e131.read(bytes(made.getBytes()))
    assert (said.universe, said.priority, said.sequence, said.terminated) == (
        universe,
        priority,
        sequence,
        ends,
    )
    assert said.channels == raw and said.source == "Fulgura"


def test_a_packet_is_638_octets_of_the_standards_layout(wire):
    """ANSI E1.31 table 4-1 (from memory): offsets of root layer, framing layer and DMP layer."""
    output = sender(wire, priority=120)
    output.send({7: levels(255)}, 0.0)
    raw = wire.recv(2048)
    assert len(raw) == 638
    assert raw[4:16] == b"ASC-E1.17\0\0\0" and struct.unpack(">I", raw[18:22]) == (4,)
    assert struct.unpack(">I", raw[40:44]) == (2,) and raw[44:108].rstrip(b"\0") == b"Fulgura"
    assert raw[108] == 120 and struct.unpack(">H", raw[113:115]) == (7,)
    assert raw[117] == 0x02 and raw[118] == 0xA1 and struct.unpack(">H", raw[123:125]) == (513,)
    assert raw[125] == 0 and tuple(raw[126:129]) == (255, 128, 1)


def test_an_independent_artnet_library_receives_ours():
    """aioartnet (MIT), which shares no code with us."""

    async def run():
        port = free_port(socket.SOCK_DGRAM)
        client = aioartnet.ArtNetClient(interface="lo")
        universe = client.set_port_config("0:2:5", is_input=False, is_output=True)
        with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as out:
            protocol = aioartnet.client.ArtNetClientProtocol(client)
            loop = asyncio.get_running_loop()
            transport, _ = await loop.create_datagram_endpoint(
                lambda: protocol, local_addr=("127.0.0.1", port)
            )
            packet = artnet.dmx_packet(2 << 4 | 5, levels(77), 1)
            out.sendto(packet, ("127.0.0.1", port))
            for _ in range(100):
                await asyncio.sleep(0.02)
                if universe.get_dmx()[0]:
                    break
            transport.close()
        return bytes(universe.get_dmx()[:4])

    assert asyncio.run(run()) == bytes([77, 128, 1, 0])


@given(st.integers(0, 32_767), st.integers(0, 255), st.binary(min_size=512, max_size=512))
def test_artnet_says_and_reads_the_same(port_address, sequence, raw):
    """Octets 14 and 15: sub-net and universe, then net (Art-Net 4, from memory)."""
    packet = bytes(artnet.dmx_packet(port_address, np.frombuffer(raw, np.uint8), sequence))
    assert packet[:8] == b"Art-Net\0" and packet[8:12] == b"\x00\x50\x00\x0e" and packet[16:18] == b"\x02\x00"
    assert packet[14] == port_address & 255 and packet[15] == port_address >> 8
    said = artnet.read(packet)
    assert (said.port_address, said.sequence, said.channels) == (port_address, sequence, raw)


@given(st.binary(max_size=700), st.sampled_from([e131.read, artnet.read]))
def test_nonsense_is_refused_and_nothing_else_happens(raw, read):
    with pytest.raises(ValueError):
        read(raw)


def test_broken_packets_are_refused():
    good = bytes(e131.data_packet(COMPONENT, "x", 1, 100, levels(1)))
    for at, octet in ((108, 201), (113, 255), (117, 3), (124, 255)):
        broken = good[:at] + bytes([octet]) + good[at + 1 :]
        with pytest.raises(ValueError):
            e131.read(broken)
    with pytest.raises(ValueError):
        e131.read(good[:-1])
    assert e131.read(good[:44] + b"\xff\xfe" + good[46:]).source, (
        "a name that is no UTF-8 is no reason to stop"
    )


def test_at_most_44_frames_in_any_second_and_unchanged_levels_are_repeated(wire):
    output = sender(wire)
    times = []
    for tick in range(600):
        before = output.senders["output-1"].sent
        output.send({7: levels(tick % 256)}, tick / 60)
        times += [tick / 60] * (output.senders["output-1"].sent - before)
    assert max(sum(1 for t in times if start <= t < start + 1.0) for start in times) <= 44
    assert len(times) > 42 * 10, "and hardly fewer: a hit waits for no more than two ticks"
    before = output.senders["output-1"].sent
    for tick in range(600, 1200):
        output.send({7: levels(5)}, tick / 60)
    assert (
        10 <= output.senders["output-1"].sent - before <= 14
    )  # Once at the change, then within each second.


@pytest.mark.parametrize("rate", [1.0, 10.0, 25.0])
def test_no_more_frames_than_the_rate(wire, rate):
    output = sender(wire, rate=rate)
    for tick in range(600):
        output.send({7: levels(tick % 256)}, tick / 60)
    assert 0.9 * 10 * rate <= output.senders["output-1"].sent <= 10 * rate + 1


def test_sequence_counts_by_one_and_wraps(wire):
    output, numbers = sender(wire), []
    for tick in range(300):
        output.send({7: levels(tick % 200)}, tick * 0.03)
        numbers += [raw[111] for raw in received(wire)]
    assert len(numbers) == 300 and numbers[:256] == [*range(1, 256), 0]
    assert all((b - a) % 256 == 1 for a, b in zip(numbers, numbers[1:]))


def test_artnet_counts_from_1_to_255(wire):
    output, numbers = sender(wire, "art-net"), []
    for tick in range(300):
        output.send({7: levels(tick % 200)}, tick * 0.03)
        numbers += [raw[12] for raw in received(wire)]
    assert numbers[:256] == [*range(1, 256), 1]


def test_a_sequence_goes_on_through_every_change_of_the_show(wire):
    """One sequence a universe for a source's life (ANSI E1.31, 6.7.2, from memory): a receiver takes one that
    begins anew for packets that were lost.
    """
    settings = LightOutput(host="127.0.0.1", port=wire.getsockname()[1])
    output = sender(wire)
    output.send({7: levels(1)}, 0.0)
    output.configure([settings.model_copy(update={"priority": 50})], LightSettings())
    output.send({7: levels(2)}, 1.0)
    output.send({8: levels(2)}, 2.0)
    output.configure([], LightSettings())
    output.configure([settings], LightSettings())
    output.send({7: levels(3)}, 3.0)
    raws = [raw for raw in received(wire) if raw[113:115] == b"\0\7"]
    assert [raw[111] for raw in raws] == [1, 2, 3, 4, 5, 6], "frames and the packets that end it count alike"
    assert [raw[108] for raw in raws] == [100, 50, 50, 50, 50, 100]
    assert [raw[112] & 0x40 for raw in raws] == [0, 0, 0x40, 0x40, 0x40, 0]


def test_a_universe_that_ends_is_terminated_three_times(wire):
    output = sender(wire)
    output.send({7: levels(1)}, 0.0)
    output.close()
    raws = [wire.recv(2048) for _ in range(4)]
    assert [raw[112] & 0x40 for raw in raws] == [0, 0x40, 0x40, 0x40]


def test_multicast_goes_to_the_group_of_the_universe_by_the_chosen_card():
    """ANSI E1.31, 9.3.1: 239.255 and the universe in two octets. Multicast works over loopback here."""
    port = free_port(socket.SOCK_DGRAM)
    heard = Receiver("127.0.0.1", port, groups=range(1, 30))
    try:
        settings = LightOutput(host="", port=port, interface="127.0.0.1")
        output = LightOutputs()
        output.configure([settings], LightSettings())
        until = time.monotonic() + 10
        while len(heard.universes()) < 2 and time.monotonic() < until:
            output.send({3: levels(9), 25: levels(8)}, time.monotonic())
            time.sleep(0.05)
        found = heard.universes()
        assert {universe: row[0] for universe, row in found.items()} == {3: 9, 25: 8}
        output.close()
    finally:
        heard.close()


def test_several_places_at_once_each_with_its_own_universes(wire):
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as other:
        other.bind(("127.0.0.1", 0))
        outputs = LightOutputs()
        ports = wire.getsockname()[1], other.getsockname()[1]
        both = [
            LightOutput(id="a", host="127.0.0.1", port=ports[0], universes=[1, 2]),
            LightOutput(id="b", host="127.0.0.1", port=ports[1], protocol="art-net", shift=10),
        ]
        outputs.configure(both, LightSettings(private=[2]))
        outputs.send({1: levels(1), 2: levels(2), 3: levels(3)}, 0.0)
        assert [e131.read(raw).universe for raw in received(wire)] == [1], "2 is private, 3 is not for it"
        assert [artnet.read(raw).port_address for raw in received(other)] == [11, 13]


def test_a_host_that_is_no_address_is_named_and_nothing_is_sent(wire):
    output = LightOutputs()
    output.configure([LightOutput(host="lamps.example")], LightSettings())
    output.send({7: levels(1)}, 0.0)
    state = output.state(0.0)
    assert state["sent"] == 0 and "lamps.example" in state["fault"].text


def test_a_network_that_is_away_is_told_and_tried_again_and_nothing_waits(wire):
    output = LightOutputs()
    # An address of a documentation network (RFC 5737) as the card: this machine has none like it.
    away = LightOutput(host="127.0.0.1", port=wire.getsockname()[1], interface="192.0.2.7")
    output.configure([away], LightSettings())
    begun = time.monotonic()
    for tick in range(300):
        output.send({7: levels(tick % 200)}, tick / 60)
    assert time.monotonic() - begun < 0.5
    sender = output.senders["output-1"]
    assert sender.failed == 5, "once a second"
    assert "tried again every second" in output.state(5.0)["fault"].text
    sender.settings = away.model_copy(update={"interface": ""})  # The network is back.
    output.send({7: levels(1)}, 6.5)
    assert output.state(6.5)["fault"] is None and sender.sent == 1


def test_lamp_channels_are_linear_light_times_level():
    performer = Performer(demo_show().model_copy(update={"routes": []}))
    performer.hear(np.zeros((256, 2)))
    frame = performer.tick().universes[1]
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


def test_the_stand_in_counts_what_is_lost_and_late_and_holds_when_data_ends():
    heard = Receiver("127.0.0.1", free_port(socket.SOCK_DGRAM))
    try:

        def made(sequence, options=0):
            return bytes(e131.data_packet(COMPONENT, "t", 1, 100, levels(9), sequence, options))

        now = time.monotonic()
        for sequence in (1, 2, 5, 4):
            heard.take("sacn", made(sequence), now)
        stream = next(iter(heard.streams.values()))
        # 3 and 4 were missing; 4 came late and is dropped.
        assert (stream.packets, stream.lost, stream.late, stream.channels[0]) == (3, 2, 1, 9)
        heard.take("sacn", made(6), now + 0.4)
        assert stream.longest_gap_s == pytest.approx(0.4)
        assert stream.state(now + 0.4 + 2.4) == "receiving"
        assert stream.state(now + 0.4 + 2.6).startswith("no data"), "E131_NETWORK_DATA_LOSS_TIMEOUT is 2.5 s"
        heard.take("sacn", made(7, e131.TERMINATED), now + 0.5)
        assert stream.state(now + 0.5) == "ended by its source" and heard.universes() == {}
        heard.take("sacn", b"nonsense", now)
        assert heard.strange == 1
    finally:
        heard.close()


def test_the_stand_in_shows_what_the_desk_shows_from_the_rig_file_and_the_bytes_alone():
    """The engine's own reading of its bytes against the stand-in's, which knows the file only."""
    show = gallery_show()
    performer = Performer(show)
    rig = RigLight(rig_file(show))
    rng = np.random.default_rng(5)
    for _ in range(40):
        performer.hear(rng.normal(0, 0.2, (256, 2)))
        frame = performer.tick()
        light, pose = rig.shine({universe: row.tobytes() for universe, row in frame.universes.items()})
        np.testing.assert_allclose(light, frame.light, atol=2e-6)
        np.testing.assert_allclose(pose, frame.pose, atol=1e-4)


def test_every_kind_of_lamp_is_read_alike_by_both():
    lamps = []
    for number, (name, kind) in enumerate(Fixture.kinds.items()):
        for row, mode in enumerate(kind.modes):
            values = {"level": 0.7, "colour": "#40a0e0", "strobe": 2.0, "pan": 33.0, "uv": 0.4}
            names = {parameter.name for parameter in kind.parameters()}
            own = {key: value for key, value in values.items() if key in names}
            part = Part(id=f"p{number}-{row}", family="fixture", kind=name, values=own)
            lamps.append(
                Lamp(id=f"l{number}-{row}", name=name, universe=1 + 4 * len(lamps), mode=mode, fixture=part)
            )
    show = demo_show().model_copy(update={"lamps": lamps, "routes": []})
    performer = Performer(show)
    performer.hear(np.zeros((256, 2)))
    frame = performer.tick()
    sent = {universe: row.tobytes() for universe, row in frame.universes.items()}
    light, pose = RigLight(rig_file(show)).shine(sent)
    np.testing.assert_allclose(light, frame.light, atol=2e-6)
    np.testing.assert_allclose(pose, frame.pose, atol=1e-4)
