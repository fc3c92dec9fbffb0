"""What is not taken is refused with the file's name and the reason, and the rest of a drop is taken."""

from __future__ import annotations

import gzip
import io
import zipfile
from posixpath import splitext

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core import limits
from pavese.core.errors import RefusedFileError
from pavese.core.formats import read
from pavese.core.formats.archive import members, package
from pavese.core.formats.edits import Edit, splice
from pavese.core.formats.intake import safe_path, take
from pavese.core.handoff.package import free_name
from pavese.demo.icons import icon_files
from pavese.demo.illustrations import illustration_files

NS = 'xmlns="http://www.w3.org/2000/svg"'
GOOD = f'<svg {NS}><path d="M0 0h9v9z"/></svg>'.encode()
BOMB = (
    f'<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]><svg {NS}><text>&b;</text></svg>'
).encode()


@pytest.mark.parametrize(
    ("name", "data", "reason"),
    [
        ("a.svg", b"", "empty"),
        ("a.svg", b"   \n", "empty"),
        ("a.svg", b"not xml at all", "line 1, column"),
        ("a.svg", f"<svg {NS}>\n<path></svg>".encode(), "line 2"),
        ("a.svg", f"<svg {NS} fill='a' fill='b'/>".encode(), "duplicate attribute"),
        ("a.svg", BOMB, "entity"),
        ("a.svg", b'<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/hostname">]><svg/>', "entity"),
        ("a.svg", b"<html xmlns='http://www.w3.org/1999/xhtml'/>", "not SVG"),
        ("a.svg", b"<svg xmlns='http://elsewhere.example'/>", "namespace"),
        ("a.svg", b"\x89PNG\r\n\x1a\n0000", "valid utf-8"),
        ("a.svg", b"\xff\xfe\x00", "utf-16"),
        ("a.svg", b"<?xml version='1.0' encoding='klingon'?><svg/>", "klingon"),
        ("a.svgz", b"\x1f\x8b broken", "unpacked"),
        ("a.svgz", gzip.compress(b" " * (limits.FILE_BYTES + 1) + GOOD), "larger than"),
        ("a.svg", f"<svg {NS}>{'<g>' * 300}{'</g>' * 300}</svg>".encode(), "nested"),
        ("a.svg", f"<svg {NS}>{'<g/>' * (limits.ELEMENTS + 1)}</svg>".encode(), "elements"),
        ("a.bmp", GOOD, "kind of file"),
        ("a.fodp", GOOD, "save it as .odp"),
        ("A.EMF", b"", "Save it as .svg"),
        ("a.css", b"a { color: red }", "Drop it with those that do"),
        ("noending", GOOD, "kind of file"),
    ],
)
def test_a_file_that_cannot_be_taken(name: str, data: bytes, reason: str) -> None:
    with pytest.raises(RefusedFileError) as refused:
        read(name, data)
    assert refused.value.name == name
    assert reason in refused.value.reason


def test_too_large_is_refused_before_it_is_read() -> None:
    with pytest.raises(RefusedFileError, match="larger than"):
        read("a.svg", GOOD + b" " * limits.FILE_BYTES)


@given(st.binary(max_size=200))
def test_any_bytes_are_read_or_refused(data: bytes) -> None:
    intake = take([("a.svg", data), ("good.svg", GOOD)])
    assert len(intake.taken) + len(intake.refused) >= 2 or data.startswith(b"PK")
    assert intake.taken[-1].name == "good.svg"


@given(st.integers(0, len(GOOD)), st.binary(min_size=1, max_size=4))
def test_a_damaged_file_is_read_or_refused(at: int, damage: bytes) -> None:
    intake = take([("a.svg", GOOD[:at] + damage + GOOD[at + len(damage) :])])
    assert len(intake.taken) + len(intake.refused) == 1


def archive(*files: tuple[str, bytes]) -> bytes:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as packed:
        for name, data in files:
            packed.writestr(name, data)
    return target.getvalue()


def test_an_archive_is_opened_and_its_litter_left_out() -> None:
    data = archive(("icons/a.svg", GOOD), ("__MACOSX/._a.svg", b"x"), (".DS_Store", b"x"), ("icons/b.svg", b"broken"))
    intake = take([("pack.zip", data)])
    assert [file.name for file in intake.taken] == ["icons/a.svg"]
    assert [error.name for error in intake.refused] == ["icons/b.svg"]


@pytest.mark.parametrize(
    ("data", "reason"),
    [
        (b"PK\x03\x04 broken", "cannot be opened"),
        (archive(), "empty"),
        (archive(("../evil.svg", GOOD)), "leads out"),
        (archive(("/etc/evil.svg", GOOD)), "leads out"),
        (archive(("c:evil.svg", GOOD)), "leads out"),
        (archive(*((f"{n}.svg", b"") for n in range(limits.ARCHIVE_FILES + 1))), "at most"),
        (archive(("zeros.svg", b"\0" * (3 * limits.MEGABYTE))), "times its size"),
    ],
)
def test_a_dangerous_archive_is_refused_whole(data: bytes, reason: str) -> None:
    with pytest.raises(RefusedFileError, match=reason):
        list(members("pack.zip", data))
    intake = take([("pack.zip", data), ("good.svg", GOOD)])
    assert [file.name for file in intake.taken] == ["good.svg"]
    assert intake.refused[0].name == "pack.zip"


def test_an_archive_that_lies_about_its_sizes_is_refused() -> None:
    data = bytearray(archive(("a.svg", GOOD * 50)))
    size = (len(GOOD) * 50).to_bytes(4, "little")
    honest = bytes(data)
    lying = honest.replace(size, (10).to_bytes(4, "little"))
    assert lying != honest
    with pytest.raises(RefusedFileError):
        list(members("pack.zip", lying))


@pytest.mark.parametrize(
    ("name", "expected"),
    [
        ("a.svg", "a.svg"),
        ("x/../a.svg", "x/a.svg"),
        ("..\\a.svg", "a.svg"),
        ('a"<b>.svg', "a__b_.svg"),
        ("///", "unnamed.svg"),
    ],
)
def test_paths_are_made_safe(name: str, expected: str) -> None:
    assert safe_path(name) == expected


def test_the_same_files_make_the_same_package() -> None:
    files = [("b/ü.svg", GOOD), ("kit.css", b"x")]
    assert package(files) == package(list(files))
    with zipfile.ZipFile(io.BytesIO(package(files))) as packed:
        assert [(info.filename, packed.read(info)) for info in packed.infolist()] == files
    taken: set[str] = set()
    assert [free_name(name, taken) for name in ("a.svg", "A.svg", "a.svg")] == ["a.svg", "A-2.svg", "a-3.svg"]


def test_edits_that_overlap_are_a_mistake_of_ours() -> None:
    assert splice(b"abcdef", [Edit(4, 5, b"X"), Edit(0, 0, b"<"), Edit(1, 3, b"")]) == b"<adXf"
    with pytest.raises(ValueError, match="overlap"):
        splice(b"abcdef", [Edit(0, 3, b""), Edit(2, 4, b"")])


def test_all_of_the_demo_is_taken() -> None:
    intake = take([*icon_files().items(), *illustration_files().items()])
    assert len(icon_files()) >= 24
    assert len(intake.taken) == len(icon_files()) + len(illustration_files())
    assert intake.refused == ()


@given(st.lists(st.sampled_from(["a.svg", "A.SVG", "b/a.svg", "a", "a-2.svg", "é.svg"]), max_size=12))
def test_names_in_a_package_never_collide(names: list[str]) -> None:
    taken: set[str] = set()
    given_out = [free_name(name, taken) for name in names]
    assert len({name.casefold() for name in given_out}) == len(names)
    assert all(splitext(out)[1] == splitext(name)[1] for out, name in zip(given_out, names, strict=True))


@given(st.text(max_size=300))
def test_no_path_leads_out_or_hides(name: str) -> None:
    path = safe_path(name)
    assert path
    assert not path.startswith(("/", "\\"))
    assert ".." not in path.split("/")
    assert all(character.isprintable() or ord(character) > 127 for character in path)
    assert safe_path(path) == path


@given(
    st.binary(max_size=60),
    st.lists(st.tuples(st.integers(0, 60), st.integers(0, 6), st.binary(max_size=3)), max_size=6),
)
def test_splicing_is_cutting_and_pasting_from_the_end(source: bytes, cuts: list[tuple[int, int, bytes]]) -> None:
    edits: list[Edit] = []
    at = 0
    for start, length, text in sorted(cuts):
        if start >= at and start + length <= len(source):
            edits.append(Edit(start, start + length, text))
            at = start + length + 1
    expected = source
    for edit in reversed(edits):
        expected = expected[: edit.start] + edit.text + expected[edit.end :]
    assert splice(source, edits) == splice(source, reversed(edits)) == expected
