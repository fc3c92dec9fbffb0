"""What a file is: told by how it begins, whatever it is called."""

from __future__ import annotations

import gzip
import io
import zipfile

import pytest
from hypothesis import given
from hypothesis import strategies as st

from pavese.core.errors import RefusedFileError
from pavese.core.formats import FORMATS, fitting_name, told
from pavese.core.formats.intake import take
from pavese.core.formats.told import HEAD
from pavese.demo.animations import animation_files
from pavese.demo.icons import icon_files
from pavese.demo.illustrations import illustration_files

SVG = b'<svg xmlns="http://www.w3.org/2000/svg"><path fill="#e53935" d="M0 0h9v9z"/></svg>'
LOTTIE = next(data for name, data in animation_files().items() if name.endswith(".json"))
PROLOG = b'<?xml version="1.0"?>\n<!-- <html> -->\n<!DOCTYPE svg [<!ENTITY a "b">]>\n'


def zipped(*names: str) -> bytes:
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        for name in names:
            archive.writestr(name, LOTTIE)
    return buffer.getvalue()


@pytest.mark.parametrize(
    ("name", "data", "expected"),
    [
        ("a.svg", SVG, "a.svg"),
        ("a.SVG", SVG, "a.SVG"),
        ("a.svgz", SVG, "a.svgz"),
        ("a", SVG, "a.svg"),
        ("logo.bmp", SVG, "logo.bmp.svg"),
        ("icon.v2", PROLOG + SVG, "icon.v2.svg"),
        ("a.json", SVG, "a.svg"),
        ("a.xml", b"\xef\xbb\xbf \n" + PROLOG + SVG, "a.xml.svg"),
        ("a.xml", SVG.decode().encode("utf-16"), "a.xml.svg"),
        ("a.bin", gzip.compress(SVG, mtime=0), "a.bin.svg"),
        ("a.txt", b'<s:svg xmlns:s="http://www.w3.org/2000/svg"/>', "a.txt.svg"),
        ("anim.svg", LOTTIE, "anim.json"),
        ("anim.txt", LOTTIE, "anim.txt.json"),
        ("anim.json", zipped("manifest.json", "a/one.json"), "anim.lottie"),
        # What does not tell by its beginning is what its name says, and its reader says what is wrong.
        ("a.svg", b"", "a.svg"),
        ("a.svg", b"<!-- " + b"x" * HEAD + b" -->" + SVG, "a.svg"),
        ("a.svg", b"<html><body>" + SVG, "a.html"),
        ("mail.txt", b"<!-- x --><!DOCTYPE html><p>x", "mail.txt.html"),
        ("page.htm", b"{% extends 'x' %}<p>x", "page.htm"),
        ("a.json", b'{"$type": "color"}', "a.json"),
    ],
)
def test_a_file_gets_the_ending_that_fits(name: str, data: bytes, expected: str) -> None:
    assert fitting_name(name, data) == expected


@pytest.mark.parametrize(
    "data",
    [b"", b"text", b"<em>x</em>", b"a < b", b"\x89PNG", b"\x1f\x8bbroken", b"{}", zipped("a.txt")],
)
def test_what_is_none_of_them_is_refused_by_its_name(data: bytes) -> None:
    with pytest.raises(RefusedFileError, match=r"a\.bin"):
        told("a.bin", data)


def test_what_cannot_be_read_is_refused_under_the_name_it_came_with() -> None:
    [refused] = take([("broken.png", SVG[:-8])]).refused
    assert refused.name == "broken.png"


@pytest.mark.parametrize("name", [*icon_files(), *illustration_files(), *animation_files()])
def test_files_are_told_without_their_names(name: str) -> None:
    data = {**icon_files(), **illustration_files(), **animation_files()}[name]
    assert told("unnamed", data) is told(name, data)
    taken = take([("unnamed", data)]).taken if not name.endswith(".lottie") else take([(name, data)]).taken
    assert [set(one.inventory.paints) for one in taken] == [set(take([(name, data)]).taken[0].inventory.paints)]


@given(st.binary(max_size=200), st.sampled_from(["", "<!--", "<?xml", "<!DOCTYPE svg [", "{", "\x1f\x8b"]))
def test_telling_never_fails(data: bytes, start: str) -> None:
    for one in FORMATS:
        assert one.matches(start.encode("latin-1") + data) in (True, False)
