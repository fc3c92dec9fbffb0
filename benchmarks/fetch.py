"""Brings the corpus: real files from general asset packages of the registry, by pinned name and version.

They are kept in the data folder and never committed. Run it once, with a registry within reach; without the corpus
the figures over it are left out, and said to be.
"""

from __future__ import annotations

import subprocess
import sys
import tarfile
from pathlib import Path

from pavese.settings import settings

#: Package and what it brings: flat sets of many colors, single-color sets, gradients and filters, animations.
PACKAGES = (
    "@twemoji/svg@15.0.0",
    "bootstrap-icons@1.13.2",
    "@carbon/pictograms@12.82.0",
    "flag-icons@7.5.0",
    "fluentui-emoji@1.3.0",
    "lottie-web@5.13.0",
    "react-useanimations@2.10.0",
)


def corpus_dir() -> Path:
    """Where the corpus is kept."""
    return settings().data_dir / "corpus"


def fetch() -> int:
    """Brings what is not there yet; gives how many packages could not be had."""
    missing = 0
    for package in PACKAGES:
        target = corpus_dir() / package.replace("/", "-").lstrip("@")
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
        with tarfile.open(archive) as packed:
            packed.extractall(target, filter="data")
        archive.unlink()
        print(package)
    return missing


if __name__ == "__main__":
    sys.exit(1 if fetch() else 0)
