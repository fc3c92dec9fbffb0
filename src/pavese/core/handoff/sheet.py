"""The sheet of an edition: what stands on it, as data, for a fixed template that lays it out as a press proof."""

from __future__ import annotations

import json
from collections.abc import Callable, Container, Mapping
from importlib.resources import files
from typing import Any

from pavese.core.color.contrast import readable_ink, shown
from pavese.core.color.ramp import STEPS, Ramp
from pavese.core.formats.svg import read_svg
from pavese.core.formats.svg.raster import svg_of_png
from pavese.core.handoff.published import CodeKind, Language, Part, Published, SheetWishes, approved_pairs, code
from pavese.core.handoff.words import WORDS, day_words, edition_words, role_word, rule_words, use_word
from pavese.core.kit.controls import controls
from pavese.core.kit.decisions import Status
from pavese.core.kit.kit import Kit
from pavese.core.kit.logo import CORNERS, LogoPicture
from pavese.core.kit.logo_on_grounds import logo_on_grounds
from pavese.core.kit.proportions import inks_of, layouts, slots, usual_colors
from pavese.core.kit.see_through_steps import base_of, equals
from pavese.core.kit.token import parse_token
from pavese.core.kit.typefaces import stand_in

#: The pages' file among those a sheet is made of.
MAIN = "main"
#: Stands for a letter that no shipped typeface has.
_MISSING = "?"
_TEMPLATE = "sheet.typ"


def sheet_files(published: Published, choice: SheetWishes, letters: Container[int]) -> dict[str, bytes]:
    """The files a sheet is set from: the pages' template as MAIN, `data.json`, and the logo's pictures.

    `letters` are the code points that the sheet's typefaces have; any other is shown as `?`, and the sheet says so.
    """
    pictures: dict[str, bytes] = {}
    data = _sheet(published, choice, pictures)
    template = files(__package__).joinpath(_TEMPLATE).read_bytes()
    text = json.dumps(data, ensure_ascii=False)
    legible = "".join(letter if ord(letter) in letters else _MISSING for letter in text)
    if legible != text:
        legible = legible.replace('"missing": false', '"missing": true', 1)
    return {MAIN: template, "data.json": legible.encode(), **pictures}


def _sheet(published: Published, choice: SheetWishes, pictures: dict[str, bytes]) -> dict[str, Any]:
    words = WORDS[choice.language]
    day = day_words(published.day, choice.language)
    edition = edition_words(published.number, choice.language)
    parts: dict[Part, Callable[[], Any]] = {
        Part.COLORS: lambda: _colors(published.kit, choice),
        Part.RAMPS: lambda: _ramps(published.kit),
        Part.PAIRS: lambda: _pairs(published.kit, choice),
        Part.TRIOS: lambda: _trios(published.kit),
        Part.RULES: lambda: rule_words(published.kit.rules, choice.language),
        Part.PROPORTIONS: lambda: _proportions(published.kit),
        Part.SEE_THROUGH: lambda: _see_through(published.kit, words),
        Part.STATES: lambda: _states(published.kit),
        Part.LOGO: lambda: _logo(published, choice, pictures),
        Part.SOURCES: lambda: _sources(published, words),
    }
    return {
        "missing": False,
        "title": f"{published.kit.name}, {edition}",
        "name": published.kit.name,
        "edition": edition,
        "date": f"{words['of']} {day}" if choice.language is not Language.EN else day,
        "day": [published.day.year, published.day.month, published.day.day],
        "note": published.note,
        "digest": published.digest[:12],
        "language": choice.language.value,
        "words": dict(words),
        "samples": published.kit.samples.of(published.kit.name).model_dump(),
        "naive": CodeKind.CMYK in choice.codes,
        "strip": [color.base.hex for color in published.kit.colors][:60],
        "parts": {part.value: make() for part, make in parts.items() if part in choice.parts},
    }


def _colors(kit: Kit, choice: SheetWishes) -> list[dict[str, Any]]:
    return [
        {
            "name": color.name,
            "role": role_word(color.role, choice.language),
            "hex": color.base.hex,
            "ink": readable_ink(color.base).hex,
            "step": color.ramp.base_step,
            "codes": [code(color.base, kind) for kind in choice.codes],
            "note": color.note,
        }
        for color in kit.colors
    ]


def _ramps(kit: Kit) -> dict[str, Any]:
    return {
        "steps": list(STEPS),
        "rows": [{"name": color.name, "cells": _cells(color.ramp)} for color in kit.colors],
    }


def _cells(ramp: Ramp) -> list[dict[str, str]]:
    marks = dict.fromkeys(ramp.pinned, "pinned") | {ramp.base_step: "base"}
    return [
        {"hex": color.hex, "ink": readable_ink(color).hex, "mark": marks.get(step, "")}
        for step, color in zip(STEPS, ramp.colors, strict=True)
    ]


def _pairs(kit: Kit, choice: SheetWishes) -> list[dict[str, Any]]:
    return [
        {
            "text": pair.text,
            "ground": pair.ground,
            "ink": pair.ink.hex,
            "fill": pair.fill.hex,
            "ratio": pair.ratio,
            "use": use_word(pair.use, choice.language),
            "note": pair.note,
        }
        for pair in approved_pairs(kit)
    ]


def _trios(kit: Kit) -> list[dict[str, Any]]:
    return [
        {
            "names": [kit.title(parse_token(token)) for token in trio.three],
            "colors": [kit.resolve(parse_token(token)).hex for token in trio.three],
        }
        for trio in kit.trios
        if trio.status is Status.APPROVED
    ]


def _proportions(kit: Kit) -> dict[str, Any]:
    found = slots(usual_colors(kit), inks_of(kit))
    return {
        "slots": [{"hex": slot.color.hex, "ink": slot.ink.hex, "share": round(slot.share)} for slot in found],
        "layouts": [
            {
                "height": layout.height,
                "boxes": [[box.slot, box.x, box.y, box.width, box.height] for box in layout.boxes],
                "lines": [list(line) for line in layout.lines],
            }
            for layout in layouts(kit.samples.of(kit.name))
        ],
    }


def _see_through(kit: Kit, words: Mapping[str, str]) -> list[dict[str, Any]]:
    found = []
    for setting in kit.see_through:
        base = setting.base if setting.plain else kit.title(parse_token(setting.base))
        found.append(
            {
                "title": f"{kit.color(setting.of).name} {words['over']} {base}",
                "base": base_of(kit, setting).hex,
                "steps": [
                    {
                        "step": one.step,
                        "solid": one.solid.hex,
                        "fill": [one.through.color.hex, one.through.alpha],
                        "code": one.through.hex,
                    }
                    for one in equals(kit, setting)
                ],
            }
        )
    return found


def _states(kit: Kit) -> list[dict[str, Any]]:
    return [
        {
            "name": kit.color(control.color).name,
            "looks": [
                {
                    "state": look.state.value,
                    "fill": look.fill_color.hex,
                    "ink": look.ink.hex,
                    "ring": look.ring.hex if look.ring else None,
                    "token": kit.title(look.fill),
                    "ratio": shown(look.ratio),
                }
                for look in control.looks
            ],
        }
        for control in controls(kit)
    ]


def _logo(published: Published, choice: SheetWishes, pictures: dict[str, bytes]) -> dict[str, Any]:
    kit = published.kit
    words = WORDS[choice.language]
    shown_on = []
    for found in logo_on_grounds(kit):
        file = f"{found.picture.key[:16]}.svg"
        if file not in pictures:
            pictures[file] = _harmless(found.picture, published.picture(found.picture.key))
        shown_on.append(
            {
                "ground": kit.color(found.ground).base.hex,
                "name": kit.color(found.ground).name,
                "behind": found.behind.hex if kit.logo.backing else None,
                "file": file,
                "shape": round(found.picture.width / max(found.picture.height, 1), 4),
                "ratio": shown(found.ratio),
            }
        )
    faces = (("headline", kit.type.headline), ("text", kit.type.text))
    return {
        "grounds": shown_on,
        "clear": words["clear"].format(kit.logo.clear_space) if shown_on else "",
        "round": CORNERS[kit.logo.backing.shape] if kit.logo.backing else 0,
        "padding": kit.logo.backing.padding if kit.logo.backing else 0,
        "faces": [
            {
                "use": words[use],
                "name": face.wanted,
                "face": face.face,
                "why": "" if face.same else words["stand-in"].format(face.face),
            }
            for use, name in faces
            if (face := stand_in(name, kit.type.own)) is not None
        ],
    }


def _harmless(picture: LogoPicture, data: bytes) -> bytes:
    """A drawing with everything taken out that an engine would fetch or run; other pictures inside of one, since that
    is what the engine places."""
    return (
        read_svg(picture.name, data).preview({}).content if picture.media_type == "image/svg+xml" else svg_of_png(data)
    )


def _sources(published: Published, words: Mapping[str, str]) -> list[str]:
    lines = []
    for source in published.content.sources:
        for picture in source.pictures:
            rights = picture.rights.strip() or words["no rights"]
            said = [picture.name, picture.author.strip(), picture.origin.strip(), rights]
            lines.append(f"{source.name}: {', '.join(part for part in said if part)}")
        if not source.pictures:
            lines.append(source.name)
    return lines
