"""The bounds within which files are read; a file beyond one of them is refused before it can do harm."""

from __future__ import annotations

MEGABYTE = 1024 * 1024

#: Largest single file, unpacked. Illustrations with embedded pictures reach a few megabytes.
FILE_BYTES = 12 * MEGABYTE
#: Deepest nesting of elements; the deepest real drawing seen has about 60.
DEPTH = 256
#: Most elements in one drawing.
ELEMENTS = 200_000

#: Most files taken from one archive, and the largest they may be together, unpacked.
ARCHIVE_FILES = 2_000
ARCHIVE_BYTES = 200 * MEGABYTE
#: Largest ratio of unpacked to packed bytes of one member; drawings compress about tenfold.
ARCHIVE_RATIO = 200
