"""Codes from files: lists in CSV, design tokens, open text palettes, the theme of a slide deck, or any text.

CSV: RFC 4180 (and tabs or semicolons). Tokens: Design Tokens Format Module of the W3C community group, color module,
https://www.designtokens.org/tr/drafts/color/ . PPTX theme colors: ISO/IEC 29500-1, section 20.1.6.2. ODP: OpenDocument
1.3, section 20 (colors of styles), and the theme colors office suites write beside them.
"""

from __future__ import annotations

import csv
import io
import re
import zipfile
from collections.abc import Callable, Iterator
from dataclasses import replace

import orjson

from pavese.core.color.parse import try_color, try_written
from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.color.token_tree import colors_of_tokens
from pavese.core.errors import RefusedFileError, UnreadableTokensError
from pavese.core.formats.archive import is_archive, members
from pavese.core.formats.xml_source import Element, read_xml
from pavese.core.kit.codes import LONGEST_TEXT, MOST_CODES, FoundCode, find_codes, with_names
from pavese.core.kit.plain import shortened

LARGEST_TEXT_FILE = 2_000_000
#: How decks are called, and text files that are offered to be chosen; any text is read.
DECKS = (".pptx", ".potx", ".odp", ".otp")
PALETTES = (".gpl",)
TEXTS = (".css", ".scss", ".txt", ".csv", ".tsv", ".json", ".tokens", ".md", *PALETTES)
_CODE_HEADS = ("hex", "code", "color", "colour", "value", "rgb", "css")
_NAME_HEADS = ("name", "label", "token", "title")
_STEP_HEADS = ("step", "shade", "tone")
_THEME_NAMES = {
    "dk1": "Theme dark 1",
    "lt1": "Theme light 1",
    "dk2": "Theme dark 2",
    "lt2": "Theme light 2",
    "hlink": "Theme link",
    "folHlink": "Theme followed link",
}


def read_code_file(name: str, data: bytes) -> tuple[FoundCode, ...]:
    """The colors of a file, each once, in the file's order; none when it holds no color.

    Raises RefusedFileError for a file that is no text, no deck, or broken.
    """
    if not data:
        raise RefusedFileError(name, "the file is empty.")
    if is_archive(name, data):
        return _once(_deck(name, data))
    if len(data) > LARGEST_TEXT_FILE:
        raise RefusedFileError(name, "a list of codes is at most 2 MB; paste the part that holds the codes.")
    text = _text(name, data)
    for fits, read in _READERS:
        if fits(name.lower(), text):
            return read(name, text)
    return find_codes(text)


def is_deck(name: str, data: bytes) -> bool:
    """Whether a zip is a slide deck, by its ending or its parts; its theme is read, not its pictures."""
    if name.lower().endswith(DECKS):
        return True
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            names = set(archive.namelist())
    except (zipfile.BadZipFile, ValueError, NotImplementedError):
        return False
    return "ppt/presentation.xml" in names or {"styles.xml", "content.xml"} <= names


def _text(name: str, data: bytes) -> str:
    for encoding in ("utf-8-sig", "utf-16"):
        if encoding == "utf-16" and not data.startswith((b"\xff\xfe", b"\xfe\xff")):
            continue
        try:
            text = data.decode(encoding)
        except UnicodeDecodeError:
            continue
        if "\0" not in text:
            return text
    if b"\0" in data:
        raise RefusedFileError(name, "this is no text; codes are read from text, CSV, JSON, PPTX and ODP files.")
    return data.decode("latin-1")


def _is_tokens(name: str, text: str) -> bool:
    return '"$value"' in text and text.lstrip().startswith("{")


def _tokens(name: str, text: str) -> tuple[FoundCode, ...]:
    try:
        tree = orjson.loads(text)
    except orjson.JSONDecodeError as error:
        raise RefusedFileError(name, f"the tokens are no JSON: {error}.") from error
    try:
        read = colors_of_tokens(tree)
    except UnreadableTokensError as error:
        raise RefusedFileError(name, str(error)) from error
    found: list[FoundCode] = []
    for path, one in read.colors.items():
        group, _, last = path.rpartition(".")
        words = group.rpartition(".")[2] if last == "base" and group else last
        found.append(_found(one.color, words, one.code, path, len(found) + 1))
    return _once(found)


def _is_table(name: str, text: str) -> bool:
    return name.endswith((".csv", ".tsv"))


def _table(name: str, text: str) -> tuple[FoundCode, ...]:
    text = text[:LONGEST_TEXT]
    first = next(iter(text.splitlines()), "")
    delimiter = max((",", ";", "\t", "|"), key=first.count)
    try:
        # Line ends of all kinds, a bare CR among them.
        rows = list(csv.reader(io.StringIO(text, newline=None), delimiter=delimiter))
    except csv.Error as error:
        raise RefusedFileError(name, f"the table cannot be read: {error}.") from error
    heads = [cell.strip().lower() for cell in rows[0]] if rows else []
    channels = next((c for c in _CHANNELS if all(letter in heads for letter in c)), None)
    code_at = next((heads.index(head) for head in _CODE_HEADS if head in heads), None)
    if channels is None and code_at is None:
        return find_codes(text)
    name_at = next((heads.index(head) for head in _NAME_HEADS if head in heads), None)
    step_at = next((heads.index(head) for head in _STEP_HEADS if head in heads), None)
    found = []
    for number, row in enumerate(rows[1:], 2):
        cells = [*row, *[""] * (len(heads) - len(row))]
        color = _row_color(cells, heads, channels, code_at)
        if color is not None:
            named = [cells[at].strip() for at in (name_at, step_at) if at is not None]
            words = " ".join(named) if name_at is not None else ""
            written = cells[code_at].strip() if code_at is not None else color.hex
            found.append(_found(color, words, written, delimiter.join(row), number))
    return _once(found)


_CHANNELS = (("r", "g", "b"), ("red", "green", "blue"), ("c", "m", "y", "k"))


def _row_color(cells: list[str], heads: list[str], channels: tuple[str, ...] | None, code_at: int | None) -> Rgb | None:
    if code_at is not None:
        text = cells[code_at].strip()
        color = try_written(text) or try_color(f"#{text}")
        if color is not None:
            return color.rgb
    if channels is None:
        return None
    values = [cells[heads.index(letter)].strip().removesuffix("%") for letter in channels]
    if not all(re.fullmatch(r"\d+(\.\d+)?", value) for value in values):
        return None
    made = try_color(f"cmyk({' '.join(values)})" if len(values) == 4 else f"rgb({' '.join(values)})")
    return made.rgb if made else None


_PALETTE_HEAD = re.compile(r"\w+ Palette\s*(?:\r\n|\r|\n)")
_PALETTE_LINE = re.compile(r"\s*(\d{1,3})\s+(\d{1,3})\s+(\d{1,3})(?:\s+(.*))?")


def _is_palette(name: str, text: str) -> bool:
    """A palette as free drawing programs share it: a line that says so, then red, green, blue and a name a line."""
    return bool(_PALETTE_HEAD.match(text)) or name.endswith(PALETTES)


def _palette(name: str, text: str) -> tuple[FoundCode, ...]:
    found = []
    for number, line in enumerate(text[:LONGEST_TEXT].splitlines(), 1):
        match = _PALETTE_LINE.fullmatch(line)
        if match is None:
            continue
        channels = [int(part) for part in match.groups()[:3]]
        if max(channels) > 255:
            raise RefusedFileError(name, f"line {number} has a channel above 255.")
        words = (match[4] or "").strip()
        found.append(_found(Rgb(*channels), "" if words.lower() == "untitled" else words, line.strip(), words, number))
    return _once(found)


_READERS: tuple[tuple[Callable[[str, str], bool], Callable[[str, str], tuple[FoundCode, ...]]], ...] = (
    (_is_tokens, _tokens),
    (_is_palette, _palette),
    (_is_table, _table),
)


def _deck(name: str, data: bytes) -> Iterator[FoundCode]:
    """The theme of a deck's first master."""
    parts = {path: part for path, part in members(name, data) if path.endswith(".xml")}
    themes = sorted(path for path in parts if re.fullmatch(r"ppt/theme/theme\d+\.xml", path))
    if themes:
        yield from _office_theme(themes[0], parts[themes[0]])
    elif "styles.xml" in parts and "content.xml" in parts:
        yield from _document_styles(parts["styles.xml"])
    else:
        raise RefusedFileError(name, "this is no deck; theme colors are read from PPTX and ODP files.")


def _office_theme(path: str, part: bytes) -> Iterator[FoundCode]:
    source = read_xml(path, part)
    scheme = next(iter(source.named("clrScheme")), None)
    if scheme is None:
        return
    for number, slot in enumerate(source.children(scheme), 1):
        for child in source.children(slot):
            written = child.attributes.get("val" if child.name == "srgbClr" else "lastClr", "")
            color = try_color(f"#{written}") if re.fullmatch(r"[0-9a-fA-F]{6}", written) else None
            if color is not None:
                words = _THEME_NAMES.get(slot.name, slot.name.replace("accent", "Theme accent "))
                yield _found(color.rgb, words, f"#{written}", f"{path}, {slot.name}", number)


def _document_styles(part: bytes) -> Iterator[FoundCode]:
    """The theme colors of an ODP, or, in a deck without any, the colors its master styles use."""
    elements = read_xml("styles.xml", part).elements
    themed = [_attribute(e, "color") + _attribute(e, "name") for e in elements if e.name == "color"]
    if any(len(entry) == 2 for entry in themed):
        for number, entry in enumerate((entry for entry in themed if len(entry) == 2), 1):
            color = try_color(entry[0])
            if color is not None:
                yield _found(color.rgb, f"Theme {_spaced(entry[1])}", entry[0], f"styles.xml, {entry[1]}", number)
        return
    number = 0
    for element in elements:
        for written in [*_attribute(element, "color"), *_attribute(element, "fill-color")]:
            color = try_color(written)
            if color is not None:
                number += 1
                yield _found(color.rgb, "", written, f"styles.xml, {element.name}", number)


def _attribute(element: Element, local: str) -> list[str]:
    return [value for key, value in element.attributes.items() if key.rpartition(" ")[2] == local]


def _spaced(word: str) -> str:
    return re.sub(r"(?<=[a-z])(?=[A-Z0-9])", " ", word).lower()


def _found(color: Rgb | Rgba, name: str, code: str, context: str, line: int) -> FoundCode:
    rgb = color.rgb if isinstance(color, Rgba) else color
    words = " ".join(re.split(r"[\s_-]+", name.strip()))
    words = shortened(words[:1].upper() + words[1:])
    return FoundCode(rgb, words, bool(words), code[:120], line, 1, context[:120], True, 1)


def _once(found: Iterator[FoundCode] | list[FoundCode]) -> tuple[FoundCode, ...]:
    """Each color once, with names that differ."""
    kept: dict[Rgb, FoundCode] = {}
    for code in found:
        known = kept.get(code.color)
        if known is not None:
            kept[code.color] = replace(known, places=known.places + 1)
        elif len(kept) < MOST_CODES:
            kept[code.color] = code
    return with_names(kept.values())
