"""The words of sheets, cards and mails in each language; what people wrote themselves is never translated."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date

from pavese.core.handoff.published import Language
from pavese.core.kit.role import Role
from pavese.core.kit.rules import Rules, Use

_EN = {
    "edition": "Edition", "draft": "Draft, not published", "of": "of",
    "colors": "Colors", "ramps": "Ramps",
    "pairs": "Approved pairs", "trios": "Approved trios", "rules": "Rules",
    "in use": "In use", "proportions": "Proportion",
    "see-through": "See-through equals", "over": "over", "states": "States of controls", "logo": "Logo",
    "sources": "Sources and rights", "type": "Typefaces", "headline": "Headlines", "text": "Text",
    "no pairs": "No pair is approved in this edition.", "no rights": "no rights stated",
    "cmyk": "CMYK is naive: computed without a profile, a hint for the printer and no more.",
    "clear": "Clear space: {} % of the logo's height.", "stand-in": "shown in {}",
    "missing": "? stands for characters the sheet's typefaces do not have; the tokens hold the names in full.",
    "body any": "Body text may be set in any color.", "body": "Body text is set only in: {}.",
    "action": "The action color is for the main action only.", "action any": "The action color may be used anywhere.",
    "areas": "Large areas are filled from: {}.", "areas any": "Large areas may take any color.",
    "accents": "Accents cover at most {} % of an area.",
    "contrast": "Contrast at least: body text {}, large text {}, graphics {} to 1.",
    "near": "A color closer than {} (CIEDE2000) counts as ours, one closer than {} as a drift.",
}  # fmt: skip
_DE = {
    "edition": "Ausgabe", "draft": "Entwurf, nicht herausgegeben", "of": "vom",
    "colors": "Farben", "ramps": "Farbreihen",
    "pairs": "Freigegebene Paare", "trios": "Freigegebene Dreier", "rules": "Regeln",
    "in use": "Im Gebrauch", "proportions": "Anteile",
    "see-through": "Durchsichtige Entsprechungen", "over": "über", "states": "Zustände von Bedienelementen",
    "logo": "Logo", "sources": "Quellen und Rechte", "type": "Schriften", "headline": "Überschriften", "text": "Text",
    "no pairs": "In dieser Ausgabe ist kein Paar freigegeben.", "no rights": "keine Rechte angegeben",
    "cmyk": "CMYK ist ohne Profil gerechnet: ein Anhalt für die Druckerei, mehr nicht.",
    "clear": "Schutzraum: {} % der Logohöhe.", "stand-in": "gezeigt in {}",
    "missing": "? steht für Zeichen, die den Schriften des Blattes fehlen; die Tokens enthalten die vollen Namen.",
    "body any": "Fließtext darf in jeder Farbe stehen.", "body": "Fließtext steht nur in: {}.",
    "action": "Die Aktionsfarbe ist nur für die wichtigste Aktion.",
    "action any": "Die Aktionsfarbe darf überall stehen.",
    "areas": "Große Flächen werden gefüllt mit: {}.", "areas any": "Große Flächen dürfen jede Farbe haben.",
    "accents": "Akzente bedecken höchstens {} % einer Fläche.",
    "contrast": "Kontrast mindestens: Fließtext {}, großer Text {}, Grafik {} zu 1.",
    "near": "Eine Farbe näher als {} (CIEDE2000) gilt als unsere, näher als {} als abgewichen.",
}  # fmt: skip
_FR = {
    "edition": "Édition", "draft": "Brouillon, non publié", "of": "du",
    "colors": "Couleurs", "ramps": "Gammes",
    "pairs": "Paires approuvées", "trios": "Trios approuvés", "rules": "Règles",
    "in use": "À l’usage", "proportions": "Proportions",
    "see-through": "Équivalents transparents", "over": "sur", "states": "États des commandes", "logo": "Logo",
    "sources": "Sources et droits", "type": "Caractères", "headline": "Titres", "text": "Texte",
    "no pairs": "Aucune paire n’est approuvée dans cette édition.", "no rights": "droits non précisés",
    "cmyk": "Le CMJN est calculé sans profil : une indication pour l’imprimeur, rien de plus.",
    "clear": "Zone libre : {} % de la hauteur du logo.", "stand-in": "montré en {}",
    "missing": "? remplace les signes absents des caractères de cette feuille ; les jetons gardent les noms entiers.",
    "body any": "Le texte courant peut prendre toute couleur.", "body": "Le texte courant n’emploie que : {}.",
    "action": "La couleur d’action est réservée à l’action principale.",
    "action any": "La couleur d’action peut servir partout.",
    "areas": "Les grandes surfaces sont remplies avec : {}.",
    "areas any": "Les grandes surfaces peuvent prendre toute couleur.",
    "accents": "Les accents couvrent au plus {} % d’une surface.",
    "contrast": "Contraste minimal : texte courant {}, grand texte {}, graphismes {} pour 1.",
    "near": "Une couleur à moins de {} (CIEDE2000) est la nôtre, à moins de {} une dérive.",
}  # fmt: skip
WORDS: Mapping[Language, Mapping[str, str]] = {Language.EN: _EN, Language.DE: _DE, Language.FR: _FR}

ROLES: Mapping[Language, tuple[str, ...]] = {
    Language.EN: tuple(role.value for role in Role),
    Language.DE: ("Hauptfarbe", "Zweitfarbe", "Aktion", "Akzent", "Grund", "neutral", "heller Text", "dunkler Text"),
    Language.FR: ("principale", "secondaire", "action", "accent", "fond", "neutre", "texte clair", "texte foncé"),
}
USES: Mapping[Language, tuple[str, ...]] = {
    Language.EN: tuple(use.value for use in Use),
    Language.DE: ("Fließtext", "großer Text", "Grafik", "Schmuck"),
    Language.FR: ("texte courant", "grand texte", "graphismes", "décor"),
}
_MONTHS: Mapping[Language, str] = {
    Language.EN: "January February March April May June July August September October November December",
    Language.DE: "Januar Februar März April Mai Juni Juli August September Oktober November Dezember",
    Language.FR: "janvier février mars avril mai juin juillet août septembre octobre novembre décembre",
}


def edition_words(number: int, language: Language) -> str:
    """`Edition 3`, or that it is a draft (number 0)."""
    words = WORDS[language]
    return f"{words['edition']} {number}" if number else words["draft"]


def role_word(role: Role, language: Language) -> str:
    """A role in a language."""
    return ROLES[language][list(Role).index(role)]


def use_word(use: Use, language: Language) -> str:
    """A use in a language."""
    return USES[language][list(Use).index(use)]


def day_words(day: date, language: Language) -> str:
    """A date in words: `25 November 2026`, `25. November 2026`, `25 novembre 2026`."""
    month = _MONTHS[language].split()[day.month - 1]
    return f"{day.day}{'.' if language is Language.DE else ''} {month} {day.year}"


def rule_words(rules: Rules, language: Language) -> tuple[str, ...]:
    """One sentence a rule; numbers as the language writes them."""
    words = WORDS[language]

    def number(value: float) -> str:
        text = f"{value:g}"
        return text if language is Language.EN else text.replace(".", ",")

    def named(roles: tuple[Role, ...]) -> str:
        return ", ".join(role_word(role, language) for role in roles)

    return (
        words["body"].format(named(rules.body_text)) if rules.body_text else words["body any"],
        words["action"] if rules.action_only else words["action any"],
        words["areas"].format(named(rules.large_areas)) if rules.large_areas else words["areas any"],
        words["accents"].format(rules.accent_share),
        words["contrast"].format(*map(number, (rules.least_body, rules.least_large, rules.least_graphics))),
        words["near"].format(number(rules.same), number(rules.near)),
    )
