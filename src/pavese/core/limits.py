"""The bounds within which files are read; a file beyond one of them is refused before it can do harm."""

from __future__ import annotations

MEGABYTE = 1024 * 1024

#: Largest single file, unpacked. Illustrations with embedded pictures reach a few megabytes.
FILE_BYTES = 12 * MEGABYTE
#: The largest file that any format takes, packed or not.
LARGEST_FILE = 64 * MEGABYTE
#: Deepest nesting of elements; the deepest real drawing seen has about 60.
DEPTH = 256
#: Most elements in one drawing; the largest maps and cities seen have about 40,000.
ELEMENTS = 100_000
#: Deepest nesting of elements in a mail; browsers stop at 512 (HTML leaves it open), the deepest real one seen has 60.
ELEMENT_DEPTH = 512
#: Most distinct paints of one file, and of a set: a plan for so many ends in seconds.
PAINTS = 3_000
SET_PAINTS = 12_000

#: The longest that the styles of one mail may be together; those of large ones are 60 kB.
STYLE_BYTES = 2 * MEGABYTE
#: Most texts of one file that are looked at one by one.
TEXTS = 200
#: Deepest nesting of brackets and blocks in a style; sheets by hand have about 6.
CSS_DEPTH = 32
#: Most steps (`a > b c` has three) of one selector.
SELECTOR_STEPS = 64
#: Most pairs of a selector and an element that are matched, where selectors look beyond one element.
SELECTOR_MATCHES = 5_000_000

#: Entities that a drawing may declare (drawing programs write about 20, each an address), the longest text of one, and
#: how much longer the file may get by them.
ENTITIES = 200
ENTITY_LENGTH = 1_000
ENTITY_GROWTH = 2 * MEGABYTE
#: Most members of a compressed file; programs write one.
GZIP_MEMBERS = 16

#: Most files of a set.
SET_FILES = 10_000
#: Most files taken from one archive, the largest they may be together, unpacked, and the largest archive.
ARCHIVE_FILES = 10_000
ARCHIVE_BYTES = 1024 * MEGABYTE
PACKED_BYTES = 512 * MEGABYTE
#: The largest that the parts of one file may be together, which is a package of them, such as a dotLottie or a page.
PACKAGE_BYTES = 64 * MEGABYTE
#: The largest that the files may be together which belong to one other, such as the pictures of a mail.
BESIDE_BYTES = 24 * MEGABYTE
#: The largest deck, and the largest it may be unpacked, its films and pictures included.
DECK_PACKED_BYTES = 200 * MEGABYTE
DECK_BYTES = 512 * MEGABYTE
#: Largest ratio of unpacked to packed bytes of one member; drawings compress about tenfold.
ARCHIVE_RATIO = 200
#: Most pixels of a picture that is taken apart as a whole, or of its frames added up: one that is shaded all over takes
#: some ninety bytes a pixel. And those of one that is recolored at all, a few rows at a time.
PICTURE_PIXELS, LARGE_PICTURE_PIXELS = 24_000_000, 100_000_000
