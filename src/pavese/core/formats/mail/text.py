"""The text of a mail with the way back to its bytes: all that is no color stays what it was, whatever it means."""

from __future__ import annotations

import array
import codecs
import re
import sys
from collections.abc import Iterable, Iterator

from pavese.core.errors import RefusedFileError
from pavese.core.formats.edits import Edit, splice

_CHARSET = re.compile(rb"""charset\s*=\s*["']?\s*([\w-]+)""", re.IGNORECASE)
_PLAIN = bytes(range(32, 127))
#: What a page says of its encoding stands at its beginning (HTML, 4.2.5.5).
_HEAD = 4096
_WIDE = {b"\xff\xfe": "utf-16-le", b"\xfe\xff": "utf-16-be"}


class MailText:
    """`text` has one character for each byte, or for each two of a file in UTF-16; what they mean tells `meant`."""

    def __init__(self, name: str, data: bytes, charset: str | None = None) -> None:
        """`charset` is what was said of it outside. Raises RefusedFileError for what is no text."""
        self.data = data
        wide = _WIDE.get(data[:2])
        if wide is not None:
            if len(data) % 2:
                raise RefusedFileError(name, "it is no text: it ends in the middle of a character.")
            units = array.array("H", data)
            if (sys.byteorder == "little") != (wide == "utf-16-le"):
                units.byteswap()
            self.text = "".join(map(chr, units))
        else:
            self.text = data.decode("latin-1")
        at = self.text.find("\0")
        if at >= 0:
            raise RefusedFileError(name, f"it is no text: there is a zero at character {at + 1:,}.")
        self._size = 2 if wide else 1
        self.charset = wide or _known(charset) or _charset(data)

    @property
    def wide(self) -> bool:
        """Whether its characters are of two bytes."""
        return self._size > 1

    def edited(self, edits: Iterable[tuple[int, int, str]]) -> bytes:
        """The bytes with the text from one character to another in the place of what stood there."""
        return splice(self.data, self.of_bytes(edits))

    def of_bytes(self, edits: Iterable[tuple[int, int, str]]) -> Iterator[Edit]:
        """Edits of the text as edits of its bytes."""
        coded = "latin-1" if self._size == 1 else self.charset
        for start, end, new in edits:
            yield Edit(start * self._size, end * self._size, new.encode(coded, "xmlcharrefreplace"))

    def coded(self, text: str) -> bytes:
        """The bytes of a part of the text."""
        return text.encode("latin-1") if self._size == 1 else text.encode(self.charset, "surrogatepass")

    def meant(self, data: bytes) -> str:
        """What such bytes mean to a reader."""
        return data.decode(self.charset, "replace").removeprefix("\ufeff")


def _charset(data: bytes) -> str:
    """The encoding that a text says, as browsers take it (Encoding, 4.2); else UTF-8 where it is that."""
    if data.startswith(codecs.BOM_UTF8):
        return "utf-8"
    said = _CHARSET.search(data[:_HEAD])
    if said is not None and (found := _known(said[1].decode())):
        return found
    try:
        data.decode()
    except UnicodeDecodeError:
        return "cp1252"
    return "utf-8"


def _known(said: str | None) -> str | None:
    """The encoding of that name, None for one that is not known, or that cannot be so: in what is read byte by byte,
    letters without accents are those of ASCII, whatever is said. Latin-1 means Windows-1252."""
    try:
        found = codecs.lookup(said or "").name
        if "escape" in found or _PLAIN.decode(found, "replace") != _PLAIN.decode("ascii"):
            return None
    except (LookupError, ValueError):
        return None
    return {"iso8859-1": "cp1252", "ascii": "cp1252"}.get(found, found)
