"""The journal against what disks do: cut anywhere, bits turned, full, read-only, a sync that fails."""

import errno
import os
import threading
import zlib

import pytest

from fulgura.store import journal
from fulgura.store.journal import HEAD, MARK, Journal, JournalInUse, packed, read
from harness.stack import wait_for

RECORDS = [b"first", b"", b"x" * 300, bytes(range(256)), b"last"]


@pytest.fixture
def path(tmp_path):
    return tmp_path / "journal"


def written(path, records=RECORDS):
    made = Journal(path)
    assert [made.add(record).result(5) for record in records] == [True] * len(records)
    made.close()
    return path.read_bytes()


def test_what_was_added_is_there_at_the_next_start(path):
    raw = written(path)
    assert read(path) == (RECORDS, len(raw))
    again = Journal(path)
    assert again.left == RECORDS and again.add(b"more").result(5)
    again.close()
    assert read(path)[0] == [*RECORDS, b"more"]


def test_two_cannot_keep_one_journal(path):
    first = Journal(path)
    with pytest.raises(JournalInUse, match="Another Fulgura already keeps the shows"):
        Journal(path)
    first.close()
    Journal(path).close()


def test_the_checksum_is_that_of_the_standard():
    """CRC-32 of ISO 3309; its check value is known from catalogues of such sums: CBF43926 for "123456789"."""
    assert zlib.crc32(b"123456789") == 0xCBF43926
    assert packed(b"123456789")[:8] == HEAD.pack(9, 0xCBF43926)


def test_cut_at_every_byte_of_its_last_three_records(path):
    raw = written(path)
    ends = [len(MARK)]
    for record in RECORDS:
        ends.append(ends[-1] + len(packed(record)))
    for length in range(ends[2], len(raw)):
        path.write_bytes(raw[:length])
        whole = sum(end <= length for end in ends) - 1
        again = Journal(path)
        assert again.left == RECORDS[:whole] and again.broken == length - ends[whole]
        # It goes on after what was whole.
        assert again.add(b"after").result(5)
        again.close()
        assert read(path)[0] == [*RECORDS[:whole], b"after"]


@pytest.mark.parametrize("bit", range(8))
def test_a_turned_bit_ends_it_there_and_is_put_aside(path, bit):
    raw = bytearray(written(path))
    start = len(raw) - sum(len(packed(record)) for record in RECORDS[2:])
    for at in range(start, len(raw), 7):
        turned = bytearray(raw)
        turned[at] ^= 1 << bit
        path.write_bytes(turned)
        found, end = read(path)
        assert found == RECORDS[: len(found)] and len(found) in (2, 3, 4) and end <= at
    again = Journal(path)
    assert again.broken == len(raw) - end
    assert path.with_suffix(".broken").read_bytes() == bytes(turned[end:])
    again.close()


def test_one_sync_for_all_that_wait(path, monkeypatch):
    syncs, real, waits = [], os.fdatasync, threading.Event()

    def slow(file):
        syncs.append(file)
        real(file)
        if len(syncs) == 1:
            waits.wait(5)

    made = Journal(path)
    assert made.add(b"begin").result(5)
    monkeypatch.setattr(journal.os, "fdatasync", slow)
    first = made.add(b"first")
    while not syncs:
        pass
    others = [made.add(b"%d" % number) for number in range(50)]
    waits.set()
    assert first.result(5) and all(other.result(5) for other in others) and len(syncs) == 2
    made.close()
    assert len(read(path)[0]) == 52


@pytest.mark.parametrize("call", ["write", "fdatasync"])
@pytest.mark.parametrize("code", [errno.ENOSPC, errno.EIO, errno.EROFS])
def test_a_disk_that_fails_is_said_and_nothing_is_lost_once_it_is_well(path, monkeypatch, call, code):
    made = Journal(path)
    assert made.add(b"before").result(5)
    with monkeypatch.context() as broken:

        def fails(*_):
            raise OSError(code, os.strerror(code))

        broken.setattr(journal.os, call, fails)
        assert [made.add(record).result(5) for record in (b"one", b"two")] == [False, False]
        assert made.fault == os.strerror(code)
    # What is added next brings all along that could not be kept.
    assert made.add(b"three").result(5) and made.fault == ""
    made.close()
    assert read(path)[0] == [b"before", b"one", b"two", b"three"]


def test_a_disk_that_is_well_again_gets_what_waits_by_itself(path, monkeypatch):
    made = Journal(path)
    with monkeypatch.context() as broken:
        broken.setattr(journal.os, "fdatasync", lambda _: (_ for _ in ()).throw(OSError(errno.EIO, "broken")))
        assert not made.add(b"one").result(5)
    wait_for(lambda: not made.fault, 5, "the next try")
    assert read(path)[0] == [b"one"]
    made.close()


def test_what_is_kept_elsewhere_is_cut(path):
    made = Journal(path)
    made.add(b"one").result(5), made.add(b"two").result(5)
    made.cut(1)
    assert made.add(b"three").result(5)
    made.cut(2)
    wait_for(lambda: path.read_bytes() == MARK, 5, "the cut")
    assert made.add(b"four").result(5)
    made.close()
    assert read(path)[0] == [b"four"]


def test_a_journal_that_is_never_empty_is_written_anew(path, monkeypatch):
    monkeypatch.setattr(journal, "LARGE", 1000)
    made = Journal(path)
    for number in range(50):
        assert made.add(b"%04d" % number + bytes(96)).result(5)
        if number:
            made.cut(1)
    made.close()
    assert path.stat().st_size < 3000
    assert [record[:4] for record in read(path)[0]][-1] == b"0049"
