"""What decks of slides have in common, whatever their packages are."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace

from pavese.core.recolor.inventory import Inventory

#: Slides that are drawn together: the first of them is seen soon, and the others are there then.
TOGETHER = 6
#: Slides that are measured.
MEASURED = 100
LONGEST_TITLE = 80


def together(page: int | None, count: int) -> tuple[range, int]:
    """The slides that are drawn with one (None: the first), of so many; and which of them it is."""
    at = min(page or 0, max(count - 1, 0))
    first = at // TOGETHER * TOGETHER
    return range(first, first + TOGETHER), at - first


def numbered(number: int, title: str, *, hidden: bool) -> str:
    """What a slide is called."""
    return f"{number}. {title}".strip(". ") + (" (hidden)" if hidden else "")


def titled(found: Inventory, titles: Sequence[str], pages: int = 0) -> Inventory:
    """The inventory of a deck with what it calls itself: the title of its first slide, then those of some others; of
    one without slides, how many pages it has."""
    preview = "; ".join(filter(None, titles[1:6]))
    return replace(found, title=next(filter(None, titles), ""), preview=preview, slides=len(titles) or pages)


def _ending(*endings: str) -> Callable[[Sequence[str]], bool]:
    return lambda paths: any(path.endswith(endings) for path in paths)


def _holding(*words: str) -> Callable[[Sequence[str]], bool]:
    return lambda paths: any(word in path for path in paths for word in words)


#: What there is to say of a deck, by whether it is in it (by the paths of its package, in small letters).
REMARKS: Mapping[str, Callable[[Sequence[str]], bool]] = {
    "It is signed; a changed deck is no longer signed by whoever did.": _holding(
        "_xmlsignatures/", "documentsignatures"
    ),
    "It holds program code, which stays as it is.": lambda paths: any(
        path.endswith("vbaproject.bin") or path.startswith(("basic/", "scripts/")) for path in paths
    ),
    "It holds pictures of kinds that are not opened in decks, which keep their colors.": _ending(
        ".bmp", ".tif", ".tiff", ".webp", ".wdp"
    ),
    "It holds drawings as metafiles, which keep their colors.": _ending(".emf", ".wmf", ".emz", ".wmz", ".svm"),
    "It holds films or sounds, which stay as they are.": _ending(
        ".mp4", ".mov", ".wmv", ".avi", ".mp3", ".wav", ".m4a"
    ),
    "It holds tables or documents of other programs, which stay as they are.": _holding("/embeddings/"),
    "It holds charts; series without colors of their own follow the theme.": _holding("/charts/chart"),
}
