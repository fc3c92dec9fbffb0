"""How the fields of a kit are told: beside each field stands what a record and a comparison say of it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import BaseModel


@dataclass(frozen=True)
class Told:
    """Beside a field of `Kit` or `KitColor`: its `name` in the record of changes; the sentence that says that it
    `differs` between two editions ("" where the comparison tells it in a way of its own); and, for a list, what its
    entries (as in JSON) are known `by`, so that each is a place of its own."""

    name: str
    differs: str = ""
    by: Callable[[Mapping[str, Any]], str] | None = None


def told(model: type[BaseModel]) -> dict[str, Told]:
    """What is told of each field. Raises TypeError for a field of which nothing is: it would change unseen."""
    found = {}
    for name, field in model.model_fields.items():
        said = next((one for one in field.metadata if isinstance(one, Told)), None)
        if said is None:
            raise TypeError(f"nothing is told of {model.__name__}.{name}; give it a Told")
        found[name] = said
    return found
