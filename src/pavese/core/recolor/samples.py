"""Values that stand for code in pictures of a template, and branches of its conditions, so that it is seen as its
readers will."""

from __future__ import annotations

from typing import Annotated, ClassVar

from pydantic import Field

from pavese.core.recolor.act import Act

#: Values of one set, and the longest of them.
MOST, LONGEST = 60, 400


class Samples(Act):
    """What is shown in the place of code, by what the code says it puts there, and of what it asks the branch that is
    shown, by its words (all, where none is chosen); nothing of it is handed over."""

    key: ClassVar[str] = "samples"
    title: ClassVar[str] = "Sample values"
    words: ClassVar[str] = "what is shown in the place of code"
    offered: ClassVar[bool] = False

    values: dict[Annotated[str, Field(max_length=80)], Annotated[str, Field(max_length=LONGEST)]] = Field(
        default_factory=dict, max_length=MOST, title="Values"
    )

    branches: dict[Annotated[str, Field(max_length=80)], Annotated[str, Field(max_length=80)]] = Field(
        default_factory=dict, max_length=MOST, title="Branches"
    )

    @property
    def told(self) -> str:
        counted = ((len(self.values), "code", "s"), (len(self.branches), "branch", "es"))
        return "for " + " and ".join(f"{count} {word}{more * (count > 1)}" for count, word, more in counted if count)
