"""A kit as plain text that can be pasted into an e-mail."""

from __future__ import annotations

from pavese.core.handoff.published import CodeKind, Part, Published, SheetWishes, approved_pairs, code
from pavese.core.handoff.words import WORDS, day_words, edition_words, role_word, rule_words, use_word


def kit_mail(published: Published, choice: SheetWishes) -> bytes:
    """Headings in capitals, one color a line, the approved pairs, the rules."""
    words, kit = WORDS[choice.language], published.kit
    day = day_words(published.day, choice.language)
    lines = [f"{kit.name}, {edition_words(published.number, choice.language)}, {day}"]
    if published.note:
        lines.append(published.note)
    if Part.COLORS in choice.parts:
        lines += ["", words["colors"].upper()]
        longest = max((len(color.name) for color in kit.colors), default=0)
        for color in kit.colors:
            codes = "  ".join(code(color.base, kind) for kind in choice.codes)
            lines.append(f"{color.name:<{longest}}  {codes}  ({role_word(color.role, choice.language)})")
        if CodeKind.CMYK in choice.codes:
            lines.append(words["cmyk"])
    if Part.PAIRS in choice.parts:
        lines += ["", words["pairs"].upper()]
        approved = approved_pairs(kit)
        for pair in approved:
            use = use_word(pair.use, choice.language)
            lines.append(f"{pair.text} / {pair.ground}  {pair.ratio}:1  {use}")
        if not approved:
            lines.append(words["no pairs"])
    if Part.RULES in choice.parts:
        lines += ["", words["rules"].upper(), *(f"- {rule}" for rule in rule_words(kit.rules, choice.language))]
    return "\r\n".join([*lines, ""]).encode()
