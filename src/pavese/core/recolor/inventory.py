"""What a file, or a whole set of files, is painted with."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Collection, Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from itertools import combinations
from typing import NamedTuple

from pavese.core.color.srgb import Rgb, Rgba
from pavese.core.recolor.charts import Chart
from pavese.core.recolor.measure import Measured
from pavese.core.recolor.natural import natural_in_set
from pavese.core.recolor.near import rows
from pavese.core.recolor.recoloring import Recoloring
from pavese.core.recolor.site import Kind, Site

#: Pairs of colors that are listed of one set.
_MOST_PAIRS = 1_000_000
#: How the selectors begin of sites that are places of a theme, or point to one, see `theme`.
THEME = "/theme."
_NO_OTHERS: Mapping[str, str] = {}
_ALONE: Mapping[str, Mapping[str, str]] = {}


@dataclass(frozen=True)
class Inventory:
    """The paints of one file with their number of sites by kind, and remarks on what cannot be recolored.

    `selectors` are the names by which some of a paint's sites can be told from others; `blends` are paints that follow
    each other in a gradient. `title` and `preview` are what the file calls itself and how it begins, where it tells;
    `slides` is how many it has, where it is a deck (of a template without any: its masters and layouts), and `charts`
    tell which of its colors stand beside each other. `pictures` are the paints of each picture inside of it. `around`
    are paints that it has none of, but is seen with: those of the mail that a template is put into.
    """

    sites: Mapping[Rgba, Mapping[Kind, int]]
    remarks: tuple[str, ...] = ()
    selectors: Mapping[Rgba, tuple[str, ...]] = field(default_factory=dict)
    blends: frozenset[tuple[Rgba, Rgba]] = frozenset()
    title: str = ""
    preview: str = ""
    slides: int = 0
    charts: tuple[Chart, ...] = ()
    pictures: tuple[tuple[Rgba, ...], ...] = ()
    around: tuple[Rgba, ...] = ()

    @property
    def paints(self) -> tuple[Rgba, ...]:
        """The paints in the order in which the file first names them."""
        return tuple(self.sites)

    def after(self, recoloring: Mapping[Rgba, Rgb] | Recoloring) -> Inventory:
        """The inventory that the recolored file will have; a paint that is split counts for each of its parts."""
        wanted = Recoloring.of(recoloring)
        counted: dict[Rgba, Counter[Kind]] = {}
        for paint, sites in self.sites.items():
            for result in wanted.results(paint):
                counted.setdefault(result, Counter()).update(sites)
        return Inventory(counted, self.remarks)

    @classmethod
    def merged(cls, parts: Iterable[Inventory]) -> Inventory:
        """The inventory of a file that is made of several."""
        counted: dict[Rgba, Counter[Kind]] = {}
        selectors: dict[Rgba, dict[str, None]] = {}
        remarks: dict[str, None] = {}
        blends: set[tuple[Rgba, Rgba]] = set()
        pictures: dict[tuple[Rgba, ...], None] = {}
        for part in parts:
            for paint, sites in part.sites.items():
                counted.setdefault(paint, Counter()).update(sites)
            for paint, named in part.selectors.items():
                selectors.setdefault(paint, {}).update(dict.fromkeys(named))
            remarks.update(dict.fromkeys(part.remarks))
            blends |= part.blends
            pictures.update(dict.fromkeys(part.pictures))
        return cls(
            counted,
            tuple(remarks),
            {paint: tuple(named) for paint, named in selectors.items()},
            frozenset(blends),
            pictures=tuple(pictures),
        )

    @classmethod
    def count(
        cls,
        sites: Iterable[Site | tuple[Rgba, Kind]],
        remarks: Iterable[str] = (),
        blends: Iterable[tuple[Rgba, Rgba]] = (),
    ) -> Inventory:
        """Counts single sites."""
        counted: dict[Rgba, Counter[Kind]] = {}
        selectors: dict[Rgba, dict[str, None]] = {}
        for paint, kind, *named in sites:
            counted.setdefault(paint, Counter())[kind] += 1
            for selector in named[0] if named else ():
                known = selectors.setdefault(paint, {})
                if len(known) < _MOST_SELECTORS or selector.startswith("/"):
                    known[selector] = None
        return cls(
            counted,
            tuple(dict.fromkeys(remarks)),
            {paint: tuple(named) for paint, named in selectors.items()},
            frozenset(blends),
        )


#: Names of elements that are listed for one paint of one file; its pages all are.
_MOST_SELECTORS = 24


def recolored(paint: Rgba, recoloring: Mapping[Rgba, Rgb] | Recoloring) -> Rgba:
    """What a paint becomes: the new color with the alpha it had."""
    color = recoloring.get(paint)
    return paint if color is None else Rgba(*color, paint.alpha)


@dataclass(frozen=True)
class PaintUse:
    """How much of a set one paint is: in how many files, at how many sites, of which kinds.

    `area` is the share of a picture it covers, summed over the files; 0 where nothing was measured.
    """

    paint: Rgba
    files: int
    sites: int
    kinds: tuple[Kind, ...]
    area: float = 0.0


class FilePaints(NamedTuple):
    """What is planned by of one file of a set, under its name there: its paints, which paints follow each other in a
    gradient, what was measured of it, and its charts. A picture inside of a file is planned by itself, under the same
    name."""

    name: str
    paints: tuple[Rgba, ...]
    measured: Measured = Measured()
    blends: frozenset[tuple[Rgba, Rgba]] = frozenset()
    charts: tuple[Chart, ...] = ()
    #: Whether its paints were measured on pixels, and are not written in it.
    on_pixels: bool = False
    #: Paints that it is only seen with, and the files that have them, by what it calls these.
    around: tuple[Rgba, ...] = ()
    others: Mapping[str, str] = _NO_OTHERS

    @property
    def seen(self) -> tuple[Rgba, ...]:
        """Its paints, and those that it is seen with."""
        return (*self.paints, *self.around)


class Drawing(NamedTuple):
    """The paints that some drawings of a set hold, and no others; these by the names of their files."""

    paints: tuple[Rgba, ...]
    names: tuple[str, ...]


@dataclass(frozen=True)
class SetPaints:
    """The paints of a set: in most files first, then at most sites, then by code.

    `touching` gives how long a border two paints share, as a share of all borders of a file, summed over the files
    (each pair once, in sorted order); `outline` how much of its border each paint has with the empty ground. `files`
    tells them file by file; where it tells nothing, all paints stand in one, see `by_file`. `theme` names the places of
    themes that paints stand in, or are made from, by the selectors of their sites.
    """

    uses: tuple[PaintUse, ...] = ()
    touching: Mapping[tuple[Rgba, Rgba], float] = field(default_factory=dict)
    outline: Mapping[Rgba, float] = field(default_factory=dict)
    blends: frozenset[tuple[Rgba, Rgba]] = frozenset()
    files: tuple[FilePaints, ...] = ()
    theme: Mapping[Rgba, tuple[str, ...]] = field(default_factory=dict)

    @cached_property
    def rows(self) -> Mapping[Rgb, Rgb]:
        """The colors of pictures that go with another, and with which (`near.rows`)."""
        mixed = any((color in self.natural) != (lead in self.natural) for color, lead in self._near.items())
        return self._rows(self.natural) if mixed else self._near

    @cached_property
    def _near(self) -> Mapping[Rgb, Rgb]:
        """Its rows where nothing is natural."""
        return self._rows(())

    def _rows(self, natural: Collection[Rgb]) -> Mapping[Rgb, Rgb]:
        files = [({paint.rgb for paint in file.paints}, file.on_pixels) for file in self.files]
        return rows(files, (use.paint.rgb for use in self.uses), natural)

    @cached_property
    def files_of_rows(self) -> Mapping[Rgb, int]:
        """In how many files each row stands, by the color that leads it."""
        names: dict[Rgb, set[str]] = {lead: set() for lead in self.rows.values()}
        for file in self.files:
            for paint in file.paints:
                lead = self.rows.get(paint.rgb, paint.rgb)
                if lead in names:
                    names[lead].add(file.name)
        return {lead: len(held) for lead, held in names.items()}

    @property
    def lettered(self) -> bool:
        """Whether it has grounds and texts that are told from each other, as mails and decks have."""
        found = {kind for use in self.uses for kind in use.kinds}
        return Kind.GROUND in found and not found.isdisjoint((Kind.TEXT, Kind.LINK))

    @cached_property
    def natural(self) -> dict[Rgb, str]:
        """The colors that are natural tones in more of the set than they are something else in, and what is in a row
        of which most are such: one face in eight sizes."""
        found = natural_in_set(self.by_file)
        in_rows: dict[Rgb, list[Rgb]] = {}
        for color, lead in self._near.items():
            in_rows.setdefault(lead, [lead]).append(color)
        for row in in_rows.values():
            name = next((found[color] for color in row if color in found), None)
            if name is not None and sum(1 if color in found else -1 for color in row) > 0:
                found |= dict.fromkeys(row, name)
        return found

    @cached_property
    def drawings(self) -> tuple[Drawing, ...]:
        """What drawings hold, each once: a set of thousands of icons has few that differ in it."""
        found: dict[frozenset[Rgba], tuple[tuple[Rgba, ...], list[str]]] = {}
        for file in self.by_file:
            found.setdefault(frozenset(file.paints), (file.paints, []))[1].append(file.name)
        return tuple(Drawing(paints, tuple(names)) for paints, names in found.values())

    @cached_property
    def together(self) -> frozenset[tuple[Rgb, Rgb]] | None:
        """Pairs of colors, in order, that some drawing holds both of; None where they are too many to be listed."""
        held = {tuple(sorted({paint.rgb for paint in drawing.paints})) for drawing in self.drawings}
        if sum(len(colors) ** 2 for colors in held) > _MOST_PAIRS:
            return None
        return frozenset(pair for colors in held for pair in combinations(colors, 2))

    @cached_property
    def pairs(self) -> int:
        """How many pairs of colors its drawings hold, each set of colors once."""
        held = {frozenset(paint.rgb for paint in drawing.paints) for drawing in self.drawings}
        return sum(len(colors) * (len(colors) - 1) // 2 for colors in held)

    @property
    def by_file(self) -> tuple[FilePaints, ...]:
        """The paints file by file."""
        if self.files:
            return self.files
        measured = Measured({use.paint: use.area for use in self.uses}, self.touching, self.outline)
        return (FilePaints("", tuple(use.paint for use in self.uses), measured, self.blends),)


def summarize(
    inventories: Iterable[Inventory],
    measured: Iterable[Measured] = (),
    names: Iterable[str] = (),
    on_pixels: Collection[str] = (),
    others: Mapping[str, Mapping[str, str]] = _ALONE,
) -> SetPaints:
    """The paints of a set, each once, with what was measured on its pictures, and file by file.

    Files without a name of their own are known by their number; `on_pixels` names those that are made of pixels,
    `others` tells of what is seen with others which these are, by what it calls them.
    """
    inventories, measured, names = list(inventories), list(measured), list(names)
    files: Counter[Rgba] = Counter()
    kinds: dict[Rgba, Counter[Kind]] = {}
    blends: set[tuple[Rgba, Rgba]] = set()
    for inventory in inventories:
        files.update(inventory.sites.keys())
        blends |= inventory.blends
        for paint, counts in inventory.sites.items():
            kinds.setdefault(paint, Counter()).update(counts)
    areas: defaultdict[Rgba, float] = defaultdict(float)
    touching: defaultdict[tuple[Rgba, Rgba], float] = defaultdict(float)
    outline: defaultdict[Rgba, float] = defaultdict(float)
    for one in measured:
        for paint, share in one.areas.items():
            areas[paint] += share
        for pair, share in one.touching.items():
            touching[pair] += share
        for paint, share in one.outline.items():
            outline[paint] += share
    uses = (
        PaintUse(
            paint,
            files[paint],
            counts.total(),
            tuple(kind for kind in Kind if counts[kind]),
            round(areas[paint], 6),
        )
        for paint, counts in kinds.items()
    )
    ordered = tuple(sorted(uses, key=lambda use: (-use.files, -use.sites, use.paint)))
    by_file = tuple(
        paints._replace(others=others.get(paints.name, paints.others))
        for at, inventory in enumerate(inventories)
        for paints in _of_file(
            names[at] if at < len(names) else str(at),
            inventory,
            measured[at] if at < len(measured) else Measured(),
            at < len(names) and names[at] in on_pixels,
        )
    )
    return SetPaints(
        ordered,
        dict(sorted(touching.items())),
        dict(sorted(outline.items())),
        frozenset(blends),
        by_file,
        _in_themes(inventories),
    )


def _of_file(name: str, inventory: Inventory, measured: Measured, on_pixels: bool) -> Iterator[FilePaints]:
    """A file as it is planned: what is written in it, with what its texts stand on, and each picture inside of it."""
    if not inventory.pictures:
        yield FilePaints(
            name, inventory.paints, measured, inventory.blends, inventory.charts, on_pixels, inventory.around
        )
        return
    in_pictures = [run for run in measured.texts if run.text.kind is Kind.PICTURE]
    texts = tuple(run for run in measured.texts if run.text.kind is not Kind.PICTURE)
    below = {run.ground for run in texts}
    written = tuple(paint for paint, sites in inventory.sites.items() if set(sites) != {Kind.PICTURE} or paint in below)
    seen, blends = measured.among(written, texts), _among(inventory.blends, written)
    yield FilePaints(name, written, seen, blends, inventory.charts, around=inventory.around)
    for paints in inventory.pictures:
        runs = tuple(run for run in in_pictures if run.text.ink in paints and run.ground in paints)
        yield FilePaints(name, paints, measured.among(paints, runs), _among(inventory.blends, paints), (), True)


def _among(pairs: Iterable[tuple[Rgba, Rgba]], paints: Collection[Rgba]) -> frozenset[tuple[Rgba, Rgba]]:
    known = set(paints)
    return frozenset(pair for pair in pairs if known.issuperset(pair))


def _in_themes(inventories: Iterable[Inventory]) -> dict[Rgba, tuple[str, ...]]:
    """The places of themes that paints stand in, those that hold them before those that they are made from, and those
    of all themes before those of one (`~` and its key behind them)."""
    found: dict[Rgba, dict[str, None]] = {}
    for inventory in inventories:
        for paint, selectors in inventory.selectors.items():
            named = [one for one in selectors if one.startswith(THEME)]
            if named:
                found.setdefault(paint, {}).update(dict.fromkeys(named))
    return {
        paint: tuple(sorted(named, key=lambda one: ("~" in one, "+" in one))) for paint, named in sorted(found.items())
    }
