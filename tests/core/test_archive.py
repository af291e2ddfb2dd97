"""ZIP archives: what is good comes out as it is, and nothing hostile is ever unpacked."""

from __future__ import annotations

import io
import struct
import zipfile

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from evenmark.core.formats import archive
from evenmark.core.formats.archive import MOST_MEMBERS, UNNAMED, UnusableArchive, is_archive, unpack
from tests.extent import examples


def packed(files: dict[str, bytes], method: int = zipfile.ZIP_DEFLATED) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", method) as z:
        for name, data in files.items():
            z.writestr(name, data)
    return out.getvalue()


def test_files_come_out_by_path_as_they_went_in() -> None:
    files = {"b/two.dxf": b"2" * 1000, "a/one.dxf": b"1"}
    for method in (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED):
        found = unpack(packed(files, method))
        assert [(m.path, m.data, m.trouble) for m in found] == [
            ("a/one.dxf", b"1", None),
            ("b/two.dxf", b"2" * 1000, None),
        ]


def test_what_systems_leave_behind_is_passed_over() -> None:
    found = unpack(
        packed({"__MACOSX/._a.dxf": b"x", ".DS_Store": b"x", "d/Thumbs.db": b"x", "d/": b"", "a.dxf": b"y"})
    )
    assert [m.path for m in found] == ["a.dxf"]


def test_paths_are_only_names(tmp_path: object) -> None:
    found = unpack(packed({"../../etc/passwd": b"x", "/root/a.dxf": b"y", "c:\\temp\\b.dxf": b"z"}))
    assert [m.data for m in found] == [
        b"x",
        b"y",
        b"z",
    ]  # nothing was written anywhere; the name is only shown


@pytest.mark.parametrize(
    "data",
    [b"PK\x03\x04", b"PK\x03\x04" + bytes(400), b"not a zip", packed({"a": b"b" * 500})[:-30]],
    ids=["four bytes", "nothing behind", "no archive", "cut off"],
)
def test_broken_archives_are_refused_with_a_sentence(data: bytes) -> None:
    with pytest.raises(UnusableArchive) as caught:
        unpack(data)
    assert "Pack the drawings again" in caught.value.says


def test_an_empty_archive_says_so() -> None:
    with pytest.raises(UnusableArchive, match="empty"):
        unpack(packed({}))


def test_too_many_files_are_refused() -> None:
    with pytest.raises(UnusableArchive, match=str(MOST_MEMBERS)):
        unpack(packed({f"{n}.dxf": b"x" for n in range(MOST_MEMBERS + 1)}))


def test_a_bomb_is_never_unpacked(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(archive, "MOST_UNPACKED", 8 * 1024 * 1024)
    with pytest.raises(UnusableArchive, match="more than 8 MB"):
        unpack(packed({f"{n}.dxf": bytes(5 * 1024 * 1024) for n in range(3)}))
    [only] = unpack(
        packed({"one.dxf": bytes(5 * 1024 * 1024)})
    )  # a thousandth of its size: no drawing packs like that
    assert (only.data, only.trouble is not None) == (b"", True)


def test_a_size_that_is_a_lie_is_found_out(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(archive, "MOST_BYTES", 1000)
    data = bytearray(packed({"a.dxf": bytes(range(256)) * 40}))
    for signature, offset in (
        (b"PK\x03\x04", 22),
        (b"PK\x01\x02", 24),
    ):  # ZIP application note: uncompressed size
        at = bytes(data).index(signature)
        struct.pack_into("<I", data, at + offset, 900)
    [only] = unpack(bytes(data))
    assert only.data == b""
    assert only.trouble


def test_unusual_packing_is_told() -> None:
    for method in (zipfile.ZIP_BZIP2, zipfile.ZIP_LZMA):
        [only] = unpack(packed({"a.dxf": b"x" * 100}, method))
        assert "plain ZIP" in (only.trouble or "")


def test_a_password_is_told() -> None:
    data = bytearray(packed({"a.dxf": b"x" * 100}))
    for signature, offset in (
        (b"PK\x03\x04", 6),
        (b"PK\x01\x02", 8),
    ):  # ZIP application note: general purpose flags
        at = bytes(data).index(signature)
        data[at + offset] |= 1
    [only] = unpack(bytes(data))
    assert "password" in (only.trouble or "")


def test_one_damaged_file_does_not_spoil_the_others() -> None:
    data = bytearray(packed({"a.dxf": b"a" * 3000, "b.dxf": b"b" * 10}, zipfile.ZIP_STORED))
    at = bytes(data).index(b"aaaa") + 50
    data[at] = 0
    bad, good = unpack(bytes(data))
    assert (bad.trouble is not None, good.data) == (True, b"b" * 10)


def test_a_file_without_a_name_is_unpacked_like_any_other() -> None:
    data = bytearray(packed({"x": b"y" * 40}))
    listed = data.index(b"PK\x01\x02")
    data[listed + 28], data[listed + 32] = 0, 1  # the letter of its name becomes a remark
    assert [m.path for m in unpack(bytes(data))] == [UNNAMED]


@settings(max_examples=examples(200), deadline=None)
@given(st.data())
def test_flipped_bytes_end_in_files_or_a_sentence(draw: st.DataObject) -> None:
    data = bytearray(packed({"a/x.dxf": b"0\nSECTION\n" * 50, "b.dxf": b"y" * 40}))
    for _ in range(draw.draw(st.integers(1, 6))):
        data[draw.draw(st.integers(0, len(data) - 1))] = draw.draw(st.integers(0, 255))
    try:
        found = unpack(bytes(data))
    except UnusableArchive as why:
        assert why.says
    else:
        assert all(m.trouble or m.path is not None for m in found)


def test_archives_are_told_from_drawings() -> None:
    assert is_archive(packed({"a": b"b"}))
    assert not is_archive(b"0\nSECTION\n")
